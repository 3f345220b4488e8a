//! What a check is: its words, what it asks, and of what.

use crate::example::Example;
use crate::inspection::Inspection;
use crate::relevance::reads::{Colors, Reads};
use crate::sink::Sink;
use crate::survey::Survey;
use crate::visit::{PageSink, VisitedPage};
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

impl Task {
    /// What it asks of looks, where it is about looks.
    pub fn looks(&self) -> Option<&'static Looks> {
        if let Scope::Looks(looks) = self.scope { Some(looks) } else { None }
    }
}

impl Check {
    pub(crate) fn task(&'static self) -> Task {
        Task { id: self.id, scope: &self.scope }
    }

    /// Whether it asks of pages that people wrote, not of the system.
    pub fn is_of_pages(&self) -> bool {
        matches!(self.scope, Scope::Page(_))
    }

    /// Whether a colour may decide what it says.
    pub(crate) fn tells_colors(&self) -> bool {
        match &self.scope {
            Scope::Looks(looks) => {
                looks.reads.colors != Colors::None
                    || looks.reads_where_split.as_ref().is_some_and(|reads| reads.colors != Colors::None)
            }
            _ => !["geometry/", "font/"].iter().any(|group| self.id.starts_with(group)),
        }
    }

    /// Whether it asks for the looks of one control after the other, not for the system or for pages.
    pub fn is_of_looks(&self) -> bool {
        matches!(self.scope, Scope::Looks(_))
    }
}

/// What a check asks.
#[allow(clippy::large_enum_variant, reason = "there is one of each check, and it is never moved")]
pub(crate) enum Scope {
    /// Looks of one control after the other.
    Looks(Looks),
    /// Controls, by looks that it chooses.
    Controls(fn(&Survey, &mut Sink)),
    /// What the whole system says.
    System(fn(&Survey, &mut Sink)),
    /// One page with the system's controls in it.
    Page(fn(&VisitedPage, &mut PageSink)),
    /// Asked while sources are read: what fails cannot be drawn at all. Gives how many things it looked at.
    Reading(fn(&System) -> u64),
}

/// What a check asks of looks: of one variant of a control on one host in one theme, in all the states that it can tell
/// apart.
pub(crate) struct Looks {
    /// What it reads in them.
    pub reads: Reads,
    /// What it reads where a part of a gradient lies under a text: sizes as well. Nothing where that makes no difference.
    pub reads_where_split: Option<Reads>,
    /// Whether it is for what takes an entry or a choice only.
    fields_only: bool,
    /// Whether it is asked of the default variant, each option alone, and options that the sheet combines, not of every
    /// variant: what it says of one option does not depend on the options of other axes, but where the sheet says so.
    pub by_option: bool,
    /// Judges.
    pub run: fn(&Inspection, &mut Sink),
}

impl Looks {
    /// Of every variant of every control.
    pub const fn new(reads: Reads, run: fn(&Inspection, &mut Sink)) -> Looks {
        Looks { reads, reads_where_split: None, fields_only: false, by_option: false, run }
    }

    /// Only of what takes an entry or a choice.
    pub const fn of_fields(self) -> Looks {
        Looks { fields_only: true, ..self }
    }

    /// Only of each option alone.
    pub const fn by_option(self) -> Looks {
        Looks { by_option: true, ..self }
    }

    /// The same, and this is read where a part of a gradient lies under a text.
    pub const fn where_split(self, reads: Reads) -> Looks {
        Looks { reads_where_split: Some(reads), ..self }
    }

    /// Whether it is for a control.
    pub fn is_for(&self, control: &Control) -> bool {
        !self.fields_only || matches!(ControlKind::of(control), ControlKind::Entry | ControlKind::Choice)
    }
}
