//! Cases that somebody is about to write: what may stand next.

use crate::case::state_sets;
use crate::system::notation::{Cases, MARKS, parse_cases};
use crate::system::{Control, StateId, System};

/// What may stand in the place of an unfinished case: as much as is written of it, carried on to the end of the next word.
/// Where that can be one word alone, the marks that may follow it are offered as well. Nothing where what stands before is
/// wrong.
pub fn continuations(system: &System, text: &str) -> Vec<String> {
    let name = &text[..text.find(MARKS).unwrap_or(text.len())];
    let (before, names) = match text.rfind(MARKS) {
        None => ("", system.controls.iter().map(|control| control.name.as_str()).collect()),
        Some(last) => match next_words(system, name, &text[name.len()..last], &text[last..=last]) {
            Some(names) => (&text[..=last], names),
            None => return Vec::new(),
        },
    };
    let word = &text[before.len()..];
    let begun = names.into_iter().filter(|name| name.starts_with(word));
    let mut found: Vec<String> = begun.map(|name| format!("{before}{name}")).collect();
    let whole = found.iter().find(|case| *case == text).or_else(|| found.first().filter(|_| found.len() == 1)).cloned();
    if let Some(whole) = whole {
        let (name, rest) = whole.split_at(whole.find(MARKS).unwrap_or(whole.len()));
        let case =
            system.control(name).and_then(|control| Some((control, parse_cases(&system.states, control, rest).ok()?)));
        if let Some((control, case)) = case {
            found.extend(marks_behind(system, control, &case).map(|mark| format!("{whole}{mark}")));
        }
    }
    found
}

/// What may be written behind a mark, after a case of a control.
fn next_words<'s>(system: &'s System, control: &str, case: &str, mark: &str) -> Option<Vec<&'s str>> {
    let control = system.control(control)?;
    let before = parse_cases(&system.states, control, case).ok()?;
    Some(match mark {
        "@" if before.host.is_some() => Vec::new(),
        "@" => control.template.hosts.iter().map(|host| host.name.as_str()).collect(),
        "." => options_left(control, &before),
        _ => states_left(system, control, &before),
    })
}

/// What may begin behind a case that is whole as it stands.
fn marks_behind(system: &System, control: &Control, case: &Cases) -> impl Iterator<Item = char> {
    // In the order in which findings print them: the host, options, states.
    let in_states = !case.states.ids().is_empty();
    let may_follow = [
        case.host.is_none() && case.options.is_empty() && !in_states && control.template.hosts.len() > 1,
        !in_states && !options_left(control, case).is_empty(),
        !states_left(system, control, case).is_empty(),
    ];
    MARKS.into_iter().zip(may_follow).filter(|(_, may)| *may).map(|(mark, _)| mark)
}

/// Options of axes that a case says nothing of.
fn options_left<'c>(control: &'c Control, case: &Cases) -> Vec<&'c str> {
    let left = control.axes.iter().enumerate().filter(|(i, _)| case.options.iter().all(|option| option.axis != *i));
    left.flat_map(|(_, axis)| &axis.options).map(|option| option.as_str()).collect()
}

/// States that a control can be in, but for those that a case is in.
fn states_left<'s>(system: &'s System, control: &Control, case: &Cases) -> Vec<&'s str> {
    let sets = state_sets(system, control);
    let of_control = |id: StateId| sets.iter().any(|set| set.has(id));
    let left = system.states.list().filter(|state| of_control(state.id) && !case.states.has(state.id));
    left.map(|state| state.name.as_str()).collect()
}
