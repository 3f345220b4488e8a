//! Looking into computed styles: every element of a page, or one value with everything that was said about it.

mod values;

pub use values::Write;

use crate::cascade::defaults::Browser;
use crate::cascade::explain::{Candidate, Fate, Specificity};
use crate::cascade::order::{DeclarationId, Origin};
use crate::cascade::resolved::resolved;
use crate::cascade::stylesheet::{DeclarationBody, Stylesheet};
use crate::cascade::{Engine, Forced, Media, PseudoClass, Style, Styled, Styles, matching, selector};
use crate::css::context::Unknown;
use crate::css::property::{Longhand, PropertyName};
use crate::css::substitute::{CustomName, Template};
use crate::dom::{Document, NodeId};
use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;
use std::sync::Arc;

/// A stylesheet with the text it was parsed from.
pub struct SourceSheet {
    /// Its name: a path, or what stands for one.
    pub name: String,
    /// Its text.
    pub text: String,
    /// The rules.
    pub parsed: Arc<Stylesheet>,
}

impl SourceSheet {
    /// Parses a text; imports are not followed.
    pub fn new(name: impl Into<String>, text: impl Into<String>) -> SourceSheet {
        let text = text.into();
        let parsed = Arc::new(Stylesheet::parse(&text));
        SourceSheet::of(name, text, parsed)
    }

    /// A text that was parsed already.
    pub fn of(name: impl Into<String>, text: impl Into<String>, parsed: Arc<Stylesheet>) -> SourceSheet {
        SourceSheet { name: name.into(), text: text.into(), parsed }
    }

    /// A browser's defaults.
    pub fn defaults(browser: Browser) -> SourceSheet {
        let text = browser.text().to_owned();
        let parsed = Arc::new(Stylesheet::parse_defaults(&text));
        SourceSheet::of(browser.name(), text, parsed)
    }

    /// Name and text of a file of the sheet: itself, or what it imports.
    fn file(&self, index: u16) -> (&str, &str) {
        match index.checked_sub(1).and_then(|i| self.parsed.imported.get(usize::from(i))) {
            Some((name, text)) => (name, text),
            None => (&self.name, &self.text),
        }
    }
}

/// A document with its styles.
pub struct Inspector<'i> {
    document: &'i Document,
    sheets: Vec<&'i SourceSheet>,
    engine: Engine,
    /// The styles.
    pub styles: Styles,
    media: Media,
    forced: Forced,
    /// Where the lines of a text begin, by where the text stands in memory.
    lines: RefCell<HashMap<*const u8, Vec<usize>>>,
}

/// How much of a document is computed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Scope {
    /// All of it.
    Everything,
    /// An element and what is around it.
    Around(NodeId),
}

/// Where a declaration stands in a stylesheet.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Place {
    /// The sheet's name.
    pub sheet: String,
    /// The line, from 1.
    pub line: usize,
    /// The column in characters, from 1.
    pub column: usize,
    /// Byte offset in the sheet's text.
    pub offset: u32,
}

/// A declaration with what became of it.
#[derive(Debug, Clone)]
pub struct Said {
    /// Its name in the engine.
    pub id: DeclarationId,
    /// Where it stands; nowhere in the style attribute.
    pub place: Option<Place>,
    /// The selector; `style attribute` or `presentational attributes` there.
    pub selector: String,
    /// The declaration as it is written.
    pub text: String,
    /// Where it comes from.
    pub origin: Origin,
    /// Whether it is important.
    pub important: bool,
    /// The layer's name.
    pub layer: Option<String>,
    /// The selector's specificity.
    pub specificity: Option<Specificity>,
    /// What became of it.
    pub fate: Fate,
    /// The custom properties it reads, one level down, each with its value and its declaration.
    pub reads: Vec<Read>,
}

/// A custom property that a declaration reads.
#[derive(Debug, Clone)]
pub struct Read {
    /// How far it is from the declaration: 1 for what the declaration names itself.
    pub depth: usize,
    /// Its name.
    pub name: String,
    /// Its computed text; `None` for the guaranteed-invalid value.
    pub value: Option<String>,
    /// The declaration that won.
    pub winner: Option<DeclarationId>,
    /// Where that stands.
    pub place: Option<Place>,
}

/// Why a value is what it is.
#[derive(Debug, Clone)]
pub struct Explanation {
    /// The longhand.
    pub longhand: Longhand,
    /// The value as a browser's `getComputedStyle` writes it, or why it is not known.
    pub value: Result<String, Unknown>,
    /// Every declaration that applies, strongest first.
    pub said: Vec<Said>,
    /// The ancestor, by steps up the tree, whose value is inherited; nothing where a declaration won or the value is initial.
    pub inherited: Option<usize>,
}

impl<'i> Inspector<'i> {
    /// Computes a document under browser defaults and author sheets, in order.
    pub fn new(
        document: &'i Document,
        browser: &'i SourceSheet,
        authors: Vec<&'i SourceSheet>,
        media: Media,
        forced: &Forced,
    ) -> Inspector<'i> {
        Inspector::with(Engine::new, Scope::Everything, document, browser, authors, media, forced)
    }

    /// The same for one element alone: nothing is computed that its values do not depend on.
    pub fn of_element(
        document: &'i Document,
        node: NodeId,
        browser: &'i SourceSheet,
        authors: Vec<&'i SourceSheet>,
        media: Media,
        forced: &Forced,
    ) -> Inspector<'i> {
        Inspector::with(Engine::new, Scope::Around(node), document, browser, authors, media, forced)
    }

    /// The same for a piece of some page: what a page's own containers decide is unknown.
    pub fn of_fragment(
        document: &'i Document,
        browser: &'i SourceSheet,
        authors: Vec<&'i SourceSheet>,
        media: Media,
        forced: &Forced,
    ) -> Inspector<'i> {
        Inspector::with(Engine::for_fragments, Scope::Everything, document, browser, authors, media, forced)
    }

    fn with(
        engine: fn(&Stylesheet, &[&Stylesheet], Media) -> Engine,
        scope: Scope,
        document: &'i Document,
        browser: &'i SourceSheet,
        authors: Vec<&'i SourceSheet>,
        media: Media,
        forced: &Forced,
    ) -> Inspector<'i> {
        let parsed: Vec<&Stylesheet> = authors.iter().map(|sheet| &*sheet.parsed).collect();
        let engine = engine(&browser.parsed, &parsed, media.clone());
        let styles = match scope {
            Scope::Everything => engine.styles(document, forced),
            Scope::Around(node) => {
                let mut path: Vec<NodeId> = document.around(node).collect();
                path.reverse();
                engine.styles_of(document, &engine.matches_of(document, forced, path), Styles::default())
            }
        };
        let sheets = std::iter::once(browser).chain(authors).collect();
        Inspector { document, sheets, engine, styles, media, forced: forced.clone(), lines: RefCell::default() }
    }

    /// The style of an element or of one of its pseudo-elements, be it that no rule speaks of it.
    pub fn style(&self, styled: Styled) -> Option<Rc<Style>> {
        let own = self.styles.element(styled.node)?;
        match styled.pseudo {
            None => Some(Rc::clone(own)),
            Some(pseudo) => match self.styles.of(styled) {
                Some(style) => Some(Rc::clone(style)),
                None => Some(Rc::new(self.engine.unstyled(own, pseudo))),
            },
        }
    }

    /// The same page under other defaults: a longhand of one element or pseudo-element.
    ///
    /// # Errors
    /// The reason why it is not known.
    pub fn value_under(&self, browser: &SourceSheet, styled: Styled, longhand: Longhand) -> Result<String, Unknown> {
        let authors = self.sheets[1..].to_vec();
        let scope = Scope::Around(styled.node);
        let other =
            Inspector::with(Engine::new, scope, self.document, browser, authors, self.media.clone(), &self.forced);
        let style = other.style(styled).ok_or(Unknown("it has no style"))?;
        resolved(&style, longhand)
    }

    /// Explains one longhand of a style.
    pub fn explain(&self, style: &Style, longhand: Longhand) -> Explanation {
        let candidates = style.candidates(longhand);
        let decided = |c: &Candidate| matches!(c.fate, Fate::Won | Fate::Undecided(_));
        let mut inherited = None;
        if !candidates.iter().any(decided) && longhand.inherited() {
            let mut at = style.parent().map(Rc::as_ref);
            let mut steps = 1;
            while let Some(above) = at {
                if above.candidates(longhand).iter().any(decided) {
                    inherited = Some(steps);
                    break;
                }
                at = above.parent().map(Rc::as_ref);
                steps += 1;
            }
        }
        let said = candidates.into_iter().map(|candidate| self.said(style, candidate)).collect();
        Explanation { longhand, value: resolved(style, longhand), said, inherited }
    }

    fn said(&self, style: &Style, candidate: Candidate) -> Said {
        let Candidate { id, origin, important, specificity, fate } = candidate;
        let rule = self.rule(id);
        let place = self.place(id);
        let text = match (&place, rule) {
            (Some(place), Some((sheet, rule))) => declaration_text(sheet.file(rule.file).1, place.offset),
            _ => style.attribute_text(id).map_or_else(String::new, |(text, offset)| declaration_text(text, offset)),
        };
        let reads = match rule.and_then(|(_, rule)| rule.declarations.get(id.declaration)) {
            Some(declaration) if fate == Fate::Won || fate == Fate::Invalid => {
                let mut reads = Vec::new();
                if let DeclarationBody::Property(parsed) = &declaration.body
                    && let crate::css::Declared::Pending(pending) = &parsed.declared
                {
                    self.reads(style, pending, 1, &mut reads);
                }
                reads
            }
            _ => Vec::new(),
        };
        Said {
            id,
            selector: match rule {
                Some((_, rule)) => rule.selector_text(),
                None if id.is_inline() => "style attribute".to_owned(),
                None => "presentational attributes".to_owned(),
            },
            layer: rule.and_then(|(_, rule)| Some(self.engine.layer_name(id.sheet, rule.layer?))),
            place,
            text,
            origin,
            important,
            specificity,
            fate,
            reads,
        }
    }

    /// What a text reads, and what that reads in turn.
    fn reads(&self, style: &Style, text: &str, depth: usize, list: &mut Vec<Read>) {
        // Chains of custom properties are short; the bound is against cycles, and for the reader's sake.
        if depth > 12 || list.len() > 40 {
            return;
        }
        for name in Template::new(text).references() {
            let custom = style.custom(name);
            let winner = custom.as_ref().and_then(|custom| custom.winner);
            let value = custom.and_then(|custom| custom.text).map(|text| text.trim().to_owned());
            let place = winner.and_then(|id| self.place(id));
            if list.iter().any(|read| *read.name == *name.text) {
                continue;
            }
            list.push(Read { depth, name: name.text.to_string(), value, winner, place });
            if let Some(next) = winner.and_then(|id| self.body(id)) {
                self.reads(style, &next, depth + 1, list);
            }
        }
    }

    /// A custom property's value and the declaration that won.
    pub fn custom(&self, style: &Style, name: &str) -> Read {
        let custom = style.custom(&CustomName::new(name));
        let winner = custom.as_ref().and_then(|custom| custom.winner);
        Read {
            depth: 0,
            name: name.to_owned(),
            value: custom.and_then(|custom| custom.text).map(|text| text.trim().to_owned()),
            winner,
            place: winner.and_then(|id| self.place(id)),
        }
    }

    fn body(&self, id: DeclarationId) -> Option<String> {
        match &self.rule(id)?.1.declarations.get(id.declaration)?.body {
            DeclarationBody::Custom(_, text) => Some(text.to_string()),
            DeclarationBody::Property(_) => None,
        }
    }

    fn rule(&self, id: DeclarationId) -> Option<(&'i SourceSheet, &'i crate::cascade::stylesheet::StyleRule)> {
        if id.is_of_attributes() {
            return None;
        }
        let sheet = self.sheets.get(usize::from(id.sheet)).copied()?;
        Some((sheet, sheet.parsed.rules.get(id.rule as usize)?))
    }

    /// Where a declaration stands.
    pub fn place(&self, id: DeclarationId) -> Option<Place> {
        let (sheet, rule) = self.rule(id)?;
        let offset = rule.declarations.get(id.declaration)?.offset;
        let (name, text) = sheet.file(rule.file);
        let mut lines = self.lines.borrow_mut();
        let lines = lines.entry(text.as_ptr()).or_insert_with(|| {
            let breaks = text.bytes().enumerate().filter(|(_, byte)| *byte == b'\n');
            std::iter::once(0).chain(breaks.map(|(at, _)| at + 1)).collect()
        });
        let at = (offset as usize).min(text.len());
        let line = lines.partition_point(|start| *start <= at);
        Some(Place {
            sheet: name.to_owned(),
            line,
            column: 1 + String::from_utf8_lossy(&text.as_bytes()[lines[line - 1]..at]).chars().count(),
            offset,
        })
    }
}

/// The declaration that starts at a byte offset, as it is written.
pub fn declaration_text(text: &str, offset: u32) -> String {
    let Some(rest) = text.get(offset as usize..) else { return String::new() };
    let mut depth = 0usize;
    let mut quote = None;
    let mut end = rest.len();
    for (i, c) in rest.char_indices() {
        match (quote, c) {
            (Some(open), c) if c == open => quote = None,
            (Some(_), _) => {}
            (None, '"' | '\'') => quote = Some(c),
            (None, '(' | '[' | '{') => depth += 1,
            (None, ')' | ']') => depth = depth.saturating_sub(1),
            (None, '}') if depth > 0 => depth -= 1,
            (None, ';' | '}') if depth == 0 => {
                end = i;
                break;
            }
            _ => {}
        }
    }
    rest[..end].split_whitespace().collect::<Vec<_>>().join(" ")
}

/// What shows that it has the focus whichever way it came there: whatever one types into (Selectors 4, section 9.4).
const TYPED_INTO: &str = "textarea, :read-write, input:not(:is([type=button i], [type=checkbox i], [type=color i], [type=file i], \
    [type=hidden i], [type=image i], [type=radio i], [type=range i], [type=reset i], [type=submit i]))";

/// Reads states to force: a selector and the states of what it matches, as in `#send:hover:focus-visible`.
///
/// # Errors
/// What is wrong and what to write instead, in one line.
pub fn force(document: &Document, text: &str, forced: &mut Forced) -> Result<(), String> {
    let mut rest = text.trim();
    let mut states = Vec::new();
    while let Some((before, name)) = rest.rsplit_once(':') {
        let Some(state) = PseudoClass::find(name) else { break };
        states.push(state);
        rest = before;
    }
    if states.is_empty() {
        return Err(format!("`{text}` forces no state: write a selector with one, such as `#id:hover`"));
    }
    let list = selector::parse_list(if rest.is_empty() { "*" } else { rest });
    let list = list.ok_or_else(|| format!("`{rest}` is no selector a browser would read"))?;
    let typed_into = selector::parse_list(TYPED_INTO);
    let mut found = false;
    for node in document.descendants(Document::ROOT) {
        if document.element(node).is_none() || !matching::matches(&list, document, node) {
            continue;
        }
        found = true;
        for state in &states {
            forced.add(node, state.clone());
            // The keyboard's place is within everything around it, as a browser's inspector has it too.
            if matches!(state, PseudoClass::Focus | PseudoClass::FocusWithin) {
                let is_focus = *state == PseudoClass::Focus;
                if is_focus && typed_into.as_ref().is_some_and(|list| matching::matches(list, document, node)) {
                    forced.add(node, PseudoClass::FocusVisible);
                }
                let mut at = Some(node);
                while let Some(above) = at {
                    forced.add(above, PseudoClass::FocusWithin);
                    at = document.node(above).parent;
                }
            }
        }
    }
    if found { Ok(()) } else { Err(format!("nothing in the page matches `{rest}`")) }
}

/// The longhands that a property's name stands for: one, those of a shorthand, or none for a name that is not known.
pub fn longhands(name: &str) -> Vec<Longhand> {
    let name = PropertyName::read(&name.to_ascii_lowercase());
    let parsed = crate::css::ParsedDeclaration { name, declared: crate::css::Declared::Values(Vec::new()) };
    let mut list = Vec::new();
    for target in parsed.targets() {
        let longhand = target.physical(crate::css::Flow::LTR);
        if !list.contains(&longhand) {
            list.push(longhand);
        }
    }
    list
}
