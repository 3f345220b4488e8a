//! Which themes a check can tell apart: those that give another value to a token that takes part in what it reads.

use crate::relevance::{Edge, Names, Reads};
use std::collections::HashSet;
use stilk_engine::css::property::Longhand as L;
use stilk_language::system::System;
use stilk_language::tokens::{Theme, Token, TokenId, TokenType, TokenValue};

/// What of colours counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Colors {
    /// Every colour, and the colour scheme.
    All,
    /// How much of what is behind it a colour covers.
    Cover,
    /// None: lengths do not depend on them.
    None,
}

impl Colors {
    /// What a check asks of colours.
    pub fn of(reads: Reads) -> Colors {
        match reads {
            Reads::Boxes(_) => Colors::Cover,
            Reads::Needed(_) | Reads::Changes(_) => Colors::All,
            Reads::Values(longhands, generated) if !may_be_colored(longhands) && !may_be_colored(generated) => {
                Colors::None
            }
            Reads::Each(longhands) | Reads::Rest(longhands) | Reads::Alone(longhands, _)
                if !may_be_colored(longhands) =>
            {
                Colors::None
            }
            Reads::Values(..) | Reads::Each(_) | Reads::Rest(_) | Reads::Alone(..) => Colors::All,
        }
    }

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

/// Whether colours are in the values of some of these longhands.
fn may_be_colored(longhands: &[L]) -> bool {
    longhands
        .iter()
        .any(|longhand| longhand.is_color() || matches!(longhand, L::BackgroundImage | L::BoxShadow | L::TextShadow))
}

/// The themes, by index, to look in, with the number of themes that each stands for.
pub fn relevant_themes(
    (system, asks): (&System, bool),
    colors: Colors,
    asked: &[usize],
    edges: &[Edge],
    wanted: &Names,
) -> Vec<(usize, u64)> {
    let tokens = &system.tokens;
    let used = edges.iter().filter(|edge| edge.sets_any(wanted)).flat_map(|edge| edge.tokens.iter().copied());
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
    told_apart((system, asks), colors, &counted, asked).into_iter().map(|((index, _), count)| (index, count)).collect()
}

/// The first of all themes in which these tokens have the same values, with the number of them. Where rules ask for the
/// theme, each is another.
pub fn told_apart<'t>(
    (system, asks): (&System, bool),
    colors: Colors,
    tokens: &[&Token],
    themes: impl Iterator<Item = (usize, &'t Theme)>,
) -> Vec<((usize, &'t Theme), u64)> {
    let counted: Vec<&&Token> = tokens.iter().filter(|token| colors.count(token)).collect();
    let contexts: Vec<Vec<Option<usize>>> = (0..system.tokens.modifiers.len())
        .map(|modifier| {
            let of_modifier = &system.tokens.modifiers[modifier];
            let settings = system.manifest.modifiers.iter().find(|s| s.name.value == of_modifier.name.value);
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
