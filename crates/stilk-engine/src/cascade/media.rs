//! Media queries (Media Queries 5): parsing and evaluation.

use super::selector::split_list;
use crate::css::compute::absolute;
use crate::css::contained::is_contained;
use crate::css::context::{Context, DEFAULT_FONT_SIZE, Unknown};
use crate::css::grammar::Grammar;
use crate::css::number::next_number;
use crate::css::value::Value;
use cssparser::{ParseError, Parser, Token};

/// What a page is shown on.
#[derive(Debug, Clone, PartialEq)]
pub struct Media {
    /// Width of the viewport in CSS px.
    pub width: f64,
    /// Height of the viewport in CSS px.
    pub height: f64,
    /// Whether a pointer can hover.
    pub hover: bool,
    /// The pointer: `fine` (a mouse), `coarse` or `none`.
    pub pointer: &'static str,
    /// Whether dark colours are preferred.
    pub dark: bool,
    /// `prefers-contrast`: `no-preference`, `more`, `less` or `custom`.
    pub contrast: &'static str,
    /// Whether reduced motion is preferred.
    pub reduced_motion: bool,
    /// Whether reduced transparency is preferred.
    pub reduced_transparency: bool,
    /// Whether forced colours are active.
    pub forced_colors: bool,
    /// Whether scripts run.
    pub scripting: bool,
    /// Device pixels per CSS px.
    pub resolution: f64,
}

impl Default for Media {
    fn default() -> Self {
        Media {
            width: 1280.0,
            height: 800.0,
            hover: true,
            pointer: "fine",
            dark: false,
            contrast: "no-preference",
            reduced_motion: false,
            reduced_transparency: false,
            forced_colors: false,
            scripting: true,
            resolution: 1.0,
        }
    }
}

/// A list of media queries, any of which may match.
#[derive(Debug, Clone, PartialEq)]
pub struct MediaList {
    queries: Vec<Query>,
}

/// A condition on features: of media, or of a container.
#[derive(Debug, Clone, PartialEq)]
pub enum Query {
    /// `not`
    Not(Box<Query>),
    /// `and`
    And(Vec<Query>),
    /// `or`
    Or(Vec<Query>),
    /// `screen`, `print`, `all`
    Type(String),
    /// `(name)` or `(name: word)`
    Word(String, Option<String>),
    /// A comparison of a feature with a number or a length: `(width < 30rem)`
    Compare(String, Order, Value),
    /// `style(…)` and its like: name and arguments.
    Function(String, String),
    /// Well-formed, but nothing known: never matches, negated or not.
    Unknown,
}

/// How a feature compares.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub enum Order {
    Less,
    AtMost,
    Equal,
    AtLeast,
    More,
}

/// An answer in three values, `None` for what CSS calls unknown (Media Queries 5, section 3.1); an error where it cannot be
/// known here.
pub type Answer = Result<Option<bool>, Unknown>;

/// What queries are asked of.
pub trait Features {
    /// A feature in a range, with the value that it is compared with in the same unit.
    fn compare(&self, name: &str, with: &Value) -> Result<Option<(f64, f64)>, Unknown>;
    /// A feature of words, or any feature alone.
    fn word(&self, name: &str, value: Option<&str>) -> Answer;
    /// A function.
    fn function(&self, name: &str, arguments: &str) -> Answer;
}

/// Parses a media query list; `None` when it is malformed.
pub fn parse_list(text: &str) -> Option<MediaList> {
    let mut parser = Parser::new(text);
    if parser.is_exhausted() {
        return Some(MediaList { queries: vec![Query::Type("all".into())] });
    }
    // A query that cannot be read is `not all`; the others stay (Media Queries 5, section 3.2).
    let queries = split_list(text).into_iter().map(|part| {
        let read = Parser::new(part).parse_entirely(query);
        read.unwrap_or_else(|_| Query::Not(Box::new(Query::Type("all".into()))))
    });
    Some(MediaList { queries: queries.collect() })
}

/// Whether each query of a list is one that browsers know to read, or may in time: in brackets anything goes
/// (Media Queries 5, section 3).
pub fn is_list(text: &str) -> bool {
    let is_query = |part: &str| {
        Parser::new(part).parse_entirely(query).is_ok() || part.trim_start().trim_start_matches("not ").starts_with('(')
    };
    is_contained(text) && !text.trim().is_empty() && split_list(text).into_iter().all(is_query)
}

impl MediaList {
    /// The queries.
    pub fn queries(&self) -> &[Query] {
        &self.queries
    }

    /// Whether any query matches.
    pub fn matches(&self, media: &Media) -> bool {
        self.queries.iter().any(|query| query.matches(media) == Ok(Some(true)))
    }
}

impl MediaList {
    /// Whether any of it may ever hold on a screen: paper and speech are never looked at.
    pub fn is_of_screens(&self) -> bool {
        let is_other = |query: &Query| match query {
            Query::Type(name) => !matches!(name.as_str(), "all" | "screen"),
            Query::And(parts) => {
                matches!(parts.first(), Some(Query::Type(name)) if !matches!(name.as_str(), "all" | "screen"))
            }
            _ => false,
        };
        !self.queries.iter().all(is_other)
    }
}

impl Query {
    /// Whether it holds.
    pub fn matches(&self, features: &dyn Features) -> Answer {
        match self {
            Query::Not(inner) => inner.matches(features).map(|answer| answer.map(|m| !m)),
            Query::And(list) => fold(list, features, false),
            Query::Or(list) => fold(list, features, true),
            Query::Type(name) => Ok(Some(name == "all" || name == "screen")),
            Query::Word(name, value) => features.word(name, value.as_deref()),
            Query::Compare(name, order, with) => {
                Ok(features.compare(name, with)?.map(|(actual, number)| match order {
                    Order::Less => actual < number,
                    Order::AtMost => actual <= number,
                    Order::Equal => actual == number,
                    Order::AtLeast => actual >= number,
                    Order::More => actual > number,
                }))
            }
            Query::Function(name, arguments) => features.function(name, arguments),
            Query::Unknown => Ok(None),
        }
    }
}

/// And, or in three values; `decisive` is what settles it.
fn fold(list: &[Query], features: &dyn Features, decisive: bool) -> Answer {
    let answers: Vec<Answer> = list.iter().map(|query| query.matches(features)).collect();
    if answers.contains(&Ok(Some(decisive))) {
        return Ok(Some(decisive));
    }
    if let Some(unknown) = answers.iter().find(|answer| answer.is_err()) {
        return *unknown;
    }
    Ok(if answers.contains(&Ok(None)) { None } else { Some(!decisive) })
}

/// Features of words: what they may be, and which of them makes `(feature)` alone false. Those that Chromium 156 has.
const WORDS: [(&str, &[&str], &str); 19] = [
    ("hover", &["none", "hover"], "none"),
    ("any-hover", &["none", "hover"], "none"),
    ("pointer", &["none", "coarse", "fine"], "none"),
    ("any-pointer", &["none", "coarse", "fine"], "none"),
    ("prefers-color-scheme", &["light", "dark"], ""),
    ("prefers-contrast", &["no-preference", "more", "less", "custom"], "no-preference"),
    ("prefers-reduced-motion", &["no-preference", "reduce"], "no-preference"),
    ("prefers-reduced-transparency", &["no-preference", "reduce"], "no-preference"),
    ("forced-colors", &["none", "active"], "none"),
    ("scripting", &["none", "initial-only", "enabled"], "none"),
    ("orientation", &["portrait", "landscape"], ""),
    ("update", &["none", "slow", "fast"], "none"),
    ("display-mode", &["browser", "fullscreen", "minimal-ui", "standalone", "picture-in-picture"], ""),
    ("color-gamut", &["srgb", "p3", "rec2020"], ""),
    ("dynamic-range", &["standard", "high"], ""),
    ("device-posture", &["continuous", "folded"], ""),
    ("scan", &["interlace", "progressive"], "none"),
    ("overflow-block", &["none", "scroll", "paged"], "none"),
    ("overflow-inline", &["none", "scroll"], "none"),
];

/// Features in a range that are there on every screen, as Chromium has them.
const RANGES: [&str; 15] = [
    "width",
    "height",
    "aspect-ratio",
    "device-width",
    "device-height",
    "device-aspect-ratio",
    "resolution",
    "color",
    "color-index",
    "monochrome",
    "grid",
    "horizontal-viewport-segments",
    "vertical-viewport-segments",
    "-webkit-device-pixel-ratio",
    "-webkit-transform-3d",
];

impl Media {
    /// What lengths are computed with.
    pub(super) fn lengths(&self) -> Context {
        // Fonts of a page say nothing here: `em` is the initial size.
        Context {
            font_size: Ok(DEFAULT_FONT_SIZE),
            root_font_size: Ok(DEFAULT_FONT_SIZE),
            viewport: (self.width, self.height),
            ..Context::constant()
        }
    }

    fn amount(&self, name: &str) -> Option<f64> {
        Some(match name {
            "width" | "device-width" => self.width,
            "height" | "device-height" => self.height,
            "aspect-ratio" | "device-aspect-ratio" => self.width / self.height,
            "resolution" | "-webkit-device-pixel-ratio" => self.resolution,
            "color" => 8.0,
            "color-index" | "monochrome" | "grid" => 0.0,
            "horizontal-viewport-segments" | "vertical-viewport-segments" | "-webkit-transform-3d" => 1.0,
            _ => return None,
        })
    }
}

impl Features for Media {
    fn compare(&self, name: &str, with: &Value) -> Result<Option<(f64, f64)>, Unknown> {
        let Some(actual) = self.amount(name) else { return Ok(None) };
        let wants_length = name.ends_with("width") || name.ends_with("height");
        Ok(comparable(with, wants_length, &self.lengths()).ok().flatten().map(|number| (actual, number)))
    }

    fn word(&self, name: &str, value: Option<&str>) -> Answer {
        let choose = |yes: bool, word: &'static str, other: &'static str| if yes { word } else { other };
        let actual = match name {
            "hover" | "any-hover" => choose(self.hover, "hover", "none"),
            "pointer" | "any-pointer" => self.pointer,
            "prefers-color-scheme" => choose(self.dark, "dark", "light"),
            "prefers-contrast" => self.contrast,
            "prefers-reduced-motion" => choose(self.reduced_motion, "reduce", "no-preference"),
            "prefers-reduced-transparency" => choose(self.reduced_transparency, "reduce", "no-preference"),
            "forced-colors" => choose(self.forced_colors, "active", "none"),
            "scripting" => choose(self.scripting, "enabled", "none"),
            "orientation" => choose(self.width > self.height, "landscape", "portrait"),
            "update" => "fast",
            "display-mode" => "browser",
            "color-gamut" => "srgb",
            "dynamic-range" => "standard",
            "device-posture" => "continuous",
            "scan" => "none",
            "overflow-block" | "overflow-inline" => "scroll",
            _ => {
                let alone = value.is_none() && RANGES.contains(&name);
                return Ok(self.amount(name).filter(|_| alone).map(|amount| amount != 0.0));
            }
        };
        let Some((_, words, absent)) = WORDS.iter().find(|(known, _, _)| *known == name) else { return Ok(None) };
        Ok(match value {
            Some(value) => words.contains(&value).then_some(value == actual),
            None => Some(actual != *absent),
        })
    }

    fn function(&self, _name: &str, _arguments: &str) -> Answer {
        Ok(None)
    }
}

/// A value that a feature is compared with: in px for lengths, a bare number otherwise; `None` where it does not fit.
pub fn comparable(value: &Value, wants_length: bool, context: &Context) -> Result<Option<f64>, Unknown> {
    let computed = absolute(value, context)?;
    Ok(match (&computed, wants_length) {
        (Value::Length(length), true) if !length.has_percent => Some(length.px),
        (Value::Number(number), false) => Some(*number),
        (Value::Number(number), true) if *number == 0.0 => Some(0.0),
        _ => None,
    })
}

fn query(parser: &mut Parser) -> Result<Query, ParseError<()>> {
    let only = parser.try_parse(|p| p.expect_ident_matching("only")).is_ok();
    let state = parser.state();
    let negated = !only && parser.try_parse(|p| p.expect_ident_matching("not")).is_ok();
    if let Ok(name) = parser.try_parse(|p| p.expect_ident_cloned()) {
        let name = name.to_ascii_lowercase();
        if ["and", "or", "not", "only", "layer"].contains(&name.as_str()) {
            return Err(ParseError::unexpected_token());
        }
        let mut parts = vec![Query::Type(name)];
        if parser.try_parse(|p| p.expect_ident_matching("and")).is_ok() {
            // After a type only `and` may join.
            parts.push(condition(parser, false)?);
        }
        let query = Query::And(parts);
        return Ok(if negated { Query::Not(Box::new(query)) } else { query });
    }
    if only {
        return Err(ParseError::unexpected_token());
    }
    parser.reset(&state);
    condition(parser, true)
}

/// `not (…)`, or conditions joined by `and`, or by `or`.
pub fn condition(parser: &mut Parser, allow_or: bool) -> Result<Query, ParseError<()>> {
    if parser.try_parse(|p| p.expect_ident_matching("not")).is_ok() {
        return Ok(Query::Not(Box::new(in_parens(parser)?)));
    }
    let first = in_parens(parser)?;
    for (joiner, or) in [("and", false), ("or", true)] {
        let mut list = Vec::new();
        while (allow_or || !or) && parser.try_parse(|p| p.expect_ident_matching(joiner)).is_ok() {
            list.push(in_parens(parser)?);
        }
        if !list.is_empty() {
            list.insert(0, first);
            return Ok(if or { Query::Or(list) } else { Query::And(list) });
        }
    }
    Ok(first)
}

fn in_parens(parser: &mut Parser) -> Result<Query, ParseError<()>> {
    match parser.next()?.clone() {
        Token::ParenthesisBlock => parser.parse_nested_block(|inner| {
            if let Ok(nested) = inner.try_parse(|p| p.parse_entirely(|p| condition(p, true))) {
                return Ok(nested);
            }
            if let Ok(feature) = inner.try_parse(|p| p.parse_entirely(feature)) {
                return Ok(feature);
            }
            while inner.next().is_ok() {}
            Ok(Query::Unknown)
        }),
        Token::Function(name) => parser.parse_nested_block(|inner| {
            let start = inner.position();
            while inner.next().is_ok() {}
            Ok(Query::Function(name.to_ascii_lowercase(), inner.slice_from(start).trim().to_owned()))
        }),
        _ => Err(ParseError::unexpected_token()),
    }
}

/// `name`, `name: value`, `name < value` or `value < name < value`.
fn feature(parser: &mut Parser) -> Result<Query, ParseError<()>> {
    // `30rem <= width < 60rem`
    if let Ok(first) = parser.try_parse(amount) {
        let order = order(parser)?;
        let name = parser.expect_ident()?.to_ascii_lowercase();
        let left = Query::Compare(name.clone(), order.flip(), first);
        if parser.is_exhausted() {
            return Ok(left);
        }
        let second = self::order(parser)?;
        // Both point the same way (Media Queries 5, section 2.4.3).
        if order == Order::Equal || second == Order::Equal || order.is_upward() != second.is_upward() {
            return Err(ParseError::unexpected_token());
        }
        return Ok(Query::And(vec![left, Query::Compare(name, second, amount(parser)?)]));
    }
    let name = parser.expect_ident()?.to_ascii_lowercase();
    if parser.is_exhausted() {
        return Ok(Query::Word(name, None));
    }
    if parser.try_parse(|p| p.expect_colon()).is_ok() {
        if let Ok(word) = parser.try_parse(|p| p.expect_ident_cloned()) {
            return Ok(Query::Word(name, Some(word.to_ascii_lowercase())));
        }
        let number = amount(parser)?;
        return Ok(match (name.strip_prefix("min-"), name.strip_prefix("max-")) {
            _ if name == "-webkit-min-device-pixel-ratio" => {
                Query::Compare("-webkit-device-pixel-ratio".into(), Order::AtLeast, number)
            }
            _ if name == "-webkit-max-device-pixel-ratio" => {
                Query::Compare("-webkit-device-pixel-ratio".into(), Order::AtMost, number)
            }
            (Some(name), _) => Query::Compare(name.into(), Order::AtLeast, number),
            (_, Some(name)) => Query::Compare(name.into(), Order::AtMost, number),
            _ => Query::Compare(name, Order::Equal, number),
        });
    }
    let order = order(parser)?;
    Ok(Query::Compare(name, order, amount(parser)?))
}

impl Order {
    fn is_upward(self) -> bool {
        matches!(self, Order::Less | Order::AtMost)
    }

    fn flip(self) -> Order {
        match self {
            Order::Less => Order::More,
            Order::AtMost => Order::AtLeast,
            Order::Equal => Order::Equal,
            Order::AtLeast => Order::AtMost,
            Order::More => Order::Less,
        }
    }
}

fn order(parser: &mut Parser) -> Result<Order, ParseError<()>> {
    let first = match parser.next()? {
        Token::Delim(c @ ('<' | '>' | '=')) => *c,
        _ => return Err(ParseError::unexpected_token()),
    };
    let or_equal = first != '='
        && parser.try_parse(|p| match p.next_including_whitespace() {
            Ok(Token::Delim('=')) => Ok(()),
            _ => Err(()),
        }) == Ok(());
    Ok(match (first, or_equal) {
        ('<', false) => Order::Less,
        ('<', true) => Order::AtMost,
        ('>', false) => Order::More,
        ('>', true) => Order::AtLeast,
        _ => Order::Equal,
    })
}

/// A number, ratio, length or resolution; resolutions in device pixels per px.
fn amount(parser: &mut Parser) -> Result<Value, ParseError<()>> {
    // A bare zero is a number, and a length where one is asked for.
    if let Ok(first) = parser.try_parse(|p| ANY_NUMBER.parse(p)) {
        if parser.try_parse(|p| p.expect_delim('/')).is_ok() {
            let second = ANY_NUMBER.parse(parser)?;
            return match (first, second) {
                (Value::Number(a), Value::Number(b)) => Ok(Value::Number(a / b)),
                _ => Err(ParseError::unexpected_token()),
            };
        }
        return Ok(first);
    }
    if let Ok(length) = parser.try_parse(|p| ANY_LENGTH.parse(p)) {
        return Ok(length);
    }
    let (number, name) = next_number(parser)?;
    match name.unwrap_or_default().to_ascii_lowercase().as_str() {
        "dppx" | "x" => Ok(Value::Number(number)),
        "dpi" => Ok(Value::Number(number / 96.0)),
        "dpcm" => Ok(Value::Number(number * 2.54 / 96.0)),
        _ => Err(ParseError::unexpected_token()),
    }
}

const ANY_LENGTH: Grammar = Grammar::Length { percent: false, negative: true, keywords: &[] };
const ANY_NUMBER: Grammar = Grammar::NumberOr { keywords: &[], min: f64::NEG_INFINITY };

#[cfg(test)]
mod tests {
    use super::*;

    fn matches(text: &str) -> Option<bool> {
        parse_list(text).map(|list| list.matches(&Media { dark: true, width: 500.0, ..Media::default() }))
    }

    #[test]
    fn queries_are_evaluated_in_three_values() {
        for (text, expected) in [
            ("(prefers-color-scheme: dark)", true),
            ("(width < 30rem)", false),
            ("(400px <= width <= 30em)", false),
            ("(min-width: 400px) and (hover)", true),
            ("not all and (hover: none)", true),
            ("print, (hover: hover)", true),
            ("(nonsense: 1)", false),
            ("not (nonsense: 1)", false),
            ("(hover) or (nonsense)", true),
            ("screen and (pointer: fine)", true),
            ("", true),
        ] {
            assert_eq!(matches(text), Some(expected), "{text}");
        }
        // What cannot be read matches nothing, whatever stands beside it.
        for text in ["and", "(hover) and", "(a) and (b) or (c)", "30px", "(400px < width > 300px)", "(hover: yes)"] {
            assert_eq!(matches(text), Some(false), "{text}");
            assert_eq!(matches(&format!("{text}, all")), Some(true), "{text}");
        }
    }
}
