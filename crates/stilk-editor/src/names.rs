//! Every name in the sources of a project, where it is defined and where it is used.
//!
//! It is made of what stands in the files, not of a checked system: so it holds while something is half-written.

pub mod css;
mod gather;
mod scope;
pub mod tokens;

pub use gather::gather;
use scope::Shared;
use std::collections::HashMap;
use stilk_text::source::{FileId, Span};

/// What a name stands for.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Symbol {
    /// A token, by its path.
    Token(String),
    /// A control.
    Control(String),
    /// A trait.
    Trait(String),
    /// Keyframes.
    Keyframes(String),
    /// A state of the manifest's own.
    State(String),
    /// Something that controls have of their own: which control stands for those that share it, and its name.
    Own(OwnKind, String, String),
}

/// What controls have of their own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum OwnKind {
    /// A local property, with its dashes.
    Local,
    /// A part.
    Part,
    /// An axis.
    Axis,
    /// An option.
    Option,
}

impl Symbol {
    /// The name as it is written, a token's whole path.
    pub fn name(&self) -> &str {
        match self {
            Symbol::Token(name)
            | Symbol::Control(name)
            | Symbol::Trait(name)
            | Symbol::Keyframes(name)
            | Symbol::State(name)
            | Symbol::Own(_, _, name) => name,
        }
    }

    /// What it is, in a word.
    pub fn noun(&self) -> &'static str {
        match self {
            Symbol::Token(_) => "token",
            Symbol::Control(_) => "control",
            Symbol::Trait(_) => "trait",
            Symbol::Keyframes(_) => "keyframes",
            Symbol::State(_) => "state",
            Symbol::Own(OwnKind::Local, ..) => "local",
            Symbol::Own(OwnKind::Part, ..) => "part",
            Symbol::Own(OwnKind::Axis, ..) => "axis",
            Symbol::Own(OwnKind::Option, ..) => "option",
        }
    }
}

/// How a name is used somewhere.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Role {
    /// Here it is made.
    Definition,
    /// Here it gets a value, or is told more of: an override in a theme, a block of a part.
    Write,
    /// Here it is used.
    Read,
}

/// How a name is written at a place.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub enum Form {
    /// As it is.
    Plain,
    /// A token's last segment: the key of its object.
    Segment,
    /// A token's path joined by `/`.
    Pointer,
}

/// A name at a place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Occurrence {
    /// What it stands for.
    pub symbol: Symbol,
    /// How it is used.
    pub role: Role,
    /// How it is written.
    pub form: Form,
    /// Where.
    pub span: Span,
}

/// All names of a project.
#[derive(Debug, Default)]
pub struct Names {
    /// By file and place.
    list: Vec<Occurrence>,
    by_symbol: HashMap<Symbol, Vec<usize>>,
    shared: Shared,
}

impl Names {
    /// Puts occurrences in order; the same at the same place is there once.
    pub fn new(mut list: Vec<Occurrence>, shared: Shared) -> Names {
        list.sort_by(|a, b| (a.span, &a.symbol).cmp(&(b.span, &b.symbol)));
        list.dedup_by(|a, b| a.span == b.span && a.symbol == b.symbol);
        let mut by_symbol: HashMap<Symbol, Vec<usize>> = HashMap::new();
        for (at, one) in list.iter().enumerate() {
            by_symbol.entry(one.symbol.clone()).or_default().push(at);
        }
        Names { list, by_symbol, shared }
    }

    /// The name at a byte of a file, or right before it.
    pub fn at(&self, file: FileId, offset: usize) -> Option<&Occurrence> {
        let touches = |one: &&Occurrence| one.span.start as usize <= offset && offset <= one.span.end as usize;
        // Of two that touch, the one that begins here is meant.
        let here = self.of_file(file).iter().filter(touches);
        here.max_by_key(|one| (one.span.start, std::cmp::Reverse(one.span.end)))
    }

    /// Everything in a file, in order.
    pub fn of_file(&self, file: FileId) -> &[Occurrence] {
        let start = self.list.partition_point(|one| one.span.file < file);
        let end = self.list.partition_point(|one| one.span.file <= file);
        &self.list[start..end]
    }

    /// Where a name stands, in the order of files and places.
    pub fn of(&self, symbol: &Symbol) -> impl Iterator<Item = &Occurrence> {
        self.by_symbol.get(symbol).into_iter().flatten().map(|at| &self.list[*at])
    }

    /// Where a name is defined; where it is written where nothing defines it.
    pub fn definitions(&self, symbol: &Symbol) -> Vec<&Occurrence> {
        let found: Vec<_> = self.of(symbol).filter(|one| one.role == Role::Definition).collect();
        match found.is_empty() {
            true => self.of(symbol).filter(|one| one.role == Role::Write).collect(),
            false => found,
        }
    }

    /// Who stands for what a control, or a trait by `@NAME`, means by a name; nothing where it does not speak of it.
    pub fn stands_for(&self, kind: OwnKind, owner: &str, name: &str) -> Option<String> {
        self.shared.find(kind, owner, name)
    }

    /// Every name with its occurrences, in no order.
    pub fn symbols(&self) -> impl Iterator<Item = &Symbol> {
        self.by_symbol.keys()
    }
}
