//! Substitution of `var()` (CSS Variables 1, section 3), `env()` (CSS Environment Variables 1) and `attr()` (CSS Values 5,
//! section 7).

use super::context::Unknown;

use super::syntax::Syntax;
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

    /// Its bit in a Bloom filter of 64.
    pub fn bit(&self) -> u64 {
        1 << (self.hash % 64)
    }
}

/// A text with its references found: what is substituted again and again is taken apart once.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Template {
    pieces: Vec<Piece>,
    references: Vec<CustomName>,
    attributes: Vec<Box<str>>,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Piece {
    Text(Box<str>),
    Variable(CustomName, Option<Box<Template>>),
    /// A variable of the browser, which a page on a plain screen does not have.
    Environment(Option<Box<Template>>),
    Attribute(Attribute, Option<Box<Template>>),
    /// A function that names nothing.
    Broken,
    /// A function that is replaced in a way that is not computed here.
    Unknown,
}

/// What an `attr()` asks for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Attribute {
    /// The attribute's name.
    pub name: Box<str>,
    /// How its value is read.
    pub read: AttributeType,
}

/// How an `attr()` reads the value of an attribute.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum AttributeType {
    /// As a string.
    Raw,
    /// As a number with a unit that is written here; `%` is one, nothing is a number alone.
    Unit(Box<str>),
    /// By a syntax string.
    Syntax(Box<str>),
}

/// Where references get their values; `None` is the guaranteed-invalid value.
pub trait Values {
    /// A custom property's value.
    ///
    /// # Errors
    /// The reason why it cannot be known.
    fn custom(&mut self, name: &CustomName) -> Result<Option<Rc<str>>, Unknown>;
    /// An attribute of the element, as it is written.
    fn attribute(&mut self, name: &str) -> Option<Rc<str>>;
    /// Whether it is settled that the text has no value, whatever else it refers to: it is in a circle.
    fn is_settled(&self) -> bool {
        false
    }
}

impl Attribute {
    /// The text that stands for it: `None` where the attribute is missing or does not fit.
    fn value(&self, written: Option<&str>) -> Option<String> {
        let written = written?;
        match &self.read {
            AttributeType::Raw => {
                let mut text = String::new();
                // Writing to a String does not fail.
                let _ = cssparser::serialize_string(written, &mut text);
                Some(text)
            }
            AttributeType::Unit(unit) => {
                let number = written.trim();
                Syntax::parse("<number>")?.value(number).map(|_| format!("{number}{unit}"))
            }
            AttributeType::Syntax(syntax) => Syntax::parse(syntax)?.value(written).map(|_| written.trim().to_owned()),
        }
    }
}

impl Template {
    /// Takes a text apart.
    pub fn new(text: &str) -> Template {
        let mut template = Template::default();
        if has_substitution(text) {
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

    /// The attributes it refers to.
    pub fn attributes(&self) -> &[Box<str>] {
        &self.attributes
    }

    /// Whether a fallback may bring a keyword that every property takes, `inherit` among them.
    pub fn may_be_wide(&self) -> bool {
        const WIDE: [&str; 5] = ["inherit", "initial", "unset", "revert", "revert-layer"];
        let is_wide = |text: &str| WIDE.iter().any(|word| word.eq_ignore_ascii_case(text.trim()));
        self.pieces.iter().any(|piece| match piece {
            Piece::Variable(_, Some(fallback))
            | Piece::Environment(Some(fallback))
            | Piece::Attribute(_, Some(fallback)) => fallback.plain().is_some_and(is_wide) || fallback.may_be_wide(),
            _ => false,
        })
    }

    /// The text, where it holds no references.
    pub fn plain(&self) -> Option<&str> {
        match self.pieces.as_slice() {
            [] => Some(""),
            [Piece::Text(text)] => Some(text),
            _ => None,
        }
    }

    /// Puts values for references. Returns `None` when one has neither a value nor a fallback: the declaration is then
    /// invalid at computed-value time.
    ///
    /// # Errors
    /// The reason why it cannot be known.
    pub fn substitute(&self, values: &mut dyn Values) -> Result<Option<Rc<str>>, Unknown> {
        // A reference alone is the most frequent text of all: its value is shared.
        if let [Piece::Variable(name, fallback)] = self.pieces.as_slice() {
            return match (values.custom(name)?, fallback) {
                (Some(value), _) => Ok(Some(value)),
                (None, Some(fallback)) if !values.is_settled() => fallback.substitute(values),
                (None, _) => Ok(None),
            };
        }
        let mut out = String::new();
        let valid = self.write(&mut out, values)?;
        Ok(valid.then(|| out.into()))
    }

    /// Whether all references have values. A fallback that is not taken refers to nothing; everything else is asked for even
    /// where one has none, for what is in a circle with it.
    fn write(&self, out: &mut String, values: &mut dyn Values) -> Result<bool, Unknown> {
        let mut is_valid = true;
        for piece in &self.pieces {
            let (found, fallback): (Option<Rc<str>>, _) = match piece {
                Piece::Text(text) => {
                    out.push_str(text);
                    continue;
                }
                Piece::Broken => {
                    is_valid = false;
                    continue;
                }
                Piece::Unknown => return Err(Unknown("a function in it is not computed")),
                Piece::Variable(name, fallback) => (values.custom(name)?, fallback),
                Piece::Environment(fallback) => (None, fallback),
                Piece::Attribute(attribute, fallback) => {
                    let written = values.attribute(&attribute.name);
                    (attribute.value(written.as_deref()).map(Rc::from), fallback)
                }
            };
            if values.is_settled() {
                return Ok(false);
            }
            match (found, fallback) {
                (Some(value), _) => join(out, &value),
                (None, Some(fallback)) => {
                    let mut text = String::new();
                    is_valid &= fallback.write(&mut text, values)?;
                    join(out, &text);
                }
                (None, None) => is_valid = false,
            }
            if out.len() > MAX_LENGTH {
                return Ok(false);
            }
        }
        Ok(is_valid)
    }

    fn push(&mut self, text: &str) {
        if text.is_empty() {
            return;
        }
        match self.pieces.last_mut() {
            Some(Piece::Text(last)) => *last = format!("{last}{text}").into(),
            _ => self.pieces.push(Piece::Text(text.into())),
        }
    }

    fn read(&mut self, parser: &mut Parser) {
        // What stands between references is taken over as a whole.
        let mut run = parser.position();
        loop {
            let start = parser.position();
            let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else {
                return self.push(parser.slice(run..start));
            };
            let close = match &token {
                Token::Function(name) if is_reference(name) => {
                    self.push(parser.slice(run..start));
                    let name = name.to_ascii_lowercase();
                    let _ = parser.parse_nested_block(|inner| {
                        match name.as_str() {
                            "var" => self.variable(inner),
                            "env" => self.environment(inner),
                            "attr" => self.attribute(inner),
                            _ => {
                                while inner.next().is_ok() {}
                                self.pieces.push(Piece::Unknown);
                            }
                        }
                        Ok::<_, ParseError<()>>(())
                    });
                    run = parser.position();
                    continue;
                }
                Token::Function(_) | Token::ParenthesisBlock => ")",
                Token::SquareBracketBlock => "]",
                Token::CurlyBracketBlock => "}",
                _ => continue,
            };
            self.push(parser.slice_from(run));
            let _ = parser.parse_nested_block(|inner| {
                self.read(inner);
                Ok::<_, ParseError<()>>(())
            });
            self.push(close);
            run = parser.position();
        }
    }

    /// The arguments of a `var()`.
    fn variable(&mut self, parser: &mut Parser) {
        let Ok(name) = parser.expect_ident_cloned() else {
            self.pieces.push(Piece::Broken);
            return;
        };
        let fallback = self.fallback(parser);
        let name = CustomName::new(&name);
        self.references.push(name.clone());
        self.references.extend(fallback.iter().flat_map(|f| f.references.iter().cloned()));
        self.pieces.push(Piece::Variable(name, fallback));
    }

    /// What stands after the comma.
    fn fallback(&mut self, parser: &mut Parser) -> Option<Box<Template>> {
        let has_fallback = parser.try_parse(|p| p.expect_comma()).is_ok();
        let start = parser.position();
        while parser.next_including_whitespace_and_comments().is_ok() {}
        has_fallback.then(|| Box::new(Template::new(parser.slice_from(start).trim())))
    }

    fn environment(&mut self, parser: &mut Parser) {
        let Ok(name) = parser.expect_ident_cloned() else {
            self.pieces.push(Piece::Broken);
            return;
        };
        while parser.try_parse(|p| p.expect_integer()).is_ok() {}
        let fallback = self.fallback(parser);
        // Every browser has the insets; on a screen without a notch they are nothing.
        if name.starts_with("safe-area-inset-") {
            return self.push("0px");
        }
        self.references.extend(fallback.iter().flat_map(|f| f.references.iter().cloned()));
        self.pieces.push(Piece::Environment(fallback));
    }

    fn attribute(&mut self, parser: &mut Parser) {
        let Ok(name) = parser.expect_ident_cloned() else {
            self.pieces.push(Piece::Broken);
            return;
        };
        let read = if parser.try_parse(|p| p.expect_delim('%')).is_ok() {
            AttributeType::Unit("%".into())
        } else if let Ok(word) = parser.try_parse(|p| p.expect_ident_cloned()) {
            match word.to_ascii_lowercase().as_str() {
                "raw-string" => AttributeType::Raw,
                "number" => AttributeType::Unit("".into()),
                unit => AttributeType::Unit(unit.into()),
            }
        } else if parser.try_parse(|p| p.expect_function_matching("type")).is_ok() {
            let syntax = parser.parse_nested_block(|inner| {
                let start = inner.position();
                while inner.next().is_ok() {}
                Ok::<_, ParseError<()>>(inner.slice_from(start).trim().to_owned())
            });
            AttributeType::Syntax(syntax.unwrap_or_default().into())
        } else {
            AttributeType::Raw
        };
        let mut fallback = self.fallback(parser);
        if fallback.is_none() && read == AttributeType::Raw {
            // A string that is missing is empty.
            fallback = Some(Box::new(Template::new("\"\"")));
        }
        self.references.extend(fallback.iter().flat_map(|f| f.references.iter().cloned()));
        self.attributes.push(name.to_ascii_lowercase().into());
        self.attributes.extend(fallback.iter().flat_map(|f| f.attributes.iter().cloned()));
        let attribute = Attribute { name: name.to_ascii_lowercase().into(), read };
        self.pieces.push(Piece::Attribute(attribute, fallback));
    }
}

/// Whether a function is replaced before a value is parsed.
fn is_reference(name: &str) -> bool {
    ["var", "env", "attr", "if"].iter().any(|known| known.eq_ignore_ascii_case(name)) || name.starts_with("--")
}

/// Puts a value after a text. Where the two would run into one token, a comment keeps them apart (CSS Syntax 3, section 9).
fn join(out: &mut String, value: &str) {
    let is_word = |c: char| c.is_alphanumeric() || matches!(c, '-' | '_' | '#' | '@' | '%' | '.') || !c.is_ascii();
    if out.chars().next_back().is_some_and(is_word) && value.chars().next().is_some_and(|c| is_word(c) || c == '(') {
        out.push_str("/**/");
    }
    out.push_str(value);
}

/// Whether a text holds a function that is replaced before it is parsed.
pub fn has_substitution(text: &str) -> bool {
    let lower = text.to_ascii_lowercase();
    if ["var(", "env(", "attr("].iter().any(|name| lower.contains(name)) {
        return true;
    }
    // Rare enough to look closer: `if(` and functions of the author's.
    (lower.contains("if(") || lower.contains("--")) && lower.contains('(') && has_reference(&mut Parser::new(text))
}

fn has_reference(parser: &mut Parser) -> bool {
    while let Ok(token) = parser.next().cloned() {
        let inner = match &token {
            Token::Function(name) if is_reference(name) => return true,
            Token::Function(_) | Token::ParenthesisBlock | Token::SquareBracketBlock | Token::CurlyBracketBlock => {
                parser.parse_nested_block(|inner| Ok::<_, ParseError<()>>(has_reference(inner))).unwrap_or(false)
            }
            _ => false,
        };
        if inner {
            return true;
        }
    }
    false
}

/// [`Template::substitute`] for a text that is used once.
pub fn substitute(text: &str, lookup: &mut dyn FnMut(&str) -> Option<String>) -> Option<String> {
    struct Lookup<'l>(&'l mut dyn FnMut(&str) -> Option<String>);
    impl Values for Lookup<'_> {
        fn custom(&mut self, name: &CustomName) -> Result<Option<Rc<str>>, Unknown> {
            Ok((self.0)(&name.text).map(Rc::from))
        }

        fn attribute(&mut self, _name: &str) -> Option<Rc<str>> {
            None
        }
    }
    Template::new(text).substitute(&mut Lookup(lookup)).ok().flatten().map(|value| value.to_string())
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
            ("var(--a)x env(no, 2px) env(safe-area-inset-top)", Some("redx 2px 0px")),
            ("attr(data-x, 3px)", Some("3px")),
            ("if(style(--a): 1; else: 2)", None),
        ] {
            assert_eq!(substitute(text, &mut lookup).as_deref(), expected, "{text}");
        }
    }
}
