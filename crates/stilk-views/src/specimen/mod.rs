//! The specimen: one self-contained page, the system's style guide. Every control in every option, state and theme, with
//! its figures; the control itself to try; markup to copy; the tokens behind it.
//!
//! The page is a tree that is encoded once. A picture is kept once and mounted for each theme by the page's script, in a
//! shadow tree of its own: the system's rules cannot touch the page, nor the page's rules the controls.

use stilk_engine::cascade::{Forced, Media, Stylesheet};
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::case::{LookEngine, theme_attributes};
use stilk_language::markup::{Mounted, Request, mount_in_place, own_ids};
use stilk_language::stylesheet::{self, Plan, Purpose, SHOWN, Written};
use stilk_language::system::{StateId, StateSet, System};
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::Sources;

mod control;
mod data;
mod overview;
pub mod table;
mod tokens;
mod ways;

pub(crate) const PAGE_CSS: &str = include_str!("page/page.css");
const GROUND_CSS: &str = include_str!("page/ground.css");
const SCRIPTS: [&str; 5] = [
    include_str!("page/view.js"),
    include_str!("page/mount.js"),
    include_str!("page/room.js"),
    include_str!("page/try.js"),
    include_str!("page/start.js"),
];

/// Draws the page from the stylesheet that was written and the findings of the checks.
pub fn page(system: &System, sources: &Sources, written: &Written, findings: &[Diagnostic]) -> String {
    let parsed = Stylesheet::parse(&written.text);
    let look_engine = LookEngine::new(system, written, &parsed, Media::default());
    let mut page = SpecimenPage { system, sources, look_engine, findings, document: Document::new(), mounted: 0 };
    page.draw();
    let html = page.document.child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
    format!("<!doctype html>\n{}\n", page.document.to_html(html))
}

/// The figures of some controls as the page's script has them, with the reasons that they name.
pub fn figures_of(system: &System, sources: &Sources, written: &Written, controls: &[String]) -> serde_json::Value {
    let parsed = Stylesheet::parse(&written.text);
    let look_engine = LookEngine::new(system, written, &parsed, Media::default());
    let (findings, document) = (&[], Document::new());
    let page = SpecimenPage { system, sources, look_engine, findings, document, mounted: 0 };
    data::figures_of(&page, controls)
}

/// The system's stylesheets as the page holds them: with states shown by an attribute for pictures, and with those of the
/// browser for the controls to try.
pub fn stylesheets(system: &System, sources: &Sources) -> [String; 2] {
    let write = |purpose| stylesheet::write(system, sources, purpose).text;
    std::thread::scope(|scope| {
        let trial = scope.spawn(|| write(Purpose::Trial));
        let pictures = write(Purpose::Specimen);
        [pictures, trial.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic))]
    })
}

struct SpecimenPage<'p> {
    system: &'p System,
    sources: &'p Sources,
    look_engine: LookEngine<'p>,
    findings: &'p [Diagnostic],
    document: Document,
    /// How many controls were mounted: each has ids of its own.
    mounted: u64,
}

impl SpecimenPage<'_> {
    fn add(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)]) -> NodeId {
        self.document.append_element(parent, Element::html_with(name, attributes))
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

    fn draw(&mut self) {
        let name = self.system.manifest.name.value.clone();
        let html = self.add(Document::ROOT, "html", &[("lang", "en")]);
        let head = self.add(html, "head", &[]);
        self.add(head, "meta", &[("charset", "utf-8")]);
        self.add(head, "meta", &[("name", "viewport"), ("content", "width=device-width, initial-scale=1")]);
        self.add_text(head, "title", &[], &format!("{name}: specimen"));
        self.add_text(head, "style", &[], PAGE_CSS);
        let rules = stylesheet::document_rules(self.system, self.sources);
        if !rules.trim().is_empty() {
            self.add_text(head, "style", &[("id", "css-document")], &rules);
        }
        let body = self.add(html, "body", &[]);
        self.add_text(body, "a", &[("class", "skip"), ("href", "#controls")], "Skip to the controls");
        self.header(body, &name);
        self.ways(body);
        let main = self.add(body, "main", &[("id", "main"), ("tabindex", "-1")]);
        self.overview(main);
        if !self.findings.is_empty() {
            self.all_findings(main);
        }
        let controls = self.add(main, "div", &[("id", "controls"), ("tabindex", "-1")]);
        for control in &self.system.controls {
            self.control(controls, control);
        }
        self.token_pages(main);
        self.filters(body);
        let [pictures, trial] = stylesheets(self.system, self.sources);
        self.add_text(body, "template", &[("id", "css-pictures")], &pictures);
        self.add_text(body, "template", &[("id", "css-trial")], &trial);
        self.add_text(body, "template", &[("id", "css-ground")], GROUND_CSS);
        let data = data::data(self);
        self.add_text(body, "script", &[("type", "application/json"), ("id", "data")], &data);
        self.add_text(body, "script", &[], &SCRIPTS.join("\n"));
    }

    fn header(&mut self, body: NodeId, name: &str) {
        let header = self.add(body, "header", &[("class", "masthead")]);
        let title = self.add(header, "div", &[("class", "title")]);
        self.add_text(title, "h1", &[], name);
        let controls = stilk_text::diagnostic::grouped(self.system.controls.len() as u64);
        let themes = self.system.tokens.themes().len();
        let variants: u64 = self.system.controls.iter().map(|control| control.variant_count(0)).sum();
        let variants = stilk_text::diagnostic::grouped(variants);
        self.add_text(title, "p", &[], &format!("{controls} controls, {variants} variants, {themes} themes"));
        let nav = self.add(header, "nav", &[("aria-label", "Specimens")]);
        let index = self.add(nav, "ul", &[]);
        let names = self.system.controls.iter().map(|control| control.name.value.clone());
        let entries = names.map(|name| (format!("#control-{name}"), name)).chain([("#tokens".into(), "tokens".into())]);
        for (target, name) in entries {
            let item = self.add(index, "li", &[]);
            self.add_text(item, "a", &[("href", &target)], &name);
        }
    }

    /// Mounts a control as a picture: it cannot be reached, and its row and column say what it is.
    fn picture(&mut self, parent: NodeId, request: Request) {
        let mount_point = self.add(parent, "div", &[("class", "mount"), ("inert", "")]);
        let mut forced = Forced::default();
        let mounted = mount_in_place(self.system, request, &mut self.document, mount_point, &mut forced);
        self.mounted += 1;
        own_ids(self.system, &mut self.document, mounted.root, &format!("s{}", self.mounted));
        show_states(self.system, &mut self.document, &mounted, request.states);
        // Where it stands in another control, whoever points at the picture means this one.
        if let Some(element) = self.document.element_mut(mounted.host).filter(|_| mounted.host != mounted.root) {
            element.set("data-subject", "");
        }
    }

    fn all_findings(&mut self, main: NodeId) {
        let section = self.add(main, "section", &[("class", "findings"), ("aria-labelledby", "findings")]);
        self.add_text(section, "h2", &[("id", "findings")], "To mend");
        let list = self.add(section, "ul", &[]);
        for finding in self.findings {
            self.finding(list, finding);
        }
    }

    fn finding(&mut self, list: NodeId, finding: &Diagnostic) {
        let item = self.add(list, "li", &[("class", finding.level.word())]);
        let strong = self.add(item, "strong", &[]);
        self.add_prose(strong, &finding.message);
        let cases = finding.evidence.as_ref().map_or(0, |e| e.cases);
        let place = finding.span.map_or_else(String::new, |span| format!(" · {}", self.sources.place(span)));
        let cases = stilk_text::diagnostic::grouped(cases);
        self.add_text(item, "p", &[("class", "figures")], &format!("{} · {cases} cases{place}", finding.id));
        if let Some(mend) = &finding.mend {
            let paragraph = self.add(item, "p", &[("class", "mend")]);
            self.add_prose(paragraph, mend);
        }
    }

    /// What a picture lies on.
    fn surface(&self) -> String {
        surface(self.system)
    }

    /// The attribute of each modifier.
    fn attributes(&self) -> Vec<String> {
        let theme = self.system.tokens.default_theme();
        theme_attributes(self.system, &theme).into_iter().map(|(name, _)| name).collect()
    }
}

/// Puts interaction states where the specimen's own stylesheet looks for them.
pub(crate) fn show_states(system: &System, document: &mut Document, mounted: &Mounted, states: &StateSet) {
    let name = |id: &StateId| system.states.get(*id).name.clone();
    let mut marks: Vec<(NodeId, String)> = states.ids().iter().map(|id| (mounted.host, name(id))).collect();
    for (id, part) in states.of_parts() {
        // A pointer over a part is over the control.
        marks.push((mounted.host, name(id)));
        marks.extend(mounted.parts.iter().find(|(known, _)| known == part).map(|(_, node)| (*node, name(id))));
    }
    // No attribute makes a checkbox mixed: the page's script does.
    if states.has(StateId::Mixed)
        && let Some(element) = document.element_mut(mounted.bearer)
    {
        element.set(SHOWN, "mixed");
    }
    // Where the focus is, it is within all around.
    if marks.iter().any(|(_, name)| name == "focus") {
        marks.push((mounted.host, "focus-within".to_owned()));
    }
    marks.retain(|(_, name)| ["hover", "focus", "active", "focus-within"].contains(&name.as_str()));
    for (node, name) in marks {
        if let Some(element) = document.element_mut(node) {
            let known = element.attribute(SHOWN).map_or_else(String::new, |known| format!("{known} "));
            element.set(SHOWN, format!("{known}{name}"));
        }
    }
}

/// What a picture lies on: the first surface, as CSS that holds in every theme.
pub(crate) fn surface(system: &System) -> String {
    let plan = Plan::new(system);
    let surface = system.surfaces.first().map(|(_, id)| plan.read_anywhere(system, *id));
    surface.unwrap_or_else(|| "Canvas".to_owned())
}
