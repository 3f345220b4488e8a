//! What a mend may change the look of: the part of a system that has to be looked at again.

use super::color::definition_at;
use crate::check::Within;
use crate::reach::uses;
use crate::source::Span;
use crate::system::{Control, System};
use crate::tokens::TokenId;
use std::collections::BTreeSet;

/// The controls and themes that definitions of tokens, or sheets of controls, have a part in.
pub fn within<'p>(system: &System, places: impl IntoIterator<Item = &'p Span>) -> Within {
    let mut controls: BTreeSet<String> = BTreeSet::new();
    let mut themes: BTreeSet<usize> = BTreeSet::new();
    let all_controls = || system.controls.iter().map(|control| control.name.value.clone());
    let all_themes = system.tokens.themes();
    for place in places {
        let Some((token, _)) = definition_at(&system.tokens, *place) else {
            // A place in a sheet: rules of a trait, or of what a control is copied from, stand in another file than it.
            let has_rules = |control: &&Control| control.rules.iter().any(|rule| rule.span.file == place.file);
            controls.extend(system.controls.iter().filter(has_rules).map(|control| control.name.value.clone()));
            themes.extend(0..all_themes.len());
            continue;
        };
        let holds = |theme| token.in_theme(theme).is_some_and(|definition| definition.span == *place);
        themes.extend((0..all_themes.len()).filter(|index| holds(&all_themes[*index])));
        let Some(id) = system.tokens.list.iter().position(|other| std::ptr::eq(other, token)).map(TokenId) else {
            continue;
        };
        let reach = uses(system, id);
        let is_surface = system.surfaces.iter().any(|(_, on)| *on == id || reach.tokens.contains(on));
        match is_surface {
            true => controls.extend(all_controls()),
            false => controls.extend(reach.uses.iter().map(|one| one.control.name.value.clone())),
        }
    }
    // What places a control shows it.
    loop {
        let places = |name: &String| {
            let control = system.controls.iter().find(|control| control.name.value == *name);
            control.is_some_and(|control| control.placements.iter().any(|placed| controls.contains(&placed.control)))
        };
        let more: Vec<String> = all_controls().filter(|name| !controls.contains(name) && places(name)).collect();
        if more.is_empty() {
            break;
        }
        controls.extend(more);
    }
    Within { controls: Some(controls), themes: Some(themes.into_iter().collect()) }
}
