//! Token files and the resolver.

use crate::properties::{TokenDraft, TokenText};
use crate::themes::ModifierDraft;
use serde_json::{Map, Value as Json, json};

/// The file of the tokens in their usual contexts.
pub const BASE: &str = "tokens/base.tokens.json";

/// The file of a context's tokens.
fn of_context(modifier: &ModifierDraft, at: usize) -> String {
    format!("tokens/{}-{}.tokens.json", modifier.name, modifier.contexts[at].name)
}

/// Every file: its path and its text. Without themes there is one.
pub fn write(name: &str, tokens: &[TokenDraft], modifiers: &[ModifierDraft]) -> Vec<(String, String)> {
    let mut files = vec![(BASE.to_owned(), text(&of(tokens.iter().map(|token| (token, &token.base)))))];
    if modifiers.is_empty() {
        return files;
    }
    let mut said = Map::new();
    for (m, modifier) in modifiers.iter().enumerate() {
        let mut contexts = Map::new();
        for (c, context) in modifier.contexts.iter().enumerate() {
            let own: Vec<_> = tokens.iter().filter_map(|token| Some((token, token.contexts.get(&(m, c))?))).collect();
            let mut sources = Vec::new();
            if !own.is_empty() {
                let path = of_context(modifier, c);
                sources.push(json!({ "$ref": path }));
                files.push((path, text(&of(own.into_iter()))));
            }
            contexts.insert(context.name.clone(), Json::Array(sources));
        }
        said.insert(modifier.name.clone(), json!({ "contexts": contexts, "default": modifier.contexts[0].name }));
    }
    let mut order = vec![json!({ "$ref": "#/sets/base" })];
    order.extend(modifiers.iter().map(|modifier| json!({ "$ref": format!("#/modifiers/{}", modifier.name) })));
    let resolver = json!({
        "version": "2025.10",
        "name": name,
        "sets": { "base": { "sources": [{ "$ref": BASE }] } },
        "modifiers": said,
        "resolutionOrder": order,
    });
    files.push((resolver_path(name), text(&resolver)));
    files
}

/// The path of the resolver.
pub fn resolver_path(name: &str) -> String {
    format!("{}.resolver.json", crate::naming::identifier(name))
}

/// Tokens that CSS computes, as a sheet has them.
pub fn derived(tokens: &[TokenDraft]) -> Option<String> {
    let lines: Vec<String> = tokens
        .iter()
        .filter_map(|token| match &token.base {
            TokenText::Derived(text) => Some(format!("  {}: {text};\n", token.path)),
            _ => None,
        })
        .collect();
    (!lines.is_empty()).then(|| format!("/* Tokens that CSS computes. */\n@derive {{\n{}}}\n", lines.concat()))
}

fn of<'t>(tokens: impl Iterator<Item = (&'t TokenDraft, &'t TokenText)>) -> Json {
    let mut root = Map::new();
    for (token, said) in tokens {
        let leaf = match said {
            TokenText::Value(kind, value) => json!({ "$type": kind, "$value": value }),
            TokenText::Alias(path) => json!({ "$value": format!("{{{path}}}") }),
            TokenText::Derived(_) => continue,
        };
        let words: Vec<&str> = token.path.split('.').collect();
        insert(&mut root, &words, leaf);
    }
    Json::Object(root)
}

/// Puts a token into its group; names are made so that a path is either a group or a token.
fn insert(group: &mut Map<String, Json>, path: &[&str], leaf: Json) {
    match path {
        [] => {}
        [last] => drop(group.insert((*last).to_owned(), leaf)),
        [first, rest @ ..] => {
            let inner = group.entry((*first).to_owned()).or_insert_with(|| Json::Object(Map::new()));
            if let Some(object) = inner.as_object_mut() {
                insert(object, rest, leaf);
            }
        }
    }
}

fn text(json: &Json) -> String {
    let mut written = String::new();
    write_json(json, 0, &mut written);
    written.push('\n');
    written
}

/// As people write it: what is small stands on one line.
fn write_json(json: &Json, depth: usize, text: &mut String) {
    const WIDE: usize = 110;
    let flat = flat(json);
    if flat.len() + 2 * depth <= WIDE && depth > 0 && !flat.contains("$value\": {\"$") {
        text.push_str(&flat);
        return;
    }
    let indent = "  ".repeat(depth + 1);
    match json {
        Json::Object(map) => {
            text.push_str("{\n");
            for (at, (key, value)) in map.iter().enumerate() {
                text.push_str(&format!("{indent}{}: ", Json::String(key.clone())));
                write_json(value, depth + 1, text);
                text.push_str(if at + 1 < map.len() { ",\n" } else { "\n" });
            }
            text.push_str(&format!("{}}}", "  ".repeat(depth)));
        }
        Json::Array(list) => {
            text.push_str("[\n");
            for (at, value) in list.iter().enumerate() {
                text.push_str(&indent);
                write_json(value, depth + 1, text);
                text.push_str(if at + 1 < list.len() { ",\n" } else { "\n" });
            }
            text.push_str(&format!("{}]", "  ".repeat(depth)));
        }
        _ => text.push_str(&flat),
    }
}

fn flat(json: &Json) -> String {
    match json {
        Json::Object(map) if map.is_empty() => "{}".to_owned(),
        Json::Object(map) => {
            let each: Vec<String> =
                map.iter().map(|(key, value)| format!("{}: {}", Json::String(key.clone()), flat(value))).collect();
            format!("{{ {} }}", each.join(", "))
        }
        Json::Array(list) => format!("[{}]", list.iter().map(flat).collect::<Vec<_>>().join(", ")),
        Json::Number(number) => match number.as_f64() {
            Some(value) if value.fract() == 0.0 => format!("{value:.0}"),
            _ => number.to_string(),
        },
        other => other.to_string(),
    }
}
