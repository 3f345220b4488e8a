//! From ordered definitions to [`Tokens`]: types known, references valid, no cycles, a value in every theme.

use super::document::RawToken;
use super::resolver::{Order, Stage};
use super::{
    Definition, Expression, MAX_ALIAS_DEPTH, MAX_EXPANSION, Modifier, Override, Theme, Token, TokenId, TokenType,
    TokenValue, Tokens,
};
use crate::diagnostic::{Diagnostic, Diagnostics, unknown_name};
use crate::project::Loader;
use crate::source::Span;
use std::collections::HashMap;

/// Binds what the resolution order gives. `mark` is where the diagnostics of the tokens begin.
pub fn bind(order: Order, mark: usize, loader: &mut Loader) -> Tokens {
    let mut binder = Binder { raw: HashMap::new(), order: Vec::new(), modifiers: Vec::new() };
    for stage in order.stages {
        binder.add(stage);
    }
    let mut tokens = binder.finish(&mut loader.diagnostics);
    tokens.incomplete = order.incomplete;
    tokens.check_references(&mut loader.diagnostics);
    // A token whose value could not be read has a gap for that reason.
    if !loader.diagnostics.has_errors_since(mark) {
        tokens.check_gaps(&mut loader.diagnostics);
    }
    tokens.check_cycles(&mut loader.diagnostics);
    tokens
}

/// The definitions of one path: which stage, which context, what.
#[derive(Default)]
struct RawDefinitions {
    base: Option<RawToken>,
    overrides: Vec<(usize, Vec<Option<RawToken>>)>,
    kind: Option<TokenType>,
}

struct Binder {
    raw: HashMap<String, RawDefinitions>,
    order: Vec<String>,
    modifiers: Vec<Modifier>,
}

impl Binder {
    fn entry(&mut self, token: &RawToken) -> &mut RawDefinitions {
        if !self.raw.contains_key(&token.path) {
            self.order.push(token.path.clone());
        }
        let entry = self.raw.entry(token.path.clone()).or_default();
        entry.kind = entry.kind.or(token.kind);
        entry
    }

    fn add(&mut self, stage: Stage) {
        match stage {
            Stage::Set(tokens) => {
                for token in tokens {
                    let entry = self.entry(&token);
                    // A set overrides every modifier that stands before it in the order.
                    entry.overrides.clear();
                    entry.base = Some(token);
                }
            }
            Stage::Modifier { name, contexts, default } => {
                let index = self.modifiers.len();
                let count = contexts.len();
                let mut names = Vec::new();
                for (context, (name, tokens)) in contexts.into_iter().enumerate() {
                    names.push(name);
                    for token in tokens {
                        let overrides = &mut self.entry(&token).overrides;
                        if overrides.last().is_none_or(|(modifier, _)| *modifier != index) {
                            overrides.push((index, vec![None; count]));
                        }
                        if let Some((_, contexts)) = overrides.last_mut() {
                            contexts[context] = Some(token);
                        }
                    }
                }
                self.modifiers.push(Modifier { name, contexts: names, default });
            }
        }
    }

    fn finish(mut self, diagnostics: &mut Diagnostics) -> Tokens {
        let mut tokens = Tokens { modifiers: self.modifiers, ..Tokens::default() };
        // Ids first, so that aliases can refer forward.
        let ids: HashMap<String, TokenId> =
            self.order.iter().enumerate().map(|(i, path)| (path.clone(), TokenId(i))).collect();
        for path in &self.order {
            let raw = self.raw.remove(path).unwrap_or_default();
            let kind = raw.kind.or_else(|| alias_kind(&raw, &self.raw, &tokens));
            let mut define = |token: RawToken| define(token, kind, &ids, diagnostics);
            let base = raw.base.and_then(&mut define);
            let overrides = raw
                .overrides
                .into_iter()
                .map(|(modifier, contexts)| Override {
                    modifier,
                    contexts: contexts.into_iter().map(|token| token.and_then(&mut define)).collect(),
                })
                .collect();
            let added = tokens.add(Token { path: path.clone(), kind, base, overrides });
            debug_assert!(added.is_ok());
        }
        tokens
    }
}

/// The type of the token an alias leads to, for tokens without a type of their own.
fn alias_kind(raw: &RawDefinitions, all: &HashMap<String, RawDefinitions>, done: &Tokens) -> Option<TokenType> {
    let first = raw.base.as_ref().or_else(|| raw.overrides.iter().flat_map(|o| &o.1).flatten().next())?;
    let mut path = TokenValue::read_alias(&first.value)?.value;
    for _ in 0..MAX_ALIAS_DEPTH {
        if let Some(id) = done.find(&path) {
            return done.get(id).kind;
        }
        let next = all.get(&path)?;
        if next.kind.is_some() {
            return next.kind;
        }
        path = TokenValue::read_alias(&next.base.as_ref()?.value)?.value;
    }
    None
}

fn define(
    token: RawToken,
    kind: Option<TokenType>,
    ids: &HashMap<String, TokenId>,
    diagnostics: &mut Diagnostics,
) -> Option<Definition> {
    let value = match (TokenValue::read_alias(&token.value), kind) {
        (Some(alias), _) => TokenValue::Alias(alias),
        (None, Some(kind)) => match TokenValue::read(kind, &token.value) {
            Ok(value) => value,
            Err(diagnostic) => {
                diagnostics.push(diagnostic);
                return None;
            }
        },
        (None, None) if token.misread => return None,
        (None, None) => {
            diagnostics.push(
                Diagnostic::error("token/type", token.name, format!("`{}` has no type", token.path))
                    .label("neither here nor on a group around it")
                    .mend("write `\"$type\": \"color\"` (or dimension, number, …) on the token or its group"),
            );
            return None;
        }
    };
    let expression = match &value {
        TokenValue::Alias(name) => match ids.get(&name.value) {
            Some(id) => Expression::reference(*id, name.span),
            None => {
                let known = ids.keys().map(String::as_str);
                diagnostics.push(unknown_name("token/unknown", "token", name, known));
                return None;
            }
        },
        other => Expression::text(other.to_css()),
    };
    Some(Definition { value, expression, span: token.value.span })
}

impl Tokens {
    /// Aliases lead to tokens of the same type.
    fn check_references(&self, diagnostics: &mut Diagnostics) {
        for token in &self.list {
            for definition in token.definitions() {
                let TokenValue::Alias(alias) = &definition.value else { continue };
                let target = self.find(&alias.value).map(|id| self.get(id));
                let (Some(wanted), Some(found)) = (token.kind, target.and_then(|t| t.kind)) else { continue };
                if wanted != found {
                    let message = format!(
                        "`{}` is of type {}, but `{}` is of type {}",
                        token.path,
                        wanted.name(),
                        alias.value,
                        found.name()
                    );
                    diagnostics.push(
                        Diagnostic::error("token/type", definition.span, message)
                            .label(format!("not of type {}", wanted.name()))
                            .mend(format!("refer to a token of type {}", wanted.name())),
                    );
                }
            }
        }
    }

    /// Every theme gives every token a value.
    fn check_gaps(&self, diagnostics: &mut Diagnostics) {
        for theme in self.themes() {
            for token in &self.list {
                if token.in_theme(&theme).is_none()
                    && let Some(first) = token.definitions().next()
                {
                    let name = self.theme_name(&theme);
                    let message = format!("`{}` has no value in the theme `{name}`", token.path);
                    diagnostics.push(
                        Diagnostic::error("token/theme-gap", first.span, message)
                            .label("defined here, but not in every theme")
                            .mend("define it in a set, or in the other contexts too"),
                    );
                }
            }
        }
    }

    /// Refuses cycles within a theme, derived tokens included, naming each step of the cycle once.
    pub fn check_cycles(&mut self, diagnostics: &mut Diagnostics) {
        for theme in self.themes() {
            let mut state = vec![Visit::New; self.list.len()];
            for id in 0..self.list.len() {
                let mut path = Vec::new();
                self.visit(TokenId(id), &theme, &mut state, &mut path, diagnostics);
            }
        }
    }

    /// Refuses tokens that would grow without bound when their references are written out.
    pub fn check_sizes(&self, diagnostics: &mut Diagnostics) {
        let mut sizes: Vec<Option<usize>> = vec![None; self.list.len()];
        for id in 0..self.list.len() {
            self.size(TokenId(id), &mut sizes);
        }
        // The first that is too large is the one to mend; all that build on it are too large as well.
        let first = self.list.iter().zip(&sizes).find(|(_, size)| size.is_some_and(|size| size > MAX_EXPANSION));
        if let Some((token, _)) = first
            && let Some(definition) = token.definitions().next()
        {
            let message = format!("`{}` refers to more than {MAX_EXPANSION} values", token.path);
            diagnostics.push(
                Diagnostic::error("token/size", definition.span, message)
                    .label("with everything these refer to")
                    .mend("let tokens build on each other in fewer steps"),
            );
        }
    }

    fn size(&self, id: TokenId, sizes: &mut [Option<usize>]) -> usize {
        if let Some(size) = sizes[id.0] {
            return size;
        }
        // Guards against cycles, which were reported.
        sizes[id.0] = Some(1);
        let references: Vec<TokenId> = self.get(id).definitions().flat_map(|d| d.expression.tokens()).collect();
        let size = references.into_iter().fold(1, |sum: usize, other| sum.saturating_add(self.size(other, sizes)));
        sizes[id.0] = Some(size);
        size
    }

    fn visit(
        &self,
        id: TokenId,
        theme: &Theme,
        state: &mut [Visit],
        path: &mut Vec<(TokenId, Span)>,
        diagnostics: &mut Diagnostics,
    ) {
        match state[id.0] {
            Visit::Done => return,
            Visit::Open => {
                let start = path.iter().position(|(known, _)| *known == id).unwrap_or(0);
                diagnostics.push(self.cycle(&path[start..]));
                return;
            }
            Visit::New => {}
        }
        if path.len() > MAX_ALIAS_DEPTH {
            let message = format!("references are chained deeper than {MAX_ALIAS_DEPTH}");
            diagnostics.push(Diagnostic::error("token/cycle", path[0].1, message).mend("refer to a value nearer by"));
            return;
        }
        state[id.0] = Visit::Open;
        if let Some(definition) = self.get(id).in_theme(theme) {
            path.push((id, definition.span));
            for next in definition.expression.tokens().collect::<Vec<_>>() {
                self.visit(next, theme, state, path, diagnostics);
            }
            path.pop();
        }
        state[id.0] = Visit::Done;
    }

    fn cycle(&self, steps: &[(TokenId, Span)]) -> Diagnostic {
        // Begin at the token defined first, whichever was reached first: one cycle, one message.
        let first = (0..steps.len()).min_by_key(|i| steps[*i].0).unwrap_or(0);
        let steps: Vec<_> = steps[first..].iter().chain(&steps[..first]).collect();
        let mut words: Vec<String> = steps.iter().map(|(id, _)| format!("`{}`", self.get(*id).path)).collect();
        words.push(words[0].clone());
        let message = format!("tokens refer to each other in a circle: {}", words.join(" → "));
        let mut diagnostic = Diagnostic::error("token/cycle", steps[0].1, message).label("the circle begins here");
        for (id, span) in steps.iter().skip(1) {
            diagnostic = diagnostic.related(*span, format!("`{}` goes on from here", self.get(*id).path));
        }
        diagnostic.mend("give one of them a value of its own")
    }
}

#[derive(Clone, Copy, PartialEq)]
enum Visit {
    New,
    Open,
    Done,
}
