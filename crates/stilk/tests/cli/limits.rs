//! What would take all the time or memory there is, is refused with a place, or looked at in part, which is said.

use crate::support::Project;

/// A system with one button.
fn small(sheet: &str, more: &[(&str, &str)]) -> Project {
    let color = |value: &str| {
        format!(r#"{{ "$type": "color", "$value": {{ "colorSpace": "srgb", "components": [{value}] }} }}"#)
    };
    let tokens = format!(r#"{{ "a": {}, "b": {} }}"#, color("0.1, 0.1, 0.1"), color("1, 1, 1"));
    let manifest = "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n[surfaces]\npage = \"{b}\"\n";
    let project = Project::empty()
        .file("stilk.toml", manifest)
        .file("t.tokens.json", tokens)
        .file("controls/x.html", "<button type=\"button\"><span part=\"label\">Go</span></button>\n")
        .file("controls/x.stilk", sheet);
    more.iter().fold(project, |project, (name, text)| project.file(name, text))
}

const PLAIN: &str = "@control x { color: {a}; background: {b}; }\n";

#[test]
fn options_are_never_multiplied() {
    let options: String = (0..30).map(|n| format!("@option o{n} {{ color: rgb({n} 0 0); }}\n")).collect();
    let project = small(&format!("@control x {{ color: {{a}}; background: {{b}};\n{options}}}"), &[]);
    let report: serde_json::Value = serde_json::from_str(&project.run(&["check", "--format", "json"]).stdout).unwrap();
    assert_eq!(report["cases"].as_u64(), Some(5 << 30));
    let sampled = &report["sampled"][0];
    assert_eq!(sampled["variants"].as_u64(), Some(1 << 30));
    // The default, each option, each two, each three together.
    assert_eq!(sampled["notLookedAt"].as_u64(), Some((1 << 30) - (1 + 30 + 435 + 4060)));
    let said = project.run(&["check"]).stdout;
    assert!(said.contains("at most three options were looked at"), "{said}");
    project.run(&["build"]).status(0);
    project.run(&["specimen"]).status(0);
    // Options that set what no check tells apart are all looked at by one of them.
    let options: String = (0..30).map(|n| format!("@option o{n} {{ accent-color: rgb({n} 0 0); }}\n")).collect();
    let project = small(&format!("@control x {{ color: {{a}}; background: {{b}};\n{options}}}"), &[]);
    let report: serde_json::Value = serde_json::from_str(&project.run(&["check", "--format", "json"]).stdout).unwrap();
    assert_eq!(report["sampled"].as_array().map(Vec::len), Some(0), "{report:#}");
}

#[test]
fn what_doubles_is_refused_with_its_place() {
    let extends: String = (1..30)
        .map(|n| {
            format!(r#", "g{n}": {{ "l": {{ "$extends": "{{g{0}}}" }}, "r": {{ "$extends": "{{g{0}}}" }} }}"#, n - 1)
        })
        .collect();
    let extends = format!(r#"{{ "g0": {{ "x": {{ "$type": "number", "$value": 1 }} }}{extends} }}"#);
    let sets: String = (1..15)
        .map(|n| {
            let sources = vec![format!(r##"{{ "$ref": "#/sets/s{}" }}"##, n - 1); 10].join(", ");
            format!(r#", "s{n}": {{ "sources": [{sources}] }}"#)
        })
        .collect();
    let sets = format!(
        r##"{{ "version": "2025.10", "sets": {{ "s0": {{ "sources": [{{ "$ref": "t.tokens.json" }}] }}{sets} }},
              "resolutionOrder": [{{ "$ref": "#/sets/s14" }}] }}"##
    );
    let modifier = |n: usize| {
        let contexts: Vec<String> = (0..10).map(|c| format!("\"c{c}\": []")).collect();
        format!(r#""m{n}": {{ "contexts": {{ {} }}, "default": "c0" }}"#, contexts.join(", "))
    };
    let order: String = (0..12).map(|n| format!(r##", {{ "$ref": "#/modifiers/m{n}" }}"##)).collect();
    let themes = format!(
        r##"{{ "version": "2025.10", "sets": {{ "s0": {{ "sources": [{{ "$ref": "t.tokens.json" }}] }} }},
              "modifiers": {{ {} }}, "resolutionOrder": [{{ "$ref": "#/sets/s0" }}{order}] }}"##,
        (0..12).map(modifier).collect::<Vec<_>>().join(", ")
    );
    let placed: Vec<(String, String)> = (1..30)
        .flat_map(|n| {
            let inner = if n == 1 { "x".to_owned() } else { format!("c{}", n - 1) };
            let tag = if n == 1 { "button" } else { "div" };
            let html = format!("<div>{}</div>", format!("<{tag} data-control=\"{inner}\"></{tag}>").repeat(2));
            [
                (format!("controls/c{n}.html"), html),
                (format!("controls/c{n}.stilk"), format!("@control c{n} {{ color: {{a}}; }}")),
            ]
        })
        .collect();
    let placed: Vec<(&str, &str)> = placed.iter().map(|(name, text)| (name.as_str(), text.as_str())).collect();
    let copies: String = (0..100)
        .map(|n| {
            format!(
                "@control c{n} from {} {{ gap: {n}px; }}\n",
                if n == 0 { "x".into() } else { format!("c{}", n - 1) }
            )
        })
        .collect();
    let nested = "@state hover, active, focus { ".repeat(12) + "gap: 1px" + &" }".repeat(12);
    let exclusions: String = (0..16).map(|n| format!("@option o{n} {{ gap: {n}px; }}\n")).collect::<String>()
        + &(1..16).map(|n| format!("@exclude o{} with o{n};\n", n - 1)).collect::<String>();
    for (project, words) in [
        (small(PLAIN, &[("t.tokens.json", &extends)]), "come to more than 200000 entries"),
        (small(PLAIN, &[("t.resolver.json", &sets)]).resolved(), "come to more than 100000 tokens"),
        (small(PLAIN, &[("t.resolver.json", &themes)]).resolved(), "there are more than 1024 themes"),
        (small(PLAIN, &placed), "elements with all that is placed in it"),
        (small(&format!("{PLAIN}{copies}"), &[]), "is a copy of a copy, more than 32 times over"),
        (small(&format!("@control x {{ color: {{a}}; {nested} }}"), &[]), "comes to more than 10000 rules"),
        (small(&format!("@control x {{ color: {{a}}; {exclusions} }}"), &[]), "tie more than 20000 combinations"),
    ] {
        let said = project.run(&["check"]).status(2).stderr;
        // Words may stand on two lines.
        let flat = said.split_whitespace().collect::<Vec<_>>().join(" ");
        assert!(flat.contains(words), "{words}: {said}");
    }
}

impl Project {
    fn resolved(self) -> Project {
        self.edit("stilk.toml", "tokens = [\"t.tokens.json\"]", "tokens = \"t.resolver.json\"")
    }
}

#[test]
fn ten_thousand_mistakes_are_counted_and_some_shown() {
    let mistakes: String = (0..10_000).map(|n| format!("colr{n}: red;\n")).collect();
    let said = small(&format!("@control x {{ color: {{a}};\n{mistakes}}}"), &[]).run(&["build"]).status(2).stderr;
    assert!(
        said.contains("there is no property `colr0`") && said.contains("and 9,800 more, not shown"),
        "{}",
        &said[..500]
    );
    assert!(said.ends_with("10,000 errors; nothing was written\n"));
    // A name that nobody typed.
    let name = "x".repeat(1_000_000);
    let said = small(&format!("@control x {{ color: {{a}}; {name}: red; }}"), &[]).run(&["build"]).status(2).stderr;
    assert!(said.len() < 4_000, "{} bytes are printed", said.len());
}

#[test]
fn the_limits_in_the_docs_are_those_of_the_program() {
    let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let docs = std::fs::read_to_string(root.join("docs/limits.md")).unwrap();
    let code = std::fs::read_to_string(root.join("crates/stilk-language/src/limits.rs")).unwrap();
    for line in code.lines().filter_map(|line| line.strip_prefix("pub const ")) {
        let (name, value) = (line.split(':').next().unwrap(), line.split("= ").nth(1).unwrap().trim_end_matches(';'));
        let value = value.replace('_', ",");
        assert!(docs.contains(&format!("| {value} |")), "{name}: {value} is not in docs/limits.md");
    }
}
