//! States: that there are those that people need, and that they behave.

pub mod color_only;
pub mod edge_split;
pub mod hover_only;
pub mod indistinct;
pub mod leak;
pub mod missing;
pub mod motion;
pub mod nameless;
pub mod shift;
pub mod slips;
pub mod snap;

use crate::inspection::{Inspection, Shown, has_state};
use stilk_language::system::StateSet;

/// Each look in which a state was added to another look: that state, the look without it, the look with it.
fn steps<'i>(inspection: &'i Inspection, names: &[&'static str]) -> Vec<(&'static str, &'i Shown<'i>, &'i Shown<'i>)> {
    let system = inspection.system;
    let mut steps = Vec::new();
    for shown in &inspection.looks {
        for name in names {
            let Some(id) = system.states.find(name).filter(|id| shown.states.ids().contains(id)) else { continue };
            if !shown.states.of_parts().is_empty() {
                continue;
            }
            let without = StateSet::of(shown.states.ids().iter().copied().filter(|other| *other != id));
            if let Some(before) = inspection.looks.iter().find(|other| *other.states == without) {
                steps.push((*name, before, shown));
            }
        }
    }
    steps
}

/// Whether no step before this one led to the same look: a case counts once.
fn is_first(steps: &[(&'static str, &Shown, &Shown)], index: usize) -> bool {
    !steps[..index].iter().any(|(_, _, after)| after.states == steps[index].2.states)
}

/// Whether the control can be used in these states.
fn is_usable(inspection: &Inspection, shown: &Shown) -> bool {
    !["disabled", "busy"].iter().any(|name| has_state(inspection.system, shown.states, name))
}
