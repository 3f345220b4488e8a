//! JSON (RFC 8259) with the place of every key and value.

use crate::diagnostic::{Diagnostic, Diagnostics};
use crate::source::{FileId, Name, Sources, Span};
use jsonc_parser::common::Ranged;
use jsonc_parser::{CollectOptions, ParseOptions, ast};
use std::collections::HashMap;

/// A JSON value and its place.
#[derive(Debug, Clone)]
pub struct Node {
    /// The value.
    pub json: Json,
    /// Where it stands.
    pub span: Span,
}

/// A JSON value.
#[derive(Debug, Clone)]
pub enum Json {
    /// `null`
    Null,
    /// `true` or `false`
    Bool(bool),
    /// A number.
    Number(f64),
    /// A string, unescaped.
    String(String),
    /// An array.
    Array(Vec<Node>),
    /// An object, in the order of the file.
    Object(Vec<(Name, Node)>),
}

impl Node {
    /// The entries of an object.
    pub fn entries(&self) -> &[(Name, Node)] {
        if let Json::Object(entries) = &self.json { entries } else { &[] }
    }

    /// The items of an array.
    pub fn items(&self) -> &[Node] {
        if let Json::Array(items) = &self.json { items } else { &[] }
    }

    /// A member of an object.
    pub fn get(&self, key: &str) -> Option<&Node> {
        self.entries().iter().find(|(name, _)| name.value == key).map(|(_, node)| node)
    }

    /// The text of a string.
    pub fn as_str(&self) -> Option<&str> {
        if let Json::String(text) = &self.json { Some(text) } else { None }
    }

    /// A number.
    pub fn as_number(&self) -> Option<f64> {
        if let Json::Number(number) = self.json { Some(number) } else { None }
    }

    /// The value without places.
    pub fn to_value(&self) -> serde_json::Value {
        use serde_json::Value;
        match &self.json {
            Json::Null => Value::Null,
            Json::Bool(value) => (*value).into(),
            Json::Number(value) if value.fract() == 0.0 && value.abs() < 1e15 => (*value as i64).into(),
            Json::Number(value) => (*value).into(),
            Json::String(text) => text.as_str().into(),
            Json::Array(items) => items.iter().map(Node::to_value).collect::<Vec<_>>().into(),
            Json::Object(entries) => {
                Value::Object(entries.iter().map(|(name, node)| (name.value.clone(), node.to_value())).collect())
            }
        }
    }

    /// What kind of value this is, for messages.
    pub fn kind(&self) -> &'static str {
        match self.json {
            Json::Null => "null",
            Json::Bool(_) => "a boolean",
            Json::Number(_) => "a number",
            Json::String(_) => "a string",
            Json::Array(_) => "an array",
            Json::Object(_) => "an object",
        }
    }
}

/// Parses a file. JSON as the standard has it: no comments, no trailing commas.
pub fn parse(file: FileId, sources: &Sources, diagnostics: &mut Diagnostics) -> Option<Node> {
    let text = &sources.file(file).text;
    let options = ParseOptions {
        allow_comments: false,
        allow_loose_object_property_names: false,
        allow_trailing_commas: false,
        allow_missing_commas: false,
        allow_single_quoted_strings: false,
        allow_hexadecimal_numbers: false,
        allow_unary_plus_numbers: false,
        allow_bare_decimal_point_numbers: false,
        allow_non_finite_numbers: false,
        allow_extended_string_escapes: false,
    };
    match jsonc_parser::parse_to_ast(text, &CollectOptions::default(), &options) {
        Ok(result) => match result.value {
            Some(value) => Some(convert(&value, file, diagnostics)),
            None => {
                let span = Span::new(file, 0, text.len().min(1));
                diagnostics.push(
                    Diagnostic::error("json/syntax", span, "the file is empty").mend("write a JSON object, `{}`"),
                );
                None
            }
        },
        Err(error) => {
            let range = error.range();
            // An unterminated object is reported over its whole length; the caret belongs at its opening brace.
            let end = text[range.start..range.end].find('\n').map_or(range.end, |i| range.start + i);
            let span = Span::new(file, range.start, end.max(range.start + 1).min(text.len().max(range.start)));
            let words = error.kind().to_string();
            let words = words[..1].to_lowercase() + &words[1..];
            diagnostics.push(
                Diagnostic::error("json/syntax", span, format!("this is not JSON: {words}"))
                    .label("here")
                    .mend(syntax_mend(&words)),
            );
            None
        }
    }
}

fn syntax_mend(words: &str) -> &'static str {
    if words.contains("railing comma") {
        "take the last comma away"
    } else if words.contains("omma") {
        "put a comma between two members"
    } else if words.contains("expected string") {
        "put the name in double quotes: `\"name\": value`"
    } else if words.contains("omment") {
        "JSON has no comments: use `$description`"
    } else if words.contains("nterminated") {
        "close what was opened: `}` for `{`, `]` for `[`, `\"` for `\"`"
    } else if words.contains("uote") || words.contains("word") {
        "put names and text in double quotes"
    } else {
        "write `\"name\": value`, with commas between members"
    }
}

fn convert(value: &ast::Value, file: FileId, diagnostics: &mut Diagnostics) -> Node {
    let range = value.range();
    let span = Span::new(file, range.start, range.end);
    let json = match value {
        ast::Value::NullKeyword(_) => Json::Null,
        ast::Value::BooleanLit(literal) => Json::Bool(literal.value),
        ast::Value::NumberLit(literal) => Json::Number(literal.value.parse().unwrap_or(f64::NAN)),
        ast::Value::StringLit(literal) => Json::String(literal.value.to_string()),
        ast::Value::Array(array) => {
            Json::Array(array.elements.iter().map(|item| convert(item, file, diagnostics)).collect())
        }
        ast::Value::Object(object) => {
            let mut entries: Vec<(Name, Node)> = Vec::new();
            let mut places: HashMap<String, Span> = HashMap::new();
            for property in &object.properties {
                let range = property.name.range();
                let name =
                    Name { value: property.name.as_str().to_owned(), span: Span::new(file, range.start, range.end) };
                if let Some(first) = places.get(&name.value) {
                    diagnostics.push(
                        Diagnostic::error("json/twice", name.span, format!("`{}` stands here twice", name.value))
                            .label("again")
                            .related(*first, "first here")
                            .mend("take one away, or give it another name"),
                    );
                    continue;
                }
                places.insert(name.value.clone(), name.span);
                let node = convert(&property.value, file, diagnostics);
                entries.push((name, node));
            }
            Json::Object(entries)
        }
    };
    Node { json, span }
}
