//! Names of tokens in JSON: keys that define them, aliases, pointers.

use super::{Form, Occurrence, Role, Symbol};
use std::collections::HashSet;
use stilk_text::json::{Json, Node};
use stilk_text::source::{Name, Sources, Span};

/// Keys of a document that are tokens, with the path of each and the place of its own key, without quotes.
pub fn definitions(root: &Node, found: &mut Vec<Name>) {
    groups(root, "", found, 0);
}

fn groups(node: &Node, path: &str, found: &mut Vec<Name>, depth: usize) {
    if depth > stilk_language::tokens::document::MAX_DEPTH {
        return;
    }
    for (name, inner) in node.entries() {
        let is_root = name.value == stilk_language::tokens::document::ROOT;
        if name.value.starts_with('$') && !is_root {
            continue;
        }
        let own = if path.is_empty() { name.value.clone() } else { format!("{path}.{}", name.value) };
        if inner.get("$value").is_some() || inner.get("$ref").is_some() {
            found.push(Name { value: own, span: unquoted(name.span) });
        } else {
            groups(inner, &own, found, depth + 1);
        }
    }
}

/// A place without the quotes around it.
fn unquoted(span: Span) -> Span {
    match span.end - span.start {
        0 | 1 => span,
        _ => Span { start: span.start + 1, end: span.end - 1, ..span },
    }
}

/// References in a document: `"{group.token}"` and `"$ref": "#/group/token/…"`.
pub fn references(node: &Node, sources: &Sources, paths: &HashSet<String>, found: &mut Vec<Occurrence>) {
    let mut left = vec![node];
    while let Some(node) = left.pop() {
        match &node.json {
            Json::String(_) => in_text(node.span, sources, paths, found),
            Json::Array(items) => left.extend(items),
            Json::Object(entries) => {
                for (name, inner) in entries {
                    if name.value == "$ref" || name.value == "$extends" {
                        pointer(inner.span, sources, paths, found);
                    } else if name.value != "$description" && name.value != "$extensions" {
                        left.push(inner);
                    }
                }
            }
            _ => {}
        }
    }
}

/// References in the text at a place: every `{path}` in it.
pub fn in_text(span: Span, sources: &Sources, paths: &HashSet<String>, found: &mut Vec<Occurrence>) {
    let text = sources.text(span);
    let mut from = 0;
    while let Some(open) = text[from..].find('{').map(|at| from + at) {
        let Some(close) = text[open..].find('}').map(|at| open + at) else { return };
        let inner = &text[open + 1..close];
        let trimmed = inner.trim();
        let start = span.start as usize + open + 1 + (inner.len() - inner.trim_start().len());
        let place = Span::new(span.file, start, start + trimmed.len());
        reference(&Name { value: trimmed.to_owned(), span: place }, paths, found);
        from = close + 1;
    }
}

/// A reference by its path: the token that it names, or the one that it names a member of.
pub fn reference(name: &Name, paths: &HashSet<String>, found: &mut Vec<Occurrence>) {
    if let Some(path) = longest(&name.value, paths) {
        let end = name.span.start + shown(&path).len() as u32;
        let span = Span { end, ..name.span };
        found.push(Occurrence { symbol: Symbol::Token(path), role: Role::Read, form: Form::Plain, span });
    } else if !name.value.is_empty() && !name.value.contains(char::is_whitespace) {
        // What is defined nowhere is a name as well: it can be looked for, and offered what is near.
        let symbol = Symbol::Token(name.value.clone());
        found.push(Occurrence { symbol, role: Role::Read, form: Form::Plain, span: name.span });
    }
}

/// A path as references have it: a group's own token goes by the group's name.
pub fn shown(path: &str) -> &str {
    path.strip_suffix(stilk_language::tokens::document::ROOT).map_or(path, |group| group.trim_end_matches('.'))
}

/// The defined path that a path is, or leads into.
fn longest(path: &str, paths: &HashSet<String>) -> Option<String> {
    let mut path = path;
    loop {
        if paths.contains(path) {
            return Some(path.to_owned());
        }
        let root = format!("{path}.{}", stilk_language::tokens::document::ROOT);
        if paths.contains(&root) {
            return Some(root);
        }
        path = path.rsplit_once('.')?.0;
    }
}

fn pointer(span: Span, sources: &Sources, paths: &HashSet<String>, found: &mut Vec<Occurrence>) {
    let inner = unquoted(span);
    let text = sources.text(inner);
    let Some(rest) = text.strip_prefix("#/") else { return };
    let joined: Vec<&str> = rest.split('/').take_while(|segment| *segment != "$value").collect();
    if let Some(path) = longest(&joined.join("."), paths) {
        let start = inner.start + 2;
        let span = Span { start, end: start + path.len() as u32, ..inner };
        found.push(Occurrence { symbol: Symbol::Token(path), role: Role::Read, form: Form::Pointer, span });
    }
}
