//! Reports in every format, and what is new against a former one.

use crate::support::Project;
use serde_json::Value;

fn json(text: &str) -> Value {
    serde_json::from_str(text).unwrap_or_else(|why| panic!("{why}: {text}"))
}

#[track_caller]
fn valid(schema: &str, value: &Value) {
    let validator = jsonschema::validator_for(&json(schema)).expect("the schema is one");
    let errors: Vec<String> = validator.iter_errors(value).map(|error| error.to_string()).collect();
    assert!(errors.is_empty(), "{errors:?}");
}

#[test]
fn a_report_is_as_its_schemas_say() {
    let sample = Project::demo();
    let report = json(&sample.run(&["check", "--format", "json"]).stdout);
    valid(include_str!("../../../../docs/schema/report.schema.json"), &report);
    let sarif = json(&sample.run(&["check", "--format", "sarif"]).stdout);
    // One pattern in the schema of OASIS has a bracket too many, which only JavaScript overlooks.
    let schema = include_str!("../shared/sarif-2.1.0.schema.json").replace("-[a-zA-Z]{2}]?$", "-[a-zA-Z]{2}$");
    valid(&schema, &sarif);
    let results = sarif["runs"][0]["results"].as_array().unwrap();
    assert_eq!(results.len(), report["findings"].as_array().unwrap().len());
    for result in results {
        let index = result["ruleIndex"].as_u64().unwrap() as usize;
        assert_eq!(sarif["runs"][0]["tool"]["driver"]["rules"][index]["id"], result["ruleId"]);
    }
    // A mend that can be made is there for editors, in both formats.
    let of_text = |findings: &serde_json::Value, key: &str| {
        let findings = findings.as_array().unwrap().iter();
        findings.clone().find(|finding| finding[key] == "contrast/text").unwrap().clone()
    };
    let edit = &of_text(&report["findings"], "check")["edits"][0];
    assert_eq!(
        (&edit["from"]["line"], &edit["text"]),
        (&serde_json::json!(13), &serde_json::json!("\"{gull.night}\""))
    );
    let fix = &of_text(&sarif["runs"][0]["results"], "ruleId")["fixes"][0]["artifactChanges"][0];
    assert_eq!(fix["artifactLocation"]["uri"], "tokens/night.tokens.json");
    let replaced = &fix["replacements"][0];
    assert_eq!(replaced["insertedContent"]["text"], "\"{gull.night}\"");
    let width =
        |region: &serde_json::Value| region["endColumn"].as_u64().unwrap() - region["startColumn"].as_u64().unwrap();
    assert_eq!(width(&replaced["deletedRegion"]), "\"{gull.mist}\"".len() as u64);
    let markdown = sample.run(&["check", "--format", "markdown"]).stdout;
    // Read as Markdown is read.
    let read = [("<code>", "`"), ("</code>", "`"), ("&lt;", "<"), ("&gt;", ">"), ("\\[", "["), ("&amp;", "&")];
    let markdown = read.iter().fold(markdown, |text, (written, meant)| text.replace(written, meant));
    for finding in report["findings"].as_array().unwrap() {
        assert!(markdown.contains(finding["message"].as_str().unwrap()), "{markdown}");
    }
}

#[test]
fn no_check_passes_by_not_looking() {
    let demo = Project::demo();
    let system = json(&demo.run(&["check", "--format", "json"]).stdout);
    let pages = json(&demo.run(&["scan", "--format", "json"]).stdout);
    valid(include_str!("../../../../docs/schema/report.schema.json"), &pages);
    for id in stilk_checks::registry::ids() {
        let report = if id.starts_with("markup/") || id.starts_with("page/") { &pages } else { &system };
        assert!(report["decided"][id].as_u64().is_some_and(|count| count > 0), "{id} decided nothing of the sample");
    }
}

#[test]
fn against_a_former_report_only_what_is_new_counts() {
    let sample = Project::demo();
    let former = sample.run(&["check", "--format", "json"]).status(1);
    sample.write("former.json", &former.stdout);
    let same = sample.run(&["check", "--against", "former.json"]);
    assert_eq!(same.status, 0, "{}", same.stdout);
    assert!(same.stdout.contains("known from the former report, not shown"), "{}", same.stdout);
    // Another line, other figures: the same finding. A new fault: a new one.
    let sheet = sample.read("controls/button.stilk");
    sample.write("controls/button.stilk", &format!("\n\n{}", sheet.replace("--shade: 24%", "--shade: 26%")));
    assert_eq!(sample.run(&["check", "--against", "former.json"]).status, 0);
    sample.write(
        "controls/button.stilk",
        &sheet.replace("transition: background-color {motion.quick},", "transition: all {motion.quick},"),
    );
    let new = sample.run(&["check", "--against", "former.json"]);
    assert_eq!(new.status, 1);
    assert!(new.stdout.contains("state/motion") && !new.stdout.contains("contrast/text"), "{}", new.stdout);
    sample.write("former.json", "{}");
    let wrong = sample.run(&["check", "--against", "former.json"]);
    assert_eq!(wrong.status, 2);
    assert!(wrong.stderr.contains("write `stilk check --format json > FILE`"), "{}", wrong.stderr);
}

#[test]
fn a_waiver_that_accepts_nothing_is_reported() {
    let sample = Project::demo();
    let sheet = sample.read("controls/switch.stilk");
    sample.write(
        "controls/switch.stilk",
        &sheet.replacen("@control switch {", "@control switch {\n  @waive geometry/travel \"Once it was off.\";", 1),
    );
    let found = sample.run(&["check"]).stdout;
    assert!(found.contains("the waiver of `geometry/travel` accepts nothing"), "{found}");
}

#[test]
fn explaining() {
    let sample = Project::demo();
    let page = include_str!("../../../../docs/checks.md");
    assert_eq!(sample.run(&["explain", "--format", "markdown"]).stdout, page, "write docs/checks.md anew");
    let list = sample.run(&["explain"]).stdout;
    for id in stilk_checks::registry::ids() {
        assert!(list.contains(id) && page.contains(&format!("\n## {id}\n")), "{id}");
        let one = sample.run(&["explain", id]).stdout;
        assert!(
            one.lines().all(|line| line.chars().count() <= 80 || line.contains('{') || line.contains('<')),
            "{one}"
        );
    }
    // What is said while sources are read is explained too.
    for id in ["sheet/syntax", "token/old-form", "resolver/size", "command/failed", "waiver/unused"] {
        let said = sample.run(&["explain", id]).status(0).stdout;
        assert!(said.starts_with(&format!("{id} (")) && said.contains("Said when"), "{said}");
    }
    let wrong = sample.run(&["explain", "state/leek"]);
    assert_eq!(
        (wrong.status, wrong.stderr.as_str()),
        (2, "error: there is no check `state/leek`\n  write `state/leak`\n")
    );
}
