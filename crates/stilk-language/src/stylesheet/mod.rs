//! Writing the stylesheet: tokens by switches and hooks, scoped resets, and the rules of every control in the layer of
//! their state.
//!
//! Every rule has specificity (0,1,0), with a pseudo-element (0,1,1): the order of classes on an element never matters.
//! Precedence is state first, then place, then source order; layers carry the states.

mod attached;
mod plain;
mod reset_rules;
pub mod resets;
mod selectors;
mod tokens;
pub mod weight;
mod writer;

use crate::manifest::as_identifier;
use crate::system::states::LAYERS;
use crate::system::{Attachment, BoundDeclaration, Control, Names, Rule, StateId, System};
pub use resets::{Reset, resets};
use stilk_text::source::{Sources, Span};
pub use tokens::{Plan, written as written_tokens};
use writer::Writer;

/// A stylesheet as text, and where each declaration came from.
#[derive(Debug)]
pub struct Written {
    /// The CSS.
    pub text: String,
    origins: Vec<(u32, Span)>,
}

impl Written {
    /// Where each declaration came from, by the byte offset at which it starts, in order.
    pub fn origins(&self) -> impl Iterator<Item = (u32, Span)> {
        self.origins.iter().copied()
    }

    /// The source of the declaration that starts at a byte offset of the text.
    pub fn origin(&self, offset: u32) -> Option<Span> {
        let at = self.origins.binary_search_by_key(&offset, |(start, _)| *start).ok()?;
        Some(self.origins[at].1)
    }
}

/// What a stylesheet is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Purpose {
    /// Pages.
    Page,
    /// A specimen: scopes hang on a shadow host, and interaction states on an attribute.
    Specimen,
    /// A control to try in a specimen: scopes hang on a shadow host, all else is as on a page.
    Trial,
}

impl Purpose {
    /// Whether states are the browser's own.
    fn has_real_states(self) -> bool {
        matches!(self, Purpose::Page | Purpose::Trial)
    }
}

/// The attribute by which a specimen shows interaction states: `data-shown="hover"`.
pub const SHOWN: &str = "data-shown";

/// Which part of the stylesheet a file has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Extent {
    /// Everything.
    Whole,
    /// Everything but contexts that are no defaults.
    Common,
    /// One context of one modifier, by index.
    Context(usize, usize),
}

impl Extent {
    fn has_common(self) -> bool {
        !matches!(self, Extent::Context(..))
    }

    fn has_context(self, modifier: usize, context: usize, default: usize) -> bool {
        match self {
            Extent::Whole => true,
            Extent::Common => context == default,
            Extent::Context(m, c) => (m, c) == (modifier, context),
        }
    }
}

/// Writes a system's stylesheet, to be read by people.
pub fn write(system: &System, sources: &Sources, purpose: Purpose) -> Written {
    write_extent(system, sources, purpose, Extent::Whole, false)
}

/// One of the files that a system's stylesheet is written into.
#[derive(Debug)]
pub struct File {
    /// What is added to the name: nothing, or `theme-night` for a context of its own.
    pub suffix: Option<String>,
    /// What is in it.
    pub written: Written,
}

/// Writes a system's stylesheet for pages, into one file or, as the manifest says, one more for each context that is no
/// default. The first has to be loaded first. A compact one has no comments, indents and line breaks.
pub fn write_files(system: &System, sources: &Sources, compact: bool) -> Vec<File> {
    let files = extents(system).into_iter();
    files
        .map(|(suffix, extent)| {
            let written = write_extent(system, sources, Purpose::Page, extent, compact);
            File { suffix, written }
        })
        .collect()
}

/// What the names of the files have that [`write_files`] gives, in order.
pub fn file_suffixes(system: &System) -> Vec<Option<String>> {
    extents(system).into_iter().map(|(suffix, _)| suffix).collect()
}

fn extents(system: &System) -> Vec<(Option<String>, Extent)> {
    if !system.manifest.stylesheet.split {
        return vec![(None, Extent::Whole)];
    }
    let mut extents = vec![(None, Extent::Common)];
    for (m, modifier) in system.tokens.modifiers.iter().enumerate() {
        for (c, context) in modifier.contexts.iter().enumerate().filter(|(c, _)| *c != modifier.default) {
            // A part of a file's name, and of an address in a stylesheet.
            let suffix = as_identifier(&format!("{}-{}", modifier.name.value, context.value));
            extents.push((Some(suffix), Extent::Context(m, c)));
        }
    }
    extents
}

/// What counts only in a document's own stylesheets, never in those of a shadow tree: typed custom properties and fonts.
pub fn document_rules(system: &System, sources: &Sources) -> String {
    let plan = Plan::new(system);
    let mut sheet = SheetWriter::new(system, sources, &plan, Purpose::Specimen, Extent::Whole);
    sheet.document_rules();
    sheet.writer.finish().text
}

fn write_extent(system: &System, sources: &Sources, purpose: Purpose, extent: Extent, compact: bool) -> Written {
    let plan = Plan::new(system);
    let sheet = SheetWriter::new(system, sources, &plan, purpose, extent);
    let mut sheet = SheetWriter { writer: Writer::new(compact), ..sheet };
    sheet.head();
    sheet.section("token", |sheet| tokens::write(sheet));
    if extent.has_common() {
        sheet.section("reset", |sheet| reset_rules::write(sheet));
        sheet.rules();
        sheet.plain_rules();
        if system.manifest.stylesheet.layers {
            attached::write(&mut sheet);
        }
    }
    sheet.writer.finish()
}

/// The stylesheet being written.
struct SheetWriter<'s> {
    system: &'s System,
    sources: &'s Sources,
    purpose: Purpose,
    extent: Extent,
    plan: &'s Plan,
    names: Names<'s>,
    writer: Writer,
}

/// A rule with its control, in writing order.
struct ControlRule<'s> {
    control: &'s Control,
    rule: &'s Rule,
}

impl<'s> SheetWriter<'s> {
    fn new(
        system: &'s System,
        sources: &'s Sources,
        plan: &'s Plan,
        purpose: Purpose,
        extent: Extent,
    ) -> SheetWriter<'s> {
        SheetWriter { system, sources, purpose, extent, plan, names: system.names(), writer: Writer::new(false) }
    }

    fn head(&mut self) {
        let manifest = &self.system.manifest;
        let (name, source) = (&manifest.name.value, crate::manifest::MANIFEST);
        self.writer.comment(&format!("{name}. Written by Stilk from {source}; change the sources, not this file."));
        if manifest.stylesheet.layers {
            self.writer.line(&format!("@layer {} {{ @layer {}; }}", manifest.prefix.value, LAYERS.join(", ")));
        }
    }

    /// Writes what belongs into one layer; nothing when there is nothing.
    fn section(&mut self, layer: &str, write: impl FnOnce(&mut Self)) {
        let mark = self.writer.mark();
        self.writer.blank();
        let layers = self.system.manifest.stylesheet.layers;
        if layers {
            self.writer.open(&format!("@layer {}.{layer}", self.system.manifest.prefix.value));
        } else {
            self.writer.comment(layer);
        }
        let before = self.writer.mark();
        write(self);
        if self.writer.mark() == before {
            self.writer.undo(mark, usize::from(layers));
        } else if layers {
            self.writer.close();
        }
    }

    /// Every rule of every control, weakest first.
    fn sorted(&self) -> Vec<ControlRule<'s>> {
        let system = self.system;
        let mut placed: Vec<ControlRule> = system
            .controls
            .iter()
            .flat_map(|control| control.rules.iter().map(move |rule| ControlRule { control, rule }))
            .collect();
        // A stable sort: source order decides what states and places leave equal. What a box moves from competes with what it
        // moves to, and stands above all of it.
        let key = |p: &ControlRule| {
            (p.rule.is_start(), system.states.precedence(&p.rule.states), p.control.depth, p.rule.place)
        };
        placed.sort_by_cached_key(key);
        placed
    }

    fn rules(&mut self) {
        let system = self.system;
        let placed = self.sorted();
        for layer in LAYERS {
            let of_layer: Vec<&ControlRule> =
                placed.iter().filter(|p| system.states.layer_of(p.rule) == layer).collect();
            if !of_layer.is_empty() {
                self.section(layer, |sheet| of_layer.iter().for_each(|placed| sheet.rule(placed)));
            }
        }
    }

    /// What a control's look is attached to.
    fn attachments(&self, control: &Control) -> impl Iterator<Item = &'s Attachment> {
        let attachments = match self.purpose {
            Purpose::Page => self.system.attachments.as_slice(),
            Purpose::Specimen | Purpose::Trial => &[],
        };
        attachments.iter().filter(|attachment| attachment.control == control.name.value)
    }

    fn rule(&mut self, placed: &ControlRule) {
        let selector = selectors::of_rule(self, placed.control, placed.rule);
        self.rule_as(placed, &selector);
    }

    fn rule_as(&mut self, placed: &ControlRule, selector: &str) {
        let ControlRule { control, rule } = placed;
        let mut conditions: Vec<String> =
            rule.conditions.iter().map(|c| format!("@{} {}", c.kind, c.prelude).trim_end().to_owned()).collect();
        let as_written = self.system.manifest.stylesheet.as_written;
        if self.purpose.has_real_states() && rule.states.names(StateId::Hover) && !as_written.hover {
            conditions.push("@media (hover: hover)".into());
        }
        let own_motion =
            as_written.motion || rule.conditions.iter().any(|c| c.prelude.contains("prefers-reduced-motion"));
        let (motion, still): (Vec<_>, Vec<_>) =
            rule.declarations.iter().partition(|declaration| declaration.is_motion() && !own_motion);
        let described = self.describe(control, rule);
        self.writer.comment(&described);
        if !still.is_empty() {
            self.block(&conditions, selector, control, &still);
        }
        if !motion.is_empty() {
            conditions.push("@media (prefers-reduced-motion: no-preference)".into());
            self.block(&conditions, selector, control, &motion);
        }
    }

    /// How often a class is repeated: layers need no weight.
    fn weight(&self) -> usize {
        let settings = &self.system.manifest.stylesheet;
        if settings.layers { 1 } else { usize::from(settings.weight) }
    }

    fn block(&mut self, conditions: &[String], selector: &str, control: &Control, declarations: &[&BoundDeclaration]) {
        conditions.iter().for_each(|condition| self.writer.open(condition));
        self.writer.open(selector);
        let own = self.system.controls.iter().position(|known| std::ptr::eq(known, control));
        for declaration in declarations {
            let name = match declaration.is_local() {
                true => {
                    let owner = declaration.owner.as_deref().unwrap_or(&control.name.value);
                    self.names.local(owner, &declaration.name.value)
                }
                false => declaration.name.value.clone(),
            };
            let read = |id| match own {
                Some(own) => self.plan.read_in(self.system, own, id),
                None => self.plan.read_anywhere(self.system, id),
            };
            let value =
                declaration.value.write(&mut { read }, &mut |local| self.names.local(&control.name.value, local));
            if name == "user-select" {
                // WebKit knows only its own name.
                self.writer.declaration("-webkit-user-select", &value, Some(declaration.span));
            }
            self.writer.declaration(&name, &value, Some(declaration.span));
        }
        self.writer.close();
        conditions.iter().for_each(|_| self.writer.close());
    }

    /// `button, part label: hover, outline · controls/button.stilk:12`
    fn describe(&self, control: &Control, rule: &Rule) -> String {
        let mut text = control.name.value.clone();
        if let Some(part) = &rule.target.part {
            let before = rule.target.after.as_ref().map(|(other, combinator)| format!("{other} {combinator} "));
            text.push_str(&format!(", part {}{part}", before.unwrap_or_default()));
        }
        text.push_str(&rule.target.pseudo);
        let mut when: Vec<String> = rule.options.iter().map(|id| control.option_name(*id).to_owned()).collect();
        if !rule.states.is_rest() {
            when.push(self.system.states.set_name(&rule.states));
        }
        if !when.is_empty() {
            text.push_str(&format!(": {}", when.join(", ")));
        }
        format!("{text} · {}", self.sources.place(rule.span))
    }
}
