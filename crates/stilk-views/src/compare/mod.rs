//! Two versions of a system: which names are gone or new, which looks changed and by what, what that asks of its version number.
//!
//! Names are compared as sets; looks by the engine, case by case, and grouped by what caused the change: one edit of a token that
//! reaches three hundred cases is one change.

mod alike;
mod looks;
mod motion;
mod names;
mod page;
mod step;

pub use looks::{Change, Contrast, Target};
pub use motion::{Motion, MotionKind};
pub use names::{NameChange, NameKind, Names};
pub use page::page;
pub use step::{Step, step};
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_language::stylesheet::Written;
use stilk_language::system::System;
use stilk_text::source::Sources;

/// One version of a system.
pub struct Version<'v> {
    /// The system.
    pub system: &'v System,
    /// Its sources.
    pub sources: &'v Sources,
    /// Its stylesheet.
    pub written: &'v Written,
}

/// What differs between two versions.
#[derive(Debug, Default)]
pub struct Comparison {
    /// Names that pages may use.
    pub names: Names,
    /// Changed looks by cause, those that reach most cases first.
    pub changes: Vec<Change>,
    /// Texts whose contrast went over or under what is needed, the worst first.
    pub contrast: Vec<Contrast>,
    /// Targets whose size went over or under what is needed.
    pub targets: Vec<Target>,
    /// What moves otherwise and looks the same at rest.
    pub motions: Vec<Motion>,
    /// How many cases were compared.
    pub cases: u64,
    /// How many of them look different.
    pub changed: u64,
    /// How many values could not be compared, being unknown in one version.
    pub unknown: u64,
}

impl Comparison {
    /// Whether nothing differs.
    pub fn is_equal(&self) -> bool {
        self.names.list.is_empty() && self.changes.is_empty() && self.motions.is_empty()
    }
}

/// Compares two versions of a system.
pub fn compare(old: &Version, new: &Version) -> Comparison {
    let mut comparison = Comparison { names: names::compare(old.system, new.system), ..Comparison::default() };
    comparison.motions = motion::compare([old, new]);
    let parsed = [old, new].map(|version| Stylesheet::parse(&version.written.text));
    looks::compare([old, new], &parsed, &Media::default(), &mut comparison);
    comparison
}
