//! What a survey found, for whoever prints it.

use crate::control::{Found, Kind};
use crate::family::{Chooser, Family};
use crate::look::Entry;
use crate::theme::Theme;
use crate::unused::Unused;
use crate::value::{Custom, Used};
use std::collections::BTreeSet;
use stilk_checks::painted::text::{Figure, Worst, figure_of};
use stilk_checks::report::Report;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand;
use stilk_language::system::{StateId, StateSet, System};
use stilk_text::source::Span;

/// Everything that was found.
pub struct Survey {
    /// How many pages were read.
    pub pages: usize,
    /// How many of them hold a control.
    pub with_controls: usize,
    /// The families, those with most controls first.
    pub families: Vec<FamilyReport>,
    /// Looks that are nearly one.
    pub near: Vec<NearLooks>,
    /// The themes.
    pub themes: Vec<Theme>,
    /// What media queries that reach controls ask for, in words.
    pub sides: Vec<String>,
    /// The values in rules of controls.
    pub values: Vec<Used>,
    /// The custom properties that rules of controls read.
    pub customs: Vec<Custom>,
    /// Rules that no page uses.
    pub unused: Vec<Unused>,
    /// How many rules there are.
    pub rules: usize,
    /// Findings, the worst first, and what could not be decided.
    pub report: Report,
    /// The families as a system: states by their ids, for whoever draws them.
    pub system: System,
}

impl Survey {
    /// How many controls there are.
    pub fn controls(&self) -> usize {
        self.families.iter().map(|family| family.family.count).sum()
    }

    /// In how many looks.
    pub fn looks(&self) -> usize {
        self.families.iter().map(|family| family.looks.len()).sum()
    }

    /// How many controls of a kind there are, in how many looks.
    pub fn of_kind(&self, kind: Kind) -> (usize, usize) {
        let of_kind = self.families.iter().filter(|family| family.family.kind == kind);
        of_kind.fold((0, 0), |(controls, looks), family| (controls + family.family.count, looks + family.looks.len()))
    }
}

/// A family with its looks.
pub struct FamilyReport {
    /// The family.
    pub family: Family,
    /// Its looks, those with most places first.
    pub looks: Vec<LookRecord>,
    /// The states that rules write for it.
    pub written: Vec<String>,
    /// Those that its users need and no rule writes.
    pub missing: Vec<StateId>,
    /// Where its base is written.
    pub base: Option<Span>,
    /// The parts that are drawn in it.
    pub parts: BTreeSet<String>,
}

/// A look, with where it shows.
#[derive(Debug, Clone)]
pub struct LookRecord {
    /// Its family.
    pub family: String,
    /// The control by its family and options.
    pub name: String,
    /// Its host.
    pub host: String,
    /// Its options.
    pub options: BTreeSet<Chooser>,
    /// What is seen of it at rest.
    pub values: Vec<Entry>,
    /// The values of its own box, with who gives them.
    pub own: Vec<(Longhand, String, By)>,
    /// How many controls have it.
    pub controls: u64,
    /// Where the first of them stands.
    pub tag: Option<Span>,
    /// The same in words, `page.html:12`.
    pub place: String,
    /// Its page, by index.
    pub page: usize,
    /// The control on that page.
    pub found: Found,
    /// The states in which it was looked at, rest first, each alone.
    pub states: Vec<InState>,
    /// Where its family's base is written.
    pub base: Option<Span>,
}

/// Who gives a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum By {
    /// The browser's own sheet.
    Browser,
    /// A stylesheet of the page.
    Page,
    /// Nobody: it is inherited, or the initial one.
    Nobody,
}

/// A look in a state.
#[derive(Debug, Clone)]
pub struct InState {
    /// The state.
    pub states: StateSet,
    /// The text that has the least contrast for what it needs; nothing where none is painted.
    pub text: Result<Option<Worst>, Unknown>,
}

impl InState {
    /// The contrast of that text, for showing.
    pub fn figure(&self) -> Figure {
        figure_of(self.text, &self.states)
    }
}

impl LookRecord {
    /// The look in a state, where it was looked at there.
    pub fn in_state(&self, states: &StateSet) -> Option<&InState> {
        self.states.iter().find(|one| one.states == *states)
    }
}

/// Two looks that are nearly one.
pub struct NearLooks {
    /// The one.
    pub one: LookRecord,
    /// The other.
    pub other: LookRecord,
    /// What differs between them.
    pub differing: Vec<Differing>,
}

/// A value that differs between two looks.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Differing {
    /// The property, and of which part.
    pub property: String,
    /// What it is in the one.
    pub one: String,
    /// In the other.
    pub other: String,
}
