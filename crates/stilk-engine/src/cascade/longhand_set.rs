//! Sets of longhands: what a block of declarations sets, in each flow of the text.

use crate::css::parse::Target;
use crate::css::property::{Flow, Longhand};

/// How many times 64 longhands there are at most.
const WORDS: usize = 5;
const _: () = assert!(Longhand::ALL.len() <= 64 * WORDS);

/// A set of longhands.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct LonghandSet([u64; WORDS]);

impl LonghandSet {
    /// All there are.
    pub fn all() -> LonghandSet {
        let mut all = LonghandSet::default();
        Longhand::ALL.iter().for_each(|longhand| all.add(*longhand));
        all
    }

    /// Of these.
    pub const fn of(longhands: &[Longhand]) -> LonghandSet {
        let mut set = [0; WORDS];
        let mut at = 0;
        while at < longhands.len() {
            set[longhands[at] as usize / 64] |= 1 << (longhands[at] as usize % 64);
            at += 1;
        }
        LonghandSet(set)
    }

    /// Of these, and of those of another set.
    pub const fn and(self, longhands: &[Longhand]) -> LonghandSet {
        self.union(LonghandSet::of(longhands))
    }

    /// What is in one of both.
    pub const fn union(self, other: LonghandSet) -> LonghandSet {
        let ([a, b, c, d, e], [f, g, h, i, j]) = (self.0, other.0);
        LonghandSet([a | f, b | g, c | h, d | i, e | j])
    }

    /// What is in this one and not in another.
    pub const fn without(self, other: LonghandSet) -> LonghandSet {
        let ([a, b, c, d, e], [f, g, h, i, j]) = (self.0, other.0);
        LonghandSet([a & !f, b & !g, c & !h, d & !i, e & !j])
    }

    /// Whether nothing is in it.
    pub const fn is_empty(self) -> bool {
        let [a, b, c, d, e] = self.0;
        a | b | c | d | e == 0
    }

    /// Whether some longhand is in both.
    pub const fn meets(&self, other: &LonghandSet) -> bool {
        let ([a, b, c, d, e], [f, g, h, i, j]) = (self.0, other.0);
        (a & f) | (b & g) | (c & h) | (d & i) | (e & j) != 0
    }

    /// Adds a longhand.
    pub fn add(&mut self, longhand: Longhand) {
        self.0[longhand as usize / 64] |= 1 << (longhand as usize % 64);
    }

    /// Adds all of another set.
    pub fn add_all(&mut self, other: &LonghandSet) {
        self.0.iter_mut().zip(other.0).for_each(|(a, b)| *a |= b);
    }

    /// Whether it holds a longhand.
    pub const fn has(&self, longhand: Longhand) -> bool {
        self.0[longhand as usize / 64] & (1 << (longhand as usize % 64)) != 0
    }

    /// What is in both.
    pub fn within(self, other: &LonghandSet) -> LonghandSet {
        LonghandSet(std::array::from_fn(|word| self.0[word] & other.0[word]))
    }

    /// The longhands in it, in the order of the table.
    pub fn iter(self) -> impl Iterator<Item = Longhand> {
        self.0.into_iter().enumerate().flat_map(|(word, mut bits)| {
            std::iter::from_fn(move || {
                let bit = bits.trailing_zeros() as usize;
                bits &= bits.wrapping_sub(1);
                Longhand::ALL.get(word * 64 + bit).copied().filter(|_| bit < 64)
            })
        })
    }
}

/// Sets of longhands by the flow of the text: most declarations set the same in every one.
#[derive(Debug, Clone, Default)]
pub struct FlowSets {
    ltr: LonghandSet,
    turned: Option<Box<[LonghandSet; Flow::COUNT]>>,
}

impl FlowSets {
    /// The set in a flow.
    pub fn get(&self, flow: Flow) -> &LonghandSet {
        match &self.turned {
            Some(sets) => &sets[flow.index()],
            None => &self.ltr,
        }
    }

    pub(super) fn of(targets: &[Target]) -> FlowSets {
        let mut all = FlowSets::default();
        targets.iter().for_each(|target| all.ltr.add(target.physical(Flow::LTR)));
        if targets.iter().any(|target| matches!(target, Target::Logical(_))) {
            let mut sets = [LonghandSet::default(); Flow::COUNT];
            for flow in Flow::all() {
                targets.iter().for_each(|target| sets[flow.index()].add(target.physical(flow)));
            }
            all.turned = Some(Box::new(sets));
        }
        all
    }

    pub(super) fn add_all(&mut self, other: &FlowSets) {
        if self.turned.is_none() && other.turned.is_some() {
            self.turned = Some(Box::new([self.ltr; Flow::COUNT]));
        }
        if let Some(sets) = &mut self.turned {
            for flow in Flow::all() {
                sets[flow.index()].add_all(other.get(flow));
            }
        }
        self.ltr.add_all(&other.ltr);
    }
}
