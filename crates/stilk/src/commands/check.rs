//! `stilk check`: every case, judged.

use super::{Loaded, outcome, print_report};
use crate::output::json;
use crate::{Failure, Format, Outcome};
use std::path::Path;

/// Checks a project.
pub fn run(root: &Path, format: Format, quiet: bool) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let report = loaded.report(&loaded.stylesheet());
    match format {
        Format::Json => anstream::print!("{}", json::render(&report, &loaded.sources, &loaded.root)),
        Format::Text if quiet && report.findings.is_empty() => {}
        Format::Text => print_report(&loaded, &report),
    }
    Ok(outcome(&report))
}
