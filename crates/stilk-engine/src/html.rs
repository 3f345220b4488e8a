//! HTML into a [`Document`] by the parser of the HTML Standard: the tree builder's sink, and whole pages.
//!
//! The parser reports no byte offsets. Where places are wanted it is fed one tag at a time: whatever it does while it has a
//! piece belongs to that piece.

use crate::dom::{Document, Element, NodeData, NodeId};
use html5ever::interface::{ElementFlags, NodeOrText, QuirksMode, TreeSink};
use html5ever::tendril::{StrTendril, TendrilSink};
use html5ever::tokenizer::TokenizerOpts;
use html5ever::tree_builder::TreeBuilderOpts;
use html5ever::{Attribute, ParseOpts, QualName, local_name, ns};
use std::borrow::Cow;
use std::cell::{Cell, Ref, RefCell};
use std::collections::HashMap;
use std::rc::Rc;
use stilk_text::source::{FileId, Span};

/// Browsers nest elements of a page no deeper than this (Chromium's `kMaximumHTMLParserDOMTreeDepth`).
const MAX_DEPTH: usize = 512;

/// Builds a [`Document`] while the parser runs.
#[derive(Default)]
struct Sink {
    document: RefCell<Document>,
    errors: RefCell<Vec<(Span, String)>>,
    /// The piece of text that the parser has, where places are wanted.
    place: Option<Rc<Cell<Span>>>,
    /// Whether it reads a piece that is source itself, and no page: then mistakes are kept.
    is_source: bool,
    quirks: Cell<bool>,
    /// Contents of `<template>` elements, which are no part of a page.
    templates: RefCell<HashMap<NodeId, NodeId>>,
}

/// What the parser made.
pub struct ParsedHtml {
    /// The tree.
    pub document: Document,
    /// What the parser repaired, with the piece of text it stood in.
    pub errors: Vec<(Span, String)>,
}

impl Sink {
    fn is_page(&self) -> bool {
        !self.is_source
    }

    fn span(&self) -> Option<Span> {
        self.place.as_ref().map(|place| place.get())
    }

    /// Where a child goes: browsers put what is nested too deep beside it.
    fn parent_for(&self, parent: NodeId) -> NodeId {
        if !self.is_page() {
            return parent;
        }
        let document = self.document.borrow();
        let above = || std::iter::successors(Some(parent), |id| document.node(*id).parent);
        // Hardly any page is so deep: counting is all there is to do.
        let depth = above().count();
        if depth <= MAX_DEPTH { parent } else { above().nth(depth - MAX_DEPTH).unwrap_or(parent) }
    }
}

/// Parses a page as browsers do, whatever it holds.
pub fn parse_page(text: &str) -> ParsedHtml {
    html5ever::parse_document(Sink::default(), ParseOpts::default()).one(StrTendril::from(text))
}

/// The same, with the place of every element in a file.
pub fn parse_page_in(file: FileId, text: &str) -> ParsedHtml {
    let place = Rc::new(Cell::new(Span::new(file, 0, 0)));
    let sink = Sink { place: Some(Rc::clone(&place)), ..Sink::default() };
    feed(html5ever::parse_document(sink, ParseOpts::default()), &place, (file, text))
}

/// Parses a text as the content of a `<body>`, with the place of every element in a file and all that the parser repairs.
pub fn parse_content_in(file: FileId, text: &str) -> ParsedHtml {
    let place = Rc::new(Cell::new(Span::new(file, 0, 0)));
    let sink = Sink { place: Some(Rc::clone(&place)), is_source: true, ..Sink::default() };
    let options = ParseOpts {
        tokenizer: TokenizerOpts { exact_errors: true, ..Default::default() },
        tree_builder: TreeBuilderOpts { exact_errors: true, ..Default::default() },
    };
    let context = QualName::new(None, ns!(html), local_name!("body"));
    let parser = html5ever::parse_fragment(sink, options, context, Vec::new(), false);
    let mut parsed = feed(parser, &place, (file, text));
    unwrap_content(&mut parsed.document);
    parsed
}

/// Gives the parser one piece after the other, and says where that is.
fn feed(mut parser: html5ever::Parser<Sink>, place: &Cell<Span>, (file, text): (FileId, &str)) -> ParsedHtml {
    let mut start = 0;
    for end in piece_ends(text) {
        place.set(Span::new(file, start, tag_end(text, start, end)));
        parser.process(StrTendril::from(&text[start..end]));
        start = end;
    }
    parser.finish()
}

/// The fragment parser wraps everything in an `<html>` element; its children are the content.
fn unwrap_content(document: &mut Document) {
    let Some(root) = document.child_elements(Document::ROOT).next() else { return };
    for child in document.node(root).children.clone() {
        document.append(Document::ROOT, child);
    }
    document.detach(root);
}

/// The end of the tag that a piece begins with, or of the piece when it is text.
pub fn tag_end(text: &str, start: usize, end: usize) -> usize {
    if !text[start..].starts_with('<') {
        return end;
    }
    let mut quote = None;
    for (i, c) in text[start..end].char_indices() {
        match (quote, c) {
            (None, '"' | '\'') => quote = Some(c),
            (Some(q), c) if c == q => quote = None,
            (None, '>') => return start + i + 1,
            _ => {}
        }
    }
    end
}

/// Splits before every tag; `<` inside a quoted attribute or a comment starts none.
pub fn piece_ends(text: &str) -> Vec<usize> {
    let mut ends = Vec::new();
    let mut at = 0;
    while at < text.len() {
        let rest = &text[at..];
        let inside = if rest.starts_with("<!--") {
            rest.find("-->").map_or(rest.len(), |i| i + 3)
        } else if rest.starts_with('<') {
            tag_end(text, at, text.len()) - at
        } else {
            0
        };
        let next = rest[inside..].find('<').map_or(text.len(), |i| at + inside + i);
        // A `<` right at the start of text that is no tag must not stop the walk.
        at = if next == at { at + 1 } else { next };
        ends.push(at);
    }
    ends
}

impl TreeSink for Sink {
    type Handle = NodeId;
    type Output = ParsedHtml;
    type ElemName<'a> = Ref<'a, QualName>;

    fn finish(self) -> ParsedHtml {
        let mut document = self.document.into_inner();
        document.quirks = self.quirks.get();
        ParsedHtml { document, errors: self.errors.into_inner() }
    }

    fn parse_error(&self, msg: Cow<'static, str>) {
        // A page may hold any number; nobody reads them.
        if let Some(span) = self.span().filter(|_| self.is_source) {
            self.errors.borrow_mut().push((span, msg.into_owned()));
        }
    }

    fn get_document(&self) -> NodeId {
        Document::ROOT
    }

    fn elem_name<'a>(&'a self, target: &'a NodeId) -> Ref<'a, QualName> {
        Ref::map(self.document.borrow(), |document| match &document.node(*target).data {
            NodeData::Element(element) => &element.name,
            _ => unreachable!("the tree builder asks for the names of elements only"),
        })
    }

    fn create_element(&self, name: QualName, attrs: Vec<Attribute>, flags: ElementFlags) -> NodeId {
        let attributes = attrs.into_iter().map(|a| (a.name, a.value.to_string())).collect();
        let data = NodeData::Element(Element::new(name, attributes));
        let node = self.document.borrow_mut().create(data, self.span());
        if self.is_page() && flags.template {
            let content = self.document.borrow_mut().create(NodeData::Document, None);
            self.templates.borrow_mut().insert(node, content);
        }
        node
    }

    fn create_comment(&self, _text: StrTendril) -> NodeId {
        self.document.borrow_mut().create(NodeData::Text(String::new()), None)
    }

    fn create_pi(&self, _target: StrTendril, _data: StrTendril) -> NodeId {
        self.create_comment(StrTendril::new())
    }

    fn append(&self, parent: &NodeId, child: NodeOrText<NodeId>) {
        let parent = self.parent_for(*parent);
        let mut document = self.document.borrow_mut();
        match child {
            NodeOrText::AppendNode(node) => document.append(parent, node),
            NodeOrText::AppendText(text) => {
                document.append_text(parent, &text);
                if let (Some(last), Some(span)) = (document.node(parent).children.last().copied(), self.span()) {
                    document.node_mut(last).span.get_or_insert(span);
                }
            }
        }
    }

    fn append_based_on_parent_node(&self, element: &NodeId, prev_element: &NodeId, child: NodeOrText<NodeId>) {
        if self.document.borrow().node(*element).parent.is_some() {
            self.append_before_sibling(element, child);
        } else {
            self.append(prev_element, child);
        }
    }

    fn append_doctype_to_document(&self, _name: StrTendril, _public: StrTendril, _system: StrTendril) {}

    fn get_template_contents(&self, target: &NodeId) -> NodeId {
        self.templates.borrow().get(target).copied().unwrap_or(*target)
    }

    fn same_node(&self, x: &NodeId, y: &NodeId) -> bool {
        x == y
    }

    fn set_quirks_mode(&self, mode: QuirksMode) {
        self.quirks.set(mode == QuirksMode::Quirks);
    }

    fn append_before_sibling(&self, sibling: &NodeId, new_node: NodeOrText<NodeId>) {
        let mut document = self.document.borrow_mut();
        let node = match new_node {
            NodeOrText::AppendNode(node) => node,
            NodeOrText::AppendText(text) => document.create(NodeData::Text(text.to_string()), self.span()),
        };
        document.insert_before(*sibling, node);
    }

    fn add_attrs_if_missing(&self, target: &NodeId, attrs: Vec<Attribute>) {
        if let Some(element) = self.document.borrow_mut().element_mut(*target) {
            for attribute in attrs {
                if element.attribute(&attribute.name.local).is_none() {
                    element.set(&attribute.name.local, attribute.value.to_string());
                }
            }
        }
    }

    fn allow_declarative_shadow_roots(&self, _intended_parent: &NodeId) -> bool {
        self.is_page()
    }

    fn attach_declarative_shadow(&self, host: &NodeId, _template: &NodeId, _attributes: &[Attribute]) -> bool {
        self.document.borrow_mut().attach_shadow(*host)
    }

    fn remove_from_parent(&self, target: &NodeId) {
        self.document.borrow_mut().detach(*target);
    }

    fn reparent_children(&self, node: &NodeId, new_parent: &NodeId) {
        let mut document = self.document.borrow_mut();
        for child in document.node(*node).children.clone() {
            document.append(*new_parent, child);
        }
    }
}
