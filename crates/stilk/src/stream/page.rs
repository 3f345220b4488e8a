//! One page of a stream, looked at alone, and the line that says what there is to say of it.

use super::{StreamPage, StreamSheet};
use crate::output::merged::SCHEMA;
use crate::output::{json, scan, survey};
use serde_json::{Value, json};
use std::cell::RefCell;
use std::collections::HashMap;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::Path;
use std::sync::Arc;
use stilk_checks::report::Report;
use stilk_checks::scan::{Gathered, Linked, Worker};
use stilk_engine::cascade::Stylesheet;
use stilk_language::system::System;
use stilk_survey::site::Site;
use stilk_survey::survey::{Request, survey as survey_of};
use stilk_text::source::Sources;
use url::Url;

/// What is said of a page, and for each finding what makes it one with those of other pages.
pub type Said = (Value, Vec<String>);

/// The line of a page that there is nothing to say of, and why.
fn unreadable(of: &str, url: &str, why: &str) -> Value {
    json!({ "$schema": SCHEMA, "of": of, "page": url, "error": why })
}

/// A line: what is said of a page, and for each finding what makes it one with those of other pages.
fn line(of: &str, url: &str, mut value: Value, causes: Vec<String>) -> Value {
    if let Some(findings) = value["findings"].as_array_mut() {
        for (finding, cause) in findings.iter_mut().zip(causes) {
            finding["cause"] = cause.into();
        }
    }
    let mut line = json!({ "$schema": SCHEMA, "of": of, "page": url });
    if let (Some(line), Value::Object(value)) = (line.as_object_mut(), value) {
        line.extend(value.into_iter().filter(|(name, _)| name != "$schema"));
    }
    line
}

/// The line of a page, read or not.
pub fn answer(of: &str, page: StreamPage, look: &mut dyn FnMut(&str, &str, &[StreamSheet]) -> Said) -> Value {
    let StreamPage { url, html, css } = page;
    match html {
        Err(why) => unreadable(of, &url, &why),
        Ok(html) => {
            let (value, causes) = look(&url, &html, &css);
            line(of, &url, value, causes)
        }
    }
}

/// Stylesheets that were parsed, by their text: pages of a site have theirs in common, and the engine that is made of them.
#[derive(Default)]
pub struct ParsedSheets(RefCell<HashMap<u64, Arc<Stylesheet>>>);

/// So many are kept.
const KEPT: usize = 64;

impl ParsedSheets {
    fn parse(&self, text: &str, importer: &mut dyn FnMut(&str) -> Option<String>) -> Arc<Stylesheet> {
        let mut hasher = DefaultHasher::new();
        text.hash(&mut hasher);
        let key = hasher.finish();
        if let Some(known) = self.0.borrow().get(&key) {
            return Arc::clone(known);
        }
        let mut imports = false;
        let parsed = Arc::new(Stylesheet::parse_importing(text, &mut |address: &str| {
            imports = true;
            importer(address)
        }));
        // What others are in it is another page's to say.
        if !imports {
            let mut known = self.0.borrow_mut();
            if known.len() >= KEPT {
                known.clear();
            }
            known.insert(key, Arc::clone(&parsed));
        }
        parsed
    }
}

/// A page held against a system.
pub fn scanned(
    worker: &mut Worker,
    parsed: &ParsedSheets,
    system: &System,
    url: &str,
    html: &str,
    css: &[StreamSheet],
) -> Said {
    let sheets = Given::new(url, css, parsed);
    let mut text = html.to_owned();
    // Those without an address stand after what the page has itself.
    (1..=sheets.unnamed().count()).for_each(|n| text.push_str(&format!("<link rel=stylesheet href=#css{n}>")));
    let report = worker.scan(url, &text, &mut |base, address, missing| sheets.find(base, address, missing));
    let mut gathered = Gathered::default();
    gathered.add(report);
    let (report, sources, gathered) = gathered.finish(system);
    let usage = scan::json(system, &gathered);
    (said(&report, &sources, Some(("scan", usage))), gathered.causes)
}

/// A page that nobody wrote for Stilk.
pub fn surveyed(request: &Request, parsed: &ParsedSheets, url: &str, html: &str, css: &[StreamSheet]) -> Said {
    let sheets = Given::new(url, css, parsed);
    let more: Vec<Linked> = sheets
        .unnamed()
        .enumerate()
        .map(|(at, sheet)| sheets.linked(format!("{url}#css{}", at + 1), &sheet.text, &mut Vec::new()))
        .collect();
    let mut site = Site::default();
    site.add(url, html, &more, &mut |base, address, missing| sheets.find(base, address, missing));
    let (name, text) = (url.to_owned(), html.to_owned());
    site.again = Some(Box::new(move |asked| (asked == name).then(|| text.clone())));
    let found = survey_of(&mut site, request);
    let place = |finding: &stilk_text::diagnostic::Diagnostic| {
        let Some(span) = finding.span else { return finding.message.clone() };
        match site.sources.file(span.file).path == url {
            true => finding.message.clone(),
            false => format!("{} {}", site.sources.place(span), finding.message),
        }
    };
    let causes = found.report.findings.iter().map(place).collect();
    let value = survey::json(&found, &site, Path::new("."));
    (said(&found.report, &site.sources, Some(("survey", value))), causes)
}

fn said(report: &Report, sources: &Sources, more: Option<(&str, Value)>) -> Value {
    json::value(report, sources, Path::new("."), more)
}

/// The stylesheets that came with a page, by where they are.
struct Given<'p> {
    base: Option<Url>,
    css: &'p [StreamSheet],
    parsed: &'p ParsedSheets,
    by_address: HashMap<String, &'p StreamSheet>,
}

impl<'p> Given<'p> {
    fn new(page: &str, css: &'p [StreamSheet], parsed: &'p ParsedSheets) -> Given<'p> {
        // A page's address may be a path alone: it stands in some folder then.
        let root = Url::parse("page:///").ok();
        let base = root.as_ref().and_then(|root| root.join(page).ok());
        let from = |from: &Option<Url>, address: &str| {
            let whole = from.as_ref().and_then(|from| from.join(address).ok());
            whole.map_or_else(|| address.to_owned(), String::from)
        };
        let unnamed = css.iter().filter(|sheet| sheet.url.is_none());
        let mut by_address: HashMap<String, &StreamSheet> =
            unnamed.enumerate().map(|(n, sheet)| (from(&base, &format!("#css{}", n + 1)), sheet)).collect();
        // An address is as whole as the page's own, or as the page writes it.
        for origin in [&root, &base] {
            for sheet in css {
                if let Some(url) = &sheet.url {
                    by_address.entry(from(origin, url)).or_insert(sheet);
                }
            }
        }
        Given { base, css, parsed, by_address }
    }

    fn unnamed(&self) -> impl Iterator<Item = &'p StreamSheet> {
        self.css.iter().filter(|sheet| sheet.url.is_none())
    }

    fn find(&self, base: Option<&str>, address: &str, missing: &mut Vec<(String, String)>) -> Result<Linked, String> {
        let base = match base {
            Some(base) => self.base.as_ref().and_then(|page| page.join(base).ok()),
            None => self.base.clone(),
        };
        let whole =
            base.as_ref().and_then(|base| base.join(address).ok()).map_or_else(|| address.to_owned(), String::from);
        let sheet = self.by_address.get(&whole).ok_or("it did not come with the page")?;
        Ok(self.linked(sheet.url.clone().unwrap_or(whole), &sheet.text, missing))
    }

    fn linked(&self, path: String, text: &str, missing: &mut Vec<(String, String)>) -> Linked {
        let mut importer = |address: &str| {
            let base = self.base.as_ref().and_then(|base| base.join(&path).ok());
            let whole = base.and_then(|base| base.join(address).ok()).map_or_else(|| address.to_owned(), String::from);
            let found = self.by_address.get(&whole).map(|sheet| sheet.text.clone());
            if found.is_none() {
                missing.push((address.to_owned(), "it did not come with the page".to_owned()));
            }
            found
        };
        let parsed = self.parsed.parse(text, &mut importer);
        missing.retain(|(address, _)| !parsed.unneeded.contains(address));
        Linked { path, text: text.into(), parsed }
    }
}
