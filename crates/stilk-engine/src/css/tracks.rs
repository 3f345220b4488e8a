//! Tracks of grids (CSS Grid 2, section 7.2). Lines with names, `fit-content()` and automatic repetition are accepted, and not
//! modelled.

use super::primitive::{ValueResult, length, wrong};

use super::value::Value;
use cssparser::{ParseError, Parser, Token};

/// A list of tracks.
pub(super) fn tracks(parser: &mut Parser) -> ValueResult {
    let state = parser.state();
    if parser.try_parse(|p| p.expect_ident_matching("none")).is_ok() {
        return Ok(Value::Keyword("none"));
    }
    match list(parser) {
        Ok(words) if parser.is_exhausted() => Ok(Value::Words(words)),
        _ => {
            parser.reset(&state);
            parser.next()?;
            while parser.next().is_ok() {}
            Ok(Value::Unmodelled)
        }
    }
}

/// Sizes of rows or columns that nobody named: tracks alone.
pub(super) fn automatic(parser: &mut Parser) -> ValueResult {
    let state = parser.state();
    match list(parser) {
        Ok(words) if parser.is_exhausted() && !words.iter().any(|w| matches!(w, Value::Function("repeat", _))) => {
            Ok(Value::Words(words))
        }
        _ => {
            parser.reset(&state);
            parser.next()?;
            while parser.next().is_ok() {}
            Ok(Value::Unmodelled)
        }
    }
}

fn list(parser: &mut Parser) -> Result<Vec<Value>, ParseError<()>> {
    let mut words = vec![track(parser)?];
    while let Ok(word) = parser.try_parse(track) {
        words.push(word);
    }
    Ok(words)
}

pub(super) fn track(parser: &mut Parser) -> ValueResult {
    static WORDS: [&str; 3] = ["auto", "min-content", "max-content"];
    parser.skip_whitespace();
    let state = parser.state();
    match parser.next()?.clone() {
        Token::Dimension { value, unit, .. } if unit.eq_ignore_ascii_case("fr") && value >= 0.0 => {
            Ok(Value::Function("fr", vec![Value::Number(f64::from(value))]))
        }
        Token::Function(name) if name.eq_ignore_ascii_case("minmax") => parser.parse_nested_block(|p| {
            let min = track(p)?;
            p.expect_comma()?;
            let max = track(p)?;
            let is_fr = matches!(min, Value::Function("fr", _));
            if is_fr || !p.is_exhausted() { wrong() } else { Ok(Value::Function("minmax", vec![min, max])) }
        }),
        Token::Function(name) if name.eq_ignore_ascii_case("repeat") => parser.parse_nested_block(|p| {
            let count = p.expect_integer()?;
            p.expect_comma()?;
            let items = vec![Value::Number(f64::from(count)), Value::Words(list(p)?)];
            // More tracks than a page has use for are the page's own matter.
            if (1..=100).contains(&count) && p.is_exhausted() { Ok(Value::Function("repeat", items)) } else { wrong() }
        }),
        _ => {
            parser.reset(&state);
            length(parser, true, false, &WORDS)
        }
    }
}
