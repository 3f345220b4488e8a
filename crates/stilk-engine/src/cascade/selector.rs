//! Selectors: read by the `selectors` crate, with everything on that browsers have.

use crate::css::parse::is_too_deep;
use cssparser::{ParseError, Parser as CssParser, ToCss, Token};
use html5ever::{LocalName, Namespace};
use precomputed_hash::PrecomputedHash;
use selectors::parser::{Component, ParseRelative, Selector, SelectorParseErrorKind};
use selectors::{SelectorImpl, SelectorList};
use std::borrow::Borrow;
use std::fmt;

/// The selector implementation.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Selectors;

/// A parsed selector list.
pub type List = SelectorList<Selectors>;
/// One parsed selector.
pub type One = Selector<Selectors>;

/// A name in a selector, interned.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default)]
pub struct Ident(pub LocalName);

impl From<&str> for Ident {
    fn from(text: &str) -> Self {
        Ident(LocalName::from(text))
    }
}

impl ToCss for Ident {
    fn to_css<W: fmt::Write>(&self, dest: &mut W) -> fmt::Result {
        cssparser::serialize_identifier(&self.0, dest)
    }
}

impl PrecomputedHash for Ident {
    fn precomputed_hash(&self) -> u32 {
        self.0.precomputed_hash()
    }
}

impl Borrow<LocalName> for Ident {
    fn borrow(&self) -> &LocalName {
        &self.0
    }
}

/// A value in an attribute selector.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AttrValue(String);

impl From<&str> for AttrValue {
    fn from(text: &str) -> Self {
        AttrValue(text.to_owned())
    }
}

impl AsRef<str> for AttrValue {
    fn as_ref(&self) -> &str {
        &self.0
    }
}

impl ToCss for AttrValue {
    fn to_css<W: fmt::Write>(&self, dest: &mut W) -> fmt::Result {
        cssparser::serialize_string(&self.0, dest)
    }
}

macro_rules! pseudo_classes {
    ($($id:ident $name:literal;)*) => {
        /// A pseudo-class that depends on more than the tree.
        #[derive(Debug, Clone, PartialEq, Eq)]
        #[allow(missing_docs)]
        pub enum PseudoClass { $($id,)* Dir(bool), Lang(String), Never(String) }

        impl PseudoClass {
            /// The one with this name, without its colon.
            pub fn find(name: &str) -> Option<PseudoClass> {
                $(if name.eq_ignore_ascii_case($name) { return Some(PseudoClass::$id); })*
                None
            }

            /// Its name without the colon.
            pub fn name(&self) -> &'static str {
                match self {
                    $(PseudoClass::$id => $name,)*
                    PseudoClass::Dir(_) => "dir",
                    PseudoClass::Lang(_) => "lang",
                    PseudoClass::Never(_) => "never",
                }
            }
        }
    };
}

pseudo_classes! {
    Active "active";
    AnyLink "any-link";
    Autofill "autofill";
    Checked "checked";
    Default "default";
    Defined "defined";
    Disabled "disabled";
    Enabled "enabled";
    Focus "focus";
    FocusVisible "focus-visible";
    FocusWithin "focus-within";
    Fullscreen "fullscreen";
    Hover "hover";
    Indeterminate "indeterminate";
    InRange "in-range";
    Invalid "invalid";
    Link "link";
    Modal "modal";
    Open "open";
    Optional "optional";
    OutOfRange "out-of-range";
    PlaceholderShown "placeholder-shown";
    PopoverOpen "popover-open";
    ReadOnly "read-only";
    ReadWrite "read-write";
    Required "required";
    Target "target";
    UserInvalid "user-invalid";
    UserValid "user-valid";
    Valid "valid";
    Visited "visited";
}

impl ToCss for PseudoClass {
    fn to_css<W: fmt::Write>(&self, dest: &mut W) -> fmt::Result {
        match self {
            PseudoClass::Dir(rtl) => write!(dest, ":dir({})", if *rtl { "rtl" } else { "ltr" }),
            PseudoClass::Lang(lang) => write!(dest, ":lang({lang})"),
            PseudoClass::Never(text) => write!(dest, ":{text}"),
            other => write!(dest, ":{}", other.name()),
        }
    }
}

impl selectors::parser::NonTSPseudoClass for PseudoClass {
    fn is_active_or_hover(&self) -> bool {
        matches!(self, PseudoClass::Active | PseudoClass::Hover)
    }

    fn is_user_action_state(&self) -> bool {
        matches!(
            self,
            PseudoClass::Active
                | PseudoClass::Hover
                | PseudoClass::Focus
                | PseudoClass::FocusVisible
                | PseudoClass::FocusWithin
        )
    }
}

/// A pseudo-element in a selector, by its name without colons; not all have a style that is computed.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct PseudoName(pub String);

/// Pseudo-classes that Chromium knows and that match no element of a page that no script has changed: of scrollbars, of
/// shadow trees, of what plays or is dragged.
const NEVER: [&str; 28] = [
    "-webkit-drag",
    "-webkit-full-page-media",
    "-webkit-full-screen",
    "-webkit-full-screen-ancestor",
    "active-view-transition",
    "corner-present",
    "current",
    "decrement",
    "double-button",
    "end",
    "future",
    "horizontal",
    "host",
    "increment",
    "interest-source",
    "interest-target",
    "no-button",
    "past",
    "picture-in-picture",
    "single-button",
    "start",
    "target-after",
    "target-before",
    "target-current",
    "vertical",
    "window-inactive",
    "-internal-autofill-previewed",
    "xr-overlay",
];

/// The same with arguments.
const NEVER_WITH: [&str; 4] = ["active-view-transition-type", "host", "host-context", "state"];

/// Pseudo-elements with arguments that Chromium knows.
const PSEUDO_ELEMENTS_WITH: [&str; 11] = [
    "cue",
    "highlight",
    "part",
    "picker",
    "scroll-button",
    "slotted",
    "view-transition-group",
    "view-transition-group-children",
    "view-transition-image-pair",
    "view-transition-new",
    "view-transition-old",
];

/// Pseudo-elements that Chromium knows, besides `-webkit-` ones.
const PSEUDO_ELEMENTS: [&str; 23] = [
    "after",
    "backdrop",
    "before",
    "checkmark",
    "column",
    "cue",
    "details-content",
    "file-selector-button",
    "first-letter",
    "first-line",
    "grammar-error",
    "interest-button",
    "marker",
    "permission-icon",
    "picker-icon",
    "placeholder",
    "scroll-marker",
    "scroll-marker-group",
    "search-text",
    "selection",
    "spelling-error",
    "target-text",
    "view-transition",
];

impl ToCss for PseudoName {
    fn to_css<W: fmt::Write>(&self, dest: &mut W) -> fmt::Result {
        write!(dest, "::{}", self.0)
    }
}

impl selectors::parser::PseudoElement for PseudoName {
    fn accepts_state_pseudo_classes(&self) -> bool {
        // Those that are boxes of the platform, or of another tree.
        const BACKED: [&str; 8] = [
            "-webkit-",
            "details-content",
            "file-selector-button",
            "part(",
            "picker(",
            "scroll-button(",
            "scroll-marker",
            "search-text",
        ];
        BACKED.iter().any(|name| self.0.starts_with(name))
    }
}

impl SelectorImpl for Selectors {
    type ExtraMatchingData<'a> = ();
    type AttrValue = AttrValue;
    type Identifier = Ident;
    type LocalName = Ident;
    type NamespaceUrl = Namespace;
    type NamespacePrefix = Ident;
    type BorrowedNamespaceUrl = Namespace;
    type BorrowedLocalName = LocalName;
    type NonTSPseudoClass = PseudoClass;
    type PseudoElement = PseudoName;
}

/// The namespaces that a stylesheet declares (CSS Namespaces 3).
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Namespaces {
    of_all: Option<Namespace>,
    by_prefix: Vec<(LocalName, Namespace)>,
}

impl Namespaces {
    /// Declares one, with a prefix or for all names without one.
    pub fn declare(&mut self, prefix: Option<&str>, url: &str) {
        match prefix {
            None => self.of_all = Some(Namespace::from(url)),
            Some(prefix) => {
                self.by_prefix.retain(|(known, _)| **known != *prefix);
                self.by_prefix.push((LocalName::from(prefix), Namespace::from(url)));
            }
        }
    }
}

/// How selectors may begin.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Beginning {
    /// With what they ask for.
    Plain,
    /// With a combinator after `&`, and without `&` below it (CSS Nesting 1, section 3.1).
    Nested,
    /// With a combinator after the root of a scope (CSS Cascade 6, section 2.5).
    Scoped,
}

/// The parser with everything on that browsers have.
struct Reader<'n>(&'n Namespaces);

impl<'i> selectors::Parser<'i> for Reader<'_> {
    type Impl = Selectors;
    type Error = SelectorParseErrorKind;

    fn default_namespace(&self) -> Option<Namespace> {
        self.0.of_all.clone()
    }

    fn namespace_for_prefix(&self, prefix: &Ident) -> Option<Namespace> {
        self.0.by_prefix.iter().find(|(known, _)| *known == prefix.0).map(|(_, url)| url.clone())
    }

    fn parse_is_and_where(&self) -> bool {
        true
    }

    fn is_is_alias(&self, name: &str) -> bool {
        name.eq_ignore_ascii_case("-webkit-any")
    }

    fn parse_has(&self) -> bool {
        true
    }

    fn parse_nth_child_of(&self) -> bool {
        true
    }

    fn parse_parent_selector(&self) -> bool {
        true
    }

    fn parse_non_ts_pseudo_class(&self, name: &str) -> Result<PseudoClass, ParseError<SelectorParseErrorKind>> {
        let lower = name.to_ascii_lowercase();
        let known = match lower.as_str() {
            "-webkit-any-link" => Some(PseudoClass::AnyLink),
            "-webkit-autofill" => Some(PseudoClass::Autofill),
            never if NEVER.contains(&never) => Some(PseudoClass::Never(lower.clone())),
            _ => PseudoClass::find(name),
        };
        known.ok_or_else(|| ParseError::custom(SelectorParseErrorKind::UnsupportedPseudoClassOrElement))
    }

    fn parse_non_ts_functional_pseudo_class(
        &self,
        name: &str,
        parser: &mut CssParser<'i>,
        _after_part: bool,
    ) -> Result<PseudoClass, ParseError<SelectorParseErrorKind>> {
        let unsupported = || ParseError::custom(SelectorParseErrorKind::UnsupportedPseudoClassOrElement);
        if NEVER_WITH.iter().any(|known| known.eq_ignore_ascii_case(name)) {
            return Ok(PseudoClass::Never(format!("{}({})", name.to_ascii_lowercase(), arguments(parser))));
        }
        let word = parser.expect_ident_or_string().map_err(|_| unsupported())?.to_ascii_lowercase();
        match (name.to_ascii_lowercase().as_str(), word.as_str()) {
            ("dir", "rtl") => Ok(PseudoClass::Dir(true)),
            ("dir", "ltr") => Ok(PseudoClass::Dir(false)),
            ("lang", _) => Ok(PseudoClass::Lang(word)),
            _ => Err(unsupported()),
        }
    }

    fn parse_functional_pseudo_element(
        &self,
        name: &str,
        parser: &mut CssParser<'i>,
    ) -> Result<PseudoName, ParseError<SelectorParseErrorKind>> {
        let name = name.to_ascii_lowercase();
        match PSEUDO_ELEMENTS_WITH.contains(&name.as_str()) {
            true => Ok(PseudoName(format!("{name}({})", arguments(parser)))),
            false => Err(ParseError::custom(SelectorParseErrorKind::UnsupportedPseudoClassOrElement)),
        }
    }

    fn parse_pseudo_element(&self, name: &str) -> Result<PseudoName, ParseError<SelectorParseErrorKind>> {
        let name = name.to_ascii_lowercase();
        if PSEUDO_ELEMENTS.contains(&name.as_str()) || name.starts_with("-webkit-") {
            Ok(PseudoName(name))
        } else {
            Err(ParseError::custom(SelectorParseErrorKind::UnsupportedPseudoClassOrElement))
        }
    }
}

/// What stands between the brackets that were opened.
fn arguments<'i>(parser: &mut CssParser<'i>) -> &'i str {
    let start = parser.position();
    while parser.next_including_whitespace_and_comments().is_ok() {}
    parser.slice_from(start).trim()
}

/// Parses a selector list, all of a parser's input.
pub fn parse<'i>(
    parser: &mut CssParser<'i>,
    beginning: Beginning,
    namespaces: &Namespaces,
) -> Result<List, ParseError<()>> {
    refuse_deep(parser)?;
    let relative = match beginning {
        Beginning::Plain => ParseRelative::No,
        Beginning::Nested => ParseRelative::ForNesting,
        Beginning::Scoped => ParseRelative::ForScope,
    };
    let list = SelectorList::parse(&Reader(namespaces), parser, relative);
    let list = list.map_err(|_| ParseError::unexpected_token())?;
    if beginning != Beginning::Nested || list.slice().iter().all(|one| one.has_parent_selector()) {
        return Ok(list);
    }
    let text: Vec<String> = list
        .slice()
        .iter()
        .map(|one| match one.has_parent_selector() {
            true => one.to_css_string(),
            false => format!("& {}", one.to_css_string()),
        })
        .collect();
    let text = text.join(",");
    CssParser::new(&text).parse_entirely(|p| parse(p, Beginning::Plain, namespaces))
}

/// Puts the selectors of the rule around it for every `&`; pseudo-elements cannot be nested in.
pub fn nest(list: List, parent: &List) -> List {
    let elements: Vec<One> = parent.slice().iter().filter(|one| one.pseudo_element().is_none()).cloned().collect();
    let parent = match elements.is_empty() {
        true => parse_list(":not(*)").unwrap_or_else(|| parent.clone()),
        false => SelectorList::from_iter(elements.into_iter()),
    };
    list.replace_parent_selector(&parent)
}

/// How large a selector is, where `&` is as large as given.
pub fn size(selector: &One, parent: usize) -> usize {
    let text = selector.to_css_string();
    text.matches('&').count().saturating_mul(parent).saturating_add(1 + text.len() / 4)
}

/// The parser of selectors recurses: what is nested without end must not reach it.
fn refuse_deep(parser: &mut CssParser) -> Result<(), ParseError<()>> {
    let state = parser.state();
    let start = parser.position();
    while parser.next_including_whitespace_and_comments().is_ok() {}
    let text = parser.slice_from(start);
    let is_refused = is_too_deep(text) || has_case_flag(&mut CssParser::new(text));
    parser.reset(&state);
    if is_refused { Err(ParseError::unexpected_token()) } else { Ok(()) }
}

/// Whether some attribute is to be compared letter by letter, `[a=b s]`, which Chromium does not read.
fn has_case_flag(parser: &mut CssParser) -> bool {
    while let Ok(token) = parser.next().cloned() {
        let is_attribute = token == Token::SquareBracketBlock;
        if !is_attribute && !matches!(token, Token::Function(_) | Token::ParenthesisBlock) {
            continue;
        }
        let found = parser.parse_nested_block(|inner| {
            if !is_attribute {
                return Ok::<_, ParseError<()>>(has_case_flag(inner));
            }
            let mut tokens = Vec::new();
            while let Ok(token) = inner.next().cloned() {
                tokens.push(token);
            }
            // A name, how it compares, a value, and the flag.
            let flag = tokens.last().filter(|_| tokens.len() > 3);
            Ok(matches!(flag, Some(Token::Ident(word)) if word.eq_ignore_ascii_case("s")))
        });
        if found == Ok(true) {
            return true;
        }
    }
    false
}

/// Parses a selector list; `None` when it is none.
pub fn parse_list(text: &str) -> Option<List> {
    let read = |p: &mut CssParser| parse(p, Beginning::Plain, &Namespaces::default());
    CssParser::new(text).parse_entirely(read).ok()
}

/// Whether a text is a selector list.
pub fn is_valid(text: &str) -> bool {
    parse_list(text).is_some()
}

/// Whether some selector of a list reaches from one element to another, outside of brackets.
pub fn is_complex(text: &str) -> bool {
    let reaches = |one: &Selector<Selectors>| one.iter_raw_match_order().any(Component::is_combinator);
    parse_list(text).is_some_and(|list| list.slice().iter().any(reaches))
}

/// The selectors of a list, each as it was written.
pub fn split_list(text: &str) -> Vec<&str> {
    let mut selectors = Vec::new();
    let mut parser = cssparser::Parser::new(text);
    let mut start = 0;
    while let Ok(token) = parser.next_including_whitespace_and_comments() {
        if *token == cssparser::Token::Comma {
            let end = parser.position().byte_index();
            selectors.push(text[start..end - 1].trim());
            start = end;
        }
    }
    selectors.push(text[start..].trim());
    selectors
}

/// The simple selectors of a compound selector as they are written: `:hover` and `:not(:disabled)` of both.
pub fn split_compound(text: &str) -> Vec<&str> {
    let text = text.trim();
    let mut parser = cssparser::Parser::new(text);
    let (mut parts, mut start, mut is_after_colon) = (Vec::new(), 0, false);
    loop {
        let at = parser.position().byte_index();
        let Ok(token) = parser.next_including_whitespace_and_comments() else { break };
        let opens = matches!(
            token,
            cssparser::Token::Function(_) | cssparser::Token::ParenthesisBlock | cssparser::Token::SquareBracketBlock
        );
        let is_colon = *token == cssparser::Token::Colon;
        let begins = is_colon && !is_after_colon
            || matches!(token, cssparser::Token::Hash(_) | cssparser::Token::IDHash(_) | cssparser::Token::Delim('.'))
            || *token == cssparser::Token::SquareBracketBlock;
        if begins && at > start {
            parts.push(&text[start..at]);
            start = at;
        }
        is_after_colon = is_colon;
        if opens {
            let _ = parser.parse_nested_block(|inner| {
                while inner.next().is_ok() {}
                Ok::<_, cssparser::ParseError<()>>(())
            });
        }
    }
    if start < text.len() {
        parts.push(&text[start..]);
    }
    parts
}

/// A selector as CSS.
pub fn to_text(selector: &One) -> String {
    selector.to_css_string()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn selectors_that_browsers_refuse_are_refused() {
        for text in [":not(:foo)", ".a::nope", ":has(:has(a))", "a >", "::-moz-range-thumb"] {
            assert!(!is_valid(text), "{text}");
        }
        for text in [":where(:foo, .a)", ".a:has(> b:where(:checked))", ".a::before", "a:not(:hover, [b='c'])"] {
            assert!(is_valid(text), "{text}");
        }
    }
}
