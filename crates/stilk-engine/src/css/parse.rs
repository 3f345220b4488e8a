//! Declarations: a property's name and its text become values of longhands.

use super::grammar::Grammar;
use super::property::{Flow, Logical, Longhand, PropertyName};
pub use super::substitute::has_substitution;
use super::value::Value;
use cssparser::{ParseError, Parser};
use std::sync::Arc;

/// What a declaration sets: a longhand, or a logical one that waits for the direction.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Target {
    /// A longhand of the table.
    Physical(Longhand),
    /// A logical longhand.
    Logical(Logical),
}

impl Target {
    /// The longhand in a flow.
    pub fn physical(self, flow: Flow) -> Longhand {
        match self {
            Target::Physical(longhand) => longhand,
            Target::Logical(logical) => logical.physical(flow),
        }
    }
}

/// One longhand that a declaration sets.
pub type Expanded = (Target, Value);

/// A CSS-wide keyword (CSS Cascade 5, section 7.3).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Wide {
    /// `inherit`
    Inherit,
    /// `initial`
    Initial,
    /// `unset`
    Unset,
    /// `revert`
    Revert,
    /// `revert-layer`
    RevertLayer,
}

/// What a declaration says.
#[derive(Debug, Clone, PartialEq)]
pub enum Declared {
    /// Values of longhands.
    Values(Vec<Expanded>),
    /// A CSS-wide keyword for everything the property sets.
    Wide(Wide),
    /// Text with `var()` in it, parsed when it is substituted.
    Pending(Arc<str>),
}

/// A declaration that was read.
#[derive(Debug, Clone, PartialEq)]
pub struct ParsedDeclaration {
    /// The property.
    pub name: PropertyName,
    /// What it says.
    pub declared: Declared,
}

/// Why a declaration is not valid.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Invalid {
    /// There is no such property.
    Property,
    /// The property does not take this value.
    Value,
}

impl ParsedDeclaration {
    /// Everything it sets.
    pub fn targets(&self) -> Vec<Target> {
        match self.name {
            PropertyName::Longhand(longhand) => vec![Target::Physical(longhand)],
            PropertyName::Logical(logical) => vec![Target::Logical(logical)],
            PropertyName::Shorthand(shorthand) => shorthand.targets().collect(),
            PropertyName::Unlearned(shorthand) => shorthand.targets(),
            PropertyName::All => Longhand::ALL
                .iter()
                .filter(|longhand| !matches!(longhand, Longhand::Direction | Longhand::UnicodeBidi))
                .map(|longhand| Target::Physical(*longhand))
                .collect(),
            PropertyName::Custom | PropertyName::Other | PropertyName::Unknown => Vec::new(),
        }
    }
}

/// Whether brackets in a text are nested deeper than anyone nests them: every reader of values recurses.
pub fn is_too_deep(text: &str) -> bool {
    const MAX: usize = 64;
    let mut depth = 0usize;
    for byte in text.bytes() {
        match byte {
            b'(' | b'[' | b'{' => depth += 1,
            b')' | b']' | b'}' => depth = depth.saturating_sub(1),
            _ => {}
        }
        if depth > MAX {
            return true;
        }
    }
    false
}

/// Reads a declaration. Custom properties are not for this.
pub fn parse_declaration(name: &str, text: &str) -> Result<ParsedDeclaration, Invalid> {
    let written = name.to_ascii_lowercase();
    let name = PropertyName::read(&written);
    let text = &*super::quirks::of_today(&written, text).ok_or(Invalid::Value)?;
    let declared = match name {
        PropertyName::Unknown => return Err(Invalid::Property),
        PropertyName::Custom | PropertyName::Other => Declared::Values(Vec::new()),
        // Each property would read what is substituted by its own grammar.
        PropertyName::All if has_substitution(text) => {
            let all = ParsedDeclaration { name, declared: Declared::Values(Vec::new()) }.targets();
            Declared::Values(all.into_iter().map(|target| (target, Value::Unmodelled)).collect())
        }
        _ if has_substitution(text) => Declared::Pending(text.into()),
        _ => match parse_value(name, text) {
            Some(declared) => declared,
            // The old name takes numbers as well, however they are calculated.
            None if written == "-webkit-perspective" => {
                Declared::Values(vec![(Target::Physical(Longhand::Perspective), Value::Unmodelled)])
            }
            // Rules between columns may be several (CSS Gap Decorations 1).
            None if written.contains("column-rule") && (text.contains(',') || text.contains("repeat(")) => {
                let all = ParsedDeclaration { name, declared: Declared::Values(Vec::new()) }.targets();
                Declared::Values(all.into_iter().map(|target| (target, Value::Unmodelled)).collect())
            }
            // A container of scroll states and of sizes as well.
            None if name == PropertyName::Longhand(Longhand::ContainerType) && text.contains("scroll-state") => {
                Declared::Values(vec![(Target::Physical(Longhand::ContainerType), Value::Unmodelled)])
            }
            None => return Err(Invalid::Value),
        },
    };
    Ok(ParsedDeclaration { name, declared })
}

/// Reads a value without `var()`.
pub fn parse_value(name: PropertyName, text: &str) -> Option<Declared> {
    if let Some(wide) = wide_keyword(text) {
        return Some(Declared::Wide(wide));
    }
    let mut parser = Parser::new(text);
    // No property takes nothing.
    if parser.is_exhausted() {
        return None;
    }
    let values = parser.parse_entirely(|p| match name {
        PropertyName::Longhand(longhand) => {
            Ok(vec![(Target::Physical(longhand), parse_grammar(longhand.grammar(), p)?)])
        }
        PropertyName::Logical(logical) => {
            Ok(vec![(Target::Logical(logical), parse_grammar(logical.physical(Flow::LTR).grammar(), p)?)])
        }
        PropertyName::Shorthand(shorthand) => shorthand.parse(p),
        PropertyName::Unlearned(shorthand) => {
            while p.next().is_ok() {}
            Ok(shorthand.targets().into_iter().map(|target| (target, Value::Unmodelled)).collect())
        }
        PropertyName::All | PropertyName::Custom | PropertyName::Other | PropertyName::Unknown => {
            Err(ParseError::unexpected_token())
        }
    });
    values.ok().map(Declared::Values)
}

/// Reads a value of one longhand.
pub fn parse_longhand(longhand: Longhand, text: &str) -> Result<Value, ParseError<()>> {
    Parser::new(text).parse_entirely(|p| parse_grammar(longhand.grammar(), p))
}

pub(super) fn parse_grammar(grammar: &Grammar, parser: &mut Parser) -> Result<Value, ParseError<()>> {
    grammar.parse(parser)
}

fn wide_keyword(text: &str) -> Option<Wide> {
    Some(match text.trim().to_ascii_lowercase().as_str() {
        "inherit" => Wide::Inherit,
        "initial" => Wide::Initial,
        "unset" => Wide::Unset,
        "revert" => Wide::Revert,
        "revert-layer" => Wide::RevertLayer,
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::super::serialize::to_css;
    use super::*;

    fn expand(name: &str, text: &str) -> Vec<String> {
        match parse_declaration(name, text).map(|d| d.declared) {
            Ok(Declared::Values(values)) => values
                .iter()
                .map(|(target, value)| format!("{}: {}", target.physical(Flow::LTR).name(), to_css(value)))
                .collect(),
            other => panic!("{name}: {text}: {other:?}"),
        }
    }

    #[test]
    fn shorthands_are_taken_apart() {
        assert_eq!(
            expand("margin", "1px 2em auto"),
            ["margin-top: 1px", "margin-right: 2em", "margin-bottom: auto", "margin-left: 2em"]
        );
        assert_eq!(expand("flex", "0"), ["flex-grow: 0", "flex-shrink: 1", "flex-basis: 0%"]);
        assert_eq!(
            expand("font", "italic 600 1rem/1.5 \"A B\", serif")[..5],
            [
                "font-style: italic",
                "font-weight: 600",
                "font-size: 1rem",
                "line-height: 1.5",
                "font-family: \"A B\", serif"
            ]
        );
        assert_eq!(
            expand("transition", "color .2s ease-in, opacity 1s 50ms")[..4],
            [
                "transition-property: color, opacity",
                "transition-duration: 0.2s, 1s",
                "transition-timing-function: ease-in, ease",
                "transition-delay: 0s, 50ms"
            ]
        );
        assert_eq!(expand("border", "solid")[0], "border-top-width: medium");
        assert_eq!(
            expand("background-position", "top, 1px 2px"),
            ["background-position-x: 50%, 1px", "background-position-y: 0%, 2px"]
        );
        assert_eq!(expand("background", "url(a.png) bottom left / 1em no-repeat red")[1], "background-position-x: 0%");
        assert_eq!(expand("background", "none").last().unwrap(), "background-color: rgba(0, 0, 0, 0)");
    }

    #[test]
    fn what_is_valid_but_not_modelled_is_accepted() {
        for (name, text) in [
            ("color", "oklch(from red l c calc(h + 20))"),
            ("color", "rgb(calc(1 + 1) 0 0)"),
            ("cursor", "url(\"a.png\") 2 2, pointer"),
            ("font", "small-caps 600 condensed 1rem/1.2 serif"),
            ("font", "caption"),
            ("font-style", "oblique 10deg"),
            ("rotate", "x 45deg"),
            ("background-position", "right 1em top 2px"),
            ("background-image", "linear-gradient(red, blue), none"),
            ("transform", "translateY(-1px) scale(1.1)"),
            ("width", "-webkit-fill-available"),
            ("display", "-webkit-box"),
            ("outline", "-webkit-focus-ring-color auto 5px"),
            ("background-image", "image-set(url(a.png) 1x)"),
            ("justify-content", "safe center"),
            ("clip-path", "inset(50%)"),
            ("clip-path", "path(\"M0 0\")"),
            ("transition-timing-function", "steps(4, end)"),
        ] {
            assert!(parse_declaration(name, text).is_ok(), "{name}: {text}");
        }
    }

    #[test]
    fn wrong_values_are_refused() {
        for (name, text) in [
            ("padding", "-1px"),
            ("padding", "8"),
            ("color", "1px"),
            ("display", "sideways"),
            ("width", "none"),
            ("line-height", "calc(1px + 1s)"),
            ("border", "1px 2px"),
            ("opacity", "1px"),
            ("transition", "1px"),
        ] {
            assert_eq!(parse_declaration(name, text), Err(Invalid::Value), "{name}: {text}");
        }
        assert_eq!(parse_declaration("colour", "red"), Err(Invalid::Property));
        assert!(parse_declaration("grid-area", "1 / 2").is_ok());
    }
}
