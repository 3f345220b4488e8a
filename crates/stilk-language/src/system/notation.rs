//! The notation of cases: `CONTROL[@HOST][.option…][:state…]`, as findings print it and commands take it.

use crate::case::state_sets;
use crate::system::{Control, OptionId, StateId, StateSet, States, System, Variant};
use stilk_text::diagnostic::{list, nearest};

/// A case that was named.
#[derive(Debug)]
pub struct NamedCase<'s> {
    /// The control.
    pub control: &'s Control,
    /// Index of the host.
    pub host: usize,
    /// The variant: what is named, defaults otherwise.
    pub variant: Variant,
    /// The states.
    pub states: StateSet,
}

/// Some cases of a control: those on a host, with options, in states. What is not named may be anything.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Cases {
    /// Index of the host.
    pub host: Option<usize>,
    /// Options that they have, one of an axis at most.
    pub options: Vec<OptionId>,
    /// States that they are in, and perhaps in more.
    pub states: StateSet,
}

impl Cases {
    /// Whether a case is one of them.
    pub fn have(&self, host: usize, variant: &Variant, states: &StateSet) -> bool {
        self.host.is_none_or(|own| own == host)
            && self.options.iter().all(|option| variant.has(*option))
            && states.covers(&self.states)
    }

    /// Whether they are all cases.
    pub fn are_all(&self) -> bool {
        *self == Cases::default()
    }
}

/// Reads the notation.
///
/// # Errors
/// What is wrong and what to write instead, in one line.
pub fn parse<'s>(system: &'s System, text: &str) -> Result<NamedCase<'s>, String> {
    let (name, rest) = text.split_at(text.find(MARKS).unwrap_or(text.len()));
    let controls = || system.controls.iter().map(|c| c.name.as_str());
    let control = system.control(name).ok_or_else(|| unknown("control", name, controls()))?;
    let cases = parse_cases(&system.states, control, rest)?;
    let host = cases.host.unwrap_or(0);
    let mut variant = control.default_variant();
    for id in cases.options {
        variant.choices[id.axis] = Some(id.option);
    }
    if control.excludes.iter().any(|exclude| exclude.covers(&variant, host)) {
        return Err(format!("`{text}` does not exist: the sheet excludes this variant"));
    }
    Ok(NamedCase { control, host, variant, states: cases.states })
}

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

/// What begins a host, an option, a state.
const MARKS: [char; 3] = ['@', '.', ':'];

/// Reads what follows a control's name: `[@HOST][.option…][:state…]`.
///
/// # Errors
/// What is wrong and what to write instead, in one line.
pub fn parse_cases(known: &States, control: &Control, text: &str) -> Result<Cases, String> {
    let mut rest = text;
    let mut cases = Cases::default();
    let mut states = Vec::new();
    while let Some(mark) = rest.chars().next() {
        let end = rest[mark.len_utf8()..].find(MARKS).map_or(rest.len(), |i| i + mark.len_utf8());
        let word = &rest[mark.len_utf8()..end];
        match mark {
            '@' => {
                let hosts = || control.template.hosts.iter().map(|h| h.name.as_str());
                let host = hosts().position(|known| known == word).ok_or_else(|| unknown("host", word, hosts()))?;
                cases.host = Some(host);
            }
            '.' => {
                let options = || control.axes.iter().flat_map(|a| &a.options).map(|o| o.as_str());
                let id = control.find_option(word).ok_or_else(|| unknown("option", word, options()))?;
                match cases.options.iter().find(|other| other.axis == id.axis) {
                    Some(other) if *other != id => {
                        let (first, axis) = (control.option_name(*other), &control.axes[id.axis].name.value);
                        return Err(format!("`{first}` and `{word}` are both of the axis `{axis}`: write one of them"));
                    }
                    Some(_) => {}
                    None => cases.options.push(id),
                }
            }
            ':' => {
                let id = known.find(word).ok_or_else(|| unknown("state", word, known.names()))?;
                states.push(id);
            }
            _ => return Err(format!("`{rest}` names no cases: write `@HOST`, `.option` or `:state`")),
        }
        rest = &rest[end..];
    }
    cases.states = StateSet::of(states);
    Ok(cases)
}

fn unknown<'n>(what: &str, name: &str, known: impl Iterator<Item = &'n str>) -> String {
    let known: Vec<&str> = known.collect();
    match nearest(name, known.iter().copied()) {
        Some(near) => format!("there is no {what} `{name}`: write `{near}`"),
        None => format!("there is no {what} `{name}`: write one of {}", list(&known)),
    }
}
