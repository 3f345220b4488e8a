//! The specimen: one self-contained page that shows every variant in every state and theme, with its figures.
//!
//! The page is a tree that is encoded once. Each theme's sheet is a shadow tree: its rules cannot touch the page, nor
//! the page's rules the controls.

use crate::case::{Stage, Unit, state_sets, theme_attributes};
use crate::check::{Figure, contrast_figure};
use crate::diagnostic::Diagnostic;
use crate::dom::{Document, Element, NodeId};
use crate::engine::{Forced, Media, Stylesheet};
use crate::markup::{Mounted, Request, mount, own_ids};
use crate::source::Sources;
use crate::stylesheet::{self, Plan, Purpose, SHOWN, Written};
use crate::system::{Control, StateId, StateSet, System, Variant};
use crate::tokens::Theme;

const PAGE_CSS: &str = include_str!("page.css");
const SHEET_CSS: &str = include_str!("sheet.css");

/// Draws the page from the stylesheet that was written and the findings of the checks.
pub fn page(system: &System, sources: &Sources, written: &Written, findings: &[Diagnostic]) -> String {
    let parsed = Stylesheet::parse(&written.text);
    let stage = Stage::new(system, written, &parsed, Media::default());
    let shown = stylesheet::write(system, sources, Purpose::Specimen);
    let mut page = Page { system, sources, stage, css: shown.text, document: Document::new(), mounted: 0 };
    page.draw(findings);
    let html = page.document.child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
    format!("<!doctype html>\n{}\n", page.document.to_html(html))
}

struct Page<'p> {
    system: &'p System,
    sources: &'p Sources,
    stage: Stage<'p>,
    css: String,
    document: Document,
    /// How many controls were mounted: each has ids of its own.
    mounted: u64,
}

impl Page<'_> {
    fn add(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)]) -> NodeId {
        let mut element = Element::html(name);
        for (name, value) in attributes {
            element.set(name, *value);
        }
        self.document.append_element(parent, element)
    }

    fn add_text(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)], text: &str) -> NodeId {
        let node = self.add(parent, name, attributes);
        self.document.append_text(node, text);
        node
    }

    /// Text in which backticks mark code.
    fn add_prose(&mut self, parent: NodeId, text: &str) {
        for (i, piece) in text.split('`').enumerate() {
            if i % 2 == 1 {
                self.add_text(parent, "code", &[], piece);
            } else {
                self.document.append_text(parent, piece);
            }
        }
    }

    fn draw(&mut self, findings: &[Diagnostic]) {
        let name = self.system.manifest.name.value.clone();
        let html = self.add(Document::ROOT, "html", &[("lang", "en")]);
        let head = self.add(html, "head", &[]);
        self.add(head, "meta", &[("charset", "utf-8")]);
        self.add(head, "meta", &[("name", "viewport"), ("content", "width=device-width, initial-scale=1")]);
        self.add_text(head, "title", &[], &format!("{name}: specimen"));
        self.add_text(head, "style", &[], PAGE_CSS);
        let body = self.add(html, "body", &[]);
        let header = self.add(body, "header", &[]);
        self.add_text(header, "p", &[("class", "kind")], "Specimen sheet");
        self.add_text(header, "h1", &[], &name);
        let themes = self.system.tokens.themes();
        let names: Vec<String> = themes.iter().map(|theme| self.system.tokens.theme_name(theme)).collect();
        let controls = self.system.controls.len();
        let plural = if controls == 1 { "control" } else { "controls" };
        self.add_text(header, "p", &[], &format!("{controls} {plural} in {}", names.join(", ")));
        let main = self.add(body, "main", &[]);
        if !findings.is_empty() {
            self.findings(main, findings);
        }
        for control in &self.system.controls {
            self.control(main, control, &themes);
        }
    }

    fn findings(&mut self, main: NodeId, findings: &[Diagnostic]) {
        let section = self.add(main, "section", &[("class", "findings"), ("aria-labelledby", "findings")]);
        self.add_text(section, "h2", &[("id", "findings")], "To mend");
        let list = self.add(section, "ul", &[]);
        for finding in findings {
            let item = self.add(list, "li", &[]);
            let strong = self.add(item, "strong", &[]);
            self.add_prose(strong, &finding.message);
            let cases = finding.evidence.as_ref().map_or(0, |e| e.cases);
            let place = finding.span.map_or_else(String::new, |span| format!(" · {}", self.sources.place(span)));
            self.add_text(item, "p", &[("class", "figures")], &format!("{} · {cases} cases{place}", finding.id));
            if let Some(mend) = &finding.mend {
                let paragraph = self.add(item, "p", &[]);
                self.add_prose(paragraph, mend);
            }
        }
    }

    fn control(&mut self, main: NodeId, control: &Control, themes: &[Theme]) {
        let id = format!("control-{}", control.name.value);
        let section = self.add(main, "section", &[("class", "control"), ("aria-labelledby", &id)]);
        let label = self.add(section, "div", &[("class", "label")]);
        self.add_text(label, "h2", &[("id", &id)], &control.name.value);
        let hosts: Vec<&str> = control.template.hosts.iter().map(|host| host.name.as_str()).collect();
        let axes: Vec<&str> = control.axes.iter().map(|axis| axis.name.as_str()).collect();
        let figures = self.add(label, "dl", &[]);
        let variants = control.variant_count(0).to_string();
        let place = self.sources.place(control.name.span);
        for (term, text) in
            [("hosts", hosts.join(", ")), ("axes", axes.join(" × ")), ("variants", variants), ("place", place)]
        {
            self.add_text(figures, "dt", &[], term);
            self.add_text(figures, "dd", &[], &text);
        }
        for theme in themes {
            self.theme(section, control, theme);
        }
    }

    fn theme(&mut self, section: NodeId, control: &Control, theme: &Theme) {
        let name = self.system.tokens.theme_name(theme);
        self.add_text(section, "h3", &[], &name);
        // Every focusable scroll area needs a name.
        let label = format!("{} in {name}", control.name.value);
        let sheet = self.add(
            section,
            "div",
            &[("class", "sheet"), ("role", "region"), ("aria-label", &label), ("tabindex", "0")],
        );
        let shadow = self.add(sheet, "template", &[("shadowrootmode", "open")]);
        let css = self.css.clone();
        self.add_text(shadow, "style", &[], &css);
        self.add_text(shadow, "style", &[], SHEET_CSS);
        let sets = shown_sets(self.system, control);
        let attributes = theme_attributes(self.system, theme);
        let mut pairs: Vec<(&str, &str)> = attributes.iter().map(|(n, v)| (n.as_str(), v.as_str())).collect();
        let plan = Plan::new(self.system);
        let ground = self.system.surfaces.first().map(|(_, id)| plan.read_anywhere(self.system, *id));
        let style = ground.map_or_else(String::new, |css| format!("background-color: {css}"));
        pairs.extend([("class", "ground"), ("style", style.as_str())]);
        let ground = self.add(shadow, "div", &pairs);
        let table = self.add(ground, "table", &[]);
        let head = self.add(table, "thead", &[]);
        let row = self.add(head, "tr", &[]);
        self.add_text(row, "th", &[("scope", "col")], "variant");
        for set in &sets {
            let title = self.system.states.set_name(set).replace('+', " + ");
            self.add_text(row, "th", &[("scope", "col")], &title);
        }
        let body = self.add(table, "tbody", &[]);
        for variant in control.variants(0) {
            self.row(body, control, 0, &variant, theme, &sets);
        }
        for host in 1..control.template.hosts.len() {
            let plain = control.variants(host).into_iter().min_by_key(|v| control.spoken_options(v).count());
            if let Some(variant) = plain {
                self.row(body, control, host, &variant, theme, &sets);
            }
        }
    }

    fn row(
        &mut self,
        body: NodeId,
        control: &Control,
        host: usize,
        variant: &Variant,
        theme: &Theme,
        sets: &[StateSet],
    ) {
        let row = self.add(body, "tr", &[]);
        let words: Vec<&str> = control.spoken_options(variant).map(|id| control.option_name(id)).collect();
        let name = match (host, words.is_empty()) {
            (0, true) => "default".to_owned(),
            (0, false) => words.join(" "),
            _ => match control.template.document.element(control.template.hosts[host].node).map(Element::local) {
                Some("input") => format!("as input {}", control.template.hosts[host].name),
                _ => format!("as {}", control.template.hosts[host].name),
            },
        };
        self.add_text(row, "th", &[("scope", "row")], &name);
        let unit = Unit { control, host, variant: variant.clone(), theme: theme.clone() };
        for states in sets {
            let cell = self.add(row, "td", &[]);
            // The picture is for the eye: what it shows is named by its row and column.
            let mount_point = self.add(cell, "div", &[("class", "mount"), ("inert", "")]);
            let look = self.stage.look(&unit, states);
            let figure = contrast_figure(self.system, &look, states);
            let mut forced = Forced::default();
            let request = Request { control, host, variant, states };
            let mounted = mount(self.system, request, &mut self.document, mount_point, &mut forced);
            self.mounted += 1;
            own_ids(&mut self.document, mounted.host, &format!("s{}", self.mounted));
            self.show_states(&mounted, states);
            self.figure(cell, &figure);
        }
    }

    /// Puts interaction states where the specimen's own stylesheet looks for them.
    fn show_states(&mut self, mounted: &Mounted, states: &StateSet) {
        let name = |id: &StateId| self.system.states.get(*id).name.clone();
        let mut marks: Vec<(NodeId, String)> = states.ids().iter().map(|id| (mounted.host, name(id))).collect();
        for (id, part) in states.of_parts() {
            // A pointer over a part is over the control.
            marks.push((mounted.host, name(id)));
            marks.extend(mounted.parts.iter().find(|(known, _)| known == part).map(|(_, node)| (*node, name(id))));
        }
        marks.retain(|(_, name)| ["hover", "focus", "active", "focus-within"].contains(&name.as_str()));
        for (node, name) in marks {
            if let Some(element) = self.document.element_mut(node) {
                let known = element.attribute(SHOWN).map_or_else(String::new, |known| format!("{known} "));
                element.set(SHOWN, format!("{known}{name}"));
            }
        }
    }

    fn figure(&mut self, cell: NodeId, figure: &Figure) {
        let (class, text, title) = match figure {
            Figure::Passes { ratio, needed } => ("figure", ratio.clone(), format!("contrast {ratio}, needs {needed}")),
            Figure::Fails { ratio, needed } => {
                ("figure fails", format!("✗ {ratio}"), format!("contrast {ratio} is too low: needs {needed}"))
            }
            Figure::Exempt { ratio } => {
                ("figure exempt", format!("({ratio})"), "WCAG asks no contrast of what cannot be used".to_owned())
            }
            Figure::Unknown(reason) => ("figure exempt", "unknown".to_owned(), (*reason).to_owned()),
            Figure::NoText => ("figure exempt", "no text".to_owned(), "no text is painted".to_owned()),
        };
        self.add_text(cell, "span", &[("class", class), ("title", &title)], &text);
    }
}

/// The columns: rest, then each state alone.
fn shown_sets(system: &System, control: &Control) -> Vec<StateSet> {
    state_sets(system, control).into_iter().filter(|set| set.len() < 2).collect()
}
