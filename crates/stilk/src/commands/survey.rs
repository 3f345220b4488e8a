//! `stilk survey`: what is on pages and in stylesheets that nobody wrote for Stilk.

use super::{former, scan::found_pages};
use crate::arguments::format::SurveyFormat;
use crate::disk::shown;
use crate::output::survey::{self as output, Reading};
use crate::output::{count, json, junit, markdown, sarif};
use crate::site::{Sheets, read_page, read_sheet};
use crate::{Failure, Outcome, say};
use std::collections::BTreeMap;
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::registry::CHECKS;
use stilk_survey::fault;
use stilk_survey::report::Survey;
use stilk_survey::site::Site;
use stilk_survey::survey::{Only, Request as Asked, survey};

/// What was asked.
pub struct Request<'r> {
    /// Files, folders and patterns.
    pub pages: &'r [OsString],
    /// Stylesheets that every page uses after its own.
    pub css: &'r [PathBuf],
    /// Checks, kinds of controls, or selectors.
    pub only: &'r [String],
    /// How to print.
    pub format: SurveyFormat,
    /// A former report.
    pub against: Option<&'r Path>,
    /// How much is printed.
    pub reading: Reading,
}

/// Surveys pages and prints what was found.
pub fn run(request: &Request) -> Result<Outcome, Failure> {
    let known = former(request.against)?;
    let (checks, only) = only(request.only)?;
    let (mut site, unreadable) = read("survey", request.pages, request.css)?;
    for (page, why) in &unreadable {
        tell!("error: `{page}` cannot be read: {why}");
    }
    let mut found = survey(&mut site, &Asked { only, checks: checks.clone(), threads: threads() });
    let all = found.report.findings.len();
    if let Some(known) = &known {
        found.report.findings.retain(|finding| !known.contains(&fingerprint(finding, &site.sources)));
    }
    let hidden = (all - found.report.findings.len()) as u64;
    // Paths are as the user wrote them.
    let here = Path::new(".");
    match request.format {
        SurveyFormat::Json => {
            let survey = output::json(&found, &site, here);
            say::json(&json::render_survey(&found.report, &site.sources, here, survey));
        }
        SurveyFormat::Sarif if unreadable.is_empty() => say::json(&sarif::render(&found.report, &site.sources, here)),
        SurveyFormat::Sarif => say::json(&sarif::render_failed(&found.report, &site.sources, here)),
        SurveyFormat::Junit if unreadable.is_empty() => say::markup(&junit::render(&found.report, &site.sources, here)),
        SurveyFormat::Junit => say::markup(&junit::render_failed(&found.report, &site.sources, here)),
        SurveyFormat::Markdown => {
            say::markup(&output::markdown(&found));
            say::markup(&markdown::render(&found.report, &site.sources, here, &output::summary(&found)));
        }
        SurveyFormat::Html => say::markup(&stilk_views::inventory::page(&found, &site)),
        SurveyFormat::Text => {
            // Who asks for one check wants its findings whole.
            let whole = request.reading.whole || !checks.is_empty();
            output::print(&found, &site, Reading { whole, ..request.reading });
            if hidden > 0 {
                say!("{} known from the former report, not shown", count(hidden, "finding"));
            }
        }
    }
    output::tell_missing(&site);
    match unreadable.is_empty() {
        true => Ok(super::outcome(&found.report)),
        // Of what was not read nothing is known: neither clean nor not.
        false => Err(Failure::Said),
    }
}

/// A survey of pages, of everything on them.
pub fn of(pages: &[OsString]) -> Result<Survey, Failure> {
    let (mut site, _) = read("survey", pages, &[])?;
    Ok(survey(&mut site, &Asked { threads: threads(), ..Asked::default() }))
}

pub fn threads() -> usize {
    std::thread::available_parallelism().map_or(1, std::num::NonZero::get)
}

/// What a survey is limited to: checks, and controls.
pub fn only(texts: &[String]) -> Result<(Vec<&'static str>, Vec<Only>), Failure> {
    let (mut checks, mut controls) = (Vec::new(), Vec::new());
    let mut wrong = Vec::new();
    for text in texts {
        let check = CHECKS.iter().map(|check| check.id).chain(fault::KINDS.map(|kind| kind.id)).find(|id| id == text);
        match (check, Only::read(text)) {
            (Some(id), _) => checks.push(id),
            (None, Some(only)) => controls.push(only),
            (None, None) => wrong
                .push(format!("error: `{text}` is no selector a browser would read, no kind of control and no check")),
        }
    }
    if wrong.is_empty() {
        return Ok((checks, controls));
    }
    let kinds: Vec<&str> = stilk_survey::control::Kind::ALL.iter().map(|kind| kind.noun()).collect();
    Err(Failure::Message(format!(
        "{}\n  write a selector, a check as `stilk explain` lists them, or one of: {}",
        wrong.join("\n"),
        kinds.join(", ")
    )))
}

/// Pages that could not be read, each with why.
pub type Unreadable = Vec<(String, String)>;

/// Reads the pages and what they link.
pub fn read(command: &str, pages: &[OsString], css: &[PathBuf]) -> Result<(Site, Unreadable), Failure> {
    if pages.is_empty() {
        return Err(Failure::Message(format!("error: name pages, as in `stilk {command} 'site/**/*.html'`")));
    }
    let named: Vec<PathBuf> = pages.iter().map(PathBuf::from).collect();
    let mut pages = found_pages(pages)?;
    // Templates and specimens of a system are no pages that somebody wrote, unless they are named.
    pages.retain(|page| named.contains(page) || !is_of_system(page));
    let sheets = Sheets::default();
    let mut more = Vec::new();
    for path in css {
        let name = shown(Path::new("."), &path.to_string_lossy());
        let text =
            read_sheet(path).map_err(|why| Failure::Message(format!("error: `{name}` cannot be read: {why}")))?;
        more.push(sheets.parse(Path::new(&name), &text).linked);
    }
    let (mut site, mut unreadable) = (Site::default(), Vec::new());
    let paths: BTreeMap<String, PathBuf> =
        pages.iter().map(|path| (shown(Path::new("."), &path.to_string_lossy()), path.clone())).collect();
    site.again = Some(Box::new(move |name| read_page(paths.get(name)?).ok()));
    for path in &pages {
        let name = shown(Path::new("."), &path.to_string_lossy());
        match read_page(path) {
            Err(why) => unreadable.push((name, why)),
            Ok(text) => site.add(&name, &text, &more, &mut |base, address, missing| {
                let sheet = sheets.find(path, base, address)?;
                missing.extend(sheet.missing.iter().cloned());
                Ok(sheet.linked)
            }),
        }
    }
    Ok((site, unreadable))
}

/// Whether a file is a template or an output of a system that lies in the same folder tree.
fn is_of_system(page: &Path) -> bool {
    page.ancestors().skip(1).any(|folder| {
        let first = page.strip_prefix(folder).ok().and_then(|rest| rest.components().next());
        let name = first.map(|first| first.as_os_str().to_string_lossy().into_owned());
        matches!(name.as_deref(), Some("controls" | "dist"))
            && folder.join(stilk_language::manifest::MANIFEST).is_file()
    })
}
