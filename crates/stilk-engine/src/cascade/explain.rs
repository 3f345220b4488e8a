//! Why a value is what it is: every declaration that applies, strongest first, with what decided against it.

use super::order::{Block, DeclarationId, HINTS, Origin};
use super::style::Style;
use super::winner::{Says, Step};
use crate::css::context::Unknown;
use crate::css::property::Longhand;
use std::fmt;

/// A declaration that applies to an element.
#[derive(Debug, Clone, PartialEq)]
pub struct Candidate {
    /// Its name.
    pub id: DeclarationId,
    /// Where it comes from.
    pub origin: Origin,
    /// Whether it is `!important`.
    pub important: bool,
    /// The selector's specificity; nothing in a `style` attribute.
    pub specificity: Option<Specificity>,
    /// What became of it.
    pub fate: Fate,
}

/// Counts of ids, of classes and their like, of types and pseudo-elements (Selectors 4, section 17).
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Specificity(pub u32, pub u32, pub u32);

impl Specificity {
    /// From the number in which the `selectors` crate packs it: ten bits each.
    pub fn unpack(packed: u32) -> Specificity {
        Specificity(packed >> 20 & 0x3ff, packed >> 10 & 0x3ff, packed & 0x3ff)
    }
}

impl fmt::Display for Specificity {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "({},{},{})", self.0, self.1, self.2)
    }
}

/// What became of a declaration.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Fate {
    /// It won.
    Won,
    /// It won with a value that is not valid once references are replaced: the property is inherited or initial.
    Invalid,
    /// It won, and gave the value back: `revert` or `revert-layer`.
    GaveWay(&'static str),
    /// A condition around it does not hold for this element.
    NoCondition,
    /// The user's colours replace it.
    Forced,
    /// A condition around it could not be decided.
    Undecided(Unknown),
    /// It lost to the winner.
    Lost(Reason),
}

/// Why a declaration lost to the winner, the first thing that decided (CSS Cascade 5, section 6.1).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reason {
    /// The winner is of a stronger origin.
    Origin,
    /// The winner is important.
    Importance,
    /// The winner is in the `style` attribute.
    StyleAttribute,
    /// The winner's layer is stronger.
    Layer,
    /// The winner's selector is more specific.
    Specificity,
    /// The winner's scope is nearer.
    Proximity,
    /// The winner comes later.
    Order,
    /// A winner gave way to something beyond its layer or origin.
    Reverted,
}

impl Reason {
    /// In a word or two.
    pub fn word(self) -> &'static str {
        match self {
            Reason::Origin => "origin",
            Reason::Importance => "importance",
            Reason::StyleAttribute => "style attribute",
            Reason::Layer => "layer",
            Reason::Specificity => "specificity",
            Reason::Proximity => "proximity",
            Reason::Order => "order",
            Reason::Reverted => "reverted",
        }
    }
}

impl Block {
    /// Whether it is of presentational attributes.
    fn is_of_hints(&self) -> bool {
        self.sheet == HINTS
    }
}

impl Style {
    /// The attribute's text that a declaration stands in, and where in bytes; nothing for those of sheets.
    pub fn attribute_text(&self, id: DeclarationId) -> Option<(&str, u32)> {
        self.matched.attributed().filter(|_| id.is_of_attributes())?.place(id)
    }

    /// Every declaration that applies to a longhand, strongest first.
    pub fn candidates(&self, longhand: Longhand) -> Vec<Candidate> {
        let mut winner: Option<(&Block, Option<u32>)> = None;
        let candidate = |Step { block, declaration, says }: Step<'_>, winner: Option<(&Block, Option<u32>)>| {
            let id = block.id(declaration);
            let packed = self.sheets.specificity(id);
            let fate = match (says, winner) {
                (Says::NoCondition, _) => Fate::NoCondition,
                (Says::Forced(_), None) => Fate::Forced,
                (_, Some((stronger, their))) => Fate::Lost(reason(stronger, their, block, packed)),
                (Says::Reverted, None) => Fate::Lost(Reason::Reverted),
                (Says::Undecided(reason), None) => Fate::Undecided(reason),
                (Says::GivesWay(keyword), None) => Fate::GaveWay(keyword),
                (Says::Invalid, None) => Fate::Invalid,
                (Says::Decides(_), None) => Fate::Won,
            };
            Candidate {
                id,
                origin: block.origin,
                important: block.layering.is_important(),
                specificity: packed.filter(|_| !id.is_of_attributes()).map(Specificity::unpack),
                fate,
            }
        };
        let mut list = Vec::new();
        for step in self.steps(longhand) {
            let (block, id) = (step.block, step.block.id(step.declaration));
            let candidate = candidate(step, winner);
            if winner.is_none() && matches!(candidate.fate, Fate::Won | Fate::Invalid | Fate::Undecided(_)) {
                winner = Some((block, self.sheets.specificity(id)));
            }
            list.push(candidate);
        }
        list
    }
}

fn reason(winner: &Block, their: Option<u32>, loser: &Block, packed: Option<u32>) -> Reason {
    let (a, b) = (winner.layering, loser.layering);
    if a.is_important() != b.is_important() {
        Reason::Importance
    } else if winner.origin != loser.origin || winner.is_of_hints() != loser.is_of_hints() {
        Reason::Origin
    } else if a.is_inline() != b.is_inline() {
        Reason::StyleAttribute
    } else if a != b {
        Reason::Layer
    } else if their != packed {
        Reason::Specificity
    } else if place(winner) < place(loser) {
        Reason::Proximity
    } else {
        Reason::Order
    }
}

/// Where a block stands among all rules.
fn place(block: &Block) -> (u16, u32) {
    (block.sheet, block.rule)
}
