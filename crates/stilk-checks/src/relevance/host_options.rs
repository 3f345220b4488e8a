//! What options do on a host that they do not do on the first: where checks look at one option at a time, a host beside the
//! first is looked at for these only. In all else it looks like the first, or `reset/parity` says so.

use stilk_language::system::{Control, OptionId};

/// Combinations of options that mean something of their own on some host; an empty one where it does so whatever is chosen.
pub fn of_own(control: &Control, host: usize) -> Vec<Vec<OptionId>> {
    let of_rules = control.rules.iter().filter(|rule| rule.tells_hosts_apart()).map(|rule| rule.options.clone());
    let waived = control.waivers.iter().filter(|waiver| waiver.cases.host.is_some());
    let first = added_by(control, 0);
    let added = added_by(control, host).into_iter().filter(|option| host != 0 && !first.contains(option));
    of_rules.chain(waived.map(|waiver| waiver.cases.options.clone())).chain(added.map(|option| vec![option])).collect()
}

/// The options that bring elements of a host's template.
fn added_by(control: &Control, host: usize) -> Vec<OptionId> {
    let nodes = control.template.document.descendants(control.template.hosts[host].node);
    nodes.into_iter().flat_map(|node| control.options_that_bring(node)).collect()
}
