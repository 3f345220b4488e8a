//! What a check of a whole system looks at.

use crate::relevance::distinct_themes;
use crate::relevance::reads::Colors;
use crate::trace::Tracer;
use rustc_hash::FxHashMap;
use std::cell::{OnceCell, RefCell};
use std::rc::Rc;
use stilk_engine::cascade::Stylesheet;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::layout::KnownLayouts;
use stilk_language::case::{Look, LookEngine, Unit, UnthemedLook};
use stilk_language::system::{Control, Rule, StateSet, System, Variant};
use stilk_language::tokens::{Theme, Token};
use stilk_text::source::Sources;

/// What a check of the whole system looks at.
pub struct Survey<'s> {
    /// The system.
    pub system: &'s System,
    /// Its sources.
    pub sources: &'s Sources,
    /// The controls to look at.
    pub controls: Vec<&'s Control>,
    /// Draws cases.
    pub look_engine: &'s LookEngine<'s>,
    /// The stylesheet, read again.
    pub parsed: &'s Stylesheet,
    /// Follows values to their sources.
    pub tracer: &'s Tracer<'s>,
    pub(crate) engines: Engines<'s>,
    pub(crate) known: RefCell<KnownLooks<'s>>,
}

/// Engines that some checks ask beside the usual one, once one does.
#[derive(Default)]
pub(crate) struct Engines<'s> {
    forced: OnceCell<LookEngine<'s>>,
    mirrored: OnceCell<LookEngine<'s>>,
    browsers: OnceCell<[(Browser, LookEngine<'s>); Browser::MEASURED.len()]>,
}

/// So many looks are kept: checks come back to the same few.
const KEPT: usize = 160;

/// What was looked at already of one control, by the engine that computes it, host, variant and states.
#[derive(Default)]
pub(crate) struct KnownLooks<'s> {
    of: Option<&'s Control>,
    unthemed: FxHashMap<Case<'s>, UnthemedLook>,
    looks: FxHashMap<(Case<'s>, Theme), Rc<Look>>,
    /// Options and themes that change no size share a layout.
    layouts: Rc<KnownLayouts>,
}

type Case<'s> = (*const LookEngine<'s>, usize, Variant, StateSet);

impl<'s> Survey<'s> {
    /// A look; what matches is the same in every theme, and kept while one control is looked at.
    pub fn look(&self, look_engine: &LookEngine<'s>, unit: &Unit<'s>, states: &StateSet) -> Rc<Look> {
        let mut known = self.known.borrow_mut();
        if !known.of.is_some_and(|control| std::ptr::eq(control, unit.control)) {
            *known = KnownLooks { of: Some(unit.control), ..KnownLooks::default() };
        }
        let KnownLooks { unthemed, looks, layouts, .. } = &mut *known;
        let case = (std::ptr::from_ref(look_engine), unit.host, unit.variant.clone(), states.clone());
        let key = (case, unit.theme.clone());
        if let Some(look) = looks.get(&key) {
            return Rc::clone(look);
        }
        let look = match look_engine.serves_all_themes() {
            true => {
                let unthemed = unthemed.entry(key.0.clone()).or_insert_with(|| look_engine.unthemed(unit, states));
                look_engine.look_in(unthemed, &unit.theme)
            }
            false => look_engine.look(unit, states),
        };
        let look = Rc::new(look.among(Some(Rc::clone(layouts))));
        if looks.len() >= KEPT {
            looks.clear();
        }
        looks.insert(key, Rc::clone(&look));
        look
    }

    /// Draws cases where the device forces its own colours.
    pub fn forced(&self) -> &LookEngine<'s> {
        let mut surroundings = self.look_engine.surroundings().clone();
        surroundings.media.forced_colors = true;
        let forced = || {
            LookEngine::in_browser(Browser::Chromium, self.system, self.look_engine.written, self.parsed, &surroundings)
        };
        self.engines.forced.get_or_init(forced)
    }

    /// Draws cases where text runs from right to left.
    pub fn mirrored(&self) -> &LookEngine<'s> {
        let LookEngine { written, .. } = self.look_engine;
        let around = self.look_engine.surroundings();
        self.engines.mirrored.get_or_init(|| LookEngine::right_to_left(self.system, written, self.parsed, around))
    }

    /// The place of every theme among all, the default one's first: its name says most.
    pub fn theme_order(&self) -> Vec<usize> {
        let (all, default) = (self.system.tokens.themes(), self.system.tokens.default_theme());
        let mut order: Vec<usize> = (0..all.len()).collect();
        order.sort_by_key(|index| all[*index] != default);
        order
    }

    /// One theme for all that are alike, with the number of themes that it stands for.
    pub fn themes(&self, colors: Colors) -> Vec<(Theme, u64)> {
        let tokens = &self.system.tokens;
        // The default theme first: its name says most.
        let mut all = tokens.themes();
        all.sort_by_key(|theme| *theme != tokens.default_theme());
        let every: Vec<&Token> = tokens.list.iter().collect();
        let asks = (self.system, !self.look_engine.serves_all_themes());
        let distinct = distinct_themes(asks, colors, &every, all.iter().enumerate());
        distinct.into_iter().map(|((_, theme), stands_for)| (theme.clone(), stands_for)).collect()
    }

    /// The hosts on which options of a control may do different things: the first, and all where rules ask for hosts.
    pub fn hosts(&self, control: &Control) -> std::ops::Range<usize> {
        let asks = control.rules.iter().any(Rule::tells_hosts_apart)
            || control.excludes.iter().any(|exclude| exclude.hosts.is_some());
        0..if asks { control.template.hosts.len() } else { 1 }
    }

    /// Draws cases over the defaults of each browser that was measured.
    pub fn browsers(&self) -> &[(Browser, LookEngine<'s>)] {
        let LookEngine { written, .. } = self.look_engine;
        let around = self.look_engine.surroundings();
        let of = |browser| (browser, LookEngine::in_browser(browser, self.system, written, self.parsed, around));
        self.engines.browsers.get_or_init(|| Browser::MEASURED.map(of))
    }
}
