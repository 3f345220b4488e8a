//! The editor's side without a program around it: names across files, and whatever anybody may type and ask.

mod machine;
mod random;

use lsp_types::{Position, Uri};
use machine::{ROOT, editor, project};
use serde_json::{Value, json};
use std::str::FromStr;
use stilk_editor::answer::answer;
use stilk_editor::editor::Editor;
use stilk_editor::feature::Client;
use stilk_editor::place::Encoding;

fn uri(file: &str) -> Uri {
    Uri::from_str(&format!("file://{ROOT}/{file}")).expect("a URI")
}

fn opened() -> Editor {
    let client = Client { encoding: Encoding::Utf8, renames_files: true, takes_snippets: false, explained: None };
    let mut editor = editor(&project(), client);
    editor.read(ROOT);
    editor
}

/// The position of a text in a file, some bytes into it.
fn at(file: &str, needle: &str, into: usize) -> Value {
    let texts = project();
    let text = &texts.0[file];
    let offset = text.find(needle).unwrap_or_else(|| panic!("{file} does not hold {needle}")) + into;
    let line = text[..offset].matches('\n').count() as u32;
    let start = text[..offset].rfind('\n').map_or(0, |at| at + 1);
    let position = Position { line, character: (offset - start) as u32 };
    json!({ "textDocument": { "uri": uri(file) }, "position": position, "context": { "includeDeclaration": true } })
}

/// The files and lines that a name stands at.
fn places(editor: &Editor, file: &str, needle: &str, into: usize) -> Vec<String> {
    let found = answer(editor, "textDocument/references", at(file, needle, into)).expect("an answer");
    let mut places: Vec<String> = found
        .as_array()
        .expect("a list")
        .iter()
        .map(|one| {
            let name = one["uri"].as_str().unwrap_or_default().rsplit('/').next().unwrap_or_default().to_owned();
            format!("{name}:{}", one["range"]["start"]["line"].as_u64().unwrap_or_default() + 1)
        })
        .collect();
    places.sort();
    places
}

#[test]
fn a_name_stands_where_its_meaning_does() {
    let editor = opened();
    assert!(editor.project(ROOT).is_some_and(|project| project.snapshot.system.is_some()));
    let sheet = "controls/lever.stilk";
    // A token: keys in both themes, an alias, sheets.
    let strong = places(&editor, sheet, "{ink.strong}", 2);
    assert_eq!(
        strong,
        ["base.tokens.json:2", "base.tokens.json:2", "lever.stilk:4", "night.tokens.json:1", "shared.stilk:1"]
    );
    // A local that another control sets on the part that is this one.
    assert_eq!(
        places(&editor, sheet, "--fill: {ink.strong}", 3),
        ["lever.stilk:4", "lever.stilk:5", "lever.stilk:7", "pair.stilk:1"]
    );
    // An option: in its sheet, a template, the manifest, a page's class.
    let loud = places(&editor, sheet, "loud {", 1);
    assert_eq!(loud, ["lever.stilk:11", "lever.stilk:9", "page.html:1", "pair.html:1", "stilk.toml:10"]);
    assert_eq!(places(&editor, sheet, "docked", 2), ["lever.stilk:8", "stilk.toml:8"]);
    assert_eq!(
        places(&editor, sheet, "@part label", 8),
        ["lever.html:1", "lever.html:2", "lever.stilk:6", "page.html:1"]
    );
    assert_eq!(places(&editor, "controls/shared.stilk", "turn 1s", 2), ["shared.stilk:2", "shared.stilk:3"]);
    assert_eq!(places(&editor, sheet, "@control lever", 11).len(), 6);
    // From a page as well.
    assert_eq!(places(&editor, "pages/page.html", "t-lever-loud", 9), loud);
}

#[test]
fn a_state_of_the_manifest_and_keyframes_are_renamed() {
    let editor = opened();
    for (file, needle, into, new, count) in [
        ("controls/lever.stilk", "docked", 2, "moored", 2),
        ("controls/shared.stilk", "turn 1s", 2, "spin", 1),
        ("controls/shared.stilk", "edge:", 2, "rim", 1),
    ] {
        let mut asked = at(file, needle, into);
        asked["newName"] = json!(new);
        let edit =
            answer(&editor, "textDocument/rename", asked).unwrap_or_else(|why| panic!("{needle}: {}", why.message));
        assert_eq!(edit["documentChanges"].as_array().unwrap().len(), count, "{needle}");
    }
    let mut asked = at("controls/lever.stilk", "docked", 2);
    asked["newName"] = json!("hover");
    assert!(
        answer(&editor, "textDocument/rename", asked).unwrap_err().message.contains("there is a state `hover` already")
    );
}
