//! Controls of a page that are none of the system's: native ones, and what a role makes one.

use crate::visit::instance::Instance;
use std::collections::HashSet;
use stilk_engine::dom::{Document, Element, NodeId};

/// What WAI-ARIA calls a widget that people press, fill in or choose from.
const ROLES: [&str; 13] = [
    "button",
    "checkbox",
    "combobox",
    "listbox",
    "menuitem",
    "menuitemcheckbox",
    "menuitemradio",
    "radio",
    "searchbox",
    "slider",
    "switch",
    "tab",
    "textbox",
];

/// How many there are.
pub fn outside(document: &Document, instances: &[Instance]) -> u64 {
    let of_system: HashSet<NodeId> =
        instances.iter().flat_map(|instance| document.descendants(instance.node)).collect();
    let all = document.descendants(Document::ROOT).into_iter().filter(|node| !of_system.contains(node));
    all.filter_map(|node| document.element(node)).filter(|element| is_control(element)).count() as u64
}

fn is_control(element: &Element) -> bool {
    match element.local() {
        "button" | "select" | "textarea" | "summary" | "meter" | "progress" => true,
        "input" => !element.attribute("type").is_some_and(|kind| kind.eq_ignore_ascii_case("hidden")),
        _ => element
            .attribute("role")
            .and_then(|role| role.split_ascii_whitespace().next())
            .is_some_and(|role| ROLES.contains(&role)),
    }
}
