//! Selectors: parsing and matching by the `selectors` crate, over our own document.

use crate::css::parse::is_too_deep;
use crate::dom::{Document, Element as DomElement, NodeData, NodeId, is_disableable};
use cssparser::{ParseError, Parser as CssParser, ToCss, Token};
use html5ever::{LocalName, Namespace, local_name, ns};
use precomputed_hash::PrecomputedHash;
use selectors::attr::{AttrSelectorOperation, CaseSensitivity, NamespaceConstraint};
use selectors::bloom::BloomFilter;
use selectors::context::{
    MatchingContext, MatchingForInvalidation, MatchingMode, NeedsSelectorFlags, QuirksMode, SelectorCaches,
};
use selectors::matching::{ElementSelectorFlags, matches_selector};
use selectors::parser::{ParseRelative, Selector, SelectorParseErrorKind};
use selectors::{OpaqueElement, SelectorImpl, SelectorList};
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

/// The parser with everything on that browsers have.
struct Reader;

impl<'i> selectors::Parser<'i> for Reader {
    type Impl = Selectors;
    type Error = SelectorParseErrorKind;

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
pub fn parse<'i>(parser: &mut CssParser<'i>) -> Result<List, ParseError<()>> {
    refuse_deep(parser)?;
    SelectorList::parse(&Reader, parser, ParseRelative::No).map_err(|_| ParseError::unexpected_token())
}

/// Parses the selector list of a nested rule: a selector without `&` begins with one (CSS Nesting 1, section 3.1).
pub fn parse_nested<'i>(parser: &mut CssParser<'i>) -> Result<List, ParseError<()>> {
    refuse_deep(parser)?;
    let list = SelectorList::parse(&Reader, parser, ParseRelative::ForNesting);
    let list = list.map_err(|_| ParseError::unexpected_token())?;
    if list.slice().iter().all(|one| one.has_parent_selector()) {
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
    parse_list(&text.join(",")).ok_or_else(ParseError::unexpected_token)
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
    CssParser::new(text).parse_entirely(parse).ok()
}

/// Whether a text is a selector list.
pub fn is_valid(text: &str) -> bool {
    parse_list(text).is_some()
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

/// A selector as CSS.
pub fn to_text(selector: &One) -> String {
    selector.to_css_string()
}

/// Whether an element at rest matches.
pub fn matches(list: &List, document: &Document, node: NodeId) -> bool {
    matches_in(list, document, node, &Forced::default())
}

/// Whether an element matches while states are forced.
pub fn matches_in(list: &List, document: &Document, node: NodeId, forced: &Forced) -> bool {
    let element = ElementRef { document, node, forced };
    let mut caches = SelectorCaches::default();
    list.slice().iter().any(|one| element.matches(one, false, &mut caches))
}

/// States that a case forces on elements, as a browser's inspector does.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Forced {
    list: Vec<(NodeId, PseudoClass)>,
}

impl Forced {
    /// Forces a pseudo-class.
    pub fn add(&mut self, node: NodeId, class: PseudoClass) {
        if !self.has(node, &class) {
            self.list.push((node, class));
        }
    }

    /// What is forced, in order.
    pub fn iter(&self) -> impl Iterator<Item = (NodeId, &PseudoClass)> {
        self.list.iter().map(|(node, class)| (*node, class))
    }

    fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    fn has(&self, node: NodeId, class: &PseudoClass) -> bool {
        self.list.iter().any(|(n, c)| *n == node && c == class)
    }
}

/// An element to match against.
#[derive(Clone, Copy)]
pub struct ElementRef<'d> {
    /// Its document.
    pub document: &'d Document,
    /// Its node.
    pub node: NodeId,
    /// What is forced.
    pub forced: &'d Forced,
}

impl fmt::Debug for ElementRef<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:?}", self.node)
    }
}

/// An element that selectors are held against.
pub struct Matching<'c, 'd> {
    element: ElementRef<'d>,
    context: MatchingContext<'c, Selectors>,
}

impl Matching<'_, '_> {
    /// Whether the element, or a pseudo-element of it, matches.
    pub fn matches(&mut self, selector: &One) -> bool {
        matches_selector(selector, 0, None, self.element, &mut self.context)
    }
}

impl<'d> ElementRef<'d> {
    pub(super) fn element(&self) -> &'d DomElement {
        match &self.document.node(self.node).data {
            NodeData::Element(element) => element,
            _ => unreachable!("only elements are matched"),
        }
    }

    pub(super) fn at(&self, node: NodeId) -> Self {
        ElementRef { node, ..*self }
    }

    /// Whether the element, or a pseudo-element of it, matches.
    pub fn matches(&self, selector: &One, pseudo: bool, caches: &mut SelectorCaches) -> bool {
        self.matching(pseudo, caches).matches(selector)
    }

    /// Asks one selector after another.
    pub fn matching<'c>(&self, pseudo: bool, caches: &'c mut SelectorCaches) -> Matching<'c, 'd> {
        let mode = if pseudo { MatchingMode::ForStatelessPseudoElement } else { MatchingMode::Normal };
        let context = MatchingContext::new(
            mode,
            None,
            caches,
            QuirksMode::NoQuirks,
            NeedsSelectorFlags::No,
            MatchingForInvalidation::No,
        );
        Matching { element: *self, context }
    }

    fn sibling(&self, forward: bool) -> Option<Self> {
        let parent = self.document.node(self.node).parent?;
        let siblings: Vec<NodeId> = self.document.child_elements(parent).collect();
        let at = siblings.iter().position(|node| *node == self.node)?;
        let next = if forward { siblings.get(at + 1) } else { at.checked_sub(1).and_then(|i| siblings.get(i)) };
        next.map(|node| self.at(*node))
    }

    fn is_rtl(&self) -> bool {
        let mut at = Some(self.node);
        while let Some(node) = at {
            match self.document.element(node).and_then(|e| e.attribute("dir")) {
                Some("rtl") => return true,
                Some("ltr") => return false,
                _ => at = self.document.node(node).parent,
            }
        }
        false
    }

    fn has_language(&self, wanted: &str) -> bool {
        let mut at = Some(self.node);
        while let Some(node) = at {
            if let Some(lang) = self.document.element(node).and_then(|e| e.attribute("lang")) {
                let lang = lang.to_ascii_lowercase();
                return lang == wanted || lang.starts_with(&format!("{wanted}-"));
            }
            at = self.document.node(node).parent;
        }
        false
    }

    fn pseudo_class(&self, class: &PseudoClass) -> bool {
        // What is forced holds whatever the element says, as in a browser's inspector.
        if !self.forced.is_empty() && self.forced.has(self.node, class) {
            return true;
        }
        let element = self.element();
        let local = element.local();
        match class {
            PseudoClass::Checked => self.is_checked(),
            PseudoClass::Disabled => self.is_disabled(),
            PseudoClass::Enabled => is_disableable(element) && !self.is_disabled(),
            PseudoClass::Indeterminate => self.is_indeterminate(),
            PseudoClass::AnyLink | PseudoClass::Link => self.is_hyperlink(),
            PseudoClass::Visited => false,
            PseudoClass::Required => {
                matches!(local, "input" | "select" | "textarea") && element.attribute("required").is_some()
            }
            PseudoClass::Optional => {
                matches!(local, "input" | "select" | "textarea") && element.attribute("required").is_none()
            }
            PseudoClass::ReadWrite => self.is_read_write(),
            PseudoClass::ReadOnly => !self.is_read_write(),
            PseudoClass::PlaceholderShown => {
                element.attribute("placeholder").is_some_and(|p| !p.is_empty())
                    && match local {
                        "input" => element.attribute("value").is_none_or(str::is_empty),
                        "textarea" => !self.document.has_own_text(self.node),
                        _ => false,
                    }
            }
            PseudoClass::Open => matches!(local, "details" | "dialog") && element.attribute("open").is_some(),
            PseudoClass::Defined => !local.contains('-'),
            PseudoClass::Valid => self.validity() == Some(true),
            PseudoClass::Invalid => self.validity() == Some(false),
            PseudoClass::InRange => self.is_in_range() == Some(true),
            PseudoClass::OutOfRange => self.is_in_range() == Some(false),
            PseudoClass::Dir(rtl) => self.is_rtl() == *rtl,
            PseudoClass::Lang(wanted) => self.has_language(wanted),
            PseudoClass::Default => self.is_default(),
            // What only a user, or a script, brings about.
            _ => false,
        }
    }

    fn is_hyperlink(&self) -> bool {
        let element = self.element();
        matches!(element.name.local, local_name!("a") | local_name!("area")) && element.attribute("href").is_some()
    }
}

impl selectors::Element for ElementRef<'_> {
    type Impl = Selectors;

    fn opaque(&self) -> OpaqueElement {
        OpaqueElement::new(self.document.node(self.node))
    }

    fn parent_element(&self) -> Option<Self> {
        let parent = self.document.node(self.node).parent?;
        self.document.element(parent).map(|_| self.at(parent))
    }

    fn parent_node_is_shadow_root(&self) -> bool {
        false
    }

    fn containing_shadow_host(&self) -> Option<Self> {
        None
    }

    fn is_pseudo_element(&self) -> bool {
        false
    }

    fn prev_sibling_element(&self) -> Option<Self> {
        self.sibling(false)
    }

    fn next_sibling_element(&self) -> Option<Self> {
        self.sibling(true)
    }

    fn first_element_child(&self) -> Option<Self> {
        self.document.child_elements(self.node).next().map(|node| self.at(node))
    }

    fn is_html_element_in_html_document(&self) -> bool {
        self.element().name.ns == ns!(html)
    }

    fn has_local_name(&self, local_name: &LocalName) -> bool {
        self.element().name.local == *local_name
    }

    fn has_namespace(&self, ns: &Namespace) -> bool {
        self.element().name.ns == *ns
    }

    fn is_same_type(&self, other: &Self) -> bool {
        self.element().name.expanded() == other.element().name.expanded()
    }

    fn attr_matches(
        &self,
        _ns: &NamespaceConstraint<&Namespace>,
        local_name: &Ident,
        operation: &AttrSelectorOperation<&AttrValue>,
    ) -> bool {
        self.element().attribute(&local_name.0).is_some_and(|value| operation.eval_str(value))
    }

    fn match_non_ts_pseudo_class(&self, pc: &PseudoClass, _context: &mut MatchingContext<Selectors>) -> bool {
        self.pseudo_class(pc)
    }

    fn match_pseudo_element(&self, _pe: &PseudoName, _context: &mut MatchingContext<Selectors>) -> bool {
        false
    }

    fn apply_selector_flags(&self, _flags: ElementSelectorFlags) {}

    fn is_link(&self) -> bool {
        self.is_hyperlink()
    }

    fn is_html_slot_element(&self) -> bool {
        false
    }

    fn has_id(&self, id: &Ident, case_sensitivity: CaseSensitivity) -> bool {
        self.element().attribute("id").is_some_and(|value| case_sensitivity.eq(value.as_bytes(), id.0.as_bytes()))
    }

    fn has_class(&self, name: &Ident, case_sensitivity: CaseSensitivity) -> bool {
        self.element().classes.iter().any(|class| case_sensitivity.eq(class.as_bytes(), name.0.as_bytes()))
    }

    fn has_custom_state(&self, _name: &Ident) -> bool {
        false
    }

    fn imported_part(&self, _name: &Ident) -> Option<Ident> {
        None
    }

    fn is_part(&self, _name: &Ident) -> bool {
        false
    }

    fn is_empty(&self) -> bool {
        self.document.node(self.node).children.iter().all(|child| match &self.document.node(*child).data {
            NodeData::Text(text) => text.is_empty(),
            _ => false,
        })
    }

    fn is_root(&self) -> bool {
        self.document.node(self.node).parent == Some(Document::ROOT)
    }

    fn add_element_unique_hashes(&self, _filter: &mut BloomFilter) -> bool {
        false
    }
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
