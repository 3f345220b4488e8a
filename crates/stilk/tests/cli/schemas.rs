//! The JSON Schemas of the files that people write: as the reader's tables make them, and as the reader judges.

use crate::support::Project;
use serde_json::{Value, json};
use std::path::Path;
use stilk_language::describe::{schema, to_text};

fn schemas() -> [(&'static str, Value); 3] {
    [("manifest", schema::manifest()), ("tokens", schema::tokens()), ("resolver", schema::resolver())]
}

/// `STILK_ACCEPT=1` writes them anew.
#[test]
fn the_schemas_are_those_of_the_reader() {
    for (name, schema) in schemas() {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../docs/schema/{name}.schema.json"));
        let text = to_text(&schema);
        if std::env::var_os("STILK_ACCEPT").is_some() {
            std::fs::write(&path, &text).expect("the schema is written");
        }
        assert_eq!(std::fs::read_to_string(&path).unwrap_or_default(), text, "STILK_ACCEPT=1 writes {name}");
    }
}

fn wrong(schema: &Value, value: &Value) -> Vec<String> {
    let validator = jsonschema::validator_for(schema).expect("a schema");
    validator.iter_errors(value).map(|error| format!("{error} at {}", error.instance_path())).collect()
}

#[test]
fn what_is_read_without_an_error_is_as_the_schemas_say() {
    let [(_, manifest), (_, tokens), (_, resolver)] = schemas();
    for project in [Project::demo(), Project::pier(), Project::quay(), Project::skerry(), Project::jetty()] {
        for (path, text) in project.files(".").into_iter().filter(|(path, _)| !path.starts_with("dist/")) {
            let found = match path.rsplit('/').next().unwrap_or_default() {
                "stilk.toml" => wrong(&manifest, &toml::from_str(&text).expect(&path)),
                name if name.ends_with(".resolver.json") => {
                    wrong(&resolver, &serde_json::from_str(&text).expect(&path))
                }
                name if name.ends_with(".json") => wrong(&tokens, &serde_json::from_str(&text).expect(&path)),
                _ => continue,
            };
            assert_eq!(found, Vec::<String>::new(), "{path}");
        }
    }
}

/// Each value as the one token of a file: whether the reader takes it, and the schema.
#[test]
fn values_are_taken_and_refused_as_the_reader_does() {
    let [_, (_, schema), _] = schemas();
    for (kind, value) in [
        ("color", json!({ "colorSpace": "oklch", "components": [0.5, 0.1, "none"] })),
        ("color", json!({ "colorSpace": "oklch", "components": [0.5, 0.1] })),
        ("color", json!({ "colorSpace": "okl", "components": [0.5, 0.1, 20] })),
        ("color", json!("#123456")),
        ("color", json!(12)),
        ("dimension", json!({ "value": 4, "unit": "px" })),
        ("dimension", json!({ "value": 4, "unit": "em" })),
        ("dimension", json!({ "value": "4", "unit": "px" })),
        ("dimension", json!("16px")),
        ("dimension", json!(16)),
        ("duration", json!({ "value": 120, "unit": "ms" })),
        ("duration", json!({ "value": 120 })),
        ("fontFamily", json!(["Deck", "serif"])),
        ("fontFamily", json!([])),
        ("fontWeight", json!("bold")),
        ("fontWeight", json!("fat")),
        ("fontWeight", json!(1001)),
        ("cubicBezier", json!([0, 0, 1, 1])),
        ("cubicBezier", json!([0, 0, 1])),
        ("number", json!(1.5)),
        ("number", json!("1.5")),
        ("strokeStyle", json!("dashed")),
        ("strokeStyle", json!("wavy")),
        ("border", json!({ "width": { "value": 1, "unit": "px" }, "style": "solid", "color": "#000000" })),
        ("border", json!({ "width": { "value": 1, "unit": "px" }, "style": "solid" })),
        ("gradient", json!([{ "color": "#000000", "position": 0 }, { "color": "#ffffff", "position": 1 }])),
        ("gradient", json!({ "color": "#000000" })),
        ("sound", json!(1)),
    ] {
        let file = json!({ "one": { "$type": kind, "$value": value } });
        let project = Project::pier().file("one.tokens.json", to_text(&file)).edit(
            "stilk.toml",
            "tokens = \"ternhaven.resolver.json\"",
            "tokens = [\"one.tokens.json\"]",
        );
        let said = project.run(&["tokens"]);
        let refused = said.stderr.contains("error[token/value]")
            || said.stderr.contains("error[token/type]")
            || said.stderr.contains("error[token/shape]");
        assert_eq!(wrong(&schema, &file).is_empty(), !refused, "{kind} {value}\n{}", said.stderr);
    }
}
