//! Checks: what can be proved about every case, and what was wrong where it cannot.
//!
//! A check is one file with one function over a unit's looks. [`CHECKS`] lists them all; adding one touches its file
//! and the table. A check that cannot decide says *unknown* with its reason, and is counted.

mod contrast_text;
mod paint;
mod relevance;
mod run;
mod state_missing;
pub mod trace;

use crate::case::{Look, Unit};
use crate::diagnostic::Level;
use crate::system::{StateSet, System};
pub use contrast_text::{Figure, Worst, figure as contrast_figure, worst_text};
pub use paint::{contrast, hex, text_places};
use relevance::Reads;
use run::Sink;
pub use run::{Report, Settings, run};
use trace::Tracer;

/// One check.
pub struct Check {
    /// Stable id, `group/name`.
    pub id: &'static str,
    /// One sentence: when it holds.
    pub summary: &'static str,
    /// Where the demand comes from.
    pub source: &'static str,
    /// Its level unless the manifest says otherwise.
    pub level: Level,
    /// What it looks at.
    reads: Reads,
    run: fn(&Inspection, &mut Sink),
}

/// Every check, by id.
pub static CHECKS: [Check; 2] = [contrast_text::CHECK, state_missing::CHECK];

/// All ids.
pub fn ids() -> impl Iterator<Item = &'static str> {
    CHECKS.iter().map(|check| check.id)
}

/// Whether there is a check with this id.
pub fn is_id(id: &str) -> bool {
    ids().any(|known| known == id)
}

/// What a check looks at: one unit in all its states.
pub struct Inspection<'i> {
    /// The system.
    pub system: &'i System,
    /// The unit.
    pub unit: &'i Unit<'i>,
    /// Those of its looks that the check can tell apart, rest first.
    pub looks: Vec<Shown<'i>>,
    /// Follows values to their sources.
    pub tracer: &'i Tracer<'i>,
}

/// A look that a check inspects.
pub struct Shown<'i> {
    /// The states.
    pub states: &'i StateSet,
    /// The look.
    pub look: &'i Look,
    /// How many sets of states give the check the same verdict, this one included.
    pub stands_for: u64,
}

impl Inspection<'_> {
    /// A case's name: `button@a.alarm:hover in storm`.
    pub fn case_name(&self, states: &StateSet) -> String {
        let mut name = self.unit.control.variant_name(self.unit.host, &self.unit.variant);
        if !states.is_rest() {
            name.push(':');
            name.push_str(&self.system.states.set_name(states).replace('+', ":"));
        }
        format!("{name} in {}", self.system.tokens.theme_name(&self.unit.theme))
    }
}
