//! How the checks are run, and over what.

use std::collections::BTreeMap;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use stilk_language::system::{Control, OptionId, System, Variant, Waiver};

/// How the checks are run.
#[derive(Debug, Clone, Default)]
pub struct Settings {
    /// On so many threads; the report does not depend on it.
    pub threads: usize,
    /// The day, `YYYY-MM-DD`, by which waivers end; `None` lets none end.
    pub today: Option<String>,
    /// Asks these checks only, by id; all of them where none is named.
    pub only: Vec<&'static str>,
    /// Looks at a part of the system only.
    pub within: Selection,
    /// Computes each case, also where no check can tell it from one that was: the report is the same, later.
    pub every_case: bool,
    /// Computes no mends, where only what fails is asked for.
    pub without_mends: bool,
    /// Ends the run before it is done.
    pub stop: Stop,
}

/// Ends a run whose report nobody waits for any more: what it found by then is not to be used.
#[derive(Debug, Clone, Default)]
pub struct Stop(Arc<AtomicBool>);

impl Stop {
    /// Ends all runs that have it.
    pub fn now(&self) {
        self.0.store(true, Ordering::Relaxed);
    }

    /// Whether it was said.
    pub fn is_said(&self) -> bool {
        self.0.load(Ordering::Relaxed)
    }
}

/// A part of a system.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Selection {
    /// These controls, by name; all of them where nothing is said.
    pub controls: Option<BTreeMap<String, Variants>>,
    /// These themes, by index.
    pub themes: Option<Vec<usize>>,
}

/// Which variants of a control.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Variants {
    /// All of them.
    All,
    /// Those that have all options of one of these lists.
    With(Vec<Vec<OptionId>>),
}

impl Variants {
    /// Whether a variant is one of them.
    pub(crate) fn have(&self, variant: &Variant) -> bool {
        match self {
            Variants::All => true,
            Variants::With(lists) => lists.iter().any(|options| variant.has_all(options)),
        }
    }
}

impl Selection {
    /// Whether it is the whole system.
    pub(crate) fn is_whole(&self) -> bool {
        self.controls.is_none() && self.themes.is_none()
    }

    /// The variants of a control that are in it; nothing where none are.
    pub(crate) fn of(&self, control: &Control) -> Option<&Variants> {
        match &self.controls {
            None => Some(&Variants::All),
            Some(controls) => controls.get(&control.name.value),
        }
    }
}

impl Settings {
    /// Whether the day until which a waiver counts has passed.
    pub(crate) fn is_over(&self, waiver: &Waiver) -> bool {
        // Dates of this form compare as text.
        matches!((&waiver.until, &self.today), (Some(until), Some(today)) if today > until)
    }
}

/// Whether the manifest turns a check off.
pub(crate) fn is_off(system: &System, check: &str) -> bool {
    system.manifest.levels.iter().any(|(id, level)| id.value == check && level.is_none())
}
