//! Another token that a sheet may have meant: one of the same role, whose colour does.

use crate::mend::Mend;
use crate::mend::color::{color_of, distance};
use crate::painted::paint::contrast;
use stilk_engine::css::color::{Absolute, Space};
use stilk_language::system::System;
use stilk_language::tokens::{Token, TokenType};
use stilk_text::diagnostic::Edit;
use stilk_text::source::{Sources, Span};

/// A colour below this chroma is a grey.
const GREY: f64 = 0.04;
/// Hues further apart than this, in degrees, are others.
const HUES: f64 = 30.0;

/// Whether two colours are of one family: both grey, or of nearly one hue.
pub fn is_same_family(a: &Absolute, b: &Absolute) -> bool {
    let [a, b] = [a, b].map(|color| color.to(Space::Oklch).components.map(|component| component.unwrap_or(0.0)));
    match (a[1] < GREY, b[1] < GREY) {
        (true, true) => true,
        (false, false) => {
            let apart = (a[2] - b[2]).rem_euclid(360.0);
            apart.min(360.0 - apart) <= HUES
        }
        _ => false,
    }
}

/// The group that a token stands in: what its name says that it is for. Nothing where it stands in none.
pub fn role(path: &str) -> Option<&str> {
    path.rsplit_once('.').map(|(group, _)| group)
}

/// The tokens of a role besides one of them whose colours are of its family in every theme, the nearest first.
fn others<'s>(system: &'s System, token: &Token) -> Vec<&'s Token> {
    let tokens = &system.tokens;
    let themes = tokens.themes();
    let is_alike = |other: &Token| {
        themes.iter().all(|theme| {
            let pair = color_of(tokens, token, theme).zip(color_of(tokens, other, theme));
            pair.is_some_and(|(own, other)| other.alpha == 1.0 && is_same_family(&own, &other))
        })
    };
    let default = tokens.default_theme();
    let mut found: Vec<(f64, &Token)> = tokens
        .list
        .iter()
        .filter(|other| other.path != token.path && !other.is_member && other.deprecated.is_none())
        .filter(|other| other.kind == Some(TokenType::Color) && role(&other.path) == role(&token.path))
        .filter(|other| is_alike(other))
        .filter_map(|other| {
            let pair = color_of(tokens, token, &default).zip(color_of(tokens, other, &default))?;
            Some((distance(&pair.0, &pair.1), other))
        })
        .collect();
    found.sort_by(|a, b| a.0.total_cmp(&b.0));
    found.into_iter().map(|(_, token)| token).collect()
}

/// Other tokens to name in a declaration: of two that do not go together the one that it names gives way to others of its role
/// that go with the other one in every theme.
pub fn instead(system: &System, sources: &Sources, at: Span, pair: [&str; 2], needed: f64) -> Vec<Mend> {
    let tokens = &system.tokens;
    let text = sources.text(at);
    let named = |path: &str| {
        let reference = format!("{{{path}}}");
        let mut found = text.match_indices(&reference);
        let (start, _) = found.next().filter(|_| text.matches(&reference).count() == 1)?;
        let start = at.start as usize + start;
        Some(Span::new(at.file, start, start + reference.len()))
    };
    let turns = [(pair[0], pair[1]), (pair[1], pair[0])];
    let Some((span, path, other)) =
        turns.into_iter().find_map(|(path, other)| named(path).map(|span| (span, path, other)))
    else {
        return Vec::new();
    };
    let (Some(token), Some(other)) = (tokens.find(path), tokens.find(other)) else { return Vec::new() };
    let (token, other) = (tokens.get(token), tokens.get(other));
    if role(path).is_none() {
        return Vec::new();
    }
    let passes = |candidate: &&Token| {
        tokens.themes().iter().all(|theme| {
            let pair = color_of(tokens, candidate, theme).zip(color_of(tokens, other, theme));
            pair.is_some_and(|(one, other)| contrast(one.srgb(), other.srgb()) >= needed)
        })
    };
    let found = others(system, token).into_iter().filter(passes);
    found
        .map(|candidate| Mend {
            words: format!("write `{{{}}}` for `{{{path}}}`", candidate.path),
            edits: vec![Edit { span, text: format!("{{{}}}", candidate.path) }],
        })
        .collect()
}
