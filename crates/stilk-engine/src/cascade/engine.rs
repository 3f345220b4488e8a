//! The engine: what applies to the elements of a document, and their styles.

use super::layers::LayerId;
use super::matching::{ElementRef, Forced, MatchingCaches};
use super::media::Media;
use super::order::{Matched, Origin, Sheets};
use super::pseudo::{PseudoElement, Styled};
use super::style::Style;
use super::stylesheet::Stylesheet;
use crate::dom::{Document, NodeId};
use rustc_hash::{FxHashMap, FxHasher};
use std::hash::{Hash, Hasher};
use std::rc::Rc;

/// Computes styles from the browser's defaults and author stylesheets, for one set of media features.
#[derive(Clone)]
pub struct Engine {
    sheets: Rc<Sheets>,
}

/// What applies to the elements of a document, without the values that depend on what is around it.
#[derive(Debug, Clone, Default)]
pub struct Matches {
    list: Vec<(Styled, Rc<Matched>)>,
}

/// The styles of a document.
#[derive(Debug, Clone, Default)]
pub struct Styles {
    elements: Vec<Option<Boxes>>,
}

/// The style of an element, and those of its pseudo-elements that some rule styles, in the order of [`PseudoElement::ALL`].
#[derive(Debug, Clone)]
struct Boxes {
    own: Rc<Style>,
    pseudos: Vec<(PseudoElement, Rc<Style>)>,
}

impl Styles {
    /// An element's style.
    pub fn element(&self, node: NodeId) -> Option<&Rc<Style>> {
        self.at(node).map(|boxes| &boxes.own)
    }

    /// A pseudo-element's style; there only where a rule matches it.
    pub fn pseudo(&self, node: NodeId, pseudo: PseudoElement) -> Option<&Rc<Style>> {
        self.at(node)?.pseudos.iter().find(|(known, _)| *known == pseudo).map(|(_, style)| style)
    }

    fn at(&self, node: NodeId) -> Option<&Boxes> {
        self.elements.get(node.index())?.as_ref()
    }

    /// The style of an element or of one of its pseudo-elements.
    pub fn of(&self, styled: Styled) -> Option<&Rc<Style>> {
        match styled.pseudo {
            None => self.element(styled.node),
            Some(pseudo) => self.pseudo(styled.node, pseudo),
        }
    }

    /// An element itself, and those of its pseudo-elements that have a style, in the order of [`PseudoElement::ALL`].
    pub fn boxes(&self, node: NodeId) -> impl Iterator<Item = Styled> {
        let pseudos = self.at(node).into_iter().flat_map(|boxes| &boxes.pseudos);
        std::iter::once(Styled::element(node)).chain(pseudos.map(move |(pseudo, _)| Styled::pseudo(node, *pseudo)))
    }

    /// The styles of some elements with those of their pseudo-elements.
    pub fn only(&self, nodes: &[NodeId]) -> Styles {
        let mut some = Styles::default();
        for node in nodes {
            if let Some(boxes) = self.at(*node) {
                some.set(*node, boxes.clone());
            }
        }
        some
    }

    fn set(&mut self, node: NodeId, boxes: Boxes) {
        if self.elements.len() <= node.index() {
            self.elements.resize(node.index() + 1, None);
        }
        self.elements[node.index()] = Some(boxes);
    }
}

impl Engine {
    /// An engine for a browser's defaults and author sheets, in order.
    pub fn new(browser: &Stylesheet, authors: &[&Stylesheet], media: Media) -> Self {
        let all: Vec<(&Stylesheet, Origin)> =
            std::iter::once((browser, Origin::Browser)).chain(authors.iter().map(|s| (*s, Origin::Author))).collect();
        Engine { sheets: Rc::new(Sheets::new(&all, media)) }
    }

    /// The same for documents that are pieces of some page: what a page's own containers decide is unknown.
    pub fn for_fragments(browser: &Stylesheet, authors: &[&Stylesheet], media: Media) -> Self {
        let mut engine = Engine::new(browser, authors, media);
        // Nobody else has it yet.
        if let Some(sheets) = Rc::get_mut(&mut engine.sheets) {
            sheets.is_fragment = true;
        }
        engine
    }

    /// Computes the style of every element of a document and of its pseudo-elements.
    pub fn styles(&self, document: &Document, forced: &Forced) -> Styles {
        let matches = self.matches(document, forced, Document::ROOT);
        self.styles_of(document, &matches, Styles::default())
    }

    /// The style of a pseudo-element that no rule speaks of: what it inherits, and initial values.
    pub fn unstyled(&self, originating: &Rc<Style>, pseudo: PseudoElement) -> Style {
        Style::new(&self.sheets, &Rc::default(), Some(Rc::clone(originating)), pseudo.is_generated())
    }

    /// A layer's full name on the page.
    pub fn layer_name(&self, sheet: u16, layer: LayerId) -> String {
        self.sheets.layer_name(sheet, layer)
    }

    /// What applies to a node and everything in it.
    pub fn matches(&self, document: &Document, forced: &Forced, root: NodeId) -> Matches {
        self.matches_of(document, forced, document.descendants(root))
    }

    /// What applies to some nodes, each after those around it.
    pub fn matches_of(&self, document: &Document, forced: &Forced, nodes: impl IntoIterator<Item = NodeId>) -> Matches {
        let mut matches = Matches::default();
        let mut caches = MatchingCaches::default();
        for node in nodes {
            if document.element(node).is_none() {
                continue;
            }
            let element = ElementRef { document, node, forced };
            let attributed = self.sheets.attributed(&element);
            let (own, pseudos) = self.sheets.matched(&element, attributed, &mut caches);
            matches.list.push((Styled::element(node), Rc::new(own)));
            let pseudos = pseudos.into_iter().map(|(pseudo, matched)| (Styled::pseudo(node, pseudo), Rc::new(matched)));
            matches.list.extend(pseudos);
        }
        matches
    }

    /// The styles of what was matched, where those of its ancestors are known.
    pub fn styles_of(&self, document: &Document, matches: &Matches, known: Styles) -> Styles {
        let mut styles = known;
        let mut alike = Alike::default();
        for (Styled { node, pseudo }, matched) in &matches.list {
            match pseudo {
                None => {
                    let parent = document.node(*node).parent.and_then(|p| styles.element(p).cloned());
                    let own = alike.style(matched, parent, |matched, parent| {
                        Rc::new(Style::new(&self.sheets, matched, parent, false))
                    });
                    styles.set(*node, Boxes { own, pseudos: Vec::new() });
                }
                Some(pseudo) => {
                    // It comes after its element.
                    let Some(boxes) = styles.elements.get_mut(node.index()).and_then(Option::as_mut) else { continue };
                    let parent = Some(Rc::clone(&boxes.own));
                    let style = Rc::new(Style::new(&self.sheets, matched, parent, pseudo.is_generated()));
                    boxes.pseudos.push((*pseudo, style));
                }
            }
        }
        styles
    }
}

impl Engine {
    /// The styles of what was matched in another state of the document: those to which, and around which, the same applies as
    /// in `rest` are those of `rest`, the very same.
    pub fn styles_beside(&self, document: &Document, matches: &Matches, rest: &Styles) -> Styles {
        let mut styles = Styles::default();
        let mut list = matches.list.iter().peekable();
        while let Some((Styled { node, .. }, matched)) = list.next() {
            let mut pseudos = Vec::new();
            while let Some((at, matched)) = list.next_if(|(at, _)| at.node == *node && at.pseudo.is_some()) {
                pseudos.extend(at.pseudo.map(|pseudo| (pseudo, matched)));
            }
            let parent = document.node(*node).parent.and_then(|parent| styles.element(parent).cloned());
            let known = rest.at(*node);
            let is_same = |style: &Rc<Style>, matched: &Rc<Matched>, parent: Option<&Rc<Style>>| {
                let same_parent = match (&style.parent, parent) {
                    (Some(one), Some(other)) => Rc::ptr_eq(one, other),
                    (None, None) => true,
                    _ => false,
                };
                same_parent && style.matched.is_same(matched)
            };
            let own = match known.filter(|boxes| is_same(&boxes.own, matched, parent.as_ref())) {
                Some(boxes) => Rc::clone(&boxes.own),
                None => Rc::new(Style::new(&self.sheets, matched, parent, false)),
            };
            let of = |pseudo: PseudoElement| {
                let boxes = known.into_iter().flat_map(|boxes| &boxes.pseudos);
                boxes.into_iter().find(|(one, _)| *one == pseudo).map(|(_, style)| style)
            };
            let pseudos = pseudos.into_iter().map(|(pseudo, matched)| {
                let style = match of(pseudo).filter(|style| is_same(style, matched, Some(&own))) {
                    Some(style) => Rc::clone(style),
                    None => Rc::new(Style::new(&self.sheets, matched, Some(Rc::clone(&own)), pseudo.is_generated())),
                };
                (pseudo, style)
            });
            let pseudos = pseudos.collect();
            styles.set(*node, Boxes { own, pseudos });
        }
        styles
    }
}

/// Styles of elements that stand in one place and to which the same applies: they are one.
#[derive(Default)]
struct Alike {
    known: FxHashMap<u64, Vec<Rc<Style>>>,
}

impl Alike {
    fn style(
        &mut self,
        matched: &Rc<Matched>,
        parent: Option<Rc<Style>>,
        make: impl FnOnce(&Rc<Matched>, Option<Rc<Style>>) -> Rc<Style>,
    ) -> Rc<Style> {
        let mut hasher = FxHasher::default();
        parent.as_ref().map(Rc::as_ptr).hash(&mut hasher);
        matched.feed(&mut hasher);
        let known = self.known.entry(hasher.finish()).or_default();
        let same_parent = |style: &Style| match (&style.parent, &parent) {
            (Some(one), Some(other)) => Rc::ptr_eq(one, other),
            (None, None) => true,
            _ => false,
        };
        if let Some(same) = known.iter().find(|style| same_parent(style) && style.matched.is_same(matched)) {
            return Rc::clone(same);
        }
        let style = make(matched, parent);
        known.push(Rc::clone(&style));
        style
    }
}
