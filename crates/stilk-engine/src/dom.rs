//! A small document tree: templates, expanded markup and the engine's cases are all made of it.

mod direction;
mod index;

pub use index::Schemes;

use html5ever::serialize::{Serialize, SerializeOpts, Serializer, TraversalScope};
use html5ever::{LocalName, Namespace, QualName, local_name, ns};
use std::io;
use stilk_text::source::Span;

/// Index of a node in its [`Document`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct NodeId(u32);

impl NodeId {
    /// Its index, from 0 in the order of creation.
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

/// A tree of nodes; node 0 is the document itself.
#[derive(Debug, Clone)]
pub struct Document {
    nodes: Vec<Node>,
    index: index::Index,
    /// Elements with a shadow tree, which is no part of it.
    shadow_hosts: Vec<NodeId>,
    /// Whether it is in quirks mode, in which browsers keep mistakes of the past (Quirks Mode Standard).
    pub quirks: bool,
}

/// One node.
#[derive(Debug, Clone)]
pub struct Node {
    /// The node it is in.
    pub parent: Option<NodeId>,
    /// The nodes in it, in order.
    pub children: Vec<NodeId>,
    /// What it is.
    pub data: NodeData,
    /// Where it was written, for nodes of templates.
    pub span: Option<Span>,
}

/// What a node is.
#[derive(Debug, Clone)]
pub enum NodeData {
    /// The document.
    Document,
    /// An element.
    Element(Element),
    /// Text.
    Text(String),
}

/// An element's name and attributes.
#[derive(Debug, Clone)]
pub struct Element {
    /// Name and namespace.
    pub name: QualName,
    /// Attributes in the order written.
    pub attributes: Vec<(QualName, String)>,
    /// The `class` attribute, split.
    pub classes: Vec<LocalName>,
}

impl Element {
    /// An HTML element without attributes.
    pub fn html(name: &str) -> Element {
        let name = QualName::new(None, ns!(html), LocalName::from(name));
        Element { name, attributes: Vec::new(), classes: Vec::new() }
    }

    /// An HTML element with attributes that have no namespace.
    pub fn html_with(name: &str, attributes: &[(&str, &str)]) -> Element {
        let mut element = Element::html(name);
        for (name, value) in attributes {
            element.set(name, *value);
        }
        element
    }

    /// An element with attributes; classes are split once, here.
    pub fn new(name: QualName, attributes: Vec<(QualName, String)>) -> Element {
        let mut element = Element { name, attributes, classes: Vec::new() };
        element.split_classes();
        element
    }

    /// The local name.
    pub fn local(&self) -> &str {
        &self.name.local
    }

    /// An attribute without namespace.
    pub fn attribute(&self, name: &str) -> Option<&str> {
        self.attributes
            .iter()
            .find(|(known, _)| &*known.local == name && known.ns == ns!())
            .map(|(_, value)| value.as_str())
    }

    /// Sets an attribute without namespace.
    pub fn set(&mut self, name: &str, value: impl Into<String>) {
        let value = value.into();
        match self.attributes.iter_mut().find(|(known, _)| &*known.local == name) {
            Some((_, old)) => *old = value,
            None => self.attributes.push((QualName::new(None, Namespace::default(), LocalName::from(name)), value)),
        }
        if name == "class" {
            self.split_classes();
        }
    }

    /// Takes an attribute away.
    pub fn remove(&mut self, name: &str) {
        self.attributes.retain(|(known, _)| &*known.local != name);
    }

    fn split_classes(&mut self) {
        let text = self.attribute("class").unwrap_or_default();
        self.classes = text.split_ascii_whitespace().map(LocalName::from).collect();
    }
}

impl Default for Document {
    fn default() -> Self {
        Document::new()
    }
}

impl Document {
    /// The document node.
    pub const ROOT: NodeId = NodeId(0);

    /// An empty document.
    pub fn new() -> Document {
        let root = Node { parent: None, children: Vec::new(), data: NodeData::Document, span: None };
        Document { nodes: vec![root], index: index::Index::default(), shadow_hosts: Vec::new(), quirks: false }
    }

    /// The node behind an id.
    pub fn node(&self, id: NodeId) -> &Node {
        &self.nodes[id.0 as usize]
    }

    /// The node behind an id, to change.
    pub fn node_mut(&mut self, id: NodeId) -> &mut Node {
        self.index.forget();
        &mut self.nodes[id.0 as usize]
    }

    /// How many nodes there are.
    pub fn len(&self) -> usize {
        self.nodes.len()
    }

    /// Whether there is nothing but the document node.
    pub fn is_empty(&self) -> bool {
        self.nodes.len() == 1
    }

    /// The element at a node, if it is one.
    pub fn element(&self, id: NodeId) -> Option<&Element> {
        if let NodeData::Element(element) = &self.node(id).data { Some(element) } else { None }
    }

    /// The element at a node, to change.
    pub fn element_mut(&mut self, id: NodeId) -> Option<&mut Element> {
        if let NodeData::Element(element) = &mut self.node_mut(id).data { Some(element) } else { None }
    }

    /// Makes a node that is nowhere yet.
    pub fn create(&mut self, data: NodeData, span: Option<Span>) -> NodeId {
        self.index.forget();
        self.nodes.push(Node { parent: None, children: Vec::new(), data, span });
        NodeId(self.nodes.len() as u32 - 1)
    }

    /// Puts a node at the end of another.
    pub fn append(&mut self, parent: NodeId, child: NodeId) {
        self.detach(child);
        self.node_mut(child).parent = Some(parent);
        self.node_mut(parent).children.push(child);
    }

    /// Makes an element at the end of another node.
    pub fn append_element(&mut self, parent: NodeId, element: Element) -> NodeId {
        let id = self.create(NodeData::Element(element), None);
        self.append(parent, id);
        id
    }

    /// Puts text at the end of a node, joined with text that is there.
    pub fn append_text(&mut self, parent: NodeId, text: &str) {
        if let Some(last) = self.node(parent).children.last().copied()
            && let NodeData::Text(known) = &mut self.node_mut(last).data
        {
            known.push_str(text);
            return;
        }
        let id = self.create(NodeData::Text(text.to_owned()), None);
        self.append(parent, id);
    }

    /// Puts a node before another.
    pub fn insert_before(&mut self, sibling: NodeId, child: NodeId) {
        self.detach(child);
        let Some(parent) = self.node(sibling).parent else { return };
        let children = &mut self.node_mut(parent).children;
        let at = children.iter().position(|id| *id == sibling).unwrap_or(children.len());
        children.insert(at, child);
        self.node_mut(child).parent = Some(parent);
    }

    /// Takes a node out of its parent.
    pub fn detach(&mut self, id: NodeId) {
        if let Some(parent) = self.node_mut(id).parent.take() {
            self.node_mut(parent).children.retain(|child| *child != id);
        }
    }

    /// A node and everything in it, in document order.
    pub fn descendants(&self, root: NodeId) -> Vec<NodeId> {
        let mut list = Vec::new();
        let mut stack = vec![root];
        while let Some(id) = stack.pop() {
            list.push(id);
            stack.extend(self.node(id).children.iter().rev());
        }
        list
    }

    /// Whether a node is another one or stands somewhere in it.
    pub fn is_within(&self, node: NodeId, around: NodeId) -> bool {
        self.around(node).any(|node| node == around)
    }

    /// A node and what it stands in, from the inside out.
    pub fn around(&self, node: NodeId) -> impl Iterator<Item = NodeId> {
        std::iter::successors(Some(node), |node| self.node(*node).parent)
    }

    /// Notes that an element has a shadow tree; says whether it may have one, and has none yet (DOM, section 4.8).
    pub fn attach_shadow(&mut self, host: NodeId) -> bool {
        const NAMES: [&str; 18] = [
            "article",
            "aside",
            "blockquote",
            "body",
            "div",
            "footer",
            "h1",
            "h2",
            "h3",
            "h4",
            "h5",
            "h6",
            "header",
            "main",
            "nav",
            "p",
            "section",
            "span",
        ];
        let may = self.element(host).is_some_and(|e| e.local().contains('-') || NAMES.contains(&e.local()));
        let is_first = may && !self.shadow_hosts.contains(&host);
        if is_first {
            self.shadow_hosts.push(host);
        }
        is_first
    }

    /// Whether a shadow tree has a say in an element: it is a host, or in one.
    pub fn is_of_shadow_host(&self, node: NodeId) -> bool {
        !self.shadow_hosts.is_empty() && self.around(node).any(|around| self.shadow_hosts.contains(&around))
    }

    /// Whether an element is in one that browsers draw by themselves, and that makes nothing, or a thing of its own, of
    /// what is in it: a meter, a player, a canvas, and what a list holds besides options.
    pub fn is_in_drawn(&self, node: NodeId) -> bool {
        let mut is_option = true;
        self.around(node).enumerate().any(|(up, around)| {
            let Some(name) = self.element(around).map(|element| &element.name.local) else { return false };
            let is_drawn = match *name {
                local_name!("select") => !is_option,
                local_name!("progress")
                | local_name!("meter")
                | local_name!("video")
                | local_name!("audio")
                | local_name!("canvas") => true,
                _ => false,
            };
            is_option &= matches!(*name, local_name!("option") | local_name!("optgroup"));
            up > 0 && is_drawn
        })
    }

    /// The elements directly in a node.
    pub fn child_elements(&self, id: NodeId) -> impl DoubleEndedIterator<Item = NodeId> {
        self.node(id).children.iter().copied().filter(|child| self.element(*child).is_some())
    }

    /// Whether an element holds text of its own that is more than white space.
    pub fn has_own_text(&self, id: NodeId) -> bool {
        self.node(id).children.iter().any(|child| match &self.node(*child).data {
            NodeData::Text(text) => !text.trim().is_empty(),
            _ => false,
        })
    }

    /// Replaces a text.
    pub fn set_text(&mut self, id: NodeId, text: &str) {
        if let NodeData::Text(old) = &mut self.node_mut(id).data {
            text.clone_into(old);
        }
    }

    /// Keeps some of a node's children, in the order given.
    pub fn set_children(&mut self, id: NodeId, children: Vec<NodeId>) {
        self.node_mut(id).children = children;
    }

    /// A node as HTML, itself included.
    pub fn to_html(&self, id: NodeId) -> String {
        let mut bytes = Vec::new();
        let options = SerializeOpts { traversal_scope: TraversalScope::IncludeNode, ..Default::default() };
        // Writing to memory does not fail, and the serialiser writes UTF-8.
        let _ = html5ever::serialize(&mut bytes, &Subtree { document: self, root: id }, options);
        String::from_utf8(bytes).unwrap_or_default()
    }
}

struct Subtree<'d> {
    document: &'d Document,
    root: NodeId,
}

impl Subtree<'_> {
    fn is_in_style(&self, parent: Option<NodeId>) -> bool {
        let element = parent.and_then(|parent| self.document.element(parent));
        element.is_some_and(|element| element.name.local == local_name!("style"))
    }
}

impl Serialize for Subtree<'_> {
    fn serialize<S: Serializer>(&self, serializer: &mut S, _scope: TraversalScope) -> io::Result<()> {
        enum Step {
            Open(NodeId),
            Close(QualName),
        }
        let mut stack = vec![Step::Open(self.root)];
        while let Some(step) = stack.pop() {
            match step {
                Step::Close(name) => serializer.end_elem(name)?,
                Step::Open(id) => {
                    let node = self.document.node(id);
                    match &node.data {
                        // Nothing is escaped in a stylesheet: what would end its element is written as CSS has it
                        // (HTML, section 13.1.2.6; CSS Syntax 3, section 2.1).
                        NodeData::Text(text) if self.is_in_style(node.parent) => {
                            serializer.write_text(&text.replace("</", "<\\/"))?;
                        }
                        NodeData::Text(text) => serializer.write_text(text)?,
                        NodeData::Element(element) => {
                            let attributes = element.attributes.iter().map(|(name, value)| (name, value.as_str()));
                            serializer.start_elem(element.name.clone(), attributes)?;
                            stack.push(Step::Close(element.name.clone()));
                        }
                        NodeData::Document => {}
                    }
                    stack.extend(node.children.iter().rev().map(|child| Step::Open(*child)));
                }
            }
        }
        Ok(())
    }
}

/// Whether an element is a control that the `disabled` attribute works on (HTML, section 4.10.19.5).
pub fn is_disableable(element: &Element) -> bool {
    matches!(
        element.name.local,
        local_name!("button")
            | local_name!("input")
            | local_name!("select")
            | local_name!("textarea")
            | local_name!("optgroup")
            | local_name!("option")
            | local_name!("fieldset")
    )
}
