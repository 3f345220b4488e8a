//! A control as it is being made from a family: what chooses it, its hosts, options and parts, and its rules.

use crate::documents::Documents;
use crate::ground::Ground;
use crate::old::RuleRef;
use crate::reading::PartId;
use crate::when::{Exclusive, Target, When};
use crate::winners::Winners;
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::LonghandSet;
use stilk_engine::cascade::ranking::Rank;
use stilk_engine::dom::Element;
use stilk_language::mark::Mark;
use stilk_language::system::{StateId, States};
use stilk_survey::control::Kind;
use stilk_survey::family::Chooser;

/// What chooses a control on pages.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Head {
    /// One class, attribute or id.
    Marked(Mark),
    /// Selectors.
    Attached(Vec<String>),
}

/// An element that the control may be.
#[derive(Debug, Clone)]
pub struct HostDraft {
    /// As sheets name it: `a`, `input[type="submit"]`.
    pub selector: String,
    /// One of its kind on a page.
    pub sample: Element,
    /// The control there that has most in it, by its place among all of the site.
    pub member: usize,
}

/// An option.
#[derive(Debug, Clone)]
pub struct OptionDraft {
    /// Its name in the sheet.
    pub name: String,
    /// What chooses it on pages.
    pub chooser: Chooser,
    /// Its axis.
    pub axis: usize,
}

/// A part.
#[derive(Debug, Clone)]
pub struct PartDraft {
    /// Its name.
    pub name: String,
    /// What it is on pages.
    pub id: PartId,
    /// What marks it.
    pub mark: Mark,
}

/// A declaration.
#[derive(Debug, Clone)]
pub struct Piece {
    /// The property, as it was written.
    pub name: String,
    /// Its value, as it was written.
    pub value: String,
    /// What it sets.
    pub sets: LonghandSet,
    /// Its colours that are other ones in themes.
    pub themed: Themed,
}

/// Colours of a value that are other ones in themes: by theme and place in the value.
pub type Themed = BTreeMap<(usize, usize), String>;

/// Where a rule of the draft comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Origin {
    /// A rule of the control's own, which is taken over.
    Own,
    /// A rule for more than this control, which stays.
    Kept,
    /// Two rules that meet: the old order gave another look than that of states and places.
    Meeting,
}

/// A rule.
#[derive(Debug, Clone)]
pub struct DraftRule {
    /// What it styles.
    pub target: Target,
    /// When it holds.
    pub when: When,
    /// Its place in the old cascade.
    pub rank: Rank,
    /// What it sets.
    pub pieces: Vec<Piece>,
    /// The old rule.
    pub from: RuleRef,
    /// Where that comes from.
    pub origin: Origin,
    /// Whether it speaks of more than this control, and by no name of its.
    pub is_foreign: bool,
}

impl DraftRule {
    /// Everything that it sets.
    pub fn sets(&self) -> LonghandSet {
        let mut sets = LonghandSet::default();
        self.pieces.iter().for_each(|piece| sets.add_all(&piece.sets));
        sets
    }
}

/// A control.
pub struct Draft {
    /// Its name.
    pub name: String,
    /// The family it is made from.
    pub family: usize,
    /// What it is.
    pub kind: Kind,
    /// What chooses it.
    pub head: Head,
    /// Its hosts, the most frequent first.
    pub hosts: Vec<HostDraft>,
    /// The names of its axes; empty where an option stands alone.
    pub axes: Vec<String>,
    /// Its options.
    pub options: Vec<OptionDraft>,
    /// Its parts.
    pub parts: Vec<PartDraft>,
    /// Its rules.
    pub rules: Vec<DraftRule>,
    /// Rules that cannot be said in a sheet, with why; they stay.
    pub unreadable: Vec<(RuleRef, &'static str)>,
    /// Declarations that never won, as they were written.
    pub lost: Vec<(RuleRef, String)>,
}

/// States of the system that is made: those of its own are classes that pages have.
pub struct OwnStates {
    /// Name and selector.
    pub list: Vec<(String, String)>,
    /// All states.
    pub states: States,
    /// Whether `focus` is that of `:focus`.
    pub plain_focus: bool,
}

/// Rules that ask for a part of a state: `:disabled`, where others ask for `[aria-disabled="true"]`.
pub type Narrow = BTreeSet<(RuleRef, usize, StateId)>;

/// What drafts have in common.
pub struct Workshop<'w> {
    /// What there is.
    pub ground: &'w Ground<'w>,
    /// Its pages.
    pub documents: &'w Documents<'w>,
    /// Who won.
    pub winners: &'w Winners,
    /// The families that are adopted.
    pub adopted: &'w BTreeSet<usize>,
    /// The states.
    pub own: &'w OwnStates,
    /// By theme: its modifier.
    pub modifier_of: &'w [usize],
    /// Families whose class other elements have that would look different.
    pub strict: &'w BTreeSet<usize>,
    /// Rules of families that ask for less than what Stilk takes for a state, where others ask for the rest of it: these
    /// have a state of the system's own.
    pub narrow: &'w Narrow,
}

impl Draft {
    /// Which options and themes never hold together.
    pub fn exclusive(&self, modifier_of: &[usize]) -> Exclusive {
        Exclusive {
            axis_of: self.options.iter().map(|option| option.axis).collect(),
            modifier_of: modifier_of.to_vec(),
        }
    }

    /// The place of an option.
    pub fn option(&self, chooser: &Chooser) -> Option<usize> {
        self.options.iter().position(|option| option.chooser == *chooser)
    }
}
