//! The other sides of the conditions that a control's rules stand in (`@media`, `@container`, `@supports`): what is looked
//! at there, and by which checks.

use crate::check::{Scope, Task};
use crate::relevance::dependence::{Properties, Setting, influences, settings};
use crate::settings::is_off;
use crate::surroundings::{parse, with_left_out};
use rustc_hash::FxHashMap;
use stilk_engine::cascade::LonghandSet;
use stilk_engine::cascade::Surroundings;
use stilk_engine::cascade::surroundings::GroupCondition;
use stilk_language::system::{Rule, System};

/// A control in surroundings of its own.
pub struct Side {
    /// The control, by index.
    pub control: usize,
    /// What is around it.
    pub surroundings: Surroundings,
    /// The checks whose verdict may be another one there.
    pub tasks: Vec<Task>,
    /// Whether these are its usual surroundings, in which its cases are counted.
    pub is_usual: bool,
    /// Of how many conditions nothing is looked at: then nothing is known.
    pub left_out: u64,
}

/// The sides of a control that are looked at beside an ordinary screen. Where its usual surroundings are no ordinary screen,
/// because it asks for a container of the page, they are the first.
pub fn of_control(system: &System, index: usize, checks: &[Task]) -> Vec<Side> {
    let control = &system.controls[index];
    if control.rules.iter().all(|rule| rule.conditions.is_empty()) {
        return Vec::new();
    }
    let (all, left_out) = with_left_out(control);
    let Some((usual, others)) = all.split_first() else { return Vec::new() };
    let is_asked =
        |check: &&Task| !is_off(system, check.id) && matches!(check.scope, Scope::Looks(_) | Scope::Controls(_));
    let asked: Vec<Task> = checks.iter().filter(is_asked).copied().collect();
    let mut found = Vec::new();
    if *usual != Surroundings::default() {
        found.push(Side {
            control: index,
            surroundings: usual.clone(),
            tasks: asked.clone(),
            is_usual: true,
            left_out: 0,
        });
    }
    if left_out > 0 {
        let (surroundings, tasks) = (usual.clone(), asked.clone());
        found.push(Side { control: index, surroundings, tasks, is_usual: false, left_out: left_out as u64 });
    }
    let settings = settings(system, control);
    let mut known: FxHashMap<*const Rule, Option<Vec<GroupCondition>>> = FxHashMap::default();
    for side in others {
        let changed: Vec<&Setting> = settings
            .iter()
            .filter(|setting| {
                let rule = setting.rule;
                // Whoever asks for less motion has asked for it.
                if rule.conditions.is_empty() || setting.declaration.is_motion() {
                    return false;
                }
                let parsed = known.entry(std::ptr::from_ref(rule)).or_insert_with(|| parse(&rule.conditions));
                parsed.as_ref().is_some_and(|stack| usual.hold(stack) != side.hold(stack))
            })
            .collect();
        let may_tell = |check: &Task| {
            let sets_any = |properties: &Properties| changed.iter().any(|setting| setting.sets_any(properties));
            match check.scope {
                _ if changed.is_empty() => false,
                Scope::Looks(looks) => {
                    let reads = std::iter::once(&looks.reads).chain(&looks.reads_where_split);
                    reads
                        .into_iter()
                        .any(|reads| sets_any(&influences(control, reads, &settings, LonghandSet::default())))
                }
                Scope::Controls(_) => true,
                Scope::System(_) | Scope::Page(_) | Scope::Reading(_) => false,
            }
        };
        let tasks: Vec<Task> = asked.iter().copied().filter(may_tell).collect();
        // What asks for motion has no verdict where none is wanted.
        let tasks = tasks
            .into_iter()
            .filter(|check| !side.media.reduced_motion || !["state/motion", "state/snap"].contains(&check.id));
        let tasks: Vec<Task> = tasks.collect();
        if !tasks.is_empty() {
            found.push(Side { control: index, surroundings: side.clone(), tasks, is_usual: false, left_out: 0 });
        }
    }
    found
}
