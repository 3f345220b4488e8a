//! `stilk check`: every case, judged.

use super::{Loaded, former, outcome, print_report_with, summary};
use crate::output::{count, json, markdown, sarif};
use crate::{Failure, Outcome, ReportFormat, say};
use std::path::Path;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::trial::{Found, prove};

/// Checks a project; against a former report, only what is new counts.
pub fn run(
    root: &Path,
    format: ReportFormat,
    against: Option<&Path>,
    only: &[String],
    (quiet, unknown): (bool, bool),
) -> Result<Outcome, Failure> {
    let only = only
        .iter()
        .map(|id| stilk_checks::registry::find(id).map(|check| check.id).ok_or_else(|| super::explain::unknown(id)))
        .collect::<Result<Vec<_>, _>>()?;
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
