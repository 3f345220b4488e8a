//! Families, widths and styles of fonts (CSS Fonts 4, section 2).

use super::parse::{Expanded, Target};
use super::primitive::{Primitive, ValueResult, dimension, keyword, whole, wrong};
use super::property::{Flow, Longhand as L};
use super::value::{LengthPercentage, Quantity, Value};
use cssparser::{ParseError, Parser, Token};

pub(super) fn families(parser: &mut Parser) -> ValueResult {
    let names = parser.parse_comma_separated(|p| {
        if let Ok(name) = p.try_parse(|p| p.expect_string_cloned()) {
            // Chromium keeps names without their quotes where nothing asks for them.
            return Ok(match is_plain_family(&name) {
                true => Value::Ident(name.to_string().into()),
                false => Value::String(name.to_string().into()),
            });
        }
        let mut name = p.expect_ident()?.to_string();
        while let Ok(word) = p.try_parse(|p| p.expect_ident_cloned()) {
            name.push(' ');
            name.push_str(&word);
        }
        Ok::<_, ParseError<()>>(match name.contains(' ') {
            true => Value::String(name.into()),
            false if name.starts_with("--") => Value::String(name.into()),
            // Names of kinds of fonts are keywords, in any case.
            false => match GENERIC_FAMILIES.iter().find(|generic| generic.eq_ignore_ascii_case(&name)) {
                Some(generic) => Value::Ident((*generic).into()),
                None => Value::Ident(name.into()),
            },
        })
    })?;
    Ok(Value::List(names))
}

/// Names that stand for no font but for a kind of fonts (CSS Fonts 4, section 2.1).
pub const GENERIC_FAMILIES: [&str; 13] = [
    "serif",
    "sans-serif",
    "monospace",
    "cursive",
    "fantasy",
    "system-ui",
    "ui-serif",
    "ui-sans-serif",
    "ui-monospace",
    "ui-rounded",
    "math",
    "fangsong",
    "emoji",
];

/// Whether a family's name is an identifier that means no other family.
fn is_plain_family(name: &str) -> bool {
    const KEYWORDS: [&str; 4] = ["inherit", "initial", "unset", "default"];
    name.starts_with(|c: char| c.is_ascii_alphabetic() || c == '_')
        && name.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '-' | '_'))
        && !GENERIC_FAMILIES.contains(&name)
        && !KEYWORDS.contains(&name)
        && !name.starts_with("ui-")
}

/// A word for the width of a font, as its percentage (CSS Fonts 4, section 2.3).
pub(super) fn font_width(parser: &mut Parser) -> ValueResult {
    const WIDTHS: [(&str, f64); 9] = [
        ("ultra-condensed", 50.0),
        ("extra-condensed", 62.5),
        ("condensed", 75.0),
        ("semi-condensed", 87.5),
        ("normal", 100.0),
        ("semi-expanded", 112.5),
        ("expanded", 125.0),
        ("extra-expanded", 150.0),
        ("ultra-expanded", 200.0),
    ];
    let word = parser.expect_ident()?;
    let width = WIDTHS.iter().find(|(known, _)| known.eq_ignore_ascii_case(word));
    let (_, percent) = width.ok_or_else(ParseError::<()>::unexpected_token)?;
    Ok(Value::Length(LengthPercentage::percent(*percent)))
}

pub(super) fn font_style(parser: &mut Parser) -> ValueResult {
    let word = keyword(parser, &["normal", "italic", "oblique"])?;
    if word.is("oblique")
        && let Ok(angle) = parser.try_parse(|p| dimension(p, Quantity::Angle))
    {
        return Ok(Value::Words(vec![word, angle]));
    }
    Ok(word)
}

/// One feature of a font: its tag and how strong it is; on is left out.
pub(super) fn feature(parser: &mut Parser) -> ValueResult {
    let tag = tag(parser)?;
    let number = match parser.try_parse(|p| keyword(p, &["on", "off"])) {
        Ok(word) => Value::Number(f64::from(u8::from(word.is("on")))),
        Err(_) => match parser.try_parse(|p| whole(p, &[], 0.0)) {
            Ok(number) => number,
            Err(_) => Value::Number(1.0),
        },
    };
    Ok(match number {
        Value::Number(1.0) => tag,
        Value::Number(_) => Value::Words(vec![tag, number]),
        _ => Value::Unmodelled,
    })
}

/// One axis of a font: its tag and a number.
pub(super) fn axis(parser: &mut Parser) -> ValueResult {
    Ok(Value::Words(vec![tag(parser)?, Primitive::NUMBER.parse(parser)?]))
}

/// Four characters of ASCII that can be seen.
fn tag(parser: &mut Parser) -> ValueResult {
    let text = parser.expect_string_cloned()?;
    let is_tag = text.len() == 4 && text.bytes().all(|byte| (0x20..=0x7e).contains(&byte));
    if is_tag { Ok(Value::String(text.to_string().into())) } else { wrong() }
}

/// `font-synthesis`: what of fonts that are not there may be made up, or `none`.
pub(super) fn synthesis(parser: &mut Parser) -> Result<Vec<Expanded>, ParseError<()>> {
    static WORDS: [&str; 3] = ["weight", "style", "small-caps"];
    const TARGETS: [L; 3] = [L::FontSynthesisWeight, L::FontSynthesisStyle, L::FontSynthesisSmallCaps];
    let mut has = [false; 3];
    if parser.try_parse(|p| p.expect_ident_matching("none")).is_err() {
        while !parser.is_exhausted() {
            let word = keyword(parser, &WORDS)?;
            let at = WORDS.iter().position(|known| word.is(known)).filter(|at| !has[*at]);
            has[at.ok_or_else(ParseError::unexpected_token)?] = true;
        }
    }
    let value = |has: bool| Value::Keyword(if has { "auto" } else { "none" });
    Ok(TARGETS.iter().zip(has).map(|(target, has)| (Target::Physical(*target), value(has))).collect())
}

/// `font-variant`: words of its longhands in any order, or one that is for all (CSS Fonts 4, section 6.11).
pub(super) fn variant(targets: &[Target], parser: &mut Parser) -> Result<Vec<Expanded>, ParseError<()>> {
    let all = |ligatures: &'static str| {
        let normal = targets.iter().map(|target| (*target, Value::Keyword("normal")));
        let mut all: Vec<Expanded> = normal.collect();
        all[0].1 = Value::Keyword(ligatures);
        all
    };
    if let Ok(Value::Keyword(word)) = parser.try_parse(|p| p.parse_entirely(|p| keyword(p, &["normal", "none"]))) {
        return Ok(all(word));
    }
    let mut found: Vec<String> = vec![String::new(); targets.len()];
    let mut unmodelled = false;
    let mut any = false;
    while !parser.is_exhausted() {
        parser.skip_whitespace();
        let start = parser.position();
        let is_function = matches!(parser.next()?, Token::Function(_));
        if is_function {
            // Names of alternates that a font has.
            super::primitive::skip(parser)?;
            unmodelled = true;
            continue;
        }
        let word = parser.slice_from(start).trim().to_ascii_lowercase();
        let takes = |target: &Target| {
            super::parse::parse_longhand(target.physical(Flow::LTR), &word)
                .is_ok_and(|value| value != Value::Unmodelled)
        };
        let at = targets.iter().position(takes).filter(|_| !matches!(word.as_str(), "normal" | "none"));
        let text = &mut found[at.ok_or_else(ParseError::unexpected_token)?];
        text.push_str(&format!(" {word}"));
        any = true;
    }
    if !any && !unmodelled {
        return Err(ParseError::unexpected_token());
    }
    targets
        .iter()
        .zip(&found)
        .map(|(target, text)| {
            let longhand = target.physical(Flow::LTR);
            let value = match text.trim() {
                _ if longhand == L::FontVariantAlternates && unmodelled => Value::Unmodelled,
                "" => Value::Keyword("normal"),
                text => super::parse::parse_longhand(longhand, text)?,
            };
            Ok((*target, value))
        })
        .collect()
}
