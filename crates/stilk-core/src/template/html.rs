//! HTML into a [`Document`], with the place of every element.
//!
//! The parser works by the HTML Standard and reports no byte offsets, so it is fed one tag at a time: whatever it does
//! while it has a piece belongs to that piece. Templates are source, not pages: what the parser would repair is an
//! error.

use crate::diagnostic::{Diagnostic, Diagnostics};
use crate::dom::{Document, Element, NodeData, NodeId};
use crate::source::{FileId, Sources, Span};
use html5ever::interface::{ElementFlags, NodeOrText, QuirksMode, TreeSink};
use html5ever::tendril::{StrTendril, TendrilSink};
use html5ever::tokenizer::TokenizerOpts;
use html5ever::tree_builder::TreeBuilderOpts;
use html5ever::{Attribute, ParseOpts, QualName, local_name, ns};
use std::borrow::Cow;
use std::cell::{Cell, Ref, RefCell};
use std::rc::Rc;

/// Elements nested deeper than this are refused.
const MAX_DEPTH: usize = 128;

/// Parses a file as the content of a `<body>`.
pub fn parse(file: FileId, sources: &Sources, diagnostics: &mut Diagnostics) -> Document {
    let text = &sources.file(file).text;
    let place = Rc::new(Cell::new(Span::new(file, 0, 0)));
    let sink = Sink { document: RefCell::new(Document::new()), errors: RefCell::default(), place: Rc::clone(&place) };
    let options = ParseOpts {
        tokenizer: TokenizerOpts { exact_errors: true, ..Default::default() },
        tree_builder: TreeBuilderOpts { exact_errors: true, ..Default::default() },
    };
    let context = QualName::new(None, ns!(html), local_name!("body"));
    let mut parser = html5ever::parse_fragment(sink, options, context, Vec::new(), false);
    let mut start = 0;
    for end in piece_ends(text) {
        place.set(Span::new(file, start, tag_end(text, start, end)));
        parser.process(StrTendril::from(&text[start..end]));
        start = end;
    }
    let (mut document, errors) = parser.finish();
    // An element that is not closed makes later tags look wrong: they are judged once that is mended.
    if check_tags(file, text, diagnostics) {
        for (span, words) in errors {
            diagnostics.push(repair(span, &words, sources));
        }
    }
    unwrap_fragment(&mut document);
    let deep = document.descendants(Document::ROOT).into_iter().find(|id| depth(&document, *id) > MAX_DEPTH);
    if let Some(id) = deep {
        let message = format!("elements are nested deeper than {MAX_DEPTH}");
        diagnostics.push(Diagnostic::error("html/syntax", document.node(id).span, message).mend("use flatter markup"));
        return Document::new();
    }
    document
}

fn depth(document: &Document, id: NodeId) -> usize {
    std::iter::successors(Some(id), |id| document.node(*id).parent).take(MAX_DEPTH + 2).count()
}

fn repair(span: Span, words: &str, sources: &Sources) -> Diagnostic {
    let tag = sources.text(span).to_owned();
    // The parser's words are for its own authors; the tag and the rule are what a person needs.
    let words = words.split(" in state").next().unwrap_or(words).trim_end_matches('.');
    let message = match tag.strip_prefix("</") {
        Some(name) => format!("`</{}>` closes nothing that is open here", name.trim_end_matches('>')),
        None if tag.starts_with('<') => format!("a browser would repair `{}` here", first_line(&tag)),
        None => format!("a browser would repair this: {}", words.to_lowercase()),
    };
    Diagnostic::error("html/syntax", span, message)
        .label("here")
        .mend("close every element in the order it was opened, and nest only what HTML allows")
}

fn first_line(text: &str) -> &str {
    text.lines().next().unwrap_or(text)
}

/// Elements whose end tag HTML lets people leave out, and those that have none.
const NO_END: [&str; 13] =
    ["area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr"];

/// The parser accepts elements that are never closed; in a template that is a mistake. Returns whether all is closed.
fn check_tags(file: FileId, text: &str, diagnostics: &mut Diagnostics) -> bool {
    let mut mistakes = Vec::new();
    let mut open: Vec<(String, Span)> = Vec::new();
    let mut start = 0;
    for end in piece_ends(text) {
        let piece = &text[start..end];
        let span = Span::new(file, start, tag_end(text, start, end));
        start = end;
        if let Some(rest) = piece.strip_prefix("</") {
            let name = tag_name(rest);
            if let Some(at) = open.iter().rposition(|(known, _)| *known == name) {
                for (name, span) in open.drain(at..).skip(1) {
                    mistakes.push(unclosed(&name, span));
                }
            }
        } else if let Some(rest) = piece.strip_prefix('<') {
            let name = tag_name(rest);
            let closed = &text[span.range()];
            if !closed.ends_with('>') {
                mistakes.push(
                    Diagnostic::error("html/syntax", span, format!("the tag `<{name}` is not closed"))
                        .label("no `>`")
                        .mend("write `>` at its end"),
                );
            } else if !name.is_empty() && !NO_END.contains(&name.as_str()) && !closed.ends_with("/>") {
                open.push((name, span));
            }
        }
    }
    mistakes.extend(open.into_iter().map(|(name, span)| unclosed(&name, span)));
    let closed = mistakes.is_empty();
    mistakes.into_iter().for_each(|mistake| diagnostics.push(mistake));
    closed
}

fn unclosed(name: &str, span: Span) -> Diagnostic {
    Diagnostic::error("html/syntax", span, format!("`<{name}>` is never closed"))
        .label("opened here")
        .mend(format!("write `</{name}>` where it ends"))
}

fn tag_name(rest: &str) -> String {
    rest.chars().take_while(|c| c.is_ascii_alphanumeric() || *c == '-').collect::<String>().to_ascii_lowercase()
}

/// The end of the tag that a piece begins with, or of the piece when it is text.
fn tag_end(text: &str, start: usize, end: usize) -> usize {
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
fn piece_ends(text: &str) -> Vec<usize> {
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

/// The fragment parser wraps everything in an `<html>` element; its children are ours.
fn unwrap_fragment(document: &mut Document) {
    let Some(root) = document.child_elements(Document::ROOT).next() else { return };
    for child in document.node(root).children.clone() {
        document.append(Document::ROOT, child);
    }
    document.detach(root);
}

struct Sink {
    document: RefCell<Document>,
    errors: RefCell<Vec<(Span, String)>>,
    place: Rc<Cell<Span>>,
}

impl TreeSink for Sink {
    type Handle = NodeId;
    type Output = (Document, Vec<(Span, String)>);
    type ElemName<'a> = Ref<'a, QualName>;

    fn finish(self) -> Self::Output {
        (self.document.into_inner(), self.errors.into_inner())
    }

    fn parse_error(&self, msg: Cow<'static, str>) {
        self.errors.borrow_mut().push((self.place.get(), msg.into_owned()));
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

    fn create_element(&self, name: QualName, attrs: Vec<Attribute>, _flags: ElementFlags) -> NodeId {
        let attributes = attrs.into_iter().map(|a| (a.name, a.value.to_string())).collect();
        let data = NodeData::Element(Element::new(name, attributes));
        self.document.borrow_mut().create(data, Some(self.place.get()))
    }

    fn create_comment(&self, _text: StrTendril) -> NodeId {
        self.document.borrow_mut().create(NodeData::Text(String::new()), None)
    }

    fn create_pi(&self, _target: StrTendril, _data: StrTendril) -> NodeId {
        self.create_comment(StrTendril::new())
    }

    fn append(&self, parent: &NodeId, child: NodeOrText<NodeId>) {
        let mut document = self.document.borrow_mut();
        match child {
            NodeOrText::AppendNode(node) => document.append(*parent, node),
            NodeOrText::AppendText(text) => {
                document.append_text(*parent, &text);
                let place = self.place.get();
                if let Some(last) = document.node(*parent).children.last().copied() {
                    document.node_mut(last).span.get_or_insert(place);
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
        *target
    }

    fn same_node(&self, x: &NodeId, y: &NodeId) -> bool {
        x == y
    }

    fn set_quirks_mode(&self, _mode: QuirksMode) {}

    fn append_before_sibling(&self, sibling: &NodeId, new_node: NodeOrText<NodeId>) {
        let mut document = self.document.borrow_mut();
        let node = match new_node {
            NodeOrText::AppendNode(node) => node,
            NodeOrText::AppendText(text) => document.create(NodeData::Text(text.to_string()), Some(self.place.get())),
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
