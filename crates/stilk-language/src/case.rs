//! Cases: control × host × variant × state set × theme, the unit that is checked and shown.

use crate::markup::{Mounted, Request, mount_in_place};
use crate::stylesheet::{Plan, Written};
use crate::system::states::StateKind;
use crate::system::{Control, Rule, StateId, StateSet, System, Variant};
use crate::tokens::Theme;
use std::cell::OnceCell;
use std::collections::HashMap;
use std::rc::Rc;
use stilk_engine::cascade::defaults::Browser;
pub use stilk_engine::cascade::surroundings::ROOM;
use stilk_engine::cascade::{Engine, Forced, Matches, Media, Styled, Styles, Stylesheet, Surroundings, asked};
use stilk_engine::css::Unknown;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_engine::layout::{KnownLayouts, LaidOut, Layout, Rect, lay_out, lay_out_in_font};

/// What a control is to its users; from the element that bears its state.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ControlKind {
    /// Does something when pressed.
    Action,
    /// Leads somewhere, and cannot be taken out of use.
    Link,
    /// Opens and closes what follows it, and cannot be taken out of use.
    Disclosure,
    /// Takes text or a choice from a list.
    Entry,
    /// Is on or off.
    Choice,
    /// None of these.
    Other,
}

impl ControlKind {
    /// The kind of a control, by its reference host; a link where all hosts are links.
    pub fn of(control: &Control) -> ControlKind {
        let Some(host) = control.template.hosts.first() else { return ControlKind::Other };
        let Some(element) = control.template.document.element(host.bearer) else { return ControlKind::Other };
        let document = &control.template.document;
        let is_link = |node| document.element(node).is_some_and(|element| element.local() == "a");
        if control.template.hosts.iter().all(|host| is_link(host.bearer)) {
            return ControlKind::Link;
        }
        match (element.local(), element.attribute("type").unwrap_or("text")) {
            ("summary", _) => ControlKind::Disclosure,
            ("button" | "a", _) => ControlKind::Action,
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
            ControlKind::Link => "a link",
            ControlKind::Disclosure => "a disclosure",
            ControlKind::Entry => "a field",
            ControlKind::Choice => "a checkbox, radio or switch",
            ControlKind::Other => "this",
        }
    }

    /// The states its users need to see.
    pub fn needed_states(self) -> &'static [StateId] {
        use StateId::{Active, Checked, Disabled, Focus, Hover, Invalid};
        match self {
            ControlKind::Action => &[Hover, Focus, Active, Disabled],
            ControlKind::Link => &[Hover, Focus, Active],
            // It answers a press by what it opens.
            ControlKind::Disclosure => &[Hover, Focus],
            ControlKind::Entry => &[Hover, Focus, Invalid, Disabled],
            ControlKind::Choice => &[Hover, Focus, Checked, Disabled],
            ControlKind::Other => &[],
        }
    }
}

/// The state sets that are cases: rest; each state alone; lasting with pointer and keyboard; every set a sheet writes.
pub fn state_sets(system: &System, control: &Control) -> Vec<StateSet> {
    let written: Vec<StateSet> = control.rules.iter().map(case_states).collect();
    let mut single: Vec<StateId> = ControlKind::of(control).needed_states().to_vec();
    single.extend(written.iter().flat_map(|set| set.ids()));
    single.extend(control.rules.iter().flat_map(|rule| rule.states.absent()));
    single.sort_unstable();
    single.dedup();
    let mut sets = vec![StateSet::default()];
    sets.extend(single.iter().map(|id| StateSet::of([*id])));
    for lasting in single.iter().filter(|id| system.states.get(**id).kind == StateKind::Lasting) {
        let moments = [StateId::Hover, StateId::Focus, StateId::Active].into_iter();
        sets.extend(moments.filter(|id| single.contains(id)).map(|id| StateSet::of([*lasting, id])));
    }
    sets.extend(written);
    sets.sort_by_key(|set| system.states.precedence(set));
    sets.dedup();
    sets.retain(|set| !system.states.is_dead(set));
    sets
}

/// A rule's states as a case has them: `of &` is a state of the part that the rule styles; what must not hold does not.
pub fn case_states(rule: &Rule) -> StateSet {
    let own = StateSet::of(rule.states.ids().iter().copied());
    rule.states.of_parts().iter().fold(own, |set, (id, part)| match (part.as_str(), &rule.target.part) {
        ("&", Some(part)) => set.with_part(*id, part.clone()),
        _ => set.with_part(*id, part.clone()),
    })
}

/// Whether a case in these states is as a rule asks for.
pub fn applies_in(rule: &Rule, states: &StateSet) -> bool {
    states.covers(&case_states(rule)) && !rule.states.absent().iter().any(|id| states.has(*id))
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

/// A control mounted in a state, before a theme gives it values.
#[derive(Clone)]
pub struct UnthemedLook {
    document: Rc<Document>,
    mounted: Rc<Mounted>,
    forced: Rc<Forced>,
    matches: Rc<Matches>,
}

/// How a case looks: its document and the computed styles in it.
pub struct Look {
    /// The document.
    pub document: Rc<Document>,
    /// The control in it.
    pub mounted: Rc<Mounted>,
    /// What is forced.
    pub forced: Rc<Forced>,
    /// The styles.
    pub styles: Styles,
    /// One element per surface, painted with it.
    pub surfaces: Rc<[NodeId]>,
    /// The width that is left for it, in px.
    pub room: f64,
    /// The pixel that a page paints behind the control where it stands, in sRGB from 0 to 1, or why it is not known; nothing
    /// where it is looked at on surfaces.
    pub behind: Option<Result<[f64; 3], Unknown>>,
    layout: OnceCell<LaidOut>,
    layouts: Option<Rc<KnownLayouts>>,
}

impl Look {
    /// A look of a control that stands in some document.
    pub fn new(
        document: Rc<Document>,
        mounted: Rc<Mounted>,
        forced: Rc<Forced>,
        styles: Styles,
        surfaces: Rc<[NodeId]>,
    ) -> Look {
        let (room, behind, layout, layouts) = (ROOM, None, OnceCell::new(), None);
        Look { document, mounted, forced, styles, surfaces, room, behind, layout, layouts }
    }

    /// The same look in its place on a page: what is painted behind it there, and the width that is left for it in px.
    pub fn in_place(self, behind: Result<[f64; 3], Unknown>, room: f64) -> Look {
        Look { behind: Some(behind), room, ..self }
    }

    /// The same look, which takes its layout from those of looks of its control, host and variant that are laid out alike.
    pub fn among(self, layouts: Option<Rc<KnownLayouts>>) -> Look {
        Look { layouts, ..self }
    }

    /// Where its boxes stand, alone in a block as wide as the page.
    ///
    /// # Errors
    /// Something in it is not modelled.
    pub fn layout(&self) -> Result<&Layout, Unknown> {
        let _answering = asked::note_layout();
        let laid_out = self.layout.get_or_init(|| match &self.layouts {
            Some(known) => known.of(&self.document, &self.styles, self.mounted.root, self.room),
            None => Rc::new(lay_out(&self.document, &self.styles, self.mounted.root, self.room)),
        });
        laid_out.as_ref().as_ref().map_err(|reason| *reason)
    }

    /// The same in a block of another width in px; nothing is said of the font's part in it.
    ///
    /// # Errors
    /// Something in it is not modelled.
    pub fn layout_in(&self, width: f64) -> Result<Layout, Unknown> {
        let _answering = asked::note_layout();
        lay_out_in_font(&self.document, &self.styles, self.mounted.root, width)
    }

    /// Where a box is drawn, from the upper left corner of the control's own.
    ///
    /// # Errors
    /// It has none, or it is not known.
    pub fn drawn(&self, styled: Styled) -> Result<Rect, Unknown> {
        self.layout()?.drawn(&self.document, &self.styles, self.mounted.host, styled)
    }
}

impl Look {
    /// From the left, top, right and bottom of one box as it is drawn to those of another within it, in px.
    ///
    /// # Errors
    /// A gap is not known.
    pub fn gaps(&self, inner: Styled, outer: Styled) -> Result<[f32; 4], Unknown> {
        self.layout()?.gaps(&self.document, &self.styles, self.mounted.host, [inner, outer])
    }
}

/// Computes looks from a written stylesheet. Each thread has its own.
pub struct LookEngine<'s> {
    system: &'s System,
    /// The stylesheet as it was written.
    pub written: &'s Written,
    engine: Engine,
    /// What stands around the control is the same for all cases of a theme.
    ground: Ground,
    ground_styles: HashMap<Theme, Styles>,
    /// Whether some rule asks for a theme's attribute around a control: then each theme is matched anew.
    is_theme_selected: bool,
    /// What is around.
    surroundings: Surroundings,
}

/// The page that a control is mounted on.
struct Ground {
    document: Document,
    html: NodeId,
    surfaces: Rc<[NodeId]>,
    wrapper: NodeId,
}

impl<'s> LookEngine<'s> {
    /// One for the stylesheet that was written and parsed, under some media features.
    pub fn new(system: &'s System, written: &'s Written, parsed: &Stylesheet, media: Media) -> LookEngine<'s> {
        LookEngine::in_browser(Browser::Chromium, system, written, parsed, &media.into())
    }

    /// The same on a page whose text runs from right to left.
    pub fn right_to_left(
        system: &'s System,
        written: &'s Written,
        parsed: &Stylesheet,
        surroundings: &Surroundings,
    ) -> LookEngine<'s> {
        LookEngine::on_page(Browser::Chromium, system, written, parsed, surroundings, Some("rtl"))
    }

    /// The same over the defaults of some browser.
    pub fn in_browser(
        browser: Browser,
        system: &'s System,
        written: &'s Written,
        parsed: &Stylesheet,
        surroundings: &Surroundings,
    ) -> LookEngine<'s> {
        LookEngine::on_page(browser, system, written, parsed, surroundings, None)
    }

    fn on_page(
        browser: Browser,
        system: &'s System,
        written: &'s Written,
        parsed: &Stylesheet,
        surroundings: &Surroundings,
        direction: Option<&str>,
    ) -> LookEngine<'s> {
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
        let engine = Engine::for_fragments(browser.sheet(), &[parsed], surroundings.media.clone());
        let mut ground = Ground::new(&surface_styles);
        if let (Some(style), Some(wrapper)) =
            (surroundings.container_style(), ground.document.element_mut(ground.wrapper))
        {
            wrapper.set("style", style);
        }
        if let (Some(direction), Some(html)) = (direction, ground.document.element_mut(ground.html)) {
            html.set("dir", direction);
        }
        let themes = system.tokens.themes();
        let ground_styles = themes
            .into_iter()
            .map(|theme| {
                let document = ground.in_theme(system, &theme);
                let styles = engine.styles(&document, &Forced::default());
                (theme, styles)
            })
            .collect();
        let is_theme_selected = asks_for_theme(system);
        let surroundings = surroundings.clone();
        LookEngine { system, written, engine, ground, ground_styles, is_theme_selected, surroundings }
    }

    /// What is around.
    pub fn surroundings(&self) -> &Surroundings {
        &self.surroundings
    }

    /// The state sets of a control that there are in these surroundings: a device that cannot hover shows no pointer over it.
    pub fn state_sets(&self, control: &Control) -> Vec<StateSet> {
        let mut sets = state_sets(self.system, control);
        sets.retain(|set| self.can_be(set));
        sets
    }

    /// Whether there is such a set of states in these surroundings.
    pub fn can_be(&self, states: &StateSet) -> bool {
        self.surroundings.media.hover || !states.names(StateId::Hover)
    }

    /// Mounts a unit in a state.
    pub fn unthemed(&self, unit: &Unit, states: &StateSet) -> UnthemedLook {
        let mut document = match self.is_theme_selected {
            true => self.ground.in_theme(self.system, &unit.theme),
            false => self.ground.document.clone(),
        };
        let mut forced = Forced::default();
        let request = Request { control: unit.control, host: unit.host, variant: &unit.variant, states, plain: false };
        let mounted = mount_in_place(self.system, request, &mut document, self.ground.wrapper, &mut forced);
        let matches = self.engine.matches(&document, &forced, mounted.root);
        UnthemedLook {
            document: Rc::new(document),
            mounted: Rc::new(mounted),
            forced: Rc::new(forced),
            matches: Rc::new(matches),
        }
    }

    /// Whether what is matched for one theme serves all others.
    pub fn serves_all_themes(&self) -> bool {
        !self.is_theme_selected
    }

    /// A look in a theme.
    pub fn look_in(&self, unthemed: &UnthemedLook, theme: &Theme) -> Look {
        let known = self.ground_styles.get(theme).cloned().unwrap_or_default();
        let styles = self.engine.styles_of(&unthemed.document, &unthemed.matches, known);
        let (document, mounted, forced) = (&unthemed.document, &unthemed.mounted, &unthemed.forced);
        let surfaces = Rc::clone(&self.ground.surfaces);
        let look = Look::new(document.clone(), mounted.clone(), forced.clone(), styles, surfaces);
        Look { room: self.surroundings.room(), ..look }
    }

    /// The looks of a unit in a state, in some themes.
    pub fn looks_in<'a>(
        &'a self,
        unit: &'a Unit,
        states: &'a StateSet,
        themes: impl IntoIterator<Item = &'a Theme> + 'a,
    ) -> impl Iterator<Item = Look> + 'a {
        let mut known: Option<UnthemedLook> = None;
        themes.into_iter().map(move |theme| {
            let unit = Unit { theme: theme.clone(), ..unit.clone() };
            let shared = known.take().filter(|_| self.serves_all_themes());
            let unthemed = known.insert(shared.unwrap_or_else(|| self.unthemed(&unit, states)));
            self.look_in(unthemed, theme)
        })
    }

    /// The look of a unit in a state.
    pub fn look(&self, unit: &Unit, states: &StateSet) -> Look {
        self.look_in(&self.unthemed(unit, states), &unit.theme)
    }
}

/// A unit in a state, alone on a page in its theme: the document, the control in it, what is forced.
pub fn mounted_alone(system: &System, unit: &Unit, states: &StateSet) -> (Document, Mounted, Forced) {
    let ground = Ground::new(&[]);
    let mut document = ground.in_theme(system, &unit.theme);
    let mut forced = Forced::default();
    let request = Request { control: unit.control, host: unit.host, variant: &unit.variant, states, plain: false };
    let mounted = mount_in_place(system, request, &mut document, ground.wrapper, &mut forced);
    (document, mounted, forced)
}

impl Ground {
    fn new(surface_styles: &[String]) -> Ground {
        let mut document = Document::new();
        let html = document.append_element(Document::ROOT, Element::html("html"));
        let body = document.append_element(html, Element::html("body"));
        let surface = |style: &String| {
            let mut element = Element::html("div");
            element.set("style", style.clone());
            document.append_element(body, element)
        };
        let surfaces = surface_styles.iter().map(surface).collect();
        let wrapper = document.append_element(body, Element::html("div"));
        Ground { document, html, surfaces, wrapper }
    }

    fn in_theme(&self, system: &System, theme: &Theme) -> Document {
        let mut document = self.document.clone();
        if let Some(html) = document.element_mut(self.html) {
            for (name, value) in theme_attributes(system, theme) {
                html.set(&name, value);
            }
        }
        document
    }
}

/// Whether a sheet's own condition names the attribute of a modifier.
pub(crate) fn asks_for_theme(system: &System) -> bool {
    let attributes: Vec<&str> = system.manifest.modifiers.iter().map(|m| m.attribute.as_str()).collect();
    system.controls.iter().flat_map(|control| &control.rules).any(|rule| rule.asks_for_theme(&attributes))
}

/// The attributes that choose a theme.
pub fn theme_attributes(system: &System, theme: &Theme) -> Vec<(String, String)> {
    system
        .tokens
        .modifiers
        .iter()
        .zip(&theme.contexts)
        .map(|(modifier, context)| {
            let attribute = system.manifest.attribute_of(&modifier.name.value);
            (attribute, modifier.contexts[*context].value.clone())
        })
        .collect()
}

/// A case's name: `button@a.alarm:hover in storm`.
pub fn case_name(system: &System, unit: &Unit, states: &StateSet) -> String {
    let mut name = unit.control.variant_name(unit.host, &unit.variant);
    if !states.is_rest() {
        name.push(':');
        name.push_str(&system.states.set_name(states).replace('+', ":"));
    }
    format!("{name} in {}", system.tokens.theme_name(&unit.theme))
}
