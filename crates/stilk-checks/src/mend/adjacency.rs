//! Adjacent colours (WCAG 2.2, 1.4.11), and whether another colour would do in all places where one is used.

use crate::mend::color::{Variable, chain_of, color_of, definition_at};
use crate::painted::paint::{Pixel, contrast};
use crate::trace::ValueSource;
use rustc_hash::FxHashMap;
use stilk_language::tokens::{Theme, Tokens};
use stilk_text::source::Span;

/// Two colours side by side or one on the other, and the contrast that they need.
#[derive(Debug, Clone, PartialEq)]
pub struct Adjacency {
    /// Both, in no order.
    pub sides: [AdjacentColor; 2],
    /// The ratio, 1 to 21.
    pub needed: f64,
    /// A case in which they do.
    pub case: String,
}

/// One of two adjacent colours.
#[derive(Debug, Clone, PartialEq)]
pub struct AdjacentColor {
    /// As painted.
    pub pixel: Pixel,
    /// The definitions that give it, from the token that is named to the colour itself; none where it is mixed, translucent
    /// or no token's.
    pub definitions: Vec<Span>,
}

impl AdjacentColor {
    /// The colour of an adjacency that came from there, in a theme.
    pub fn new(tokens: &Tokens, theme: &Theme, pixel: Pixel, origin: &ValueSource) -> AdjacentColor {
        let definitions = origin.token().and_then(|(place, _)| {
            let (token, _) = definition_at(tokens, *place)?;
            // Only where nothing is mixed with it is it the token's own colour that is painted.
            let own = color_of(tokens, token, theme)?.srgb();
            let is_own = own.iter().zip(pixel).all(|(own, seen)| (own.clamp(0.0, 1.0) - seen).abs() < 0.003);
            is_own.then(|| chain_of(tokens, *place, theme))
        });
        AdjacentColor { pixel, definitions: definitions.unwrap_or_default() }
    }

    /// Whether the definition at this place gives it its colour.
    pub fn is_of(&self, place: Span) -> bool {
        self.definitions.contains(&place)
    }

    /// Its pixel where some definitions are written anew.
    fn with(&self, changed: &[(Span, Pixel)]) -> Pixel {
        changed.iter().find(|(place, _)| self.is_of(*place)).map_or(self.pixel, |(_, pixel)| *pixel)
    }
}

/// What rounding to four decimals may take from a ratio.
const ROUNDED: f64 = 1.0005;

impl Adjacency {
    /// Whether it has its contrast where some definitions are written anew.
    pub fn passes(&self, changed: &[(Span, Pixel)]) -> bool {
        let [a, b] = self.sides.each_ref().map(|side| side.with(changed));
        // What is written is rounded: it must pass all the same.
        let needed = if changed.is_empty() { self.needed } else { self.needed * ROUNDED };
        contrast(a, b) >= needed
    }

    /// Where the definition gives one of the sides: the other one.
    pub fn other(&self, place: Span) -> Option<&AdjacentColor> {
        let [a, b] = &self.sides;
        match (a.is_of(place), b.is_of(place)) {
            (true, false) => Some(b),
            (false, true) => Some(a),
            _ => None,
        }
    }
}

/// All that was gathered, found by the definitions that have a part in it.
#[derive(Debug, Default)]
pub struct Adjacencies {
    list: Vec<Adjacency>,
    by_place: FxHashMap<Span, Vec<usize>>,
}

impl Adjacencies {
    /// Of a list.
    pub fn new(list: impl IntoIterator<Item = Adjacency>) -> Adjacencies {
        let list: Vec<Adjacency> = list.into_iter().collect();
        let mut by_place: FxHashMap<Span, Vec<usize>> = FxHashMap::default();
        for (index, adjacency) in list.iter().enumerate() {
            for place in adjacency.sides.iter().flat_map(|side| &side.definitions) {
                let places = by_place.entry(*place).or_default();
                if adjacency.other(*place).is_some() && places.last() != Some(&index) {
                    places.push(index);
                }
            }
        }
        Adjacencies { list, by_place }
    }

    /// What the colour of a definition meets.
    pub fn of(&self, variable: &Variable) -> Vec<&Adjacency> {
        let found = self.by_place.get(&variable.definition.span);
        found.into_iter().flatten().map(|index| &self.list[*index]).collect()
    }
}
