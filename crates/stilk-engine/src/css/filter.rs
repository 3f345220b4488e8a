//! Filter functions (Filter Effects 1, section 5).

use super::color::{self, Color};
use super::primitive::{Primitive, skip};
use super::value::Value;
use cssparser::{ParseError, Parser, Token};

type ValueResult = Result<Value, ParseError<()>>;

const LENGTH: Primitive = Primitive::Length { percent: false, negative: true, keywords: &[] };
const BLUR: Primitive = Primitive::Length { percent: false, negative: false, keywords: &[] };

/// Functions of an amount: name, and whether more than all is no more than all.
const AMOUNTS: [(&str, bool); 7] = [
    ("brightness", false),
    ("contrast", false),
    ("grayscale", true),
    ("invert", true),
    ("opacity", true),
    ("saturate", false),
    ("sepia", true),
];

/// Parses a list of filters.
pub fn parse(parser: &mut Parser) -> ValueResult {
    let mut list = vec![one(parser)?];
    while let Ok(next) = parser.try_parse(one) {
        list.push(next);
    }
    Ok(Value::Words(list))
}

fn one(parser: &mut Parser) -> ValueResult {
    let name = match parser.next()?.clone() {
        Token::UnquotedUrl(_) => return Ok(Value::Unmodelled),
        Token::Function(name) => name.to_ascii_lowercase(),
        _ => return Err(ParseError::unexpected_token()),
    };
    if name == "url" {
        return skip(parser);
    }
    parser.parse_nested_block(|inner| {
        if let Some((name, bounded)) = AMOUNTS.into_iter().find(|(known, _)| *known == name) {
            if inner.is_exhausted() {
                return Ok(Value::Function(name, vec![Value::Number(1.0)]));
            }
            return match Primitive::NumberPercentage.parse(inner)? {
                Value::Number(n) if n < 0.0 => Err(ParseError::unexpected_token()),
                Value::Number(n) => {
                    Ok(Value::Function(name, vec![Value::Number(if bounded { n.min(1.0) } else { n })]))
                }
                other => Ok(Value::Function(name, vec![other])),
            };
        }
        match name.as_str() {
            "blur" if inner.is_exhausted() => Ok(Value::Function("blur", vec![Value::ZERO])),
            "blur" => Ok(Value::Function("blur", vec![BLUR.parse(inner)?])),
            "hue-rotate" if inner.is_exhausted() => Ok(Value::Function("hue-rotate", vec![Value::Degrees(0.0)])),
            "hue-rotate" => Ok(Value::Function("hue-rotate", vec![Primitive::AngleOrZero.parse(inner)?])),
            "drop-shadow" => {
                let before = inner.try_parse(color::parse).ok();
                let mut words = vec![LENGTH.parse(inner)?, LENGTH.parse(inner)?];
                words.push(inner.try_parse(|p| BLUR.parse(p)).unwrap_or(Value::ZERO));
                let color = match before {
                    Some(color) => color,
                    None => inner.try_parse(color::parse).unwrap_or(Color::Current),
                };
                words.insert(0, Value::Color(color));
                Ok(Value::Function("drop-shadow", vec![Value::Words(words)]))
            }
            _ => Err(ParseError::unexpected_token()),
        }
    })
}
