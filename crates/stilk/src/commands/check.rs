//! `stilk check`: every case, judged.

use super::{Loaded, former, outcome, print_report_with, summary};
use crate::arguments::format::ReportFormat;
use crate::output::{count, json, junit, markdown, sarif};
use crate::watch::Changes;
use crate::{Failure, Outcome, say};
use std::io::IsTerminal;
use std::path::Path;
use std::time::Duration;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::report::Report;
use stilk_checks::run::memory::Memory;
use stilk_checks::run::run_again;
use stilk_checks::settings::Settings;
use stilk_checks::trial::{Found, prove};

/// The checks of these names.
fn ids(only: &[String]) -> Result<Vec<&'static str>, Failure> {
    let id =
        |id: &String| stilk_checks::registry::find(id).map(|check| check.id).ok_or_else(|| super::explain::unknown(id));
    only.iter().map(id).collect()
}

/// Checks a project on every save: what is found is printed at once, and on a terminal once more when mends were tried.
pub fn watch(root: &Path, only: &[String], (quiet, unknown): (bool, bool)) -> Result<Outcome, Failure> {
    let only = ids(only)?;
    if !root.is_dir() {
        return Err(Failure::Message(format!("error: there is no folder `{}`", root.display())));
    }
    let followed = root.canonicalize().unwrap_or_else(|_| root.to_owned());
    let mut changes = Changes::new(&followed)?;
    let is_terminal = std::io::stdout().is_terminal();
    let mut memory = Memory::default();
    let mut print = None;
    loop {
        let mut reading = Loaded::load(root);
        // Some editors empty a file before they write it: what is wrong is wrong a moment later too.
        if reading.loaded.is_none() {
            std::thread::sleep(MOMENT);
            reading = Loaded::load(root);
        }
        changes.follow(&reading.asked);
        if print.replace(reading.print) != Some(reading.print) {
            let again = || match is_terminal {
                // The screen is the report: what was before is gone.
                true => put!("\x1b[2J\x1b[H"),
                false => say!(""),
            };
            if let Some(loaded) = reading.loaded {
                let written = loaded.stylesheet();
                let quick = Settings { only: only.clone(), without_mends: true, ..Loaded::settings() };
                let report = run_again(&loaded.system, &loaded.sources, &written, &quick, &mut memory);
                again();
                show(&loaded, &report, quiet, unknown);
                say::flush();
                if is_terminal && !report.findings.is_empty() {
                    let settings = Settings { without_mends: false, ..quick };
                    let mut report = run_again(&loaded.system, &loaded.sources, &written, &settings, &mut memory);
                    let found = Found::new(&report.findings, &loaded.sources);
                    prove(loaded.project(), &mut report, &only, &found, &Loaded::settings());
                    again();
                    show(&loaded, &report, quiet, unknown);
                }
            } else {
                again();
                put!("{}", reading.said);
            }
            say::flush();
        }
        if !changes.wait() {
            return Ok(Outcome::Clean);
        }
    }
}

fn show(loaded: &Loaded, report: &Report, quiet: bool, unknown: bool) {
    if !(quiet && !unknown && report.findings.is_empty()) {
        print_report_with(loaded, report, unknown);
    }
}

/// How long a file may be half-written.
const MOMENT: Duration = Duration::from_millis(30);

/// Checks a project; against a former report, only what is new counts.
pub fn run(
    root: &Path,
    format: ReportFormat,
    against: Option<&Path>,
    only: &[String],
    (quiet, unknown): (bool, bool),
) -> Result<Outcome, Failure> {
    let only = ids(only)?;
    let known = former(against)?;
    let loaded = Loaded::read(root)?;
    let mut report = loaded.report_of(&loaded.stylesheet(), only.clone());
    let all = report.findings.len();
    let found = Found::new(&report.findings, &loaded.sources);
    if let Some(known) = &known {
        report.findings.retain(|finding| !known.contains(&fingerprint(finding, &loaded.sources)));
    }
    // Only what is shown is tried.
    prove(loaded.project(), &mut report, &only, &found, &Loaded::settings());
    let hidden = (all - report.findings.len()) as u64;
    let (sources, root) = (&loaded.sources, loaded.root.as_path());
    match format {
        ReportFormat::Json => say::json(&json::render(&report, sources, root, None)),
        ReportFormat::Sarif => say::json(&sarif::render(&report, sources, root)),
        ReportFormat::Junit => say::markup(&junit::render(&report, sources, root)),
        ReportFormat::Markdown => say::markup(&markdown::render(&report, sources, root, &summary(&report))),
        ReportFormat::Text if quiet && !unknown && report.findings.is_empty() => {}
        ReportFormat::Text => {
            print_report_with(&loaded, &report, unknown);
            if hidden > 0 {
                say!("{} known from the former report, not shown", count(hidden, "finding"));
            }
        }
    }
    Ok(outcome(&report))
}
