//! Why a value is what it is: every declaration that applies, strongest first, with what decided against it.

use super::custom::Skip;
use super::order::{Block, DeclarationId, INLINE, Origin};
use super::style::Style;
use super::stylesheet::DeclarationBody;
use crate::css::context::Unknown;
use crate::css::parse::{Declared, Wide};
use crate::css::property::{Flow, Longhand, Longhand as L};
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
            Reason::Order => "order",
            Reason::Reverted => "reverted",
        }
    }
}

impl Style {
    /// Every declaration that applies to a longhand, strongest first.
    pub fn candidates(&self, longhand: Longhand) -> Vec<Candidate> {
        let is_flow = matches!(longhand, L::Direction | L::WritingMode);
        let flow = if is_flow { Flow::LTR } else { self.flow() };
        let mut list: Vec<Candidate> = Vec::new();
        let mut winner: Option<(&Block, Option<u32>)> = None;
        let mut skip = Skip::None;
        for block in self.sheets.blocks(&self.matched).filter(|block| block.sets.get(flow).has(longhand)) {
            for declaration in block.declarations.iter().rev().filter(|d| d.sets.get(flow).has(longhand)) {
                let DeclarationBody::Property(parsed) = declaration.body() else { continue };
                let packed = self.sheets.specificity(declaration.id);
                let fate = match (self.applies(block), &winner) {
                    (Err(reason), None) => {
                        winner = Some((block, packed));
                        Fate::Undecided(reason)
                    }
                    (Ok(false), _) => Fate::NoCondition,
                    (_, Some((stronger, their))) => Fate::Lost(reason(stronger, *their, block, packed)),
                    (Ok(true), None) if skip.covers(block) => Fate::Lost(Reason::Reverted),
                    (Ok(true), None) => {
                        let substituted;
                        let declared = match &parsed.declared {
                            Declared::Pending(_) => {
                                substituted = self.substituted(declaration, parsed);
                                match &substituted {
                                    Ok(found) => found.as_ref().as_ref(),
                                    Err(_) => Some(&parsed.declared),
                                }
                            }
                            declared => Some(declared),
                        };
                        match declared {
                            Some(Declared::Wide(Wide::Revert)) => {
                                skip = Skip::Origin(block.origin);
                                Fate::GaveWay("revert")
                            }
                            Some(Declared::Wide(Wide::RevertLayer)) => {
                                skip = Skip::Layer(block.layering);
                                Fate::GaveWay("revert-layer")
                            }
                            other => {
                                winner = Some((block, packed));
                                if other.is_none() { Fate::Invalid } else { Fate::Won }
                            }
                        }
                    }
                };
                list.push(Candidate {
                    id: declaration.id,
                    origin: block.origin,
                    important: block.layering.is_important(),
                    specificity: packed.filter(|_| declaration.id.sheet != INLINE).map(Specificity::unpack),
                    fate,
                });
            }
        }
        list
    }
}

fn reason(winner: &Block, their: Option<u32>, loser: &Block, packed: Option<u32>) -> Reason {
    let (a, b) = (winner.layering, loser.layering);
    if a.is_important() != b.is_important() {
        Reason::Importance
    } else if winner.origin != loser.origin {
        Reason::Origin
    } else if a.is_inline() != b.is_inline() {
        Reason::StyleAttribute
    } else if a != b {
        Reason::Layer
    } else if their != packed {
        Reason::Specificity
    } else {
        Reason::Order
    }
}
