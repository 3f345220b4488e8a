//! What states elements can be in, and which are looked at together.

use std::collections::BTreeSet;
use stilk_engine::dom::{Element, NodeId, is_disableable};

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

/// Whether an element can be in a state that browsers know of (HTML, sections 4.16.3 and 4.10.20; Selectors 4, section 13).
pub fn can_be(element: &Element, state: &str) -> bool {
    match state {
        ":focus" | ":focus-visible" => is_focusable(element),
        ":disabled" | ":enabled" => is_disableable(element),
        ":checked" | ":indeterminate" | ":default" => {
            matches!(element.local(), "input" | "option" | "button" | "progress")
        }
        ":required" | ":optional" | ":placeholder-shown" | ":valid" | ":invalid" | ":user-invalid" | ":in-range"
        | ":out-of-range" => matches!(element.local(), "input" | "select" | "textarea" | "form" | "fieldset"),
        _ => true,
    }
}

/// Whether so many states are looked at at once that no rule asks for together: two, of which a press is one with the pointer
/// that presses, and none that a script brings about by a class: where markup has such a class the others are asked of it.
pub fn may_hold(states: &[(NodeId, String)]) -> bool {
    let names: BTreeSet<&str> = states.iter().map(|(_, state)| state.as_str()).collect();
    let is_pressed = names.contains(":active") && names.contains(":hover");
    names.len() - usize::from(is_pressed) <= 2 && !names.iter().any(|name| name.starts_with('.'))
}
