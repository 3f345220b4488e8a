//! What a run found out of each control, for the next run of the same system with some texts changed: only controls that an
//! edit can have changed are looked at again.
//!
//! What is said of a control depends on its own sheet and template, on those of what it is a copy of and of what it places,
//! on the traits it uses, on the tokens that it reads, and on a few things that are the same for all. All of that is brought
//! into one number; where it is the same, so is what is said. A test holds runs with a memory against runs without.

use crate::checks::geometry::mirrored;
use crate::gather::Pair;
use crate::relevance::distinct_themes;
use crate::relevance::reads::Colors;
use crate::report::SampledControl;
use crate::run::inspect::Part;
use crate::settings::Settings;
use std::collections::{BTreeMap, BTreeSet};
use std::hash::{DefaultHasher, Hash, Hasher};
use std::sync::Arc;
use stilk_language::manifest::MANIFEST;
use stilk_language::system::{Control, System};
use stilk_language::tokens::{Expression, Piece, Token, TokenId};
use stilk_text::moved::Moved;
use stilk_text::source::{FileId, Sources, Span};

/// What runs found out of the controls of one system.
#[derive(Default, Clone)]
pub struct Memory {
    controls: BTreeMap<String, Kept>,
    /// How many controls the last run took from here.
    recalled: usize,
    /// The pairs of colours of each control; they name no place.
    pairs: BTreeMap<String, (u64, Arc<Vec<Pair>>)>,
}

/// What a run found out of one control.
#[derive(Clone)]
pub(super) struct Kept {
    key: u64,
    /// The texts that its places are in.
    texts: Arc<Texts>,
    pub found: Found,
}

/// Everything that a run tells of one control.
#[derive(Clone)]
pub(super) struct Found {
    pub part: Part,
    pub cases: u64,
    pub left_out: Vec<SampledControl>,
}

/// The texts of a run, by the id of each file.
pub(super) type Texts = Vec<(String, String)>;

impl Memory {
    /// How many controls were not looked at again by the last run.
    pub fn recalled(&self) -> usize {
        self.recalled
    }

    /// What is known of a control, with places where they are now; nothing where it has to be looked at.
    pub(super) fn recall(&mut self, control: &Control, key: u64, sources: &Sources) -> Option<Found> {
        let kept = self.controls.get(&control.name.value).filter(|kept| kept.key == key)?;
        let mut moves: BTreeMap<FileId, Option<Moved>> = BTreeMap::new();
        let mut place = |span: Span| {
            let moved = moves.entry(span.file).or_insert_with(|| {
                let (path, text) = kept.texts.get(span.file.index())?;
                let file = sources.find(path)?;
                Some(Moved::new(text, file, &sources.file(file).text))
            });
            // Words may name lines: what stands on another line is said anew.
            moved.as_ref().and_then(|moved| moved.on_its_line(span))
        };
        let sink = kept.found.part.sink.moved(&mut place)?;
        self.recalled += 1;
        let part = Part { computed: kept.found.part.computed, sink };
        Some(Found { part, cases: kept.found.cases, left_out: kept.found.left_out.clone() })
    }

    /// The pairs of colours of a control, where they are known.
    pub(super) fn recall_pairs(&self, control: &Control, key: u64) -> Option<Arc<Vec<Pair>>> {
        let known = self.pairs.get(&control.name.value).filter(|(known, _)| *known == key);
        known.map(|(_, pairs)| Arc::clone(pairs))
    }

    /// Keeps the pairs of colours of a control.
    pub(super) fn keep_pairs(&mut self, control: &Control, key: u64, pairs: &Arc<Vec<Pair>>) {
        self.pairs.insert(control.name.value.clone(), (key, Arc::clone(pairs)));
    }

    /// Keeps what was found.
    pub(super) fn keep(&mut self, control: &Control, key: u64, texts: &Arc<Texts>, found: Found) {
        let kept = Kept { key, texts: Arc::clone(texts), found };
        self.controls.insert(control.name.value.clone(), kept);
    }

    /// Begins a run: controls that are gone are forgotten.
    pub(super) fn begin(&mut self, system: &System) {
        self.recalled = 0;
        self.controls.retain(|name, _| system.control(name).is_some());
        self.pairs.retain(|name, _| system.control(name).is_some());
    }
}

/// The texts of a system's files.
pub(super) fn texts(sources: &Sources) -> Arc<Texts> {
    Arc::new(sources.all().map(|source| (source.path.clone(), source.text.clone())).collect())
}

/// The controls of the second of two versions of a system of which something else may be said than of the first.
pub fn differing(
    (old, old_sources): (&System, &Sources),
    (new, new_sources): (&System, &Sources),
    settings: &Settings,
) -> Vec<String> {
    let before = keys(old, old_sources, settings);
    let known: BTreeMap<&str, u64> = old.controls.iter().map(|control| control.name.as_str()).zip(before).collect();
    let after = keys(new, new_sources, settings);
    let all = new.controls.iter().zip(after);
    let others = all.filter(|(control, key)| known.get(control.name.as_str()) != Some(key));
    others.map(|(control, _)| control.name.value.clone()).collect()
}

/// One number for each control, of everything that what is said of it depends on.
pub(super) fn keys(system: &System, sources: &Sources, settings: &Settings) -> Vec<u64> {
    let tokens = TokenPrints::new(system);
    let common = common(system, sources, settings, &tokens);
    let own: Vec<u64> = system.controls.iter().map(|control| own_print(sources, control, &tokens)).collect();
    let index_of = |name: &str| system.controls.iter().position(|control| control.name.value == name);
    let with_placed = |index: usize| {
        let mut all = BTreeSet::from([index]);
        let mut open = vec![index];
        while let Some(at) = open.pop() {
            let control = &system.controls[at];
            let placed = control.placements.iter().filter_map(|placed| index_of(&placed.control));
            let around = control.inside.iter().filter_map(|outer| index_of(&outer.value));
            open.extend(placed.chain(around).filter(|placed| all.insert(*placed)).collect::<Vec<_>>());
        }
        let mut hasher = DefaultHasher::new();
        (common, own[index]).hash(&mut hasher);
        all.iter().for_each(|at| (&system.controls[*at].name.value, own[*at]).hash(&mut hasher));
        hasher.finish()
    };
    (0..system.controls.len()).map(with_placed).collect()
}

/// What is the same for all controls.
fn common(system: &System, sources: &Sources, settings: &Settings, tokens: &TokenPrints) -> u64 {
    let mut hasher = DefaultHasher::new();
    let text_of = |span: Span| &sources.file(span.file).text;
    sources.find(MANIFEST).map(|file| &sources.file(file).text).hash(&mut hasher);
    (&settings.today, &settings.only, settings.every_case).hash(&mut hasher);
    for modifier in &system.tokens.modifiers {
        modifier.name.value.hash(&mut hasher);
        modifier.contexts.iter().for_each(|context| context.value.hash(&mut hasher));
        modifier.default.hash(&mut hasher);
    }
    for (name, surface) in &system.surfaces {
        (name, tokens.with_all(*surface)).hash(&mut hasher);
    }
    // Which themes are alike is asked of all tokens together.
    let every: Vec<&Token> = system.tokens.list.iter().collect();
    let themes = system.tokens.themes();
    for colors in [Colors::All, Colors::Cover, Colors::None] {
        for asks in [true, false] {
            let distinct = distinct_themes((system, asks), colors, &every, themes.iter().enumerate());
            distinct.iter().for_each(|((index, _), stands_for)| (index, stands_for).hash(&mut hasher));
        }
    }
    for keyframes in &system.keyframes {
        keyframes.name.value.hash(&mut hasher);
        tokens.expression(&keyframes.body).hash(&mut hasher);
    }
    for face in &system.font_faces {
        face.descriptors.hash(&mut hasher);
    }
    for registered in &system.registered {
        (&registered.name.value, &registered.syntax, registered.inherits, &registered.initial).hash(&mut hasher);
    }
    // What is attached may match anything: the whole sheet that says so counts.
    system.attachments.iter().for_each(|attached| text_of(attached.span).hash(&mut hasher));
    mirrored::is_asked(system).hash(&mut hasher);
    hasher.finish()
}

/// What a control is made of, without what it places.
fn own_print(sources: &Sources, control: &Control, tokens: &TokenPrints) -> u64 {
    let mut hasher = DefaultHasher::new();
    control.name.value.hash(&mut hasher);
    let mut files: BTreeSet<FileId> = control.rules.iter().map(|rule| rule.span.file).collect();
    files.extend([control.name.span.file, control.template.file]);
    files.extend(control.axes.iter().map(|axis| axis.name.span.file));
    files.extend(control.waivers.iter().map(|waiver| waiver.span.file));
    for file in files {
        let source = sources.file(file);
        (&source.path, &source.text).hash(&mut hasher);
    }
    // Tokens in conditions and in registered values are written out.
    control.rules.iter().for_each(|rule| rule.conditions.hash(&mut hasher));
    for registered in &control.registered {
        (&registered.name.value, &registered.syntax, registered.inherits, &registered.initial).hash(&mut hasher);
    }
    let read: BTreeSet<TokenId> = control
        .rules
        .iter()
        .flat_map(|rule| &rule.declarations)
        .flat_map(|declaration| declaration.value.tokens())
        .collect();
    read.iter().for_each(|id| tokens.with_all(*id).hash(&mut hasher));
    hasher.finish()
}

/// One number for each token: what it is in every context, and what it builds on.
struct TokenPrints<'s> {
    system: &'s System,
    own: Vec<u64>,
}

impl<'s> TokenPrints<'s> {
    fn new(system: &'s System) -> TokenPrints<'s> {
        let mut prints = TokenPrints { system, own: Vec::new() };
        prints.own = system.tokens.list.iter().map(|token| prints.of(token)).collect();
        prints
    }

    fn of(&self, token: &Token) -> u64 {
        let mut hasher = DefaultHasher::new();
        (&token.path, token.kind.map(|kind| kind.name()), &token.deprecated, token.is_member).hash(&mut hasher);
        token.base.as_ref().map(|base| self.expression(&base.expression)).hash(&mut hasher);
        for one in &token.overrides {
            one.modifier.hash(&mut hasher);
            for context in &one.contexts {
                context.as_ref().map(|context| self.expression(&context.expression)).hash(&mut hasher);
            }
        }
        hasher.finish()
    }

    /// An expression with tokens by their paths.
    fn expression(&self, expression: &Expression) -> u64 {
        let mut hasher = DefaultHasher::new();
        for piece in &expression.pieces {
            match piece {
                Piece::Text(text) => (0, text.as_str()).hash(&mut hasher),
                Piece::Token(id, _) => (1, self.system.tokens.get(*id).path.as_str()).hash(&mut hasher),
                Piece::Local(name) => (2, name.as_str()).hash(&mut hasher),
            }
        }
        hasher.finish()
    }

    /// A token with everything that it builds on.
    fn with_all(&self, token: TokenId) -> u64 {
        let mut all = BTreeSet::from([token]);
        let mut open = vec![token];
        while let Some(id) = open.pop() {
            let definitions = self.system.tokens.get(id).definitions();
            let more = definitions.flat_map(|definition| definition.expression.tokens());
            open.extend(more.filter(|more| all.insert(*more)).collect::<Vec<_>>());
        }
        let mut hasher = DefaultHasher::new();
        // In an order that does not depend on what other tokens there are.
        let mut prints: Vec<u64> = all.iter().map(|id| self.own[id.0]).collect();
        prints.sort_unstable();
        (self.own[token.0], prints).hash(&mut hasher);
        hasher.finish()
    }
}
