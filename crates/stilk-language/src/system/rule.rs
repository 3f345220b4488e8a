//! Rules of a control, flattened: no nesting is left, every condition is spelled out.

use super::{OptionId, StateSet};
use crate::tokens::Expression;
use stilk_engine::cascade::PseudoElement;
use stilk_text::source::{Name, Span};

/// Declarations and when they hold.
#[derive(Debug)]
pub struct Rule {
    /// What they style.
    pub target: RuleTarget,
    /// Options that must be chosen.
    pub options: Vec<OptionId>,
    /// States that must hold.
    pub states: StateSet,
    /// Selectors the host must match (`@host`).
    pub hosts: Vec<String>,
    /// Further conditions on the host (`&`), as selectors without the `&`.
    pub nested: Vec<String>,
    /// Conditional group rules around it, outermost first.
    pub conditions: Vec<Condition>,
    /// Its place in the precedence.
    pub place: Place,
    /// The declarations, in order.
    pub declarations: Vec<BoundDeclaration>,
    /// Where it stands.
    pub span: Span,
}

/// What a rule styles.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default)]
pub struct RuleTarget {
    /// A part; `None` for the host.
    pub part: Option<String>,
    /// The part that must stand before it, and `+` for right before or `~` for somewhere before.
    pub after: Option<(String, char)>,
    /// Conditions on the part, such as `:first-child`.
    pub condition: String,
    /// A pseudo-element with its colons, or nothing.
    pub pseudo: String,
}

/// A conditional group rule with its prelude written out.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Condition {
    /// `media`, `supports`, `container` or `starting-style`.
    pub kind: String,
    /// The prelude; that of `starting-style` is empty.
    pub prelude: String,
}

/// Place in the precedence within one state set: traits, then what it was copied from, then the
/// control, then axes in order, then combinations.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Place {
    /// From a trait.
    Trait,
    /// The control that this one started as a copy of.
    From,
    /// The control itself.
    Control,
    /// An option of the axis with this index.
    Axis(usize),
    /// A combination of so many options.
    Combine(usize),
}

/// A declaration with its references bound.
#[derive(Debug, Clone)]
pub struct BoundDeclaration {
    /// The property; a local has its short name with dashes.
    pub name: Name,
    /// The value.
    pub value: Expression,
    /// For a local of a placed control, that control.
    pub owner: Option<String>,
    /// The whole declaration.
    pub span: Span,
}

impl RuleTarget {
    /// Whether nothing is asked of the part but its name.
    pub fn is_plain(&self) -> bool {
        self.after.is_none() && self.condition.is_empty()
    }

    /// The pseudo-element; nothing for an element, and for a pseudo-element whose style is not computed.
    pub fn pseudo_element(&self) -> Option<PseudoElement> {
        PseudoElement::find(self.pseudo.trim_start_matches(':'))
    }
}

impl Rule {
    /// Whether it may say something of one host and not of another: it names hosts, asks for more than classes and states,
    /// or leaves a value to each element's defaults.
    pub fn tells_hosts_apart(&self) -> bool {
        !self.hosts.is_empty()
            || !self.nested.is_empty()
            || !self.target.is_plain()
            || self.declarations.iter().any(BoundDeclaration::reverts)
    }

    /// Whether it says what a box moves from as it comes to be (CSS Transitions 2, section 3.3): it paints nothing itself.
    pub fn is_start(&self) -> bool {
        self.conditions.iter().any(Condition::is_start)
    }

    /// Whether it stands in a container query.
    pub fn asks_for_container(&self) -> bool {
        self.conditions.iter().any(|condition| condition.kind == "container")
    }

    /// The selectors that it asks for beside classes and states.
    pub fn conditions_of_selectors(&self) -> impl Iterator<Item = &str> {
        let own = std::iter::once(&self.target.condition);
        self.nested.iter().chain(&self.hosts).chain(own).map(String::as_str)
    }

    /// Whether it may ask for the theme around a control: for an attribute that chooses one, or for some data attribute.
    pub fn asks_for_theme(&self, attributes: &[&str]) -> bool {
        self.conditions_of_selectors()
            .any(|text| text.contains("data-") || attributes.iter().any(|name| text.contains(name)))
    }
}

impl Condition {
    /// Whether it is `@starting-style`.
    pub fn is_start(&self) -> bool {
        self.kind == "starting-style"
    }
}

impl BoundDeclaration {
    /// Whether it leaves the value to the element's defaults, by `revert` or `revert-layer`.
    pub fn reverts(&self) -> bool {
        self.value.texts().any(|text| text.contains("revert"))
    }

    /// Whether it draws a gradient by itself, not by a token.
    pub fn draws_gradient(&self) -> bool {
        self.value.texts().any(|text| text.contains("gradient("))
    }

    /// Whether it sets a local property.
    pub fn is_local(&self) -> bool {
        self.name.value.starts_with("--")
    }

    /// Whether it belongs under `prefers-reduced-motion: no-preference`.
    pub fn is_motion(&self) -> bool {
        let name = &self.name.value;
        ["transition", "animation"]
            .iter()
            .any(|p| name.strip_prefix(p).is_some_and(|r| r.is_empty() || r.starts_with('-')))
    }
}
