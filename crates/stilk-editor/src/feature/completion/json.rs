//! In token and resolver files.

use super::Offers;
use super::values::offer_tokens;
use crate::context::json::{Cursor, at};
use crate::context::sheet;
use lsp_types::CompletionItemKind as Kind;
use stilk_language::tokens::TokenType;

/// Keys of the Design Tokens Format 2025.10, with what they are for.
const KEYS: [(&str, &str, &str); 6] = [
    ("$value", "$0", "The token's value, or a reference: `\"{group.token}\"` (section 5.1)."),
    ("$type", "\"$0\"", "The type of this token, or of all tokens in this group (section 5.2.2)."),
    ("$description", "\"$0\"", "What it is for (section 5.2.1)."),
    ("$deprecated", "\"$0\"", "Why it should no longer be used (section 5.2.4)."),
    ("$extends", "\"{$0}\"", "Another group whose tokens this group has as well (section 6.5)."),
    ("$extensions", "{ $0 }", "What tools note on it (section 5.2.3)."),
];

const COLOR_SPACES: [&str; 14] = [
    "srgb",
    "srgb-linear",
    "hsl",
    "hwb",
    "lab",
    "lch",
    "oklab",
    "oklch",
    "display-p3",
    "a98-rgb",
    "prophoto-rgb",
    "rec2020",
    "xyz-d65",
    "xyz-d50",
];

/// Keys of an object, with what is written behind them.
type Keys = &'static [(&'static str, &'static str)];

fn keys(offers: &mut Offers, cursor: &Cursor, keys: Keys) {
    for (name, value) in keys.iter().filter(|(name, _)| !cursor.known.iter().any(|known| known == name)) {
        offer_key(offers, cursor, name, value);
    }
}

fn offer_key<'o>(offers: &'o mut Offers, cursor: &Cursor, name: &str, value: &str) -> &'o mut super::Offer {
    let quote = if cursor.in_string { "" } else { "\"" };
    // In quotes that are there already, the value is written by whoever goes on.
    let text = if cursor.in_string { name.to_owned() } else { format!("{quote}{name}{quote}: {value}") };
    offers.text(name, text, Kind::PROPERTY, &cursor.word, 0)
}

fn value(offers: &mut Offers, cursor: &Cursor, name: &str, kind: Kind) {
    let quote = if cursor.in_string { "" } else { "\"" };
    offers.text(name, format!("{quote}{name}{quote}"), kind, &cursor.word, 0);
}

fn offer_tokens_in_value(offers: &mut Offers, cursor: &Cursor) {
    let typed = &offers.subject.text[cursor.word.clone()];
    let has_brace = typed.trim_start().starts_with('{');
    let none = sheet::at("", 0);
    let range = match has_brace {
        true => cursor.word.start + typed.find('{').unwrap_or_default() + 1..cursor.word.end,
        false => cursor.word.clone(),
    };
    // A brace that closes it already stays.
    let closed = offers.subject.text[range.clone()].ends_with('}');
    let range = range.start..range.end - usize::from(closed);
    let around = match (has_brace, closed, cursor.in_string) {
        (true, true, _) => ("", ""),
        (true, false, true) => ("", "}"),
        (true, false, false) => ("", "}\""),
        (false, _, true) => ("{", "}"),
        (false, _, false) => ("\"{", "}\""),
    };
    let property = offers.subject.snapshot.tokens().and_then(|_| kind_here(offers, cursor)).and_then(sample_property);
    offer_tokens(offers, &none, property, "", &range, around);
}

/// The type of the token whose value is written, by what is known of it.
fn kind_here(offers: &Offers, cursor: &Cursor) -> Option<TokenType> {
    let path: Vec<&str> = cursor.keys.iter().map(String::as_str).take_while(|key| !key.starts_with('$')).collect();
    let tokens = offers.subject.snapshot.tokens()?;
    // Of a member, `color` of a border, its own type is asked.
    let member = cursor.keys.iter().skip_while(|key| *key != "$value").nth(1).map(String::as_str);
    match member {
        Some("color") => Some(TokenType::Color),
        Some("width" | "blur" | "spread" | "offsetX" | "offsetY" | "fontSize" | "letterSpacing") => {
            Some(TokenType::Dimension)
        }
        Some("duration" | "delay") => Some(TokenType::Duration),
        Some("timingFunction") => Some(TokenType::CubicBezier),
        Some("fontFamily") => Some(TokenType::FontFamily),
        Some("fontWeight") => Some(TokenType::FontWeight),
        Some("lineHeight") => Some(TokenType::Number),
        Some("style") => Some(TokenType::StrokeStyle),
        _ => tokens.get(tokens.find_path(&path.join("."))?).kind,
    }
}

/// A property that takes a type and nothing else.
fn sample_property(kind: TokenType) -> Option<&'static str> {
    Some(match kind {
        TokenType::Color => "background-color",
        TokenType::Dimension => "margin-left",
        TokenType::Duration => "transition-duration",
        TokenType::Number => "flex-grow",
        TokenType::FontFamily => "font-family",
        TokenType::FontWeight => "font-weight",
        TokenType::CubicBezier => "transition-timing-function",
        TokenType::Shadow => "box-shadow",
        _ => return None,
    })
}

fn offer_tokens_file(offers: &mut Offers, cursor: &Cursor) {
    let last = cursor.keys.last().map(String::as_str);
    let in_value = cursor.keys.iter().any(|key| key == "$value");
    if cursor.is_key {
        match (in_value, last) {
            (false, _) if !cursor.keys.iter().any(|key| key == "$extensions") => {
                for (name, value, words) in KEYS {
                    if !cursor.known.iter().any(|known| known == name) {
                        offer_key(offers, cursor, name, value).words = Some(words.to_owned());
                    }
                }
            }
            (true, _) => members(offers, cursor),
            _ => {}
        }
        return;
    }
    match last {
        Some("$type") => {
            TokenType::names().for_each(|name| value(offers, cursor, name, Kind::ENUM_MEMBER));
        }
        Some("colorSpace") => COLOR_SPACES.iter().for_each(|name| value(offers, cursor, name, Kind::ENUM_MEMBER)),
        Some("unit") => {
            let units: &[&str] = match kind_here(offers, cursor) {
                Some(TokenType::Duration | TokenType::Transition) => &["ms", "s"],
                _ => &["px", "rem"],
            };
            units.iter().for_each(|name| value(offers, cursor, name, Kind::UNIT));
        }
        Some("$description" | "$deprecated" | "hex") => {}
        _ if in_value => offer_tokens_in_value(offers, cursor),
        _ => {}
    }
}

/// The members of a value of the type that is written.
fn members(offers: &mut Offers, cursor: &Cursor) {
    let members: Keys = match kind_here(offers, cursor) {
        Some(TokenType::Color) => {
            &[("colorSpace", "\"$0\""), ("components", "[$0]"), ("alpha", "$0"), ("hex", "\"#$0\"")]
        }
        Some(TokenType::Dimension | TokenType::Duration) => &[("value", "$0"), ("unit", "\"$0\"")],
        Some(TokenType::Border) => &[("color", "$0"), ("width", "$0"), ("style", "$0")],
        Some(TokenType::Transition) => &[("duration", "$0"), ("delay", "$0"), ("timingFunction", "$0")],
        Some(TokenType::Shadow) => {
            &[("color", "$0"), ("offsetX", "$0"), ("offsetY", "$0"), ("blur", "$0"), ("spread", "$0"), ("inset", "$0")]
        }
        Some(TokenType::Gradient) => &[("color", "$0"), ("position", "$0")],
        Some(TokenType::Typography) => &[
            ("fontFamily", "$0"),
            ("fontSize", "$0"),
            ("fontWeight", "$0"),
            ("letterSpacing", "$0"),
            ("lineHeight", "$0"),
        ],
        _ => &[],
    };
    keys(offers, cursor, members);
}

pub(super) fn offer_tokens_at(offers: &mut Offers, offset: usize) {
    let cursor = at(offers.subject.text, offset);
    offer_tokens_file(offers, &cursor);
}

pub(super) fn offer_resolver(offers: &mut Offers, offset: usize) {
    let cursor = at(offers.subject.text, offset);
    let path: Vec<&str> = cursor.keys.iter().map(String::as_str).collect();
    match (cursor.is_key, path.as_slice()) {
        (true, []) => keys(
            offers,
            &cursor,
            &[
                ("version", "\"2025.10\""),
                ("name", "\"$0\""),
                ("description", "\"$0\""),
                ("sets", "{ $0 }"),
                ("modifiers", "{ $0 }"),
                ("resolutionOrder", "[$0]"),
            ],
        ),
        (true, ["sets", _]) => {
            keys(offers, &cursor, &[("description", "\"$0\""), ("sources", "[{ \"$ref\": \"$0\" }]")])
        }
        (true, ["modifiers", _]) => {
            keys(offers, &cursor, &[("description", "\"$0\""), ("contexts", "{ $0 }"), ("default", "\"$0\"")]);
        }
        (true, [.., "[]"]) => keys(offers, &cursor, &[("$ref", "\"$0\"")]),
        (false, ["resolutionOrder", "[]", "$ref"]) => {
            for (kind, of) in [("sets", named(offers, "sets")), ("modifiers", named(offers, "modifiers"))] {
                of.iter().for_each(|name| value(offers, &cursor, &format!("#/{kind}/{name}"), Kind::REFERENCE));
            }
        }
        (false, [.., "[]", "$ref"]) => {
            named(offers, "sets")
                .iter()
                .for_each(|name| value(offers, &cursor, &format!("#/sets/{name}"), Kind::REFERENCE));
            let files: Vec<String> = offers.subject.snapshot.sources.all().map(|source| source.path.clone()).collect();
            for file in files.iter().filter(|file| file.ends_with(".json") && !file.ends_with(".resolver.json")) {
                value(offers, &cursor, file, Kind::FILE);
            }
        }
        (false, ["modifiers", modifier, "default"]) => {
            let of = offers.subject.snapshot.tokens().map(|tokens| &tokens.modifiers);
            let contexts: Vec<String> = of
                .into_iter()
                .flatten()
                .filter(|known| known.name.value == *modifier)
                .flat_map(|known| known.contexts.iter().map(|context| context.value.clone()))
                .collect();
            contexts.iter().for_each(|name| value(offers, &cursor, name, Kind::ENUM_MEMBER));
        }
        (false, ["version"]) => value(offers, &cursor, "2025.10", Kind::VALUE),
        // Tokens that stand here themselves.
        _ if path.iter().any(|key| key.starts_with('$')) || path.contains(&"sources") => {
            offer_tokens_file(offers, &cursor)
        }
        _ => {}
    }
}

/// The names of sets or modifiers of the document.
fn named(offers: &Offers, of: &str) -> Vec<String> {
    let documents = offers.subject.snapshot.trees.documents.iter();
    let here = documents.filter(|(file, _)| Some(*file) == offers.subject.file);
    here.filter_map(|(_, root)| root.get(of))
        .flat_map(|node| node.entries())
        .map(|(name, _)| name.value.clone())
        .collect()
}
