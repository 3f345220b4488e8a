//! Which variants the browser looks at, where a control has too many to look at all: every pair of options that can
//! stand together stands together in one of them, and some more are drawn at random. Where not everything is looked at: the
//! first, and one that is drawn anew for each page.

use crate::depth::Depth;
use std::collections::BTreeSet;
use stilk_language::system::{Control, OptionId, Variant};

/// Up to so many variants are all looked at.
const ALL: usize = 48;
/// So many more are drawn at random.
const RANDOM: usize = 16;

/// The variants of a host to look at; the same for the same seed, and on the same page.
pub fn sample(control: &Control, host: usize, depth: Depth, page: u64) -> Vec<Variant> {
    let all = control.variants(host);
    if depth.full {
        return all_pairs(all, &mut Random(depth.seed));
    }
    let mut random = Random((depth.seed ^ page.wrapping_mul(0x9e37_79b9_7f4a_7c15)).max(1));
    // The first numbers of like seeds are alike.
    for _ in 0..4 {
        random.below(2);
    }
    let chosen = BTreeSet::from([0, random.below(all.len())]);
    chosen.into_iter().filter_map(|index| all.get(index).cloned()).collect()
}

fn all_pairs(all: Vec<Variant>, random: &mut Random) -> Vec<Variant> {
    if all.len() <= ALL {
        return all;
    }
    let mut open: BTreeSet<(OptionId, OptionId)> = all.iter().flat_map(pairs).collect();
    let mut chosen: BTreeSet<usize> = BTreeSet::from([0]);
    pairs(&all[0]).iter().for_each(|pair| {
        open.remove(pair);
    });
    while let Some(wanted) = open.first().copied() {
        // Of some variants with the first open pair, the one that closes most.
        let with: Vec<usize> = (0..all.len()).filter(|i| all[*i].has(wanted.0) && all[*i].has(wanted.1)).collect();
        let drawn = (0..24).map(|_| with[random.below(with.len())]);
        let best = drawn.max_by_key(|i| pairs(&all[*i]).iter().filter(|pair| open.contains(pair)).count());
        let Some(best) = best else { break };
        pairs(&all[best]).iter().for_each(|pair| {
            open.remove(pair);
        });
        chosen.insert(best);
    }
    (0..RANDOM).for_each(|_| {
        chosen.insert(random.below(all.len()));
    });
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
