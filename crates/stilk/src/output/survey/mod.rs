//! What a survey found.

mod data;
mod findings;
mod overview;

use super::{count, unknown_in};
use crate::say::in_line;
pub use data::{json, markdown};
pub use overview::brief;
use stilk_survey::report::Survey;
use stilk_survey::site::Site;

/// Columns of a terminal.
const WIDTH: usize = 80;

/// How much of it a person wants to read.
#[derive(Debug, Clone, Copy, Default)]
pub struct Reading {
    /// Nothing but findings.
    pub quiet: bool,
    /// Each finding with its lines; folded otherwise, where there are many.
    pub whole: bool,
}

/// Prints what there is, then what is wrong.
pub fn print(survey: &Survey, site: &Site, reading: Reading) {
    if !reading.quiet {
        put!("{}", overview::overview(survey, site));
    }
    put!("{}", findings::render(&survey.report.findings, &site.sources, reading.whole));
    if !reading.quiet {
        for (reason, cases) in &survey.report.reasons {
            say!("{}", unknown_in(*cases, "look", reason));
        }
    }
    say!("{}", summary(survey));
}

/// The last line: how much was looked at, what was found.
pub fn summary(survey: &Survey) -> String {
    let findings = match survey.report.findings.len() as u64 {
        0 => "nothing to mend".to_owned(),
        n => count(n, "finding"),
    };
    let unknown = match survey.report.unknown {
        0 => "none unknown".to_owned(),
        n => format!("{} unknown", count(n, "verdict")),
    };
    let controls = count(survey.controls() as u64, "control");
    let looks = count(survey.looks() as u64, "look");
    format!("{}, {controls} in {looks} looked at, {unknown}: {findings}", count(survey.pages as u64, "page"))
}

/// Stylesheets that could not be had.
pub fn tell_missing(site: &Site) {
    for ((address, why), pages) in &site.missing {
        let links = if *pages == 1 { "1 page links".to_owned() } else { format!("{} link", count(*pages, "page")) };
        tell!("warning: `{}` cannot be had: {why}; {links} it, and how it looks there is not known", in_line(address));
    }
}
