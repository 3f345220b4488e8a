//! What a mend, or another value of a token, may change the look of: the part of a system that has to be looked at again.

use crate::mend::color::definition_at;
use crate::settings::{Selection, Variants};
use std::collections::{BTreeMap, BTreeSet};
use stilk_language::dependents::uses;
use stilk_language::system::{Control, System};
use stilk_language::tokens::{Modifier, Theme, Token, TokenId, TokenType, Tokens};
use stilk_text::source::Span;

/// The controls and themes that definitions of tokens, or sheets of controls, have a part in.
pub fn selection<'p>(system: &System, places: impl IntoIterator<Item = &'p Span>) -> Selection {
    let mut controls: BTreeMap<String, Variants> = BTreeMap::new();
    let mut themes: BTreeSet<usize> = BTreeSet::new();
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
        add_reach(system, id, &mut controls);
    }
    with_outer(system, &mut controls);
    Selection { controls: Some(controls), themes: Some(themes.into_iter().collect()) }
}

/// The part of a system in which tokens have other values than in another reading of it, and whether all of these are colours;
/// nothing where the two have other tokens or themes.
pub fn between(before: &System, after: &System) -> Option<(Selection, bool)> {
    let (old, new) = (&before.tokens, &after.tokens);
    let names = |tokens: &Tokens| -> Vec<Vec<String>> {
        let of_modifier = |modifier: &Modifier| {
            let contexts = modifier.contexts.iter().map(|context| context.value.clone());
            std::iter::once(modifier.name.value.clone()).chain(contexts).collect()
        };
        tokens.modifiers.iter().map(of_modifier).collect()
    };
    let is_one = |(one, other): (&Token, &Token)| one.path == other.path && one.kind == other.kind;
    let are_same = names(old) == names(new) && old.list.len() == new.list.len();
    if !are_same || old.default_theme() != new.default_theme() || !old.list.iter().zip(&new.list).all(is_one) {
        return None;
    }
    let mut controls: BTreeMap<String, Variants> = BTreeMap::new();
    let mut themes: BTreeSet<usize> = BTreeSet::new();
    let mut are_colors = true;
    let all_themes = old.themes();
    for id in (0..old.list.len()).map(TokenId) {
        let differs = |theme: &Theme| old.literal(id, theme) != new.literal(id, theme);
        let differing: Vec<usize> = (0..all_themes.len()).filter(|index| differs(&all_themes[*index])).collect();
        if !differing.is_empty() {
            themes.extend(differing);
            are_colors &= old.get(id).kind == Some(TokenType::Color);
            add_reach(before, id, &mut controls);
        }
    }
    with_outer(before, &mut controls);
    Some((Selection { controls: Some(controls), themes: Some(themes.into_iter().collect()) }, are_colors))
}

/// Adds the variants of controls that a token has a part in.
fn add_reach(system: &System, id: TokenId, controls: &mut BTreeMap<String, Variants>) {
    let reach = uses(system, id);
    let is_surface = system.surfaces.iter().any(|(_, on)| *on == id || reach.tokens.contains(on));
    if is_surface {
        controls.extend(system.controls.iter().map(whole));
        return;
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

fn whole(control: &Control) -> (String, Variants) {
    (control.name.value.clone(), Variants::All)
}

/// Adds what places one of these controls: it shows it, in whatever variant.
fn with_outer(system: &System, controls: &mut BTreeMap<String, Variants>) {
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
}
