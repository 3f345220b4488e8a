//! `var()` substitution (CSS Variables 1, section 3).

use cssparser::{ParseError, Parser, Token};
use std::hash::{DefaultHasher, Hash, Hasher};
use std::rc::Rc;
use std::sync::Arc;

/// Substitution may not blow a value up without bound.
const MAX_LENGTH: usize = 1 << 20;

/// The name of a custom property with its hash: names are compared far more often than made.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CustomName {
    /// The name with its dashes.
    pub text: Arc<str>,
    /// Its hash, never 0.
    pub hash: u64,
}

impl CustomName {
    /// A name.
    pub fn new(text: &str) -> CustomName {
        let mut hasher = DefaultHasher::new();
        text.hash(&mut hasher);
        CustomName { text: text.into(), hash: hasher.finish().max(1) }
    }
}

/// A text with its references found: what is substituted again and again is taken apart once.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Template {
    pieces: Vec<Piece>,
    references: Vec<CustomName>,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Piece {
    Text(Box<str>),
    Variable(CustomName, Option<Box<Template>>),
    /// A `var()` that names nothing.
    Broken,
}

impl Template {
    /// Takes a text apart.
    pub fn new(text: &str) -> Template {
        let mut template = Template::default();
        if super::parse::has_substitution(text) {
            template.read(&mut Parser::new(text));
        } else {
            template.push(text);
        }
        template
    }

    /// The custom properties it refers to, those in fallbacks included, in order.
    pub fn references(&self) -> &[CustomName] {
        &self.references
    }

    /// The text, where it holds no references.
    pub fn plain(&self) -> Option<&str> {
        match self.pieces.as_slice() {
            [] => Some(""),
            [Piece::Text(text)] => Some(text),
            _ => None,
        }
    }

    /// Puts values for references. `lookup` gives a custom property's value, `None` for the guaranteed-invalid value.
    /// Returns `None` when a `var()` has neither a value nor a fallback: the declaration is then invalid at
    /// computed-value time.
    pub fn substitute(&self, lookup: &mut dyn FnMut(&CustomName) -> Option<Rc<str>>) -> Option<Rc<str>> {
        // A reference alone is the most frequent text of all: its value is shared.
        if let [Piece::Variable(name, fallback)] = self.pieces.as_slice() {
            return match (lookup(name), fallback) {
                (Some(value), _) => Some(value),
                (None, Some(fallback)) => fallback.substitute(lookup),
                (None, None) => None,
            };
        }
        let mut out = String::new();
        self.write(&mut out, lookup)?;
        Some(out.into())
    }

    fn write(&self, out: &mut String, lookup: &mut dyn FnMut(&CustomName) -> Option<Rc<str>>) -> Option<()> {
        for piece in &self.pieces {
            match piece {
                Piece::Text(text) => out.push_str(text),
                Piece::Broken => return None,
                Piece::Variable(name, fallback) => match (lookup(name), fallback) {
                    (Some(value), _) => out.push_str(&value),
                    (None, Some(fallback)) => fallback.write(out, lookup)?,
                    (None, None) => return None,
                },
            }
            if out.len() > MAX_LENGTH {
                return None;
            }
        }
        Some(())
    }

    fn push(&mut self, text: &str) {
        match self.pieces.last_mut() {
            Some(Piece::Text(last)) => *last = format!("{last}{text}").into(),
            _ => self.pieces.push(Piece::Text(text.into())),
        }
    }

    fn read(&mut self, parser: &mut Parser) {
        loop {
            let start = parser.position();
            let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else { return };
            let close = match &token {
                Token::Function(name) if name.eq_ignore_ascii_case("var") => {
                    let _ = parser.parse_nested_block(|inner| {
                        self.variable(inner);
                        Ok::<_, ParseError<()>>(())
                    });
                    continue;
                }
                Token::Function(_) | Token::ParenthesisBlock => ")",
                Token::SquareBracketBlock => "]",
                Token::CurlyBracketBlock => "}",
                _ => {
                    self.push(parser.slice_from(start));
                    continue;
                }
            };
            self.push(parser.slice_from(start));
            let _ = parser.parse_nested_block(|inner| {
                self.read(inner);
                Ok::<_, ParseError<()>>(())
            });
            self.push(close);
        }
    }

    /// The arguments of a `var()`.
    fn variable(&mut self, parser: &mut Parser) {
        let Ok(name) = parser.expect_ident_cloned() else {
            self.pieces.push(Piece::Broken);
            return;
        };
        let has_fallback = parser.try_parse(|p| p.expect_comma()).is_ok();
        let start = parser.position();
        while parser.next_including_whitespace_and_comments().is_ok() {}
        let fallback = has_fallback.then(|| Template::new(parser.slice_from(start).trim()));
        let name = CustomName::new(&name);
        self.references.push(name.clone());
        self.references.extend(fallback.iter().flat_map(|f| f.references.iter().cloned()));
        self.pieces.push(Piece::Variable(name, fallback.map(Box::new)));
    }
}

/// [`Template::substitute`] for a text that is used once.
pub fn substitute(text: &str, lookup: &mut dyn FnMut(&str) -> Option<String>) -> Option<String> {
    let value = Template::new(text).substitute(&mut |name| lookup(&name.text).map(Rc::from));
    value.map(|value| value.to_string())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn references_are_found_wherever_they_stand() {
        let template = Template::new("f(var(--a), [var(--b, var(--c))]) var(--d)");
        let names: Vec<&str> = template.references().iter().map(|name| &*name.text).collect();
        assert_eq!(names, ["--a", "--b", "--c", "--d"]);
    }

    #[test]
    fn fallbacks_chain_and_an_empty_value_is_a_value() {
        let mut lookup = |name: &str| match name {
            "--a" => Some("red".to_owned()),
            "--empty" => Some(String::new()),
            _ => None,
        };
        for (text, expected) in [
            ("var(--a)", Some("red")),
            ("1px var(--b, var(--c, var(--a))) x", Some("1px red x")),
            ("[var(--empty,no)]", Some("[]")),
            ("calc(var(--b) * 2)", None),
            ("var(--b,)", Some("")),
        ] {
            assert_eq!(substitute(text, &mut lookup).as_deref(), expected, "{text}");
        }
    }
}
