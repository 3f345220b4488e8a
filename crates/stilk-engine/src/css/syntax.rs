//! Syntax strings of typed custom properties (CSS Properties and Values API 1, section 5).

use super::color;
use super::primitive::Primitive;
use super::value::Value;
use cssparser::{ParseError, Parser};

/// What a typed custom property takes.
#[derive(Debug, Clone, PartialEq)]
pub enum Syntax {
    /// `*`: anything, kept as text.
    Any,
    /// One of these.
    OneOf(Vec<Component>),
}

/// A type or a keyword, alone or as a list.
#[derive(Debug, Clone, PartialEq)]
pub struct Component {
    kind: ComponentKind,
    list: Option<Separator>,
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Separator {
    Space,
    Comma,
}

#[derive(Debug, Clone, PartialEq)]
enum ComponentKind {
    Type(&'static str),
    Word(String),
}

const TYPES: [&str; 15] = [
    "length",
    "number",
    "percentage",
    "length-percentage",
    "string",
    "color",
    "image",
    "url",
    "integer",
    "angle",
    "time",
    "resolution",
    "transform-function",
    "transform-list",
    "custom-ident",
];

const LENGTH: Primitive = Primitive::Length { percent: false, negative: true, keywords: &[] };
const LENGTH_PERCENTAGE: Primitive = Primitive::Length { percent: true, negative: true, keywords: &[] };
const NUMBER: Primitive = Primitive::NumberOr { keywords: &[], min: f64::NEG_INFINITY };

impl Syntax {
    /// Reads a syntax string; `None` when it is none.
    pub fn parse(text: &str) -> Option<Syntax> {
        let text = text.trim();
        if text == "*" {
            return Some(Syntax::Any);
        }
        text.split('|').map(|part| component(part.trim())).collect::<Option<Vec<_>>>().map(Syntax::OneOf)
    }

    /// Reads a value; `None` where it does not fit. Anything for `*`.
    pub fn value(&self, text: &str) -> Option<Value> {
        let Syntax::OneOf(components) = self else { return Some(Value::Unmodelled) };
        components.iter().find_map(|component| Parser::new(text).parse_entirely(|p| component.parse(p)).ok())
    }
}

fn component(text: &str) -> Option<Component> {
    let (name, list) = match text.strip_suffix('+') {
        Some(name) => (name, Some(Separator::Space)),
        None => match text.strip_suffix('#') {
            Some(name) => (name, Some(Separator::Comma)),
            None => (text, None),
        },
    };
    if let Some(name) = name.strip_prefix('<').and_then(|name| name.strip_suffix('>')) {
        let kind = TYPES.iter().find(|known| **known == name)?;
        let list = if *kind == "transform-list" {
            if list.is_some() {
                return None;
            }
            Some(Separator::Space)
        } else {
            list
        };
        return Some(Component { kind: ComponentKind::Type(kind), list });
    }
    let mut parser = Parser::new(name);
    let word = parser.expect_ident().ok()?.to_string();
    let wide = ["inherit", "initial", "unset", "revert", "revert-layer", "default"];
    let ok = parser.is_exhausted() && !wide.contains(&word.to_ascii_lowercase().as_str());
    ok.then_some(Component { kind: ComponentKind::Word(word), list })
}

impl Component {
    fn parse(&self, parser: &mut Parser) -> Result<Value, ParseError<()>> {
        match self.list {
            None => self.one(parser),
            Some(Separator::Comma) => Ok(Value::List(parser.parse_comma_separated(|p| self.one(p))?)),
            Some(Separator::Space) => {
                let mut items = vec![self.one(parser)?];
                while !parser.is_exhausted() {
                    items.push(self.one(parser)?);
                }
                Ok(Value::Words(items))
            }
        }
    }

    fn one(&self, parser: &mut Parser) -> Result<Value, ParseError<()>> {
        let name = match &self.kind {
            ComponentKind::Word(word) => {
                let found = parser.expect_ident()?;
                return match **found == **word {
                    true => Ok(Value::Ident(word.as_str().into())),
                    false => Err(ParseError::unexpected_token()),
                };
            }
            ComponentKind::Type(name) => *name,
        };
        match name {
            "length" => LENGTH.parse(parser),
            "length-percentage" => LENGTH_PERCENTAGE.parse(parser),
            "percentage" => match LENGTH_PERCENTAGE.parse(parser)? {
                value @ Value::Length(length) if length.has_percent => Ok(value),
                value @ Value::Calc(_) => Ok(value),
                _ => Err(ParseError::unexpected_token()),
            },
            "number" => NUMBER.parse(parser),
            "integer" => Primitive::Integer(&[]).parse(parser),
            "color" => color::parse(parser).map(Value::Color),
            "angle" => Primitive::Angle.parse(parser),
            "time" => Primitive::Time.parse(parser),
            "string" => Ok(Value::String(parser.expect_string()?.to_string().into())),
            "custom-ident" => Ok(Value::Ident(parser.expect_ident()?.to_string().into())),
            _ => {
                // Kept as it is written: images, addresses, resolutions, transforms.
                parser.next()?;
                while parser.next().is_ok() {}
                Ok(Value::Unmodelled)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn values_are_held_to_their_syntax() {
        for (syntax, good, bad) in [
            ("<length>", "1em", "5"),
            ("<number>", "5", "5px"),
            ("<percentage>", "5%", "5px"),
            ("<color>", "red", "reddish"),
            ("small | large", "large", "medium"),
            ("<length>+", "1px 2px", "1px, 2px"),
            ("<length>#", "1px, 2px", "1px 2px"),
            ("<integer>", "3", "3.5"),
            ("<angle>", "1turn", "1s"),
            ("<custom-ident> | <length>", "1px", "'a'"),
        ] {
            let read = Syntax::parse(syntax).unwrap_or_else(|| panic!("{syntax}"));
            assert!(read.value(good).is_some() && read.value(bad).is_none(), "{syntax}");
        }
        for wrong in ["", "<lenght>", "a | inherit", "<transform-list>#", "<length"] {
            assert_eq!(Syntax::parse(wrong), None, "{wrong}");
        }
    }
}
