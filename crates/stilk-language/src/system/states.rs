//! States: what they match, their order, and sets of them.

use super::rule::Rule;
use crate::manifest::{AsWritten, OwnState};

/// A state, in the order of precedence, lowest first: those that every system has, and the manifest's own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum StateId {
    /// An entry that holds nothing.
    Empty,
    /// An entry that has to be made.
    Required,
    /// The pointer is over it.
    Hover,
    /// The focus is in it.
    FocusWithin,
    /// The focus is on it, and can be seen.
    Focus,
    /// It is pressed.
    Active,
    /// A toggle, an option or a place that is chosen.
    Selected,
    /// A checkbox, radio or switch that is on.
    Checked,
    /// A checkbox that is neither on nor off.
    Mixed,
    /// What it controls is open.
    Open,
    /// An entry that can be read only.
    Readonly,
    /// An entry that is wrong.
    Invalid,
    /// The manifest's own, by their order there.
    Own(u8),
    /// It works, and cannot be used meanwhile.
    Busy,
    /// It cannot be used.
    Disabled,
}

impl StateId {
    /// The name of a standard state, also of its cascade layer; `own` for one of the manifest's.
    pub fn name(self) -> &'static str {
        match self {
            StateId::Own(_) => "own",
            standard => BEFORE_OWN.iter().chain(&AFTER_OWN).find(|row| row.0 == standard).map_or("own", |row| row.1),
        }
    }
}

/// So many states of its own a manifest may have.
pub const MAX_OWN_STATES: usize = 200;

/// What brings a state about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum StateKind {
    /// The pointer or the keyboard, for a moment: hover, focus, active.
    Interaction,
    /// A choice or condition that lasts.
    Lasting,
    /// The control cannot be used: busy, disabled.
    Blocked,
}

/// One state.
#[derive(Debug, Clone)]
pub struct State {
    /// Which it is.
    pub id: StateId,
    /// Its name in sheets.
    pub name: String,
    /// What brings it about.
    pub kind: StateKind,
    /// The selectors it matches on its bearer, any of them.
    pub selectors: Vec<String>,
    /// Its cascade layer.
    pub layer: &'static str,
}

/// Every state a sheet may name, lowest first.
#[derive(Debug)]
pub struct States {
    list: Vec<State>,
    /// Whether a blocked control shows hover and active as any other.
    blocked_react: bool,
}

/// Layers in order; a state's own layer has its name (docs/language.md, "What is written").
pub const LAYERS: [&str; 20] = [
    "token",
    "reset",
    "rest",
    "empty",
    "required",
    "hover",
    "focus-within",
    "focus",
    "active",
    "selected",
    "checked",
    "mixed",
    "open",
    "readonly",
    "invalid",
    "own",
    "combined",
    "busy",
    "disabled",
    "forced",
];

use StateKind::{Blocked, Interaction, Lasting};

/// Which, name, kind, selectors. `:read-only` matches buttons and checkboxes and `:indeterminate` matches unchecked radio
/// groups: hence the attributes.
type Row = (StateId, &'static str, StateKind, &'static [&'static str]);

const BEFORE_OWN: [Row; 12] = [
    (StateId::Empty, "empty", Lasting, &[":placeholder-shown"]),
    (StateId::Required, "required", Lasting, &["[required]", "[aria-required=\"true\"]"]),
    (StateId::Hover, "hover", Interaction, &[":hover"]),
    (StateId::FocusWithin, "focus-within", Interaction, &[":focus-within"]),
    (StateId::Focus, "focus", Interaction, &[":focus-visible"]),
    (StateId::Active, "active", Interaction, &[":active"]),
    (
        StateId::Selected,
        "selected",
        Lasting,
        &["[aria-pressed=\"true\"]", "[aria-selected=\"true\"]", "[aria-current]:not([aria-current=\"false\"])"],
    ),
    (StateId::Checked, "checked", Lasting, &[":checked", "[aria-checked=\"true\"]"]),
    (StateId::Mixed, "mixed", Lasting, &["[type=\"checkbox\"]:indeterminate", "[aria-checked=\"mixed\"]"]),
    (StateId::Open, "open", Lasting, &["[aria-expanded=\"true\"]", "[open]", ":popover-open"]),
    (StateId::Readonly, "readonly", Lasting, &["[readonly]", "[aria-readonly=\"true\"]"]),
    (
        StateId::Invalid,
        "invalid",
        Lasting,
        &[":user-invalid", "[aria-invalid]:not([aria-invalid=\"false\"], [aria-invalid=\"\"])"],
    ),
];

const AFTER_OWN: [Row; 2] = [
    (StateId::Busy, "busy", Blocked, &["[aria-busy=\"true\"]"]),
    (StateId::Disabled, "disabled", Blocked, &[":disabled", "[aria-disabled=\"true\"]"]),
];

impl States {
    /// The system's own states.
    pub fn own(&self) -> impl Iterator<Item = &State> {
        self.list.iter().filter(|state| matches!(state.id, StateId::Own(_)))
    }

    /// The standard states with the manifest's own between `invalid` and `busy`.
    pub fn new(own: &[OwnState]) -> States {
        let standard = |(id, name, kind, selectors): &Row| State {
            id: *id,
            name: (*name).to_owned(),
            kind: *kind,
            selectors: selectors.iter().map(|s| (*s).to_owned()).collect(),
            layer: name,
        };
        let own = own.iter().take(MAX_OWN_STATES).enumerate().map(|(index, state)| State {
            id: StateId::Own(index as u8),
            name: state.name.value.clone(),
            kind: Lasting,
            selectors: vec![state.selector.value.clone()],
            layer: "own",
        });
        let list = BEFORE_OWN.iter().map(standard).chain(own).chain(AFTER_OWN.iter().map(standard)).collect();
        States { list, blocked_react: false }
    }

    /// The same, for a manifest that leaves them as sheets have them.
    pub fn as_written(mut self, as_written: AsWritten) -> States {
        self.blocked_react = as_written.blocked;
        if let Some(focus) = self.list.iter_mut().find(|state| state.id == StateId::Focus && as_written.focus) {
            focus.selectors = vec![":focus".to_owned()];
        }
        self
    }

    /// The state with this name.
    pub fn find(&self, name: &str) -> Option<StateId> {
        self.list.iter().find(|state| state.name == name).map(|state| state.id)
    }

    /// Every state, lowest first.
    pub fn list(&self) -> impl Iterator<Item = &State> {
        self.list.iter()
    }

    /// The state behind an id.
    pub fn get(&self, id: StateId) -> &State {
        let at = self.list.binary_search_by_key(&id, |state| state.id);
        &self.list[at.expect("an id is that of a state of this list")]
    }

    /// All names, lowest first.
    pub fn names(&self) -> impl Iterator<Item = &str> {
        self.list.iter().map(|state| state.name.as_str())
    }

    /// A set's name: `rest`, or its states joined by `+`; those of parts as `hover of box`.
    pub fn set_name(&self, set: &StateSet) -> String {
        if set.is_rest() {
            return "rest".into();
        }
        let own = set.ids.iter().map(|id| self.get(*id).name.clone());
        let of = set.of.iter().map(|(id, part)| format!("{} of {part}", self.get(*id).name));
        let absent = set.absent.iter().map(|id| format!("not {}", self.get(*id).name));
        own.chain(of).chain(absent).collect::<Vec<_>>().join("+")
    }

    /// The cascade layer of rules for this set.
    pub fn layer(&self, set: &StateSet) -> &'static str {
        match (self.blocked(set), set.ranks().as_slice()) {
            (_, []) => "rest",
            (2, _) => "disabled",
            (1, _) => "busy",
            (_, [one]) => self.get(*one).layer,
            _ => "combined",
        }
    }

    /// The layer of a rule. What a box moves from stands in the last that has states: nothing of the control beats it.
    pub fn layer_of(&self, rule: &Rule) -> &'static str {
        if rule.is_start() { "disabled" } else { self.layer(&rule.states) }
    }

    /// The order of sets: those that name disabled above those that name busy above all others; then the larger;
    /// then ranks from the highest. Whose state it is does not matter. What must not hold decides between sets that are
    /// equal but for that.
    pub fn precedence(&self, set: &StateSet) -> Precedence {
        let mut ranks = set.ranks();
        ranks.reverse();
        let mut absent = set.absent.clone();
        absent.reverse();
        (self.blocked(set), ranks.len(), ranks, set.of.clone(), (absent.len(), absent))
    }

    fn blocked(&self, set: &StateSet) -> u8 {
        if set.has(StateId::Disabled) { 2 } else { u8::from(set.has(StateId::Busy)) }
    }

    /// Whether the set can never hold: a blocked control shows no hover and no active, and no state holds and does not.
    pub fn is_dead(&self, set: &StateSet) -> bool {
        let reacts = !self.blocked_react
            && (set.names(StateId::Hover) || set.names(StateId::Active))
            && (set.names(StateId::Busy) || set.names(StateId::Disabled));
        reacts || set.contradicts_itself()
    }
}

/// The order of sets of states; a greater one wins.
pub type Precedence = (u8, usize, Vec<StateId>, Vec<(StateId, String)>, (usize, Vec<StateId>));

/// States that hold together, sorted; what a rule asks for names states that must not hold as well.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, PartialOrd, Ord)]
pub struct StateSet {
    ids: Vec<StateId>,
    /// States of parts.
    of: Vec<(StateId, String)>,
    /// The control's own states that must not hold; none in a case, which says of every state whether it holds.
    absent: Vec<StateId>,
}

impl StateSet {
    /// A set of the control's own states.
    pub fn of(ids: impl IntoIterator<Item = StateId>) -> StateSet {
        let mut ids: Vec<StateId> = ids.into_iter().collect();
        ids.sort_unstable();
        ids.dedup();
        StateSet { ids, of: Vec::new(), absent: Vec::new() }
    }

    /// The same where a state of the control must not hold.
    pub fn without(mut self, id: StateId) -> StateSet {
        self.absent.push(id);
        self.absent.sort_unstable();
        self.absent.dedup();
        self
    }

    /// The same with a state of a part.
    pub fn with_part(mut self, id: StateId, part: impl Into<String>) -> StateSet {
        self.of.push((id, part.into()));
        self.of.sort_unstable();
        self.of.dedup();
        self
    }

    /// Both together.
    pub fn union(&self, other: &StateSet) -> StateSet {
        let own = StateSet::of(self.ids.iter().chain(&other.ids).copied());
        let own = self.of.iter().chain(&other.of).fold(own, |set, (id, part)| set.with_part(*id, part.clone()));
        self.absent.iter().chain(&other.absent).fold(own, |set, id| set.without(*id))
    }

    /// Whether the control itself is in a state.
    pub fn has(&self, id: StateId) -> bool {
        self.ids.contains(&id)
    }

    /// Whether the control or a part of it is in a state.
    pub fn names(&self, id: StateId) -> bool {
        self.has(id) || self.of.iter().any(|(of, _)| *of == id)
    }

    /// Whether it speaks of a state: the control or a part of it is in it, or must not be.
    pub fn speaks_of(&self, id: StateId) -> bool {
        self.names(id) || self.absent.contains(&id)
    }

    /// The control's own states that must not hold, lowest first.
    pub fn absent(&self) -> &[StateId] {
        &self.absent
    }

    /// Whether a state has to hold and must not.
    pub fn contradicts_itself(&self) -> bool {
        self.absent.iter().any(|id| self.has(*id))
    }

    /// The control's own states, lowest first.
    pub fn ids(&self) -> &[StateId] {
        &self.ids
    }

    /// The states of parts.
    pub fn of_parts(&self) -> &[(StateId, String)] {
        &self.of
    }

    /// All states, whoever's they are, lowest first.
    fn ranks(&self) -> Vec<StateId> {
        let mut ranks: Vec<StateId> = self.ids.iter().copied().chain(self.of.iter().map(|(id, _)| *id)).collect();
        ranks.sort_unstable();
        ranks
    }

    /// How many states hold.
    pub fn len(&self) -> usize {
        self.ids.len() + self.of.len()
    }

    /// Whether it asks for no state.
    pub fn is_empty(&self) -> bool {
        self.len() == 0 && self.absent.is_empty()
    }

    /// Whether everything that another set asks for is asked for here as well.
    pub fn covers(&self, other: &StateSet) -> bool {
        other.ids.iter().all(|id| self.ids.contains(id))
            && other.of.iter().all(|of| self.of.contains(of))
            && other.absent.iter().all(|id| self.absent.contains(id))
    }

    /// Whether nothing is asked for.
    pub fn is_rest(&self) -> bool {
        self.is_empty()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_larger_set_beats_its_subset_and_disabled_beats_all() {
        let states = States::new(&[]);
        let set = |names: &[&str]| StateSet::of(names.iter().map(|n| states.find(n).unwrap()));
        let rank = |names: &[&str]| states.precedence(&set(names));
        assert!(rank(&["checked", "hover"]) > rank(&["checked"]));
        assert!(rank(&["disabled"]) > rank(&["checked", "focus"]));
        assert!(rank(&["active"]) > rank(&["hover"]));
        assert!(rank(&["checked", "hover"]) > rank(&["invalid"]));
        assert_eq!(states.layer(&set(&["checked", "hover"])), "combined");
        assert_eq!(states.layer(&set(&["checked", "disabled"])), "disabled");
        assert!(states.is_dead(&set(&["hover", "disabled"])));
    }
}
