//! Tokens: that each is right, and of use.

pub mod cycle;
pub mod deprecated;
pub mod literal;
pub mod near_twin;
pub mod theme_gap;
pub mod r#type;
pub mod unknown;
pub mod unused;

use std::collections::HashSet;
use stilk_language::system::System;
use stilk_language::tokens::TokenId;

/// How many tokens there are that a file or a sheet defines.
fn count(system: &System) -> u64 {
    system.tokens.list.iter().filter(|token| !token.is_member).count() as u64
}

/// The tokens that sheets, surfaces or tokens that are used themselves refer to.
fn used(system: &System) -> HashSet<TokenId> {
    let rules = system.controls.iter().flat_map(|control| &control.rules).flat_map(|rule| &rule.declarations);
    let mut all: Vec<TokenId> = rules.flat_map(|declaration| declaration.value.tokens()).collect();
    all.extend(system.surfaces.iter().map(|(_, id)| *id));
    let mut known: HashSet<TokenId> = all.iter().copied().collect();
    while let Some(id) = all.pop() {
        let token = system.tokens.get(id);
        let refers = token.definitions().flat_map(|definition| definition.expression.tokens());
        all.extend(refers.filter(|id| known.insert(*id)));
        // A member is read through its composite, and the composite by its members.
        for (index, other) in system.tokens.list.iter().enumerate() {
            let is_part = |whole: &str, part: &str| part.strip_prefix(whole).is_some_and(|rest| rest.starts_with('.'));
            let belongs = (other.is_member && is_part(&token.path, &other.path))
                || (token.is_member && is_part(&other.path, &token.path));
            if belongs && known.insert(TokenId(index)) {
                all.push(TokenId(index));
            }
        }
    }
    known
}
