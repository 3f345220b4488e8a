//! Whatever form answers have, what is wrong has it too: on standard output there is nothing else.

use crate::support::Project;
use serde_json::Value;

const BROKEN: &str = "@control slip {\n  colr: red;\n  @state hovr { color: red; }\n}\n";

fn json(text: &str) -> Value {
    serde_json::from_str(text).unwrap_or_else(|error| panic!("{error}: {text}"))
}

#[test]
fn sources_with_errors_are_reported_in_the_schema_of_reports() {
    let project = Project::quay().file("controls/slip.stilk", BROKEN);
    let commands: [&[&str]; 4] = [&["check"], &["contrast"], &["scan", "page.html"], &["why", "slip", "color"]];
    for command in commands {
        let said = project.run(&[command, &["--format", "json"]].concat()).status(2);
        let report = json(&said.stdout);
        assert_eq!(report["$schema"], "urn:stilk:report:1", "{command:?}");
        let findings = report["findings"].as_array().expect("findings");
        let errors: Vec<&Value> = findings.iter().filter(|one| one["level"] == "error").collect();
        assert!(errors.len() >= 2, "{command:?}: {findings:#?}");
        assert!(
            errors.iter().all(|one| one["spans"][0]["file"].is_string() && one["spans"][0]["line"].as_u64() > Some(0)),
            "{command:?}: {errors:#?}"
        );
        assert_eq!(said.stderr, "", "{command:?}");
    }
}

#[test]
fn sarif_and_markdown_carry_errors() {
    let project = Project::quay().file("controls/slip.stilk", BROKEN);
    for command in [&["check"][..], &["scan", "page.html"]] {
        let log = json(&project.run(&[command, &["--format", "sarif"]].concat()).status(2).stdout);
        let run = &log["runs"][0];
        assert_eq!(run["invocations"][0]["executionSuccessful"], false);
        let results = run["results"].as_array().expect("results");
        assert!(results.iter().any(|one| one["ruleId"] == "cascade/property"), "{results:#?}");
        let page = project.run(&[command, &["--format", "markdown"]].concat()).status(2).stdout;
        assert!(page.starts_with("### Stilk: 3 errors\n"), "{page}");
        assert!(page.contains("there is no property `colr`"), "{page}");
    }
    let log = json(&Project::quay().run(&["check", "--format", "sarif"]).stdout);
    assert_eq!(log["runs"][0]["invocations"][0]["executionSuccessful"], true);
}

#[test]
fn what_is_wrong_with_a_command_is_an_error_of_the_report() {
    let empty = Project::empty();
    // Nothing is to be said of its sources.
    let pier = Project::pier();
    for (project, command, words) in [
        (&empty, &["check", "--project", "nowhere"][..], "there is no folder `nowhere`"),
        (&pier, &["check", "--only", "state/lek"], "there is no check `state/lek`"),
        (&pier, &["scan", "nothing/*.html"], "nothing/*.html"),
        (&pier, &["check", "--against", "none.json"], "none.json"),
        (&pier, &["why", "buton", "color"], "buton"),
    ] {
        let said = project.run(&[command, &["--format", "json"]].concat()).status(2);
        let report = json(&said.stdout);
        let message = report["findings"][0]["message"].as_str().unwrap_or_default();
        assert!(message.contains(words), "{command:?}: {report:#}");
        assert_eq!(said.stderr, "", "{command:?}");
        // For people it stands where errors stand.
        let said = project.run(command).status(2);
        assert!(said.stdout.is_empty() && said.stderr.contains(words), "{command:?}: {}", said.stderr);
    }
}

#[test]
fn versions_that_hold_errors_are_told_in_the_form_that_was_asked_for() {
    let (old, new) = (Project::pier(), Project::pier());
    let new = new.edit("controls/button.stilk", "@control", "@contrl");
    let old = old.path(".").display().to_string();
    let said = new.run(&["compare", &old, ".", "--format", "json"]).status(2);
    assert!(json(&said.stdout)["findings"].as_array().is_some_and(|findings| !findings.is_empty()));
    let said = new.run(&["compare", &old, ".", "--format", "markdown"]).status(2);
    assert!(said.stdout.starts_with("### Stilk: "), "{}", said.stdout);
}

#[test]
fn every_verdict_that_there_is_none_of_has_its_place() {
    let project =
        Project::quay().edit("controls/slip.stilk", "@control slip {", "@control slip {\n  mix-blend-mode: multiply;");
    let report = json(&project.run(&["check", "--format", "json"]).stdout);
    let doubts = report["doubts"].as_array().expect("doubts");
    assert!(!doubts.is_empty());
    let cases: u64 = doubts.iter().filter_map(|doubt| doubt["cases"].as_u64()).sum();
    assert_eq!(Some(cases), report["unknown"].as_u64(), "each of them is told");
    for doubt in doubts {
        assert!(doubt["case"].as_str().is_some_and(|case| case.contains(" in ")), "{doubt:#}");
        assert!(doubt["span"]["line"].as_u64().is_some() && doubt["reason"].is_string(), "{doubt:#}");
    }
    let text = project.run(&["check", "--unknown"]).stdout;
    assert!(text.contains("the first is slip") && text.contains("controls/slip.stilk:"), "{text}");
    assert!(!project.run(&["check"]).stdout.contains("the first is slip"));
}
