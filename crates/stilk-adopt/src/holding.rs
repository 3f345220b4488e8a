//! What states elements can be in, and which are looked at together.

use std::collections::BTreeSet;
use stilk_engine::dom::{Element, NodeId};

/// Whether the focus can be on an element (HTML, section 6.6.2).
pub fn is_focusable(element: &Element) -> bool {
    let has = |name: &str| element.attribute(name).is_some();
    match element.local() {
        "a" | "area" => has("href") || has("tabindex"),
        "button" | "input" | "select" | "textarea" | "summary" | "iframe" | "embed" | "object" => true,
        "audio" | "video" => has("controls") || has("tabindex"),
        _ => has("tabindex") || has("contenteditable"),
    }
}

/// Whether so many states are looked at at once that no rule asks for together: two, of which a press is one with the pointer
/// that presses, and none that a script brings about by a class: where markup has such a class the others are asked of it.
pub fn may_hold(states: &[(NodeId, String)]) -> bool {
    let names: BTreeSet<&str> = states.iter().map(|(_, state)| state.as_str()).collect();
    let is_pressed = names.contains(":active") && names.contains(":hover");
    names.len() - usize::from(is_pressed) <= 2 && !names.iter().any(|name| name.starts_with('.'))
}
