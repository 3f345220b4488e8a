//! The notation of cases: `CONTROL[@HOST][.option…][:state…]`, as findings print it and commands take it.

use crate::diagnostic::{list, nearest};
use crate::system::{Control, StateSet, System, Variant};

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

/// Reads the notation.
///
/// # Errors
/// What is wrong and what to write instead, in one line.
pub fn parse<'s>(system: &'s System, text: &str) -> Result<NamedCase<'s>, String> {
    let end = text.find(['@', '.', ':']).unwrap_or(text.len());
    let (name, mut rest) = text.split_at(end);
    let controls = || system.controls.iter().map(|c| c.name.as_str());
    let control = system.control(name).ok_or_else(|| unknown("control", name, controls()))?;
    let mut host = 0;
    let mut variant = Variant { choices: control.axes.iter().map(|axis| axis.default).collect() };
    let mut named: Vec<Option<&str>> = vec![None; control.axes.len()];
    let mut states = Vec::new();
    while let Some(mark) = rest.chars().next() {
        let end = rest[1..].find(['@', '.', ':']).map_or(rest.len(), |i| i + 1);
        let word = &rest[1..end];
        rest = &rest[end..];
        match mark {
            '@' => {
                let hosts = || control.template.hosts.iter().map(|h| h.name.as_str());
                host = hosts().position(|known| known == word).ok_or_else(|| unknown("host", word, hosts()))?;
            }
            '.' => {
                let options = || control.axes.iter().flat_map(|a| &a.options).map(|o| o.as_str());
                let id = control.find_option(word).ok_or_else(|| unknown("option", word, options()))?;
                if let Some(first) = named[id.axis].replace(word).filter(|first| *first != word) {
                    let axis = &control.axes[id.axis].name.value;
                    return Err(format!("`{first}` and `{word}` are both of the axis `{axis}`: write one of them"));
                }
                variant.choices[id.axis] = Some(id.option);
            }
            _ => {
                let id = system.states.find(word).ok_or_else(|| unknown("state", word, system.states.names()))?;
                states.push(id);
            }
        }
    }
    if control.excludes.iter().any(|exclude| exclude.covers(&variant, host)) {
        return Err(format!("`{text}` does not exist: the sheet excludes this variant"));
    }
    Ok(NamedCase { control, host, variant, states: StateSet::of(states) })
}

fn unknown<'n>(what: &str, name: &str, known: impl Iterator<Item = &'n str>) -> String {
    let known: Vec<&str> = known.collect();
    match nearest(name, known.iter().copied()) {
        Some(near) => format!("there is no {what} `{name}`: write `{near}`"),
        None => format!("there is no {what} `{name}`: write one of {}", list(&known)),
    }
}
