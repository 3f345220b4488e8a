//! From ordered definitions to [`Tokens`]: types known, references valid, no cycles, a value in every theme.

use super::document::{ROOT, RawToken};
use super::resolver::{Order, ResolutionEntry};
use super::value::is_old_form;
use super::{
    Definition, MAX_ALIAS_DEPTH, MAX_EXPANSION, Modifier, Override, Theme, Token, TokenId, TokenType, TokenValue,
    Tokens, members, pointer,
};
use std::collections::HashMap;
use stilk_text::diagnostic::{Diagnostic, Diagnostics, Level, unknown_name};
use stilk_text::json::Node;
use stilk_text::loader::Loader;
use stilk_text::source::{Name, Span};

/// Binds what the resolution order gives. `mark` is where the diagnostics of the tokens begin.
pub fn bind(order: Order, mark: usize, loader: &mut Loader) -> Tokens {
    let mut binder = Binder { raw: HashMap::new(), order: Vec::new(), modifiers: Vec::new() };
    for entry in order.entries {
        binder.add(entry);
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

/// The definitions of one path: which entry of the order, which context, what.
#[derive(Default)]
struct RawDefinitions {
    base: Option<RawToken>,
    overrides: Vec<(usize, Vec<Option<RawToken>>)>,
    kind: Option<TokenType>,
    description: Option<String>,
    deprecated: Option<String>,
    extensions: Option<Node>,
}

impl RawDefinitions {
    fn all_mut(&mut self) -> impl Iterator<Item = &mut RawToken> {
        self.base.iter_mut().chain(self.overrides.iter_mut().flat_map(|o| o.1.iter_mut().flatten()))
    }
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
        entry.description = token.description.clone().or(entry.description.take());
        entry.extensions = token.extensions.clone().or(entry.extensions.take());
        entry.deprecated = token.deprecated.clone().or(entry.deprecated.take());
        entry
    }

    fn add(&mut self, entry: ResolutionEntry) {
        match entry {
            ResolutionEntry::Set(tokens) => {
                for token in tokens {
                    let entry = self.entry(&token);
                    // A set overrides every modifier that stands before it in the order.
                    entry.overrides.clear();
                    entry.base = Some(token);
                }
            }
            ResolutionEntry::Modifier { name, contexts, default } => {
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
        let originals: HashMap<String, Node> = self
            .raw
            .iter()
            .filter(|(_, raw)| raw.overrides.is_empty())
            .filter_map(|(path, raw)| Some((path.clone(), raw.base.as_ref()?.value.clone())))
            .collect();
        let mut tokens = Tokens { modifiers: self.modifiers, ..Tokens::default() };
        pointer::resolve(self.raw.values_mut().flat_map(RawDefinitions::all_mut), &originals, diagnostics);
        let kinds: Vec<_> = self.order.iter().map(|path| (path.clone(), kind_of(path, &self.raw))).collect();
        for (path, kind) in kinds {
            self.raw.entry(path).or_default().kind = kind;
        }
        // Ids first, so that aliases can refer forward; members of composites may be referred to as well.
        let mut ids: HashMap<String, TokenId> =
            self.order.iter().enumerate().map(|(i, path)| (path.clone(), TokenId(i))).collect();
        let mut next = self.order.len();
        for path in &self.order {
            for (member, _, _) in self.raw.get(path).and_then(|raw| raw.kind).map_or(&[][..], members::of) {
                ids.insert(format!("{path}.{member}"), TokenId(next));
                next += 1;
            }
        }
        for path in &self.order {
            let raw = self.raw.remove(path).unwrap_or_default();
            let kind = raw.kind;
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
            let token = Token {
                base,
                overrides,
                description: raw.description,
                deprecated: raw.deprecated,
                extensions: raw.extensions,
                ..Token::new(path, kind)
            };
            let added = tokens.add(token);
            debug_assert!(added.is_ok());
        }
        members::add(&mut tokens, &ids);
        tokens
    }
}

/// A token's type: its own, else that of what its alias leads to.
fn kind_of(path: &str, all: &HashMap<String, RawDefinitions>) -> Option<TokenType> {
    let mut raw = all.get(path)?;
    for _ in 0..MAX_ALIAS_DEPTH {
        if raw.kind.is_some() {
            return raw.kind;
        }
        let first = raw.base.as_ref().or_else(|| raw.overrides.iter().flat_map(|o| &o.1).flatten().next())?;
        raw = all.get(&TokenValue::read_alias(&first.value)?.value)?;
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
    if is_old_form(&value, &token.value) {
        note_old_form(&token, diagnostics);
    }
    let expression = value.expression(&mut |name| {
        let id = find(name, ids);
        if id.is_none() {
            diagnostics.push_place(unknown_name("token/unknown", "token", name, ids.keys().map(String::as_str)));
        }
        id
    })?;
    Some(Definition { value, expression, span: token.value.span })
}

/// A token by its path; a group's name stands for its `$root`.
fn find(name: &Name, ids: &HashMap<String, TokenId>) -> Option<TokenId> {
    ids.get(&name.value).or_else(|| ids.get(&format!("{}.{ROOT}", name.value))).copied()
}

/// Once per file: whoever has one such value has hundreds.
fn note_old_form(token: &RawToken, diagnostics: &mut Diagnostics) {
    const ID: &str = "token/old-form";
    let span = token.value.span;
    if diagnostics.iter().any(|d| d.id == ID && d.span.is_some_and(|s| s.file == span.file)) {
        return;
    }
    let message = "colours and measures are strings in this file, as older drafts of the standard had them";
    diagnostics.push(
        Diagnostic::new(Level::Note, ID, span, message)
            .label("the first of them")
            .mend("write colours as objects with `colorSpace` and `components`, measures with `value` and `unit`"),
    );
}

impl Tokens {
    /// Aliases lead to tokens of the same type.
    fn check_references(&self, diagnostics: &mut Diagnostics) {
        // Members were checked with the values they belong to.
        for token in self.list.iter().filter(|token| !token.is_member) {
            for definition in token.definitions() {
                let Some(kind) = token.kind else { continue };
                definition.value.walk(kind, &mut |wanted, value| {
                    let TokenValue::Alias(alias) = value else { return };
                    let target = self.find_path(&alias.value).map(|id| self.get(id));
                    let Some(found) = target.and_then(|t| t.kind).filter(|found| *found != wanted) else { return };
                    let place = if wanted == kind { "" } else { "a member of " };
                    let message = format!(
                        "{place}`{}` is of type {}, but `{}` is of type {}",
                        token.path,
                        wanted.name(),
                        alias.value,
                        found.name()
                    );
                    diagnostics.push(
                        Diagnostic::error("token/type", alias.span, message)
                            .label(format!("not of type {}", wanted.name()))
                            .mend(format!("refer to a token of type {}", wanted.name())),
                    );
                });
            }
        }
    }

    /// Every theme gives every token a value. A member of a composite needs one only where it is referred to: a shadow
    /// may be single in one theme and layered in another.
    fn check_gaps(&self, diagnostics: &mut Diagnostics) {
        for token in self.list.iter().filter(|token| !token.is_member) {
            let Some(first) = token.definitions().next() else { continue };
            let gap = self.themes().into_iter().find_map(|theme| match token.in_theme(&theme) {
                None => Some((first.span, token.path.clone(), theme)),
                Some(definition) => definition.expression.tokens().find_map(|id| {
                    let missing = self.get(id).is_member && self.get(id).in_theme(&theme).is_none();
                    missing.then(|| (definition.span, self.get(id).path.clone(), theme.clone()))
                }),
            });
            if let Some((span, path, theme)) = gap {
                diagnostics.push(self.gap(span, &path, &theme));
            }
        }
    }

    /// What to say of a token without a value in a theme.
    pub fn gap(&self, span: Span, path: &str, theme: &Theme) -> Diagnostic {
        let message = format!("`{path}` has no value in the theme `{}`", self.theme_name(theme));
        Diagnostic::error("token/theme-gap", span, message)
            .label("not in every theme")
            .mend("define it in a set, or in the other contexts too")
    }

    /// Refuses cycles within a theme, derived tokens included, naming each step of the cycle once.
    pub fn check_cycles(&mut self, diagnostics: &mut Diagnostics) {
        for theme in self.themes() {
            let mut state = vec![Mark::New; self.list.len()];
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
        state: &mut [Mark],
        path: &mut Vec<(TokenId, Span)>,
        diagnostics: &mut Diagnostics,
    ) {
        match state[id.0] {
            Mark::Done => return,
            Mark::Open => {
                let start = path.iter().position(|(known, _)| *known == id).unwrap_or(0);
                diagnostics.push(self.cycle(&path[start..]));
                return;
            }
            Mark::New => {}
        }
        if path.len() > MAX_ALIAS_DEPTH {
            let message = format!("references are chained deeper than {MAX_ALIAS_DEPTH}");
            diagnostics.push(Diagnostic::error("token/cycle", path[0].1, message).mend("refer to a value nearer by"));
            return;
        }
        state[id.0] = Mark::Open;
        if let Some(definition) = self.get(id).in_theme(theme) {
            path.push((id, definition.span));
            for next in definition.expression.tokens().collect::<Vec<_>>() {
                self.visit(next, theme, state, path, diagnostics);
            }
            path.pop();
        }
        state[id.0] = Mark::Done;
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
enum Mark {
    New,
    Open,
    Done,
}
