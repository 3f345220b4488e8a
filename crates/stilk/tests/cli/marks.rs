//! Controls, options, parts and themes that keep the names that pages had before.

use crate::support::Project;
use serde_json::Value;

#[test]
fn names_that_pages_had_are_written_at_the_weight_of_all_others() {
    let project = Project::jetty();
    project.run(&["build"]).status(0);
    let css = project.read("dist/jetty.css");
    for selector in [
        ".cta {",
        ":where(.cta) .cta-icon {",
        ":where(.cta) [data-label] {",
        ".cta:where(.cta-ghost) {",
        ".cta:where([data-loud]) {",
        ".cta:where([data-size=\"s\"]) {",
        // An id asks for no more than a class does.
        ".cta:where([id=\"send\"]) {",
        ".cta:where(.cta-ghost):where([data-size=\"s\"]) {",
        ":where(.cta:where(.is-loading)) [data-label] {",
        "[data-field]:where(.is-wide) {",
        ":where([data-field]:where(:has(> .field-input:where(:focus-visible)))) .field-input {",
        // By the manifest's pattern where the sheet says nothing.
        ":where([data-field]) .jetty-field_caption {",
        ":where([data-theme=\"dusk\"], .theme-dusk) {",
        ":where(:root:not([data-theme=\"day\"], [data-theme=\"dusk\"], .theme-dusk)) {",
    ] {
        assert!(css.contains(selector), "{selector}\n{css}");
    }
    let flat =
        Project::jetty().edit("stilk.toml", "folder = \"dist\"", "folder = \"dist\"\nlayers = false\nweight = 2");
    flat.run(&["build"]).status(0);
    let css = flat.read("dist/jetty.css");
    for selector in [
        ".cta.cta:where([id=\"send\"]) {",
        "[data-field][data-field]:where(.is-wide) {",
        ":where(.cta) .cta-icon.cta-icon {",
    ] {
        assert!(css.contains(selector), "{selector}\n{css}");
    }
}

#[test]
fn markup_is_what_pages_have() {
    let project = Project::jetty();
    let icon = "<span class=\"cta-icon\"></span>";
    for (case, expected) in [
        ("cta", format!("<button class=\"cta\" type=\"button\">{icon}<span data-label=\"\">Book</span></button>")),
        (
            "cta.ghost.small",
            format!(
                "<button class=\"cta cta-ghost\" data-size=\"s\" type=\"button\">{icon}<span data-label=\"\">Book</span></button>"
            ),
        ),
        // Its id stays, whatever ids of snippets begin with.
        (
            "cta.send:loading",
            format!(
                "<button class=\"cta is-loading\" id=\"send\" type=\"button\">{icon}<span data-label=\"\">Book</span></button>"
            ),
        ),
    ] {
        let said = project.run(&["markup", case]).status(0);
        assert_eq!(said.stdout.trim(), expected, "{case}");
    }
    let field = project.run(&["markup", "field.wide"]).status(0).stdout;
    assert!(field.starts_with("<label data-field=\"\" class=\"is-wide\">"), "{field}");
}

#[test]
fn pages_are_scanned_by_those_names_and_elsewhere_they_say_nothing() {
    let project = Project::jetty();
    let said = project.run(&["scan", "--format", "json"]);
    let report: Value = serde_json::from_str(&said.stdout).expect("a report");
    let controls = &report["scan"]["controls"];
    assert_eq!((&controls[0]["control"], &controls[0]["used"]), (&"cta".into(), &3.into()));
    for option in ["ghost", "small", "send"] {
        assert_eq!(controls[0]["options"][option], 1, "{option}");
    }
    assert_eq!(controls[0]["states"]["loading"], 1);
    assert_eq!((&controls[1]["control"], &controls[1]["options"]["wide"]), (&"field".into(), &1.into()));
    let findings = report["findings"].as_array().expect("findings");
    assert!(findings.is_empty(), "{findings:#?}");
}

#[test]
fn a_theme_is_chosen_by_what_pages_had() {
    let project = Project::jetty();
    project.run(&["build"]).status(0);
    let color = |page: &str| {
        let said = project.run(&["why", "--page", page, "--format", "json", "button", "background-color"]).status(0);
        let report: Value = serde_json::from_str(&said.stdout).expect("a report");
        report["value"].as_str().unwrap_or_default().to_owned()
    };
    let dusk = color("page.html");
    project.write("day.html", &project.read("page.html").replace(" class=\"theme-dusk\"", ""));
    project.write("named.html", &project.read("page.html").replace("class=\"theme-dusk\"", "data-theme=\"dusk\""));
    assert_ne!(color("day.html"), dusk);
    assert_eq!(color("named.html"), dusk);
}

#[test]
fn programs_are_told_by_what_a_page_has_them() {
    let project = Project::jetty();
    project.run(&["build"]).status(0);
    let system: Value = serde_json::from_str(&project.read("dist/system.json")).expect("a system");
    let control = |name: &str| {
        let mut all = system["controls"].as_array().expect("controls").iter();
        all.find(|control| control["name"] == name).expect("a control")
    };
    assert_eq!(control("cta")["class"], "cta");
    assert_eq!((&control("field")["class"], &control("field")["attribute"]), (&Value::Null, &"data-field".into()));
    let options = |axis: usize| control("cta")["axes"][axis]["options"].as_array().expect("options").clone();
    assert_eq!(options(0)[0]["class"], "cta-ghost");
    assert_eq!((&options(0)[1]["attribute"], &options(0)[1]["value"]), (&"data-loud".into(), &Value::Null));
    assert_eq!((&options(1)[1]["attribute"], &options(1)[1]["value"]), (&"data-size".into(), &"s".into()));
    assert_eq!((&options(2)[0]["attribute"], &options(2)[0]["value"]), (&"id".into(), &"send".into()));
    assert_eq!(system["modifiers"][0]["marked"]["dusk"], ".theme-dusk");
    let types = project.read("dist/jetty.d.ts");
    assert!(types.contains("\"cta-ghost\"") && !types.contains("data-loud"), "{types}");
}

#[test]
fn what_is_no_mark_is_an_error_at_its_place() {
    let sheet = "@control act marked (.a .b) {\n  @part label marked (span b) { color: red; }\n  @axis k { plain { } loud marked (.x:hover) { } }\n\
                 @option wide marked () { }\n  @state hover { @part label marked (.l) { color: blue; } }\n  @part label:first-child marked (.f) { color: blue; }\n}\n";
    let project = Project::empty()
        .file("stilk.toml", "[system]\nname = \"X\"\nprefix = \"x\"\ntokens = \"t.json\"\ncontrols = \"controls\"\n[modifiers.theme]\nmarked = { night = \"body .dark\" }\n")
        .file("t.json", "{}")
        .file("controls/act.html", "<button type=\"button\"><span part=\"label\"><slot>x</slot></span></button>")
        .file("controls/act.stilk", sheet);
    let said = project.run(&["build"]).status(2);
    let said = format!("{}{}", said.stdout, said.stderr);
    assert!(said.contains("`body .dark` is no mark"), "{said}");
    let project = project.edit("stilk.toml", "[modifiers.theme]\nmarked = { night = \"body .dark\" }\n", "");
    let said = project.run(&["build"]).status(2);
    let said = format!("{}{}", said.stdout, said.stderr);
    for words in [
        "`.a .b` is no mark: it is one class, one attribute or one id",
        "controls/act.stilk:1:22",
        "`span b` is no mark",
        "controls/act.stilk:2:23",
        "`.x:hover` is no mark",
        "`marked` names nothing",
        "a mark stands under no condition and in no trait",
        "a mark belongs to one part",
    ] {
        assert!(said.contains(words), "{words}\n{said}");
    }
}

#[test]
fn one_mark_says_one_thing_in_a_control_and_may_say_another_in_the_next() {
    let with = |sheet: &str| {
        Project::jetty().edit("controls/field.stilk", "@option wide marked (.is-wide) { inline-size: 100%; }", sheet)
    };
    // `.cta-ghost` is an option of buttons too.
    with("@option wide marked (.cta-ghost) { inline-size: 100%; }").run(&["build"]).status(0);
    let twice =
        with("@option wide marked (.w) { inline-size: 100%; }\n  @option full marked (.w) { inline-size: 50%; }");
    let said = twice.run(&["build"]).status(2);
    let said = format!("{}{}", said.stdout, said.stderr);
    assert!(said.contains("written the class `w`"), "{said}");
    // Two controls with one mark are two names for one thing.
    let same = Project::jetty().edit("controls/field.stilk", "marked ([data-field])", "marked (.cta)");
    let said = same.run(&["build"]).status(2);
    let said = format!("{}{}", said.stdout, said.stderr);
    assert!(said.contains("written the class `cta`"), "{said}");
}

#[test]
fn a_copy_has_marks_of_its_own() {
    let project = Project::jetty().file("controls/pill.stilk", "@control pill from cta { border-radius: 30px; }\n");
    project.run(&["build"]).status(0);
    let said = project.run(&["markup", "pill.ghost"]).status(0);
    assert!(said.stdout.starts_with("<button class=\"jetty-pill jetty-pill-ghost\""), "{}", said.stdout);
    assert!(said.stdout.contains("class=\"jetty-pill_icon\""), "{}", said.stdout);
}
