//! States: that there are those that people need, and that they behave.

pub mod color_only;
pub mod edge_split;
pub mod erased;
pub mod hover_only;
pub mod indistinct;
pub mod leak;
pub mod missing;
pub mod motion;
pub mod nameless;
pub mod shift;
pub mod slips;
pub mod snap;
pub mod start;
pub mod unseen_motion;

use crate::inspection::{Inspection, Shown};
use stilk_language::system::{StateId, StateSet};

/// A look in which a state was added to another look.
struct Step<'i> {
    state: StateId,
    before: &'i Shown<'i>,
    after: &'i Shown<'i>,
}

/// Each look in which one of some states was added to another look.
fn steps<'i>(inspection: &'i Inspection, states: &[StateId]) -> Vec<Step<'i>> {
    let mut steps = Vec::new();
    for shown in &inspection.looks {
        for state in states.iter().copied().filter(|state| shown.states.has(*state)) {
            if !shown.states.of_parts().is_empty() {
                continue;
            }
            let without = StateSet::of(shown.states.ids().iter().copied().filter(|other| *other != state));
            if let Some(before) = inspection.looks.iter().find(|other| *other.states == without) {
                steps.push(Step { state, before, after: shown });
            }
        }
    }
    steps
}

/// Whether no step before this one led to the same look: a case counts once.
fn is_first(steps: &[Step], index: usize) -> bool {
    !steps[..index].iter().any(|step| step.after.states == steps[index].after.states)
}

/// Whether the control can be used in these states.
fn is_usable(shown: &Shown) -> bool {
    !shown.states.has(StateId::Disabled) && !shown.states.has(StateId::Busy)
}
