//! A control's template as shipped markup: one variant in one state.

use crate::dom::{Document, Element, NodeData, NodeId, is_disableable};
use crate::engine::Forced;
use crate::system::states::State;
use crate::system::{Control, StateSet, System, Variant};
use crate::template::Template;

/// A control in a document.
#[derive(Debug, Clone)]
pub struct Mounted {
    /// The host.
    pub host: NodeId,
    /// The element whose native state counts.
    pub bearer: NodeId,
    /// Its parts in document order.
    pub parts: Vec<(String, NodeId)>,
}

impl Mounted {
    /// The host and its parts, with the names that cases give them.
    pub fn elements(&self) -> impl Iterator<Item = (&str, NodeId)> {
        std::iter::once(("", self.host)).chain(self.parts.iter().map(|(name, node)| (name.as_str(), *node)))
    }
}

/// What to expand.
#[derive(Debug, Clone, Copy)]
pub struct Request<'r> {
    /// The control.
    pub control: &'r Control,
    /// Index of the host.
    pub host: usize,
    /// The variant.
    pub variant: &'r Variant,
    /// The states.
    pub states: &'r StateSet,
}

/// Puts a variant into a document, with the attributes of its lasting states. Interaction states go to `forced`.
pub fn mount(
    system: &System,
    request: Request,
    document: &mut Document,
    parent: NodeId,
    forced: &mut Forced,
) -> Mounted {
    let template = &request.control.template;
    let host = &template.hosts[request.host];
    let mut expander = Expander { system, request, template, document, parts: Vec::new(), bearer: None };
    let node = expander.copy(host.node, parent).unwrap_or(parent);
    let mounted = Mounted { host: node, bearer: expander.bearer.unwrap_or(node), parts: expander.parts };
    apply_states(system, request.states, document, &mounted, forced);
    mounted
}

/// Attributes that hold ids, one or several.
const REFERENCES: [&str; 9] = [
    "for",
    "aria-labelledby",
    "aria-describedby",
    "aria-controls",
    "aria-owns",
    "aria-activedescendant",
    "aria-errormessage",
    "list",
    "popovertarget",
];

/// Makes ids of a snippet its own: every id and whatever refers to one begins with `prefix`.
pub fn own_ids(document: &mut Document, root: NodeId, prefix: &str) {
    let nodes = document.descendants(root);
    let ids: Vec<String> =
        nodes.iter().filter_map(|node| document.element(*node)?.attribute("id").map(str::to_owned)).collect();
    for node in nodes {
        let Some(element) = document.element_mut(node) else { continue };
        for name in REFERENCES.iter().chain(&["id"]) {
            let Some(value) = element.attribute(name) else { continue };
            let renamed: Vec<String> = value
                .split_ascii_whitespace()
                .map(|id| if ids.iter().any(|known| known == id) { format!("{prefix}-{id}") } else { id.to_owned() })
                .collect();
            element.set(name, renamed.join(" "));
        }
    }
}

struct Expander<'e> {
    system: &'e System,
    request: Request<'e>,
    template: &'e Template,
    document: &'e mut Document,
    parts: Vec<(String, NodeId)>,
    bearer: Option<NodeId>,
}

impl Expander<'_> {
    fn copy(&mut self, from: NodeId, parent: NodeId) -> Option<NodeId> {
        let node = self.template.document.node(from);
        let element = match &node.data {
            NodeData::Text(text) => {
                self.document.append_text(parent, text);
                return None;
            }
            NodeData::Document => return None,
            NodeData::Element(element) => element,
        };
        if element.local() == "slot" {
            // The fallback stands for what a page puts there.
            for child in &node.children {
                self.copy(*child, parent);
            }
            return None;
        }
        if !self.is_present(element) {
            return None;
        }
        let id = self.document.append_element(parent, self.shipped(element, from));
        let host = &self.template.hosts[self.request.host];
        if from == host.bearer {
            self.bearer = Some(id);
        }
        self.parts.extend(host.parts.iter().filter(|(_, n)| *n == from).map(|(name, _)| (name.value.clone(), id)));
        for child in &node.children {
            self.copy(*child, id);
        }
        Some(id)
    }

    /// `data-when` names the options an element exists in; empty, the page decides, and cases look at it.
    fn is_present(&self, element: &Element) -> bool {
        let Some(list) = element.attribute("data-when") else { return true };
        list.trim().is_empty()
            || list
                .split_ascii_whitespace()
                .any(|name| self.request.control.find_option(name).is_some_and(|id| self.request.variant.has(id)))
    }

    /// The element as a page has it: classes instead of parts.
    fn shipped(&self, element: &Element, from: NodeId) -> Element {
        let Request { control, host, variant, .. } = self.request;
        let names = self.system.names();
        let mut classes = Vec::new();
        let host = &self.template.hosts[host];
        if from == host.node {
            classes.push(names.control(&control.name.value));
            classes.extend(control.spoken_options(variant).map(|id| names.option(control, id)));
        }
        let parts = host.parts.iter().filter(|(_, node)| *node == from);
        classes.extend(parts.map(|(name, _)| names.part(&control.name.value, &name.value)));
        if let Some(own) = element.attribute("class") {
            classes.push(own.to_owned());
        }
        let mut shipped = Element::new(element.name.clone(), Vec::new());
        if !classes.is_empty() {
            shipped.set("class", classes.join(" "));
        }
        for (name, value) in &element.attributes {
            if !["class", "part", "data-when"].contains(&&*name.local) {
                shipped.attributes.push((name.clone(), value.clone()));
            }
        }
        shipped
    }
}

fn apply_states(system: &System, states: &StateSet, document: &mut Document, mounted: &Mounted, forced: &mut Forced) {
    for id in states.ids() {
        apply_state(system.states.get(*id), document, mounted, forced);
    }
    for (id, part) in states.of_parts() {
        let state = system.states.get(*id);
        let Some((_, node)) = mounted.parts.iter().find(|(name, _)| name == part) else { continue };
        // A pointer over a part is over everything around it as well.
        let whole = matches!(state.name.as_str(), "hover" | "active");
        let of_part = Mounted { host: *node, bearer: *node, parts: Vec::new() };
        apply_state(state, document, &of_part, forced);
        let mut at = document.node(*node).parent.filter(|_| whole && *node != mounted.host);
        while let Some(outer) = at {
            forced.add(outer, if state.name == "hover" { "hover" } else { "active" });
            at = if outer == mounted.host { None } else { document.node(outer).parent };
        }
    }
}

/// Brings a state about on the host and the bearer of a control.
fn apply_state(state: &State, document: &mut Document, mounted: &Mounted, forced: &mut Forced) {
    let bearer = mounted.bearer;
    match state.name.as_str() {
        "hover" => forced.add(mounted.host, "hover"),
        "active" => forced.add(mounted.host, "active"),
        "focus-within" => forced.add(mounted.host, "focus-within"),
        "focus" => {
            forced.add(bearer, "focus");
            forced.add(bearer, "focus-visible");
            let mut at = Some(bearer);
            while let Some(node) = at.filter(|node| document.element(*node).is_some()) {
                forced.add(node, "focus-within");
                at = if node == mounted.host { None } else { document.node(node).parent };
            }
        }
        "mixed" => forced.add(bearer, "indeterminate"),
        "invalid" => set(document, bearer, "aria-invalid", "true"),
        "empty" => set(document, bearer, "placeholder", " "),
        "required" => set(document, bearer, "required", ""),
        "selected" => set(document, bearer, "aria-pressed", "true"),
        "open" => set(document, bearer, "aria-expanded", "true"),
        "readonly" => set(document, bearer, "readonly", ""),
        "busy" => set(document, mounted.host, "aria-busy", "true"),
        "checked" => match document.element(bearer).map(Element::local) {
            Some("input") => set(document, bearer, "checked", ""),
            _ => set(document, bearer, "aria-checked", "true"),
        },
        "disabled" => match document.element(bearer).is_some_and(is_disableable) {
            true => set(document, bearer, "disabled", ""),
            false => set(document, bearer, "aria-disabled", "true"),
        },
        _ => {
            if let Some((name, value)) = simple_attribute(&state.selectors) {
                set(document, bearer, &name, &value);
            }
        }
    }
}

fn set(document: &mut Document, node: NodeId, name: &str, value: &str) {
    if let Some(element) = document.element_mut(node) {
        element.set(name, value);
    }
}

/// The attribute that a state of the manifest's own asks for, when its selector is as plain as `[data-dismissed]`.
fn simple_attribute(selectors: &[String]) -> Option<(String, String)> {
    let inner = selectors.first()?.strip_prefix('[')?.strip_suffix(']')?;
    match inner.split_once('=') {
        None => Some((inner.to_owned(), String::new())),
        Some((name, value)) => Some((name.to_owned(), value.trim_matches(['"', '\'']).to_owned())),
    }
}
