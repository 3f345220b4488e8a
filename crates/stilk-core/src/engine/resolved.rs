//! Resolved values: what `getComputedStyle` answers (CSSOM, section 9).

use super::style::Style;
use crate::css::compute::{Unknown, resolve_colors};
use crate::css::property::{Longhand, Longhand as L};
use crate::css::serialize::{number, to_css};
use crate::css::value::Value;

const LAYOUT: Unknown = Unknown("the used size needs a layout");

/// A longhand's resolved value as CSS.
///
/// # Errors
/// The reason why it is not known: the browser answers with a used value that only a layout gives.
pub fn resolved(style: &Style, longhand: Longhand) -> Result<String, Unknown> {
    let value = style.get(longhand)?;
    match longhand {
        L::Width | L::Height => size(style, value),
        L::MarginTop | L::MarginRight | L::MarginBottom | L::MarginLeft => boxed(style, value),
        L::PaddingTop | L::PaddingRight | L::PaddingBottom | L::PaddingLeft => boxed(style, value),
        L::Top | L::Right | L::Bottom | L::Left => inset(style, value),
        L::LineHeight => match value {
            Value::Number(n) => Ok(format!("{}px", number(n * style.px(L::FontSize)?))),
            other => Ok(to_css(other)),
        },
        // Only items of flex and grid containers have an automatic minimum size (CSS Sizing 3, section 5.2.2).
        L::MinWidth | L::MinHeight if value.is("auto") && (!style.is_item() || style.is(L::Display, "none")) => {
            Ok("0px".into())
        }
        L::CaretColor if value.is("auto") => Ok(to_css(style.get(L::Color)?)),
        L::TextDecorationThickness if !value.is("auto") && value.as_px().is_none() => Err(LAYOUT),
        // Chromium writes no spacing as `normal` (CSS Text 4, section 8.1: they are the same).
        L::LetterSpacing if value.as_px() == Some(0.0) => Ok("normal".into()),
        L::Color => Ok(to_css(value)),
        _ => {
            let value = resolve_colors(value, style.surroundings());
            if value.has_unresolved_color() {
                return Err(Unknown("the colour is not modelled yet"));
            }
            Ok(to_css(&collapse(longhand, value)))
        }
    }
}

/// Pairs that are written as one where both are equal.
fn collapse(longhand: Longhand, value: Value) -> Value {
    match (longhand, value) {
        (
            L::BorderTopLeftRadius | L::BorderTopRightRadius | L::BorderBottomRightRadius | L::BorderBottomLeftRadius,
            Value::Words(mut words),
        ) if words.len() == 2 && words[0] == words[1] => words.remove(0),
        (L::Translate, Value::Words(mut words)) => {
            // A second or third length of zero is left out.
            while words.len() > 1 && words.last().and_then(Value::as_px) == Some(0.0) {
                words.pop();
            }
            Value::Words(words)
        }
        (L::Scale, Value::Words(words)) => Value::Words(scale(words)),
        (_, value) => value,
    }
}

fn scale(mut words: Vec<Value>) -> Vec<Value> {
    if words.len() == 3 && words[2] == Value::Number(1.0) {
        words.pop();
    }
    if words.len() == 2 && words[0] == words[1] {
        words.pop();
    }
    words
}

fn is_hidden(style: &Style) -> bool {
    style.is(L::Display, "none") || style.is(L::Display, "contents")
}

fn size(style: &Style, value: &Value) -> Result<String, Unknown> {
    if is_hidden(style) || (style.is(L::Display, "inline") && value.is("auto")) {
        return Ok(to_css(value));
    }
    Err(LAYOUT)
}

fn boxed(style: &Style, value: &Value) -> Result<String, Unknown> {
    match value.as_px() {
        Some(_) => Ok(to_css(value)),
        None if is_hidden(style) => Ok(to_css(value)),
        None => Err(LAYOUT),
    }
}

fn inset(style: &Style, value: &Value) -> Result<String, Unknown> {
    if style.is(L::Position, "static") || is_hidden(style) || value.as_px().is_some() {
        return Ok(to_css(value));
    }
    Err(LAYOUT)
}
