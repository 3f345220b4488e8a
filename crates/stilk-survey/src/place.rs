//! A control where it stands: its looks in states, with what the page paints behind it.

use crate::control::{Found, Kind};
use crate::rules::{Rule, Rules};
use std::hash::{Hash, Hasher};
use std::rc::Rc;
use stilk_checks::in_place::behind;
use stilk_engine::cascade::{Engine, Forced, PseudoClass, Style, Styles, Surroundings};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::{Document, NodeId};
use stilk_language::case::Look;
use stilk_language::markup::{Mounted, apply_states};
use stilk_language::system::{StateId, StateSet, System};

/// A page in a theme and in surroundings, whose controls are looked at.
pub struct Place<'p> {
    system: &'p System,
    engine: &'p Engine,
    /// The page's document, in the theme.
    pub document: Rc<Document>,
    /// What is around it.
    pub surroundings: Surroundings,
    /// The styles of its controls and of what is around them, at rest.
    pub styles: Styles,
    surfaces: Rc<[NodeId]>,
}

impl<'p> Place<'p> {
    /// A page with some controls on it.
    pub fn new(
        system: &'p System,
        engine: &'p Engine,
        document: Document,
        surroundings: Surroundings,
        controls: &[&Found],
    ) -> Place<'p> {
        let styles = near(&document, controls, engine);
        let root = document.child_elements(Document::ROOT).next().unwrap_or(Document::ROOT);
        Place { system, engine, document: Rc::new(document), surroundings, styles, surfaces: Rc::new([root]) }
    }

    /// The look of a control in a set of states.
    pub fn look(&self, found: &Found, states: &StateSet) -> Look {
        let mounted = Mounted::alone(found.host, found.bearer, found.parts.clone());
        let mut forced = Forced::default();
        let (document, styles) = match states.is_rest() {
            true => (Rc::clone(&self.document), self.styles.clone()),
            false => {
                let document = match states.ids().iter().all(|id| is_of_moment(*id)) {
                    true => Rc::clone(&self.document),
                    false => {
                        let mut changed = (*self.document).clone();
                        let lasting = StateSet::of(states.ids().iter().copied().filter(|id| !is_of_moment(*id)));
                        apply_states(self.system, &lasting, &mut changed, &mounted, &mut forced);
                        Rc::new(changed)
                    }
                };
                force(&document, found, states, &mut forced);
                let mut nodes: Vec<NodeId> = document.around(found.host).skip(1).collect();
                nodes.reverse();
                nodes.extend(document.descendants(found.host));
                let matches = self.engine.matches_of(&document, &forced, nodes);
                let styles = self.engine.styles_of(&document, &matches, Styles::default());
                (document, styles)
            }
        };
        let around: Vec<&Style> = {
            let mut around: Vec<&Style> = document
                .around(found.host)
                .skip(1)
                .filter_map(|node| styles.element(node))
                .map(|style| &**style)
                .collect();
            around.reverse();
            around
        };
        let (pixel, room) = (behind(&around), room(&around, self.surroundings.room()));
        let look = Look::new(document, Rc::new(mounted), Rc::new(forced), styles, Rc::clone(&self.surfaces));
        look.in_place(pixel, room)
    }
}

/// A page's document in which a control is in some states: lasting ones by attributes, those of the pointer and the keyboard by
/// classes that begin with `prefix`, as a page without scripts can show them.
pub fn shown(document: &Document, system: &System, found: &Found, states: &StateSet, prefix: &str) -> Document {
    let mut changed = document.clone();
    let mounted = Mounted::alone(found.host, found.bearer, found.parts.clone());
    let mut forced = Forced::default();
    let lasting = StateSet::of(states.ids().iter().copied().filter(|id| !is_of_moment(*id)));
    apply_states(system, &lasting, &mut changed, &mounted, &mut forced);
    force(document, found, states, &mut forced);
    let classes: Vec<(NodeId, String)> =
        forced.iter().map(|(node, class)| (node, format!("{prefix}{}", class.name()))).collect();
    for (node, class) in classes {
        let Some(element) = changed.element_mut(node) else { continue };
        let own = element.attribute("class").unwrap_or_default().to_owned();
        element.set("class", format!("{own} {class}").trim().to_owned());
    }
    changed
}

/// How wide a control may be, as far as what is around it says.
fn room(around: &[&Style], page: f64) -> f64 {
    let widths = around.iter().flat_map(|style| [L::Width, L::MaxWidth].map(|side| style.px(side)));
    widths.filter_map(Result::ok).filter(|px| *px > 0.0).fold(page, f64::min)
}

/// Whether the pointer or the keyboard brings a state about for a moment.
fn is_of_moment(id: StateId) -> bool {
    matches!(id, StateId::Hover | StateId::Active | StateId::Focus | StateId::FocusWithin)
}

/// Forces what no attribute says. What is pointed at is within all that is around it, and so is what has the focus.
fn force(document: &Document, found: &Found, states: &StateSet, forced: &mut Forced) {
    let all = |forced: &mut Forced, from: NodeId, class: PseudoClass| {
        let around: Vec<NodeId> = document.around(from).filter(|node| document.element(*node).is_some()).collect();
        around.into_iter().for_each(|node| forced.add(node, class.clone()));
    };
    for id in states.ids() {
        match id {
            StateId::Hover | StateId::Active => {
                let class = if *id == StateId::Hover { PseudoClass::Hover } else { PseudoClass::Active };
                all(forced, found.host, class.clone());
                // Who points at a label points at what it names (HTML, section 4.10.4).
                if found.bearer != found.host {
                    forced.add(found.bearer, class);
                }
                if *id == StateId::Active {
                    all(forced, found.host, PseudoClass::Hover);
                }
            }
            StateId::Focus => {
                forced.add(found.bearer, PseudoClass::Focus);
                forced.add(found.bearer, PseudoClass::FocusVisible);
                all(forced, found.bearer, PseudoClass::FocusWithin);
            }
            StateId::FocusWithin => all(forced, found.host, PseudoClass::FocusWithin),
            StateId::Invalid => {
                forced.add(found.bearer, PseudoClass::Invalid);
                forced.add(found.bearer, PseudoClass::UserInvalid);
            }
            StateId::Empty => forced.add(found.bearer, PseudoClass::PlaceholderShown),
            _ => {}
        }
    }
}

/// The styles of controls with everything in them, and of the elements around them, at rest.
fn near(document: &Document, controls: &[&Found], engine: &Engine) -> Styles {
    let mut wanted = vec![false; document.len()];
    for found in controls {
        document.descendants(found.host).into_iter().for_each(|node| wanted[node.index()] = true);
        for node in document.around(found.host).skip(1) {
            if std::mem::replace(&mut wanted[node.index()], true) {
                break;
            }
        }
    }
    let nodes = document.descendants(Document::ROOT).into_iter().filter(|node| wanted[node.index()]);
    let matches = engine.matches_of(document, &Forced::default(), nodes);
    engine.styles_of(document, &matches, Styles::default())
}

/// The state that a piece of a selector asks for, where it is one that every system has.
pub fn state_of(text: &str) -> Option<StateId> {
    let name = text.trim();
    let is_attribute = |known: &str| name.starts_with(&format!("[{known}"));
    Some(match name {
        ":hover" => StateId::Hover,
        ":focus" | ":focus-visible" => StateId::Focus,
        ":focus-within" => StateId::FocusWithin,
        ":active" => StateId::Active,
        ":checked" => StateId::Checked,
        ":indeterminate" => StateId::Mixed,
        ":disabled" => StateId::Disabled,
        ":invalid" | ":user-invalid" | ":out-of-range" => StateId::Invalid,
        ":required" => StateId::Required,
        ":read-only" => StateId::Readonly,
        ":placeholder-shown" => StateId::Empty,
        ":open" | ":popover-open" => StateId::Open,
        _ if is_attribute("disabled") || is_attribute("aria-disabled") => StateId::Disabled,
        _ if is_attribute("checked") || name.starts_with("[aria-checked=\"true") => StateId::Checked,
        _ if name.starts_with("[aria-checked=\"mixed") => StateId::Mixed,
        _ if is_attribute("aria-invalid") => StateId::Invalid,
        _ if is_attribute("aria-pressed") || is_attribute("aria-selected") || is_attribute("aria-current") => {
            StateId::Selected
        }
        _ if is_attribute("aria-expanded") || is_attribute("open") => StateId::Open,
        _ if is_attribute("aria-busy") => StateId::Busy,
        _ if is_attribute("readonly") || is_attribute("aria-readonly") => StateId::Readonly,
        _ if is_attribute("required") || is_attribute("aria-required") => StateId::Required,
        _ => return None,
    })
}

/// The states that rules ask of a control, its own among them.
pub fn written(system: &System, kind: Kind, rules: &Rules, matched: &[&[usize]]) -> Vec<StateId> {
    let mut found: Vec<StateId> = Vec::new();
    for rule in matched.iter().flat_map(|list| list.iter()).map(|index| &rules.all[*index]) {
        found.extend(states_of(system, rule));
    }
    // `input:invalid` reaches no `<input type=submit>` (HTML, 4.10.18.2 and the barred types).
    found.retain(|id| match id {
        StateId::Invalid | StateId::Required => kind.is_validated(),
        StateId::Empty => kind.takes_text(),
        _ => true,
    });
    found.sort_unstable();
    found.dedup();
    found
}

/// The states that a rule asks for.
pub fn states_of(system: &System, rule: &Rule) -> Vec<StateId> {
    let mut found: Vec<StateId> = ways_of(system, rule).into_iter().flatten().collect();
    found.sort_unstable();
    found.dedup();
    found
}

/// The same by the ways in which they may hold: `:is(:hover, :focus-visible)` asks for one or the other.
fn ways_of(system: &System, rule: &Rule) -> Vec<Vec<StateId>> {
    let classes = rule.compounds.iter().flat_map(|compound| &compound.classes);
    let of_classes: Vec<StateId> = classes.filter_map(|class| system.states.find(class)).collect();
    let way = |states: Vec<String>| {
        let mut found: Vec<StateId> = states.iter().filter_map(|state| state_of(state)).collect();
        found.extend(&of_classes);
        found.sort_unstable();
        found.dedup();
        found
    };
    rule.state_ways().into_iter().map(way).collect()
}

/// The sets of states in which a control is looked at, rest first: each that its users need or rules ask for, lasting ones with
/// the pointer and the keyboard too, and what rules ask for together.
pub fn state_sets(
    system: &System,
    (needed, kind): (&[StateId], Kind),
    rules: &Rules,
    matched: &[&[usize]],
) -> Vec<StateSet> {
    let mut single: Vec<StateId> = needed.to_vec();
    single.extend(written(system, kind, rules, matched));
    single.sort_unstable();
    single.dedup();
    let mut sets = vec![StateSet::default()];
    sets.extend(single.iter().map(|id| StateSet::of([*id])));
    for lasting in single.iter().filter(|id| matches!(id, StateId::Checked | StateId::Selected | StateId::Own(_))) {
        let moments = [StateId::Hover, StateId::Focus].into_iter().filter(|id| single.contains(id));
        sets.extend(moments.map(|id| StateSet::of([*lasting, id])));
    }
    for rule in matched.iter().flat_map(|list| list.iter()).map(|index| &rules.all[*index]) {
        let ways = ways_of(system, rule).into_iter();
        let together = ways.filter(|way| way.len() > 1 && way.iter().all(|id| single.contains(id)));
        sets.extend(together.map(StateSet::of));
    }
    sets.sort_by_key(|set| system.states.precedence(set));
    sets.dedup();
    sets.retain(|set| !system.states.is_dead(set));
    sets
}

/// A figure that is the same for controls that look the same in every state: to which, in which and around which the same rules
/// apply in some state.
pub fn likeness(document: &Document, styles: &Styles, found: &Found, matched: [&[usize]; 2]) -> u64 {
    let mut hasher = rustc_hash::FxHasher::default();
    matched.hash(&mut hasher);
    found.kind.hash(&mut hasher);
    for node in document.around(found.host).skip(1) {
        let Some(element) = document.element(node) else { continue };
        element.local().hash(&mut hasher);
        styles.element(node).inspect(|style| style.feed(&mut hasher));
    }
    for node in document.descendants(found.host) {
        let Some(element) = document.element(node) else { continue };
        element.local().hash(&mut hasher);
        document.has_own_text(node).hash(&mut hasher);
        for (name, value) in &element.attributes {
            let counts = matches!(
                &*name.local,
                "type"
                    | "placeholder"
                    | "disabled"
                    | "checked"
                    | "readonly"
                    | "required"
                    | "style"
                    | "role"
                    | "open"
                    | "multiple"
                    | "size"
            ) || name.local.starts_with("aria-")
                && !matches!(&*name.local, "aria-label" | "aria-labelledby" | "aria-describedby" | "aria-controls");
            if counts {
                (&*name.local, value).hash(&mut hasher);
            }
            if &*name.local == "value" {
                value.is_empty().hash(&mut hasher);
            }
        }
        for at in styles.boxes(node) {
            at.pseudo.hash(&mut hasher);
            styles.of(at).inspect(|style| style.feed(&mut hasher));
        }
    }
    hasher.finish()
}
