//! Shadows of boxes and text (CSS Backgrounds 3, section 6; CSS Text Decoration 4, section 5).

use super::color;
use super::primitive::{ValueResult, keyword, length, wrong};
use super::value::Value;
use cssparser::Parser;

pub(super) fn shadows(parser: &mut Parser, inset: bool) -> ValueResult {
    if parser.try_parse(|p| keyword(p, &["none"])).is_ok() {
        return Ok(Value::Keyword("none"));
    }
    Ok(Value::List(parser.parse_comma_separated(|p| shadow(p, inset))?))
}

/// A shadow as `color x y blur [spread [inset]]`.
fn shadow(parser: &mut Parser, with_inset: bool) -> ValueResult {
    let mut color = None;
    let mut lengths: Vec<Value> = Vec::new();
    let mut inset = false;
    while !parser.is_exhausted() {
        if lengths.is_empty()
            && let Ok(first) = parser.try_parse(|p| length(p, false, true, &[]))
        {
            lengths.push(first);
            lengths.push(length(parser, false, true, &[])?);
            if let Ok(blur) = parser.try_parse(|p| length(p, false, false, &[])) {
                lengths.push(blur);
                if with_inset && let Ok(spread) = parser.try_parse(|p| length(p, false, true, &[])) {
                    lengths.push(spread);
                }
            }
        } else if with_inset && !inset && parser.try_parse(|p| keyword(p, &["inset"])).is_ok() {
            inset = true;
        } else if color.is_none()
            && let Ok(found) = parser.try_parse(color::parse)
        {
            color = Some(found);
        } else {
            break;
        }
    }
    if lengths.is_empty() {
        return wrong();
    }
    lengths.resize(if with_inset { 4 } else { 3 }, Value::ZERO);
    let mut words = vec![Value::Color(color.unwrap_or(color::Color::Current))];
    words.extend(lengths);
    if inset {
        words.push(Value::Keyword("inset"));
    }
    Ok(Value::Words(words))
}
