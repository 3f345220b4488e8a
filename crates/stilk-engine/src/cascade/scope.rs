//! `@scope`: rules for what is within a root and not within a limit (CSS Cascade 6, section 2.5).

use super::matching::ElementRef;
use super::selector::{List, One, to_text};
use crate::dom::NodeId;
use std::fmt;
use std::sync::Arc;

/// Where rules of a scope count.
#[derive(Debug)]
pub struct Scope {
    /// What its roots match.
    pub start: List,
    /// What it ends at.
    pub end: Option<List>,
}

impl fmt::Display for Scope {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let text = |list: &List| list.slice().iter().map(to_text).collect::<Vec<_>>().join(", ");
        write!(f, "@scope ({})", text(&self.start))?;
        match &self.end {
            Some(end) => write!(f, " to ({})", text(end)),
            None => Ok(()),
        }
    }
}

/// How many steps an element is from the nearest root of its innermost scope under which a selector matches it or its
/// pseudo-element; nothing where it matches under none.
pub(super) fn proximity(element: &ElementRef, selector: &One, pseudo: bool, scopes: &[Arc<Scope>]) -> Option<u32> {
    within(element, selector, pseudo, scopes, None)
}

fn within(
    element: &ElementRef,
    selector: &One,
    pseudo: bool,
    scopes: &[Arc<Scope>],
    outer: Option<NodeId>,
) -> Option<u32> {
    let (scope, inner) = scopes.split_first()?;
    let mut nearest = None;
    let mut path = Vec::new();
    for (hops, node) in element.document.around(element.node).enumerate() {
        if element.document.element(node).is_none() {
            break;
        }
        path.push(node);
        let is_limit = |root: NodeId, node: NodeId| {
            let matches = |end: &One| element.at(node).matches_under(end, false, Some(root));
            scope.end.as_ref().is_some_and(|end| end.slice().iter().any(matches))
        };
        let is_root = scope.start.slice().iter().any(|start| element.at(node).matches_under(start, false, outer));
        if is_root && !path.iter().any(|on_way| is_limit(node, *on_way)) {
            let found = match inner.is_empty() {
                true => element.matches_under(selector, pseudo, Some(node)).then_some(hops as u32),
                false => within(element, selector, pseudo, inner, Some(node)),
            };
            nearest = match (nearest, found) {
                (Some(one), Some(other)) => Some(u32::min(one, other)),
                (one, other) => one.or(other),
            };
        }
        if outer == Some(node) {
            break;
        }
    }
    nearest
}
