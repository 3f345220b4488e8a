//! Colour functions with components that are computed or taken from another colour (CSS Color 4, sections 5 to 10; CSS
//! Color 5, section 4).

use super::calc;
use super::color::{Absolute, Color, SPACES, Surroundings};
use super::context::Context;
use super::number::next_number;
use super::value::{Quantity, unit};
use ::color::ColorSpaceTag as Space;
use cssparser::{ParseError, Parser, Token};
use std::sync::Arc;

/// A colour function whose components are taken from another colour: `oklch(from red l c calc(h + 20))`.
#[derive(Debug, Clone, PartialEq)]
pub struct Relative {
    /// The colour that gives the components.
    origin: Color,
    function: &'static str,
    /// What follows the colour.
    rest: Arc<str>,
}

/// What a component's numbers mean.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Range {
    /// What `100%` is.
    percent: f64,
    /// What a number is divided by to be in the range of the `color` crate.
    scale: f64,
    /// The least and the greatest value that is kept.
    clamp: (f64, f64),
    hue: bool,
}

const OPEN: (f64, f64) = (f64::NEG_INFINITY, f64::INFINITY);

const fn range(percent: f64, scale: f64, clamp: (f64, f64)) -> Range {
    Range { percent, scale, clamp, hue: false }
}

const HUE: Range = Range { percent: f64::NAN, scale: 1.0, clamp: OPEN, hue: true };
const CHANNEL: Range = range(255.0, 255.0, OPEN);
const SHARE: Range = range(100.0, 1.0, OPEN);
const UNIT: Range = range(1.0, 1.0, OPEN);

/// A function: its space, the names of its channels, their ranges.
struct Function {
    name: &'static str,
    space: Space,
    channels: [&'static str; 3],
    ranges: [Range; 3],
    legacy: bool,
}

static FUNCTIONS: [Function; 7] = [
    Function { name: "rgb", space: Space::Srgb, channels: ["r", "g", "b"], ranges: [CHANNEL; 3], legacy: true },
    Function { name: "hsl", space: Space::Hsl, channels: ["h", "s", "l"], ranges: [HUE, SHARE, SHARE], legacy: true },
    Function { name: "hwb", space: Space::Hwb, channels: ["h", "w", "b"], ranges: [HUE, SHARE, SHARE], legacy: true },
    Function {
        name: "lab",
        space: Space::Lab,
        channels: ["l", "a", "b"],
        ranges: [range(100.0, 1.0, (0.0, 100.0)), range(125.0, 1.0, OPEN), range(125.0, 1.0, OPEN)],
        legacy: false,
    },
    Function {
        name: "lch",
        space: Space::Lch,
        channels: ["l", "c", "h"],
        ranges: [range(100.0, 1.0, (0.0, 100.0)), range(150.0, 1.0, (0.0, f64::INFINITY)), HUE],
        legacy: false,
    },
    Function {
        name: "oklab",
        space: Space::Oklab,
        channels: ["l", "a", "b"],
        ranges: [range(1.0, 1.0, (0.0, 1.0)), range(0.4, 1.0, OPEN), range(0.4, 1.0, OPEN)],
        legacy: false,
    },
    Function {
        name: "oklch",
        space: Space::Oklch,
        channels: ["l", "c", "h"],
        ranges: [range(1.0, 1.0, (0.0, 1.0)), range(0.4, 1.0, (0.0, f64::INFINITY)), HUE],
        legacy: false,
    },
];

fn find(name: &str) -> Option<&'static Function> {
    let name = name.strip_suffix('a').filter(|short| ["rgb", "hsl"].contains(short)).unwrap_or(name);
    FUNCTIONS.iter().find(|function| function.name == name)
}

/// Parses the arguments of the colour function that was just opened.
pub fn parse(name: &str, parser: &mut Parser) -> Result<Color, ParseError<()>> {
    if parser.try_parse(|p| p.expect_ident_matching("from")).is_ok() {
        let origin = super::color::parse(parser)?;
        parser.skip_whitespace();
        let start = parser.position();
        while parser.next_including_whitespace_and_comments().is_ok() {}
        let function = match find(name) {
            Some(function) => function.name,
            None => "color",
        };
        let relative = Relative { origin, function, rest: parser.slice_from(start).trim().into() };
        // Any colour shows whether it can be read at all.
        return match relative.from(Absolute::rgb8(0x40_80c0)) {
            Some(_) => Ok(Color::Relative(Box::new(relative))),
            None => Err(ParseError::unexpected_token()),
        };
    }
    components(name, None, parser).map(Color::Absolute)
}

/// Parses the arguments of `alpha()`: another alpha for a colour (CSS Color 5, section 5).
pub fn parse_alpha(parser: &mut Parser) -> Result<Color, ParseError<()>> {
    parser.expect_ident_matching("from")?;
    let origin = super::color::parse(parser)?;
    parser.skip_whitespace();
    let start = parser.position();
    while parser.next_including_whitespace_and_comments().is_ok() {}
    let relative = Relative { origin, function: ALPHA, rest: parser.slice_from(start).trim().into() };
    match relative.from(Absolute::rgb8(0)) {
        Some(_) => Ok(Color::Relative(Box::new(relative))),
        None => Err(ParseError::unexpected_token()),
    }
}

const ALPHA: &str = "alpha";

/// The colour with the alpha that is asked for.
fn with_alpha(origin: Absolute, parser: &mut Parser) -> Result<Absolute, ParseError<()>> {
    parser.expect_delim('/')?;
    let channels = Channels { names: [""; 3], values: [0.0; 3], alpha: origin.alpha };
    let alpha = component(&UNIT, Some(&channels), parser)?.0.map(|alpha| alpha.clamp(0.0, 1.0));
    Ok(Absolute {
        components: origin.components.map(|c| Some(c.unwrap_or(0.0))),
        alpha: alpha.unwrap_or(0.0),
        alpha_is_missing: alpha.is_none(),
        legacy: origin.legacy || matches!(origin.space, Space::Hsl | Space::Hwb),
        ..origin
    })
}

impl Relative {
    /// Whether `currentcolor` takes part.
    pub fn uses_current(&self) -> bool {
        self.origin.uses_current()
    }

    /// The colour.
    pub fn resolve(&self, surroundings: Surroundings) -> Option<Absolute> {
        self.from(self.origin.resolve(surroundings)?)
    }

    fn from(&self, origin: Absolute) -> Option<Absolute> {
        let mut parser = Parser::new(&self.rest);
        // What depends on the element is computed as a colour function of its own.
        let origin = match self.function == ALPHA && self.origin.uses_current() && origin.legacy {
            true => Absolute { legacy: false, ..origin.to(Space::Srgb) },
            false => origin,
        };
        let read = |p: &mut Parser| match self.function {
            ALPHA => with_alpha(origin, p),
            function => components(function, Some(origin), p),
        };
        parser.parse_entirely(read).ok()
    }
}

/// The channels of a colour by name, in the ranges that the function's own numbers have.
struct Channels {
    names: [&'static str; 3],
    values: [f64; 3],
    alpha: f64,
}

impl Channels {
    fn get(&self, name: &str) -> Option<f64> {
        if name.eq_ignore_ascii_case("alpha") {
            return Some(self.alpha);
        }
        let at = self.names.iter().position(|known| known.eq_ignore_ascii_case(name))?;
        Some(self.values[at])
    }
}

fn wrong<T>() -> Result<T, ParseError<()>> {
    Err(ParseError::unexpected_token())
}

fn components(name: &str, origin: Option<Absolute>, parser: &mut Parser) -> Result<Absolute, ParseError<()>> {
    let (space, names, ranges, legacy) = match find(name) {
        Some(function) => (function.space, function.channels, function.ranges, function.legacy),
        None => {
            let word = parser.expect_ident()?.to_ascii_lowercase();
            let named = SPACES.iter().find(|(known, _)| *known == word).map(|(_, space)| *space);
            let Some(space) = named.filter(|space| predefined(*space)) else { return wrong() };
            let names = if word.starts_with("xyz") { ["x", "y", "z"] } else { ["r", "g", "b"] };
            (space, names, [UNIT; 3], false)
        }
    };
    let channels = match origin {
        Some(origin) => Some(channels(origin, space, names, &ranges)?),
        None => None,
    };
    let channels = channels.as_ref();
    let mut values = [None; 3];
    let mut commas = false;
    let mut percents = 0;
    for (i, value) in values.iter_mut().enumerate() {
        if i == 1 {
            commas = legacy && origin.is_none() && parser.try_parse(|p| p.expect_comma()).is_ok();
        } else if i == 2 && commas {
            parser.expect_comma()?;
        }
        let (found, is_percent) = component(&ranges[i], channels, parser)?;
        percents += usize::from(is_percent);
        if commas && found.is_none() {
            return wrong();
        }
        *value = found;
    }
    // With commas numbers and percentages do not mix (CSS Color 4, section 5.1), and `hwb()` knows none.
    if commas && (name == "hwb" || (name.starts_with("rgb") && !matches!(percents, 0 | 3))) {
        return wrong();
    }
    let mut alpha = channels.map_or(Some(1.0), |channels| Some(channels.alpha));
    let has_alpha = if commas {
        parser.try_parse(|p| p.expect_comma()).is_ok()
    } else {
        parser.try_parse(|p| p.expect_delim('/')).is_ok()
    };
    if has_alpha {
        alpha = component(&UNIT, channels, parser)?.0.map(|alpha| alpha.clamp(0.0, 1.0));
    }
    for (value, range) in values.iter_mut().zip(&ranges) {
        *value = value.map(|v| {
            let v = if range.hue { v.rem_euclid(360.0) } else { v };
            v.clamp(range.clamp.0, range.clamp.1) / range.scale
        });
    }
    // What the old notations give is sRGB of its own kind, unless it came from another colour.
    let legacy = legacy && origin.is_none();
    if legacy {
        // Shares that are written may be too great, not negative; a lightness may be anything.
        let limits = match space {
            Space::Srgb => [(0.0, 1.0); 3],
            Space::Hsl => [OPEN, (0.0, f64::INFINITY), OPEN],
            _ => [OPEN, (0.0, f64::INFINITY), (0.0, f64::INFINITY)],
        };
        for (value, (least, most)) in values.iter_mut().zip(limits) {
            *value = value.map(|v| v.clamp(least, most));
        }
    }
    let alpha_is_missing = alpha.is_none();
    Ok(Absolute { space, components: values, alpha: alpha.unwrap_or(0.0), alpha_is_missing, legacy })
}

fn predefined(space: Space) -> bool {
    !matches!(space, Space::Lab | Space::Lch | Space::Oklab | Space::Oklch | Space::Hsl | Space::Hwb)
}

fn channels(
    origin: Absolute,
    space: Space,
    names: [&'static str; 3],
    ranges: &[Range; 3],
) -> Result<Channels, ParseError<()>> {
    // Nothing is carried over: what is missing is 0 in another space.
    let whole = Absolute { components: origin.components.map(|c| Some(c.unwrap_or(0.0))), ..origin };
    let color = whole.to(space);
    let mut values = [0.0; 3];
    for (i, value) in values.iter_mut().enumerate() {
        *value = color.components[i].unwrap_or(0.0) * ranges[i].scale;
    }
    Ok(Channels { names, values, alpha: origin.alpha })
}

/// A component, `None` for `none`, and whether it is a percentage.
fn component(
    range: &Range,
    channels: Option<&Channels>,
    parser: &mut Parser,
) -> Result<(Option<f64>, bool), ParseError<()>> {
    parser.skip_whitespace();
    let state = parser.state();
    match parser.next()?.clone() {
        Token::Ident(name) if name.eq_ignore_ascii_case("none") => Ok((None, false)),
        Token::Ident(name) => match channels.and_then(|channels| channels.get(&name)) {
            Some(value) => Ok((Some(value), false)),
            None => wrong(),
        },
        Token::Number { .. } => {
            parser.reset(&state);
            Ok((Some(next_number(parser)?.0), false))
        }
        Token::Percentage { .. } if !range.hue => {
            parser.reset(&state);
            Ok((Some(next_number(parser)?.0 / 100.0 * range.percent), true))
        }
        Token::Dimension { .. } if range.hue => {
            parser.reset(&state);
            let (amount, name) = next_number(parser)?;
            match name.and_then(unit) {
                Some(unit) if unit.quantity == Quantity::Angle => {
                    let degrees = Context::constant().canonical(amount, unit);
                    degrees.map(|degrees| (Some(degrees), false)).map_err(|_| ParseError::unexpected_token())
                }
                _ => wrong(),
            }
        }
        Token::Function(name) if calc::is_math(&name) => {
            let lookup = |name: &str| channels?.get(name);
            let tree = calc::parse_with(&name, parser, &lookup)?;
            let amount = tree.canonical(&Context::constant()).map_err(|_| ParseError::unexpected_token())?;
            match tree.kind() {
                Some(calc::ResultType::Number) => Ok((Some(amount), false)),
                Some(calc::ResultType::Percentage) if !range.hue => Ok((Some(amount / 100.0 * range.percent), true)),
                Some(calc::ResultType::Quantity(Quantity::Angle)) if range.hue => Ok((Some(amount), false)),
                _ => wrong(),
            }
        }
        _ => wrong(),
    }
}
