//! Design tokens: the Design Tokens Format and Resolver modules, 2025.10, of the Design Tokens Community Group.
//!
//! Files are read into definitions ([`document`]), put in order by a resolver document ([`resolver`]), and bound to
//! [`Tokens`]: each token with its value per context of each modifier, types known, references valid, no cycles.

mod bind;
pub mod color;
pub mod composite;
pub mod document;
pub mod expression;
mod extends;
pub mod members;
mod pointer;
mod resolver;
pub mod theme;
pub mod value;

use crate::limits::{MAX_THEMES, MAX_TOKENS};
use crate::manifest::{Manifest, TokenSources};
pub use expression::{Expression, Piece};
use std::collections::HashMap;
use stilk_text::diagnostic::{Diagnostic, Diagnostics, nearest};
use stilk_text::json::Node;
use stilk_text::loader::Loader;
use stilk_text::source::{Name, Span};
pub use theme::Theme;
pub use value::{TokenType, TokenValue};

/// Longer chains of aliases are refused: nobody can follow them.
pub const MAX_ALIAS_DEPTH: usize = 64;

/// A token whose references, written out, are more than this is refused: doubling tokens would fill the memory.
pub const MAX_EXPANSION: usize = 10_000;

/// Index of a token in [`Tokens::list`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct TokenId(pub usize);

/// All tokens of a system.
#[derive(Debug, Default)]
pub struct Tokens {
    /// In the order in which they were first defined, derived tokens last.
    pub list: Vec<Token>,
    /// The modifiers of the resolver, in resolution order.
    pub modifiers: Vec<Modifier>,
    by_path: HashMap<String, TokenId>,
    /// Set when files could not be read: then an unknown name proves nothing.
    pub incomplete: bool,
}

/// One dimension of theming.
#[derive(Debug)]
pub struct Modifier {
    /// Its name.
    pub name: Name,
    /// Its contexts, the default first in no particular order.
    pub contexts: Vec<Name>,
    /// Index of the default context.
    pub default: usize,
}

/// One token.
#[derive(Debug)]
pub struct Token {
    /// Its path, `fill.sea`.
    pub path: String,
    /// Its type; unknown only for derived tokens.
    pub kind: Option<TokenType>,
    /// The value where no modifier defines one.
    pub base: Option<Definition>,
    /// What modifiers define, in resolution order: later ones win.
    pub overrides: Vec<Override>,
    /// Whether it is a member of a composite token, `stroke.control.width`, rather than one that a file defines.
    pub is_member: bool,
    /// Its `$description`.
    pub description: Option<String>,
    /// Set when it should no longer be used: the reason, if one is given.
    pub deprecated: Option<String>,
    /// Its `$extensions`, kept for other tools.
    pub extensions: Option<Node>,
}

/// What one modifier defines for a token.
#[derive(Debug)]
pub struct Override {
    /// Index of the modifier.
    pub modifier: usize,
    /// A definition per context; `None` falls through to what is below.
    pub contexts: Vec<Option<Definition>>,
}

/// One place that gives a token a value.
#[derive(Debug, Clone)]
pub struct Definition {
    /// The value.
    pub value: TokenValue,
    /// The value as CSS, references kept.
    pub expression: Expression,
    /// Where the value stands.
    pub span: Span,
}

impl Tokens {
    /// No tokens, in themes that are there all the same.
    pub fn none(modifiers: Vec<Modifier>) -> Tokens {
        Tokens { list: Vec::new(), modifiers, by_path: HashMap::new(), incomplete: false }
    }

    /// The token with this path.
    pub fn find(&self, path: &str) -> Option<TokenId> {
        self.by_path.get(path).copied()
    }

    /// The token that a reference names: a group's name stands for its `$root`.
    pub fn find_path(&self, path: &str) -> Option<TokenId> {
        self.find(path).or_else(|| self.find(&format!("{path}.{}", document::ROOT)))
    }

    /// The token behind an id.
    pub fn get(&self, id: TokenId) -> &Token {
        &self.list[id.0]
    }

    /// All paths.
    pub fn paths(&self) -> impl Iterator<Item = &str> {
        self.list.iter().map(|token| token.path.as_str())
    }

    /// What to write for a path that no token has: the nearest one; where its group is there and nothing in that is near, those of
    /// the group, if they are few. Nothing where none may be meant.
    pub fn meant(&self, wrong: &str) -> Option<String> {
        // Where there are thousands nobody reads them, and each mistake would ask all of them.
        const FEW: usize = 6;
        const ASKED: usize = 2_000;
        let group = |path: &str| path.rsplit_once('.').map(|(group, _)| group.to_owned());
        let own = group(wrong);
        let near = nearest(wrong, self.paths());
        if own.is_none() || self.list.len() > ASKED || near.is_some_and(|near| group(near) == own) {
            return near.map(|near| format!("write `{near}`"));
        }
        let prefix = format!("{}.", own.unwrap_or_default());
        let is_in_group = |path: &&str| path.strip_prefix(&prefix).is_some_and(|rest| !rest.contains('.'));
        let of_group: Vec<String> = self.paths().filter(is_in_group).map(|path| format!("`{path}`")).collect();
        match of_group.as_slice() {
            [one] => Some(format!("write {one}")),
            several if (1..=FEW).contains(&several.len()) => Some(format!("write one of: {}", several.join(", "))),
            _ => near.map(|near| format!("write `{near}`")),
        }
    }

    /// Adds a token; `Err` gives the one that has the path already.
    pub fn add(&mut self, token: Token) -> Result<TokenId, TokenId> {
        if let Some(known) = self.find(&token.path) {
            return Err(known);
        }
        let id = TokenId(self.list.len());
        self.by_path.insert(token.path.clone(), id);
        self.list.push(token);
        Ok(id)
    }
}

impl Token {
    /// A token that nothing defines yet.
    pub fn new(path: impl Into<String>, kind: Option<TokenType>) -> Token {
        Token {
            path: path.into(),
            kind,
            base: None,
            overrides: Vec::new(),
            is_member: false,
            description: None,
            deprecated: None,
            extensions: None,
        }
    }

    /// Every definition, the base first.
    pub fn definitions(&self) -> impl Iterator<Item = &Definition> {
        self.base.iter().chain(self.overrides.iter().flat_map(|o| o.contexts.iter().flatten()))
    }

    /// The definition that holds in a theme.
    pub fn in_theme(&self, theme: &Theme) -> Option<&Definition> {
        let found = self.overrides.iter().rev().find_map(|o| o.contexts[theme.contexts[o.modifier]].as_ref());
        found.or(self.base.as_ref())
    }
}

/// Reads every token file the manifest names, directly or through its resolver document.
pub fn read(manifest: &Manifest, loader: &mut Loader) -> Option<Tokens> {
    let mark = loader.diagnostics.mark();
    let mut order = match &manifest.tokens {
        TokenSources::Resolver(path) => resolver::read(path, loader)?,
        TokenSources::Files(paths) => resolver::Order::of_files(paths, loader),
    };
    refuse_too_many_themes(&mut order, &mut loader.diagnostics);
    let mut tokens = bind::bind(order, mark, loader);
    refuse_too_many(&mut tokens, &mut loader.diagnostics);
    Some(tokens)
}

/// Themes are multiplied: too many are refused before anybody asks for all of them.
fn refuse_too_many_themes(order: &mut resolver::Order, diagnostics: &mut Diagnostics) {
    let mut themes: usize = 1;
    let mut said = false;
    order.entries.retain(|entry| {
        let resolver::ResolutionEntry::Modifier { name, contexts, .. } = entry else { return true };
        let with = themes.saturating_mul(contexts.len().max(1));
        if with <= MAX_THEMES {
            themes = with;
            return true;
        }
        if !said {
            let message = format!("with the modifier `{}` there are more than {MAX_THEMES} themes", name.value);
            diagnostics.push(
                Diagnostic::error("resolver/size", name.span, message)
                    .label("the contexts of all modifiers are multiplied")
                    .mend("let one modifier choose what several do"),
            );
            said = true;
        }
        false
    });
    order.incomplete |= said;
}

fn refuse_too_many(tokens: &mut Tokens, diagnostics: &mut Diagnostics) {
    let definitions = tokens.list.iter().map(|token| token.definitions().count()).sum::<usize>();
    if definitions > MAX_TOKENS {
        let span = tokens.list.first().and_then(|token| Some(token.definitions().next()?.span));
        let message = format!("there are {definitions} values of tokens, more than {MAX_TOKENS}");
        diagnostics.push(Diagnostic::error("token/size", span, message).mend("leave out what nothing uses"));
        tokens.list.clear();
        tokens.by_path.clear();
        tokens.incomplete = true;
    }
}
