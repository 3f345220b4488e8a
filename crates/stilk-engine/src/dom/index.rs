//! What is looked up in a document again and again: computed once, forgotten when the document changes.

use super::{Document, Element, NodeId};
use crate::css::property::Longhand;
use crate::css::value::Value;
use rustc_hash::FxHashMap;
use std::sync::OnceLock;

/// Looked-up answers about a document; a copy of the document begins without them.
#[derive(Debug, Default)]
pub(super) struct Index {
    neighbours: OnceLock<Box<[Neighbours]>>,
    forms: OnceLock<Forms>,
    floats: OnceLock<bool>,
    schemes: OnceLock<Schemes>,
}

/// The colour schemes that a page says it is made for.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash)]
pub struct Schemes {
    /// `light`
    pub light: bool,
    /// `dark`
    pub dark: bool,
}

impl Clone for Index {
    fn clone(&self) -> Self {
        Index::default()
    }
}

impl Index {
    pub(super) fn forget(&mut self) {
        self.neighbours.take();
        self.forms.take();
        self.floats.take();
        self.schemes.take();
    }
}

/// The elements beside a node.
#[derive(Debug, Clone, Copy, Default)]
struct Neighbours {
    before: Option<NodeId>,
    after: Option<NodeId>,
    /// How many stand before it.
    place: u32,
}

/// What belongs to the forms of a document.
#[derive(Debug, Default)]
struct Forms {
    /// Radio buttons by form and name, in order.
    groups: FxHashMap<(Option<NodeId>, Box<str>), Vec<NodeId>>,
    /// The first button of each form that sends it.
    senders: FxHashMap<NodeId, NodeId>,
    /// The option that is chosen in each list that takes one only.
    chosen: FxHashMap<NodeId, NodeId>,
}

impl Document {
    /// The element before another among its siblings.
    pub fn element_before(&self, node: NodeId) -> Option<NodeId> {
        self.neighbours(node).before
    }

    /// The element after another among its siblings.
    pub fn element_after(&self, node: NodeId) -> Option<NodeId> {
        self.neighbours(node).after
    }

    /// How many elements stand before an element among its siblings.
    pub fn place_among_elements(&self, node: NodeId) -> u32 {
        self.neighbours(node).place
    }

    fn neighbours(&self, node: NodeId) -> Neighbours {
        let all = self.index.neighbours.get_or_init(|| {
            let mut all = vec![Neighbours::default(); self.len()];
            for parent in 0..self.len() as u32 {
                let mut before: Option<NodeId> = None;
                for (place, child) in self.child_elements(NodeId(parent)).enumerate() {
                    all[child.index()].before = before;
                    all[child.index()].place = place as u32;
                    if let Some(before) = before {
                        all[before.index()].after = Some(child);
                    }
                    before = Some(child);
                }
            }
            all.into()
        });
        all[node.index()]
    }

    /// Whether some element may float because of an attribute.
    pub fn floats_by_attributes(&self) -> bool {
        let has = |element: &Element, name: &str, words: &[&str]| {
            let value = element.attribute(name).map(str::to_ascii_lowercase);
            value.is_some_and(|value| words.iter().any(|word| value.contains(word)))
        };
        let floats = |node: u32| {
            let element = self.element(NodeId(node));
            element.is_some_and(|e| has(e, "style", &["float"]) || has(e, "align", &["left", "right"]))
        };
        *self.index.floats.get_or_init(|| (0..self.len() as u32).any(floats))
    }

    /// The colour schemes that the page says it is made for: of the first `<meta name=color-scheme>` that can be read (HTML,
    /// section 4.2.5.1).
    pub fn schemes(&self) -> Schemes {
        let content = |node: u32| {
            let element = self.element(NodeId(node)).filter(|element| element.local() == "meta")?;
            let is_one = element.attribute("name")?.eq_ignore_ascii_case("color-scheme");
            element.attribute("content").filter(|_| is_one)
        };
        let read = |text: &str| match crate::css::parse::parse_longhand(Longhand::ColorScheme, text).ok()? {
            Value::Words(words) => {
                let has = |scheme: &str| words.iter().any(|word| word.is(scheme));
                Some(Schemes { light: has("light"), dark: has("dark") })
            }
            _ => Some(Schemes::default()),
        };
        let find = || {
            let metas = self.descendants(Document::ROOT).into_iter().map(|node| node.index() as u32);
            metas.filter_map(content).find_map(read).unwrap_or_default()
        };
        *self.index.schemes.get_or_init(find)
    }

    /// The form around an element.
    pub fn form_of(&self, node: NodeId) -> Option<NodeId> {
        let around = std::iter::successors(self.node(node).parent, |node| self.node(*node).parent);
        let mut around = around.filter(|node| self.element(*node).is_some_and(|element| element.local() == "form"));
        around.next()
    }

    /// The radio buttons of a radio button's group, itself among them, in order (HTML, section 4.10.5.1.16).
    pub fn radio_group(&self, node: NodeId) -> &[NodeId] {
        let name = self.element(node).and_then(|element| element.attribute("name")).unwrap_or_default();
        let group = self.forms().groups.get(&(self.form_of(node), name.into()));
        group.map_or(&[], Vec::as_slice)
    }

    /// The first button of a form that sends it (HTML, section 4.10.22.2).
    pub fn default_button(&self, form: NodeId) -> Option<NodeId> {
        self.forms().senders.get(&form).copied()
    }

    /// The option that is chosen in a list that takes one only, before anybody chooses (HTML, section 4.10.7).
    pub fn chosen_option(&self, select: NodeId) -> Option<NodeId> {
        self.forms().chosen.get(&select).copied()
    }

    /// The list that an option stands in, by itself or in a group.
    pub fn list_of(&self, option: NodeId) -> Option<NodeId> {
        let is = |node: NodeId, name: &str| self.element(node).is_some_and(|element| element.local() == name);
        let parent = self.node(option).parent?;
        let list = if is(parent, "optgroup") { self.node(parent).parent? } else { parent };
        is(list, "select").then_some(list)
    }

    fn choose(&self, select: NodeId, element: &Element) -> Option<NodeId> {
        let is_drop_down = element.attribute("size").is_none_or(|size| size.trim() == "1");
        let is = |node: NodeId, name: &str| self.element(node).is_some_and(|element| element.local() == name);
        let has = |node: NodeId, name: &str| self.element(node).is_some_and(|e| e.attribute(name).is_some());
        let mut shown = None;
        let mut chosen = None;
        for child in self.child_elements(select) {
            let group = is(child, "optgroup");
            let inner = self.child_elements(child).filter(|_| group);
            for option in inner.chain((!group).then_some(child)).filter(|node| is(*node, "option")) {
                if has(option, "selected") {
                    chosen = Some(option);
                }
                if shown.is_none() && !has(option, "disabled") && !(group && has(child, "disabled")) {
                    shown = Some(option);
                }
            }
        }
        chosen.or(shown.filter(|_| is_drop_down))
    }

    fn forms(&self) -> &Forms {
        self.index.forms.get_or_init(|| {
            let mut forms = Forms::default();
            // In document order; the form around is handed down, so that depth costs nothing.
            let mut stack = vec![(Document::ROOT, None)];
            while let Some((node, mut form)) = stack.pop() {
                if let Some(element) = self.element(node) {
                    forms.add(node, element, form);
                    if element.local() == "select"
                        && element.attribute("multiple").is_none()
                        && let Some(option) = self.choose(node, element)
                    {
                        forms.chosen.insert(node, option);
                    }
                    if element.local() == "form" {
                        form = Some(node);
                    }
                }
                stack.extend(self.node(node).children.iter().rev().map(|child| (*child, form)));
            }
            forms
        })
    }
}

impl Forms {
    fn add(&mut self, node: NodeId, element: &Element, form: Option<NodeId>) {
        let kind = element.attribute("type").unwrap_or_default();
        let is = |kinds: &[&str]| kinds.iter().any(|known| known.eq_ignore_ascii_case(kind));
        let sends = match element.local() {
            "button" => !is(&["button", "reset"]),
            "input" => is(&["submit", "image"]),
            _ => return,
        };
        if element.local() == "input" && is(&["radio"]) {
            // Without a name each stands alone.
            if let Some(name) = element.attribute("name").filter(|name| !name.is_empty()) {
                self.groups.entry((form, name.into())).or_default().push(node);
            }
        }
        if let (true, Some(form)) = (sends, form) {
            self.senders.entry(form).or_insert(node);
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::dom::{Document, Element};

    #[test]
    fn what_was_looked_up_is_forgotten_when_the_document_changes() {
        let mut document = Document::new();
        let form = document.append_element(Document::ROOT, Element::html("form"));
        let radio = Element::html_with("input", &[("type", "radio"), ("name", "size")]);
        let first = document.append_element(form, radio.clone());
        assert_eq!((document.element_after(first), document.radio_group(first)), (None, &[first][..]));
        let second = document.append_element(form, radio);
        document.append_text(form, "between");
        let send = document.append_element(form, Element::html("button"));
        assert_eq!((document.element_before(second), document.element_after(second)), (Some(first), Some(send)));
        assert_eq!(document.radio_group(second), [first, second]);
        assert_eq!(document.default_button(form), Some(send));
        if let Some(element) = document.element_mut(send) {
            element.set("type", "BUTTON");
        }
        assert_eq!(document.default_button(form), None);
        assert!(!document.floats_by_attributes());
        if let Some(element) = document.element_mut(first) {
            element.set("style", "Float: left");
        }
        assert!(document.floats_by_attributes());
        document.detach(second);
        assert_eq!((document.element_after(first), document.element_before(send)), (Some(send), Some(first)));
    }
}
