//! Resolved values: what `getComputedStyle` answers (CSSOM, section 9).

use super::style::Style;
use crate::css::compute::resolve_colors;
use crate::css::context::Unknown;
use crate::css::property::{Longhand, Longhand as L};
use crate::css::serialize::{number, to_css};
use crate::css::transform::{matrix, to_css as matrix_css};
use crate::css::value::Value;

const LAYOUT: Unknown = Unknown("the used size needs a layout");

/// A longhand's resolved value as CSS.
///
/// # Errors
/// The reason why it is not known: the browser answers with a used value that only a layout gives.
pub fn resolved(style: &Style, longhand: Longhand) -> Result<String, Unknown> {
    let value = style.get(longhand)?;
    if matches!(longhand, L::Width | L::Height | L::Transform | L::TransformOrigin | L::PerspectiveOrigin) {
        // Without a box there is no used size.
        style.get(L::Display)?;
    }
    if let Some(pictures) = longhand.pictures() {
        return Ok(to_css(&per_layer(style, value, pictures)?));
    }
    match longhand {
        L::Width => size(style, value, Style::content_width, [L::PaddingLeft, L::PaddingRight]),
        L::Height => size(style, value, Style::content_height, [L::PaddingTop, L::PaddingBottom]),
        L::MarginTop | L::MarginRight | L::MarginBottom | L::MarginLeft => boxed(style, value),
        L::PaddingTop | L::PaddingRight | L::PaddingBottom | L::PaddingLeft => match boxed(style, value) {
            Err(_) => Ok(format!("{}px", number(style.padding(longhand)?))),
            known => known,
        },
        L::Transform => transform(style, value),
        L::TransformOrigin => origin(style, value, &|px| px),
        // In 64ths of a pixel, as boxes are laid out.
        L::PerspectiveOrigin => origin(style, value, &|px| (px * 64.0).floor() / 64.0),
        L::Top | L::Right | L::Bottom | L::Left => inset(style, value),
        L::LineHeight => match value {
            Value::Number(n) => Ok(format!("{}px", number((n * style.drawn_font_size()?).min(f64::from(f32::MAX))))),
            other => Ok(to_css(other)),
        },
        // Only items of flex and grid containers have an automatic minimum size (CSS Sizing 3, section 5.2.2).
        L::MinWidth | L::MinHeight if value.is("auto") && (!style.is_item()? || is_hidden(style)?) => Ok("0px".into()),
        L::CaretColor if value.is("auto") => Ok(to_css(style.get(L::Color)?)),
        L::TextDecorationThickness if !value.is("auto") && value.as_px().is_none() => Err(LAYOUT),
        // Chromium writes no spacing as `normal` (CSS Text 4, section 8.1: they are the same).
        L::LetterSpacing if value.as_px() == Some(0.0) => Ok("normal".into()),
        L::Color => Ok(to_css(value)),
        L::FontSize => Ok(format!("{}px", number(style.drawn_font_size()?))),
        // Whole numbers are written in full.
        L::ZIndex | L::Order if value.as_number().is_some() => Ok(format!("{:.0}", value.as_number().unwrap_or(0.0))),
        L::GridTemplateColumns | L::GridTemplateRows
            if style.asked_for(L::Display, &["grid", "inline-grid"])? && !is_hidden(style)? =>
        {
            Err(Unknown("the tracks of a grid need a layout"))
        }
        _ => {
            let value = resolve_colors(value, style.surroundings());
            if value.has_unresolved_color() {
                // Of what the colour of text is, the reason is its own.
                style.get(L::Color)?;
                return Err(Unknown("the colour is not modelled yet"));
            }
            Ok(to_css(&collapse(longhand, value)))
        }
    }
}

/// Whether a longhand is written as its value is, whatever else the element has.
pub fn is_of_value_alone(longhand: Longhand, value: &Result<Value, Unknown>) -> bool {
    let is_used = matches!(
        longhand,
        L::Width
            | L::Height
            | L::MarginTop
            | L::MarginRight
            | L::MarginBottom
            | L::MarginLeft
            | L::PaddingTop
            | L::PaddingRight
            | L::PaddingBottom
            | L::PaddingLeft
            | L::Transform
            | L::TransformOrigin
            | L::Top
            | L::Right
            | L::Bottom
            | L::Left
            | L::LineHeight
            | L::FontSize
            | L::MinWidth
            | L::MinHeight
            | L::CaretColor
            | L::TextDecorationThickness
            | L::GridTemplateColumns
            | L::GridTemplateRows
            | L::PerspectiveOrigin
    );
    !is_used && longhand.pictures().is_none() && value.as_ref().is_ok_and(|value| !value.has_unresolved_color())
}

/// A list as long as there are pictures: cut off, or repeated from its beginning.
fn per_layer(style: &Style, value: &Value, images: Longhand) -> Result<Value, Unknown> {
    let layers = style.layer_count(images)?;
    Ok(match value {
        Value::List(items) => Value::List(items.iter().cycle().take(layers).cloned().collect()),
        other => other.clone(),
    })
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

/// Whether nothing is laid out for it: then the browser answers with computed values.
fn is_hidden(style: &Style) -> Result<bool, Unknown> {
    // What is generated stands in a line of its own where it has no box.
    if style.asked_for(L::Display, &["contents"])? && !style.is_generated() || style.is_instead_of_scripts() {
        return Ok(true);
    }
    if style.is_generated() && !style.is_never_generated() {
        style.get(L::Content)?;
    }
    if style.is_empty_generated() {
        return Ok(true);
    }
    has_no_box(style)
}

fn has_no_box(style: &Style) -> Result<bool, Unknown> {
    let above = || style.parent.as_deref().map_or(Ok(false), has_no_box);
    *style.hidden.get_or_init(|| match style.asked_for(L::Display, &["none"]) {
        Ok(false) => above(),
        // Where something around it has no box, its own says nothing.
        Err(_) if above() == Ok(true) => Ok(true),
        decided => decided,
    })
}

/// A size: of the box that `box-sizing` names.
fn size(
    style: &Style,
    value: &Value,
    content: impl Fn(&Style) -> Result<f64, Unknown>,
    padding: [Longhand; 2],
) -> Result<String, Unknown> {
    if is_hidden(style)? {
        return Ok(to_css(value));
    }
    if style.is(L::Display, "inline") {
        // A plain inline box takes no size; pictures and controls do.
        if style.is_drawn_box() && value.is("auto") {
            return Ok("0px".into());
        }
        let is_said = style.is_drawn() && (value.is("auto") || value.as_px().is_some());
        return if style.brings_size() && !is_said { Err(LAYOUT) } else { Ok(to_css(value)) };
    }
    let mut px = content(style)?;
    if style.asked_for(L::BoxSizing, &["border-box"])? {
        let [start, end] = padding;
        px += style.padding(start)? + style.padding(end)?;
        px += style.px(border_beside(start))? + style.px(border_beside(end))?;
    }
    Ok(format!("{}px", number(px)))
}

fn border_beside(padding: Longhand) -> Longhand {
    match padding {
        L::PaddingLeft => L::BorderLeftWidth,
        L::PaddingRight => L::BorderRightWidth,
        L::PaddingTop => L::BorderTopWidth,
        _ => L::BorderBottomWidth,
    }
}

/// A side of the border box in px, for percentages in transforms.
fn border_side(style: &Style, horizontal: bool) -> Result<f64, Unknown> {
    if is_hidden(style)? {
        return Ok(0.0);
    }
    let (content, [start, end]) = if horizontal {
        (style.content_width()?, [L::PaddingLeft, L::PaddingRight])
    } else {
        (style.content_height()?, [L::PaddingTop, L::PaddingBottom])
    };
    let borders = style.px(border_beside(start))? + style.px(border_beside(end))?;
    Ok(content + style.padding(start)? + style.padding(end)? + borders)
}

/// A transform is answered as a matrix (CSS Transforms 1, section 13).
fn transform(style: &Style, value: &Value) -> Result<String, Unknown> {
    // What has no box is not transformed.
    if value.is("none") || is_hidden(style)? {
        return Ok("none".into());
    }
    let found = matrix(value, &|horizontal| border_side(style, horizontal).ok());
    found.map(|matrix| matrix_css(&matrix)).ok_or(LAYOUT)
}

fn origin(style: &Style, value: &Value, laid_out: &dyn Fn(f64) -> f64) -> Result<String, Unknown> {
    let Value::Words(words) = value else { return Err(LAYOUT) };
    let (x, y, depth) = match words.as_slice() {
        [x, y] => (x, y, String::new()),
        [x, y, z] if z.as_px() == Some(0.0) => (x, y, String::new()),
        [x, y, z] => (x, y, format!(" {}", to_css(z))),
        _ => return Err(LAYOUT),
    };
    if is_hidden(style)? {
        return Ok(format!("{} {}{depth}", to_css(x), to_css(y)));
    }
    let px = |value: &Value, horizontal: bool| match value {
        Value::Length(length) if length.percent == 0.0 || style.is_in_line() => Ok(length.px),
        Value::Length(length) => Ok(length.px + length.percent / 100.0 * border_side(style, horizontal)?),
        _ => Err(LAYOUT),
    };
    let side = |value, horizontal| px(value, horizontal).map(|px| number(laid_out(px)));
    Ok(format!("{}px {}px{depth}", side(x, true)?, side(y, false)?))
}

fn boxed(style: &Style, value: &Value) -> Result<String, Unknown> {
    match value.as_px() {
        Some(_) => Ok(to_css(value)),
        None if is_hidden(style)? => Ok(to_css(value)),
        None if style.is(L::Display, "inline") && !style.brings_size() => Ok(to_css(value)),
        None => Err(LAYOUT),
    }
}

fn inset(style: &Style, value: &Value) -> Result<String, Unknown> {
    if style.is(L::Position, "static") || value.as_px().is_some() || is_hidden(style)? {
        return Ok(to_css(value));
    }
    Err(LAYOUT)
}
