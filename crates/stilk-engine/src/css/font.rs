//! Families, widths and styles of fonts (CSS Fonts 4, section 2).

use super::primitive::{ValueResult, dimension, keyword};
use super::value::{LengthPercentage, Quantity, Value};
use cssparser::{ParseError, Parser};

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
