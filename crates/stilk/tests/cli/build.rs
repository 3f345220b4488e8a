//! `stilk build`.

use crate::support::{Project, same};

#[test]
fn the_stylesheet_is_the_same_on_every_run_and_nothing_else_is_left() {
    let project = Project::pier();
    let said = project.run(&["build"]).status(0);
    assert!(said.stdout.starts_with("dist/ternhaven.css ("), "{}", said.stdout);
    let first = project.files("dist");
    project.run(&["build"]).status(0);
    assert_eq!(project.files("dist"), first);
    let names: Vec<&str> = first.iter().map(|(name, _)| name.as_str()).collect();
    let tokens = ["day", "night", "storm"].map(|theme| format!("dist/tokens/{theme}.tokens.json"));
    let expected =
        ["dist/system.json", "dist/ternhaven.css", "dist/ternhaven.d.ts", &tokens[0], &tokens[1], &tokens[2]];
    assert_eq!(names, expected);
}

/// The whole text: selectors, layers, switches, hooks, guards, motion, resets.
#[test]
fn everything_the_language_has_is_written_as_agreed() {
    let project = Project::quay();
    project.run(&["build", "--quiet"]).status(0);
    same("quay.css", &project.read("dist/quay.css"));
}

#[test]
fn without_layers_the_same_rules_stand_in_the_same_order() {
    let rules = |project: &Project| {
        project.run(&["build"]).status(0);
        let css = project.read("dist/ternhaven.css");
        let css = css.replace(".tern-button.tern-button", ".tern-button");
        let css = css.replace(".tern-button_label.tern-button_label", ".tern-button_label");
        let lines = css.lines().map(str::trim).filter(|line| line.ends_with([';', '{']) && !line.starts_with("@layer"));
        lines.map(str::to_owned).collect::<Vec<_>>()
    };
    let layered = rules(&Project::pier());
    let flat = Project::pier().edit("stilk.toml", "folder = \"dist\"", "layers = false\nweight = 2");
    assert_eq!(rules(&flat), layered);
    let css = flat.read("dist/ternhaven.css");
    assert!(!css.contains("@layer") && css.contains(".tern-button.tern-button {"));
}

/// The same rules, in three quarters of the room; a browser must read both alike, so the engine's parser stands in for it.
#[test]
fn minified_says_the_same_in_less_room() {
    use stilk_engine::cascade::Stylesheet;
    let project = Project::quay();
    let rules = |project: &Project| {
        let css = project.read("dist/quay.css");
        let sheet = Stylesheet::parse(&css);
        let rules = sheet.rules.iter().map(|rule| {
            let bodies: Vec<String> =
                rule.declarations.iter().map(|d| format!("{:?}{}", d.body, d.important)).collect();
            format!("{:?} {:?} {:?} {bodies:?}", rule.selector, rule.layer, rule.conditions)
        });
        (css.len(), rules.collect::<Vec<_>>(), sheet.keyframes)
    };
    project.run(&["build"]).status(0);
    let (long, readable, keyframes) = rules(&project);
    project.run(&["build", "--minify"]).status(0);
    let (short, minified, same_keyframes) = rules(&project);
    assert_eq!(minified, readable);
    assert_eq!(same_keyframes, keyframes);
    assert!(short * 4 < long * 3, "{short} of {long}");
    assert!(!project.read("dist/quay.css").contains("/*"));
}

#[test]
fn class_patterns_of_the_manifest_are_used() {
    let patterns = "[classes]\ncontrol = \"{control}--{prefix}\"\noption = \"is-{option}\"\n\n[checks]";
    let project = Project::pier().edit("stilk.toml", "[checks]", patterns);
    project.run(&["build"]).status(0);
    let css = project.read("dist/ternhaven.css");
    assert!(css.contains(".button--tern:where(.is-outline)"), "{css}");
    assert!(css.contains(".tern-button_label"));
}

#[test]
fn the_weight_of_each_control_is_said_and_nothing_is_written() {
    let project = Project::pier().edit(
        "controls/button.stilk",
        "@control button {",
        "@keyframes turn { to { rotate: 1turn; } }\n@keyframes glow { to { box-shadow: 0 0 4px {fill.sea}; } }\n\
         @control button {\n  --once: 3px; scroll-margin: var(--once); animation: turn 1s infinite; will-change: rotate;\n  \
         @state busy { animation: glow 1s infinite; }\n  @option wide { transition: inline-size 1s, color 1s; }",
    );
    let said = project.run(&["build", "--weight"]).status(0).stdout;
    assert!(!project.path("dist").exists(), "{said}");
    let row = said.lines().find(|line| line.starts_with("button ")).expect("its row");
    let figures: Vec<u64> =
        row.split_whitespace().skip(1).filter_map(|word| word.replace(',', "").parse().ok()).collect();
    let [rules, bytes, customs, moving] = figures[..] else { panic!("{row}") };
    project.run(&["build", "--minify", "--quiet"]).status(0);
    let css = project.read("dist/ternhaven.css");
    assert!(rules > 10 && bytes > 500 && (bytes as usize) < css.len() && customs > 8, "{row}");
    assert_eq!(moving, 3, "{row}");
    assert!(said.contains("`--once` is set once and read once: write its value where it is read"), "{said}");
    assert!(said.contains("`glow` of `button` changes `box-shadow`, which is painted anew in each frame"), "{said}");
    assert!(said.contains("a transition of `inline-size` of `button` lays the page out anew"), "{said}");
    assert!(said.contains("`will-change` of `button` holds in every state"), "{said}");
    assert!(!said.contains("`turn` of `button` changes"), "{said}");
    assert!(said.contains("`button` moves for ever, in every state: write it in the state that needs it"), "{said}");
}
