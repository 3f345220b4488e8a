//! Rules that say the same of several hosts become one.

use crate::draft::{Draft, DraftRule};
use crate::when::When;
use std::collections::BTreeSet;

/// Puts the rules of one list of selectors together where they differ in their hosts alone, and nothing that competes with them
/// stands between them.
pub fn hosts(draft: &mut Draft) {
    draft.rules.sort_by(|a, b| (&a.target, a.rank).cmp(&(&b.target, b.rank)));
    let all = draft.hosts.len();
    let mut merged: Vec<DraftRule> = Vec::new();
    for rule in std::mem::take(&mut draft.rules) {
        let bare = |when: &When| When { hosts: BTreeSet::new(), ..when.clone() };
        let says_the_same = |known: &DraftRule| {
            known.target == rule.target
                && known.origin == rule.origin
                && known.from.sheet == rule.from.sheet
                && known.pieces.len() == rule.pieces.len()
                && known.pieces.iter().zip(&rule.pieces).all(|(a, b)| a.name == b.name && a.value == b.value)
                && bare(&known.when) == bare(&rule.when)
                && !known.when.hosts.is_empty()
                && !rule.when.hosts.is_empty()
        };
        let Some(at) = merged.iter().position(says_the_same) else {
            merged.push(rule);
            continue;
        };
        // What stands between is stronger than the one and weaker than the other.
        let competes = |other: &DraftRule| {
            other.target == rule.target && other.rank > merged[at].rank && !other.sets().within(&rule.sets()).is_empty()
        };
        if merged.iter().any(competes) {
            merged.push(rule);
            continue;
        }
        let known = &mut merged[at];
        known.when.hosts.extend(rule.when.hosts.iter().copied());
        if known.when.hosts.len() == all {
            known.when.hosts.clear();
        }
        known.rank = rule.rank;
    }
    draft.rules = merged;
}
