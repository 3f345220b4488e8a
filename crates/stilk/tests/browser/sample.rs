//! Which variants the browser looks at, where a control has too many to look at all: every pair of options that can
//! stand together stands together in one of them, and some more are drawn at random; where not everything is looked at, every
//! option.

use crate::depth::Depth;
use std::collections::BTreeSet;
use stilk_language::system::{Control, OptionId, Variant};

/// Up to so many variants are all looked at, and where not everything is.
const ALL: usize = 48;
const FEW: usize = 6;
/// So many more are drawn at random, and where not everything is looked at.
const RANDOM: usize = 16;
const FEW_RANDOM: usize = 2;

/// The variants of a host to look at; the same for the same seed.
pub fn sample(control: &Control, host: usize, depth: Depth) -> Vec<Variant> {
    let all = control.variants(host);
    let (most, drawn) = if depth.full { (ALL, RANDOM) } else { (FEW, FEW_RANDOM) };
    if all.len() <= most {
        return all;
    }
    let mut random = Random(depth.seed.max(1));
    let wanted = |variant: &Variant| match depth.full {
        true => pairs(variant),
        false => variant.options().map(|option| (option, option)).collect(),
    };
    let mut open: BTreeSet<(OptionId, OptionId)> = all.iter().flat_map(wanted).collect();
    let mut chosen: BTreeSet<usize> = BTreeSet::new();
    let mut choose = |index: usize, open: &mut BTreeSet<(OptionId, OptionId)>| {
        wanted(&all[index]).iter().for_each(|pair| {
            open.remove(pair);
        });
        chosen.insert(index);
    };
    choose(0, &mut open);
    while let Some(first) = open.first().copied() {
        // Of some variants with the first open pair, the one that closes most.
        let with: Vec<usize> = (0..all.len()).filter(|i| all[*i].has(first.0) && all[*i].has(first.1)).collect();
        let drawn = (0..24).map(|_| with[random.below(with.len())]);
        let best = drawn.max_by_key(|i| wanted(&all[*i]).iter().filter(|pair| open.contains(pair)).count());
        let Some(best) = best else { break };
        choose(best, &mut open);
    }
    (0..drawn).for_each(|_| choose(random.below(all.len()), &mut open));
    chosen.into_iter().map(|i| all[i].clone()).collect()
}

/// Every pair of options, a single option being a pair with itself.
fn pairs(variant: &Variant) -> Vec<(OptionId, OptionId)> {
    let options: Vec<OptionId> = variant.options().collect();
    options.iter().flat_map(|a| options.iter().filter(move |b| *a <= **b).map(move |b| (*a, *b))).collect()
}

/// A small generator of even quality (Marsaglia's xorshift): the runs must be the same everywhere.
pub struct Random(pub u64);

impl Random {
    /// The next number below `end`.
    pub fn below(&mut self, end: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 % end.max(1) as u64) as usize
    }
}
