//! The markup of a control in a state, with the elements around it, as a document of its own.

use stilk_engine::dom::{Document, Element, NodeData, NodeId};
use stilk_language::system::{StateSet, System};
use stilk_survey::place::shown;
use stilk_survey::report::LookRecord;
use stilk_survey::site::Site;

/// What classes begin with that stand for states of the pointer and the keyboard; the script writes them into selectors.
const PREFIX: &str = "stilk-is-";

/// The attribute by which the script finds the control.
const SHOWN: &str = "data-stilk-shown";

/// So many siblings of an element are kept, by which selectors may tell its place.
const SIBLINGS: usize = 40;

/// A page with one control on it.
pub fn of(site: &Site, system: &System, look: &LookRecord, states: &StateSet) -> String {
    let whole = shown(&site.document(look.page), system, &look.found, states, PREFIX);
    let mut page = Document::new();
    let mut chain: Vec<NodeId> = whole.around(look.found.host).filter(|node| whole.element(*node).is_some()).collect();
    chain.reverse();
    let mut at = Document::ROOT;
    for (index, node) in chain.iter().enumerate() {
        let is_host = index + 1 == chain.len();
        if index == 1 {
            page.append_element(at, Element::html("head"));
        } else if index > 1 {
            siblings(&whole, *node, &mut page, at);
        }
        if is_host {
            let host = copy(&whole, *node, &mut page, at);
            if let Some(element) = host.and_then(|host| page.element_mut(host)) {
                element.set(SHOWN, "");
            }
        } else if let Some(element) = whole.element(*node) {
            at = page.append_element(at, without_scripts(element));
        }
    }
    let root = page.child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
    page.to_html(root)
}

/// The elements before one, empty and unseen: what tells places apart still does.
fn siblings(whole: &Document, node: NodeId, page: &mut Document, at: NodeId) {
    let mut before: Vec<NodeId> =
        std::iter::successors(whole.element_before(node), |node| whole.element_before(*node)).take(SIBLINGS).collect();
    before.reverse();
    for sibling in before {
        let Some(element) = whole.element(sibling).filter(|element| !is_left_out(element)) else { continue };
        let mut element = without_scripts(element);
        element.set("style", "display: none !important");
        page.append_element(at, element);
    }
}

fn copy(whole: &Document, node: NodeId, page: &mut Document, at: NodeId) -> Option<NodeId> {
    match &whole.node(node).data {
        NodeData::Text(text) => {
            page.append_text(at, text);
            None
        }
        NodeData::Document => None,
        NodeData::Element(element) if is_left_out(element) => None,
        NodeData::Element(element) => {
            let own = page.append_element(at, without_scripts(element));
            for child in whole.node(node).children.clone() {
                copy(whole, child, page, own);
            }
            Some(own)
        }
    }
}

/// Elements that run, load or frame something.
fn is_left_out(element: &Element) -> bool {
    matches!(
        element.local(),
        "script" | "iframe" | "object" | "embed" | "link" | "style" | "meta" | "base" | "frame" | "noscript"
    )
}

/// An element without what runs.
fn without_scripts(element: &Element) -> Element {
    let kept = element.attributes.iter().filter(|(name, value)| {
        let runs = name.local.starts_with("on") || value.trim_start().to_ascii_lowercase().starts_with("javascript:");
        !runs && !matches!(&*name.local, "autofocus" | "srcdoc" | "ping" | "action" | "formaction")
    });
    Element::new(element.name.clone(), kept.cloned().collect())
}
