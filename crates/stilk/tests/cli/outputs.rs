//! What `stilk build` writes beside the stylesheet, and `stilk new`.

use crate::support::Project;
use serde_json::Value;

fn json(text: &str) -> Value {
    serde_json::from_str(text).unwrap()
}

#[test]
fn the_description_is_as_its_schema_says() {
    let schema = json(include_str!("../../../../docs/schema/system.schema.json"));
    let validator = jsonschema::validator_for(&schema).unwrap();
    for (project, is_there) in [(Project::demo(), true), (Project::pier(), false), (Project::quay(), true)] {
        project.run(&["build"]).status(0);
        let description = json(&project.read("dist/system.json"));
        let wrong: Vec<String> =
            validator.iter_errors(&description).map(|e| format!("{} at {}", e, e.instance_path())).collect();
        assert_eq!(wrong, [""; 0]);
        // Where a control has its place is told from both sides.
        let controls = description["controls"].as_array().expect("controls");
        for control in controls {
            for outer in control["inside"].as_array().expect("names") {
                let outer = controls.iter().find(|known| known["name"] == *outer).expect("a control");
                assert!(outer["places"].as_array().expect("names").contains(&control["name"]), "{control}");
            }
        }
        let has_inside = |control: &Value| control["inside"] != serde_json::json!([]);
        assert_eq!(controls.iter().any(has_inside), is_there);
    }
    let wrong = json(r#"{ "name": "x" }"#);
    assert!(!validator.is_valid(&wrong));
}

#[test]
fn the_description_tells_classes_markup_and_values() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let description = json(&project.read("dist/system.json"));
    let button = &description["controls"][0];
    assert_eq!(button["class"], "tern-button");
    assert_eq!(button["axes"][0]["options"][0]["class"], Value::Null);
    assert_eq!(button["axes"][0]["options"][1]["class"], "tern-button-kelp");
    assert!(button["hosts"][1]["markup"].as_str().unwrap().starts_with("<a class=\"tern-button\""));
    let fill = &description["tokens"]["fill.sea"];
    assert_eq!(fill["property"], "--tern-fill-sea");
    assert_eq!(fill["value"]["night"], "oklch(0.82 0.09 222)");
    assert_eq!(description["tokens"]["focus.gap"]["value"], "2px");
}

#[test]
fn tokens_are_resolved_for_each_theme() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let night = json(&project.read("dist/tokens/night.tokens.json"));
    assert_eq!(night["fill"]["sea"]["$type"], "color");
    assert_eq!(night["fill"]["sea"]["$value"]["components"], serde_json::json!([0.82, 0.09, 222]));
    // Derived tokens are computed.
    assert_eq!(night["focus"]["ring"]["$value"]["colorSpace"], "oklch");
    // What was written is a token file: a system can be built on it.
    let text = project.read("dist/tokens/night.tokens.json");
    let again = Project::pier()
        .file("flat.tokens.json", text)
        .edit("stilk.toml", "tokens = \"ternhaven.resolver.json\"", "tokens = [\"flat.tokens.json\"]")
        .edit(
            "controls/shared.stilk",
            "@derive {\n  focus.ring: color-mix(in oklab, {fill.sea}, {ink.strong} 35%);\n}",
            "",
        );
    let manifest = again.read("stilk.toml");
    let cut = manifest.find("[modifiers").unwrap()..manifest.find("[surfaces").unwrap();
    let manifest = format!("{}{}", &manifest[..cut.start], &manifest[cut.end..]);
    again.file("stilk.toml", manifest).run(&["build"]).status(0);
}

#[test]
fn types_name_classes_options_and_tokens() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let types = project.read("dist/ternhaven.d.ts");
    for line in [
        "    host: \"button\" | \"a\" | \"submit\" | \"reset\";",
        "    \"color\"?: \"sea\" | \"kelp\" | \"buoy\";",
        "  | \"tern-button-kelp\"",
        "  \"theme\": \"day\" | \"night\" | \"storm\";",
        "  | \"--tern-fill-sea\"",
    ] {
        assert!(
            types.lines().any(|found| found.trim_end_matches(';') == line.trim_end_matches(';')),
            "{line}\nis not in\n{types}"
        );
    }
}

/// The segments of a source map: the line and column that are written, the source, and its line and column.
fn segments(mappings: &str) -> Vec<[usize; 5]> {
    let mut found = Vec::new();
    let mut at = [0i64; 4];
    for (line, segments) in mappings.split(';').enumerate() {
        at[0] = 0;
        for segment in segments.split(',').filter(|segment| !segment.is_empty()) {
            let mut bytes = segment.bytes();
            at.iter_mut().for_each(|field| *field += vlq::decode(&mut bytes).unwrap());
            assert_eq!(bytes.next(), None, "{segment} has four fields");
            let [column, source, source_line, source_column] = at.map(|field| field as usize);
            found.push([line, column, source, source_line, source_column]);
        }
    }
    found
}

/// ECMA-426: version 3, sources with their contents, and every mapping at a place that is there on both sides.
#[test]
fn a_source_map_leads_from_declarations_to_sheets_and_tokens() {
    let project = Project::pier().edit("stilk.toml", "folder = \"dist\"", "folder = \"dist/css\"\nmap = true");
    for arguments in [&["build"][..], &["build", "--minify"]] {
        project.run(arguments).status(0);
        let css = project.read("dist/css/ternhaven.css");
        assert!(css.ends_with("/*# sourceMappingURL=ternhaven.css.map */\n"));
        let text = project.read("dist/css/ternhaven.css.map");
        let raw = json(&text);
        assert_eq!(raw["version"], 3);
        assert_eq!(raw["file"], "ternhaven.css");
        assert_eq!(raw["sources"].as_array().unwrap().len(), raw["sourcesContent"].as_array().unwrap().len());
        let segments = segments(raw["mappings"].as_str().unwrap());
        let (written, mut seen) = (css.lines().collect::<Vec<_>>(), 0);
        for [line, column, source, source_line, source_column] in &segments {
            let path = raw["sources"][source].as_str().unwrap().strip_prefix("../../").unwrap();
            let sheet = project.read(path);
            let from = &sheet.lines().nth(*source_line).unwrap()[*source_column..];
            let to = &written[*line][*column..];
            // A declaration that is written as it stands is found under its own name.
            if path.ends_with("button.stilk") && from.starts_with("cursor: pointer") {
                assert!(to.starts_with("cursor:"), "{to}");
                seen += 1;
            }
        }
        assert!(seen > 0 && segments.len() > 50);
    }
}

#[test]
fn a_split_stylesheet_loads_as_one() {
    let whole = Project::pier();
    whole.run(&["build"]).status(0);
    let split = Project::pier().edit("stilk.toml", "folder = \"dist\"", "split = \"theme\"");
    let said = split.run(&["build"]).status(0);
    assert!(said.stdout.contains("ternhaven.css and 2 more"), "{}", said.stdout);
    let lines = |text: &str| {
        let mut lines: Vec<String> = text.lines().map(|line| line.trim().to_owned()).collect();
        lines.retain(|line| line.ends_with(';') && !line.starts_with('@'));
        lines.sort();
        lines
    };
    let parts = ["ternhaven.css", "ternhaven.theme-night.css", "ternhaven.theme-storm.css"]
        .map(|name| split.read(&format!("dist/{name}")));
    assert_eq!(lines(&parts.concat()), lines(&whole.read("dist/ternhaven.css")));
    assert!(!parts[0].contains("data-theme=\"night\"] {") && parts[1].contains("[data-theme=\"night\"]"));
    // Each begins with the order of the layers, whichever is loaded first.
    assert!(parts.iter().all(|part| part.contains("@layer tern { @layer token, reset,")));
    let description = json(&split.read("dist/system.json"));
    assert_eq!(description["stylesheets"].as_array().unwrap().len(), 3);
}

#[test]
fn only_tokens_in_use_are_written_unless_all_are_asked_for() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    assert!(!project.read("dist/ternhaven.css").contains("--tern-gull-grey"));
    let project = Project::pier().edit("stilk.toml", "folder = \"dist\"", "tokens = \"all\"");
    project.run(&["build"]).status(0);
    assert!(project.read("dist/ternhaven.css").contains("--tern-gull-grey:"));
    // Everything that is there without the option is there with it, members of composite tokens too.
    let lines = |option: &str| {
        let project = Project::demo().edit("stilk.toml", "folder = \"dist\"", option);
        project.run(&["build"]).status(0);
        project.read("dist/ternhaven.css").lines().map(str::to_owned).collect::<std::collections::BTreeSet<_>>()
    };
    let (used, all) = (lines("tokens = \"used\""), lines("tokens = \"all\""));
    assert!(used.is_subset(&all) && used.len() < all.len());
    let said = Project::pier().edit("stilk.toml", "folder = \"dist\"", "tokens = \"some\"").run(&["build"]).status(2);
    assert!(said.stderr.contains("`tokens` is `\"used\"` or `\"all\"`"), "{}", said.stderr);
}

#[test]
fn a_new_system_is_complete_and_clean() {
    let project = Project::empty();
    let said = project.run(&["new", "harbour office", "--prefix", "ho"]).status(0);
    assert!(said.stdout.contains(": nothing to mend"), "{}", said.stdout);
    let least = project.run(&["new", "least", "--bare"]).status(0).stdout;
    assert!(least.contains("none unknown: nothing to mend"), "{least}");
    project.run(&["check", "--project", "harbour office"]).status(0);
    project.run(&["build", "--project", "harbour office"]).status(0);
    assert!(project.read("harbour office/dist/harbour-office.css").contains(".ho-button"));
    // Nothing is ever written over.
    let project = project.edit("harbour office/stilk.toml", "AAA", "AA");
    let before = project.files("harbour office");
    let said = project.run(&["new", "harbour office"]).status(2);
    assert!(said.stderr.contains("are there already, and nothing was written"), "{}", said.stderr);
    assert_eq!(project.files("harbour office"), before);
}
