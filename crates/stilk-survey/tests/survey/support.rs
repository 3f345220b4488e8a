//! Sites made of texts, and what a survey says of them in words.

use std::sync::Arc;
use stilk_checks::scan::Linked;
use stilk_engine::cascade::Stylesheet;
use stilk_survey::family::Family;
use stilk_survey::report::{FamilyReport, Survey};
use stilk_survey::site::Site;
use stilk_survey::survey::{Request, survey};
use stilk_text::diagnostic::Diagnostic;

/// A site of pages that link stylesheets by their names.
pub fn site(pages: &[(&str, &str)], sheets: &[(&str, &str)]) -> Site {
    let mut site = Site::default();
    for (path, text) in pages {
        site.add(path, text, &[], &mut |_, address, _| match sheets.iter().find(|(name, _)| *name == address) {
            Some((name, text)) => Ok(linked(name, text)),
            None => Err("there is no such file".to_owned()),
        });
    }
    site
}

pub fn linked(name: &str, text: &str) -> Linked {
    Linked { path: name.to_owned(), text: text.into(), parsed: Arc::new(Stylesheet::parse(text)) }
}

/// A survey of one page in standards mode, its stylesheet at line 3 and its body behind it.
pub fn of_page(css: &str, body: &str) -> (Site, Survey) {
    let page = format!(
        "<!doctype html><html lang=en><meta charset=utf-8><title>x</title>\n<style>\n{css}\n</style>\n<body>\n{body}\n"
    );
    let mut site = site(&[("page.html", &page)], &[]);
    let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
    (site, found)
}

/// The family with this name.
pub fn family<'s>(survey: &'s Survey, name: &str) -> &'s FamilyReport {
    let names = || survey.families.iter().map(|report| report.family.name.as_str()).collect::<Vec<_>>();
    let is_it = |report: &&FamilyReport| report.family.name == name;
    survey.families.iter().find(is_it).unwrap_or_else(|| panic!("no family {name}: {:?}", names()))
}

/// Its axes: what they set, and their options.
pub fn axes(family: &Family) -> Vec<String> {
    let options = |axis: &stilk_survey::family::Axis| {
        let mut options: Vec<String> = axis.options.iter().map(|(option, _)| option.text()).collect();
        options.sort();
        options.join(" ")
    };
    family.axes.iter().map(|axis| format!("{}: {}", axis.name, options(axis))).collect()
}

/// Each finding as `check line message`.
pub fn findings(site: &Site, survey: &Survey) -> Vec<String> {
    let said = |finding: &Diagnostic| {
        let line = finding.span.map_or(0, |span| site.sources.position(span).line);
        format!("{} {line} {}", finding.id, finding.message)
    };
    survey.report.findings.iter().map(said).collect()
}

/// What is found by one check alone: the lines and messages.
pub fn said_by(check: &str, css: &str, body: &str) -> Vec<String> {
    let (site, survey) = of_page(css, body);
    let all = findings(&site, &survey);
    all.iter().filter_map(|said| said.strip_prefix(check)?.strip_prefix(' ')).map(str::to_owned).collect()
}
