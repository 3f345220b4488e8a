//! Adjacent colours that are gathered while checks look: what mends have to pass with, or pairs of text and background for
//! people.

use crate::inspection::Inspection;
use crate::mend::adjacency::{Adjacency, AdjacentColor};
use crate::painted::paint::{Pixel, contrast};
use crate::trace::ValueSource;
use rustc_hash::{FxBuildHasher, FxHashMap};
use std::collections::BTreeMap;
use std::collections::btree_map::Entry;
use std::hash::BuildHasher;
use stilk_language::system::System;
use stilk_language::tokens::{Theme, Token, TokenType};

/// A text and what is behind it, as people are shown them.
#[derive(Debug, Clone)]
pub struct Pair {
    /// The theme.
    pub theme: String,
    /// Where the text's colour came from, tokens by name.
    pub text: String,
    /// Where the background came from.
    pub on: String,
    /// The text's pixel in the worst case.
    pub text_pixel: Pixel,
    /// The pixel behind it.
    pub behind: Pixel,
    /// The contrast, 1 to 21.
    pub ratio: f64,
    /// What is needed.
    pub needed: f64,
    /// In how many cases it occurs.
    pub cases: u64,
    /// The worst of them.
    pub worst: String,
}

/// What is gathered of adjacent colours.
#[derive(Clone, Default)]
pub enum Gathering {
    /// Nothing.
    #[default]
    Nothing,
    /// Each adjacency, for the mends.
    Adjacencies(BTreeMap<Key, Adjacency>),
    /// Pairs, by theme and the names of both.
    Pairs(Pairs),
}

/// Both pixels in bits, and a hash of where they came from.
type Key = [u64; 7];

/// Pairs of text and background.
#[derive(Clone, Default)]
pub struct Pairs {
    found: BTreeMap<(String, String, String), Pair>,
    /// Names of themes, once they are asked for.
    themes: FxHashMap<Theme, String>,
}

/// Two colours side by side, with where they came from.
pub struct Met<'m> {
    /// The first, a text where it is one, and what it lies on or beside.
    pub sides: [(Pixel, &'m ValueSource); 2],
    /// The ratio that they need.
    pub needed: f64,
}

impl Gathering {
    /// For the mends.
    pub fn adjacencies() -> Gathering {
        Gathering::Adjacencies(BTreeMap::new())
    }

    /// For people.
    pub fn pairs() -> Gathering {
        Gathering::Pairs(Pairs::default())
    }

    /// Whether anything is gathered.
    pub fn is_on(&self) -> bool {
        !matches!(self, Gathering::Nothing)
    }

    /// Takes two colours that were met in so many cases of a look.
    pub fn take(&mut self, inspection: &Inspection, met: &Met, cases: u64, case: &dyn Fn() -> String) {
        match self {
            Gathering::Nothing => {}
            Gathering::Adjacencies(found) => {
                found.entry(key(met)).or_insert_with(|| {
                    let (tokens, theme) = (&inspection.system.tokens, &inspection.unit.theme);
                    let sides = met.sides.map(|(pixel, origin)| AdjacentColor::new(tokens, theme, pixel, origin));
                    Adjacency { sides, needed: met.needed, case: case() }
                });
            }
            Gathering::Pairs(pairs) => pairs.take(inspection, met, cases, case),
        }
    }

    /// Takes what another one holds.
    pub fn absorb(&mut self, other: Gathering) {
        match (self, other) {
            (Gathering::Adjacencies(own), Gathering::Adjacencies(others)) => {
                others.into_iter().for_each(|(key, adjacency)| {
                    own.entry(key).or_insert(adjacency);
                });
            }
            (Gathering::Pairs(own), Gathering::Pairs(others)) => {
                others.found.into_values().for_each(|pair| own.add(pair))
            }
            _ => {}
        }
    }

    /// The adjacencies that were gathered.
    pub fn into_adjacencies(self) -> Vec<Adjacency> {
        if let Gathering::Adjacencies(found) = self { found.into_values().collect() } else { Vec::new() }
    }

    /// The pairs that were gathered.
    pub fn into_pairs(self) -> Vec<Pair> {
        if let Gathering::Pairs(pairs) = self { pairs.found.into_values().collect() } else { Vec::new() }
    }
}

/// One pixel of several tokens is several sides.
fn key(met: &Met) -> Key {
    let [[a, b, c], [d, e, f]] = met.sides.map(|(pixel, _)| pixel.map(f64::to_bits));
    let names: Vec<_> = met.sides.iter().map(|(_, origin)| &origin.tokens).collect();
    [a, b, c, d, e, f, FxBuildHasher.hash_one((names, met.needed.to_bits()))]
}

impl Pairs {
    fn take(&mut self, inspection: &Inspection, met: &Met, cases: u64, case: &dyn Fn() -> String) {
        let theme = &inspection.unit.theme;
        let name = self.themes.entry(theme.clone()).or_insert_with(|| colors_of(inspection.system, theme)).clone();
        let [(text_pixel, text), (behind, on)] = met.sides;
        self.add(Pair {
            theme: name,
            text: text.name(),
            on: on.name(),
            text_pixel,
            behind,
            ratio: contrast(text_pixel, behind),
            needed: met.needed,
            cases,
            worst: case(),
        });
    }

    fn add(&mut self, pair: Pair) {
        match self.found.entry((pair.theme.clone(), pair.text.clone(), pair.on.clone())) {
            Entry::Vacant(empty) => drop(empty.insert(pair)),
            Entry::Occupied(known) => {
                let known = known.into_mut();
                let cases = known.cases + pair.cases;
                if pair.ratio / pair.needed < known.ratio / known.needed {
                    *known = pair;
                }
                known.cases = cases;
            }
        }
    }
}

/// A theme by the contexts that change colours: a density is no theme of its own here.
fn colors_of(system: &System, theme: &Theme) -> String {
    let tokens = &system.tokens;
    let changes = |index: usize| {
        let is_color = |token: &&Token| token.kind.is_none_or(|kind| kind == TokenType::Color);
        tokens.list.iter().filter(is_color).any(|token| token.overrides.iter().any(|o| o.modifier == index))
    };
    let names = tokens.modifiers.iter().zip(&theme.contexts).enumerate();
    let names =
        names.filter(|(index, _)| changes(*index)).map(|(_, (modifier, context))| modifier.contexts[*context].as_str());
    let names: Vec<&str> = names.collect();
    if names.is_empty() { "every theme".into() } else { names.join(" ") }
}
