//! How deep tests look that would take long to look at everything: a part that another commit replaces by another, or all.

#![allow(dead_code, reason = "each program that uses this needs some of it")]

/// How deep to look.
#[derive(Debug, Clone, Copy)]
pub struct Depth {
    /// At everything, as before a release.
    pub full: bool,
    /// What is drawn at random is drawn by this.
    pub seed: u64,
}

impl Depth {
    /// As the environment says: `STILK_FULL=1`, and `STILK_SEED`, which `scripts/test.sh` takes from the commit.
    pub fn of_environment() -> Depth {
        let full = std::env::var_os("STILK_FULL").is_some_and(|value| value != "0");
        let seed = std::env::var("STILK_SEED").ok().and_then(|text| text.parse().ok());
        // All is looked at from the same seeds, so that two runs can be held against each other.
        Depth { full, seed: if full { Depth::FIXED } else { seed.unwrap_or(Depth::FIXED) } }
    }

    const FIXED: u64 = 20_270_514;

    /// Says what is done, so that it can be done again.
    pub fn print(&self) {
        match self.full {
            true => println!("everything is compared"),
            false => println!("a part is compared, drawn by seed {0}: the same again with STILK_SEED={0}", self.seed),
        }
    }

    /// So many of all, the same for the same seed: a different part for another one.
    pub fn part(&self, all: u64, few: u64) -> impl Iterator<Item = u64> {
        let (few, seed) = if self.full { (all, 0) } else { (few.min(all), self.seed) };
        (0..few).map(move |index| (seed % all + index) % all)
    }
}
