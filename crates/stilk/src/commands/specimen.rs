//! `stilk specimen`: every variant in every state, on one page.

use super::Loaded;
use crate::{Failure, Outcome};
use std::path::Path;
use stilk_core::check::Report;
use stilk_core::stylesheet::Written;

/// Draws a project's specimen.
pub fn run(root: &Path, quiet: bool) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let written = loaded.stylesheet();
    let path = write(&loaded, &written, &loaded.report(&written))?;
    if !quiet {
        anstream::println!("{path}");
    }
    Ok(Outcome::Clean)
}

/// Writes the page and returns where it is.
pub(super) fn write(loaded: &Loaded, written: &Written, report: &Report) -> Result<String, Failure> {
    let page = stilk_core::specimen::page(&loaded.system, &loaded.sources, written, &report.findings);
    let path = loaded.output("specimen.html");
    loaded.write(&path, &page)?;
    Ok(loaded.shown(&path))
}
