//! The specimen: one self-contained page that shows every variant in every state and theme, with its figures.
//!
//! The page is a tree that is encoded once. Each theme's sheet is a shadow tree: its rules cannot touch the page, nor
//! the page's rules the controls.

use crate::case::{Stage, theme_attributes};
use crate::diagnostic::Diagnostic;
use crate::dom::{Document, Element, NodeId};
use crate::engine::{Forced, Media, Stylesheet};
use crate::markup::{Mounted, Request, mount, own_ids};
use crate::source::Sources;
use crate::stylesheet::{self, Plan, Purpose, SHOWN, Written};
use crate::system::{StateId, StateSet, System};
use crate::tokens::Theme;

mod overview;
mod table;

const PAGE_CSS: &str = include_str!("page.css");
const SHEET_CSS: &str = include_str!("sheet.css");
const SCRIPT: &str = include_str!("page.js");

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
        let controls = self.system.controls.len();
        let plural = if controls == 1 { "control" } else { "controls" };
        let names: Vec<String> = views(self.system).into_iter().map(|view| view.name).collect();
        self.add_text(header, "p", &[], &format!("{controls} {plural}, drawn in {}", names.join("; ")));
        let nav = self.add(header, "nav", &[("aria-label", "Controls")]);
        let index = self.add(nav, "ul", &[]);
        for control in &self.system.controls {
            let item = self.add(index, "li", &[]);
            let target = format!("#control-{}", control.name.value);
            self.add_text(item, "a", &[("href", &target)], &control.name.value);
        }
        let main = self.add(body, "main", &[]);
        self.overview(main);
        if !findings.is_empty() {
            self.findings(main, findings);
        }
        let themes: Vec<Theme> = views(self.system).into_iter().filter(|v| v.is_main).map(|view| view.theme).collect();
        for control in &self.system.controls {
            self.control(main, control, &themes);
        }
        let css = self.css.clone();
        let css = self.add_text(body, "template", &[("id", "system")], &css);
        debug_assert!(self.document.element(css).is_some());
        self.add_text(body, "script", &[], SCRIPT);
    }

    /// A shadow tree: the system's rules cannot touch the page, nor the page's rules the controls.
    fn shadow(&mut self, host: NodeId) -> NodeId {
        let shadow = self.add(host, "template", &[("shadowrootmode", "open")]);
        self.add_text(shadow, "style", &[], SHEET_CSS);
        shadow
    }

    /// A surface in a theme, inside a shadow tree.
    fn ground(&mut self, parent: NodeId, view: &View, class: &str) -> NodeId {
        let attributes = theme_attributes(self.system, &view.theme);
        let plan = Plan::new(self.system);
        let surface = self.system.surfaces.first().map(|(_, id)| plan.read_anywhere(self.system, *id));
        let style = surface.map_or_else(String::new, |css| format!("background-color: {css}"));
        let mut pairs: Vec<(&str, &str)> = attributes.iter().map(|(n, v)| (n.as_str(), v.as_str())).collect();
        pairs.extend([("class", class), ("style", style.as_str())]);
        if view.rtl {
            pairs.push(("dir", "rtl"));
        }
        self.add(parent, "div", &pairs)
    }

    /// Mounts a control as a picture: it cannot be reached, and its row and column say what it is.
    fn picture(&mut self, parent: NodeId, request: Request) {
        let mount_point = self.add(parent, "div", &[("class", "mount"), ("inert", "")]);
        let mut forced = Forced::default();
        let mounted = mount(self.system, request, &mut self.document, mount_point, &mut forced);
        self.mounted += 1;
        own_ids(&mut self.document, mounted.host, &format!("s{}", self.mounted));
        self.show_states(&mounted, request.states);
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

    /// Puts interaction states where the specimen's own stylesheet looks for them.
    fn show_states(&mut self, mounted: &Mounted, states: &StateSet) {
        let name = |id: &StateId| self.system.states.get(*id).name.clone();
        let mut marks: Vec<(NodeId, String)> = states.ids().iter().map(|id| (mounted.host, name(id))).collect();
        for (id, part) in states.of_parts() {
            // A pointer over a part is over the control.
            marks.push((mounted.host, name(id)));
            marks.extend(mounted.parts.iter().find(|(known, _)| known == part).map(|(_, node)| (*node, name(id))));
        }
        // No attribute makes a checkbox mixed: the page's script does.
        if states.ids().iter().any(|id| self.system.states.get(*id).name == "mixed")
            && let Some(element) = self.document.element_mut(mounted.bearer)
        {
            element.set(SHOWN, "mixed");
        }
        // Where the focus is, it is within all around.
        if marks.iter().any(|(_, name)| name == "focus") {
            marks.push((mounted.host, "focus-within".to_owned()));
        }
        marks.retain(|(_, name)| ["hover", "focus", "active", "focus-within"].contains(&name.as_str()));
        for (node, name) in marks {
            if let Some(element) = self.document.element_mut(node) {
                let known = element.attribute(SHOWN).map_or_else(String::new, |known| format!("{known} "));
                element.set(SHOWN, format!("{known}{name}"));
            }
        }
    }
}

/// A theme to be looked at, left to right or right to left.
struct View {
    name: String,
    theme: Theme,
    rtl: bool,
    /// Whether it is one of the main themes, in which everything is drawn.
    is_main: bool,
}

/// The contexts of the first modifier; then the others' in its default; then right to left.
fn views(system: &System) -> Vec<View> {
    let tokens = &system.tokens;
    let default = tokens.default_theme();
    let mut views = Vec::new();
    let view = |theme: Theme, rtl: bool, is_main: bool| {
        let name = match (tokens.theme_name(&theme), rtl) {
            (name, false) if name.is_empty() => "the one theme".to_owned(),
            (name, false) => name,
            (name, true) => format!("{name}, right to left").trim_start_matches(", ").to_owned(),
        };
        View { name, theme, rtl, is_main }
    };
    for (m, modifier) in tokens.modifiers.iter().enumerate() {
        let mut order: Vec<usize> = (0..modifier.contexts.len()).collect();
        order.sort_by_key(|c| *c != modifier.default);
        for context in order.into_iter().filter(|c| m == 0 || *c != modifier.default) {
            let mut theme = default.clone();
            theme.contexts[m] = context;
            views.push(view(theme, false, m == 0));
        }
    }
    if views.is_empty() {
        views.push(view(default.clone(), false, true));
    }
    views.push(view(default, true, false));
    views
}
