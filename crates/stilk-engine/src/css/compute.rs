//! From declared to computed values (CSS Cascade 5, section 4.4).

use super::calc::LARGEST;
use super::color::{Color, Surroundings};
use super::context::{Context, Unknown};
use super::grammar::Grammar;
use super::property::{Longhand, Longhand as L};
use super::value::{LengthPercentage, Quantity, Value};

const NOT_MODELLED: Unknown = Unknown("the value is not modelled yet");

/// A longhand's initial value, declared.
pub fn initial_declared(longhand: Longhand) -> Value {
    // The table's own test parses every initial value.
    super::parse::parse_longhand(longhand, longhand.initial()).unwrap_or(Value::Unmodelled)
}

/// Computes a declared value.
///
/// # Errors
/// The reason why it cannot be known: a unit that needs a font or a layout, or a value that is not modelled.
pub fn compute(longhand: Longhand, value: &Value, context: &Context) -> Result<Value, Unknown> {
    if *value == Value::Unmodelled {
        return Err(NOT_MODELLED);
    }
    match longhand {
        L::FontSize => font_size(value, context),
        // An outline stands off by whole device pixels, as its line is wide.
        L::OutlineOffset => generic(value, context).map(|value| match value.as_px() {
            Some(px) => Value::Length(LengthPercentage::px(px.signum() * whole_pixels(px.abs()))),
            None => value,
        }),
        // Chromium keeps weights in quarters.
        L::FontWeight => font_weight(value, context).map(|value| match value {
            Value::Number(n) => Value::Number((n * 4.0).floor() / 4.0),
            other => other,
        }),
        L::LineHeight => line_height(value, context),
        // Chromium keeps the width of a rule between columns in 16 bits.
        L::ColumnRuleWidth => line_width(value, context).map(|value| match value.as_px() {
            Some(px) => Value::Length(LengthPercentage::px(px.min(65535.0))),
            None => value,
        }),
        _ if matches!(longhand.grammar(), Grammar::LineWidth) => line_width(value, context),
        L::WordSpacing if value.is("normal") => Ok(Value::ZERO),
        // Between cells there are whole pixels.
        L::BorderHorizontalSpacing | L::BorderVerticalSpacing => {
            Ok(match in_range(longhand, generic(value, context)?).as_px() {
                // What does not fit into 16 bits is none.
                Some(px) => Value::Length(LengthPercentage::px(if px < 32767.0 { px.floor() } else { 0.0 })),
                None => return Err(NOT_MODELLED),
            })
        }
        L::FontFeatureSettings | L::FontVariationSettings => generic(value, context).map(sorted_tags),
        L::BackgroundPositionX | L::BackgroundPositionY => generic(value, context).map(position_words),
        _ => {
            let value = in_range(longhand, generic(value, context)?);
            // How browsers write what is no number at all differs from property to property.
            let is_endless = |value: &Value| value.as_number().is_some_and(|n| n >= f64::from(f32::MAX));
            match &value {
                Value::List(items) | Value::Words(items) if items.iter().any(is_endless) => Err(NOT_MODELLED),
                one if is_endless(one) && matches!(longhand, L::TabSize | L::Zoom) => Err(NOT_MODELLED),
                _ => Ok(value),
            }
        }
    }
}

/// A calculation is clamped to what the property takes, and rounded where that is a whole number (CSS Values 4, sections
/// 10.12 and 5.2.1). Values outside of a calculation were refused when they were parsed.
fn in_range(longhand: Longhand, value: Value) -> Value {
    if matches!(longhand, L::AnimationDuration | L::TransitionDuration)
        && let Value::List(times) = value
    {
        // Without a timeline of its own an automatic duration is none.
        let least = |time: Value| match time {
            Value::Seconds(s) => Value::Seconds(s.max(0.0)),
            Value::Keyword("auto") => Value::Seconds(0.0),
            other => other,
        };
        return Value::List(times.into_iter().map(least).collect());
    }
    let value = of_grammar(longhand.grammar(), value);
    // What no layout asks for may be as large as a number of 32 bits.
    const UNBOUNDED: [L; 8] = [
        L::ColumnWidth,
        L::Perspective,
        L::ScrollMarginBottom,
        L::ScrollMarginLeft,
        L::ScrollMarginRight,
        L::ScrollMarginTop,
        L::TabSize,
        L::TextStrokeWidth,
    ];
    match value.as_px() {
        Some(px) if UNBOUNDED.contains(&longhand) && px.abs() >= LARGEST => {
            Value::Length(LengthPercentage::px(px.signum() * f64::from(f32::MAX)))
        }
        _ => value,
    }
}

fn of_grammar(grammar: &Grammar, value: Value) -> Value {
    match (grammar, value) {
        (Grammar::CommaOf(item), Value::List(items)) => {
            Value::List(items.into_iter().map(|one| of_grammar(item, one)).collect())
        }
        // Both axes have the range of one.
        (
            Grammar::Size
            | Grammar::Radius
            | Grammar::Tracks
            | Grammar::AutoTracks
            | Grammar::ImageSlice
            | Grammar::ImageWidth
            | Grammar::ImageOutset
            | Grammar::IntrinsicSize,
            Value::Words(items),
        ) => Value::Words(items.into_iter().map(|one| of_grammar(grammar, one)).collect()),

        (Grammar::AspectRatio, Value::Words(items)) => Value::Words(
            items.into_iter().map(|one| one.as_number().map_or(one.clone(), |n| Value::Number(n.max(0.0)))).collect(),
        ),
        (Grammar::Zoom, Value::Number(n)) if n <= 0.0 => Value::Number(1.0),
        // Slices are whole pixels of the picture.
        (Grammar::ImageSlice, Value::Number(n)) => Value::Number((n.max(0.0) + 0.5).floor()),
        (Grammar::ImageWidth | Grammar::ImageOutset, Value::Number(n)) if n >= f64::from(f32::MAX) => {
            Value::Number(f64::MAX)
        }
        (Grammar::TabSize | Grammar::ImageWidth | Grammar::ImageOutset, Value::Number(n)) => Value::Number(n.max(0.0)),
        (
            Grammar::Length { negative: false, .. }
            | Grammar::BoxSize
            | Grammar::MaxSize
            | Grammar::Size
            | Grammar::Radius
            | Grammar::Tracks
            | Grammar::AutoTracks
            | Grammar::ImageWidth
            | Grammar::ImageOutset
            | Grammar::IntrinsicSize
            | Grammar::StrokeWidth
            | Grammar::StrokeOfText
            | Grammar::TabSize,
            Value::Length(length),
        ) if !length.has_percent => Value::Length(LengthPercentage::px(length.px.max(0.0))),
        // A percentage alone has the range as well.
        (
            Grammar::Size
            | Grammar::Radius
            | Grammar::StrokeWidth
            | Grammar::ImageSlice
            | Grammar::ImageWidth
            | Grammar::SizeAdjust,
            Value::Length(length),
        ) if length.px == 0.0 => Value::Length(LengthPercentage { percent: length.percent.max(0.0), ..length }),
        (Grammar::NumberOr { min, .. }, Value::Number(n)) => Value::Number(n.max(*min).min(f64::from(f32::MAX))),
        // Halves go up, towards positive infinity.
        (Grammar::Integer(_), Value::Number(n)) => {
            Value::Number((n + 0.5).floor().clamp(f64::from(i32::MIN), f64::from(i32::MAX)))
        }
        (Grammar::Count { most, .. }, Value::Number(n)) => Value::Number((n + 0.5).floor().clamp(1.0, *most)),
        (Grammar::Alpha, Value::Number(n)) => Value::Number(n.clamp(0.0, 1.0)),
        (_, value) => value,
    }
}

/// A value with its lengths in px, times in seconds and angles in degrees.
///
/// # Errors
/// The reason why it cannot be known.
pub fn absolute(value: &Value, context: &Context) -> Result<Value, Unknown> {
    generic(value, context)
}

fn generic(value: &Value, context: &Context) -> Result<Value, Unknown> {
    Ok(match value {
        Value::Unmodelled => return Err(NOT_MODELLED),
        Value::Dimension(amount, unit) => {
            let amount = context.canonical(*amount, *unit)?;
            match unit.quantity {
                Quantity::Length => Value::Length(LengthPercentage::px(amount)),
                Quantity::Time => Value::Seconds(amount),
                Quantity::Angle => Value::Degrees(amount),
            }
        }
        Value::Calc(tree) => {
            use super::calc::ResultType;
            match tree.kind() {
                Some(ResultType::Number) => Value::Number(tree.number(context)?),
                Some(ResultType::Quantity(Quantity::Time)) => Value::Seconds(tree.canonical(context)?),
                Some(ResultType::Quantity(Quantity::Angle)) => Value::Degrees(tree.canonical(context)?),
                Some(_) => Value::Length(tree.length(context)?),
                None => return Err(NOT_MODELLED),
            }
        }
        Value::List(items) => Value::List(all(items, context)?),
        Value::Words(items) => Value::Words(all(items, context)?),
        Value::Function(name, items) => Value::Function(name, all(items, context)?),
        other => other.clone(),
    })
}

fn all(items: &[Value], context: &Context) -> Result<Vec<Value>, Unknown> {
    items.iter().map(|item| generic(item, context)).collect()
}

/// By tag, each once: the last one counts (CSS Fonts 4, section 6.12).
fn sorted_tags(value: Value) -> Value {
    let Value::List(items) = value else { return value };
    let tag = |item: &Value| match item {
        Value::Words(words) => words.first().map(super::serialize::to_css),
        other => Some(super::serialize::to_css(other)),
    };
    let last: std::collections::BTreeMap<Option<String>, Value> =
        items.into_iter().map(|item| (tag(&item), item)).collect();
    Value::List(last.into_values().collect())
}

fn position_words(value: Value) -> Value {
    match value {
        Value::List(items) => Value::List(items.into_iter().map(position_words).collect()),
        Value::Keyword("left" | "top") => Value::Length(LengthPercentage::percent(0.0)),
        Value::Keyword("center") => Value::Length(LengthPercentage::percent(50.0)),
        Value::Keyword("right" | "bottom") => Value::Length(LengthPercentage::percent(100.0)),
        other => other,
    }
}

fn font_size(value: &Value, context: &Context) -> Result<Value, Unknown> {
    // Chromium's table for a default size of 16px; CSS Fonts 4, section 2.5 gives the ratios.
    const SIZES: [(&str, f64); 8] = [
        ("xx-small", 9.0),
        ("x-small", 10.0),
        ("small", 13.0),
        ("medium", 16.0),
        ("large", 18.0),
        ("x-large", 24.0),
        ("xx-large", 32.0),
        ("xxx-large", 48.0),
    ];
    if let Value::Keyword(word) = value {
        if let Some((_, px)) = SIZES.iter().find(|(name, _)| name == word) {
            return Ok(Value::Length(LengthPercentage::px(*px)));
        }
        let factor = if *word == "larger" { 1.2 } else { 1.0 / 1.2 };
        return Ok(Value::Length(LengthPercentage::px(context.font_size? * factor)));
    }
    match generic(value, context)? {
        Value::Length(length) if length.has_percent => {
            let px = length.px + length.percent / 100.0 * context.font_size?;
            Ok(Value::Length(LengthPercentage::px(px.max(0.0))))
        }
        Value::Length(length) => Ok(Value::Length(LengthPercentage::px(length.px.max(0.0)))),
        other => Ok(other),
    }
}

fn font_weight(value: &Value, context: &Context) -> Result<Value, Unknown> {
    // Relative weights: CSS Fonts 4, section 2.2.1.
    Ok(match value {
        Value::Keyword("normal") => Value::Number(400.0),
        Value::Keyword("bold") => Value::Number(700.0),
        Value::Keyword("bolder") => Value::Number(match context.parent_weight? {
            w if w < 350.0 => 400.0,
            w if w < 550.0 => 700.0,
            w if w < 900.0 => 900.0,
            w => w,
        }),
        Value::Keyword("lighter") => Value::Number(match context.parent_weight? {
            w if w < 100.0 => w,
            w if w < 550.0 => 100.0,
            w if w < 750.0 => 400.0,
            _ => 700.0,
        }),
        Value::Calc(tree) => {
            return tree.number(context).map(|n| Value::Number(n.clamp(1.0, 1000.0)));
        }
        other => other.clone(),
    })
}

fn line_height(value: &Value, context: &Context) -> Result<Value, Unknown> {
    match generic(value, context)? {
        Value::Length(length) if length.has_percent => {
            let px = length.px + length.percent / 100.0 * context.font_size?;
            // A calculation of both comes in 64ths of a px.
            let px = if length.px == 0.0 { px } else { (px * 64.0).floor() / 64.0 };
            Ok(Value::Length(LengthPercentage::px(px.max(0.0))))
        }
        Value::Length(length) => Ok(Value::Length(LengthPercentage::px(length.px.max(0.0)))),
        Value::Number(n) => Ok(Value::Number(n.max(0.0))),
        other => Ok(other),
    }
}

/// Line widths are snapped to whole device pixels (CSS Values 4, section 10.2), here at one per CSS px.
fn line_width(value: &Value, context: &Context) -> Result<Value, Unknown> {
    let px = match value {
        Value::Keyword("thin") => 1.0,
        Value::Keyword("medium") => 3.0,
        Value::Keyword("thick") => 5.0,
        other => match generic(other, context)? {
            Value::Length(length) => length.px.max(0.0),
            _ => return Err(NOT_MODELLED),
        },
    };
    Ok(Value::Length(LengthPercentage::px(whole_pixels(px))))
}

/// A length of a line in whole pixels: one at least, where there is any.
fn whole_pixels(px: f64) -> f64 {
    if px > 0.0 && px < 1.0 { 1.0 } else { px.floor() }
}

/// Resolves the colours in a computed value. `currentcolor` stays where the element's colour is not known.
pub fn resolve_colors(value: &Value, surroundings: Surroundings) -> Value {
    let all = |items: &[Value]| items.iter().map(|item| resolve_colors(item, surroundings)).collect();
    match value {
        Value::Color(color) => match color.resolve(surroundings) {
            Some(absolute) => Value::Color(Color::Absolute(absolute)),
            None => value.clone(),
        },
        Value::List(items) => Value::List(all(items)),
        Value::Words(items) => Value::Words(all(items)),
        Value::Function(name, items) => Value::Function(name, all(items)),
        other => other.clone(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::css::parse::parse_longhand;
    use crate::css::serialize::to_css;

    fn compute_css(longhand: Longhand, text: &str) -> Result<String, Unknown> {
        let context = Context {
            font_size: Ok(20.0),
            root_font_size: Ok(16.0),
            line_height: Ok(30.0),
            parent_weight: Ok(400.0),
            viewport: (1000.0, 500.0),
            whole: None,
        };
        let value = parse_longhand(longhand, text).unwrap_or_else(|_| panic!("{text} was not read"));
        compute(longhand, &value, &context).map(|value| to_css(&value))
    }

    #[test]
    fn lengths_become_pixels() {
        for (text, expected) in [
            ("2em", "40px"),
            ("2rem", "32px"),
            ("1lh", "30px"),
            ("1vw", "10px"),
            ("calc(1em + 2 * 3px)", "26px"),
            ("calc(50% - 4px)", "calc(50% - 4px)"),
            ("min(1em, 1rem)", "16px"),
            ("clamp(1px, 5px, 3px)", "3px"),
            ("1in", "96px"),
            ("calc(10px * sin(30deg))", "5px"),
            ("calc(1px * pow(2, 3))", "8px"),
            ("round(up, 11px, 4px)", "12px"),
            ("round(10px, 4px)", "12px"),
            ("mod(-7px, 4px)", "1px"),
            ("rem(-7px, 4px)", "-3px"),
            ("hypot(3px, 4px)", "5px"),
            ("calc(1px * sign(-2em))", "-1px"),
        ] {
            assert_eq!(compute_css(L::Top, text).as_deref(), Ok(expected), "{text}");
        }
    }

    #[test]
    fn what_needs_a_font_or_a_layout_is_unknown() {
        assert!(compute_css(L::Top, "1ch").is_err());
        assert!(compute_css(L::Top, "min(50%, 4px)").is_err());
        assert!(compute_css(L::BackgroundImage, "url(a.png)").is_err());
    }

    #[test]
    fn line_widths_are_snapped() {
        for (text, expected) in [("0.4px", "1px"), ("1.9px", "1px"), ("0px", "0px"), ("thick", "5px")] {
            assert_eq!(compute_css(L::BorderTopWidth, text).as_deref(), Ok(expected), "{text}");
        }
    }

    #[test]
    fn relative_fonts() {
        assert_eq!(compute_css(L::FontSize, "150%").as_deref(), Ok("30px"));
        assert_eq!(compute_css(L::FontWeight, "bolder").as_deref(), Ok("700"));
        assert_eq!(compute_css(L::LineHeight, "150%").as_deref(), Ok("30px"));
    }
}
