//! The inventory of a site as one self-contained page: each look drawn by the page's own stylesheets in its real surroundings,
//! states beside each other, findings beside them, values with their users.
//!
//! What pages hold is text here: their scripts and whatever they load stay out of it.

mod markup;

use crate::script::script_data;
use crate::specimen::PAGE_CSS;
use serde_json::Value;
use std::collections::BTreeSet;
use stilk_checks::painted::text::Figure;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::system::StateSet;
use stilk_survey::report::{FamilyReport, LookRecord, Survey};
use stilk_survey::site::Site;
use stilk_survey::value::{Scale, Used};
use stilk_text::diagnostic::{Diagnostic, count};

const CSS: &str = include_str!("inventory.css");
const SCRIPT: &str = include_str!("inventory.js");

/// So many looks of a family are drawn, and so many findings listed.
const LOOKS: usize = 24;
const FINDINGS: usize = 40;

/// Draws a survey.
pub fn page(survey: &Survey, site: &Site) -> String {
    let mut page = Page { document: Document::new(), site, survey };
    page.draw();
    let html = page.document.child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
    format!("<!doctype html>\n{}\n", page.document.to_html(html))
}

struct Page<'p> {
    document: Document,
    site: &'p Site,
    survey: &'p Survey,
}

impl Page<'_> {
    fn add(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)]) -> NodeId {
        self.document.append_element(parent, Element::html_with(name, attributes))
    }

    fn text(&mut self, parent: NodeId, name: &str, text: &str) -> NodeId {
        let node = self.add(parent, name, &[]);
        self.document.append_text(node, text);
        node
    }

    /// Where something stands; a long path goes on behind one of its folders.
    fn place(&mut self, parent: NodeId, place: &str) {
        let node = self.add(parent, "span", &[]);
        for step in place.split_inclusive('/') {
            self.document.append_text(node, step);
            self.add(node, "wbr", &[]);
        }
    }

    fn draw(&mut self) {
        let html = self.add(Document::ROOT, "html", &[("lang", "en")]);
        let head = self.add(html, "head", &[]);
        self.add(head, "meta", &[("charset", "utf-8")]);
        self.add(head, "meta", &[("name", "viewport"), ("content", "width=device-width, initial-scale=1")]);
        self.text(head, "title", "Inventory of controls");
        self.text(head, "style", &format!("{PAGE_CSS}\n{CSS}"));
        let body = self.add(html, "body", &[]);
        let header = self.add(body, "header", &[("class", "masthead")]);
        let title = self.add(header, "div", &[("class", "title")]);
        self.text(title, "h1", "Inventory");
        let survey = self.survey;
        let words = format!(
            "{} in {} on {}, {}",
            count(survey.controls() as u64, "control"),
            count(survey.looks() as u64, "look"),
            count(survey.pages as u64, "page"),
            count(survey.report.findings.len() as u64, "finding")
        );
        self.text(title, "p", &words);
        let nav = self.add(header, "nav", &[("aria-label", "Families")]);
        let list = self.add(nav, "ul", &[]);
        for (index, report) in survey.families.iter().enumerate() {
            let item = self.add(list, "li", &[]);
            let link = self.add(item, "a", &[("href", &format!("#family-{index}"))]);
            self.document.append_text(link, &format!("{} {}", report.family.short(), report.family.count));
        }
        if !survey.near.is_empty() {
            let item = self.add(list, "li", &[]);
            let link = self.add(item, "a", &[("href", "#near")]);
            self.document.append_text(link, &format!("nearly the same {}", survey.near.len()));
        }
        if !survey.values.is_empty() {
            let item = self.add(list, "li", &[]);
            let link = self.add(item, "a", &[("href", "#values")]);
            self.document.append_text(link, "values");
        }
        let main = self.add(body, "main", &[]);
        for (index, report) in survey.families.iter().enumerate() {
            self.family(main, index, report);
        }
        self.near(main);
        self.values(main);
        self.others(main);
        let data = self.data();
        let script = self.add(body, "script", &[("type", "application/json"), ("id", "sheets")]);
        self.document.append_text(script, &script_data(&data));
        self.text(body, "script", SCRIPT);
    }

    /// The texts of the stylesheets, by list.
    fn data(&self) -> Value {
        self.site.lists.iter().map(|list| Value::from(list.texts.clone())).collect::<Vec<_>>().into()
    }

    fn family(&mut self, main: NodeId, index: usize, report: &FamilyReport) {
        let family = &report.family;
        let section = self.add(main, "section", &[("class", "control family"), ("id", &format!("family-{index}"))]);
        let label = self.add(section, "div", &[("class", "label")]);
        self.text(label, "h2", &family.name);
        let facts = self.add(label, "dl", &[]);
        let noun = if family.count == 1 { family.kind.noun() } else { family.kind.plural() };
        self.fact(facts, "controls", &format!("{} {noun}", family.count));
        let hosts: Vec<String> = family.hosts.iter().map(|(host, count)| format!("{host} {count}")).collect();
        self.fact(facts, "on", &hosts.join(", "));
        for axis in &family.axes {
            let options: Vec<String> =
                axis.options.iter().map(|(option, count)| format!("{} {count}", option.text())).collect();
            self.fact(facts, axis.name, &options.join(", "));
        }
        let missing: Vec<&str> = report.missing.iter().map(|id| id.name()).collect();
        self.fact(
            facts,
            "states",
            &if report.written.is_empty() { "none written".to_owned() } else { report.written.join(", ") },
        );
        if !missing.is_empty() {
            self.fact(facts, "not written", &missing.join(", "));
        }
        if let Some(base) = report.base {
            self.fact(facts, "base", &self.site.sources.place(base));
        }
        self.looks(section, report);
        let names = [family.name.as_str(), &family.short()].map(str::to_owned);
        let findings: Vec<&Diagnostic> = self
            .survey
            .report
            .findings
            .iter()
            .filter(|finding| {
                finding.evidence.as_ref().is_some_and(|e| e.controls.iter().any(|name| names.contains(name)))
            })
            .collect();
        self.findings(section, &findings);
    }

    fn fact(&mut self, list: NodeId, name: &str, value: &str) {
        let row = self.add(list, "div", &[]);
        self.text(row, "dt", name);
        self.text(row, "dd", value);
    }

    /// The looks of a family, states as columns.
    fn looks(&mut self, section: NodeId, report: &FamilyReport) {
        let drawn: Vec<&LookRecord> = report.looks.iter().take(LOOKS).collect();
        let states: BTreeSet<&StateSet> = drawn.iter().flat_map(|look| &look.states).map(|one| &one.states).collect();
        let mut states: Vec<&StateSet> = states.into_iter().collect();
        states.sort_by_key(|set| self.survey.system.states.precedence(set));
        let sheet = self.add(
            section,
            "div",
            &[
                ("class", "sheet"),
                ("tabindex", "0"),
                ("role", "group"),
                ("aria-label", &format!("Looks of {}", report.family.name)),
            ],
        );
        let table = self.add(sheet, "table", &[("class", "looks")]);
        let head = self.add(table, "thead", &[]);
        let row = self.add(head, "tr", &[]);
        self.text(row, "td", "");
        for set in &states {
            let cell = self.add(row, "th", &[("scope", "col")]);
            let name = self.survey.system.states.set_name(set);
            self.document.append_text(cell, &name);
        }
        let body = self.add(table, "tbody", &[]);
        for look in drawn {
            let row = self.add(body, "tr", &[]);
            let name = self.add(row, "th", &[("scope", "row")]);
            self.text(name, "b", &look.name);
            self.text(name, "span", &format!("{} on {}", count(look.controls, "place"), look.host));
            self.place(name, &look.place);
            for set in &states {
                let cell = self.add(row, "td", &[]);
                if let Some(in_state) = look.in_state(set) {
                    self.drawn(cell, look, set);
                    self.figure(cell, &in_state.figure());
                }
            }
        }
        if report.looks.len() > LOOKS {
            let more = format!("and {} more looks", report.looks.len() - LOOKS);
            self.text(section, "p", &more);
        }
    }

    /// A look in a state, drawn by its own page's stylesheets.
    fn drawn(&mut self, cell: NodeId, look: &LookRecord, states: &StateSet) {
        let page = &self.site.pages[look.page];
        let html = markup::of(self.site, &self.survey.system, look, states);
        let (list, quirks) = (page.list.to_string(), page.quirks.to_string());
        let title = format!("{} {}", look.name, self.survey.system.states.set_name(states));
        let attributes = [
            ("class", "drawn"),
            ("data-list", &*list),
            ("data-quirks", &*quirks),
            ("data-title", &*title),
            ("data-html", &*html),
        ];
        self.add(cell, "div", &attributes);
    }

    /// Looks that are nearly one, side by side, with what differs.
    fn near(&mut self, main: NodeId) {
        let survey = self.survey;
        if survey.near.is_empty() {
            return;
        }
        let section = self.add(main, "section", &[("class", "control family"), ("id", "near")]);
        let label = self.add(section, "div", &[("class", "label")]);
        self.text(label, "h2", "Nearly the same");
        for pair in survey.near.iter().take(LOOKS) {
            let words = format!("Looks of {} and {}", pair.one.name, pair.other.name);
            let attributes = [("class", "sheet"), ("tabindex", "0"), ("role", "group"), ("aria-label", &*words)];
            let sheet = self.add(section, "div", &attributes);
            let table = self.add(sheet, "table", &[("class", "looks near")]);
            let head = self.add(table, "thead", &[]);
            let row = self.add(head, "tr", &[]);
            self.text(row, "td", "");
            for look in [&pair.one, &pair.other] {
                let cell = self.add(row, "th", &[("scope", "col")]);
                self.text(cell, "b", &look.name);
                self.text(cell, "span", &format!("{} on {}", count(look.controls, "place"), look.host));
                self.place(cell, &look.place);
            }
            let body = self.add(table, "tbody", &[]);
            let row = self.add(body, "tr", &[]);
            self.add(row, "th", &[("scope", "row")]);
            for look in [&pair.one, &pair.other] {
                let cell = self.add(row, "td", &[]);
                self.drawn(cell, look, &StateSet::default());
            }
            for differing in &pair.differing {
                let row = self.add(body, "tr", &[]);
                let name = self.add(row, "th", &[("scope", "row")]);
                self.text(name, "b", &differing.property);
                for value in [&differing.one, &differing.other] {
                    let cell = self.add(row, "td", &[]);
                    if differing.property.contains("color") {
                        let swatch = format!("--swatch: {value}");
                        self.add(cell, "span", &[("class", "swatch"), ("style", &swatch)]);
                    }
                    self.text(cell, "mark", value);
                }
            }
        }
        if survey.near.len() > LOOKS {
            let more = format!("and {} more pairs", survey.near.len() - LOOKS);
            self.text(section, "p", &more);
        }
    }

    /// The contrast of what is written in a look.
    fn figure(&mut self, cell: NodeId, figure: &Figure) {
        let (class, words) = match figure {
            Figure::Passes { ratio, .. } => ("figure", format!("{ratio}:1")),
            Figure::Fails { ratio, needed } => ("figure fails", format!("{ratio}:1, needs {needed}:1")),
            Figure::Exempt { ratio } => ("figure exempt", format!("{ratio}:1")),
            Figure::Unknown(reason) => ("figure", format!("unknown: {reason}")),
            Figure::NoText => return,
        };
        let line = self.add(cell, "span", &[("class", class)]);
        self.document.append_text(line, &words);
    }

    fn findings(&mut self, section: NodeId, findings: &[&Diagnostic]) {
        if findings.is_empty() {
            return;
        }
        let details = self.add(section, "details", &[("class", "used")]);
        let errors =
            findings.iter().filter(|finding| finding.level == stilk_text::diagnostic::Level::Error).count() as u64;
        let words = format!("{}, {}", count(findings.len() as u64, "finding"), count(errors, "error"));
        self.text(details, "summary", &words);
        let list = self.add(details, "ul", &[("class", "findings")]);
        for finding in findings.iter().take(FINDINGS) {
            let item = self.add(list, "li", &[]);
            self.text(item, "strong", &finding.message);
            let place = finding.span.map_or_else(String::new, |span| self.site.sources.place(span));
            let evidence =
                finding.evidence.as_ref().and_then(stilk_text::diagnostic::Evidence::words).unwrap_or_default();
            let line = self.add(item, "p", &[("class", "figures")]);
            self.document.append_text(
                line,
                &[finding.id, &place, &evidence]
                    .into_iter()
                    .filter(|words| !words.is_empty())
                    .collect::<Vec<_>>()
                    .join(" · "),
            );
            if let Some(span) = finding.span {
                let text = self.site.sources.text(span).trim().to_owned();
                let line = self.add(item, "p", &[]);
                self.text(line, "code", &stilk_text::diagnostic::clipped(&text, 160));
            }
            if let Some(mend) = &finding.mend {
                self.text(item, "p", mend);
            }
        }
        if findings.len() > FINDINGS {
            let more = format!("and {} more", findings.len() - FINDINGS);
            self.text(details, "p", &more);
        }
    }

    /// The values in rules of controls, near twins next to each other.
    fn values(&mut self, main: NodeId) {
        let survey = self.survey;
        if survey.values.is_empty() {
            return;
        }
        let section = self.add(main, "section", &[("class", "tokens"), ("id", "values")]);
        self.text(section, "h2", "Values");
        for scale in Scale::ALL {
            let values: Vec<&Used> = survey.values.iter().filter(|value| value.scale == scale).collect();
            if values.is_empty() {
                continue;
            }
            let part = self.add(section, "section", &[]);
            let name = if values.len() == 1 { scale.one() } else { scale.name() };
            self.text(part, "h3", &format!("{} {name}", values.len()));
            let list = self.add(part, "ul", &[]);
            for value in beside_twins(&values) {
                let kind = if scale == Scale::Color { "color" } else { "value" };
                let item = self.add(list, "li", &[("class", kind)]);
                let head = self.add(item, "p", &[]);
                if scale == Scale::Color {
                    self.add(head, "span", &[("class", "swatch"), ("style", &format!("--swatch: {}", value.text))]);
                }
                self.text(head, "code", &value.text);
                let users: Vec<&str> = value.users.iter().map(String::as_str).collect();
                let words = format!("{}: {}", count(value.declarations as u64, "declaration"), users.join(", "));
                let line = self.add(item, "p", &[("class", "figures")]);
                self.document.append_text(line, &words);
                if !value.twins.is_empty() {
                    let twins: Vec<&str> = value.twins.iter().map(|(twin, _)| twin.as_str()).collect();
                    let line = self.add(item, "p", &[("class", "fails")]);
                    self.document.append_text(line, &format!("nearly {}", twins.join(", ")));
                }
            }
        }
    }

    /// What is said of no family: dropped rules, themes.
    fn others(&mut self, main: NodeId) {
        let is_other = |finding: &&Diagnostic| finding.evidence.as_ref().is_none_or(|e| e.controls.is_empty());
        let findings: Vec<&Diagnostic> = self.survey.report.findings.iter().filter(is_other).collect();
        if findings.is_empty() {
            return;
        }
        let section = self.add(main, "section", &[("class", "control"), ("id", "others")]);
        let label = self.add(section, "div", &[("class", "label")]);
        self.text(label, "h2", "Stylesheets");
        self.findings(section, &findings);
    }
}

/// Values in an order in which near ones stand next to each other.
fn beside_twins<'v>(values: &[&'v Used]) -> Vec<&'v Used> {
    let mut ordered: Vec<&Used> = Vec::new();
    let put = |value: &'v Used, ordered: &mut Vec<&'v Used>| {
        if !ordered.iter().any(|known| std::ptr::eq(*known, value)) {
            ordered.push(value);
        }
    };
    for value in values {
        put(value, &mut ordered);
        for (twin, _) in &value.twins {
            if let Some(other) = values.iter().find(|other| other.text == *twin) {
                put(other, &mut ordered);
            }
        }
    }
    ordered
}
