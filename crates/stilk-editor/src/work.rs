//! What takes longer than a key: the checks of a project, their mends, figures of its controls.

use crate::snapshot::Snapshot;
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};
use stilk_checks::run;
use stilk_checks::run::memory::Memory;
use stilk_checks::settings::{Settings, Stop};
use stilk_checks::trial::{self, Found, prove};
use stilk_language::case::state_sets;
use stilk_language::system::Control;
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::AsRead;

/// Something that was found out.
pub enum Outcome {
    /// What checks say, without mends.
    Findings(Vec<Diagnostic>),
    /// The same with mends that were tried.
    Mended(Vec<Diagnostic>),
    /// Figures of controls.
    Figures(Figures),
}

/// Figures of the controls of a project.
#[derive(Debug, Default)]
pub struct Figures {
    /// By name.
    pub controls: BTreeMap<String, ControlFigures>,
}

/// Figures of a control.
#[derive(Debug, Default)]
pub struct ControlFigures {
    /// How many cases it has.
    pub cases: u64,
    /// The worst contrast of texts by the token of their colour; an empty path where it is of none.
    pub texts: BTreeMap<String, Worst>,
}

/// The worst contrast of something.
#[derive(Debug, Clone)]
pub struct Worst {
    /// The contrast, 1 to 21.
    pub ratio: f64,
    /// What is needed.
    pub needed: f64,
    /// The case.
    pub case: String,
}

impl ControlFigures {
    /// The worst of all.
    pub fn worst(&self) -> Option<&Worst> {
        self.texts.values().min_by(|a, b| a.ratio.total_cmp(&b.ratio))
    }
}

/// What is worked at.
#[derive(Clone)]
pub struct Job {
    /// The project, sound.
    pub snapshot: Arc<Snapshot>,
    /// On so many threads.
    pub threads: usize,
    /// The day, by which waivers end.
    pub today: Option<String>,
    /// What former jobs found out of the same project.
    pub memory: Arc<Mutex<Memory>>,
    /// Ends it.
    pub stop: Stop,
}

impl Job {
    fn settings(&self) -> Settings {
        Settings { threads: self.threads, today: self.today.clone(), stop: self.stop.clone(), ..Settings::default() }
    }

    /// Finds everything out, the soonest wanted first, and tells it by and by; nothing more once it is stopped.
    pub fn run(&self, told: &mut dyn FnMut(Outcome)) {
        let Some((system, written, _)) = self.snapshot.written() else { return };
        let sources = &self.snapshot.sources;
        let quick = Settings { without_mends: true, ..self.settings() };
        // A job that was stopped holds it for a moment still; one that broke left it as it was.
        let mut memory = self.memory.lock().unwrap_or_else(PoisonError::into_inner);
        let report = run::run_again(system, sources, written, &quick, &mut memory);
        drop(memory);
        if self.stop.is_said() {
            return;
        }
        let has_findings = !report.findings.is_empty();
        told(Outcome::Findings(report.findings));
        if let Some(figures) = self.figures() {
            told(Outcome::Figures(figures));
        }
        if has_findings && !self.stop.is_said() {
            let settings = self.settings();
            let mut memory = self.memory.lock().unwrap_or_else(PoisonError::into_inner);
            let mut report = run::run_again(system, sources, written, &settings, &mut memory);
            drop(memory);
            let found = Found::new(&report.findings, sources);
            let files = AsRead(sources);
            let project = trial::Project { files: &files, sources, system };
            if !self.stop.is_said() {
                prove(project, &mut report, &[], &found, &settings);
            }
            if !self.stop.is_said() {
                told(Outcome::Mended(report.findings));
            }
        }
    }

    /// The figures of all controls; nothing where it is stopped.
    fn figures(&self) -> Option<Figures> {
        let (system, written, _) = self.snapshot.written()?;
        let themes = system.tokens.themes().len() as u64;
        let mut figures = Figures::default();
        let mut memory = self.memory.lock().unwrap_or_else(PoisonError::into_inner);
        let pairs = run::pairs_by_control(system, &self.snapshot.sources, written, &self.settings(), &mut memory);
        drop(memory);
        if self.stop.is_said() {
            return None;
        }
        for control in &system.controls {
            let mut own = ControlFigures { cases: cases(system, control, themes), ..ControlFigures::default() };
            for pair in pairs.get(&control.name.value).into_iter().flat_map(|pairs| pairs.iter()) {
                let worst = Worst { ratio: pair.ratio, needed: pair.needed, case: pair.worst.clone() };
                let path = pair.text.trim_matches('`').to_owned();
                let path = if path.contains([' ', '`']) { String::new() } else { path };
                match own.texts.get_mut(&path) {
                    Some(known) if known.ratio <= worst.ratio => {}
                    Some(known) => *known = worst,
                    None => drop(own.texts.insert(path, worst)),
                }
            }
            figures.controls.insert(control.name.value.clone(), own);
        }
        Some(figures)
    }
}

/// How many cases a control has.
fn cases(system: &stilk_language::system::System, control: &Control, themes: u64) -> u64 {
    let variants: u64 = (0..control.template.hosts.len()).map(|host| control.variant_count(host)).sum();
    variants * state_sets(system, control).len() as u64 * themes
}
