//! What a mend may change the look of: the part of a system that has to be looked at again.

use crate::mend::color::definition_at;
use crate::settings::{Selection, Variants};
use std::collections::{BTreeMap, BTreeSet};
use stilk_language::dependents::uses;
use stilk_language::system::{Control, System};
use stilk_language::tokens::TokenId;
use stilk_text::source::Span;

/// The controls and themes that definitions of tokens, or sheets of controls, have a part in.
pub fn selection<'p>(system: &System, places: impl IntoIterator<Item = &'p Span>) -> Selection {
    let mut controls: BTreeMap<String, Variants> = BTreeMap::new();
    let mut themes: BTreeSet<usize> = BTreeSet::new();
    let whole = |control: &Control| (control.name.value.clone(), Variants::All);
    let all_themes = system.tokens.themes();
    for place in places {
        let Some((token, _)) = definition_at(&system.tokens, *place) else {
            // A place in a sheet: rules of a trait, or of what a control is copied from, stand in another file than it.
            let has_rules = |control: &&Control| control.rules.iter().any(|rule| rule.span.file == place.file);
            controls.extend(system.controls.iter().filter(has_rules).map(whole));
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
        if is_surface {
            controls.extend(system.controls.iter().map(whole));
            continue;
        }
        for one in reach.uses {
            let known = controls.entry(one.control.name.value.clone()).or_insert(Variants::With(Vec::new()));
            match known {
                // A rule of the base is in force in all variants.
                _ if one.rule.options.is_empty() => *known = Variants::All,
                Variants::With(lists) if !lists.contains(&one.rule.options) => lists.push(one.rule.options.clone()),
                Variants::With(_) | Variants::All => {}
            }
        }
    }
    // What places a control shows it, in whatever variant.
    loop {
        let places = |control: &&Control| {
            let is_whole = controls.get(&control.name.value) == Some(&Variants::All);
            !is_whole && control.placements.iter().any(|placed| controls.contains_key(&placed.control))
        };
        let more: Vec<&Control> = system.controls.iter().filter(places).collect();
        if more.is_empty() {
            break;
        }
        controls.extend(more.into_iter().map(whole));
    }
    Selection { controls: Some(controls), themes: Some(themes.into_iter().collect()) }
}
