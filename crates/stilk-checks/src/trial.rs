//! A project as it would be with some edits made: what they clear, and what they break.

use crate::check::Check;
use crate::fingerprint::fingerprint;
use crate::mend::affected;
use crate::registry::{self, CHECKS};
use crate::report::Report;
use crate::run::run;
use crate::settings::Settings;
use std::collections::{BTreeMap, BTreeSet};
use stilk_language::stylesheet::{Purpose, write};
use stilk_language::system::System;
use stilk_text::diagnostic::{Diagnostic, Edit, Level, Proposal, count};
use stilk_text::source::{FileError, FileId, FileText, Files, Sources, Span};

/// A project that was read without errors, and where it was read from.
#[derive(Clone, Copy)]
pub struct Project<'p> {
    /// Where its files are.
    pub files: &'p (dyn Files + Sync),
    /// What was read.
    pub sources: &'p Sources,
    /// The system that it makes.
    pub system: &'p System,
}

/// Files of which some are as they would be.
struct Edited<'t> {
    files: &'t dyn Files,
    edited: &'t BTreeMap<String, String>,
}

impl Files for Edited<'_> {
    fn read(&self, path: &str, allowed: &[String]) -> Result<FileText, FileError> {
        match self.edited.get(path) {
            Some(text) => Ok(FileText::own(text.clone())),
            None => self.files.read(path, allowed),
        }
    }

    fn list(&self, folder: &str, allowed: &[String]) -> Result<Vec<String>, FileError> {
        self.files.list(folder, allowed)
    }
}

/// A project with edits made, in memory.
pub struct Trial {
    /// What was read.
    pub sources: Sources,
    /// The system that it makes.
    pub system: System,
    /// The files that differ, by path.
    pub files: BTreeMap<String, String>,
}

impl Trial {
    /// Makes the edits.
    ///
    /// # Errors
    /// Why the sources no longer load.
    pub fn new(before: Project, edits: &[Edit]) -> Result<Trial, String> {
        let files = edited(before.sources, edits);
        let project = registry::load(&Edited { files: before.files, edited: &files });
        match project.system {
            Some(system) => Ok(Trial { sources: project.sources, system, files }),
            None => {
                let first = project.diagnostics.iter().find(|d| d.level == Level::Error);
                Err(first.map(|d| d.message.clone()).unwrap_or_default())
            }
        }
    }

    /// The settings of a run that looks at no more than what may be other than it was, where nothing was edited but values of
    /// tokens: the findings of such a run before and of one after it differ in all that comes and goes.
    pub fn part(&self, before: Project, settings: &Settings) -> Option<Settings> {
        if !settings.within.is_whole() || !self.files.keys().all(|path| path.ends_with(".json")) {
            return None;
        }
        let (within, are_colors) = affected::between(before.system, &self.system)?;
        let is_asked = |check: &&Check| settings.only.is_empty() || settings.only.contains(&check.id);
        // A colour moves no box.
        let may_tell = |check: &&Check| !are_colors || check.tells_colors();
        let only: Vec<&'static str> = CHECKS.iter().copied().filter(is_asked).filter(may_tell).map(|c| c.id).collect();
        (!only.is_empty()).then(|| Settings { only, within, ..settings.clone() })
    }

    /// What checks say of it.
    pub fn report(&self, settings: &Settings) -> Report {
        run(&self.system, &self.sources, &write(&self.system, &self.sources, Purpose::Page), settings)
    }
}

/// What was found: each finding by what makes it the same in another run, with its number of cases.
pub struct Found(BTreeMap<String, u64>);

impl Found {
    /// What a list of findings holds.
    pub fn new<'f>(findings: impl IntoIterator<Item = &'f Diagnostic>, sources: &Sources) -> Found {
        // Two findings may say the same of two places.
        let mut found = BTreeMap::new();
        for finding in findings {
            *found.entry(fingerprint(finding, sources)).or_default() += cases(finding);
        }
        Found(found)
    }

    /// For how many cases one holds, by its fingerprint; none where it was not found.
    pub fn cases(&self, fingerprint: &str) -> u64 {
        self.0.get(fingerprint).copied().unwrap_or_default()
    }

    /// How many of these are not among others.
    pub fn cleared_in(&self, later: &Found) -> u64 {
        self.0.keys().filter(|key| !later.0.contains_key(*key)).count() as u64
    }

    /// Later findings that are new, or that hold for more cases.
    pub fn worse<'l>(&self, later: &'l [Diagnostic], sources: &Sources) -> Vec<&'l Diagnostic> {
        let all = Found::new(later, sources);
        let is_worse = |finding: &&Diagnostic| {
            let of = fingerprint(finding, sources);
            self.0.get(&of).is_none_or(|known| all.0.get(&of).is_some_and(|now| now > known))
        };
        later.iter().filter(is_worse).collect()
    }
}

fn cases(finding: &Diagnostic) -> u64 {
    finding.evidence.as_ref().map_or(0, |evidence| evidence.cases)
}

/// The most mends that are tried in one run: each takes as long as what it reaches takes to check.
const TRIED: usize = 8;

/// Tries each mend that could be made, and says with it what it clears; one that breaks something is only told, and gives way to
/// the next proposal. `asked` are the checks that the report is of, `known` is all that they found in the project.
pub fn prove(project: Project, report: &mut Report, asked: &[&'static str], known: &Found, settings: &Settings) {
    let mut tried: BTreeMap<Vec<Edit>, (String, bool)> = BTreeMap::new();
    loop {
        let waits = |finding: &&Diagnostic| !finding.edits.is_empty() && !tried.contains_key(&finding.edits);
        let mends: BTreeSet<Vec<Edit>> = report.findings.iter().filter(waits).map(|f| f.edits.clone()).collect();
        let mends: Vec<Vec<Edit>> = mends.into_iter().take(TRIED - tried.len()).collect();
        if mends.is_empty() {
            break;
        }
        let outcomes = outcomes_of(project, report, &mends, (asked, known), settings);
        for (edits, (words, holds)) in mends.iter().zip(&outcomes) {
            for finding in report.findings.iter_mut().filter(|finding| finding.edits == *edits) {
                let mend = finding.mend.take().map(|mend| format!("{mend}; {words}"));
                match (holds, finding.proposals.iter().position(|other| !other.edits.is_empty())) {
                    (false, Some(next)) => {
                        // What breaks something is told last.
                        let next = finding.proposals.remove(next);
                        let broken = Proposal { words: mend.unwrap_or_default(), edits: Vec::new() };
                        finding.proposals.push(broken);
                        (finding.mend, finding.edits) = (Some(next.words), next.edits);
                    }
                    (false, None) => {
                        finding.mend = mend;
                        finding.edits.clear();
                    }
                    (true, _) => finding.mend = mend,
                }
            }
        }
        tried.extend(mends.into_iter().zip(outcomes));
        if tried.len() >= TRIED {
            break;
        }
    }
}

/// What comes of some mends, each alone.
fn outcomes_of(
    project: Project,
    report: &Report,
    mends: &[Vec<Edit>],
    (asked, known): (&[&'static str], &Found),
    settings: &Settings,
) -> Vec<(String, bool)> {
    // Small as they are, several at a time keep all cores at work better than one after the other on all of them.
    let workers = settings.threads.min(mends.len());
    let settings = Settings { threads: settings.threads / workers.max(1), ..settings.clone() };
    let try_some = |first: usize| {
        let mine = mends.iter().enumerate().skip(first).step_by(workers.max(1));
        mine.map(|(at, edits)| (at, outcome_of(project, report, edits, asked, known, &settings))).collect::<Vec<_>>()
    };
    let try_some = &try_some;
    std::thread::scope(|scope| {
        let handles: Vec<_> = (0..workers).map(|first| scope.spawn(move || try_some(first))).collect();
        let join = |handle: std::thread::ScopedJoinHandle<'_, Vec<_>>| {
            handle.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic))
        };
        let mut found: Vec<(usize, (String, bool))> = handles.into_iter().flat_map(join).collect();
        found.sort_by_key(|(at, _)| *at);
        found.into_iter().map(|(_, outcome)| outcome).collect()
    })
}

/// What a colour decides besides contrast.
const OF_COLORS: [&str; 4] = ["state/color-only", "state/edge-split", "state/indistinct", "state/missing"];

/// What edits clear and break in the part of the system that they reach, in words, and whether they break nothing.
fn outcome_of(
    project: Project,
    report: &Report,
    edits: &[Edit],
    asked: &[&'static str],
    known: &Found,
    settings: &Settings,
) -> (String, bool) {
    let places: Vec<Span> = edits.iter().map(|edit| edit.span).collect();
    // Tokens are mended by other colours, which move no box and hide nothing.
    let are_colors = places.iter().all(|place| project.sources.file(place.file).path.ends_with(".json"));
    let can_tell = |check: &&&Check| {
        let is_asked = asked.is_empty() || asked.contains(&check.id);
        let is_of_colors = check.id.starts_with("contrast/") || OF_COLORS.contains(&check.id);
        is_asked && check.is_of_looks() && (is_of_colors || !are_colors)
    };
    let only: Vec<&str> = CHECKS.iter().filter(can_tell).map(|check| check.id).collect();
    let within = affected::selection(project.system, &places);
    let settings = Settings { only: only.clone(), within, without_mends: true, ..settings.clone() };
    let trial = match Trial::new(project, edits) {
        Ok(trial) => trial,
        Err(why) => return (format!("but the sources would no longer load: {why}"), false),
    };
    let is = trial.report(&settings);
    let left = Found::new(&is.findings, &trial.sources);
    // Whatever a finding at one of these places rests on is in the part that was tried.
    let at_places = report.findings.iter().filter(|finding| {
        let mut spans = finding.span.into_iter().chain(finding.related.iter().map(|related| related.span));
        only.contains(&finding.id) && spans.any(|span| places.iter().any(|place| meet(span, *place)))
    });
    let meant = Found::new(at_places, project.sources);
    let cleared = meant.cleared_in(&left);
    let broken = known.worse(&is.findings, &trial.sources);
    match broken.as_slice() {
        [] if cleared == 0 => {
            let still = |finding: &&Diagnostic| meant.0.contains_key(&fingerprint(finding, &trial.sources));
            let evidence = is.findings.iter().find(still).and_then(|finding| finding.evidence.as_ref());
            let words = evidence.map(|evidence| format!("but then {} is wrong: {}", evidence.worst, evidence.figures));
            (words.unwrap_or_else(|| "but alone it is not enough".to_owned()), false)
        }
        [] => (format!("clears {}, breaks none", count(cleared, "finding")), true),
        [first] => (format!("but then {}: {}", first.id, first.message), false),
        [first, rest @ ..] => {
            (format!("but then {} and {}: {}", first.id, count(rest.len() as u64, "other"), first.message), false)
        }
    }
}

/// Whether two places have something in common; what is written in between counts with what it follows.
pub fn meet(a: Span, b: Span) -> bool {
    a.file == b.file && a.start <= b.end && b.start <= a.end
}

/// The files with the edits made; everything else in them stays as it is, byte for byte.
fn edited(sources: &Sources, edits: &[Edit]) -> BTreeMap<String, String> {
    let mut by_file: BTreeMap<FileId, Vec<&Edit>> = BTreeMap::new();
    for edit in edits {
        by_file.entry(edit.span.file).or_default().push(edit);
    }
    by_file
        .into_iter()
        .map(|(file, mut edits)| {
            let source = sources.file(file);
            let mut text = source.text.to_string();
            // From the end: what comes before keeps its place.
            edits.sort();
            for edit in edits.into_iter().rev() {
                text.replace_range(edit.span.range(), &edit.text);
            }
            (source.path.clone(), text)
        })
        .collect()
}
