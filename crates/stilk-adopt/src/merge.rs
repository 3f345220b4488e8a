//! Rules as a person would write them: what several hosts have in common once, and nothing that is written over at once.

use crate::draft::{Draft, DraftRule};
use crate::when::When;
use std::collections::BTreeSet;
use stilk_engine::cascade::LonghandSet;
use stilk_engine::cascade::ranking::Rank;

/// Puts rules together that differ in their hosts alone, where nothing that competes with them stands between.
pub fn hosts(draft: &mut Draft) {
    draft.rules.sort_by(|a, b| (&a.target, a.rank).cmp(&(&b.target, b.rank)));
    let all = draft.hosts.len();
    let rules = std::mem::take(&mut draft.rules);
    let mut gone = vec![false; rules.len()];
    let mut merged = rules.clone();
    for at in 0..rules.len() {
        for known in 0..at {
            if gone[known] || gone[at] || !differ_in_hosts(&merged[known], &merged[at]) {
                continue;
            }
            // All of them take the place of the one or of the other.
            let (low, high) = (merged[known].rank.min(merged[at].rank), merged[known].rank.max(merged[at].rank));
            let moves = |moved: usize| {
                let competes = |other: usize| {
                    other != known
                        && other != at
                        && !gone[other]
                        && stands_between(&merged[other], &merged[moved], low, high)
                };
                !(0..merged.len()).any(competes)
            };
            let (lower, higher) = if merged[known].rank <= merged[at].rank { (known, at) } else { (at, known) };
            let rank = match (moves(lower), moves(higher)) {
                (true, _) => high,
                (_, true) => low,
                _ => continue,
            };
            let hosts: BTreeSet<usize> = merged[known].when.hosts.union(&merged[at].when.hosts).copied().collect();
            let into = &mut merged[known];
            into.when.hosts = if hosts.len() == all { BTreeSet::new() } else { hosts };
            into.rank = rank;
            gone[at] = true;
        }
    }
    draft.rules = merged.into_iter().zip(gone).filter(|(_, gone)| !gone).map(|(rule, _)| rule).collect();
}

fn differ_in_hosts(one: &DraftRule, other: &DraftRule) -> bool {
    let bare = |when: &When| When { hosts: BTreeSet::new(), ..when.clone() };
    one.target == other.target
        && one.origin == other.origin
        && one.from.sheet == other.from.sheet
        && one.rank.is_important() == other.rank.is_important()
        && !one.when.hosts.is_empty()
        && !other.when.hosts.is_empty()
        && bare(&one.when) == bare(&other.when)
        && one.pieces.len() == other.pieces.len()
        && one
            .pieces
            .iter()
            .zip(&other.pieces)
            .all(|(a, b)| a.name == b.name && a.value == b.value && a.themed == b.themed)
}

/// Whether a rule would be beaten by another one that is moved, or would beat it, and did not before.
fn stands_between(other: &DraftRule, moved: &DraftRule, low: Rank, high: Rank) -> bool {
    let meets = other.when.hosts.is_empty() || !other.when.hosts.is_disjoint(&moved.when.hosts);
    other.target == moved.target
        && meets
        && other.rank > low
        && other.rank < high
        && !other.sets().within(&moved.sets()).is_empty()
}

/// Leaves out declarations that another one of the very same place writes over.
pub fn tidy(draft: &mut Draft) {
    draft.rules.sort_by(|a, b| (&a.target, a.rank).cmp(&(&b.target, b.rank)));
    for at in 0..draft.rules.len() {
        let mut later = LonghandSet::default();
        for other in &draft.rules[at + 1..] {
            if other.target == draft.rules[at].target && other.when == draft.rules[at].when {
                later.add_all(&other.sets());
            }
        }
        let mut kept = Vec::new();
        for piece in std::mem::take(&mut draft.rules[at].pieces).into_iter().rev() {
            let is_over = !piece.sets.is_empty() && piece.sets.without(later).is_empty();
            if !is_over {
                later.add_all(&piece.sets);
                kept.push(piece);
            }
        }
        kept.reverse();
        draft.rules[at].pieces = kept;
    }
    // What the control declares for itself and never reads.
    let read: BTreeSet<String> =
        draft.rules.iter().flat_map(|rule| &rule.pieces).flat_map(|piece| reads(&piece.value)).collect();
    for rule in &mut draft.rules {
        rule.pieces.retain(|piece| !piece.name.starts_with("--") || read.contains(&piece.name));
    }
    draft.rules.retain(|rule| !rule.pieces.is_empty());
}

/// The custom properties that a value reads.
fn reads(value: &str) -> impl Iterator<Item = String> + '_ {
    value.split("var(").skip(1).map(|rest| rest.split([',', ')']).next().unwrap_or_default().trim().to_owned())
}
