//! What a check is: its words, what it asks, and of what.

use crate::example::Example;
use crate::inspection::Inspection;
use crate::relevance::Reads;
use crate::sink::Sink;
use crate::survey::Survey;
use crate::visit::{PageSink, Visit};
use stilk_language::case::ControlKind;
use stilk_language::system::{Control, System};
use stilk_text::diagnostic::Level;

/// One check.
pub struct Check {
    /// Stable id, `group/name`.
    pub id: &'static str,
    /// One sentence: when it holds.
    pub summary: &'static str,
    /// Why it matters to those who use the control.
    pub why: &'static str,
    /// Where the demand comes from.
    pub source: &'static str,
    /// Its level unless the manifest says otherwise.
    pub level: Level,
    /// What to do about it.
    pub mend: &'static str,
    /// A system that fails.
    pub fails: Example,
    /// The same, mended.
    pub passes: Example,
    /// What it asks.
    pub(crate) scope: Scope,
}

/// Something to ask of a system, and under which name.
#[derive(Clone, Copy)]
pub(crate) struct Task {
    pub id: &'static str,
    pub scope: &'static Scope,
}

impl Check {
    pub(crate) fn task(&'static self) -> Task {
        Task { id: self.id, scope: &self.scope }
    }

    /// Whether it asks for the looks of one control after the other, not for the system or for pages.
    pub fn is_of_looks(&self) -> bool {
        matches!(self.scope, Scope::Looks(..) | Scope::Options(..))
    }
}

/// What a check asks.
pub(crate) enum Scope {
    /// One variant of a control on one host in one theme, in all the states that it can tell apart: every variant.
    Looks(Reads, Of, fn(&Inspection, &mut Sink)),
    /// The same for the default variant, for each option alone, and for options that the sheet combines: what a check says
    /// of one option does not depend on the options of other axes, but where the sheet says so.
    Options(Reads, Of, fn(&Inspection, &mut Sink)),
    /// The whole system at once.
    System(fn(&Survey, &mut Sink)),
    /// One page with the system's controls in it.
    Page(fn(&Visit, &mut PageSink)),
    /// Asked while sources are read: what fails cannot be drawn at all. Gives how many things it looked at.
    Reading(fn(&System) -> u64),
}

/// Which controls a check is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Of {
    /// All.
    Any,
    /// What takes an entry or a choice.
    Fields,
}

impl Scope {
    /// What it reads, where it is about looks of a control.
    pub(crate) fn reads(&self, control: &Control) -> Option<Reads> {
        let (Scope::Looks(reads, of, _) | Scope::Options(reads, of, _)) = self else { return None };
        let is_field = matches!(ControlKind::of(control), ControlKind::Entry | ControlKind::Choice);
        (*of == Of::Any || is_field).then_some(*reads)
    }
}
