//! What was said of many pages one by one, as one report. Sums, sets and the first of several by name: so that it is the same
//! however the pages were spread over machines.

use super::{count, grouped};
use serde::Deserialize;
use serde_json::{Map, Value, json};
use std::cmp::Reverse;
use std::collections::{BTreeMap, BTreeSet, HashMap};

/// The form of a page's line; its number grows when a reader would have to change.
pub const SCHEMA: &str = "urn:stilk:page:1";

/// What was merged so far.
#[derive(Default)]
pub struct Merged {
    of: Option<String>,
    pages: u64,
    with_controls: u64,
    cases: u64,
    computed: u64,
    unknown: u64,
    reasons: BTreeMap<String, u64>,
    decided: BTreeMap<String, u64>,
    findings: HashMap<(String, String), Group>,
    by_page: Vec<(Reverse<u64>, String)>,
    unreadable: BTreeSet<(String, String)>,
    missing: BTreeMap<(String, String), u64>,
    scan: ScanUse,
    families: BTreeMap<(String, String), (u64, u64)>,
}

/// One cause on all pages.
struct Group {
    /// The page that it is told of.
    page: String,
    finding: Value,
    cases: u64,
    pages: u64,
    /// The page that was taken last, by its place: one that has a cause twice is one page.
    last: u64,
}

/// What pages use of a system.
#[derive(Default)]
struct ScanUse {
    controls: BTreeMap<String, ControlUse>,
    variants: BTreeMap<String, u64>,
    unused: Option<BTreeSet<String>>,
    outside: (u64, u64),
}

#[derive(Default)]
struct ControlUse {
    used: u64,
    options: BTreeMap<String, u64>,
    states: BTreeMap<String, u64>,
}

/// A line of a page.
#[derive(Deserialize)]
struct Line {
    #[serde(rename = "$schema")]
    schema: String,
    of: String,
    page: String,
    error: Option<String>,
    #[serde(default)]
    cases: u64,
    #[serde(default)]
    computed: u64,
    #[serde(default)]
    unknown: u64,
    #[serde(default)]
    reasons: BTreeMap<String, u64>,
    #[serde(default)]
    decided: BTreeMap<String, u64>,
    #[serde(default)]
    findings: Vec<Value>,
    scan: Option<Value>,
    survey: Option<Value>,
}

impl Merged {
    /// Takes the line of a page.
    ///
    /// # Errors
    /// It is no such line, or one of another command than those before.
    pub fn add(&mut self, text: &str) -> Result<(), String> {
        let line: Line = serde_json::from_str(text).map_err(|why| why.to_string())?;
        if line.schema != SCHEMA {
            return Err(format!("its `$schema` is `{}`, not `{SCHEMA}`", line.schema));
        }
        match &self.of {
            Some(of) if *of != line.of => return Err(format!("it is of `{}`, those before are of `{of}`", line.of)),
            _ => self.of = Some(line.of),
        }
        if let Some(why) = line.error {
            self.unreadable.insert((line.page, why));
            return Ok(());
        }
        self.pages += 1;
        self.with_controls += u64::from(line.cases > 0);
        self.cases += line.cases;
        self.computed += line.computed;
        self.unknown += line.unknown;
        add_all(&mut self.reasons, line.reasons);
        add_all(&mut self.decided, line.decided);
        let places: u64 = line.findings.iter().map(|finding| whole(&finding["cases"]).max(1)).sum();
        if places > 0 {
            self.by_page.push((Reverse(places), line.page.clone()));
        }
        for finding in line.findings {
            self.add_finding(&line.page, finding);
        }
        if let Some(scan) = line.scan {
            self.add_missing(&scan);
            self.scan.add(&scan);
        }
        if let Some(survey) = line.survey {
            self.add_missing(&survey);
            for family in list(&survey["families"]) {
                let one = self.families.entry((word(&family["name"]), word(&family["kind"]))).or_default();
                *one = (one.0 + whole(&family["controls"]), one.1 + 1);
            }
        }
        Ok(())
    }

    fn add_finding(&mut self, page: &str, mut finding: Value) {
        let cause = finding.as_object_mut().and_then(|members| members.remove("cause"));
        let cause = cause.as_ref().map(word).unwrap_or_default();
        let cases = whole(&finding["cases"]);
        match self.findings.entry((word(&finding["check"]), cause)) {
            std::collections::hash_map::Entry::Vacant(entry) => {
                entry.insert(Group { page: page.to_owned(), finding, cases, pages: 1, last: self.pages });
            }
            std::collections::hash_map::Entry::Occupied(mut entry) => {
                let group = entry.get_mut();
                group.cases += cases;
                group.pages += u64::from(group.last != self.pages);
                group.last = self.pages;
                let rank = |finding: &Value, page: &str| (ratio(finding), page.to_owned());
                if rank(&finding, page) < rank(&group.finding, &group.page) {
                    (group.finding, group.page) = (finding, page.to_owned());
                }
            }
        }
    }

    fn add_missing(&mut self, of: &Value) {
        for one in list(&of["missing"]) {
            *self.missing.entry((word(&one["stylesheet"]), word(&one["why"]))).or_default() += whole(&one["pages"]);
        }
    }

    /// Whether there is anything to mend.
    pub fn has_findings(&self) -> bool {
        !self.findings.is_empty()
    }

    /// Pages that could not be read, each with why.
    pub fn unreadable(&self) -> impl Iterator<Item = &(String, String)> {
        self.unreadable.iter()
    }

    /// Findings as a report has them: the heaviest first, then those of the most places.
    fn sorted(&self) -> Vec<Value> {
        let mut found: Vec<Value> = self
            .findings
            .values()
            .map(|group| {
                let mut finding = group.finding.clone();
                finding["cases"] = group.cases.into();
                finding["pages"] = group.pages.into();
                finding
            })
            .collect();
        let weight =
            |finding: &Value| ["error", "warning", "note"].iter().position(|level| finding["level"] == **level);
        let key = |finding: &Value| {
            let (check, worst, message) = (word(&finding["check"]), word(&finding["worst"]), word(&finding["message"]));
            (weight(finding), Reverse(whole(&finding["cases"])), check, worst, message)
        };
        found.sort_by_cached_key(key);
        found
    }

    /// The report, in the schema of reports.
    pub fn report(&self) -> Value {
        let mut by_page = self.by_page.clone();
        by_page.sort();
        let missing: Vec<Value> = self
            .missing
            .iter()
            .map(|((sheet, why), pages)| json!({ "stylesheet": sheet, "why": why, "pages": pages }))
            .collect();
        let unreadable: Vec<Value> =
            self.unreadable.iter().map(|(page, why)| json!({ "page": page, "why": why })).collect();
        let mut report = json!({
            "$schema": "urn:stilk:report:1",
            "cases": self.cases,
            "computed": self.computed,
            "unknown": self.unknown,
            "reasons": self.reasons,
            "doubts": [],
            "decided": self.decided,
            "findings": self.sorted(),
            "sampled": [],
        });
        match self.of.as_deref() {
            Some("survey") => {
                report["survey"] = json!({
                    "pages": self.pages,
                    "pagesWithControls": self.with_controls,
                    "controls": self.cases,
                    "families": self.families.iter().map(|((name, kind), (controls, pages))| json!({
                        "name": name, "kind": kind, "controls": controls, "pages": pages,
                    })).collect::<Vec<_>>(),
                    "unreadable": unreadable,
                    "missing": missing,
                });
            }
            _ => {
                report["scan"] = json!({
                    "pages": self.pages,
                    "pagesWithControls": self.with_controls,
                    "controls": self.scan.controls.iter().map(|(name, one)| json!({
                        "control": name, "used": one.used, "options": one.options, "states": one.states,
                    })).collect::<Vec<_>>(),
                    "variants": self.scan.variants,
                    "unused": self.scan.unused,
                    "outside": { "controls": self.scan.outside.0, "pages": self.scan.outside.1 },
                    "findingsByPage": by_page.iter().map(|(Reverse(findings), page)| json!({
                        "page": page, "findings": findings,
                    })).collect::<Vec<_>>(),
                    "unreadable": unreadable,
                    "missing": missing,
                });
            }
        }
        report
    }

    /// The same for people.
    pub fn text(&self) -> String {
        let mut text = String::new();
        for finding in self.sorted() {
            let (level, check) = (word(&finding["level"]), word(&finding["check"]));
            text.push_str(&format!("{level}[{check}]: {}\n", word(&finding["message"])));
            let (cases, pages) = (whole(&finding["cases"]), whole(&finding["pages"]));
            text.push_str(&format!(
                "  {} on {}, the first: {}\n",
                count(cases, "place"),
                count(pages, "page"),
                word(&finding["worst"])
            ));
            if let Some(mend) = finding["mend"].as_str() {
                text.push_str(&format!("  mend: {mend}\n"));
            }
        }
        for (reason, cases) in &self.reasons {
            text.push_str(&format!("unknown in {}: {reason}\n", count(*cases, "control")));
        }
        for (page, why) in &self.unreadable {
            text.push_str(&format!("not read: {page}: {why}\n"));
        }
        let findings = match self.findings.len() as u64 {
            0 => "nothing to mend".to_owned(),
            found => count(found, "finding"),
        };
        let unread = match self.unreadable.len() as u64 {
            0 => String::new(),
            unread => format!(", {} not read", grouped(unread)),
        };
        let (pages, controls) = (count(self.pages, "page"), count(self.cases, "control"));
        text.push_str(&format!("{pages}{unread}, {controls} looked at: {findings}\n"));
        text
    }
}

impl ScanUse {
    fn add(&mut self, scan: &Value) {
        for control in list(&scan["controls"]) {
            let one = self.controls.entry(word(&control["control"])).or_default();
            one.used += whole(&control["used"]);
            add_all(&mut one.options, counts(&control["options"]));
            add_all(&mut one.states, counts(&control["states"]));
        }
        add_all(&mut self.variants, counts(&scan["variants"]));
        let unused: BTreeSet<String> = list(&scan["unused"]).iter().map(word).collect();
        self.unused = Some(match self.unused.take() {
            None => unused,
            Some(known) => in_both(&known, &unused),
        });
        let (controls, pages) = (whole(&scan["outside"]["controls"]), whole(&scan["outside"]["pages"]));
        self.outside = (self.outside.0 + controls, self.outside.1 + pages);
    }
}

/// What is in both of two lists, in which the name of a control stands for all of its options.
fn in_both(one: &BTreeSet<String>, other: &BTreeSet<String>) -> BTreeSet<String> {
    let has = |list: &BTreeSet<String>, name: &str| {
        list.contains(name) || name.split_once('.').is_some_and(|(control, _)| list.contains(control))
    };
    one.union(other).filter(|name| has(one, name) && has(other, name)).cloned().collect()
}

fn add_all(to: &mut BTreeMap<String, u64>, from: impl IntoIterator<Item = (String, u64)>) {
    for (name, more) in from {
        *to.entry(name).or_default() += more;
    }
}

fn counts(value: &Value) -> Vec<(String, u64)> {
    let members = value.as_object().into_iter().flat_map(Map::iter);
    members.map(|(name, times)| (name.clone(), whole(times))).collect()
}

fn list(value: &Value) -> &[Value] {
    value.as_array().map_or(&[], Vec::as_slice)
}

fn word(value: &Value) -> String {
    value.as_str().unwrap_or_default().to_owned()
}

fn whole(value: &Value) -> u64 {
    value.as_u64().unwrap_or(0)
}

/// The contrast that the words of a case name, in thousandths; those that name none are all alike.
fn ratio(finding: &Value) -> u64 {
    // Where pages are counted, what is named is a place.
    let text = finding["worst"].as_str().filter(|_| finding["pages"].is_null()).unwrap_or_default();
    let figure = text.find(":1").and_then(|end| text[..end].rsplit([' ', ':']).next()?.parse::<f64>().ok());
    // Contrast runs from 1 to 21: in thousandths it is a whole number for ordering.
    figure.map_or(u64::MAX, |figure| (figure * 1000.0).round().max(0.0) as u64)
}
