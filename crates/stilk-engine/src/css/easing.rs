//! Easing functions (CSS Easing 2).

use super::number::next_number;
use super::primitive::{Primitive, ValueResult, keyword, wrong};
use super::value::{LengthPercentage, Value};
use super::words;
use cssparser::Parser;

pub(super) fn easing(parser: &mut Parser) -> ValueResult {
    if let Ok(value) = parser.try_parse(|p| keyword(p, words::EASINGS)) {
        return Ok(match value {
            Value::Keyword("step-start") => Value::Function("steps", vec![Value::Number(1.0), Value::Keyword("start")]),
            Value::Keyword("step-end") => Value::Function("steps", vec![Value::Number(1.0)]),
            word => word,
        });
    }
    let name = parser.expect_function()?.to_ascii_lowercase();
    match name.as_str() {
        "cubic-bezier" => parser.parse_nested_block(|inner| {
            let points = inner.parse_comma_separated(|p| Primitive::NUMBER.parse(p))?;
            let ok = |value: &Value| value.as_number().is_some_and(|n| (0.0..=1.0).contains(&n));
            if points.len() == 4 && ok(&points[0]) && ok(&points[2]) {
                Ok(Value::Function("cubic-bezier", points))
            } else {
                wrong()
            }
        }),
        "steps" => parser.parse_nested_block(|inner| {
            static PLACES: &[&str] = &["jump-start", "jump-end", "jump-none", "jump-both", "start", "end"];
            let count = Primitive::Integer(&[]).parse(inner)?;
            let mut items = vec![count];
            if inner.try_parse(|p| p.expect_comma()).is_ok() {
                items.push(keyword(inner, PLACES)?);
            }
            let least = if items.last().is_some_and(|place| place.is("jump-none")) { 2.0 } else { 1.0 };
            if items[0].as_number().is_some_and(|count| count < least) {
                return wrong();
            }
            items.retain(|item| !item.is("end") && !item.is("jump-end"));
            Ok(Value::Function("steps", items))
        }),
        "linear" => parser.parse_nested_block(linear_easing),
        _ => wrong(),
    }
}

/// `linear()`: points with their places filled in (CSS Easing 2, section 2.2.1).
fn linear_easing(parser: &mut Parser) -> ValueResult {
    let mut points: Vec<(f64, Option<f64>)> = Vec::new();
    parser.parse_comma_separated(|p| {
        let place = |p: &mut Parser| p.try_parse(|p| p.expect_percentage()).map(|share| f64::from(share) * 100.0);
        let mut places: Vec<f64> = place(p).into_iter().collect();
        let (value, unit) = next_number(p)?;
        if unit.is_some() {
            return wrong();
        }
        while let Ok(next) = place(p) {
            places.push(next);
        }
        match places.as_slice() {
            [] => points.push((value, None)),
            places if places.len() <= 2 => points.extend(places.iter().map(|place| (value, Some(*place)))),
            _ => return wrong(),
        }
        Ok(())
    })?;
    if points.len() < 2 {
        return wrong();
    }
    let last = points.len() - 1;
    points[0].1.get_or_insert(0.0);
    if points[last].1.is_none() {
        points[last].1 = Some(points.iter().filter_map(|point| point.1).fold(100.0, f64::max));
    }
    let mut largest = f64::NEG_INFINITY;
    for point in points.iter_mut() {
        if let Some(place) = &mut point.1 {
            largest = largest.max(*place);
            *place = largest;
        }
    }
    let mut i = 0;
    while i < points.len() {
        if points[i].1.is_none() {
            let end = (i..points.len()).find(|j| points[*j].1.is_some()).unwrap_or(last);
            let (from, to) = (points[i - 1].1.unwrap_or(0.0), points[end].1.unwrap_or(100.0));
            let count = (end - i + 1) as f64;
            for (n, point) in points[i..end].iter_mut().enumerate() {
                point.1 = Some(from + (to - from) * (n as f64 + 1.0) / count);
            }
            i = end;
        }
        i += 1;
    }
    let items = points.into_iter().map(|(value, place)| {
        Value::Words(vec![Value::Number(value), Value::Length(LengthPercentage::percent(place.unwrap_or(0.0)))])
    });
    Ok(Value::Function("linear", items.collect()))
}
