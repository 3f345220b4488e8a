//! One module per command, and what they share.

pub mod adopt;
pub mod build;
pub mod check;
pub mod compare;
pub mod contrast;
pub mod demo;
pub mod explain;
pub mod format;
pub mod manual;
pub mod markup;
pub mod mend;
pub mod new;
pub mod report;
pub mod scan;
pub mod specimen;
pub mod stream;
pub mod survey;
pub mod tokens;
pub mod tokens_try;
pub mod why;
mod why_case;

use crate::disk::journal::Edited;
use crate::disk::{self, Folder};
use crate::output::failure::Refused;
use crate::output::{count, fingerprint, grouped, terminal, unknown_in, wrapped};
use crate::{Failure, Outcome, say};
use std::collections::BTreeSet;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};
use stilk_checks::gather::Pair;
use stilk_checks::registry;
use stilk_checks::report::{Report, SampledControl};
use stilk_checks::settings::Settings;
use stilk_checks::trial::Project;
use stilk_language::stylesheet::{Purpose, Written};
use stilk_language::system::System;
use stilk_language::tokens::Theme;
use stilk_text::diagnostic::Level;
use stilk_text::source::{MAX_FILE_BYTES, Sources};

/// A project that can be worked with: its sources hold no errors.
pub struct Loaded {
    root: PathBuf,
    files: Folder,
    /// Where outputs go, where that is said.
    out: Option<PathBuf>,
    /// The sources.
    pub sources: Sources,
    /// The system they make.
    pub system: System,
}

/// What reading a project gave.
pub struct Reading {
    /// The project, where it holds no errors.
    pub loaded: Option<Loaded>,
    /// What there is to say of it.
    pub said: String,
    /// The same, where it holds errors.
    pub refused: Option<Refused>,
    /// Every file and folder that was asked for.
    pub asked: BTreeSet<PathBuf>,
    /// The same number as long as what was read is the same.
    pub print: u64,
}

impl Loaded {
    /// Reads a project and prints what is wrong with it. What killed runs left behind is put in order before.
    fn read(root: &Path) -> Result<Loaded, Failure> {
        if !root.is_dir() {
            return Err(Failure::Message(format!("error: there is no folder `{}`", root.display())));
        }
        recover(root)?;
        let reading = Loaded::load(root);
        match (reading.loaded, reading.refused) {
            (Some(loaded), _) => {
                say::error(format_args!("{}", reading.said), "");
                Ok(loaded)
            }
            (None, Some(refused)) => Err(Failure::Sources(Box::new(refused))),
            (None, None) => Err(Failure::Said),
        }
    }

    /// The same, with outputs in another folder where one is named.
    fn read_for(root: &Path, out: Option<&Path>) -> Result<Loaded, Failure> {
        Ok(Loaded::read(root)?.with_out(out))
    }

    /// The same with outputs in another folder, wherever that is.
    pub fn with_out(self, out: Option<&Path>) -> Loaded {
        Loaded { out: out.map(Path::to_owned), ..self }
    }

    /// Reads a project.
    pub fn load(root: &Path) -> Reading {
        let files = Folder::new(root);
        let project = registry::load(&files);
        let mut said = terminal::render_some(&project.diagnostics, &project.sources, root);
        let errors = project.diagnostics.iter().filter(|d| d.level == Level::Error).count() as u64;
        let mut hasher = DefaultHasher::new();
        said.hash(&mut hasher);
        project.sources.all().for_each(|source| (&source.path, &source.text).hash(&mut hasher));
        let asked = files.asked();
        let consequence = format!("{}; nothing was written", count(errors, "error"));
        let (diagnostics, sources, root) = (project.diagnostics, project.sources, root.to_owned());
        let (loaded, refused) = match project.system {
            Some(system) => (Some(Loaded { root, files, out: None, sources, system }), None),
            None => {
                said.push_str(&format!("{consequence}\n"));
                (None, Some(Refused { root, diagnostics, sources, consequence }))
            }
        };
        Reading { loaded, said, refused, asked, print: hasher.finish() }
    }

    /// The folder that everything is written to.
    pub fn folder(&self) -> PathBuf {
        match &self.out {
            Some(out) => out.clone(),
            None => self.root.join(&self.system.manifest.stylesheet.folder.value),
        }
    }

    /// What mends are tried on.
    pub fn project(&self) -> Project<'_> {
        Project { files: &self.files, sources: &self.sources, system: &self.system }
    }

    pub fn stylesheet(&self) -> Written {
        stilk_language::stylesheet::write(&self.system, &self.sources, Purpose::Page)
    }

    pub fn settings() -> Settings {
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

    fn stylesheet_name(&self, suffix: Option<&str>) -> String {
        stylesheet_name(&self.system, suffix)
    }

    /// Writes an output, by its name in the folder for them. Nothing is written outside of the project but where that was
    /// asked for.
    fn write(&self, name: &str, text: &str) -> Result<(), Failure> {
        let path = self.folder().join(name);
        let failed = |message: String| Failure::Message(format!("error: {message}"));
        if self.out.is_none() && !disk::is_below(&path, &self.root) {
            return Err(failed(format!(
                "`{}` leads out of the project, and nothing is written there\n  name the folder on the command line: `--out DIR`",
                path.display(),
            )));
        }
        if path.canonicalize().is_ok_and(|found| self.files.has_read(&found)) {
            return Err(failed(format!(
                "`{}` is a source, and an output has the same name\n  write outputs to a folder of their own: `folder = \"dist\"` under `[stylesheet]`",
                path.display(),
            )));
        }
        // What is there already need not be written: watchers sleep on.
        if disk::read(&path, text.len() as u64).is_ok_and(|found| found == text.as_bytes()) {
            return Ok(());
        }
        disk::write(&path, text).map_err(failed)
    }

    /// An output as the user can open it.
    fn shown_output(&self, name: &str) -> String {
        disk::shown(Path::new("."), &self.folder().join(name).to_string_lossy())
    }

    /// A source as it was read and as it is to be, with the mark at its beginning that some editors write.
    pub fn edited(&self, path: &str, text: &str) -> Result<Edited, Failure> {
        const MARK: &str = "\u{feff}";
        let full = self.root.join(path);
        let found = disk::read(&full, MAX_FILE_BYTES as u64)
            .map_err(|why| Failure::Message(format!("error: cannot read `{}`: {why}", full.display())))?;
        let mark = if found.starts_with(MARK.as_bytes()) { MARK } else { "" };
        let read = self.sources.find(path).map_or("", |file| &self.sources.file(file).text);
        let bytes = |text: &str| format!("{mark}{text}").into_bytes();
        Ok(Edited { path: full, before: bytes(read), after: bytes(text) })
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

/// A stylesheet's file name: the system's name in lower case, words joined by `-`, and what a file of a context adds.
pub fn stylesheet_name(system: &System, suffix: Option<&str>) -> String {
    let name = system.manifest.name.value.to_lowercase();
    let words: Vec<&str> = name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()).collect();
    let name = if words.is_empty() { "system".to_owned() } else { words.join("-") };
    match suffix {
        Some(suffix) => format!("{name}.{suffix}.css"),
        None => format!("{name}.css"),
    }
}

/// Puts in order what killed runs left behind.
fn recover(root: &Path) -> Result<(), Failure> {
    disk::remove_leftovers(root);
    match disk::journal::recover(root) {
        Ok(None) => Ok(()),
        Ok(Some(said)) => {
            tell!("note: {said}");
            Ok(())
        }
        Err(why) => Err(Failure::Message(format!("error: {why}"))),
    }
}

/// Prints a report for people; the last line says how much was looked at.
fn print_report(loaded: &Loaded, report: &Report) {
    print_report_with(loaded, report, false);
}

/// The same; with `doubts` it says of every verdict that there is none of where and why.
fn print_report_with(loaded: &Loaded, report: &Report, doubts: bool) {
    put!("{}", terminal::render_some(&report.findings, &loaded.sources, &loaded.root));
    for (reason, cases) in report.reasons.iter().filter(|_| !doubts) {
        say!("{}", unknown_in(*cases, "case", reason));
    }
    for doubt in report.doubts.iter().filter(|_| doubts) {
        let place = loaded.sources.place(doubt.span);
        let why = format!("{}: {}; the first is {} ({place})", doubt.check, doubt.reason, doubt.case);
        say!("{}", unknown_in(doubt.cases, "case", &why));
    }
    for sampled in &report.sampled {
        say!("{}", sampled_in(sampled));
    }
    say!("{}", summary(report));
}

/// That not every variant was looked at, in lines of a terminal.
fn sampled_in(sampled: &SampledControl) -> String {
    let text = format!(
        "sampled: `{}` has {}, too many where a check can tell them all apart; there at most three options were looked at \
         together, and nothing is known of {} of them",
        sampled.name,
        count(sampled.variants, "variant"),
        grouped(sampled.not_looked_at),
    );
    wrapped(&text, 78).join("\n  ")
}

/// What a former report knows, by fingerprint.
fn former(against: Option<&Path>) -> Result<Option<BTreeSet<String>>, Failure> {
    let Some(path) = against else { return Ok(None) };
    let said = |why: String| Failure::Message(format!("error: `{}` cannot be compared with: {why}", path.display()));
    const LARGEST: u64 = 64 << 20;
    let bytes = disk::read(path, LARGEST).map_err(|why| said(why.to_string()))?;
    let text = String::from_utf8(bytes).map_err(|_| said("it is not UTF-8".to_owned()))?;
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
    let how = if report.sampled.is_empty() { "looked at" } else { "sampled" };
    format!("{} {how}, {unknown}: {findings}", count(report.cases, "case"))
}

fn outcome(report: &Report) -> Outcome {
    if report.is_clean() { Outcome::Clean } else { Outcome::Findings }
}

/// The themes that hold these contexts; all where none are named.
fn themes(loaded: &Loaded, wanted: Option<&str>) -> Result<Vec<Theme>, Failure> {
    let tokens = &loaded.system.tokens;
    let Some(wanted) = wanted else { return Ok(tokens.themes()) };
    let words: Vec<&str> = wanted.split([',', ' ', '×']).filter(|word| !word.is_empty()).collect();
    let fits = |theme: &Theme| {
        let contexts: Vec<&str> = tokens
            .modifiers
            .iter()
            .zip(&theme.contexts)
            .map(|(modifier, context)| modifier.contexts[*context].value.as_str())
            .collect();
        words.iter().all(|word| contexts.contains(word))
    };
    let found: Vec<Theme> = tokens.themes().into_iter().filter(fits).collect();
    if found.is_empty() {
        let names: Vec<String> = tokens.themes().iter().map(|theme| tokens.theme_name(theme)).collect();
        return Err(Failure::Message(format!(
            "error: there is no theme `{wanted}`: the themes are {}",
            names.join("; ")
        )));
    }
    Ok(found)
}
