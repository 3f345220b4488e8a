//! What the classes on a page mean to the system.

use std::collections::HashMap;
use stilk_language::system::{OptionId, System};

/// What a class means.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Meaning {
    /// An element is this control, by index.
    Control(usize),
    /// It has an option of a control.
    Option(usize, OptionId),
    /// It is a part of a control: the index of its name in [`Classes::part`].
    Part(usize, usize),
}

/// Every class that the system gives a meaning.
pub struct Classes {
    known: HashMap<String, Meaning>,
    parts: Vec<Vec<String>>,
    /// What all of them begin with.
    prefix: String,
}

impl Classes {
    /// The classes of a system.
    pub fn new(system: &System) -> Classes {
        let names = system.names();
        let mut known = HashMap::new();
        let mut parts = Vec::new();
        for (index, control) in system.controls.iter().enumerate() {
            known.insert(names.control(&control.name.value), Meaning::Control(index));
            for (axis, options) in control.axes.iter().enumerate() {
                for option in 0..options.options.len() {
                    let id = OptionId { axis, option };
                    known.insert(names.option(control, id), Meaning::Option(index, id));
                }
            }
            let of_control: Vec<String> = control.template.part_names().into_iter().map(str::to_owned).collect();
            for (part, name) in of_control.iter().enumerate() {
                known.insert(names.part(&control.name.value, name), Meaning::Part(index, part));
            }
            parts.push(of_control);
        }
        let pattern = &system.manifest.classes.control;
        let fixed = pattern.value.replace("{prefix}", &system.manifest.prefix.value);
        let prefix = fixed.split('{').next().unwrap_or_default().to_owned();
        Classes { known, parts, prefix }
    }

    /// What a class means.
    pub fn get(&self, class: &str) -> Option<Meaning> {
        self.known.get(class).copied()
    }

    /// A part's name.
    pub fn part(&self, control: usize, part: usize) -> &str {
        &self.parts[control][part]
    }

    /// All classes.
    pub fn all(&self) -> impl Iterator<Item = &str> {
        self.known.keys().map(String::as_str)
    }

    /// Whether a class looks like one of the system's: it begins as they all do. Where they have nothing in common, none does.
    pub fn is_ours(&self, class: &str) -> bool {
        !self.prefix.is_empty() && class.starts_with(&self.prefix)
    }
}
