//! Random edits and questions: nothing breaks, and a text that is changed piece by piece is the one that is replaced.

use crate::machine::{ROOT, Texts, editor, project};
use fastrand::Rng;
use lsp_types::{Position, Range, TextDocumentContentChangeEvent};
use serde_json::json;
use stilk_editor::answer::answer;
use stilk_editor::feature::Client;
use stilk_editor::place::{Encoding, Lines};

/// Whatever people type, and what nobody should.
const TYPED: [&str; 24] = [
    "{", "}", ";", ":", "@", "&", "\"", "/*", "*/", "(", ")", "--x", "var(", "{ink.", "\n", " ", "@state ", "@part ",
    "⛴", "🏝", "\u{0}", "\r\n", "[", "\\",
];

const METHODS: [&str; 18] = [
    "textDocument/completion",
    "textDocument/hover",
    "textDocument/definition",
    "textDocument/references",
    "textDocument/documentHighlight",
    "textDocument/documentSymbol",
    "textDocument/foldingRange",
    "textDocument/selectionRange",
    "textDocument/documentLink",
    "textDocument/documentColor",
    "textDocument/inlayHint",
    "textDocument/semanticTokens/full",
    "textDocument/codeLens",
    "textDocument/formatting",
    "textDocument/codeAction",
    "textDocument/prepareRename",
    "textDocument/rename",
    "workspace/symbol",
];

fn somewhere(lines: Lines, length: usize, random: &mut Rng) -> Position {
    lines.position(random.usize(..=length))
}

#[test]
fn nothing_that_is_typed_or_asked_breaks_anything() {
    let full = std::env::var_os("STILK_FULL").is_some();
    let seed = std::env::var("STILK_SEED").ok().and_then(|seed| seed.parse().ok()).unwrap_or(3);
    for (number, encoding) in [Encoding::Utf8, Encoding::Utf16].into_iter().enumerate() {
        let mut random = Rng::with_seed(seed + number as u64);
        let client = Client { encoding, renames_files: true, takes_snippets: true, explained: None };
        let mut texts: Texts = project();
        let mut editor = editor(&texts, client);
        let names: Vec<String> = texts.0.keys().cloned().collect();
        for step in 0..if full { 20_000 } else { 400 } {
            let name = &names[random.usize(..names.len())];
            let uri = format!("file://{ROOT}/{name}").parse().expect("a URI");
            // The same change, piece by piece and as a whole.
            let text = texts.0[name].clone();
            let lines = Lines::new(&text, encoding);
            let (a, b) = (somewhere(lines, text.len(), &mut random), somewhere(lines, text.len(), &mut random));
            let near = Position { character: a.character + random.u32(..4), ..a };
            let (start, end) = match random.u8(..8) {
                0 => (a.min(b), a.max(b)),
                1..=3 => (a, near),
                _ => (a, a),
            };
            let typed = TYPED[random.usize(..TYPED.len())];
            let mut whole = text.clone();
            let (from, to) = (lines.offset(start), lines.offset(end));
            whole.replace_range(from..to.max(from), typed);
            // Now and then a file is as it was.
            let whole = if random.u8(..6) == 0 { project().0[name].clone() } else { whole };
            if editor.version(&format!("{ROOT}/{name}")).is_none() {
                editor.open(&uri, text.clone(), 1);
            }
            let change = match whole == project().0[name] {
                true => TextDocumentContentChangeEvent { range: None, range_length: None, text: whole.clone() },
                false => TextDocumentContentChangeEvent {
                    range: Some(Range { start, end }),
                    range_length: None,
                    text: typed.to_owned(),
                },
            };
            editor.change(&uri, vec![change], step);
            texts.0.insert(name.clone(), whole.clone());
            editor.read(ROOT);
            let now = editor.about(&uri, false, |subject, _| subject.text.to_owned()).expect("the file");
            // A file that is no part of the project any more is still the one that was typed.
            assert_eq!(
                now.trim_start_matches('\u{feff}'),
                whole.trim_start_matches('\u{feff}'),
                "{name}, seed {seed}, step {step}"
            );
            let _ = editor.publications(ROOT);
            let method = METHODS[random.usize(..METHODS.len())];
            let lines = Lines::new(&whole, encoding);
            let place = somewhere(lines, whole.len(), &mut random);
            let new_name = ["x", "--y", "ink.z", ""][random.usize(..4)];
            let asked = json!({
                "textDocument": { "uri": uri },
                "position": place,
                "positions": [place],
                "range": { "start": place, "end": somewhere(lines, whole.len(), &mut random) },
                "context": { "includeDeclaration": true, "diagnostics": [], "triggerKind": 1 },
                "newName": new_name,
                "options": { "tabSize": 2, "insertSpaces": true },
                "query": "in",
            });
            if let Err(why) = answer(&editor, method, asked) {
                assert!(method.contains("ename"), "{method}: {}", why.message);
            }
        }
    }
}
