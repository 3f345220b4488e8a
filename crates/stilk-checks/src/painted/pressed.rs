//! Which element of a control is pressed.

use stilk_engine::dom::{Document, NodeId};
use stilk_language::case::Look;

/// What is pressed of a look's control.
pub fn target(look: &Look) -> Option<NodeId> {
    pressed(&look.document, look.mounted.host, look.mounted.bearer)
}

/// What is pressed: the host where it answers itself or is a label, the native control otherwise.
pub fn pressed(document: &Document, host: NodeId, bearer: NodeId) -> Option<NodeId> {
    let local = |node| document.element(node).map_or("", |element| element.local());
    if host == bearer || local(host) == "label" {
        return Some(host);
    }
    let is_native = ["input", "select", "textarea", "button", "a", "summary"].contains(&local(bearer));
    is_native.then_some(bearer)
}
