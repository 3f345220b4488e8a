//! One variant is computed for all that no check can tell apart; the report must be the one that all would give.

use crate::memory::{Memory, messages};
use stilk_core::check::{Report, Settings, run};
use stilk_core::stylesheet::{Purpose, write};

fn report(memory: &Memory, every_case: bool) -> Report {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    run(system, &project.sources, &written, &Settings { threads: 2, today: None, every_case, ..Settings::default() })
}

/// The checks that these tests are about.
fn two(sheet: &str) -> Memory {
    Memory::with_sheet(sheet).only(&["contrast/text", "state/missing"])
}

#[track_caller]
fn same(memory: &Memory) -> Report {
    let (few, all) = (report(memory, false), report(memory, true));
    assert_eq!((few.cases, few.unknown), (all.cases, all.unknown));
    assert_eq!((&few.reasons, &few.decided), (&all.reasons, &all.decided));
    let text = |report: &Report| report.findings.iter().map(|f| format!("{f:?}")).collect::<Vec<_>>();
    assert_eq!(text(&few), text(&all));
    assert_eq!(all.computed, all.cases);
    few
}

#[test]
fn an_axis_that_paints_nothing_is_computed_once() {
    let sheet = "@control x {
        --round: 0px; border-radius: var(--round); color: {b}; background-color: {paper};
        @state hover { color: {a}; } @state focus { outline: 1px solid; } @state active { top: 1px; } @state disabled { opacity: .5; }
        @axis shape { square { } round { --round: 4px; } rounder { --round: 9px; } }
    }";
    let few = same(&two(sheet));
    assert!(few.computed * 3 <= few.cases, "{} of {}", few.computed, few.cases);
}

#[test]
fn of_hosts_that_give_the_same_values_one_is_computed() {
    let sheet = |rule: &str| {
        format!(
            "@control x {{ color: {{a}}; background-color: {{paper}}; font: 16px serif; display: inline-flex; {rule}
               @state hover {{ color: {{b}}; }} @state focus {{ outline: 1px solid; }} @state active {{ color: {{b}}; }}
               @state disabled {{ opacity: .5; }} }}"
        )
    };
    let computed = |rule: &str| {
        let few = same(&Memory::with_sheet(&sheet(rule)).only(&["contrast/text"]));
        (few.computed, few.cases)
    };
    let (alike, cases) = computed("");
    assert!(alike * 2 <= cases, "{alike} of {cases}");
    // What an element paints beside the rules, and rules that ask for an element, tell them apart.
    for rule in [
        "@host a { color: {b}; }",
        "@host a { @state hover { background-color: {b}; } }",
        "@option other { @host a { color: {b}; } }",
        "@option other { color: revert; }",
        "&[href] { color: {b}; }",
    ] {
        let (computed, cases) = computed(rule);
        assert!(computed * 2 > cases, "{rule}: {computed} of {cases}");
    }
}

#[test]
fn an_axis_that_reaches_a_colour_by_locals_is_told_apart() {
    let sheet = |option: &str| {
        format!(
            "@control x {{ --deep: {{b}}; --mid: var(--deep); color: color-mix(in oklab, var(--mid), {{a}} 10%); background-color: {{paper}};
               @state hover {{ background-color: {{paper}}; }}
               @option other {{ {option} }} @option idle {{ padding: 1px; }} }}"
        )
    };
    let neither = same(&two(&sheet("padding: 2px;"))).computed;
    for option in [
        "--deep: {paper};",
        "@state hover { --deep: {paper}; }",
        "@part label { opacity: .2; }",
        "font-size: 30px;",
        "background: none;",
        "@media (width > 1px) { color: {paper}; }",
    ] {
        assert!(same(&two(&sheet(option))).computed > neither, "{option}");
    }
}

#[test]
fn a_state_that_changes_nothing_that_is_read_gives_the_verdict_of_the_case_without_it() {
    let sheet = |states: &str| {
        format!(
            "@control x {{ color: {{a}}; background-color: {{paper}};
               @state hover {{ color: {{b}}; }} @state active {{ color: {{b}}; }} @state disabled {{ opacity: .5; }} {states} }}"
        )
    };
    let computed = |states: &str| {
        let few = same(&two(&sheet(states)));
        (few.computed, few.cases)
    };
    // Lasting states with the pointer on top of them: six sets more, of which one is looked at by the other check.
    let (idle, cases) = computed("@state focus { outline: 1px solid; } @state selected { margin: 1px; }");
    assert!(idle < cases, "{idle} of {cases}");
    for states in [
        "@state focus { outline: 1px solid; } @state selected { color: {b}; }",
        "@state focus { outline: 1px solid; } @state selected { --paint: {b}; } --paint: {a}; border-color: var(--paint); background-color: var(--paint);",
        "@state focus { outline: 1px solid; } @state selected { margin: 1px; } &[aria-pressed] { color: {b}; }",
        "@state focus { outline: 1px solid; } @state selected { margin: 1px; } @part label:not(:hover) { color: {b}; }",
    ] {
        assert!(computed(states).0 > idle, "{states}");
    }
}

#[test]
fn where_a_gradient_passes_at_one_end_sizes_are_told_apart() {
    // The text is at the dark end, but for the option that pushes it to the other.
    let sheet = |option: &str| {
        format!(
            "@control x {{ display: block; inline-size: 400px; padding: 8px; color: {{paper}}; font: 16px/24px sans-serif;
               background: linear-gradient(to right, black 50%, white);
               @state hover {{ outline: 1px solid; }} @state focus {{ outline: 1px solid; }} @state active {{ top: 1px; }} @state disabled {{ opacity: .5; }}
               @option other {{ {option} }} }}"
        )
    };
    let found = |option: &str| same(&Memory::with_sheet(&sheet(option)).only(&["contrast/text"]));
    let left = found("padding-inline-start: 16px;");
    assert_eq!((left.findings.len(), left.unknown), (0, 0), "{:?}", left.findings);
    let right = found("padding-inline-start: 350px;");
    assert_eq!((right.findings.len(), right.unknown), (1, 0), "{:?}", right.findings);
    assert!(right.findings[0].evidence.as_ref().is_some_and(|evidence| evidence.worst.contains("other")));
}

#[test]
fn an_option_that_hides_what_a_state_changes_is_told_apart() {
    let few = same(&two("@control x { --edge: {b}; outline: 1px solid var(--edge); color: {b};
           @state hover { --edge: {a}; }
           @option bare { outline: none; }
           @option idle { margin: 2px; } }"));
    assert!(few.computed < few.cases);
}

#[test]
fn whole_systems_give_the_report_that_all_their_cases_give() {
    for folder in
        ["../../demo/ternhaven", "../stilk/starter", "../stilk/tests/projects/quay", "../stilk/tests/projects/pier"]
    {
        let few = same(&Memory::folder(folder));
        match folder {
            "../../demo/ternhaven" => assert!(few.computed * 10 < few.cases, "{} of {}", few.computed, few.cases),
            "../stilk/tests/projects/pier" => {
                assert!(few.computed * 2 < few.cases, "{} of {}", few.computed, few.cases)
            }
            // Some check can tell most cases of these small ones from every other.
            _ => assert!(few.computed * 10 > few.cases * 9, "{folder}: {} of {}", few.computed, few.cases),
        }
    }
}
