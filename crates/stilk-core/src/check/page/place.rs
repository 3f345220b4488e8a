//! A control in its place on a page: its look in a state, with the page's own rules over it and its background behind.

use crate::case::Look;
use crate::dom::{Document, NodeId};
use crate::engine::Forced;
use crate::markup::Mounted;
use crate::scan::{Instance, Visit};
use std::rc::Rc;

/// The states in which a control is looked at: none, and those that a pointer or the keyboard bring.
pub const STATES: [&[&str]; 4] = [&[], &["hover"], &["focus", "focus-visible"], &["hover", "active"]];

/// A page whose controls are looked at one after the other.
pub struct Places<'v> {
    visit: &'v Visit<'v>,
    document: Rc<Document>,
    surfaces: Rc<[NodeId]>,
}

impl<'v> Places<'v> {
    /// The places of a page.
    pub fn new(visit: &'v Visit<'v>) -> Places<'v> {
        let root = visit.document().child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
        Places { visit, document: Rc::clone(&visit.document), surfaces: Rc::new([root]) }
    }

    /// The look of a control while some states are forced on it; at rest nothing is.
    pub fn look(&self, instance: &Instance, states: &[&'static str]) -> Look {
        let mut forced = Forced::default();
        for state in states {
            let is_of_host = ["hover", "active"].contains(state);
            forced.add(if is_of_host { instance.node } else { instance.bearer }, state);
        }
        let styles = match states.is_empty() {
            true => self.visit.styles.clone(),
            false => {
                let matches = self.visit.engine.matches(&self.document, &forced, instance.node);
                let around = self.visit.styles.only(self.visit.above(instance.node));
                self.visit.engine.styles_of(&self.document, &matches, around)
            }
        };
        let mounted =
            Mounted { host: instance.node, bearer: instance.bearer, parts: instance.parts.clone(), placed: Vec::new() };
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

/// Whether a control cannot be used.
pub fn is_disabled(visit: &Visit, instance: &Instance) -> bool {
    [instance.node, instance.bearer].iter().any(|node| {
        visit.attribute(*node, "disabled").is_some() || visit.attribute(*node, "aria-disabled") == Some("true")
    })
}
