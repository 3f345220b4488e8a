//! `stilk scan --stream` and `stilk survey --stream`: a page in, a line out, for engines that spread pages over machines.

use super::{Loaded, survey};
use crate::stream::{self, Pages, ParsedSheets};
use crate::{Failure, Outcome, say};
use serde_json::Value;
use std::path::Path;
use stilk_checks::scan::{Scanner, Worker};
use stilk_language::stylesheet::file_suffixes;
use stilk_survey::survey::Request;

/// Holds the pages on standard input against a system.
pub fn scan(root: &Path) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let written = loaded.stylesheet();
    let names = file_suffixes(&loaded.system).iter().map(|suffix| loaded.stylesheet_name(suffix.as_deref())).collect();
    let scanner = Scanner::new(&loaded.system, &written, names);
    let mut worker = Worker::new(&scanner);
    let parsed = ParsedSheets::default();
    each(|page| {
        stream::answer("scan", page, &mut |url, html, css| {
            stream::scanned(&mut worker, &parsed, &loaded.system, url, html, css)
        })
    })
}

/// Surveys the pages on standard input, each alone.
pub fn survey(only: &[String]) -> Result<Outcome, Failure> {
    let (checks, only) = survey::only(only)?;
    let request = Request { only, checks, threads: 1 };
    let parsed = ParsedSheets::default();
    each(|page| {
        stream::answer("survey", page, &mut |url, html, css| stream::surveyed(&request, &parsed, url, html, css))
    })
}

/// Answers page after page, as they come. That there are findings is no failure: an engine would take it for one.
fn each(mut answer: impl FnMut(stream::StreamPage) -> Value) -> Result<Outcome, Failure> {
    let failed = |why: std::io::Error| Failure::Message(format!("error: the stream cannot be read: {why}"));
    for page in Pages::new(std::io::stdin()).map_err(failed)? {
        say::json(&format!("{}\n", answer(page.map_err(failed)?)));
        say::flush();
    }
    Ok(Outcome::Clean)
}
