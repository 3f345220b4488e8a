//! Names: what pages call something, as an identifier of a sheet.

use crate::reading::PartId;
use std::collections::BTreeSet;
use stilk_engine::cascade::selector::split_list;
use stilk_survey::control::Kind;
use stilk_survey::family::Chooser;

/// A name that no other has yet.
pub fn unique(wanted: &str, known: &mut BTreeSet<String>) -> String {
    let mut name = wanted.to_owned();
    let mut count = 1;
    while !known.insert(name.clone()) {
        count += 1;
        name = format!("{wanted}-{count}");
    }
    name
}

/// As an identifier: lower case, words joined by dashes.
pub fn identifier(text: &str) -> String {
    let mut name = String::new();
    for c in text.chars() {
        match c.is_alphanumeric() {
            true => name.extend(c.to_lowercase()),
            false if !name.ends_with('-') => name.push('-'),
            false => {}
        }
    }
    let name = name.trim_matches('-');
    match name.starts_with(|c: char| c.is_alphabetic()) {
        true => name.to_owned(),
        false => format!("x{name}"),
    }
}

/// A control's name, by the selectors that share its base: the class, or the place and what it is.
pub fn control(family: &str, kind: Kind) -> String {
    let selectors = split_list(family);
    let first = selectors.first().map_or(family, |first| first.trim());
    let last = first.rsplit([' ', '>', '+', '~']).next().unwrap_or(first);
    let place = first.strip_suffix(last).unwrap_or_default();
    let class_of = |text: &str| {
        text.split(['.', '#']).nth(1).map(|rest| rest.split([':', '[', ' ', '>']).next().unwrap_or(rest).to_owned())
    };
    let own = class_of(last).map_or_else(|| identifier(kind.noun()), |class| identifier(&class));
    match class_of(place) {
        Some(place) if identifier(&place) != own => format!("{}-{own}", identifier(&place)),
        _ => own,
    }
}

/// An option's name: what its class says beside that of its family.
pub fn option(chooser: &Chooser, family: &str) -> String {
    match chooser {
        Chooser::Class(class) => beside(class, family),
        Chooser::Id(id) => identifier(id),
        Chooser::Attribute(text) => {
            let inner = text.trim_matches(['[', ']']);
            match inner.split_once('=') {
                Some((_, value)) => identifier(value.trim_matches(['"', '\''])),
                None => identifier(inner.trim_start_matches("data-")),
            }
        }
        Chooser::Place(place) => identifier(place),
    }
}

/// A state's name, by its class: what that says beside the class of a family.
pub fn state<'f>(class: &str, mut families: impl Iterator<Item = &'f str>) -> String {
    families
        .find_map(|family| Some(beside(class, family)).filter(|name| *name != identifier(class)))
        .unwrap_or_else(|| identifier(class))
}

/// A part's name.
pub fn part(id: &PartId, family: &str) -> String {
    match &id.class {
        Some(class) => match beside(class, family) {
            // That is what the element is called whose state counts.
            name if name == "native" => "inner".to_owned(),
            name => name,
        },
        None => match id.local.as_str() {
            "svg" | "img" | "i" => "icon".to_owned(),
            "span" | "b" | "strong" | "em" => "face".to_owned(),
            other => identifier(other),
        },
    }
}

/// What a class says beside the class of its family: `ghost` of `cta-ghost`, `box` of `tick__box`.
fn beside(class: &str, family: &str) -> String {
    let bases = split_list(family).into_iter().filter_map(|one| one.trim().rsplit('.').next().map(str::to_owned));
    for base in bases {
        let rest = class.strip_prefix(base.as_str()).filter(|rest| rest.starts_with(['-', '_']));
        if let Some(rest) = rest.map(|rest| rest.trim_start_matches(['-', '_'])).filter(|rest| !rest.is_empty()) {
            return identifier(rest);
        }
    }
    identifier(class)
}

/// Names of axes: no two are the same, and none is that of an option.
pub fn axes(axes: &mut [String], options: &BTreeSet<String>) {
    let mut known = options.clone();
    for axis in axes.iter_mut().filter(|axis| !axis.is_empty()) {
        let wanted = identifier(axis);
        *axis = unique(&wanted, &mut known);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_what_pages_call_things() {
        assert_eq!(control(".cta", Kind::Button), "cta");
        assert_eq!(control(".booking button, .booking input[type=submit]", Kind::Button), "booking-button");
        assert_eq!(control("input[type=text], textarea", Kind::Field), "field");
        assert_eq!(control(".calendar .day", Kind::Button), "calendar-day");
        assert_eq!(option(&Chooser::Class("cta-ghost".into()), ".cta"), "ghost");
        assert_eq!(option(&Chooser::Class("action--second".into()), ".action"), "second");
        assert_eq!(option(&Chooser::Attribute("[data-size=\"s\"]".into()), ".pill"), "s");
        assert_eq!(option(&Chooser::Id("send".into()), ".cta"), "send");
        let part_of = |class: Option<&str>, local: &str| PartId {
            is_bearer: false,
            class: class.map(str::to_owned),
            local: local.to_owned(),
        };
        assert_eq!(part(&part_of(Some("tick__box"), "span"), ".tick"), "box");
        assert_eq!(part(&part_of(None, "svg"), ".pill"), "icon");
        let mut known = BTreeSet::from(["a".to_owned()]);
        assert_eq!(unique("a", &mut known), "a-2");
        assert_eq!(identifier("3D View!"), "x3d-view");
    }
}
