//! What the classes on a page, and other marks, mean to the system.

use std::collections::HashMap;
use stilk_engine::dom::Element;
use stilk_language::system::{Mark, OptionId, System};

/// What a mark means.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Meaning {
    /// An element is this control, by index.
    Control(usize),
    /// It has an option of a control.
    Option(usize, OptionId),
    /// It is a part of a control: the index of its name in [`Classes::part`].
    Part(usize, usize),
}

/// Every class that the system gives a meaning, and what else marks its controls.
pub struct Classes {
    /// Classes by the manifest's patterns: each means one thing.
    by_pattern: HashMap<String, Meaning>,
    /// Classes that pages had already: one may say the same in several controls.
    kept: HashMap<String, Vec<Meaning>>,
    /// Attributes and ids that pages had already.
    others: Vec<(Mark, Meaning)>,
    parts: Vec<Vec<String>>,
    /// What all of them begin with.
    prefix: String,
}

impl Classes {
    /// The classes of a system.
    pub fn new(system: &System) -> Classes {
        let names = system.names();
        let pattern = &system.manifest.classes.control;
        let fixed = pattern.value.replace("{prefix}", &system.manifest.prefix.value);
        let prefix = fixed.split('{').next().unwrap_or_default().to_owned();
        let mut classes =
            Classes { by_pattern: HashMap::new(), kept: HashMap::new(), others: Vec::new(), parts: Vec::new(), prefix };
        for (index, control) in system.controls.iter().enumerate() {
            classes.add(names.control(&control.name.value), control.mark.is_some(), Meaning::Control(index));
            for (axis, options) in control.axes.iter().enumerate() {
                for option in 0..options.options.len() {
                    let id = OptionId { axis, option };
                    let is_kept = options.marks[option].is_some();
                    classes.add(names.option(control, id), is_kept, Meaning::Option(index, id));
                }
            }
            let of_control: Vec<String> = control.template.part_names().into_iter().map(str::to_owned).collect();
            for (part, name) in of_control.iter().enumerate() {
                let is_kept = control.part_marks.iter().any(|(known, _)| known == name);
                classes.add(names.part(&control.name.value, name), is_kept, Meaning::Part(index, part));
            }
            classes.parts.push(of_control);
        }
        classes
    }

    fn add(&mut self, mark: Mark, is_kept: bool, meaning: Meaning) {
        match mark {
            Mark::Class(name) if is_kept => self.kept.entry(name).or_default().push(meaning),
            Mark::Class(name) => {
                self.by_pattern.insert(name, meaning);
            }
            other => self.others.push((other, meaning)),
        }
    }

    /// Everything that an element is said to be.
    pub fn of(&self, element: &Element) -> Vec<Meaning> {
        let mut found = Vec::new();
        for class in &element.classes {
            found.extend(self.by_pattern.get(&**class));
            found.extend(self.kept.get(&**class).into_iter().flatten());
        }
        found.extend(self.others.iter().filter(|(mark, _)| mark.is_on(element)).map(|(_, meaning)| *meaning));
        found
    }

    /// Whether an element is said to be this.
    pub fn is(&self, element: &Element, meaning: Meaning) -> bool {
        let says = |class: &str| {
            self.by_pattern.get(class) == Some(&meaning)
                || self.kept.get(class).is_some_and(|meanings| meanings.contains(&meaning))
        };
        element.classes.iter().any(|class| says(class))
            || self.others.iter().any(|(mark, known)| *known == meaning && mark.is_on(element))
    }

    /// What a class of the system's own means; nothing of one that pages had already, which may stand anywhere.
    pub fn by_pattern(&self, class: &str) -> Option<Meaning> {
        self.by_pattern.get(class).copied()
    }

    /// Whether a class is one that the system gives a meaning.
    pub fn knows(&self, class: &str) -> bool {
        self.by_pattern.contains_key(class) || self.kept.contains_key(class)
    }

    /// A part's name.
    pub fn part(&self, control: usize, part: usize) -> &str {
        &self.parts[control][part]
    }

    /// All classes of the system's own.
    pub fn all(&self) -> impl Iterator<Item = &str> {
        self.by_pattern.keys().map(String::as_str)
    }

    /// Whether a class looks like one of the system's: it begins as they all do. Where they have nothing in common, none does.
    pub fn is_ours(&self, class: &str) -> bool {
        !self.prefix.is_empty() && class.starts_with(&self.prefix)
    }
}
