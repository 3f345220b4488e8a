//! Media queries (Media Queries 5): parsing and evaluation.

use crate::css::compute::{Context, DEFAULT_FONT_SIZE};
use crate::css::parse::next_number;
use crate::css::value::{Quantity, unit};
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
    /// Whether the pointer is fine (a mouse) rather than coarse.
    pub fine_pointer: bool,
    /// Whether dark colours are preferred.
    pub dark: bool,
    /// `prefers-contrast`: `no-preference`, `more`, `less` or `custom`.
    pub contrast: &'static str,
    /// Whether reduced motion is preferred.
    pub reduced_motion: bool,
    /// Whether forced colours are active.
    pub forced_colors: bool,
}

impl Default for Media {
    fn default() -> Self {
        Media {
            width: 1280.0,
            height: 800.0,
            hover: true,
            fine_pointer: true,
            dark: false,
            contrast: "no-preference",
            reduced_motion: false,
            forced_colors: false,
        }
    }
}

/// A list of media queries, any of which may match.
#[derive(Debug, Clone, PartialEq)]
pub struct MediaList {
    queries: Vec<Query>,
}

#[derive(Debug, Clone, PartialEq)]
enum Query {
    Not(Box<Query>),
    And(Vec<Query>),
    Or(Vec<Query>),
    /// `screen`, `print`, `all`
    Type(String),
    /// `(name)` or `(name: word)`
    Word(String, Option<String>),
    /// A comparison of a feature with a number: `(width < 30rem)`
    Compare(String, Order, f64),
    /// Well-formed, but nothing known: never matches, negated or not.
    Unknown,
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Order {
    Less,
    AtMost,
    Equal,
    AtLeast,
    More,
}

/// Parses a media query list; `None` when it is malformed.
pub fn parse_list(text: &str) -> Option<MediaList> {
    let mut parser = Parser::new(text);
    if parser.is_exhausted() {
        return Some(MediaList { queries: vec![Query::Type("all".into())] });
    }
    let queries = parser.parse_comma_separated(|p| p.parse_entirely(query));
    queries.ok().map(|queries| MediaList { queries })
}

impl MediaList {
    /// Whether any query matches.
    pub fn matches(&self, media: &Media) -> bool {
        self.queries.iter().any(|query| query.matches(media) == Some(true))
    }
}

impl Query {
    /// Three-valued: `None` for what is not known (Media Queries 5, section 3.1).
    fn matches(&self, media: &Media) -> Option<bool> {
        match self {
            Query::Not(inner) => inner.matches(media).map(|m| !m),
            Query::And(list) => fold(list, media, false),
            Query::Or(list) => fold(list, media, true),
            Query::Type(name) => Some(name == "all" || name == "screen"),
            Query::Word(name, value) => word(media, name, value.as_deref()),
            Query::Compare(name, order, number) => {
                let actual = match name.as_str() {
                    "width" => media.width,
                    "height" => media.height,
                    "resolution" => 1.0,
                    "aspect-ratio" => media.width / media.height,
                    "color" => 8.0,
                    _ => return None,
                };
                Some(match order {
                    Order::Less => actual < *number,
                    Order::AtMost => actual <= *number,
                    Order::Equal => actual == *number,
                    Order::AtLeast => actual >= *number,
                    Order::More => actual > *number,
                })
            }
            Query::Unknown => None,
        }
    }
}

/// And, or in three values; `decisive` is what settles it.
fn fold(list: &[Query], media: &Media, decisive: bool) -> Option<bool> {
    let answers: Vec<Option<bool>> = list.iter().map(|query| query.matches(media)).collect();
    if answers.contains(&Some(decisive)) {
        return Some(decisive);
    }
    if answers.contains(&None) { None } else { Some(!decisive) }
}

fn word(media: &Media, name: &str, value: Option<&str>) -> Option<bool> {
    let motion = if media.reduced_motion { "reduce" } else { "no-preference" };
    let (actual, absent) = match name {
        "hover" | "any-hover" => (if media.hover { "hover" } else { "none" }, "none"),
        "pointer" | "any-pointer" => (if media.fine_pointer { "fine" } else { "coarse" }, "none"),
        "prefers-color-scheme" => (if media.dark { "dark" } else { "light" }, ""),
        "prefers-contrast" => (media.contrast, "no-preference"),
        "prefers-reduced-motion" => (motion, "no-preference"),
        "prefers-reduced-transparency" => ("no-preference", "no-preference"),
        "forced-colors" => (if media.forced_colors { "active" } else { "none" }, "none"),
        "scripting" => ("enabled", "none"),
        "orientation" => (if media.width > media.height { "landscape" } else { "portrait" }, ""),
        "update" => ("fast", "none"),
        "display-mode" => ("browser", ""),
        "width" | "height" | "color" => return value.is_none().then_some(true),
        _ => return None,
    };
    Some(match value {
        Some(value) => value == actual,
        None => actual != absent,
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
    parser.reset(&state);
    condition(parser, true)
}

fn condition(parser: &mut Parser, allow_or: bool) -> Result<Query, ParseError<()>> {
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
        Token::Function(_) => parser.parse_nested_block(|inner| {
            while inner.next().is_ok() {}
            Ok(Query::Unknown)
        }),
        _ => Err(ParseError::unexpected_token()),
    }
}

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
            (Some(name), _) => Query::Compare(name.into(), Order::AtLeast, number),
            (_, Some(name)) => Query::Compare(name.into(), Order::AtMost, number),
            _ => Query::Compare(name, Order::Equal, number),
        });
    }
    let order = order(parser)?;
    Ok(Query::Compare(name, order, amount(parser)?))
}

impl Order {
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

/// A number, ratio, length or resolution; lengths in px. `em` and `rem` are the initial font size here.
fn amount(parser: &mut Parser) -> Result<f64, ParseError<()>> {
    let (number, name) = next_number(parser)?;
    let Some(name) = name else {
        if parser.try_parse(|p| p.expect_delim('/')).is_ok() {
            return Ok(number / next_number(parser)?.0);
        }
        return Ok(number);
    };
    match name.to_ascii_lowercase().as_str() {
        "dppx" | "x" => return Ok(number),
        "dpi" => return Ok(number / 96.0),
        _ => {}
    }
    let context = Context { font_size: Ok(DEFAULT_FONT_SIZE), ..Context::constant() };
    match unit(name) {
        Some(unit) if unit.quantity == Quantity::Length => {
            context.canonical(number, unit).map_err(|_| ParseError::unexpected_token())
        }
        _ => Err(ParseError::unexpected_token()),
    }
}

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
        for text in ["and", "(hover) and", "(a) and (b) or (c)", "30px"] {
            assert_eq!(matches(text), None, "{text}");
        }
    }
}
