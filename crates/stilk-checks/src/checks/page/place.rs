//! A control in its place on a page: its look in a state, with the page's own rules over it and its background behind.

use crate::visit::VisitedPage;
use crate::visit::instance::Instance;
use rustc_hash::FxHasher;
use std::hash::{Hash, Hasher};
use std::rc::Rc;
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::cascade::stylesheet::StyleRule;
use stilk_engine::cascade::{Forced, PseudoClass, Styles};
use stilk_engine::dom::{Document, NodeId};
use stilk_language::case::Look;
use stilk_language::markup::Mounted;

/// The states in which a control is looked at: none, and those that a pointer or the keyboard bring.
pub const STATES: [&[PseudoClass]; 4] = [
    &[],
    &[PseudoClass::Hover],
    &[PseudoClass::Focus, PseudoClass::FocusVisible],
    &[PseudoClass::Hover, PseudoClass::Active],
];

/// A page whose controls are looked at one after the other.
pub struct Places<'v> {
    visit: &'v VisitedPage<'v>,
    document: Rc<Document>,
    surfaces: Rc<[NodeId]>,
}

impl<'v> Places<'v> {
    /// The places of a page.
    pub fn new(visit: &'v VisitedPage<'v>) -> Places<'v> {
        let root = visit.document().child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
        Places { visit, document: Rc::clone(&visit.document), surfaces: Rc::new([root]) }
    }

    /// The look of a control while some states are forced on it; at rest nothing is.
    pub fn look(&self, instance: &Instance, states: &[PseudoClass]) -> Look {
        let forced = forced(instance, states);
        let styles = match states.is_empty() {
            true => self.visit.styles.clone(),
            false => {
                let matches = self.visit.engine.matches(&self.document, &forced, instance.node);
                let around = self.visit.styles.only(&self.visit.above(instance.node).collect::<Vec<_>>());
                self.visit.engine.styles_of(&self.document, &matches, around)
            }
        };
        self.of(instance, forced, styles)
    }

    /// The same where the device forces its own colours.
    pub fn forced_look(&self, instance: &Instance, states: &[PseudoClass]) -> Look {
        let forced = forced(instance, states);
        let mut nodes: Vec<NodeId> = self.visit.above(instance.node).collect();
        nodes.reverse();
        nodes.extend(self.document.descendants(instance.node));
        let engine = self.visit.forced_engine();
        let matches = engine.matches_of(&self.document, &forced, nodes);
        let styles = engine.styles_of(&self.document, &matches, Styles::default());
        self.of(instance, forced, styles)
    }

    fn of(&self, instance: &Instance, forced: Forced, styles: Styles) -> Look {
        let mounted = Mounted::alone(instance.node, instance.bearer, instance.parts.clone());
        Look::new(Rc::clone(&self.document), Rc::new(mounted), Rc::new(forced), styles, Rc::clone(&self.surfaces))
    }

    /// The elements from the outermost down to one, without the root, whose background is the page's.
    pub fn chain(&self, node: NodeId) -> Vec<NodeId> {
        let mut chain: Vec<NodeId> = std::iter::once(node).chain(self.visit.above(node)).collect();
        chain.retain(|id| self.document.element(*id).is_some() && !self.surfaces.contains(id));
        chain.reverse();
        chain
    }
}

/// States forced on a control: those of the pointer on its host, those of the keyboard on the element that bears them.
fn forced(instance: &Instance, states: &[PseudoClass]) -> Forced {
    let mut forced = Forced::default();
    for state in states {
        let is_of_host = matches!(state, PseudoClass::Hover | PseudoClass::Active);
        forced.add(if is_of_host { instance.node } else { instance.bearer }, state.clone());
    }
    forced
}

/// The same for controls that look the same: to which, in which and around which the same declarations apply. Pages repeat
/// themselves.
pub fn likeness(visit: &VisitedPage, instance: &Instance) -> u64 {
    *visit.likeness.borrow_mut().entry(instance.node).or_insert_with(|| hash(visit, instance))
}

/// The same for elements that stand in the same surroundings: of an element and all around it.
fn surroundings(visit: &VisitedPage, node: NodeId) -> u64 {
    if let Some(known) = visit.surroundings.borrow().get(&node) {
        return *known;
    }
    let mut hasher = FxHasher::default();
    feed(visit, node, &mut hasher);
    if let Some(around) = visit.document().node(node).parent {
        surroundings(visit, around).hash(&mut hasher);
    }
    let found = hasher.finish();
    visit.surroundings.borrow_mut().insert(node, found);
    found
}

fn feed(visit: &VisitedPage, node: NodeId, hasher: &mut FxHasher) {
    visit.local(node).hash(hasher);
    visit.document().has_own_text(node).hash(hasher);
    for name in ["type", "value", "placeholder"] {
        visit.attribute(node, name).hash(hasher);
    }
    for at in visit.styles.boxes(node) {
        at.pseudo.hash(hasher);
        if let Some(style) = visit.styles.of(at) {
            style.feed(hasher);
        }
    }
}

fn hash(visit: &VisitedPage, instance: &Instance) -> u64 {
    let mut hasher = FxHasher::default();
    let document = visit.document();
    if let Some(around) = document.node(instance.node).parent {
        surroundings(visit, around).hash(&mut hasher);
    }
    document.descendants(instance.node).into_iter().for_each(|node| feed(visit, node, &mut hasher));
    // In other states a rule may ask for what stands around.
    let sheets = visit.sheets.iter().filter(|sheet| !sheet.is_system);
    let asking: Vec<&StyleRule> = sheets.flat_map(|sheet| sheet.parsed.rules_of_states_in_place()).collect();
    if !asking.is_empty() {
        let nodes = document.descendants(instance.node);
        for forced in STATES[1..].iter().map(|states| forced(instance, states)) {
            // What a state answers holds for no other.
            let mut caches = MatchingCaches::default();
            for node in nodes.iter().copied().filter(|node| document.element(*node).is_some()) {
                let element = ElementRef { document, node, forced: &forced };
                for rule in &asking {
                    element.matches(&rule.selector, rule.pseudo.is_some(), &mut caches).hash(&mut hasher);
                }
            }
        }
    }
    hasher.finish()
}

/// Whether a control cannot be used.
pub fn is_disabled(visit: &VisitedPage, instance: &Instance) -> bool {
    [instance.node, instance.bearer].iter().any(|node| {
        visit.attribute(*node, "disabled").is_some() || visit.attribute(*node, "aria-disabled") == Some("true")
    })
}
