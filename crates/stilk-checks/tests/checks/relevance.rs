//! One variant is computed for all that no check can tell apart; the report must be the one that all would give.

use crate::depth::Depth;
use crate::memory::{Memory, messages};
use crate::only::Only;
use stilk_checks::mend::affected;
use stilk_checks::report::Report;
use stilk_checks::run::run;
use stilk_checks::settings::{Selection, Settings, Variants};
use stilk_language::stylesheet::{Purpose, write};

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
    let (few, all) = both(memory);
    // Other sides of conditions are no cases, and are computed.
    assert!(all.computed >= all.cases, "{} of {}", all.computed, all.cases);
    few
}

/// The same for two controls of a system, by a depth.
#[track_caller]
fn part(memory: &Memory, depth: Depth) -> Report {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let chosen = depth.part(system.controls.len() as u64, 2).map(|index| system.controls[index as usize].name.clone());
    let controls = chosen.map(|name| (name.value, Variants::All)).collect();
    let within = Selection { controls: Some(controls), themes: None };
    let written = write(system, &project.sources, Purpose::Page);
    let report = |every_case| {
        let settings = Settings { threads: 2, every_case, within: within.clone(), ..Settings::default() };
        run(system, &project.sources, &written, &settings)
    };
    alike(report(false), report(true)).0
}

/// The report of few cases and that of all that a check looks at.
#[track_caller]
fn both(memory: &Memory) -> (Report, Report) {
    alike(report(memory, false), report(memory, true))
}

#[track_caller]
fn alike(few: Report, all: Report) -> (Report, Report) {
    assert_eq!((few.cases, few.unknown), (all.cases, all.unknown));
    assert_eq!((&few.reasons, &few.decided), (&all.reasons, &all.decided));
    let text = |report: &Report| report.findings.iter().map(|f| format!("{f:?}")).collect::<Vec<_>>();
    assert_eq!(text(&few), text(&all));
    (few, all)
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
fn sizes_are_told_apart_in_variants_that_draw_a_gradient_only() {
    let sheet = |plain: &str| {
        format!(
            "@control x {{ display: block; inline-size: 400px; padding: 8px; color: {{paper}}; font: 16px/24px sans-serif; background-color: black;
               @state hover {{ outline: 1px solid; }} @state disabled {{ opacity: .5; }}
               @axis fill default flat {{ flat {{ }} shaded {{ {plain} }} }}
               @axis size {{ small {{ font-size: 12px; padding-inline-start: 4px; }} large {{ font-size: 17px; padding-inline-start: 350px; }} }} }}"
        )
    };
    let found = |shaded: &str| same(&Memory::with_sheet(&sheet(shaded)).only(&["contrast/text"]));
    let split = found("background-image: linear-gradient(to right, black 50%, white);");
    let drawn_always = found(
        "background-image: linear-gradient(to right, black 50%, white); } dotted { background-image: linear-gradient(to right, black 50%, white);",
    );
    let plain = found("background-image: none;");
    // Of the two fills one is looked at in three sizes more.
    assert!(plain.computed < split.computed && split.computed < split.cases, "{} {}", plain.computed, split.computed);
    assert!(drawn_always.computed > split.computed);
    // The end under the text of the large one is the white one.
    assert_eq!(split.findings.len(), 1, "{:?}", split.findings);
    assert!(split.findings[0].evidence.as_ref().is_some_and(|evidence| evidence.worst.contains("large")));
    assert_eq!((split.unknown, plain.findings.len()), (0, 0));
}

#[test]
fn sizes_are_told_apart_in_states_and_themes_in_which_a_part_decides_only() {
    let sheet = |hover: &str| {
        format!(
            "@control x {{ display: block; inline-size: 400px; padding: 8px; color: {{paper}}; font: 16px/24px sans-serif;
               background: linear-gradient(to right, black 50%, {{a}} 60%);
               @state hover {{ {hover} }} @state active {{ top: 1px; }} @state disabled {{ opacity: .5; }}
               @axis size {{ small {{ padding-inline-start: 4px; }} large {{ padding-inline-start: 350px; }} larger {{ padding-inline-start: 360px; }} }} }}"
        )
    };
    let of = |memory: &Memory| same(&memory.clone().only(&["contrast/text"]));
    let everywhere = of(&Memory::with_sheet(&sheet("background: linear-gradient(to right, black 40%, {a} 60%);")));
    let at_rest = of(&Memory::with_sheet(&sheet("background: black;")));
    assert!(at_rest.computed < everywhere.computed, "{} {}", at_rest.computed, everywhere.computed);
    assert_eq!((at_rest.findings.len(), at_rest.unknown), (1, 0));
    // At night the whole gradient is dark.
    const DARK: &str = r#"{ "$type": "color", "$value": { "colorSpace": "srgb", "components": [0, 0, 0.2] } }"#;
    const LIGHT: &str = r#"{ "$type": "color", "$value": { "colorSpace": "srgb", "components": [0, 1, 0] } }"#;
    let [dark, light] = [DARK, LIGHT].map(|a| of(&themed(a, &sheet("outline: 1px solid;"))));
    assert!(dark.computed < light.computed, "{} {}", dark.computed, light.computed);
    assert_eq!(dark.unknown + light.unknown, 0);
}

#[test]
fn a_token_is_looked_for_in_variants_that_it_reaches() {
    let sheet = "@control x { color: {b}; background: {paper}; padding: {gap};
        @axis tone { plain { } loud { color: {a}; } calm { opacity: .9; } } @option wide { padding: 20px; } }";
    let memory = Memory::with_sheet(sheet);
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let within = |path: &str| {
        let token = system.tokens.find(path).expect("a token");
        let place = system.tokens.get(token).definitions().next().expect("a definition").span;
        affected::selection(system, [&place])
    };
    let written = write(system, &project.sources, Purpose::Page);
    let decided = |within: Selection| {
        let settings = Settings { threads: 1, only: vec!["contrast/text"], within, ..Settings::default() };
        run(system, &project.sources, &written, &settings).decided["contrast/text"]
    };
    let all = decided(Selection::default());
    // One tone of three.
    assert!(matches!(&within("a").controls.unwrap()["x"], Variants::With(lists) if lists.len() == 1));
    assert_eq!(decided(within("a")) * 3, all);
    // What the base uses, and what every control lies on, reaches all.
    for path in ["b", "gap", "paper"] {
        assert_eq!(within(path).controls.unwrap()["x"], Variants::All, "{path}");
        assert_eq!(decided(within(path)), all, "{path}");
    }
}

#[test]
fn an_option_that_hides_what_a_state_changes_is_told_apart() {
    let few = same(&two("@control x { --edge: {b}; outline: 1px solid var(--edge); color: {b};
           @state hover { --edge: {a}; }
           @option bare { outline: none; }
           @option idle { margin: 2px; } }"));
    assert!(few.computed < few.cases);
}

/// A control in three themes: of two modifiers, one gives `a`, the other `gap` another value.
fn themed(a: &str, sheet: &str) -> Memory {
    let color = |components: &str, alpha: &str| {
        format!(r#"{{ "$type": "color", "$value": {{ "colorSpace": "srgb", "components": {components}{alpha} }} }}"#)
    };
    let size = |px: u32| format!(r#"{{ "$type": "dimension", "$value": {{ "value": {px}, "unit": "px" }} }}"#);
    let resolver = format!(
        r##"{{ "version": "2025.10",
          "sets": {{ "base": {{ "sources": [{{ "a": {}, "b": {}, "paper": {}, "gap": {} }}] }} }},
          "modifiers": {{
            "theme": {{ "contexts": {{ "day": [], "night": [{{ "a": {a} }}] }}, "default": "day" }},
            "density": {{ "contexts": {{ "wide": [], "tight": [{{ "gap": {} }}] }}, "default": "wide" }}
          }},
          "resolutionOrder": [{{ "$ref": "#/sets/base" }}, {{ "$ref": "#/modifiers/theme" }}, {{ "$ref": "#/modifiers/density" }}] }}"##,
        color("[1, 0, 0]", ""),
        color("[0, 0, 1]", ""),
        color("[1, 1, 1]", ""),
        size(8),
        size(2),
    );
    let manifest = "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = \"t.resolver.json\"\n[surfaces]\npage = \"{paper}\"\n[modifiers.theme]\nscheme = { night = \"dark\" }\n[modifiers.density]\n";
    Memory::with_sheet(sheet).file("stilk.toml", manifest).file("t.resolver.json", &resolver)
}

#[test]
fn of_themes_that_differ_in_colours_only_one_is_laid_out() {
    const OTHER: &str = r#"{ "$type": "color", "$value": { "colorSpace": "srgb", "components": [0, 1, 0] } }"#;
    const CLEAR: &str =
        r#"{ "$type": "color", "$value": { "colorSpace": "srgb", "components": [0, 1, 0], "alpha": 0.2 } }"#;
    let sheet = "@control x { color: {b}; background: {a}; border: 1px solid {a}; padding: {gap}; border-radius: 4px;
        @state hover { padding: 9px; background: {b}; } @state focus { outline: 1px solid; } }";
    // In how many of the four themes a check looks.
    let themes = |check: &str, a: &str| {
        let one = Memory::with_sheet(sheet).only(&[check]);
        let computed = same(&themed(a, sheet).only(&[check])).computed;
        computed / same(&one).computed
    };
    for (check, a, expected) in [
        ("state/shift", OTHER, 2),
        ("state/shift", CLEAR, 2),
        ("geometry/corner", OTHER, 2),
        ("geometry/corner", CLEAR, 4),
        ("geometry/painted", OTHER, 2),
        // Sizes of text and box take no part in what a text lies on, colours do.
        ("contrast/text", OTHER, 2),
        ("state/indistinct", OTHER, 4),
    ] {
        assert_eq!(themes(check, a), expected, "{check}");
    }
}

#[test]
fn on_other_hosts_options_are_looked_at_that_rules_name_with_hosts() {
    let sheet = |rule: &str, option: &str| {
        format!(
            "@control x {{ display: inline-flex; padding: {{gap}}; @state hover {{ padding: 9px; }} {rule}
               @option wide {{ padding: 20px; }} @option tall {{ min-height: 90px; {option} }} }}"
        )
    };
    let found = |rule: &str, option: &str| {
        let (report, _) = both(&Memory::with_sheet(&sheet(rule, option)).only(&["state/shift"]));
        let cases = report.findings.iter().filter_map(|f| f.evidence.as_ref()).map(|e| e.cases).sum::<u64>();
        (report.computed, cases)
    };
    // A link that is laid out as a button is stands for it, and the rule that makes it another is asked for.
    let (alike, _) = found("", "");
    let (other, _) = found("@host a { margin: 1px; }", "");
    assert!(alike < other, "{alike}, {other}");
    // Whatever may do something of its own there is looked at: by name, by what the element has, by its own defaults.
    for option in [
        "@host a { @state hover { margin: 3px; } }",
        "&[href] { @state hover { margin: 3px; } }",
        "@part label:not([hidden]) { margin: 3px; }",
        "padding: revert;",
    ] {
        let (named, cases) = found("@host a { margin: 1px; }", option);
        assert!(other < named, "{option}: {other}, {named}");
        assert!(cases > 0, "{option}");
    }
    let waived = "@host a { margin: 1px; } @waive state/shift on @a.tall \"Meant.\";";
    assert!(found(waived, "").0 > other, "what a waiver names is looked at");
}

/// A control of rules that nobody chose.
fn random_sheet(random: &mut fastrand::Rng) -> String {
    const DECLARATIONS: [&str; 30] = [
        "color: {a};",
        "color: {b};",
        "color: var(--tint);",
        "--tint: {a};",
        "--tint: {paper};",
        "background: {paper};",
        "background: {b};",
        "background: linear-gradient(to right, black 50%, {a} 60%);",
        "background-image: none;",
        "background-color: color-mix(in oklab, {b} 60%, transparent);",
        "padding-inline-start: 350px;",
        "padding: {gap};",
        "font-size: 24px;",
        "font-weight: 700;",
        "opacity: .6;",
        "border: 2px solid {b};",
        "outline: 2px solid {a};",
        "translate: 0 {gap};",
        "@part label { background: {b}; }",
        "@part label::after { content: \"!\"; color: {a}; }",
        "@host a { color: {a}; }",
        "&:is(a) { padding: 1px; }",
        "@media (width < 30rem) { color: {a}; }",
        "@media (hover: none) { padding: 3px; background: {a}; }",
        "@media (prefers-contrast: more) { --tint: {paper}; }",
        "@media (prefers-reduced-motion: no-preference) { transition: color 1s; }",
        "@container (inline-size < 200px) { font-size: 12px; border-width: 0; }",
        "@supports not (display: grid) { outline: none; }",
        "@supports (color: oklch(0 0 0)) { @media (pointer: coarse) { @part label { opacity: .7; } } }",
        "content: none; position: relative; inset-inline-start: 2px;",
    ];
    let mut some = |most: usize| {
        let count = random.usize(0..=most);
        (0..count).map(|_| DECLARATIONS[random.usize(..DECLARATIONS.len())]).collect::<Vec<_>>().join(" ")
    };
    format!(
        "@control x {{ --tint: {{b}}; display: block; inline-size: 400px; font: 16px/24px sans-serif; {}
           @state hover {{ {} }} @state selected {{ {} }} @state active {{ top: 1px; }} @state disabled {{ opacity: .5; }}
           @axis one {{ first {{ {} }} second {{ {} @state hover {{ {} }} }} }}
           @axis two default plain {{ plain {{ }} other {{ {} }} }}
           @option three {{ {} }} }}",
        some(4),
        some(2),
        some(2),
        some(2),
        some(2),
        some(1),
        some(2),
        some(1),
    )
}

#[test]
fn random_systems_give_the_report_that_all_their_cases_give() {
    const OTHER: &str = r#"{ "$type": "color", "$value": { "colorSpace": "srgb", "components": [0, 0.2, 0] } }"#;
    for seed in Depth::of_environment().part(24, 4) {
        let sheet = random_sheet(&mut fastrand::Rng::with_seed(seed));
        eprintln!("seed {seed}: {sheet}");
        both(&themed(OTHER, &sheet));
    }
}

#[test]
fn whole_systems_give_the_report_that_all_their_cases_give() {
    let depth = Depth::of_environment();
    for folder in
        ["../../demo/ternhaven", "../stilk/starter", "../stilk/tests/projects/quay", "../stilk/tests/projects/pier"]
    {
        // Of the sample, which has many controls, a part where not everything is looked at.
        let memory = Memory::folder(folder);
        let few = if folder.ends_with("ternhaven") && !depth.full { part(&memory, depth) } else { same(&memory) };
        match folder {
            "../../demo/ternhaven" if depth.full => {
                assert!(few.computed * 10 < few.cases, "{} of {}", few.computed, few.cases)
            }
            // From a fiftieth to all of it: how much of a drawn part is alike depends on what was drawn. That the reports are
            // the same was asked before.
            "../../demo/ternhaven" => assert!(few.computed > 0, "nothing was looked at"),
            // Controls of many variants: what is alike in them is computed once.
            "../stilk/starter" | "../stilk/tests/projects/pier" => {
                assert!(few.computed * 2 < few.cases, "{} of {}", few.computed, few.cases)
            }
            // Some check can tell most cases of this small one from every other.
            _ => assert!(few.computed * 10 > few.cases * 8, "{folder}: {} of {}", few.computed, few.cases),
        }
    }
}
