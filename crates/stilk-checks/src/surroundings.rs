//! What may be around a control: each side of the conditions that its rules stand in.

use std::collections::HashSet;
use stilk_engine::cascade::Surroundings;
use stilk_engine::cascade::surroundings::{GroupCondition, sides};
use stilk_language::system::Control;
use stilk_language::system::rule::Condition;

/// The surroundings in which a control is looked at, its usual ones first.
pub fn surroundings(control: &Control) -> Vec<Surroundings> {
    with_left_out(control).0
}

/// The same, and how many conditions more there are than are looked at.
pub fn with_left_out(control: &Control) -> (Vec<Surroundings>, usize) {
    let mut known: HashSet<&[Condition]> = HashSet::new();
    let conditions = control.rules.iter().map(|rule| rule.conditions.as_slice());
    let stacks: Vec<&[Condition]> = conditions.filter(|stack| !stack.is_empty() && known.insert(stack)).collect();
    let parsed: Vec<Vec<GroupCondition>> = stacks.into_iter().filter_map(parse).collect();
    sides(&parsed)
}

/// Conditions as surroundings answer them; nothing where one cannot be read.
pub fn parse(conditions: &[Condition]) -> Option<Vec<GroupCondition>> {
    conditions.iter().map(|condition| GroupCondition::parse(&condition.kind, &condition.prelude)).collect()
}
