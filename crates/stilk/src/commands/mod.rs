//! One module per command, and what they share.

pub mod build;
pub mod check;
pub mod compare;
pub mod contrast;
pub mod demo;
mod embedded;
pub mod explain;
pub mod markup;
pub mod mend;
pub mod new;
pub mod scan;
pub mod specimen;
pub mod tokens;
pub mod why;
mod why_case;

use crate::disk::{self, Folder};
use crate::output::{count, fingerprint, terminal, unknown_in};
use crate::{Failure, Outcome};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use stilk_checks::gather::Pair;
use stilk_checks::registry;
use stilk_checks::report::Report;
use stilk_checks::settings::Settings;
use stilk_checks::trial::Project;
use stilk_language::stylesheet::{Purpose, Written};
use stilk_language::system::System;
use stilk_text::diagnostic::Level;
use stilk_text::source::Sources;

/// A project that can be worked with: its sources hold no errors.
pub struct Loaded {
    root: PathBuf,
    files: Folder,
    /// The sources.
    pub sources: Sources,
    /// The system they make.
    pub system: System,
}

impl Loaded {
    /// Reads a project and prints what is wrong with it.
    fn read(root: &Path) -> Result<Loaded, Failure> {
        if !root.is_dir() {
            return Err(Failure::Message(format!("error: there is no folder `{}`", root.display())));
        }
        let (loaded, said) = match Loaded::load(root) {
            Ok((loaded, said)) => (Ok(loaded), said),
            Err(said) => (Err(Failure::Said), said),
        };
        anstream::eprint!("{said}");
        loaded
    }

    /// Reads a project; with it, or alone, what there is to say of it.
    pub fn load(root: &Path) -> Result<(Loaded, String), String> {
        let files = Folder::new(root);
        let project = registry::load(&files);
        let said = terminal::render(&project.diagnostics, &project.sources, root);
        let errors = project.diagnostics.iter().filter(|d| d.level == Level::Error).count() as u64;
        match project.system {
            Some(system) => Ok((Loaded { root: root.to_owned(), files, sources: project.sources, system }, said)),
            None => Err(format!("{said}{}; nothing was written\n", count(errors, "error"))),
        }
    }

    /// The folder that everything is written to.
    pub fn folder(&self) -> PathBuf {
        self.root.join(&self.system.manifest.stylesheet.folder)
    }

    /// What mends are tried on.
    fn project(&self) -> Project<'_> {
        Project { files: &self.files, sources: &self.sources, system: &self.system }
    }

    fn stylesheet(&self) -> Written {
        stilk_language::stylesheet::write(&self.system, &self.sources, Purpose::Page)
    }

    fn settings() -> Settings {
        let threads = std::thread::available_parallelism().map_or(1, std::num::NonZero::get);
        let today = time::OffsetDateTime::now_utc().date().to_string();
        Settings { threads, today: Some(today), ..Settings::default() }
    }

    fn report(&self, written: &Written) -> Report {
        self.report_of(written, Vec::new())
    }

    /// What some checks say; all of them where none is named.
    fn report_of(&self, written: &Written, only: Vec<&'static str>) -> Report {
        let settings = Settings { only, ..Loaded::settings() };
        stilk_checks::run::run(&self.system, &self.sources, written, &settings)
    }

    fn pairs(&self) -> Vec<Pair> {
        stilk_checks::run::pairs(&self.system, &self.sources, &self.stylesheet(), &Loaded::settings())
    }

    /// Where an output goes, relative to the project's folder.
    fn output(&self, name: &str) -> String {
        format!("{}/{name}", self.system.manifest.stylesheet.folder)
    }

    /// A stylesheet's file name: the system's name in lower case, words joined by `-`, and what a file of a context adds.
    fn stylesheet_name(&self, suffix: Option<&str>) -> String {
        let name = self.system.manifest.name.value.to_lowercase();
        let words: Vec<&str> = name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()).collect();
        let name = if words.is_empty() { "system".to_owned() } else { words.join("-") };
        match suffix {
            Some(suffix) => format!("{name}.{suffix}.css"),
            None => format!("{name}.css"),
        }
    }

    fn write(&self, path: &str, text: &str) -> Result<(), Failure> {
        // What is there already need not be written: watchers sleep on.
        if std::fs::read(self.root.join(path)).is_ok_and(|found| found == text.as_bytes()) {
            return Ok(());
        }
        disk::write(&self.root.join(path), text).map_err(|message| Failure::Message(format!("error: {message}")))
    }

    /// `path:line` as the user can open it.
    fn place(&self, span: stilk_text::source::Span) -> String {
        self.shown(&self.sources.place(span))
    }

    /// A path as the user can open it.
    pub fn shown(&self, path: &str) -> String {
        disk::shown(&self.root, path)
    }
}

/// Prints a report for people; the last line says how much was looked at.
fn print_report(loaded: &Loaded, report: &Report) {
    anstream::print!("{}", terminal::render(&report.findings, &loaded.sources, &loaded.root));
    for (reason, cases) in &report.reasons {
        anstream::println!("{}", unknown_in(*cases, "case", reason));
    }
    anstream::println!("{}", summary(report));
}

/// What a former report knows, by fingerprint.
fn former(against: Option<&Path>) -> Result<Option<BTreeSet<String>>, Failure> {
    let Some(path) = against else { return Ok(None) };
    let said = |why: String| Failure::Message(format!("error: `{}` cannot be compared with: {why}", path.display()));
    let text = std::fs::read_to_string(path).map_err(|why| said(why.to_string()))?;
    fingerprint::known(&text).map_err(said).map(Some)
}

fn summary(report: &Report) -> String {
    let findings = match report.findings.len() as u64 {
        0 => "nothing to mend".to_owned(),
        n => count(n, "finding"),
    };
    let unknown = if report.unknown == 0 {
        "none unknown".to_owned()
    } else {
        format!("{} unknown", count(report.unknown, "verdict"))
    };
    format!("{} looked at, {unknown}: {findings}", count(report.cases, "case"))
}

fn outcome(report: &Report) -> Outcome {
    if report.is_clean() { Outcome::Clean } else { Outcome::Findings }
}
