//! Gradients (CSS Images 4, section 3). Pictures behind addresses are accepted, not modelled: their address depends on
//! where the page is.

use super::color::{self, Color, Hue};
use super::position;
use super::primitive::{Primitive, keyword, skip};
use super::value::{LengthPercentage, Value};
use cssparser::{ParseError, Parser, Token};

type ValueResult = Result<Value, ParseError<()>>;

const LENGTH: Primitive = Primitive::Length { percent: true, negative: true, keywords: &[] };
const SIZE: Primitive = Primitive::Length { percent: true, negative: false, keywords: &[] };

fn wrong<T>() -> Result<T, ParseError<()>> {
    Err(ParseError::unexpected_token())
}

/// Parses an image.
pub fn parse(parser: &mut Parser) -> ValueResult {
    match parser.next()?.clone() {
        Token::UnquotedUrl(_) => Ok(Value::Unmodelled),
        Token::Function(name) => {
            let name = name.to_ascii_lowercase();
            match name.as_str() {
                "linear-gradient" => gradient("linear-gradient", parser, linear, &LENGTH),
                "repeating-linear-gradient" => gradient("repeating-linear-gradient", parser, linear, &LENGTH),
                "radial-gradient" => gradient("radial-gradient", parser, radial, &LENGTH),
                "repeating-radial-gradient" => gradient("repeating-radial-gradient", parser, radial, &LENGTH),
                "conic-gradient" => gradient("conic-gradient", parser, conic, &Primitive::AnglePercentage),
                "repeating-conic-gradient" => {
                    gradient("repeating-conic-gradient", parser, conic, &Primitive::AnglePercentage)
                }
                "url" | "image-set" | "paint" | "image" => skip(parser),
                "light-dark" => parser.parse_nested_block(|inner| {
                    parse(inner)?;
                    inner.expect_comma()?;
                    parse(inner)?;
                    Ok(Value::Unmodelled)
                }),
                name if name.starts_with("-webkit-") => skip(parser),
                _ => wrong(),
            }
        }
        _ => wrong(),
    }
}

/// What stands before the stops: words in the order in which browsers write them.
type Prelude = fn(&mut Parser) -> Result<Vec<Value>, ParseError<()>>;

fn gradient(name: &'static str, parser: &mut Parser, prelude: Prelude, place: &Primitive) -> ValueResult {
    parser.parse_nested_block(|inner| {
        let mut space = None;
        let mut words = Vec::new();
        let state = inner.state();
        // The space may stand before or after the rest.
        if let Ok(found) = inner.try_parse(color::interpolation_space) {
            space = Some(found);
        }
        if let Ok(found) = inner.try_parse(prelude) {
            words = found;
        }
        if space.is_none()
            && let Ok(found) = inner.try_parse(color::interpolation_space)
        {
            space = Some(found);
        }
        let has_prelude = inner.position() != state.position();
        if has_prelude {
            inner.expect_comma()?;
        }
        let stops = stops(inner, place)?;
        if let Some((name, hue)) = space {
            let legacy = stops.iter().all(is_legacy_stop);
            // What applies anyway is left out (CSS Images 4, section 3.4).
            let default = if legacy { "srgb" } else { "oklab" };
            if name != default {
                words.push(Value::Keyword("in"));
                words.push(Value::Keyword(name));
                if hue != Hue::Shorter {
                    words.push(Value::Keyword(hue.name()));
                    words.push(Value::Keyword("hue"));
                }
            }
        }
        let mut items = Vec::new();
        if !words.is_empty() {
            items.push(Value::Words(words));
        }
        items.extend(stops);
        Ok(Value::Function(name, items))
    })
}

fn is_legacy_stop(stop: &Value) -> bool {
    match stop {
        Value::Words(words) => words.iter().all(|word| match word {
            Value::Color(color) => color.is_legacy(),
            _ => true,
        }),
        _ => true,
    }
}

/// Stops and hints; a stop with two places is two stops.
fn stops(parser: &mut Parser, place: &Primitive) -> Result<Vec<Value>, ParseError<()>> {
    let mut list = Vec::new();
    let mut hinted = true;
    let parts = parser.parse_comma_separated(|p| {
        let mut color: Option<Color> = None;
        let mut places = Vec::new();
        while !p.is_exhausted() {
            if color.is_none()
                && let Ok(found) = p.try_parse(color::parse)
            {
                if places.len() == 1 && p.is_exhausted() {
                    color = Some(found);
                    break;
                }
                color = Some(found);
                continue;
            }
            if places.len() == 2 {
                return wrong();
            }
            places.push(place.parse(p)?);
        }
        Ok((color, places))
    })?;
    for (color, places) in parts {
        match color {
            None if !hinted && places.len() == 1 => {
                hinted = true;
                list.extend(places.into_iter().map(|place| Value::Words(vec![place])));
                continue;
            }
            None => return wrong(),
            Some(color) => {
                hinted = false;
                let color = Value::Color(color);
                if places.is_empty() {
                    list.push(Value::Words(vec![color]));
                } else {
                    list.extend(places.into_iter().map(|place| Value::Words(vec![color.clone(), place])));
                }
            }
        }
    }
    if hinted { wrong() } else { Ok(list) }
}

fn linear(parser: &mut Parser) -> Result<Vec<Value>, ParseError<()>> {
    if parser.try_parse(|p| p.expect_ident_matching("to")).is_ok() {
        let first = keyword(parser, &["left", "right", "top", "bottom"])?;
        let second = parser.try_parse(|p| keyword(p, &["left", "right", "top", "bottom"])).ok();
        let is_horizontal = |value: &Value| value.is("left") || value.is("right");
        return match second {
            None if first.is("bottom") => Ok(Vec::new()),
            None => Ok(vec![Value::Keyword("to"), first]),
            Some(second) if is_horizontal(&first) == is_horizontal(&second) => wrong(),
            Some(second) if is_horizontal(&first) => Ok(vec![Value::Keyword("to"), first, second]),
            Some(second) => Ok(vec![Value::Keyword("to"), second, first]),
        };
    }
    let angle = Primitive::AngleOrZero.parse(parser)?;
    // Downwards is where it goes anyway.
    let is_down = matches!(&angle, Value::Dimension(n, unit) if *n == 180.0 && unit.name == "deg");
    Ok(if is_down { Vec::new() } else { vec![angle] })
}

fn radial(parser: &mut Parser) -> Result<Vec<Value>, ParseError<()>> {
    const SIZES: &[&str] = &["closest-side", "closest-corner", "farthest-side", "farthest-corner"];
    let mut shape = None;
    let mut extent = None;
    let mut lengths = Vec::new();
    let start = parser.position();
    loop {
        if shape.is_none()
            && let Ok(word) = parser.try_parse(|p| keyword(p, &["circle", "ellipse"]))
        {
            shape = Some(word);
        } else if extent.is_none()
            && lengths.is_empty()
            && let Ok(word) = parser.try_parse(|p| keyword(p, SIZES))
        {
            extent = Some(word);
        } else if extent.is_none()
            && lengths.is_empty()
            && let Ok(length) = parser.try_parse(|p| SIZE.parse(p))
        {
            lengths.push(length);
            lengths.extend(parser.try_parse(|p| SIZE.parse(p)));
        } else {
            break;
        }
    }
    let is_circle = shape.as_ref().is_some_and(|shape| shape.is("circle"));
    let is_ellipse = shape.as_ref().is_some_and(|shape| shape.is("ellipse"));
    if (is_circle && lengths.len() == 2) || (is_ellipse && lengths.len() == 1) {
        return wrong();
    }
    let mut words = Vec::new();
    if is_circle && lengths.is_empty() {
        words.push(Value::Keyword("circle"));
    }
    words.extend(extent.filter(|extent| !extent.is("farthest-corner")));
    words.extend(lengths);
    let at = at(parser)?;
    if parser.position() == start {
        return wrong();
    }
    words.extend(at);
    Ok(words)
}

fn conic(parser: &mut Parser) -> Result<Vec<Value>, ParseError<()>> {
    let start = parser.position();
    let mut words = Vec::new();
    if parser.try_parse(|p| p.expect_ident_matching("from")).is_ok() {
        let angle = Primitive::AngleOrZero.parse(parser)?;
        let is_zero = matches!(&angle, Value::Dimension(n, _) if *n == 0.0) || matches!(angle, Value::Degrees(0.0));
        if !is_zero {
            words.push(Value::Keyword("from"));
            words.push(angle);
        }
    }
    words.extend(at(parser)?);
    if parser.position() == start { wrong() } else { Ok(words) }
}

/// `at <position>`; the middle is left out.
fn at(parser: &mut Parser) -> Result<Vec<Value>, ParseError<()>> {
    if parser.try_parse(|p| p.expect_ident_matching("at")).is_err() {
        return Ok(Vec::new());
    }
    let [x, y] = position::parse(parser, false)?;
    let middle = Value::Length(LengthPercentage::percent(50.0));
    if x == middle && y == middle {
        return Ok(Vec::new());
    }
    Ok(vec![Value::Keyword("at"), x, y])
}
