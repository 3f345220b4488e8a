//! What comes of changes: findings that come and go, looks that differ, the step of a version number that this asks for.

use crate::change::{Change, Ground, all_edits};
use std::collections::BTreeSet;
use std::hash::{DefaultHasher, Hash, Hasher};
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
    /// How many findings there would be; what is said of several places in the same words counts once.
    pub left: usize,
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

/// What checks found in a part of the project as it is: values of one token are pulled at again and again.
#[derive(Default)]
pub struct KnownPart {
    /// The texts it was found in, by their hash, the part, and what was found.
    last: Option<(u64, Settings, Vec<Diagnostic>)>,
}

impl KnownPart {
    fn of(&mut self, project: Project, settings: &Settings) -> &[Diagnostic] {
        let mut hasher = DefaultHasher::new();
        project.sources.all().for_each(|source| (&source.path, &source.text).hash(&mut hasher));
        let texts = hasher.finish();
        let is_same = |(of, known, _): &(u64, Settings, Vec<Diagnostic>)| {
            *of == texts
                && known.only == settings.only
                && known.within == settings.within
                && known.today == settings.today
        };
        if !self.last.as_ref().is_some_and(is_same) {
            let written = write(project.system, project.sources, Purpose::Page);
            let report = run(project.system, project.sources, &written, settings);
            if settings.stop.is_said() {
                return &[];
            }
            self.last = Some((texts, settings.clone(), report.findings));
        }
        self.last.as_ref().map_or(&[], |(_, _, findings)| findings)
    }
}

/// What checks say of a trial, held against what they say now, which is `known`. Where only values of tokens differ, only what
/// they reach is looked at; elsewhere a memory makes it fast where little changes.
pub fn outcome(
    project: Project,
    known: &Report,
    trial: Trial,
    settings: &Settings,
    part: &mut KnownPart,
    memory: Option<&mut Memory>,
) -> Outcome {
    let written = write(&trial.system, &trial.sources, Purpose::Page);
    let settings = Settings { without_mends: true, ..settings.clone() };
    let all = Found::new(&known.findings, project.sources);
    let reached = trial.part(project, &settings);
    let (findings, before) = match &reached {
        Some(settings) => {
            let before = part.of(project, settings).to_vec();
            (run(&trial.system, &trial.sources, &written, settings).findings, before)
        }
        None => {
            let report = match memory {
                Some(memory) => run_again(&trial.system, &trial.sources, &written, &settings, memory),
                None => run(&trial.system, &trial.sources, &written, &settings),
            };
            (report.findings, known.findings.clone())
        }
    };
    let in_part = Found::new(&before, project.sources);
    let come: Vec<Diagnostic> = in_part.worse(&findings, &trial.sources).into_iter().cloned().collect();
    let left: BTreeSet<String> = findings.iter().map(|finding| fingerprint(finding, &trial.sources)).collect();
    // What holds for more cases than those that were looked at holds for the others still.
    let is_gone = |finding: &&Diagnostic| {
        let name = fingerprint(finding, project.sources);
        !left.contains(&name) && all.cases(&name) == in_part.cases(&name)
    };
    let gone: Vec<Diagnostic> = match reached {
        // As the whole report tells it, with its mends.
        Some(_) => {
            let were = |finding: &&Diagnostic| {
                let name = fingerprint(finding, project.sources);
                before.iter().any(|other| fingerprint(other, project.sources) == name)
            };
            known.findings.iter().filter(were).filter(is_gone).cloned().collect()
        }
        None => known.findings.iter().filter(is_gone).cloned().collect(),
    };
    let mut all_left: BTreeSet<String> =
        known.findings.iter().map(|finding| fingerprint(finding, project.sources)).collect();
    for finding in &gone {
        all_left.remove(&fingerprint(finding, project.sources));
    }
    all_left.extend(come.iter().map(|finding| fingerprint(finding, &trial.sources)));
    let left = all_left.len();
    Outcome { trial, written, left, gone, come }
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
