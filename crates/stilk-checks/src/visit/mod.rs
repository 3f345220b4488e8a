//! One page as checks look at it: its document and stylesheets, the controls in it, and what they use.

pub mod classes;
pub mod instance;
pub mod usage;

use crate::visit::classes::Classes;
use crate::visit::instance::Instance;
use rustc_hash::FxHashMap;
use std::cell::{OnceCell, RefCell};
use std::collections::BTreeMap;
use std::rc::Rc;
use std::sync::Arc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::order::DeclarationId;
use stilk_engine::cascade::stylesheet::{Declaration, StyleRule, Stylesheet};
use stilk_engine::cascade::{Engine, Media, Styles};
use stilk_engine::dom::{Document, NodeData, NodeId};
use stilk_engine::page::PageSheet;
use stilk_language::system::System;
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::{FileId, Sources, Span};

/// A stylesheet on a page.
#[derive(Clone)]
pub struct PageStyle {
    /// What it says.
    pub parsed: Arc<Stylesheet>,
    /// Its file among the page's sources: the page itself for what stands in a `<style>`.
    pub file: FileId,
    /// Where its text begins in that file; less than nothing where it was wrapped to be read.
    pub start: i64,
    /// Whether it is the system's own.
    pub is_system: bool,
    /// Whether the page has it; the system's own is taken for granted where a page forgot it.
    pub is_linked: bool,
    /// The length of its text in bytes.
    pub length: usize,
}

/// A page with the system's controls in it.
pub struct VisitedPage<'v> {
    /// The system.
    pub system: &'v System,
    /// Its classes.
    pub classes: &'v Classes,
    /// The page's stylesheets as it names them.
    pub named: &'v [PageSheet],
    /// Its document.
    pub document: Rc<Document>,
    /// All its elements, in document order.
    pub elements: Vec<NodeId>,
    /// The page's own file.
    pub file: FileId,
    /// The page and the stylesheets it uses.
    pub sources: &'v Sources,
    /// Its stylesheets, in the order of the cascade.
    pub sheets: &'v [PageStyle],
    /// The controls in it.
    pub instances: &'v [Instance],
    /// Computes its styles.
    pub engine: &'v Engine,
    /// The same where the device forces its own colours; made when it is asked for.
    pub(super) forced: &'v OnceCell<Engine>,
    /// The control that an element is, by index.
    pub control_at: FxHashMap<NodeId, usize>,
    /// The same figure for elements that stand in the same surroundings.
    pub surroundings: RefCell<FxHashMap<NodeId, u64>>,
    /// What was found of its controls: those with the same figure look the same in every state.
    pub likeness: RefCell<FxHashMap<NodeId, u64>>,
    /// What its controls and the elements around them look like at rest.
    pub styles: &'v Styles,
    /// What they would look like if no stylesheet but the system's was there.
    pub by_system: &'v Styles,
}

impl VisitedPage<'_> {
    /// The document.
    pub fn document(&self) -> &Document {
        &self.document
    }

    /// Whether an element is a control.
    pub fn is_control(&self, node: NodeId) -> bool {
        self.control_at.contains_key(&node)
    }

    /// Computes its styles where the device forces its own colours.
    pub fn forced_engine(&self) -> &Engine {
        self.forced.get_or_init(|| {
            let parsed: Vec<&Stylesheet> = self.sheets.iter().map(|sheet| &*sheet.parsed).collect();
            Engine::new(Browser::Chromium.sheet(), &parsed, Media { forced_colors: true, ..Media::default() })
        })
    }

    /// Where an element's tag stands.
    pub fn span(&self, node: NodeId) -> Option<Span> {
        self.document.node(node).span.filter(|span| span.file == self.file)
    }

    /// An attribute of an element.
    pub fn attribute(&self, node: NodeId, name: &str) -> Option<&str> {
        self.document.element(node)?.attribute(name)
    }

    /// An element's name; nothing for text.
    pub fn local(&self, node: NodeId) -> &str {
        self.document.element(node).map_or("", |element| element.local())
    }

    /// The elements around a node, the innermost first.
    pub fn above(&self, node: NodeId) -> impl Iterator<Item = NodeId> {
        std::iter::successors(self.document.node(node).parent, |id| self.document.node(*id).parent)
    }

    /// All elements, in document order.
    pub fn elements(&self) -> impl Iterator<Item = NodeId> + '_ {
        self.elements.iter().copied()
    }

    /// The text in an element, white space collapsed.
    pub fn text(&self, node: NodeId) -> String {
        let document = self.document();
        let texts = document.descendants(node).into_iter().filter_map(|node| match &document.node(node).data {
            NodeData::Text(text) => Some(text.clone()),
            _ => None,
        });
        texts.collect::<Vec<_>>().join(" ").split_whitespace().collect::<Vec<_>>().join(" ")
    }

    /// The sheet that a declaration is in; nothing for the browser's defaults and attributes.
    pub fn sheet_of(&self, id: DeclarationId) -> Option<&PageStyle> {
        if id.sheet == 0 || id.is_of_attributes() {
            return None;
        }
        self.sheets.get(usize::from(id.sheet) - 1)
    }

    /// Whether a sheet of the cascade, by index, is the system's own.
    pub fn is_of_system(&self, sheet: u16) -> bool {
        let index = usize::from(sheet).checked_sub(1);
        index.and_then(|index| self.sheets.get(index)).is_some_and(|sheet| sheet.is_system)
    }

    /// Whether a declaration of the page is none of the system's.
    pub fn is_foreign(&self, id: DeclarationId) -> bool {
        id.sheet != 0 && !self.is_of_system(id.sheet)
    }

    /// A declaration with its rule.
    pub fn declaration(&self, id: DeclarationId) -> Option<(&StyleRule, &Declaration)> {
        let rule = self.sheet_of(id)?.parsed.rules.get(id.rule as usize)?;
        Some((rule, rule.declarations.get(id.declaration)?))
    }

    /// Where a declaration stands in the page's sources.
    pub fn declaration_span(&self, id: DeclarationId) -> Option<Span> {
        let sheet = self.sheet_of(id)?;
        let (rule, declaration) = self.declaration(id)?;
        // What was imported has no file here.
        if rule.file != 0 {
            return None;
        }
        self.span_in(sheet, declaration.offset)
    }

    /// The path of a stylesheet's file; nothing for what stands in the page itself, which many pages may hold alike.
    pub fn file_of(&self, sheet: &PageStyle) -> &str {
        if sheet.file == self.file { "" } else { &self.sources.file(sheet.file).path }
    }

    /// What makes findings about a declaration one, on whatever page.
    pub fn declaration_cause(&self, id: DeclarationId) -> Option<String> {
        let (sheet, span) = (self.sheet_of(id)?, self.foreign_span(id)?);
        Some(format!("{} {} {}", self.file_of(sheet), id.rule, self.sources.text(span)))
    }

    /// Where a declaration of the page's own stylesheets stands; nothing for those of the system.
    pub fn foreign_span(&self, id: DeclarationId) -> Option<Span> {
        self.sheet_of(id).filter(|sheet| !sheet.is_system)?;
        self.declaration_span(id)
    }

    /// A place in a sheet's text, up to the end of the declaration there.
    pub fn span_in(&self, sheet: &PageStyle, offset: u32) -> Option<Span> {
        let start = usize::try_from(sheet.start + i64::from(offset)).ok()?;
        let text = &self.sources.file(sheet.file).text;
        let rest = text.get(start..)?;
        let end = rest.find([';', '}', '\n']).unwrap_or(rest.len());
        Some(Span::new(sheet.file, start, start + rest[..end].trim_end().len()))
    }
}

/// What checks say of a page.
#[derive(Default)]
pub struct PageSink {
    /// Findings, each with what makes it one with others.
    pub found: Vec<(String, Diagnostic)>,
    /// How much each check decided.
    pub decided: BTreeMap<&'static str, u64>,
    /// How much it could not decide, and why.
    pub reasons: BTreeMap<(&'static str, &'static str), u64>,
}

impl PageSink {
    /// Something is wrong; findings with the same cause, on whatever page, are one.
    pub fn find(&mut self, cause: impl Into<String>, diagnostic: Diagnostic) {
        self.found.push((cause.into(), diagnostic));
    }

    /// So many things were looked at.
    pub fn decided(&mut self, check: &'static str, count: u64) {
        *self.decided.entry(check).or_default() += count;
    }

    /// So many could not be decided.
    pub fn unknown(&mut self, check: &'static str, count: u64, reason: stilk_engine::css::Unknown) {
        *self.reasons.entry((check, reason.0)).or_default() += count;
    }
}
