//! The checked system: names bound, types known, no cycles. Later stages never validate again.

mod attachment;
mod bind;
mod names;
pub mod notation;
pub mod rule;
pub mod space;
pub mod states;
mod values;
pub mod variant;

use crate::manifest::{Manifest, OwnState};
pub use crate::mark::Mark;
use crate::system::notation::Cases;
use crate::template::Template;
use crate::tokens::{Expression, Modifier, TokenId, Tokens};
pub use attachment::Attachment;
pub use bind::{bind, pseudo_elements};
pub use names::Names;
pub use rule::{BoundDeclaration, Place, Rule, RuleTarget};
pub use space::VariantSpace;
pub use states::{StateId, StateSet, States};
use stilk_engine::dom::NodeId;
use stilk_text::source::{Name, Span};
pub use variant::{Axis, Exclude, OptionId, Variant};

/// A system of controls, bound and checked.
#[derive(Debug)]
pub struct System {
    /// What the manifest says.
    pub manifest: Manifest,
    /// Tokens, derived ones included.
    pub tokens: Tokens,
    /// The states that sheets may name.
    pub states: States,
    /// The controls, by name.
    pub controls: Vec<Control>,
    /// `@keyframes`.
    pub keyframes: Vec<Keyframes>,
    /// `@font-face`.
    pub font_faces: Vec<FontFace>,
    /// `@property` outside of controls: names as they are written.
    pub registered: Vec<Registered>,
    /// `@attach`.
    pub attachments: Vec<Attachment>,
    /// What controls may lie on.
    pub surfaces: Vec<(String, TokenId)>,
}

/// A control.
#[derive(Debug)]
pub struct Control {
    /// Its name.
    pub name: Name,
    /// Its template.
    pub template: Template,
    /// What marks it on pages, where that is not the class by the manifest's pattern.
    pub mark: Option<Mark>,
    /// What marks its parts, of those that have a mark of their own.
    pub part_marks: Vec<(String, Mark)>,
    /// The controls outside of which it never stands: its cases stand in the first of them. None where it stands anywhere.
    pub inside: Vec<Name>,
    /// Its axes in order; an `@option` is an axis with one optional choice.
    pub axes: Vec<Axis>,
    /// Variants that do not exist.
    pub excludes: Vec<Exclude>,
    /// Other controls that stand in its template, by their element there.
    pub placements: Vec<Placement>,
    /// How deep controls are placed in it: 0 where none is.
    pub depth: usize,
    /// Its rules, flattened, in the order of the sheets.
    pub rules: Vec<Rule>,
    /// Types of its local properties.
    pub registered: Vec<Registered>,
    /// Findings that are accepted.
    pub waivers: Vec<Waiver>,
}

/// Another control in a template.
#[derive(Debug)]
pub struct Placement {
    /// Its element in the template.
    pub node: NodeId,
    /// The control's name.
    pub control: String,
    /// Which of its hosts the element is.
    pub host: usize,
    /// Its variant.
    pub variant: Variant,
}

/// An animation.
#[derive(Debug)]
pub struct Keyframes {
    /// Its name in sheets.
    pub name: Name,
    /// What stands between its braces.
    pub body: Expression,
}

/// A font, with its descriptors as they are written.
#[derive(Debug)]
pub struct FontFace {
    /// Names and values, in order.
    pub descriptors: Vec<(String, String)>,
    /// Where it stands.
    pub span: Span,
}

/// A custom property with a type (CSS Properties and Values API 1).
#[derive(Debug)]
pub struct Registered {
    /// The property with its dashes; for a local, its short name.
    pub name: Name,
    /// Its syntax, a CSS string with its quotes.
    pub syntax: String,
    /// Whether it inherits.
    pub inherits: bool,
    /// Its initial value.
    pub initial: Option<String>,
    /// Where it stands.
    pub span: Span,
}

/// A finding that is accepted, with the reason.
#[derive(Debug)]
pub struct Waiver {
    /// The check's id.
    pub check: Name,
    /// The cases that it is for.
    pub cases: Cases,
    /// Why.
    pub reason: String,
    /// The last day on which it counts, `YYYY-MM-DD`.
    pub until: Option<String>,
    /// Where it stands.
    pub span: Span,
}

impl Control {
    /// One with a template and axes and without a rule, as one that was found on a page: no rule is known to be its own.
    pub fn found(name: Name, template: Template, axes: Vec<Axis>) -> Control {
        Control {
            name,
            template,
            mark: None,
            part_marks: Vec::new(),
            inside: Vec::new(),
            axes,
            excludes: Vec::new(),
            placements: Vec::new(),
            depth: 0,
            rules: Vec::new(),
            registered: Vec::new(),
            waivers: Vec::new(),
        }
    }

    /// What its sheet marks otherwise than by the manifest's patterns.
    pub fn marks(&self) -> impl Iterator<Item = &Mark> {
        let of_options = self.axes.iter().flat_map(|axis| axis.marks.iter().flatten());
        self.mark.iter().chain(of_options).chain(self.part_marks.iter().map(|(_, mark)| mark))
    }

    /// What a host is called, in cases, sheets and findings: `button`, `a`, `submit`.
    pub fn host_name(&self, host: usize) -> &str {
        &self.template.hosts[host].name
    }

    /// What stands at an element of the template.
    pub fn placement(&self, node: NodeId) -> Option<&Placement> {
        self.placements.iter().find(|placement| placement.node == node)
    }

    /// What stands at a part.
    pub fn placement_of_part(&self, part: &str) -> Option<&Placement> {
        let nodes = self.template.hosts.iter().flat_map(|host| &host.parts);
        nodes.filter(|(name, _)| name.value == part).find_map(|(_, node)| self.placement(*node))
    }

    /// Whether it declares a local property of this name, with dashes.
    pub fn declares(&self, local: &str) -> bool {
        let declarations = self.rules.iter().flat_map(|rule| &rule.declarations);
        declarations.into_iter().any(|d| d.owner.is_none() && d.name.value == local)
    }
}

impl System {
    /// Controls that stand on pages and that no sheet describes, with the themes and states that were found there. `place`
    /// stands for all places that nobody wrote.
    pub fn found(name: &str, modifiers: Vec<Modifier>, states: Vec<OwnState>, place: Span) -> System {
        let manifest = Manifest::unwritten(name, states, place);
        System {
            states: States::new(&manifest.states),
            manifest,
            tokens: Tokens::none(modifiers),
            controls: Vec::new(),
            keyframes: Vec::new(),
            font_faces: Vec::new(),
            registered: Vec::new(),
            attachments: Vec::new(),
            surfaces: Vec::new(),
        }
    }

    /// The names that are written.
    pub fn names(&self) -> Names<'_> {
        Names::new(&self.manifest, &self.controls)
    }

    /// The control with this name.
    pub fn control(&self, name: &str) -> Option<&Control> {
        self.controls.iter().find(|control| control.name.value == name)
    }
}
