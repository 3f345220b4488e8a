//! A comparison as one self-contained page: what changed, drawn before and after.

use super::{Comparison, Version, step};
use crate::script::script_data;
use crate::specimen::{PAGE_CSS, show_states, surface};
use serde_json::json;
use stilk_engine::cascade::Forced;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::markup::{Request, mount_in_place, own_ids};
use stilk_language::stylesheet::{self, Purpose};
use stilk_language::system::notation as case_name;
use stilk_text::diagnostic::grouped;

const CSS: &str = include_str!("page/compare.css");
const SCRIPT: &str = include_str!("page/compare.js");

/// Draws a comparison; `names` are what the versions are called.
pub fn page(comparison: &Comparison, versions: [&Version; 2], names: [&str; 2]) -> String {
    let mut page = ComparisonPage { document: Document::new(), drawn: 0 };
    page.draw(comparison, versions, names);
    let html = page.document.child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
    format!("<!doctype html>\n{}\n", page.document.to_html(html))
}

struct ComparisonPage {
    document: Document,
    drawn: usize,
}

impl ComparisonPage {
    fn add(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)]) -> NodeId {
        self.document.append_element(parent, Element::html_with(name, attributes))
    }

    fn text(&mut self, parent: NodeId, name: &str, text: &str) -> NodeId {
        let node = self.add(parent, name, &[]);
        self.document.append_text(node, text);
        node
    }

    fn draw(&mut self, comparison: &Comparison, versions: [&Version; 2], names: [&str; 2]) {
        let system = &versions[1].system.manifest.name.value;
        let html = self.add(Document::ROOT, "html", &[("lang", "en")]);
        let head = self.add(html, "head", &[]);
        self.add(head, "meta", &[("charset", "utf-8")]);
        self.add(head, "meta", &[("name", "viewport"), ("content", "width=device-width, initial-scale=1")]);
        self.text(head, "title", &format!("{system}: {} and {}", names[0], names[1]));
        self.text(head, "style", &format!("{PAGE_CSS}\n{CSS}"));
        let body = self.add(html, "body", &[]);
        let header = self.add(body, "header", &[("class", "masthead")]);
        let title = self.add(header, "div", &[("class", "title")]);
        self.text(title, "h1", system);
        let cases = format!("{} of {} cases look different", grouped(comparison.changed), grouped(comparison.cases));
        self.text(title, "p", &format!("{} → {}: {cases}", names[0], names[1]));
        let main = self.add(body, "main", &[]);
        self.step(main, comparison);
        self.names(main, comparison);
        self.contrast(main, comparison);
        self.targets(main, comparison);
        self.motions(main, comparison);
        self.changes(main, comparison, versions);
        let styles = versions.map(|version| stylesheet::write(version.system, version.sources, Purpose::Specimen).text);
        for (name, text) in ["before", "after"].iter().zip(&styles) {
            let template = self.add(body, "template", &[("id", &format!("css-{name}"))]);
            self.document.append_text(template, text);
        }
        let data = json!({ "before": surface(versions[0].system), "after": surface(versions[1].system) });
        let script = self.add(body, "script", &[("type", "application/json"), ("id", "surfaces")]);
        self.document.append_text(script, &script_data(&data));
        self.text(body, "script", SCRIPT);
    }

    /// What no picture shows.
    fn motions(&mut self, main: NodeId, comparison: &Comparison) {
        if comparison.motions.is_empty() {
            return;
        }
        let section = self.add(main, "section", &[]);
        self.text(section, "h2", "Motion");
        let list = self.add(section, "ul", &[]);
        for motion in &comparison.motions {
            self.text(list, "li", &motion.words());
        }
    }

    fn step(&mut self, main: NodeId, comparison: &Comparison) {
        let (step, reasons) = step(comparison);
        let section = self.add(main, "section", &[("class", "step")]);
        self.text(section, "h2", &format!("Asks for a {} step", step.word()).replace("a none step", "no step"));
        let list = self.add(section, "ul", &[]);
        for reason in reasons {
            self.text(list, "li", &reason);
        }
    }

    fn table(&mut self, main: NodeId, title: &str, columns: &[&str], rows: Vec<Vec<String>>) {
        if rows.is_empty() {
            return;
        }
        let section = self.add(main, "section", &[]);
        self.text(section, "h2", title);
        let scroll = self.add(
            section,
            "div",
            &[("class", "scroll"), ("tabindex", "0"), ("role", "group"), ("aria-label", title)],
        );
        let table = self.add(scroll, "table", &[("class", "facts")]);
        let head = self.add(table, "thead", &[]);
        let row = self.add(head, "tr", &[]);
        for column in columns {
            let cell = self.add(row, "th", &[("scope", "col")]);
            self.document.append_text(cell, column);
        }
        let body = self.add(table, "tbody", &[]);
        for cells in rows {
            let row = self.add(body, "tr", &[]);
            for cell in cells {
                self.text(row, "td", &cell);
            }
        }
    }

    fn names(&mut self, main: NodeId, comparison: &Comparison) {
        let none = || "–".to_owned();
        let rows = comparison.names.list.iter().map(|change| {
            let (old, new) = (change.old.clone().unwrap_or_else(none), change.new.clone().unwrap_or_else(none));
            vec![change.kind.word().to_owned(), old, new, change.written.clone()]
        });
        self.table(main, "Names", &["of a", "before", "after", "written"], rows.collect());
    }

    fn contrast(&mut self, main: NodeId, comparison: &Comparison) {
        let rows = comparison.contrast.iter().map(|one| {
            let verdict = if one.is_lost() { "lost" } else { "gained" };
            let ratio = |value: f64| format!("{value:.2}:1");
            vec![
                verdict.to_owned(),
                one.example.clone(),
                ratio(one.old),
                ratio(one.new),
                ratio(one.needed),
                grouped(one.cases),
            ]
        });
        self.table(main, "Contrast", &["", "worst case", "before", "after", "needed", "cases"], rows.collect());
    }

    fn targets(&mut self, main: NodeId, comparison: &Comparison) {
        let size = |(width, height): (f64, f64)| format!("{width:.1}×{height:.1}px");
        let rows = comparison.targets.iter().map(|one| {
            let is_lost = one.new.0.min(one.new.1) < one.needed;
            let verdict = if is_lost { "lost" } else { "gained" };
            vec![verdict.to_owned(), one.example.clone(), size(one.old), size(one.new), format!("{}px", one.needed)]
        });
        self.table(main, "Targets", &["", "first case", "before", "after", "needed"], rows.collect());
    }

    fn changes(&mut self, main: NodeId, comparison: &Comparison, versions: [&Version; 2]) {
        for change in &comparison.changes {
            let section = self.add(main, "section", &[("class", "change")]);
            self.text(section, "h2", &change.cause);
            let controls: Vec<&str> = change.controls.iter().map(String::as_str).collect();
            let said = format!("{} cases of {}", grouped(change.cases), stilk_text::diagnostic::list(&controls));
            let figures = self.add(section, "p", &[("class", "figures")]);
            self.document.append_text(figures, &said);
            for ((old, new), themes) in change.values_by_theme() {
                self.text(section, "p", &format!("{old} → {new} in {}", themes.join(", ")));
            }
            let list = self.add(section, "dl", &[]);
            for (names, (old, new)) in change.properties_by_value() {
                self.text(list, "dt", &names.join(", "));
                self.text(list, "dd", &format!("{old} → {new}"));
            }
            let pair = self.add(section, "div", &[("class", "pair")]);
            for (index, name) in ["before", "after"].into_iter().enumerate() {
                self.picture(pair, name, versions[index], change);
            }
            let caption = self.add(section, "p", &[("class", "figures")]);
            self.document.append_text(caption, &change.example);
        }
    }

    /// A case of one version, kept in a template until the page's script mounts it in a tree of its own.
    fn picture(&mut self, pair: NodeId, name: &str, version: &Version, change: &super::Change) {
        let system = version.system;
        // States of parts have no notation; the control itself is there in any case.
        let plain = change.case.split(':').next().unwrap_or_default();
        let named = case_name::parse(system, &change.case).or_else(|_| case_name::parse(system, plain));
        let Ok(named) = named else { return };
        let figure = self.add(pair, "figure", &[]);
        self.text(figure, "figcaption", name);
        let place = self.add(figure, "div", &[("class", "place"), ("data-css", name)]);
        let contexts: serde_json::Map<String, serde_json::Value> = change
            .contexts
            .iter()
            .map(|(modifier, context)| (system.manifest.attribute_of(modifier), context.as_str().into()))
            .collect();
        if let Some(element) = self.document.element_mut(place) {
            element.set("data-contexts", serde_json::Value::Object(contexts).to_string());
        }
        let template = self.add(place, "template", &[]);
        let mount_point = self.add(template, "div", &[("class", "mount"), ("inert", "")]);
        let request = Request {
            control: named.control,
            host: named.host,
            variant: &named.variant,
            states: &named.states,
            plain: false,
        };
        let mounted = mount_in_place(system, request, &mut self.document, mount_point, &mut Forced::default());
        self.drawn += 1;
        own_ids(system, &mut self.document, mounted.root, &format!("c{}", self.drawn));
        show_states(system, &mut self.document, &mounted, &named.states);
    }
}
