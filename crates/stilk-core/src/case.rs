//! Cases: control × host × variant × state set × theme, the unit that is checked and shown.

use crate::dom::{Document, Element, NodeId};
use crate::engine::defaults::CHROMIUM;
use crate::engine::{Engine, Forced, Media, Styles, Stylesheet};
use crate::markup::{Mounted, Request, mount};
use crate::stylesheet::{Plan, Written};
use crate::system::states::StateKind;
use crate::system::{Control, Rule, StateSet, System, Variant};
use crate::tokens::Theme;
use std::collections::HashMap;

/// What a control is to its users; from the element that bears its state.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ControlKind {
    /// Does something when pressed.
    Action,
    /// Takes text or a choice from a list.
    Entry,
    /// Is on or off.
    Choice,
    /// None of these.
    Other,
}

impl ControlKind {
    /// The kind of a control, by its reference host.
    pub fn of(control: &Control) -> ControlKind {
        let Some(host) = control.template.hosts.first() else { return ControlKind::Other };
        let Some(element) = control.template.document.element(host.bearer) else { return ControlKind::Other };
        match (element.local(), element.attribute("type").unwrap_or("text")) {
            ("button" | "a" | "summary", _) => ControlKind::Action,
            ("input", "submit" | "reset" | "button" | "image") => ControlKind::Action,
            ("input", "checkbox" | "radio") => ControlKind::Choice,
            ("input", "hidden") => ControlKind::Other,
            ("input" | "select" | "textarea", _) => ControlKind::Entry,
            _ => ControlKind::Other,
        }
    }

    /// What users call it.
    pub fn noun(self) -> &'static str {
        match self {
            ControlKind::Action => "a button",
            ControlKind::Entry => "a field",
            ControlKind::Choice => "a checkbox, radio or switch",
            ControlKind::Other => "this",
        }
    }

    /// The states its users need to see.
    pub fn needed_states(self) -> &'static [&'static str] {
        match self {
            ControlKind::Action => &["hover", "focus", "active", "disabled"],
            ControlKind::Entry => &["hover", "focus", "invalid", "disabled"],
            ControlKind::Choice => &["hover", "focus", "checked", "disabled"],
            ControlKind::Other => &[],
        }
    }
}

/// The state sets that are cases: rest; each state alone; lasting with pointer and keyboard; every set a sheet writes.
pub fn state_sets(system: &System, control: &Control) -> Vec<StateSet> {
    let written: Vec<StateSet> = control.rules.iter().map(case_states).collect();
    let needed = ControlKind::of(control).needed_states();
    let mut single: Vec<_> = needed.iter().filter_map(|name| system.states.find(name)).collect();
    single.extend(written.iter().flat_map(|set| set.ids()));
    single.sort_unstable();
    single.dedup();
    let mut sets = vec![StateSet::default()];
    sets.extend(single.iter().map(|id| StateSet::of([*id])));
    for lasting in single.iter().filter(|id| system.states.get(**id).kind == StateKind::Lasting) {
        for name in ["hover", "focus", "active"] {
            if let Some(id) = system.states.find(name).filter(|id| single.contains(id)) {
                sets.push(StateSet::of([*lasting, id]));
            }
        }
    }
    sets.extend(written);
    sets.sort_by_key(|set| system.states.precedence(set));
    sets.dedup();
    sets.retain(|set| !system.states.is_dead(set));
    sets
}

/// A rule's states as a case has them: `of &` is a state of the part that the rule styles.
pub fn case_states(rule: &Rule) -> StateSet {
    let own = StateSet::of(rule.states.ids().iter().copied());
    rule.states.of_parts().iter().fold(own, |set, (id, part)| match (part.as_str(), &rule.target.part) {
        ("&", Some(part)) => set.with_part(*id, part.clone()),
        _ => set.with_part(*id, part.clone()),
    })
}

/// One host of one control in one variant and theme: the cases that differ by their state only.
#[derive(Debug, Clone)]
pub struct Unit<'s> {
    /// The control.
    pub control: &'s Control,
    /// Index of the host.
    pub host: usize,
    /// The variant.
    pub variant: Variant,
    /// The theme.
    pub theme: Theme,
}

/// Every unit of a system, in the order of controls, hosts, variants and themes.
pub fn units(system: &System) -> Vec<Unit<'_>> {
    let themes = system.tokens.themes();
    let mut units = Vec::new();
    for control in &system.controls {
        for host in 0..control.template.hosts.len() {
            for variant in control.variants(host) {
                units.extend(themes.iter().map(|theme| Unit {
                    control,
                    host,
                    variant: variant.clone(),
                    theme: theme.clone(),
                }));
            }
        }
    }
    units
}

/// How a case looks: its document and the computed styles in it.
pub struct Look {
    /// The document.
    pub document: Document,
    /// The control in it.
    pub mounted: Mounted,
    /// What is forced.
    pub forced: Forced,
    /// The styles.
    pub styles: Styles,
    /// One element per surface, painted with it.
    pub surfaces: Vec<NodeId>,
}

/// Computes looks from a written stylesheet.
pub struct Stage<'s> {
    system: &'s System,
    /// The stylesheet as it was written.
    pub written: &'s Written,
    engine: Engine<'s>,
    surface_styles: Vec<String>,
    /// What stands around the control is the same for all cases of a theme.
    grounds: HashMap<Theme, Ground>,
}

/// The page that a control is mounted on.
#[derive(Clone)]
struct Ground {
    document: Document,
    surfaces: Vec<NodeId>,
    wrapper: NodeId,
    styles: Styles,
}

impl<'s> Stage<'s> {
    /// A stage for the stylesheet that was written and parsed, under some media features.
    pub fn new(system: &'s System, written: &'s Written, parsed: &'s Stylesheet, media: Media) -> Stage<'s> {
        let plan = Plan::new(system);
        let mut surface_styles: Vec<String> = system
            .surfaces
            .iter()
            .map(|(_, id)| format!("background-color: {}", plan.read_anywhere(system, *id)))
            .collect();
        if surface_styles.is_empty() {
            // A manifest that names no surface leaves the browser's own page.
            surface_styles.push("background-color: Canvas".into());
        }
        let engine = Engine::new(&CHROMIUM, &[parsed], media);
        let mut stage = Stage { system, written, engine, surface_styles, grounds: HashMap::new() };
        stage.grounds = system.tokens.themes().into_iter().map(|theme| (theme.clone(), stage.ground(&theme))).collect();
        stage
    }

    fn ground(&self, theme: &Theme) -> Ground {
        let mut document = Document::new();
        let mut html = Element::html("html");
        for (name, value) in theme_attributes(self.system, theme) {
            html.set(&name, value);
        }
        let html = document.append_element(Document::ROOT, html);
        let body = document.append_element(html, Element::html("body"));
        let mut surfaces = Vec::new();
        for style in &self.surface_styles {
            let mut element = Element::html("div");
            element.set("style", style.clone());
            surfaces.push(document.append_element(body, element));
        }
        let wrapper = document.append_element(body, Element::html("div"));
        let styles = self.engine.styles(&document, &Forced::default());
        Ground { document, surfaces, wrapper, styles }
    }

    /// The look of a unit in a state.
    pub fn look(&self, unit: &Unit, states: &StateSet) -> Look {
        let ground = self.grounds.get(&unit.theme).cloned().unwrap_or_else(|| self.ground(&unit.theme));
        let Ground { mut document, surfaces, wrapper, styles } = ground;
        let mut forced = Forced::default();
        let request = Request { control: unit.control, host: unit.host, variant: &unit.variant, states };
        let mounted = mount(self.system, request, &mut document, wrapper, &mut forced);
        let styles = self.engine.styles_below(&document, &forced, mounted.host, styles);
        Look { document, mounted, forced, styles, surfaces }
    }
}

/// The attributes that choose a theme.
pub fn theme_attributes(system: &System, theme: &Theme) -> Vec<(String, String)> {
    system
        .tokens
        .modifiers
        .iter()
        .zip(&theme.contexts)
        .map(|(modifier, context)| {
            let settings = system.manifest.modifiers.iter().find(|s| s.name.value == modifier.name.value);
            let attribute = settings.map_or_else(|| format!("data-{}", modifier.name.value), |s| s.attribute.clone());
            (attribute, modifier.contexts[*context].value.clone())
        })
        .collect()
}
