//! A control's template as shipped markup: one variant in one state.

use crate::system::states::State;
use crate::system::{Control, Mark, Placement, StateId, StateSet, System, Variant};
use crate::template::Template;
use stilk_engine::cascade::{Forced, PseudoClass};
use stilk_engine::dom::{Document, Element, NodeData, NodeId, is_disableable};

/// A control in a document.
#[derive(Debug, Clone)]
pub struct Mounted {
    /// The outermost element that was mounted: the host, or that of the control around it.
    pub root: NodeId,
    /// The host.
    pub host: NodeId,
    /// The element whose native state counts.
    pub bearer: NodeId,
    /// Its parts in document order.
    pub parts: Vec<(String, NodeId)>,
    /// Elements that are placed controls, with the elements that bear their states.
    pub placed: Vec<(NodeId, NodeId)>,
}

impl Mounted {
    /// A control that stands by itself and places no other.
    pub fn alone(host: NodeId, bearer: NodeId, parts: Vec<(String, NodeId)>) -> Mounted {
        Mounted { root: host, host, bearer, parts, placed: Vec::new() }
    }

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
    /// Whether elements that a page may leave out are left out.
    pub plain: bool,
}

/// The same as [`mount`] where the control stands: one that stands only inside of others in the first of them, at its first place
/// there.
pub fn mount_in_place(
    system: &System,
    request: Request,
    document: &mut Document,
    parent: NodeId,
    forced: &mut Forced,
) -> Mounted {
    match around(system, request.control) {
        Some(outer) => mount_inside(system, outer, request, document, parent, forced),
        None => mount(system, request, document, parent, forced),
    }
}

/// The control in which the cases of another stand.
pub fn around<'s>(system: &'s System, control: &Control) -> Option<&'s Control> {
    system.control(control.inside.first()?.as_str())
}

/// The states in which a control is open, itself and its parts, where its sheet speaks of that.
fn opened(control: &Control) -> StateSet {
    let mut open = StateSet::default();
    for rule in &control.rules {
        if rule.states.has(StateId::Open) {
            open = open.union(&StateSet::of([StateId::Open]));
        }
        for (_, part) in rule.states.of_parts().iter().filter(|(id, _)| *id == StateId::Open) {
            let part = if part == "&" { rule.target.part.clone().unwrap_or_default() } else { part.clone() };
            open = open.with_part(StateId::Open, part);
        }
    }
    open
}

/// The plainest variant of a control, on the first host that has it, open where it can be opened, with another control in it.
fn mount_inside(
    system: &System,
    outer: &Control,
    request: Request,
    document: &mut Document,
    parent: NodeId,
    forced: &mut Forced,
) -> Mounted {
    let rest = StateSet::default();
    let expand = |exactly: bool, host: usize, variant: &Variant, document: &mut Document, parent: NodeId| {
        let at = Request { control: outer, host, variant, states: &rest, plain: request.plain };
        let subject = Some(Subject { request, exactly, mounted: None });
        let mut expander = Expander { subject, ..Expander::new(system, at, document, None) };
        let root = expander.copy(outer.template.hosts[host].node, parent)?;
        let around = Mounted {
            root,
            host: root,
            bearer: expander.bearer.unwrap_or(root),
            parts: expander.parts,
            placed: expander.placed,
        };
        let subject = expander.subject?.mounted?;
        Some((around, Mounted { root, ..subject }))
    };
    // What a variant leaves out is in another one; a host that is placed nowhere stands where another does.
    let places = [true, false].into_iter().flat_map(|exactly| {
        (0..outer.template.hosts.len()).flat_map(move |host| {
            let variants = std::iter::once(outer.default_variant()).chain(outer.variants_near(host));
            variants.map(move |variant| (exactly, host, variant))
        })
    });
    let mut places = places.into_iter();
    let is_there = |(exactly, host, variant): &(bool, usize, Variant)| {
        expand(*exactly, *host, variant, &mut Document::new(), Document::ROOT).is_some()
    };
    let place = places.find(is_there);
    let mounted = place.and_then(|(exactly, host, variant)| expand(exactly, host, &variant, document, parent));
    match mounted {
        Some((around, mounted)) => {
            // What is shut shows nothing of what is in it.
            apply_states(system, &opened(outer), document, &around, forced);
            apply_states(system, request.states, document, &mounted, forced);
            // A pointer over it is over what it stands in, and so on.
            let own = request.states.ids().iter().chain(request.states.of_parts().iter().map(|(id, _)| id));
            for class in own.filter_map(|id| shown_around(*id)) {
                let mut at = document.node(mounted.host).parent.filter(|_| mounted.host != mounted.root);
                while let Some(outer) = at {
                    forced.add(outer, class.clone());
                    at = document.node(outer).parent.filter(|_| outer != mounted.root);
                }
            }
            mounted
        }
        None => mount(system, request, document, parent, forced),
    }
}

/// Puts a variant into a document, with the attributes of its lasting states. Interaction states go to `forced`.
pub fn mount(
    system: &System,
    request: Request,
    document: &mut Document,
    parent: NodeId,
    forced: &mut Forced,
) -> Mounted {
    let host = &request.control.template.hosts[request.host];
    let mut expander = Expander::new(system, request, document, None);
    let node = expander.copy(host.node, parent).unwrap_or(parent);
    let mounted = Mounted {
        root: node,
        host: node,
        bearer: expander.bearer.unwrap_or(node),
        parts: expander.parts,
        placed: expander.placed,
    };
    apply_states(system, request.states, document, &mounted, forced);
    mounted
}

/// The HTML of a variant in a state, ready to paste: with ids that begin with `id`, and values of their own for radios.
pub fn snippet(system: &System, request: Request, id: &str) -> String {
    let mut document = Document::new();
    let mounted = mount(system, request, &mut document, Document::ROOT, &mut Forced::default());
    own_ids(system, &mut document, mounted.host, id);
    own_values(&mut document, mounted.host);
    indent(&mut document, mounted.host);
    document.to_html(mounted.host)
}

/// The HTML of a host with every element that some variant has: those that exist in some options only keep `data-when`, and no
/// option is chosen. A page takes variants from it by leaving elements out and adding classes.
pub fn every_element(system: &System, control: &Control, host: usize, id: &str) -> String {
    let mut document = Document::new();
    let (variant, states) = (control.default_variant(), StateSet::default());
    let request = Request { control, host, variant: &variant, states: &states, plain: false };
    let mut expander = Expander { every: true, ..Expander::new(system, request, &mut document, None) };
    let node = expander.copy(control.template.hosts[host].node, Document::ROOT).unwrap_or(Document::ROOT);
    own_ids(system, &mut document, node, id);
    own_values(&mut document, node);
    indent(&mut document, node);
    document.to_html(node)
}

/// Attributes that hold ids, one or several.
pub const REFERENCES: [&str; 9] = [
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

/// Makes ids of a snippet its own: every id and whatever refers to one begins with `prefix`. An id by which a sheet knows a
/// control stays.
pub fn own_ids(system: &System, document: &mut Document, root: NodeId, prefix: &str) {
    let nodes = document.descendants(root);
    let ids: Vec<String> =
        nodes.iter().filter_map(|node| document.element(*node)?.attribute("id").map(str::to_owned)).collect();
    let is_mark = |id: &str| {
        let mark = Mark::Id(id.to_owned());
        system.controls.iter().flat_map(Control::marks).any(|known| *known == mark)
    };
    let ids: Vec<String> = ids.into_iter().filter(|id| !is_mark(id)).collect();
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
        // Radios of one name are one group: another copy must be another group.
        if element.attribute("type") == Some("radio")
            && let Some(name) = element.attribute("name").map(|name| format!("{prefix}-{name}"))
        {
            element.set("name", name);
        }
    }
}

/// Gives the radios of each group values of their own, made from their labels, where a template repeats one.
fn own_values(document: &mut Document, root: NodeId) {
    let radios: Vec<NodeId> = document
        .descendants(root)
        .into_iter()
        .filter(|node| document.element(*node).is_some_and(|e| e.attribute("type") == Some("radio")))
        .collect();
    let key = |document: &Document, node: NodeId| {
        let element = document.element(node)?;
        Some((element.attribute("name")?.to_owned(), element.attribute("value").unwrap_or("on").to_owned()))
    };
    let keys: Vec<_> = radios.iter().map(|node| key(document, *node)).collect();
    let mut taken: Vec<(String, String)> = Vec::new();
    for (node, key) in radios.iter().zip(&keys) {
        let Some((name, value)) = key else { continue };
        let repeated = keys.iter().flatten().filter(|(n, v)| n == name && v == value).count() > 1;
        let mut own = if repeated { label_word(document, *node) } else { value.clone() };
        let stem = own.clone();
        let mut number = 2;
        while taken.contains(&(name.clone(), own.clone())) {
            own = format!("{stem}-{number}");
            number += 1;
        }
        taken.push((name.clone(), own.clone()));
        set(document, *node, "value", &own);
    }
}

/// The words of the label around an element, as a value: `Sun deck` is `sun-deck`.
fn label_word(document: &Document, node: NodeId) -> String {
    let mut label = node;
    while let Some(parent) =
        document.node(label).parent.filter(|_| document.element(label).is_none_or(|element| element.local() != "label"))
    {
        label = parent;
    }
    let mut text = String::new();
    for node in document.descendants(label) {
        if let NodeData::Text(words) = &document.node(node).data {
            text.push_str(words);
        }
    }
    let words: Vec<String> =
        text.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()).map(str::to_lowercase).collect();
    if words.is_empty() { "on".to_owned() } else { words.join("-") }
}

/// Puts line breaks where templates have them and indents by depth: elements that are not there and controls that were
/// placed leave white space of their own templates behind.
fn indent(document: &mut Document, root: NodeId) {
    indent_below(document, root, 1);
}

fn indent_below(document: &mut Document, node: NodeId, depth: usize) {
    let children = document.node(node).children.clone();
    let mut kept: Vec<NodeId> = Vec::new();
    let break_in = |document: &Document, id: NodeId| match &document.node(id).data {
        NodeData::Text(text) => text.trim().is_empty() && text.contains('\n'),
        _ => false,
    };
    for child in children {
        let follows_break = kept.last().is_some_and(|last| break_in(document, *last));
        if !(follows_break && break_in(document, child)) {
            kept.push(child);
        }
    }
    for (i, child) in kept.iter().enumerate() {
        if break_in(document, *child) {
            let inner = if i + 1 == kept.len() { depth - 1 } else { depth };
            document.set_text(*child, &format!("\n{}", "  ".repeat(inner)));
        } else {
            indent_below(document, *child, depth + 1);
        }
    }
    document.set_children(node, kept);
}

/// In an element that places a control, the native control that this one has itself: `<input type="checkbox">` in a placed
/// label is the label's input, with other attributes.
pub(crate) fn native_of_placed(document: &Document, placed: NodeId, inner: &Control, host: usize) -> Option<NodeId> {
    let host = &inner.template.hosts[host];
    let own = inner.template.document.element(host.bearer).filter(|_| host.bearer != host.node)?;
    let kind = |element: &Element| element.attribute("type").unwrap_or("text").to_ascii_lowercase();
    let is_it = |node: &NodeId| {
        document.element(*node).is_some_and(|element| {
            element.local() == own.local() && (own.local() != "input" || kind(element) == kind(own))
        })
    };
    document.descendants(placed).into_iter().filter(|node| *node != placed).find(is_it)
}

/// Attributes that bring about a state.
const OF_STATES: [&str; 14] = [
    "aria-busy",
    "aria-checked",
    "aria-current",
    "aria-disabled",
    "aria-expanded",
    "aria-invalid",
    "aria-pressed",
    "aria-selected",
    "checked",
    "disabled",
    "open",
    "readonly",
    "required",
    "selected",
];

/// The control that an outer one is mounted for.
struct Subject<'e> {
    request: Request<'e>,
    /// Whether only a place of its own host will do.
    exactly: bool,
    /// Where it came to stand.
    mounted: Option<Mounted>,
}

struct Expander<'e> {
    system: &'e System,
    request: Request<'e>,
    template: &'e Template,
    document: &'e mut Document,
    parts: Vec<(String, NodeId)>,
    bearer: Option<NodeId>,
    placed: Vec<(NodeId, NodeId)>,
    /// For a placed control: what the outer one puts into its slots.
    content: Option<NodeId>,
    /// An element of the template that is the native control of a placed one: it is there already.
    native: Option<NodeId>,
    /// Whether elements of options that are not chosen are there too.
    every: bool,
    /// The control that is looked at, where it stands in this one.
    subject: Option<Subject<'e>>,
}

impl<'e> Expander<'e> {
    fn new(system: &'e System, request: Request<'e>, document: &'e mut Document, content: Option<NodeId>) -> Self {
        let template = &request.control.template;
        let (parts, placed) = Default::default();
        Expander {
            system,
            request,
            template,
            document,
            parts,
            bearer: None,
            placed,
            content,
            native: None,
            every: false,
            subject: None,
        }
    }

    fn copy(&mut self, from: NodeId, parent: NodeId) -> Option<NodeId> {
        if self.native == Some(from) {
            return None;
        }
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
            if self.fill(element.attribute("name").unwrap_or_default(), parent) {
                return None;
            }
            // The fallback stands for what a page puts there.
            for child in &node.children {
                self.copy(*child, parent);
            }
            return None;
        }
        if !self.every && !self.is_present(element) {
            return None;
        }
        if let Some(placement) = self.request.control.placement(from) {
            return self.place(element, from, placement, parent);
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

    /// Puts a placed control where the template has its element.
    fn place(&mut self, element: &Element, from: NodeId, placement: &Placement, parent: NodeId) -> Option<NodeId> {
        let inner = self.system.control(&placement.control)?;
        let content = self.document.create(NodeData::Element(Element::html("div")), None);
        let native = native_of_placed(&self.template.document, from, inner, placement.host);
        let before = std::mem::replace(&mut self.native, native);
        for child in &self.template.document.node(from).children {
            self.copy(*child, content);
        }
        self.native = before;
        let rest = StateSet::default();
        let waiting = self.subject.as_ref().filter(|subject| {
            subject.mounted.is_none()
                && subject.request.control.name.value == inner.name.value
                && (subject.request.host == placement.host || !subject.exactly)
        });
        let subject = waiting.map(|subject| subject.request);
        let request = match subject {
            Some(request) => request,
            None => Request {
                control: inner,
                host: placement.host,
                variant: &placement.variant,
                states: &rest,
                plain: self.request.plain,
            },
        };
        let mut expander = Expander::new(self.system, request, self.document, Some(content));
        let node = expander.copy(inner.template.hosts[request.host].node, parent)?;
        let bearer = expander.bearer.unwrap_or(node);
        if let Some(known) = self.subject.as_mut().filter(|_| subject.is_some()) {
            let (parts, placed) = (std::mem::take(&mut expander.parts), std::mem::take(&mut expander.placed));
            known.mounted = Some(Mounted { root: node, host: node, bearer, parts, placed });
        }
        // What the outer template says of the element replaces what the control's own says.
        // What is said of a native control goes to where its state is.
        const OF_BEARER: [&str; 8] =
            ["checked", "disabled", "name", "value", "required", "readonly", "placeholder", "autocomplete"];
        const OWN: [&str; 6] = ["class", "part", "slot", "data-when", "data-control", "data-options"];
        let outer = &self.template.hosts[self.request.host];
        let parts: Vec<String> =
            outer.parts.iter().filter(|(_, n)| *n == from).map(|(name, _)| name.value.clone()).collect();
        let names = self.system.names();
        // The states of the control that is looked at are those of its case.
        let is_said = |name: &str| subject.is_none() || !OF_STATES.contains(&name);
        if let Some(target) = self.document.element_mut(node) {
            let said = element.attributes.iter().filter(|(name, _)| is_said(&name.local));
            for (name, value) in said.filter(|(name, _)| !OWN.contains(&&*name.local)) {
                if bearer == node || !OF_BEARER.contains(&&*name.local) {
                    target.set(&name.local, value.clone());
                }
            }
            parts.iter().for_each(|part| names.part(&self.request.control.name.value, part).put_on(target));
            if let Some(list) = element.attribute("data-when").filter(|list| self.every && !list.trim().is_empty()) {
                target.set("data-when", list);
            }
        }
        if let Some(target) = self.document.element_mut(bearer).filter(|_| bearer != node) {
            let said = element.attributes.iter().filter(|(name, _)| is_said(&name.local));
            for (name, value) in said.filter(|(name, _)| OF_BEARER.contains(&&*name.local)) {
                target.set(&name.local, value.clone());
            }
        }
        if from == outer.bearer || native == Some(outer.bearer) {
            self.bearer = Some(bearer);
        }
        self.parts.extend(parts.into_iter().map(|part| (part, node)));
        if let Some((native, said)) = native.zip(native.and_then(|native| self.template.document.element(native))) {
            let named = outer.parts.iter().filter(|(_, n)| *n == native).map(|(name, _)| name.value.clone());
            let named: Vec<String> = named.collect();
            if let Some(target) = self.document.element_mut(bearer) {
                let said = said.attributes.iter().filter(|(name, _)| is_said(&name.local));
                for (name, value) in said.filter(|(name, _)| !OWN.contains(&&*name.local)) {
                    target.set(&name.local, value.clone());
                }
                named.iter().for_each(|part| names.part(&self.request.control.name.value, part).put_on(target));
            }
            self.parts.extend(named.into_iter().map(|part| (part, bearer)));
        }
        self.placed.push((node, bearer));
        Some(node)
    }

    /// Moves what the outer control gives to a slot; false where it gives nothing.
    fn fill(&mut self, slot: &str, parent: NodeId) -> bool {
        let Some(content) = self.content else { return false };
        let mut filled = false;
        for child in self.document.node(content).children.clone() {
            let (wanted, blank) = match &self.document.node(child).data {
                NodeData::Element(element) => (element.attribute("slot").unwrap_or_default() == slot, false),
                NodeData::Text(text) => (slot.is_empty(), text.trim().is_empty()),
                NodeData::Document => (false, true),
            };
            if wanted && (filled || !blank) {
                if let Some(element) = self.document.element_mut(child) {
                    element.remove("slot");
                }
                self.document.append(parent, child);
                filled |= !blank;
            }
        }
        filled
    }

    /// `data-when` names the options an element exists in; empty, the page decides, and cases look at it.
    fn is_present(&self, element: &Element) -> bool {
        let Some(list) = element.attribute("data-when") else { return true };
        if list.trim().is_empty() {
            return !self.request.plain;
        }
        list.split_ascii_whitespace()
            .any(|name| self.request.control.find_option(name).is_some_and(|id| self.request.variant.has(id)))
    }

    /// The element as a page has it: classes instead of parts.
    fn shipped(&self, element: &Element, from: NodeId) -> Element {
        let Request { control, host, variant, .. } = self.request;
        let names = self.system.names();
        let host = &self.template.hosts[host];
        let mut shipped = Element::new(element.name.clone(), Vec::new());
        if from == host.node {
            names.control(&control.name.value).put_on(&mut shipped);
            control.spoken_options(variant).for_each(|id| names.option(control, id).put_on(&mut shipped));
        }
        let parts = host.parts.iter().filter(|(_, node)| *node == from);
        parts.for_each(|(name, _)| names.part(&control.name.value, &name.value).put_on(&mut shipped));
        if let Some(own) = element.attribute("class") {
            Mark::Class(own.to_owned()).put_on(&mut shipped);
        }
        for (name, value) in &element.attributes {
            let keeps = self.every && &*name.local == "data-when" && !value.trim().is_empty();
            let is_marked = shipped.attributes.iter().any(|(known, _)| known == name);
            if keeps || !is_marked && !["class", "part", "data-when"].contains(&&*name.local) {
                shipped.attributes.push((name.clone(), value.clone()));
            }
        }
        shipped
    }
}

/// Brings states about on a control in a document: attributes for those that last, forced classes for those of the pointer and
/// the keyboard.
pub fn apply_states(
    system: &System,
    states: &StateSet,
    document: &mut Document,
    mounted: &Mounted,
    forced: &mut Forced,
) {
    for id in states.ids() {
        apply_state(system.states.get(*id), document, mounted, forced);
    }
    for (id, part) in states.of_parts() {
        let state = system.states.get(*id);
        let Some((_, node)) = mounted.parts.iter().find(|(name, _)| name == part) else { continue };
        let bearer = mounted.placed.iter().find(|(placed, _)| placed == node).map_or(*node, |(_, bearer)| *bearer);
        let of_part = Mounted::alone(*node, bearer, Vec::new());
        apply_state(state, document, &of_part, forced);
        // A pointer over a part is over everything around it, and focus in it is within everything around it.
        let Some(around) = shown_around(*id) else { continue };
        let mut at = document.node(*node).parent.filter(|_| *node != mounted.host);
        while let Some(outer) = at {
            forced.add(outer, around.clone());
            at = if outer == mounted.host { None } else { document.node(outer).parent };
        }
    }
}

/// The pseudo-class that everything around an element in a state has.
fn shown_around(state: StateId) -> Option<PseudoClass> {
    match state {
        StateId::Hover => Some(PseudoClass::Hover),
        StateId::Active => Some(PseudoClass::Active),
        StateId::Focus | StateId::FocusWithin => Some(PseudoClass::FocusWithin),
        _ => None,
    }
}

/// Brings a state about on the host and the bearer of a control.
fn apply_state(state: &State, document: &mut Document, mounted: &Mounted, forced: &mut Forced) {
    let bearer = mounted.bearer;
    match state.id {
        StateId::Hover => forced.add(mounted.host, PseudoClass::Hover),
        StateId::Active => {
            forced.add(mounted.host, PseudoClass::Active);
            // A press is on something: where a placed control bears the state, on that.
            let placed = mounted.placed.iter().find(|(_, inner)| *inner == bearer).map(|(node, _)| *node);
            let mut at = placed;
            while let Some(node) = at.filter(|node| *node != mounted.host) {
                forced.add(node, PseudoClass::Active);
                at = document.node(node).parent;
            }
        }
        StateId::FocusWithin => forced.add(mounted.host, PseudoClass::FocusWithin),
        StateId::Focus => {
            forced.add(bearer, PseudoClass::Focus);
            forced.add(bearer, PseudoClass::FocusVisible);
            let mut at = Some(bearer);
            while let Some(node) = at.filter(|node| document.element(*node).is_some()) {
                forced.add(node, PseudoClass::FocusWithin);
                at = if node == mounted.host { None } else { document.node(node).parent };
            }
        }
        StateId::Mixed => forced.add(bearer, PseudoClass::Indeterminate),
        StateId::Invalid => set(document, bearer, "aria-invalid", "true"),
        StateId::Empty => match document.element(bearer).map(Element::local) {
            Some("select") => choose_empty(document, bearer),
            _ if document.element(bearer).is_some_and(|e| e.attribute("placeholder").is_some()) => {}
            _ => set(document, bearer, "placeholder", " "),
        },
        StateId::Required => set(document, bearer, "required", ""),
        // Per role the one attribute that it takes (WAI-ARIA 1.2).
        StateId::Selected => match document.element(bearer) {
            Some(e) if matches!(e.attribute("role"), Some("tab" | "option" | "gridcell" | "row" | "treeitem")) => {
                set(document, bearer, "aria-selected", "true");
            }
            Some(e) if e.local() == "a" && e.attribute("role").is_none() => {
                set(document, bearer, "aria-current", "page");
            }
            _ => set(document, bearer, "aria-pressed", "true"),
        },
        // What opens by itself says so by an attribute of its own (HTML 4.11.1, 4.11.4).
        StateId::Open => match document.element(bearer).map(Element::local) {
            Some("details" | "dialog") => set(document, bearer, "open", ""),
            _ => set(document, bearer, "aria-expanded", "true"),
        },
        StateId::Readonly => set(document, bearer, "readonly", ""),
        StateId::Busy => set(document, mounted.host, "aria-busy", "true"),
        StateId::Checked => match document.element(bearer).map(Element::local) {
            Some("input") => set(document, bearer, "checked", ""),
            _ => set(document, bearer, "aria-checked", "true"),
        },
        StateId::Disabled => match document.element(bearer).is_some_and(is_disableable) {
            true => set(document, bearer, "disabled", ""),
            false => set(document, bearer, "aria-disabled", "true"),
        },
        StateId::Own(_) => {
            if let Some((name, value)) = simple_attribute(&state.selectors) {
                set(document, bearer, &name, &value);
            } else if let Some(class) = simple_class(&state.selectors) {
                let own = document.element(bearer).and_then(|element| element.attribute("class")).unwrap_or_default();
                let classes = format!("{own} {class}").trim_start().to_owned();
                set(document, bearer, "class", &classes);
            }
        }
    }
}

/// Chooses a select's empty value, where it has one.
fn choose_empty(document: &mut Document, select: NodeId) {
    let options: Vec<NodeId> = document.child_elements(select).collect();
    for option in options {
        let Some(element) = document.element_mut(option) else { continue };
        match element.attribute("value") {
            Some("") => element.set("selected", ""),
            _ => element.remove("selected"),
        }
    }
}

fn set(document: &mut Document, node: NodeId, name: &str, value: &str) {
    if let Some(element) = document.element_mut(node) {
        element.set(name, value);
    }
}

/// The class that a state of the manifest's own asks for, when its selector is nothing else.
fn simple_class(selectors: &[String]) -> Option<&str> {
    let name = selectors.first()?.strip_prefix('.')?;
    name.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_')).then_some(name)
}

/// The attribute that a state of the manifest's own asks for, when its selector is as plain as `[data-dismissed]`.
fn simple_attribute(selectors: &[String]) -> Option<(String, String)> {
    let inner = selectors.first()?.strip_prefix('[')?.strip_suffix(']')?;
    match inner.split_once('=') {
        None => Some((inner.to_owned(), String::new())),
        Some((name, value)) => Some((name.to_owned(), value.trim_matches(['"', '\'']).to_owned())),
    }
}
