//! Which themes a check can tell apart: those that give another value to a token that takes part in what it reads.

use crate::relevance::dependence::{Properties, Setting};
use crate::relevance::reads::Colors;
use crate::relevance::states::Weighted;
use std::collections::HashSet;
use stilk_language::system::System;
use stilk_language::tokens::{Theme, Token, TokenId, TokenType, TokenValue};

impl Colors {
    /// Whether another value of a token may be told.
    fn count(self, token: &Token) -> bool {
        match (self, token.kind) {
            (Colors::All, _) => true,
            (Colors::Cover, Some(TokenType::Color)) => !token.definitions().all(|d| covers(TokenType::Color, &d.value)),
            // Pictures cover what is behind them, or they do not.
            (Colors::Cover, Some(TokenType::Gradient)) => {
                let mut all = token.definitions().map(|d| covers(TokenType::Gradient, &d.value));
                let first = all.next();
                all.any(|covers| Some(covers) != first)
            }
            (_, Some(TokenType::Color | TokenType::Gradient | TokenType::Shadow)) => false,
            _ => true,
        }
    }
}

/// Whether all colours in a value cover all that is behind them. Those of another token are asked of that one.
fn covers(kind: TokenType, value: &TokenValue) -> bool {
    let mut covers = true;
    value.walk(kind, &mut |kind, value| {
        covers &= match value {
            TokenValue::Color { alpha, .. } => *alpha == 1.0,
            TokenValue::Derived => false,
            _ => true,
        } || kind != TokenType::Color;
    });
    covers
}

/// The themes, by index, to look in, with the number of themes that each stands for.
pub fn relevant_themes(
    (system, asks): (&System, bool),
    colors: Colors,
    asked: &[usize],
    settings: &[Setting],
    read: &Properties,
) -> Weighted {
    let tokens = &system.tokens;
    let used = settings.iter().filter(|one| one.sets_any(read)).flat_map(|one| one.tokens.iter().copied());
    let surfaces = system.surfaces.iter().map(|(_, id)| *id).filter(|_| colors == Colors::All);
    let mut all: Vec<TokenId> = used.chain(surfaces).collect();
    let mut known: HashSet<TokenId> = all.iter().copied().collect();
    let mut done = 0;
    while let Some(id) = all.get(done).copied() {
        done += 1;
        let refers = tokens.get(id).definitions().flat_map(|d| d.expression.tokens());
        all.extend(refers.filter(|id| known.insert(*id)));
    }
    let counted: Vec<&Token> = all.into_iter().map(|id| tokens.get(id)).collect();
    let themes = tokens.themes();
    let asked = asked.iter().filter_map(|index| Some((*index, themes.get(*index)?)));
    distinct_themes((system, asks), colors, &counted, asked)
        .into_iter()
        .map(|((index, _), count)| (index, count))
        .collect()
}

/// The first of all themes in which these tokens have the same values, with the number of them. Where rules ask for the
/// theme, each is another.
pub fn distinct_themes<'t>(
    (system, asks): (&System, bool),
    colors: Colors,
    tokens: &[&Token],
    themes: impl Iterator<Item = (usize, &'t Theme)>,
) -> Vec<((usize, &'t Theme), u64)> {
    let counted: Vec<&&Token> = tokens.iter().filter(|token| colors.count(token)).collect();
    let contexts: Vec<Vec<Option<usize>>> = (0..system.tokens.modifiers.len())
        .map(|modifier| {
            let of_modifier = &system.tokens.modifiers[modifier];
            let settings = system.manifest.modifier(&of_modifier.name.value);
            let sets_scheme = colors == Colors::All && settings.is_some_and(|settings| settings.sets_scheme);
            let overrides = || counted.iter().flat_map(|token| &token.overrides).filter(|o| o.modifier == modifier);
            let defines = |context: usize| overrides().any(|o| o.contexts[context].is_some());
            // Contexts that define nothing of it leave it as it is below.
            let own = |context: usize| (asks || sets_scheme || defines(context)).then_some(context);
            (0..of_modifier.contexts.len()).map(own).collect()
        })
        .collect();
    let mut keys: Vec<Vec<Option<usize>>> = Vec::new();
    let mut found: Vec<((usize, &Theme), u64)> = Vec::new();
    for (index, theme) in themes {
        let key: Vec<Option<usize>> =
            contexts.iter().zip(&theme.contexts).map(|(contexts, context)| contexts[*context]).collect();
        match keys.iter().position(|known| *known == key) {
            Some(at) => found[at].1 += 1,
            None => {
                keys.push(key);
                found.push(((index, theme), 1));
            }
        }
    }
    found
}
