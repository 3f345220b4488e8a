//! Primitive values that grammars are made of: lengths, numbers, angles, times, words.

use super::calc::{self, Calc, ResultType};
use super::number::next_number;
use super::value::{LengthPercentage, Quantity, Value, unit};
use cssparser::{ParseError, Parser, Token};

/// A primitive value.
#[derive(Debug, Clone, Copy)]
pub enum Primitive {
    /// A length, with or without percentages and negative values, or a word.
    Length { percent: bool, negative: bool, keywords: &'static [&'static str] },
    /// A number, or a word.
    NumberOr { keywords: &'static [&'static str], min: f64 },
    /// A whole number, or a word.
    Integer(&'static [&'static str]),
    /// A number, or a percentage as a share of 1.
    NumberPercentage,
    /// An angle.
    Angle,
    /// An angle, or a zero without a unit.
    AngleOrZero,
    /// The same, or a percentage.
    AnglePercentage,
    /// A time.
    Time,
}

pub(super) type ValueResult = Result<Value, ParseError<()>>;

pub(super) fn wrong<T>() -> Result<T, ParseError<()>> {
    Err(ParseError::unexpected_token())
}

impl Primitive {
    /// One length of a corner.
    pub const CORNER: Primitive = Primitive::Length { percent: true, negative: false, keywords: &[] };
    /// Any number.
    pub const NUMBER: Primitive = Primitive::NumberOr { keywords: &[], min: f64::NEG_INFINITY };

    /// Parses one value.
    pub fn parse(&self, parser: &mut Parser) -> ValueResult {
        parser.skip_whitespace();
        match self {
            Primitive::Length { percent, negative, keywords } => length(parser, *percent, *negative, keywords),
            Primitive::NumberOr { keywords, min } => number(parser, keywords, *min),
            Primitive::Integer(words) => whole(parser, words, f64::NEG_INFINITY),
            Primitive::NumberPercentage => number_percentage(parser),
            Primitive::Angle => dimension(parser, Quantity::Angle),
            Primitive::AngleOrZero => match parser.try_parse(|p| dimension(p, Quantity::Angle)) {
                Ok(angle) => Ok(angle),
                Err(_) => match next_number(parser)? {
                    (0.0, None) => Ok(Value::Degrees(0.0)),
                    _ => wrong(),
                },
            },
            Primitive::AnglePercentage => match parser.try_parse(|p| Primitive::AngleOrZero.parse(p)) {
                Ok(angle) => Ok(angle),
                Err(_) => match length(parser, true, true, &[])? {
                    value @ Value::Length(LengthPercentage { has_percent: true, .. }) => Ok(value),
                    _ => wrong(),
                },
            },
            Primitive::Time => dimension(parser, Quantity::Time),
        }
    }
}

/// One of these words.
pub(super) fn keyword(parser: &mut Parser, words: &'static [&'static str]) -> ValueResult {
    let word = parser.expect_ident()?;
    words
        .iter()
        .find(|known| known.eq_ignore_ascii_case(word))
        .map(|known| Value::Keyword(known))
        .ok_or_else(ParseError::unexpected_token)
}

pub(super) fn length(
    parser: &mut Parser,
    percent: bool,
    negative: bool,
    words: &'static [&'static str],
) -> ValueResult {
    if !words.is_empty()
        && let Ok(value) = parser.try_parse(|p| keyword(p, words))
    {
        return Ok(value);
    }
    parser.skip_whitespace();
    let state = parser.state();
    match parser.next()?.clone() {
        Token::Function(name) if calc::is_math(&name) => {
            let tree = calc::parse(&name, parser)?;
            match tree.kind() {
                Some(ResultType::Quantity(Quantity::Length)) => Ok(Value::Calc(tree.into())),
                Some(ResultType::LengthPercentage | ResultType::Percentage) if percent => Ok(Value::Calc(tree.into())),
                _ => wrong(),
            }
        }
        // Functions that size boxes by their place, where there is an automatic size as well: valid, not modelled.
        Token::Function(name)
            if words.contains(&"auto")
                && !words.contains(&"from-font")
                && ["anchor", "anchor-size", "calc-size"].contains(&&*name.to_ascii_lowercase()) =>
        {
            skip(parser)
        }
        _ => {
            parser.reset(&state);
            let (amount, name) = next_number(parser)?;
            if amount < 0.0 && !negative {
                return wrong();
            }
            match name {
                None if amount == 0.0 => Ok(Value::ZERO),
                Some("%") if percent => Ok(Value::Length(LengthPercentage::percent(amount))),
                Some(name) => match unit(name) {
                    Some(unit) if unit.quantity == Quantity::Length => Ok(Value::Dimension(amount, unit)),
                    _ => wrong(),
                },
                None => wrong(),
            }
        }
    }
}

/// Consumes the function that was just opened.
pub(super) fn skip(parser: &mut Parser) -> ValueResult {
    parser.parse_nested_block(|inner| {
        while inner.next().is_ok() {}
        Ok::<_, ParseError<()>>(())
    })?;
    Ok(Value::Unmodelled)
}

pub(super) fn dimension(parser: &mut Parser, quantity: Quantity) -> ValueResult {
    parser.skip_whitespace();
    let state = parser.state();
    match parser.next()?.clone() {
        Token::Function(name) if calc::is_math(&name) => {
            let tree = calc::parse(&name, parser)?;
            if tree.kind() == Some(ResultType::Quantity(quantity)) { Ok(Value::Calc(tree.into())) } else { wrong() }
        }
        Token::Dimension { .. } => {
            parser.reset(&state);
            let (amount, name) = next_number(parser)?;
            match name.and_then(unit) {
                Some(unit) if unit.quantity == quantity => Ok(Value::Dimension(amount, unit)),
                _ => wrong(),
            }
        }
        _ => wrong(),
    }
}

pub(super) fn number(parser: &mut Parser, words: &'static [&'static str], min: f64) -> ValueResult {
    if !words.is_empty()
        && let Ok(value) = parser.try_parse(|p| keyword(p, words))
    {
        return Ok(value);
    }
    parser.skip_whitespace();
    let state = parser.state();
    match parser.next()?.clone() {
        Token::Function(name) if calc::is_math(&name) => {
            let tree = calc::parse(&name, parser)?;
            if tree.kind() == Some(ResultType::Number) { Ok(Value::Calc(tree.into())) } else { wrong() }
        }
        Token::Number { .. } => {
            parser.reset(&state);
            let (amount, _) = next_number(parser)?;
            if amount < min { wrong() } else { Ok(Value::Number(amount)) }
        }
        _ => wrong(),
    }
}

/// A whole number: `2.0` and `2e1` are none (CSS Values 4, section 5.2).
pub(super) fn whole(parser: &mut Parser, words: &'static [&'static str], min: f64) -> ValueResult {
    parser.skip_whitespace();
    let state = parser.state();
    let is_other = matches!(parser.next(), Ok(Token::Number { int_value: None, .. }));
    parser.reset(&state);
    if is_other { wrong() } else { number(parser, words, min) }
}

pub(super) fn word_or(
    parser: &mut Parser,
    words: &'static [&'static str],
    other: impl Fn(&mut Parser) -> ValueResult,
) -> ValueResult {
    match parser.try_parse(|p| keyword(p, words)) {
        Ok(word) => Ok(word),
        Err(_) => other(parser),
    }
}

fn number_percentage(parser: &mut Parser) -> ValueResult {
    if let Ok(number) = parser.try_parse(|p| Primitive::NUMBER.parse(p)) {
        return Ok(number);
    }
    match length(parser, true, true, &[])? {
        Value::Length(LengthPercentage { has_percent: true, percent, .. }) => Ok(Value::Number(percent / 100.0)),
        Value::Calc(tree) if tree.kind() == Some(ResultType::Percentage) => {
            Ok(Value::Calc(Calc::Product(vec![Calc::Number(0.01), Calc::Bare(Box::new((*tree).clone()))]).into()))
        }
        _ => wrong(),
    }
}

pub(super) fn ident(parser: &mut Parser, words: &'static [&'static str]) -> ValueResult {
    if let Ok(value) = parser.try_parse(|p| keyword(p, words)) {
        return Ok(value);
    }
    let word = parser.expect_ident()?;
    Ok(Value::Ident(word.to_string().into()))
}
