//! In the manifest.

use super::Offers;
use super::values::offer_tokens;
use crate::context::sheet;
use crate::context::toml::{Cursor, at};
use lsp_types::CompletionItemKind as Kind;
use stilk_checks::registry::CHECKS;
use stilk_language::manifest::AsWritten;
use stilk_language::manifest::keys::TABLES;

pub(super) fn offer(offers: &mut Offers, offset: usize) {
    let cursor = at(offers.subject.text, offset);
    let modifiers: Vec<String> = offers
        .subject
        .snapshot
        .tokens()
        .into_iter()
        .flat_map(|tokens| tokens.modifiers.iter().map(|modifier| modifier.name.value.clone()))
        .collect();
    if cursor.is_head {
        for table in TABLES {
            match table.name.strip_suffix(".*") {
                Some(all) => {
                    for name in &modifiers {
                        offers.word(&format!("{all}.{name}"), Kind::MODULE, &cursor.word, 0);
                    }
                }
                None => offers.word(table.name, Kind::MODULE, &cursor.word, 0).words = Some(table.words.to_owned()),
            }
        }
        return;
    }
    let of_table = TABLES.iter().find(|table| match table.name.strip_suffix("*") {
        Some(begin) => cursor.table.starts_with(begin),
        None => table.name == cursor.table,
    });
    match (&cursor.key, of_table) {
        (None, Some(table)) => {
            for key in table.keys {
                let offer =
                    offers.text(key.name, format!("{} = {}", key.name, key.example), Kind::PROPERTY, &cursor.word, 0);
                offer.words = Some(key.words.to_owned());
            }
        }
        (Some(key), _) => offer_value(
            offers,
            &cursor,
            key,
            of_table.and_then(|table| table.keys.iter().find(|k| k.name == key)).map(|key| key.values),
        ),
        _ => {}
    }
}

fn offer_value(offers: &mut Offers, cursor: &Cursor, key: &str, values: Option<&[&str]>) {
    let quoted = |name: &str| if cursor.in_string { name.to_owned() } else { format!("\"{name}\"") };
    for value in values.unwrap_or_default() {
        // Numbers and truth values stand without quotes.
        let is_word = value.parse::<f64>().is_err() && !["true", "false"].contains(value);
        let text = if is_word { quoted(value) } else { (*value).to_owned() };
        offers.text(value, text, Kind::VALUE, &cursor.word, 0);
    }
    match (cursor.table.as_str(), key) {
        ("surfaces", _) => {
            let typed = &offers.subject.text[cursor.word.clone()];
            let brace = usize::from(typed.starts_with('{'));
            let range = cursor.word.start + brace..cursor.word.end;
            let quote = if cursor.in_string { "" } else { "\"" };
            let open = if brace == 1 { String::new() } else { format!("{quote}{{") };
            let rest = &offers.subject.text[cursor.word.end..];
            let close = if rest.starts_with('}') { String::new() } else { format!("}}{quote}") };
            offer_tokens(offers, &sheet::at("", 0), Some("background-color"), "", &range, (&open, &close));
        }
        ("stylesheet", "as_written") => {
            for name in AsWritten::WORDS {
                offers.text(name, quoted(name), Kind::VALUE, &cursor.word, 0);
            }
        }
        ("checks", "levels") => {
            for check in CHECKS {
                offers.text(check.id, quoted(check.id), Kind::CONSTANT, &cursor.word, 0).words =
                    Some(format!("Holds when {}.", check.summary));
            }
            for level in ["error", "warning", "note", "off"] {
                offers.text(level, quoted(level), Kind::VALUE, &cursor.word, 1);
            }
        }
        ("system", "tokens") => {
            let files: Vec<String> = offers.subject.snapshot.sources.all().map(|source| source.path.clone()).collect();
            for file in files.iter().filter(|file| file.ends_with(".json")) {
                offers.text(file, quoted(file), Kind::FILE, &cursor.word, 0);
            }
        }
        (table, "follow" | "scheme" | "marked") if table.starts_with("modifiers.") => {
            let modifier = table.trim_start_matches("modifiers.");
            let of = offers.subject.snapshot.tokens().map(|tokens| &tokens.modifiers);
            let contexts: Vec<String> = of
                .into_iter()
                .flatten()
                .filter(|known| known.name.value == modifier)
                .flat_map(|known| known.contexts.iter().map(|context| context.value.clone()))
                .collect();
            for name in &contexts {
                let text = if key == "follow" { quoted(name) } else { name.clone() };
                offers.text(name, text, Kind::ENUM_MEMBER, &cursor.word, 0);
            }
            if key == "follow" {
                for query in ["(prefers-color-scheme: dark)", "(prefers-contrast: more)", "(any-pointer: coarse)"] {
                    offers.text(query, quoted(query), Kind::VALUE, &cursor.word, 1);
                }
            }
        }
        _ => {}
    }
}
