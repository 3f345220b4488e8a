//! The names of all properties that Chromium has, also of those that are not modelled: what these set is not known, and what
//! is only another name is the property itself. `scripts/measure-defaults names` reads them from the browser.

use super::parse::Target;
use super::property::PropertyName;
use rustc_hash::FxHashMap;
use std::sync::LazyLock;

/// `name`, `name = other` or `name: what it sets`, by line.
static TABLE: &str = include_str!("chromium.names");

/// What the table cannot show: these set a part of a longhand.
const OF_A_PART: [(&str, &str); 11] = [
    ("-webkit-user-modify", "white-space-collapse"),
    (
        "-webkit-border-image",
        "border-image-source border-image-slice border-image-width border-image-outset border-image-repeat",
    ),
    ("-webkit-mask-composite", "mask-composite"),
    ("-webkit-text-combine", "text-combine-upright"),
    ("-webkit-text-orientation", "text-orientation"),
    // A duration of nothing is that of the timeline.
    ("animation-timeline", "animation-duration"),
    ("-webkit-transform-origin-x", "transform-origin"),
    ("-webkit-transform-origin-y", "transform-origin"),
    ("-webkit-transform-origin-z", "transform-origin"),
    ("-webkit-perspective-origin-x", "perspective-origin"),
    ("-webkit-perspective-origin-y", "perspective-origin"),
];

/// A shorthand that is not modelled, by its place among them.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Unlearned(u16);

/// What the browser knows of a name.
enum Entry {
    Longhand,
    Alias(&'static str),
    Shorthand(Unlearned),
}

struct Names {
    entries: FxHashMap<&'static str, Entry>,
    shorthands: Vec<(&'static str, Vec<&'static str>)>,
}

static NAMES: LazyLock<Names> = LazyLock::new(|| {
    let mut names = Names { entries: FxHashMap::default(), shorthands: Vec::new() };
    let shorthand = |name: &'static str, sets: Vec<&'static str>, shorthands: &mut Vec<_>| {
        shorthands.push((name, sets));
        Entry::Shorthand(Unlearned(shorthands.len() as u16 - 1))
    };
    for line in TABLE.lines().filter(|line| !line.starts_with('#')) {
        let (name, entry) = if let Some((name, other)) = line.split_once(" = ") {
            (name, Entry::Alias(other))
        } else if let Some((name, sets)) = line.split_once(": ") {
            (name, shorthand(name, sets.split(' ').collect(), &mut names.shorthands))
        } else {
            (line, Entry::Longhand)
        };
        names.entries.insert(name, entry);
    }
    for (name, of) in OF_A_PART {
        let entry = shorthand(name, of.split(' ').collect(), &mut names.shorthands);
        names.entries.insert(name, entry);
    }
    names
});

impl Unlearned {
    /// Its name.
    pub fn name(self) -> &'static str {
        NAMES.shorthands[usize::from(self.0)].0
    }

    /// What of it is modelled.
    pub fn targets(self) -> Vec<Target> {
        let sets = &NAMES.shorthands[usize::from(self.0)].1;
        sets.iter()
            .filter_map(|name| match PropertyName::read(name) {
                PropertyName::Longhand(longhand) => Some(Target::Physical(longhand)),
                PropertyName::Logical(logical) => Some(Target::Logical(logical)),
                _ => None,
            })
            .collect()
    }
}

/// What a name says that is in no table of what is modelled; nothing where the browser has no such property.
pub fn read(name: &str) -> Option<PropertyName> {
    Some(match NAMES.entries.get(name)? {
        Entry::Longhand => PropertyName::Other,
        Entry::Alias(other) => PropertyName::read(other),
        Entry::Shorthand(shorthand) if shorthand.targets().is_empty() => PropertyName::Other,
        Entry::Shorthand(shorthand) => PropertyName::Unlearned(*shorthand),
    })
}

/// Every name.
pub fn names() -> impl Iterator<Item = &'static str> {
    NAMES.entries.keys().copied()
}

#[cfg(test)]
mod tests {
    use super::super::property::Longhand;
    use super::*;
    use crate::css::parse_declaration;

    #[test]
    fn another_name_is_the_property_and_an_unlearned_shorthand_sets_what_it_sets() {
        let read = |name: &str| PropertyName::read(name);
        assert_eq!(read("-webkit-margin-start"), read("margin-inline-start"));
        assert_eq!(read("-webkit-flex-flow"), read("flex-flow"));
        assert_eq!(read("page-break-inside"), PropertyName::Longhand(Longhand::BreakInside));
        let targets = |name: &str| {
            let parsed = parse_declaration(name, "a / b").unwrap_or_else(|_| panic!("{name}"));
            let names =
                parsed.targets().into_iter().map(|target| target.physical(super::super::property::Flow::LTR).name());
            names.collect::<Vec<_>>()
        };
        assert_eq!(targets("grid-column"), ["grid-column-start", "grid-column-end"]);
        assert!(targets("grid-area").contains(&"grid-row-end"));
        // What sets nothing that is modelled is known all the same; what no browser has is no property.
        assert_eq!(read("offset-path"), PropertyName::Other);
        assert_eq!(read("colour"), PropertyName::Unknown);
    }

    #[test]
    fn the_table_names_what_there_is() {
        for (name, entry) in &NAMES.entries {
            match entry {
                Entry::Longhand => {}
                Entry::Alias(other) => {
                    assert!(
                        NAMES.entries.contains_key(other),
                        "{name} is another name of `{other}`, which is not there"
                    );
                }
                Entry::Shorthand(shorthand) => {
                    assert_eq!(shorthand.name(), *name);
                    let sets = &NAMES.shorthands[usize::from(shorthand.0)].1;
                    assert!(sets.iter().all(|one| NAMES.entries.contains_key(one)), "{name} sets {sets:?}");
                }
            }
        }
    }
}
