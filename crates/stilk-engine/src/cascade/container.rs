//! Container queries (CSS Conditional 5, section 5): asked of computed styles, for sizes that are known without a layout of
//! text, and for custom properties.

use super::media::{Answer, Features, Query, comparable, condition};
use super::style::Style;
use crate::css::context::Unknown;
use crate::css::property::Longhand as L;
use crate::css::substitute::CustomName;
use crate::css::value::Value;
use cssparser::Parser;

/// The prelude of `@container`.
#[derive(Debug, Clone, PartialEq)]
pub struct ContainerQuery {
    pub(super) name: Option<String>,
    /// `None`: any container of the name will do.
    pub(super) query: Option<Query>,
}

/// Parses the prelude of `@container`; `None` when it is malformed.
pub fn parse(text: &str) -> Option<ContainerQuery> {
    let mut parser = Parser::new(text);
    let name = parser.try_parse(|p| {
        let name = p.expect_ident_cloned().map_err(|_| ())?;
        let reserved = ["not", "and", "or", "none"].iter().any(|word| name.eq_ignore_ascii_case(word));
        if reserved { Err(()) } else { Ok(name.to_string()) }
    });
    let name = name.ok();
    if parser.is_exhausted() {
        return name.map(|name| ContainerQuery { name: Some(name), query: None });
    }
    let query = parser.parse_entirely(|p| condition(p, true)).ok()?;
    Some(ContainerQuery { name, query: Some(query) })
}

/// Which axes a query asks for: they decide which ancestor is its container.
#[derive(Default, Clone, Copy)]
pub(super) struct Axes {
    inline: bool,
    pub(super) block: bool,
}

/// The axes that a query asks for.
pub(super) fn axes_of(query: &Query) -> Axes {
    Axes::of(query)
}

impl Axes {
    fn of(query: &Query) -> Axes {
        match query {
            Query::Not(inner) => Axes::of(inner),
            Query::And(list) | Query::Or(list) => list
                .iter()
                .map(Axes::of)
                .fold(Axes::default(), |a, b| Axes { inline: a.inline || b.inline, block: a.block || b.block }),
            Query::Word(name, _) | Query::Compare(name, _, _) => match name.as_str() {
                "width" | "inline-size" => Axes { inline: true, block: false },
                "height" | "block-size" => Axes { inline: false, block: true },
                "aspect-ratio" | "orientation" => Axes { inline: true, block: true },
                _ => Axes::default(),
            },
            Query::Type(_) | Query::Function(..) | Query::Unknown => Axes::default(),
        }
    }
}

impl ContainerQuery {
    /// Whether it holds for an element whose parent, or a pseudo-element whose originating element, is given.
    ///
    /// # Errors
    /// The reason why that is not known.
    pub fn holds(&self, above: Option<&Style>) -> Result<bool, Unknown> {
        let axes = self.query.as_ref().map(Axes::of).unwrap_or_default();
        let mut at = above;
        while let Some(style) = at {
            if self.is_named(style)? && serves(style, axes)? {
                let Some(query) = &self.query else { return Ok(true) };
                return Ok(query.matches(&Container(style))? == Some(true));
            }
            at = style.parent.as_deref();
        }
        match above.is_some_and(|style| style.sheets.is_fragment) {
            true => Err(Unknown("the container is the page's")),
            false => Ok(false),
        }
    }

    fn is_named(&self, style: &Style) -> Result<bool, Unknown> {
        let Some(wanted) = &self.name else { return Ok(true) };
        Ok(match style.get(L::ContainerName)? {
            Value::Words(names) => names.iter().any(|name| matches!(name, Value::Ident(text) if **text == **wanted)),
            _ => false,
        })
    }
}

/// Whether an element is a container for what is asked.
fn serves(style: &Style, axes: Axes) -> Result<bool, Unknown> {
    if !axes.inline && !axes.block {
        return Ok(true);
    }
    let kind = style.get(L::ContainerType)?;
    let is_container = kind.is("size") || (kind.is("inline-size") && !axes.block);
    // Boxes that take no size containment are no containers of a size (CSS Containment 3, section 3.1).
    let boxless = ["none", "contents", "inline"].iter().any(|display| style.is(L::Display, display));
    if is_container && boxless {
        return Err(Unknown("the container has no box of its own"));
    }
    Ok(is_container)
}

struct Container<'s>(&'s Style);

impl Features for Container<'_> {
    fn compare(&self, name: &str, with: &Value) -> Result<Option<(f64, f64)>, Unknown> {
        let actual = match name {
            "width" | "inline-size" => self.0.content_width()?,
            "height" | "block-size" => self.0.content_height()?,
            "aspect-ratio" => self.0.content_width()? / self.0.content_height()?,
            _ => return Ok(None),
        };
        let number = comparable(with, name != "aspect-ratio", self.0.context())?;
        Ok(number.map(|number| (actual, number)))
    }

    fn word(&self, name: &str, value: Option<&str>) -> Answer {
        Ok(match (name, value) {
            ("orientation", Some(value)) => {
                let wide = self.0.content_width()? > self.0.content_height()?;
                Some(value == if wide { "landscape" } else { "portrait" })
            }
            ("width" | "inline-size", None) => Some(self.0.content_width()? != 0.0),
            ("height" | "block-size", None) => Some(self.0.content_height()? != 0.0),
            _ => None,
        })
    }

    fn function(&self, name: &str, arguments: &str) -> Answer {
        if name != "style" {
            return Err(Unknown("a container query asks for what only a shown page has"));
        }
        let (property, wanted) = match arguments.split_once(':') {
            Some((property, wanted)) => (property.trim(), Some(wanted.trim())),
            None => (arguments, None),
        };
        if !property.starts_with("--") || arguments.contains(['(', '<', '>', '=']) {
            return Err(Unknown("a style query asks for more than a custom property"));
        }
        let custom = self.0.custom(&CustomName::new(property));
        if let Some(unknown) = custom.as_ref().and_then(|custom| custom.unknown) {
            return Err(unknown);
        }
        // In a piece of some page the page may set it.
        if custom.is_none() && self.0.sheets.is_fragment {
            return Err(Unknown("a style query asks for what a page may set"));
        }
        let text = custom.and_then(|custom| custom.text);
        Ok(Some(match wanted {
            None => text.is_some(),
            Some("initial") => text.is_none(),
            Some(wanted) => text.is_some_and(|text| text.trim() == wanted),
        }))
    }
}
