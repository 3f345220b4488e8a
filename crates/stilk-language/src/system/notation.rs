//! The notation of cases: `CONTROL[@HOST][.option…][:state…]`, as findings print it and commands take it.

use crate::system::{Control, OptionId, StateSet, States, System, Variant};
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

/// What begins a host, an option, a state.
pub(crate) const MARKS: [char; 3] = ['@', '.', ':'];

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
