//! `stilk why`.

use crate::support::Project;

const PAGE: &str = "<!doctype html>
<link rel=stylesheet href=site.css>
<style>
  .go { color: green }
</style>
<body><p id=p>Text <a id=n1 class=go href=#>Go</a><button id=n2 style='opacity: .5'>B</button>
";
const CSS: &str = "@layer base { a { color: red; --tone: teal } }
a:hover { color: var(--tone) }
#n2::before { content: 'x'; padding-left: 2em }
@media (width < 500px) { #n2 { color: purple } }
";

fn page() -> Project {
    Project::pier().file("page.html", PAGE).file("site.css", CSS)
}

#[test]
fn a_case_is_led_back_to_its_sheet_and_tokens() {
    let project = Project::pier();
    project
        .run(&["why", "button.outline:hover", "background-color", "--theme", "day"])
        .status(0)
        .stdout("why-case.txt");
    let said = project.run(&["why", "button", "nonsense"]).status(2);
    assert!(said.stderr.contains("the engine computes no property `nonsense`"), "{}", said.stderr);
    let said = project.run(&["why", "buton", "color"]).status(2);
    assert_eq!(said.stderr, "error: there is no control `buton`: write `button`\n");
    let said = project.run(&["why", "button/lable", "color"]).status(2);
    assert_eq!(said.stderr, "error: there is no part `lable`: write `label`\n");
    let said = project.run(&["why", "button", "color", "--theme", "dusk"]).status(2);
    assert!(said.stderr.starts_with("error: there is no theme `dusk`: the themes are day"), "{}", said.stderr);
}

#[test]
fn an_element_of_any_page_is_explained_where_its_rules_stand() {
    let project = page();
    project.run(&["why", "--page", "page.html", "#n1", "color"]).status(0).stdout("why-page.txt");
    let said = project.run(&["why", "--page", "page.html", "#n1", "color", "--state", "a:hover"]).status(0);
    assert!(said.stdout.starts_with("#n1  color: rgb(0, 128, 128)\n"), "{}", said.stdout);
    let said = project.run(&["why", "--page", "page.html", "#n2", "color", "--width", "400"]).status(0);
    assert!(said.stdout.starts_with("#n2  color: rgb(128, 0, 128)\n"), "{}", said.stdout);
    let said = project.run(&["why", "--page", "page.html", "#n1", "--tone"]).status(0);
    assert!(said.stdout.contains("--tone: teal"), "{}", said.stdout);
    let said = project.run(&["why", "--page", "page.html", "#p", "color"]).status(0);
    assert!(said.stdout.contains("nobody sets it: the initial value"), "{}", said.stdout);
    for (arguments, expected) in [
        (&["#n3", "color"][..], "nothing in the page matches `#n3`"),
        (&["#n1:", "color"], "`#n1:` is no selector a browser would read"),
        (&["#n1", "colour"], "write `color`"),
        (&["#n1", "color", "--state", "#n1:hoover"], "forces no state"),
        (&["#n1", "color", "--state", "#x:hover"], "nothing in the page matches `#x`"),
        (&["#n1", "color", "--css", "missing.css"], "cannot read `missing.css`"),
    ] {
        let said = project.run(&[&["why", "--page", "page.html"], arguments].concat()).status(2);
        assert!(said.stderr.contains(expected), "{}", said.stderr);
    }
}

#[test]
fn every_element_with_an_id_is_told_as_json() {
    let project = page();
    let said = project.run(&["why", "--page", "page.html", "--all", "--format", "json"]).status(0);
    let value: serde_json::Value = serde_json::from_str(&said.stdout).expect("JSON");
    let elements = &value["elements"];
    assert_eq!(elements["n1"]["color"], "rgb(0, 128, 0)");
    assert_eq!(elements["n2"]["opacity"], "0.5");
    assert_eq!(elements["n2::before"]["content"], "\"x\"");
    assert_eq!(elements["n2::before"]["padding-left"], "26.6667px");
    assert_eq!(elements["n1::before"]["content"], "none");
    assert!(elements["n2"].get("height").is_none(), "a height that nobody can know is told");
    assert!(value["unknown"].as_object().is_some_and(|reasons| !reasons.is_empty()));
    let dark = ["why", "--page", "page.html", "--all", "--format", "json", "--browser", "firefox"];
    let said = project.run(&dark).status(0);
    let value: serde_json::Value = serde_json::from_str(&said.stdout).expect("JSON");
    assert_eq!(value["elements"]["n2"]["padding-inline-start"], serde_json::Value::Null);
    assert_eq!(value["elements"]["n2"]["padding-left"], "4px");
}

#[test]
fn several_themes_are_one_document() {
    let project = Project::pier();
    let said = project.run(&["why", "button.outline:hover", "background-color", "--format", "json"]).status(0);
    let value: serde_json::Value = serde_json::from_str(&said.stdout).expect("JSON");
    let answers = value["answers"].as_array().expect("an answer for each look");
    let themes: Vec<&str> = answers
        .iter()
        .flat_map(|answer| answer["themes"].as_array().expect("themes"))
        .filter_map(|t| t.as_str())
        .collect();
    assert_eq!(themes, ["day", "night", "storm"]);
}

#[test]
fn one_value_is_told_as_json() {
    let project = page();
    let said = project.run(&["why", "--page", "page.html", "#n1", "color", "--format", "json"]).status(0);
    let value: serde_json::Value = serde_json::from_str(&said.stdout).expect("JSON");
    assert_eq!(value["value"], "rgb(0, 128, 0)");
    assert_eq!(value["declarations"][0]["place"]["line"], 4);
    assert_eq!(value["declarations"][1]["reason"], "layer");
    assert_eq!(value["declarations"][1]["layer"], "base");
}

#[test]
fn what_is_the_same_in_every_theme_is_told_once() {
    let project = Project::skerry();
    let said = project.run(&["why", "action", "background-color"]).status(0).stdout;
    assert_eq!(said.matches("won  controls/action.stilk").count(), 1, "{said}");
    assert!(said.contains("in kelp day; kelp night; coral day; coral night\n"), "{said}");
    let accent: Vec<&str> = said.lines().filter(|line| line.contains("{accent} =")).collect();
    assert_eq!(accent.len(), 4, "{said}");
    // Each theme has its own file, although one declaration stands for all of them.
    let of_night = accent.iter().filter(|line| line.contains("night]"));
    assert!(
        of_night.clone().count() == 2 && of_night.clone().all(|line| line.contains("tokens/night.tokens.json")),
        "{said}"
    );
    assert!(said.lines().count() < 40, "{said}");
    let one = project.run(&["why", "action", "background-color", "--theme", "coral night"]).status(0).stdout;
    assert!(!one.contains('[') && one.contains("in coral night\n"), "{one}");
}

#[test]
fn a_finding_names_the_file_of_the_theme_that_fails() {
    let project = Project::skerry().edit(
        "tokens/night.tokens.json",
        "\"accent-label\": {\n    \"$type\": \"color\",\n    \"$value\": \"{paper.page}\"",
        "\"accent-label\": {\n    \"$type\": \"color\",\n    \"$value\": \"{ink.strong}\"",
    );
    let said = project.run(&["check", "--only", "contrast/text"]).status(1).stdout;
    assert!(said.contains("--> tokens/night.tokens.json:") && !said.contains("--> tokens/day.tokens.json:"), "{said}");
}

#[test]
fn a_local_is_asked_for_by_its_name_in_the_sheet() {
    let project = Project::pier();
    let own = project.run(&["why", "button:hover", "--shade"]).status(0).stdout;
    let written = project.run(&["why", "button:hover", "--tern-button-shade"]).status(0).stdout;
    assert_eq!(own, written);
    assert!(own.contains("controls/button.stilk"), "{own}");
    let said = project.run(&["why", "button", "--shaed"]).status(2);
    assert_eq!(said.stderr, "error: `button` has no local `--shaed`: write `--shade`\n");
}

#[test]
fn what_attributes_stand_for_is_told_with_its_text() {
    let page =
        "<!doctype html><table bgcolor=tan><tr><td id=c bgcolor='#abc' style='color: red; margin: 1px'>x</table>";
    let project = Project::pier().file("old.html", page);
    let said = project.run(&["why", "--page", "old.html", "#c", "background-color"]).status(0);
    assert!(said.stdout.contains("presentational attributes"), "{}", said.stdout);
    assert!(said.stdout.contains("background-color: #abc"), "{}", said.stdout);
    let said = project.run(&["why", "--page", "old.html", "#c", "color"]).status(0);
    assert!(said.stdout.contains("style attribute") && said.stdout.contains("color: red"), "{}", said.stdout);
}
