//! What a run of the checks found.

use std::collections::BTreeMap;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// What the checks found.
#[derive(Debug, Default)]
pub struct Report {
    /// How many cases were looked at.
    pub cases: u64,
    /// How many of them were computed; the others differ from one that was by nothing that a check reads.
    pub computed: u64,
    /// How many verdicts there are none of, because a check could not decide in a case.
    pub unknown: u64,
    /// Why, with the number of verdicts.
    pub reasons: BTreeMap<String, u64>,
    /// The same by control, with where it is and one of the cases.
    pub doubts: Vec<Doubt>,
    /// Findings, worst first.
    pub findings: Vec<Diagnostic>,
    /// How many cases each check decided, by id.
    pub decided: BTreeMap<&'static str, u64>,
    /// How many findings were waived.
    pub waived: usize,
    /// Controls of which not every variant was looked at.
    pub sampled: Vec<SampledControl>,
}

/// Something that a check could not decide of a control.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Doubt {
    /// The check.
    pub check: &'static str,
    /// Why.
    pub reason: &'static str,
    /// In how many cases.
    pub cases: u64,
    /// One of the cases, without its states.
    pub case: String,
    /// Where the control is.
    pub span: Span,
}

/// A control with more variants than are looked at: of those that a check can tell apart, at most three options together.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct SampledControl {
    /// Its name.
    pub name: String,
    /// How many variants it has on all its hosts.
    pub variants: u64,
    /// How many of them, at least, some check looked at none for.
    pub not_looked_at: u64,
}

impl Report {
    /// Whether there is anything that should be mended.
    pub fn is_clean(&self) -> bool {
        self.findings.iter().all(|finding| finding.level == Level::Note)
    }
}
