//! Control sheets as written: the syntax tree of `controls/*.stilk`.
//!
//! A tree may be senseless (unknown names, wrong types); [`crate::system`] binds it. Every node has its place. The
//! grammar is in `docs/language.md`.

mod at_rule;
pub mod habits;
mod parse;
mod value;

use at_rule::{AtRule, Place};
pub use parse::parse;
use stilk_text::source::{FileId, Name, Span};

/// The sheet that is read before all others.
pub const SHARED_SHEET: &str = "shared.stilk";

/// The names of at-rules that may stand at the top of a sheet, without `@`.
pub fn at_rules_at_top() -> Vec<&'static str> {
    AtRule::names_in(Place::Top)
}

/// The names of at-rules that may stand in a control or a trait, without `@`.
pub fn at_rules_in_blocks() -> Vec<&'static str> {
    AtRule::names_in(Place::Block)
}

/// One sheet.
#[derive(Debug)]
pub struct Sheet {
    /// Its file.
    pub file: FileId,
    /// `@control` blocks.
    pub controls: Vec<ControlNode>,
    /// `@trait` blocks.
    pub traits: Vec<TraitNode>,
    /// Entries of `@derive`.
    pub derived: Vec<DerivedNode>,
    /// `@keyframes`.
    pub keyframes: Vec<KeyframesNode>,
    /// `@font-face`.
    pub font_faces: Vec<DescriptorsNode>,
    /// `@property` outside of controls.
    pub properties: Vec<DescriptorsNode>,
    /// `@attach`.
    pub attachments: Vec<AttachNode>,
}

/// `@font-face { … }`, `@property --name { … }`: a rule that holds descriptors.
#[derive(Debug)]
pub struct DescriptorsNode {
    /// What it describes, `--name`; for `@font-face` the rule itself.
    pub name: Name,
    /// Its descriptors.
    pub descriptors: Vec<Declaration>,
}

/// `@attach (SELECTOR) as CONTROL OPTION… [{ PART: SELECTOR; }]`
#[derive(Debug)]
pub struct AttachNode {
    /// Which elements, as written between the brackets.
    pub selector: Name,
    /// The control whose look they get.
    pub control: Name,
    /// Its options.
    pub options: Vec<Name>,
    /// Parts, and what they are inside those elements.
    pub parts: Vec<(Name, Name)>,
    /// The whole head.
    pub span: Span,
}

/// `@control NAME [from OTHER] [inside OTHER…] [marked (SELECTOR)] { … }`
#[derive(Debug)]
pub struct ControlNode {
    /// The control's name.
    pub name: Name,
    /// What marks it on pages, where it is not a class by the manifest's pattern: what stands between the brackets.
    pub mark: Option<Name>,
    /// The control it starts as a copy of.
    pub from: Option<Name>,
    /// The controls outside of which it never stands; none where it stands anywhere.
    pub inside: Vec<Name>,
    /// What is in it.
    pub body: Vec<Item>,
}

/// `@trait NAME { … }`
#[derive(Debug)]
pub struct TraitNode {
    /// The trait's name.
    pub name: Name,
    /// What is in it.
    pub body: Vec<Item>,
}

/// One entry of `@derive`: a token computed by CSS from other tokens.
#[derive(Debug)]
pub struct DerivedNode {
    /// The token's path.
    pub path: Name,
    /// Its value.
    pub value: Value,
}

/// `@keyframes NAME { … }`, plain CSS with references in it.
#[derive(Debug)]
pub struct KeyframesNode {
    /// The animation's name.
    pub name: Name,
    /// What stands between the outer braces.
    pub body: Value,
}

/// What can stand in a control, a trait and every block inside them.
#[derive(Debug)]
pub enum Item {
    /// `name: value;`
    Declaration(Declaration),
    /// `@traits A B;`
    Traits(Vec<Name>),
    /// `@part …`, with what marks it on pages
    Part(Vec<PartTarget>, Option<Name>, Vec<Item>),
    /// `@state …`
    State(Vec<StateAlternative>, Vec<Item>),
    /// `@host SELECTOR`
    Host(Name, Vec<Item>),
    /// `&…`: the selector without its `&`.
    Nested(Name, Vec<Item>),
    /// `@media`, `@supports`, `@container`, `@starting-style`
    Condition(Condition, Vec<Item>),
    /// `@axis`
    Axis(AxisNode),
    /// `@option NAME`
    Option(OptionNode),
    /// `@combine A B`
    Combine(Vec<Name>, Vec<Item>),
    /// `@exclude …;`
    Exclude(ExcludeNode),
    /// `@waive CHECK …;`
    Waive(WaiveNode),
    /// `@property --name { … }`: the type of a local.
    Property(DescriptorsNode),
}

impl Item {
    /// The blocks in it, whatever they are for.
    pub fn bodies(&self) -> Vec<&[Item]> {
        match self {
            Item::Part(_, _, body)
            | Item::State(_, body)
            | Item::Host(_, body)
            | Item::Nested(_, body)
            | Item::Condition(_, body)
            | Item::Combine(_, body) => vec![body],
            Item::Axis(axis) => axis.options.iter().map(|option| option.body.as_slice()).collect(),
            Item::Option(option) => vec![&option.body],
            Item::Declaration(_) | Item::Traits(_) | Item::Exclude(_) | Item::Waive(_) | Item::Property(_) => {
                Vec::new()
            }
        }
    }
}

/// `name: value;`
#[derive(Debug, Clone)]
pub struct Declaration {
    /// The property, in lower case unless it is a custom property.
    pub name: Name,
    /// The value.
    pub value: Value,
    /// The whole declaration.
    pub span: Span,
}

/// CSS text with references in it.
#[derive(Debug, Clone)]
pub struct Value {
    /// Text, references and locals, in order.
    pub pieces: Vec<ValuePiece>,
    /// The whole value.
    pub span: Span,
}

/// One piece of a [`Value`].
#[derive(Debug, Clone)]
pub enum ValuePiece {
    /// CSS as written, comments taken out.
    Text(String, Span),
    /// `{token.path}`
    Reference(Name),
    /// `--name` as the argument of `var()`, with its dashes.
    Local(Name),
}

/// `NAME` or `NAME::pseudo`, `::pseudo` for the host's own, `OTHER + NAME` for a part beside another.
#[derive(Debug, Clone)]
pub struct PartTarget {
    /// The part that must stand before it, and `+` for right before or `~` for somewhere before.
    pub after: Option<(Name, char)>,
    /// The part; `None` for the host.
    pub part: Option<Name>,
    /// Conditions of the part, `:first-child`, as written.
    pub condition: Option<Name>,
    /// The pseudo-element with its colons.
    pub pseudo: Option<Name>,
}

/// States that hold together, one alternative of a list.
#[derive(Debug, Clone)]
pub struct StateAlternative {
    /// The states.
    pub states: Vec<StateRef>,
}

/// `A` or `A of PART`, `A of &`, `not A`.
#[derive(Debug, Clone)]
pub struct StateRef {
    /// The state.
    pub name: Name,
    /// Whether it must not hold.
    pub is_negated: bool,
    /// Whose state it is, when it is not the control's own: a part, or `&` for the very part that is styled.
    pub of: Option<Name>,
}

/// A conditional group rule.
#[derive(Debug, Clone)]
pub struct Condition {
    /// `media`, `supports`, `container` or `starting-style`.
    pub kind: Name,
    /// What stands before the block; references are written out.
    pub prelude: Value,
}

/// `@axis NAME … { … }`
#[derive(Debug)]
pub struct AxisNode {
    /// The axis's name.
    pub name: Name,
    /// Which option holds when none is chosen.
    pub default: AxisDefault,
    /// Its options.
    pub options: Vec<OptionNode>,
}

/// Which option of an axis holds when a page names none.
#[derive(Debug)]
pub enum AxisDefault {
    /// The first.
    First,
    /// The one named.
    Named(Name),
    /// None: `optional`.
    None,
}

/// An option and what it sets: `NAME [marked (SELECTOR)] { … }`
#[derive(Debug)]
pub struct OptionNode {
    /// The option's name.
    pub name: Name,
    /// What marks it on pages.
    pub mark: Option<Name>,
    /// What is in it.
    pub body: Vec<Item>,
}

/// `@exclude options [with options] [without options] [on HOST];`
#[derive(Debug)]
pub struct ExcludeNode {
    /// Any of these …
    pub options: Vec<Name>,
    /// … together with any of these (when given) …
    pub with: Vec<Name>,
    /// … while none of these is chosen (when given) …
    pub without: Vec<Name>,
    /// … on hosts that match.
    pub on: Option<Name>,
    /// The whole rule.
    pub span: Span,
}

/// `@waive CHECK [on CASES] "reason" [until DATE];`
#[derive(Debug)]
pub struct WaiveNode {
    /// The check's id.
    pub check: Name,
    /// Which cases, as written.
    pub cases: Option<Name>,
    /// Why.
    pub reason: String,
    /// The last day on which it counts.
    pub until: Option<Name>,
    /// The whole rule.
    pub span: Span,
}
