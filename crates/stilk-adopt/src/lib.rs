//! Turns pages and stylesheets that nobody wrote for Stilk into a project, and proves that the pages look the same.
//!
//! It promises that what it says of a difference is what the engine computes on those very pages, with the old stylesheets and
//! with the files that it gives; what cannot be known is counted, and a family whose look would change stays as it was. It
//! reads and writes no files: it gives them as text.
//!
//! Data flows one way:
//!
//! 1. [`old`]: the stylesheets, each once and in one order; [`outline`]: their texts by blocks, so that some can be left out;
//!    [`documents`]: the pages.
//! 2. [`ground`]: all controls by family, and for each rule whose elements it styles. [`reading`]: what a rule asks of a
//!    control, its selector held against the control's elements. [`situation`]: themes, media and states to look at; [`holding`]: which
//!    of these can be.
//! 3. [`winners`]: who wins on controls as they are.
//! 4. [`workshop`] makes a [`draft`] of a control from a family; [`when`]: when its rules hold; [`merge`]; [`seen`]; [`conflict`]: where the order of states and places would
//!    give another look, the meeting of two rules is written out; [`prune`]: what holds anyhow is left out; [`pieces`]: some longhands of a shorthand; [`naming`].
//! 5. [`themes`], [`properties`], [`palette`], [`colors`]: modifiers and tokens.
//! 6. [`write`]: sheets, templates, tokens, the manifest, what stays, and the account of it.
//! 7. [`proof`]: every element before and after. [`adopt`] does all of it, and gives an [`account`].

pub mod account;
pub mod adopt;
pub mod colors;
pub mod conflict;
pub mod documents;
pub mod draft;
pub mod ground;
pub mod holding;
pub mod merge;
pub mod naming;
pub mod old;
pub mod outline;
pub mod palette;
pub mod pieces;
pub mod proof;
pub mod properties;
pub mod prune;
pub mod reading;
pub mod seen;
pub mod situation;
pub mod themes;
pub mod when;
pub mod winners;
pub mod workshop;
pub mod write;

use rustc_hash::FxHashMap;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Engine, Media, Stylesheet};
use stilk_survey::site::Site;

/// The engine of a list of stylesheets as pages have it.
pub fn engine_of(site: &Site, list: usize, media: Media) -> Engine {
    let sheets: Vec<&Stylesheet> = site.lists[list].sheets.iter().map(|sheet| &*sheet.parsed).collect();
    Engine::new(Browser::Chromium.sheet(), &sheets, media)
}

/// Engines by list of stylesheets and media, made when they are asked for; each thread has its own.
#[derive(Default)]
pub struct Engines(FxHashMap<(usize, usize), Engine>);

impl Engines {
    /// The engine of a list under some media features.
    pub fn of(&mut self, key: (usize, usize), make: impl FnOnce() -> Engine) -> &Engine {
        // Bounded: pages with sheets of their own have lists of their own.
        const MOST: usize = 64;
        if self.0.len() > MOST && !self.0.contains_key(&key) {
            self.0.clear();
        }
        self.0.entry(key).or_insert_with(make)
    }
}

pub use stilk_survey::survey::in_order;
