//! What comes of changes: findings that come and go, looks that differ, the step of a version number that this asks for.

use crate::change::{Change, Ground, all_edits};
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::report::Report;
use stilk_checks::run::memory::Memory;
use stilk_checks::run::{run, run_again};
use stilk_checks::settings::Settings;
use stilk_checks::trial::{Found, Project, Trial};
use stilk_language::stylesheet::{Purpose, Written, write};
use stilk_text::diagnostic::{Diagnostic, Edit};
use stilk_views::compare::{Comparison, Step, Version, compare, step};

/// What comes of changes.
pub struct Outcome {
    /// The project with them made.
    pub trial: Trial,
    /// Its stylesheet.
    pub written: Written,
    /// What checks say of it.
    pub report: Report,
    /// Findings of before that are gone.
    pub gone: Vec<Diagnostic>,
    /// Findings, of the trial, that are new or hold for more cases.
    pub come: Vec<Diagnostic>,
}

/// The edits of changes, and the project with them made.
///
/// # Errors
/// Why one of them cannot be made, or why the sources would no longer load.
pub fn trial(project: Project, changes: &[Change]) -> Result<(Vec<Edit>, Trial), String> {
    let ground = Ground { system: project.system, sources: project.sources };
    let edits = all_edits(ground, changes).map_err(|(_, why)| why)?;
    let trial = Trial::new(project, &edits).map_err(|why| format!("the sources would no longer load: {why}"))?;
    Ok((edits, trial))
}

/// What checks say of a trial, held against what they say now. A memory makes it fast where little changes.
pub fn outcome(
    project: Project,
    known: &Report,
    trial: Trial,
    settings: &Settings,
    memory: Option<&mut Memory>,
) -> Outcome {
    let written = write(&trial.system, &trial.sources, Purpose::Page);
    let settings = Settings { without_mends: true, ..settings.clone() };
    let report = match memory {
        Some(memory) => run_again(&trial.system, &trial.sources, &written, &settings, memory),
        None => run(&trial.system, &trial.sources, &written, &settings),
    };
    let before = Found::new(&known.findings, project.sources);
    let come = before.worse(&report.findings, &trial.sources).into_iter().cloned().collect();
    let left: std::collections::BTreeSet<String> =
        report.findings.iter().map(|finding| fingerprint(finding, &trial.sources)).collect();
    let is_gone = |finding: &&Diagnostic| !left.contains(&fingerprint(finding, project.sources));
    let gone = known.findings.iter().filter(is_gone).cloned().collect();
    Outcome { trial, written, report, gone, come }
}

impl Outcome {
    /// Which looks differ, and what that asks of the version number, with the reasons.
    pub fn compared(&self, project: Project, written: &Written) -> (Comparison, Step, Vec<String>) {
        let old = Version { system: project.system, sources: project.sources, written };
        let new = Version { system: &self.trial.system, sources: &self.trial.sources, written: &self.written };
        let comparison = compare(&old, &new);
        let (step, reasons) = step(&comparison);
        (comparison, step, reasons)
    }
}
