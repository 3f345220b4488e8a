//! One variant is computed for all that no check can tell apart; the report must be the one that all would give.

use crate::memory::{Memory, messages};
use stilk_core::check::{Report, Settings, run};
use stilk_core::stylesheet::{Purpose, write};

fn report(memory: &Memory, every_variant: bool) -> Report {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    run(system, &project.sources, &written, &Settings { threads: 2, today: None, every_variant })
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
    let few = same(&Memory::with_sheet(sheet));
    assert_eq!(few.computed * 3, few.cases);
}

#[test]
fn an_axis_that_reaches_a_colour_by_locals_is_told_apart() {
    for option in [
        "--deep: {paper};",
        "@state hover { --deep: {paper}; }",
        "@part label { opacity: .2; }",
        "font-size: 30px;",
        "background: none;",
        "@media (width > 1px) { color: {paper}; }",
    ] {
        let sheet = format!(
            "@control x {{ --deep: {{b}}; --mid: var(--deep); color: color-mix(in oklab, var(--mid), {{a}} 10%); background-color: {{paper}};
               @state hover {{ background-color: {{gap-less}}; }}
               @option other {{ {option} }} @option idle {{ padding: 1px; }} }}"
        )
        .replace("{gap-less}", "{paper}");
        let few = same(&Memory::with_sheet(&sheet));
        assert_eq!(few.computed * 2, few.cases, "{option}");
    }
}

#[test]
fn an_option_that_hides_what_a_state_changes_is_told_apart() {
    let few = same(&Memory::with_sheet(
        "@control x { --edge: {b}; outline: 1px solid var(--edge); color: {b};
           @state hover { --edge: {a}; }
           @option bare { outline: none; }
           @option idle { margin: 2px; } }",
    ));
    assert!(few.computed < few.cases);
}
