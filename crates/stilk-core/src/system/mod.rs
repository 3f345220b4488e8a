//! The checked system: names bound, types known, no cycles. Later stages never validate again.

mod bind;
mod names;
pub mod rule;
pub mod states;
mod values;
pub mod variant;

use crate::manifest::Manifest;
use crate::source::{Name, Span};
use crate::template::Template;
use crate::tokens::{Expression, TokenId, Tokens};
pub use bind::bind;
pub use names::Names;
pub use rule::{BoundDeclaration, Place, Rule, RuleTarget};
pub use states::{StateId, StateSet, States};
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
    /// Its axes in order; an `@option` is an axis with one optional choice.
    pub axes: Vec<Axis>,
    /// Variants that do not exist.
    pub excludes: Vec<Exclude>,
    /// Its rules, flattened, in the order of the sheets.
    pub rules: Vec<Rule>,
    /// Findings that are accepted.
    pub waivers: Vec<Waiver>,
}

/// An animation.
#[derive(Debug)]
pub struct Keyframes {
    /// Its name in sheets.
    pub name: Name,
    /// What stands between its braces.
    pub body: Expression,
}

/// A finding that is accepted, with the reason.
#[derive(Debug)]
pub struct Waiver {
    /// The check's id.
    pub check: Name,
    /// An option the cases must have, if the waiver is for some only.
    pub option: Option<OptionId>,
    /// Why.
    pub reason: String,
    /// Where it stands.
    pub span: Span,
}

impl System {
    /// The names that are written.
    pub fn names(&self) -> Names<'_> {
        Names::new(&self.manifest)
    }

    /// The control with this name.
    pub fn control(&self, name: &str) -> Option<&Control> {
        self.controls.iter().find(|control| control.name.value == name)
    }
}
