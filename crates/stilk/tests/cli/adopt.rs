//! `stilk adopt`: the site of the ferry line as it was, and small sites in other habits, become systems.

use crate::support::Project;
use serde_json::Value;

fn adopted(project: &Project, arguments: &[&str]) -> String {
    let said = project.run(&[&["adopt", ".", "--to", "system"], arguments].concat());
    assert_eq!(said.status, 0, "{}{}", said.stdout, said.stderr);
    said.stdout
}

#[track_caller]
fn has(text: &str, lines: &[&str]) {
    let mut rest = text;
    for line in lines {
        let at = rest.find(line).unwrap_or_else(|| panic!("`{line}` is not there, or not in its place:\n{text}"));
        rest = &rest[at + line.len()..];
    }
}

#[test]
fn the_old_site_becomes_a_system_and_nothing_looks_different() {
    let project = Project::before();
    let site = project.read("css/site.css");
    let said = adopted(&project, &["--name", "Ferry line"]);
    has(&said, &["75 controls in 19 sheets written to system", "cta ", "26 controls  .cta", "none differs."]);
    assert!(!said.contains("Left as it was"), "{said}");
    // The sheet of its button, as a person would write it.
    let sheet = project.read("system/controls/cta.stilk");
    has(
        &sheet,
        &[
            "@control cta marked (.cta) {",
            "background: {act.fill};",
            "@part arrow marked (.arrow) {",
            "@state hover {",
            "/* from `a:hover` */",
            "@axis size optional {\n    small marked (.cta-small) {",
            "ghost marked (.cta-ghost) {",
            "send marked (#send) {",
        ],
    );
    assert!(!sheet.contains("#1a6a8a") && !sheet.contains("theme-evening"), "{sheet}");
    // Custom properties keep their names, and have one definition.
    has(
        &project.read("system/stilk.toml"),
        &["[modifiers.theme]\nattribute = \"data-theme\"", "property = \"{token}\""],
    );
    assert!(!project.read("system/kept/account.css").contains("--sea:"));
    has(&project.read("system/tokens/theme-dusk.tokens.json"), &["\"sea\": {", "#58b4d8"]);
    // What stays stands in its own text; pictures are found from where it stands now.
    let kept = project.read("system/kept/site.css");
    has(&kept, &["@layer kept {", "/* Ternhaven ferries - main stylesheet", "url(../../css/img/harbour.jpg)"]);
    assert!(!kept.contains("\n.cta {") && kept.contains(".masthead {"));
    has(
        &project.read("system/ADOPTED.md"),
        &["| css/site.css | kept/site.css |", "none differs.", "## What became what"],
    );
    // Nothing of the old site is another one.
    assert_eq!(project.read("css/site.css"), site);
    assert!(project.run(&["build", "--project", "system"]).status == 0);
}

#[test]
fn the_check_of_what_was_adopted_finds_what_the_survey_found() {
    let project = Project::site("orchard");
    adopted(&project, &[]);
    let said = project.run(&["check", "--project", "system", "--format", "json"]);
    let report: Value = serde_json::from_str(&said.stdout).unwrap_or_else(|error| panic!("{error}: {}", said.stderr));
    let found = |check: &str, words: &str| {
        let mut findings = report["findings"].as_array().expect("findings").iter();
        findings.any(|f| f["check"] == check && f["message"].as_str().is_some_and(|message| message.contains(words)))
    };
    for (check, words) in [
        ("contrast/focus", "`field-control`"),
        ("contrast/placeholder", "`field.placeholder-text` on `field.fill` is 1.76:1"),
        ("state/leak", "`button.danger` is that of a plain `button` again"),
        ("state/missing", "`field-control` looks the same in disabled"),
    ] {
        assert!(found(check, words), "no {check} about {words}: {:#?}", report["findings"]);
    }
}

#[test]
fn what_was_adopted_is_mended_and_compare_says_what_that_changed() {
    let project = Project::site("orchard");
    adopted(&project, &[]);
    assert_eq!(project.run(&["build", "--project", "system"]).status, 0);
    let tokens = project.read("system/tokens/base.tokens.json");
    let said = project.run(&["adopt", ".", "--to", "old", "--quiet"]);
    assert_eq!((said.status, said.stdout.as_str()), (0, ""), "{}", said.stderr);
    assert_eq!(project.read("old/tokens/base.tokens.json"), tokens, "it comes out the same again");
    let said = project.run(&["check", "--project", "system", "--mend", "contrast/placeholder", "--yes"]);
    assert!(said.stdout.contains("1 finding cleared, none broken"), "{}{}", said.stdout, said.stderr);
    let said = project.run(&["compare", "old", "system"]);
    has(&said.stdout, &["token field.placeholder-text:", "#c9c0b4 →", "cases look different"]);
}

#[test]
fn markup_and_scan_know_the_names_that_pages_have() {
    let project = Project::site("library");
    adopted(&project, &[]);
    let said = project.run(&["markup", "action.second", "--project", "system"]);
    has(&said.stdout, &["class=\"action action--second\""]);
    let said = project.run(&["scan", "index.html", "--project", "system", "--format", "json"]);
    let report: Value = serde_json::from_str(&said.stdout).unwrap_or_else(|error| panic!("{error}: {}", said.stderr));
    assert!(report["decided"]["markup/class"].as_u64().is_some_and(|count| count >= 6), "{report:#}");
}

#[test]
fn layers_and_other_habits_do_as_well() {
    for name in ["library", "orchard", "allotments"] {
        let project = Project::site(name);
        let said = adopted(&project, &["--layers"]);
        assert!(!said.contains("Left as it was"), "{said}");
        has(&project.read("system/stilk.toml"), &["layers = true"]);
        has(&project.read("system/kept.css"), &["@layer kept, system;", "@layer kept {"]);
    }
}

#[test]
fn what_is_there_stays() {
    let project = Project::site("library");
    adopted(&project, &["--only", ".field"]);
    assert!(!project.path("system/controls/action.stilk").exists());
    has(&project.read("system/kept.css"), &[".action {"]);
    // A project of somebody else.
    let said = project.run(&["new", "mine"]);
    assert_eq!(said.status, 0);
    let said = project.run(&["adopt", ".", "--to", "mine"]);
    assert_eq!(said.status, 2);
    has(&said.stderr, &["error: there is a project in `mine` already that was not adopted, and nothing was written"]);
    // One file in the way is enough.
    let project = Project::site("library");
    project.write("system/kept.css", "mine");
    let said = project.run(&["adopt", ".", "--to", "system"]);
    assert_eq!(said.status, 2);
    has(&said.stderr, &["error: these files are there already, and nothing was written:", "kept.css"]);
    assert!(!project.path("system/stilk.toml").exists() && project.read("system/kept.css") == "mine");
}

#[test]
fn a_second_run_adds_a_family_and_leaves_what_was_written() {
    let project = Project::site("library");
    adopted(&project, &["--only", ".field"]);
    let sheet = project
        .read("system/controls/field.stilk")
        .replace("box-sizing: border-box;", "box-sizing: border-box; /* mine */");
    project.write("system/controls/field.stilk", &sheet);
    let said = adopted(&project, &["--only", ".action"]);
    has(&said, &["2 sheets", "field", "action"]);
    assert_eq!(project.read("system/controls/field.stilk"), sheet, "what was changed stays");
    assert!(project.path("system/controls/action.stilk").exists());
    assert!(!project.read("system/kept.css").contains(".action {"));
    assert_eq!(project.run(&["build", "--project", "system"]).status, 0);
    // What would have to be written anew and was changed is not lost.
    project.write("system/kept.css", "/* mine */");
    let said = project.run(&["adopt", ".", "--to", "system"]);
    assert_eq!(said.status, 2);
    has(
        &said.stderr,
        &["error: these files were changed since they were adopted, and nothing was written:", "kept.css"],
    );
    assert!(!project.path("system/controls/tick.stilk").exists());
}

#[test]
fn what_cannot_be_done_is_said() {
    let project = Project::site("library");
    for (arguments, words) in [
        (&["--only", "..x"][..], "`..x` is no selector a browser would read"),
        (&["--only", "contrast/text"], "`contrast/text` is a check; controls are adopted by a selector or their kind"),
        (&["--only", ".nothing"], "nothing was adopted"),
    ] {
        let said = project.run(&[&["adopt", ".", "--to", "system"], arguments].concat());
        assert_eq!(said.status, 2, "{}", said.stdout);
        assert!(said.stderr.contains(words), "{words}: {}", said.stderr);
        assert!(!project.path("system").exists());
    }
    let said = project.run(&["adopt", "--to", "system"]);
    assert!(said.stderr.contains("name pages, as in `stilk adopt 'site/**/*.html'`"), "{}", said.stderr);
    let project = project.without("library.css");
    let said = project.run(&["adopt", ".", "--to", "system"]);
    assert_eq!(said.status, 2);
    has(&said.stderr, &["library.css"]);
    let said = project.run(&["adopt", "missing.html", "--to", "system"]);
    assert_eq!(said.status, 2);
}

#[test]
fn what_stilk_wrote_itself_can_be_adopted() {
    let project = Project::demo();
    assert_eq!(project.run(&["build"]).status, 0);
    let said = project.run(&["adopt", "pages/boarding.html", "pages/booking.html", "--to", "system"]);
    assert_eq!(said.status, 0, "{}{}", said.stdout, said.stderr);
    // What a place around a control sets for it stays.
    has(&said.stdout, &["controls in 8 sheets", "tern-button ", "tern-switch ", "Left as it was:", "none differs."]);
    let sheet = project.read("system/controls/tern-checkbox.stilk");
    has(&sheet, &["@control tern-checkbox marked (.tern-checkbox) {", "@state checked {", "@state disabled {"]);
    has(&sheet, &["@state hover and not busy and not disabled {"]);
    assert!(!sheet.contains(":has("), "states of the native input are the control's:\n{sheet}");
}
