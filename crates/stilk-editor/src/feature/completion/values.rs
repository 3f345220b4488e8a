//! Values of declarations: tokens that fit first, then locals, words and functions of the property.

use super::Offers;
use super::sheet::locals;
use crate::context::sheet::Cursor;
use crate::feature::told;
use crate::names::{OwnKind, Role, Symbol};
use lsp_types::CompletionItemKind as Kind;
use std::ops::Range;
use stilk_engine::css::{PropertyName, parse_declaration};
use stilk_language::tokens::value::SAMPLES;
use stilk_language::tokens::{TokenId, TokenType, Tokens};

/// Functions that values are made of, with what is written in them.
const FUNCTIONS: [(&str, &str); 14] = [
    ("calc()", "calc($0)"),
    ("color-mix()", "color-mix(in oklab, $0, )"),
    ("oklch()", "oklch($0)"),
    ("rgb()", "rgb($0)"),
    ("light-dark()", "light-dark($0, )"),
    ("min()", "min($0)"),
    ("max()", "max($0)"),
    ("clamp()", "clamp($0, , )"),
    ("linear-gradient()", "linear-gradient($0)"),
    ("radial-gradient()", "radial-gradient($0)"),
    ("url()", "url(\"$0\")"),
    ("cubic-bezier()", "cubic-bezier($0)"),
    ("translateY()", "translateY($0)"),
    ("drop-shadow()", "drop-shadow($0)"),
];

/// Words that every property takes.
const WIDE: [&str; 5] = ["inherit", "initial", "unset", "revert", "revert-layer"];

/// So many tokens of a value stand in its list beside its words.
const BESIDE: usize = 120;

pub(super) fn offer_value(
    offers: &mut Offers,
    cursor: &Cursor,
    property: &str,
    before: &str,
    word: &Range<usize>,
    function: Option<&str>,
) {
    let of_locals = locals(offers, cursor);
    if function == Some("var") {
        for name in of_locals {
            let words = local_words(offers, cursor, &name);
            offers.word(&name, Kind::VARIABLE, word, 0).words = words;
        }
        return;
    }
    let start = offers.list.len();
    offer_tokens(offers, cursor, Some(property), before, word, ("{", "}"));
    // Beside words, only what fits.
    let (mut at, mut kept) = (0, 0);
    offers.list.retain(|offer| {
        at += 1;
        if at <= start {
            return true;
        }
        kept += usize::from(offer.rank == 0);
        offer.rank == 0 && kept <= BESIDE
    });
    for name in of_locals {
        let words = local_words(offers, cursor, &name);
        offers.text(&format!("var({name})"), format!("var({name})"), Kind::VARIABLE, word, 1).words = words;
    }
    if property.starts_with("animation") {
        let names = offers.subject.snapshot.names.symbols();
        let keyframes: std::collections::BTreeSet<String> =
            names.filter(|s| matches!(s, Symbol::Keyframes(_))).map(|s| s.name().to_owned()).collect();
        offers.words(keyframes, Kind::EVENT, word, 1);
    }
    if function.is_none() {
        // Where no token can stand, its words are what is meant.
        let rank = if kept > 0 { 2 } else { 0 };
        offers.words(words_of(property), Kind::VALUE, word, rank);
    }
    let is_custom = property.starts_with("--");
    for (label, text) in FUNCTIONS {
        let sample = match label {
            "calc()" | "min()" | "max()" | "clamp()" => "calc(1px + 1px)",
            "color-mix()" | "oklch()" | "rgb()" | "light-dark()" => "rgb(0 0 0)",
            "linear-gradient()" | "radial-gradient()" => "linear-gradient(red, blue)",
            "url()" => "url(\"x\")",
            "cubic-bezier()" => "cubic-bezier(0, 0, 1, 1)",
            "translateY()" => "translateY(1px)",
            _ => "drop-shadow(0 0 1px red)",
        };
        if is_custom || function.is_some() || fits(offers, property, before, sample) {
            offers.text(label, text.to_owned(), Kind::FUNCTION, word, 3);
        }
    }
    if function.is_none() && before.trim().is_empty() && !is_custom {
        offers.words(WIDE, Kind::VALUE, word, 4);
    }
}

fn local_words(offers: &Offers, cursor: &Cursor, name: &str) -> Option<String> {
    let snapshot = offers.subject.snapshot;
    let owner = cursor.owner()?;
    let stands = snapshot.names.stands_for(OwnKind::Local, &owner, name)?;
    told::symbol(snapshot, &Symbol::Own(OwnKind::Local, stands, name.to_owned()))
}

/// The words of a property; of a shorthand those of what it sets.
fn words_of(property: &str) -> Vec<&'static str> {
    let name = PropertyName::read(property);
    let mut words: Vec<&'static str> = match name {
        PropertyName::Shorthand(shorthand) => shorthand
            .longhand_names()
            .flat_map(|longhand| PropertyName::read(longhand).keywords().iter().copied())
            .collect(),
        name => name.keywords().to_vec(),
    };
    let mut known = std::collections::BTreeSet::new();
    words.retain(|word| !word.starts_with("-stilk-") && known.insert(*word));
    words
}

/// Offers tokens, those that fit first. `around` is what is written before and behind the path.
pub(super) fn offer_tokens(
    offers: &mut Offers,
    cursor: &Cursor,
    property: Option<&str>,
    before: &str,
    path: &Range<usize>,
    around: (&str, &str),
) {
    let snapshot = offers.subject.snapshot;
    let Some(tokens) = snapshot.tokens() else { return };
    let wanted: Vec<TokenType> = match property {
        Some(property) if property.starts_with("--") => {
            of_local(offers, tokens, cursor, property).into_iter().collect()
        }
        Some(property) => {
            SAMPLES.iter().filter(|(_, sample)| fits(offers, property, before, sample)).map(|(kind, _)| *kind).collect()
        }
        None => vec![TokenType::Dimension],
    };
    // Of a local that has no token yet nothing is known.
    let anything = wanted.is_empty() && property.is_some_and(|property| property.starts_with("--"));
    let theme = tokens.default_theme();
    // What is nothing but named by its value needs no table: that is made of those that are near.
    let many = tokens.list.len() > 600;
    for (index, token) in tokens.list.iter().enumerate() {
        let id = TokenId(index);
        let kind = token.kind.or_else(|| is_color(tokens, id).then_some(TokenType::Color));
        let is_fitting = anything || kind.is_some_and(|kind| wanted.contains(&kind));
        if token.is_member && !is_fitting {
            continue;
        }
        let shown = crate::names::tokens::shown(&token.path).to_owned();
        // One of the whole may do where a member does as well.
        let rank = match (is_fitting, token.is_member) {
            (true, false) => 0,
            (true, true) => 1,
            (false, _) => 5,
        };
        let text = format!("{}{shown}{}", around.0, around.1);
        let item = if kind == Some(TokenType::Color) { Kind::COLOR } else { Kind::CONSTANT };
        let value = told::short_value(tokens, id, &theme);
        let words = (!many).then(|| match item {
            // Editors draw a swatch of a colour that the words begin with.
            Kind::COLOR if value.starts_with('#') => {
                format!("{}\n\n{}", &value[..7], told::token(tokens, snapshot.any_system(), id))
            }
            _ => told::token(tokens, snapshot.any_system(), id),
        });
        let offer = offers.text(&shown, text, item, path, rank);
        // That it is a colour is said by its kind.
        offer.detail = Some(if item == Kind::COLOR { value } else { format!("{} {value}", told::kind_of(token)) });
        offer.words = words;
        offer.is_deprecated = token.deprecated.is_some();
    }
}

fn is_color(tokens: &Tokens, id: TokenId) -> bool {
    let literal = tokens.literal(id, &tokens.default_theme());
    literal.is_some_and(|text| stilk_engine::css::color::whole(&text).is_some())
}

/// The type of the tokens that a local has elsewhere.
fn of_local(offers: &Offers, tokens: &Tokens, cursor: &Cursor, local: &str) -> Option<TokenType> {
    let snapshot = offers.subject.snapshot;
    let stands = snapshot.names.stands_for(OwnKind::Local, &cursor.owner()?, local)?;
    let symbol = Symbol::Own(OwnKind::Local, stands, local.to_owned());
    let set = snapshot.names.of(&symbol).filter(|one| one.role != Role::Read);
    for one in set {
        let source = snapshot.sources.file(one.span.file);
        let rest = &source.text[one.span.end as usize..];
        // Up to the first reference in its value.
        let value_end = rest.find([';', '\n']).unwrap_or(rest.len());
        let Some(open) = rest[..value_end].find('{') else { continue };
        let path = rest[open + 1..value_end].split('}').next().unwrap_or_default().trim();
        if let Some(id) = tokens.find_path(path) {
            return tokens.get(id).kind.or_else(|| is_color(tokens, id).then_some(TokenType::Color));
        }
    }
    None
}

/// Whether a value fits a property where a sample stands at the cursor.
fn fits(offers: &Offers, property: &str, before: &str, sample: &str) -> bool {
    let text = with_values(offers, &format!("{before}{sample}"));
    // Brackets that are open are closed behind it.
    let open = text.matches('(').count().saturating_sub(text.matches(')').count());
    let closed = format!("{text}{}", ")".repeat(open));
    let second = match text.rfind("color-mix(") {
        Some(_) if open > 0 => format!("{text}, red{}", ")".repeat(open)),
        _ => closed.clone(),
    };
    [closed, second].iter().any(|text| parse_declaration(property, text).is_ok())
}

/// A value with tokens written out and locals left out, as far as that can be.
fn with_values(offers: &Offers, text: &str) -> String {
    let mut written = String::new();
    let mut rest = text;
    while let Some((head, after)) = rest.split_once('{') {
        written.push_str(head);
        let Some((path, tail)) = after.split_once('}') else {
            rest = after;
            continue;
        };
        let tokens = offers.subject.snapshot.tokens();
        let literal = tokens.and_then(|tokens| tokens.literal(tokens.find_path(path.trim())?, &tokens.default_theme()));
        written.push_str(&literal.unwrap_or_default());
        rest = tail;
    }
    written.push_str(rest);
    written
}
