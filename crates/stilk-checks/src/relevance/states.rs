//! Which sets of states a check looks at, each with the number of sets that it stands for.

use crate::relevance::dependence::{Properties, Property, Setting};
use crate::relevance::reads::StatesAsked;
use stilk_engine::css::property::Longhand;
use stilk_language::system::{Control, StateId, StateSet};

/// Indexes into a list of sets, with the number of sets that each stands for.
pub type Weighted = Vec<(usize, u64)>;

/// Those of a check that cannot take one set for another; nothing is known of the sheets.
pub fn without_sheets(asked: StatesAsked, sets: &[StateSet]) -> Weighted {
    let is_asked = |set: &StateSet| match asked {
        StatesAsked::Distinct | StatesAsked::Each => true,
        StatesAsked::EachAlone => set.len() <= 1,
        StatesAsked::Alone(states) => {
            set.len() <= 1 && set.of_parts().is_empty() && set.ids().iter().all(|id| states.contains(id))
        }
        StatesAsked::Rest => set.is_rest(),
    };
    sets.iter().enumerate().filter(|(_, set)| is_asked(set)).map(|(index, _)| (index, 1)).collect()
}

/// The same by what sheets say in each state: of the sets that a check cannot tell apart the first is taken.
pub fn by_sheets(
    control: &Control,
    asked: StatesAsked,
    sets: &[StateSet],
    settings: &[Setting],
    read: &Properties,
) -> Weighted {
    let relevant: Vec<&Setting> = settings.iter().filter(|setting| setting.sets_any(read)).collect();
    if asked != StatesAsked::Distinct || relevant.iter().any(|setting| setting.asks_more_than_states()) {
        return without_sheets(asked, sets);
    }
    let counts = |state: StateId| counts(control, state, &relevant, read);
    let mut found: Vec<(StateSet, usize, u64)> = Vec::new();
    for (index, set) in sets.iter().enumerate() {
        let of_own = StateSet::of(set.ids().iter().copied().filter(|state| counts(*state)));
        let of_parts = set.of_parts().iter().filter(|(state, _)| counts(*state));
        let counted = of_parts.fold(of_own, |counted, (state, part)| counted.with_part(*state, part.clone()));
        match found.iter_mut().find(|(known, ..)| *known == counted) {
            Some((_, _, stands_for)) => *stands_for += 1,
            None => found.push((counted, index, 1)),
        }
    }
    found.into_iter().map(|(_, index, stands_for)| (index, stands_for)).collect()
}

/// Whether a state may change what is read.
fn counts(control: &Control, state: StateId, relevant: &[&Setting], read: &Properties) -> bool {
    // Every browser draws an outline of its own where the focus is.
    let is_outlined = matches!(state, StateId::Focus | StateId::FocusWithin)
        && read.contains(&Property::Longhand(Longhand::OutlineStyle));
    let is_waived = control.waivers.iter().any(|waiver| waiver.cases.states.has(state));
    is_waived
        || is_outlined
        || !PAINTED_BY_SHEETS_ALONE.contains(&state)
        || relevant.iter().any(|setting| setting.rule.states.speaks_of(state))
}

/// States in which no browser paints anything else than at rest, but for an outline, and in which the markup holds the
/// same text: all that changes is what sheets say.
const PAINTED_BY_SHEETS_ALONE: [StateId; 8] = [
    StateId::Hover,
    StateId::FocusWithin,
    StateId::Focus,
    StateId::Selected,
    StateId::Required,
    StateId::Readonly,
    StateId::Invalid,
    StateId::Busy,
];
