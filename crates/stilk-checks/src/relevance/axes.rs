//! Which axes a check can tell apart.

use crate::relevance::dependence::{Properties, Setting, names_any};
use crate::relevance::reads::{Longhands, Reads};
use stilk_engine::dom::NodeId;
use stilk_language::case::ControlKind;
use stilk_language::system::{Control, OptionId, Rule};
use stilk_language::template::Host;

/// The axes, by index, of which some option changes anything that is read.
pub fn relevant_axes(control: &Control, reads: &Reads, settings: &[Setting], read: &Properties) -> Vec<usize> {
    let asks_a_container = settings.iter().any(|setting| setting.sets_any(read) && setting.rule.asks_for_container());
    let is_relevant = |axis: &usize| {
        let of_axis = |id: &OptionId| id.axis == *axis;
        let sets = settings.iter().any(|setting| {
            std::ptr::eq(setting.control, control) && setting.rule.options.iter().any(of_axis) && setting.sets_any(read)
        });
        let waived = control.waivers.iter().any(|waiver| waiver.cases.options.iter().any(of_axis));
        asks_a_container || sets || waived || brings_something(control, settings, *axis, reads)
    };
    (0..control.axes.len()).filter(is_relevant).collect()
}

/// Whether an option of the axis brings an element that the check would see.
fn brings_something(control: &Control, settings: &[Setting], axis: usize, reads: &Reads) -> bool {
    control.template.hosts.iter().any(|host| {
        control.template.document.descendants(host.node).into_iter().any(|node| {
            let options = control.options_that_bring(node);
            let of_axis: Vec<OptionId> = options.into_iter().filter(|id| id.axis == axis).collect();
            !of_axis.is_empty() && is_seen(control, host, node, settings, &of_axis, reads)
        })
    })
}

/// Whether a check sees an element that options bring: one with text, any where it looks at icons, or a part that answers to
/// a state in a variant that can have both.
fn is_seen(
    control: &Control,
    host: &Host,
    node: NodeId,
    settings: &[Setting],
    options: &[OptionId],
    reads: &Reads,
) -> bool {
    let document = &control.template.document;
    let inside = document.descendants(node);
    if reads.icons || inside.iter().any(|node| document.has_own_text(*node)) {
        return true;
    }
    let is_inside = |part: &str| host.parts.iter().any(|(name, n)| name.value == part && inside.contains(n));
    let is_of_state = |rule: &Rule| match reads.longhands {
        Longhands::These(_) => false,
        Longhands::ChangedByNeeded { .. } => names_any(rule, ControlKind::of(control).needed_states()),
        Longhands::ChangedByStates { .. } => !rule.states.is_rest(),
    };
    settings.iter().map(|setting| setting.rule).any(|rule| {
        let can_meet_all = |option: &OptionId| rule.options.iter().all(|other| can_meet(control, *option, *other));
        is_of_state(rule) && rule.target.part.as_deref().is_some_and(is_inside) && options.iter().any(can_meet_all)
    })
}

fn can_meet(control: &Control, a: OptionId, b: OptionId) -> bool {
    if a.axis == b.axis {
        return a == b;
    }
    !control.excludes.iter().any(|exclude| {
        let pair = |x: &OptionId, y: &OptionId| exclude.options.contains(x) && exclude.with.contains(y);
        exclude.hosts.is_none() && exclude.without.is_empty() && (pair(&a, &b) || pair(&b, &a))
    })
}
