//! `stilk specimen`: every variant in every state, on one page.

use super::{Loaded, themes};
use crate::output::matrix;
use crate::{Failure, Outcome};
use std::path::Path;
use stilk_checks::report::Report;
use stilk_checks::run::memory::Memory;
use stilk_checks::run::run_again;
use stilk_language::stylesheet::Written;
use stilk_text::diagnostic::nearest;

/// Draws a project's specimen.
pub fn run(root: &Path, out: Option<&Path>, quiet: bool) -> Result<Outcome, Failure> {
    let loaded = Loaded::read_for(root, out)?;
    let written = loaded.stylesheet();
    let path = write(&loaded, &written, &loaded.report(&written))?;
    if !quiet {
        say!("{path}");
    }
    Ok(Outcome::Clean)
}

/// Prints one control as a matrix.
pub fn print(root: &Path, control: &str, theme: Option<&str>) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let Some(found) = loaded.system.control(control) else {
        let names = loaded.system.controls.iter().map(|control| control.name.value.as_str());
        let near = nearest(control, names).map_or_else(String::new, |near| format!(": write `{near}`"));
        return Err(Failure::Message(format!("error: there is no control `{control}`{near}")));
    };
    let themes = themes(&loaded, theme)?;
    put!("{}", matrix::render(&loaded.system, &loaded.stylesheet(), found, &themes));
    Ok(Outcome::Clean)
}

/// The page as text, and the report that it shows; a memory has what was found when it was drawn before.
pub fn draw(loaded: &Loaded, memory: &mut Memory) -> (String, Report) {
    let written = loaded.stylesheet();
    let report = run_again(&loaded.system, &loaded.sources, &written, &Loaded::settings(), memory);
    (stilk_views::specimen::page(&loaded.system, &loaded.sources, &written, &report.findings), report)
}

/// Writes the page and returns where it is.
pub(super) fn write(loaded: &Loaded, written: &Written, report: &Report) -> Result<String, Failure> {
    let page = stilk_views::specimen::page(&loaded.system, &loaded.sources, written, &report.findings);
    loaded.write("specimen.html", &page)?;
    Ok(loaded.shown_output("specimen.html"))
}
