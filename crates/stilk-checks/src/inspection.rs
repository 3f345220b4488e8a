//! What a check looks at: one control on one host in one variant and theme, in all the states that the check can tell apart.

use crate::painted::boxes::{self, PaintedBox};
use crate::painted::paint;
use crate::painted::visible::{self, Change};
use crate::trace::Tracer;
use rustc_hash::FxHashMap;
use std::cell::RefCell;
use std::rc::Rc;
use stilk_engine::css::Unknown;
use stilk_language::case::{Look, Unit, case_name};
use stilk_language::system::states::State;
use stilk_language::system::{StateId, StateSet, System};
use stilk_text::source::Span;

/// What a check looks at: one unit in all its states.
pub struct Inspection<'i> {
    /// The system.
    pub system: &'i System,
    /// The unit.
    pub unit: &'i Unit<'i>,
    /// Those of its looks that the check can tell apart, rest first.
    pub looks: Vec<Shown<'i>>,
    /// Whether the looks stand for others of another size.
    pub sizes: paint::Sizes,
    /// Follows values to their sources.
    pub tracer: &'i Tracer<'i>,
    /// What was found out already: several checks ask for the same.
    pub(crate) known: &'i Known<'i>,
}

/// What is known of the looks of one unit, by where these stand in memory: they outlive its inspection.
#[derive(Default)]
pub(crate) struct Known<'l> {
    /// What changes between two looks.
    changes: RefCell<FxHashMap<[*const Look; 2], Changes>>,
    /// The boxes that a look paints.
    boxes: RefCell<FxHashMap<*const Look, Boxes<'l>>>,
}

/// What changes between two looks.
type Changes = Rc<Vec<Change>>;

/// The boxes of a look, or why they are not known.
type Boxes<'l> = Rc<Result<Vec<PaintedBox<'l>>, Unknown>>;

/// A look that a check inspects.
pub struct Shown<'i> {
    /// The states.
    pub states: &'i StateSet,
    /// The look.
    pub look: &'i Look,
    /// How many sets of states give the check the same verdict, this one included.
    pub stands_for: u64,
}

impl<'i> Inspection<'i> {
    /// A case's name: `button@a.alarm:hover in storm`.
    pub fn case_name(&self, states: &StateSet) -> String {
        case_name(self.system, self.unit, states)
    }

    /// The look at rest.
    pub fn rest(&self) -> Option<&Shown<'i>> {
        self.looks.iter().find(|shown| shown.states.is_rest())
    }

    /// Everything that rules of the system change between two of the looks and that can be seen.
    pub(crate) fn changes(&self, before: &Look, after: &Look) -> Changes {
        let key = [std::ptr::from_ref(before), std::ptr::from_ref(after)];
        let mut known = self.known.changes.borrow_mut();
        Rc::clone(known.entry(key).or_insert_with(|| Rc::new(visible::changes(before, after))))
    }

    /// Every box of one of the looks that can be seen, the outermost first.
    pub(crate) fn boxes(&self, look: &'i Look) -> Boxes<'i> {
        let mut known = self.known.boxes.borrow_mut();
        Rc::clone(known.entry(std::ptr::from_ref(look)).or_insert_with(|| Rc::new(boxes::boxes(look))))
    }

    /// Where a sheet changes something between two looks: by a rule that asks for one of these states, where there is one.
    pub(crate) fn place_of(&self, changes: &[Change], after: &Look, states: &StateSet) -> Option<Span> {
        let declared = |change: &Change| self.tracer.origin(change.style(after)?, change.longhand).declaration;
        let asks = |span: &Span| {
            let rules = &self.unit.control.rules;
            let rule = rules.iter().find(|rule| rule.declarations.iter().any(|d| d.span == *span));
            rule.is_some_and(|rule| states.ids().iter().any(|state| rule.states.has(*state)))
        };
        changes.iter().filter_map(declared).find(asks).or_else(|| changes.iter().find_map(declared))
    }

    /// What a person would write for states of the control: `` `@state hover { … }` in `@control button` ``, and on a page
    /// `` `.send:hover { … }` ``.
    pub(crate) fn rule_in(&self, states: &StateSet) -> String {
        let control = &self.unit.control.name.value;
        let states = || states.ids().iter().map(|id| self.system.states.get(*id));
        if self.tracer.is_of_page() {
            let selector = |state: &State| state.selectors.first().cloned().unwrap_or_default();
            let of_all: String = states().map(selector).collect();
            let each = control.split(", ").map(|one| format!("{one}{of_all}"));
            return format!("`{} {{ … }}`", each.collect::<Vec<_>>().join(", "));
        }
        let names: Vec<&str> = states().map(|state| state.name.as_str()).collect();
        format!("`@state {} {{ … }}` in `@control {control}`", names.join(" and "))
    }

    /// Where a person writes what is so in a state: `` in `@state active` ``, and on a page ``in `:active` ``.
    pub(crate) fn within_state(&self, state: StateId) -> String {
        let state = self.system.states.get(state);
        match self.tracer.is_of_page() {
            true => format!("in `{}`", state.selectors.first().map_or(state.name.as_str(), String::as_str)),
            false => format!("in `@state {}`", state.name),
        }
    }

    /// The look in exactly one state.
    pub fn in_state(&self, state: StateId) -> Option<&Shown<'i>> {
        let set = StateSet::of([state]);
        self.looks.iter().find(|shown| *shown.states == set)
    }
}
