//! What a check of a whole system looks at.

use crate::relevance::distinct_themes;
use crate::relevance::reads::Colors;
use crate::trace::Tracer;
use rustc_hash::FxHashMap;
use std::cell::{OnceCell, RefCell};
use std::rc::Rc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_engine::layout::KnownLayouts;
use stilk_language::case::{Look, Scene, Stage, Unit};
use stilk_language::system::{Control, Rule, StateSet, System, Variant};
use stilk_language::tokens::{Theme, Token};
use stilk_text::source::Sources;

/// What a check of the whole system looks at.
pub struct Survey<'s> {
    /// The system.
    pub system: &'s System,
    /// Its sources.
    pub sources: &'s Sources,
    /// Draws cases.
    pub stage: &'s Stage<'s>,
    /// The stylesheet, read again.
    pub parsed: &'s Stylesheet,
    /// Follows values to their sources.
    pub tracer: &'s Tracer<'s>,
    pub(crate) forced: OnceCell<Stage<'s>>,
    /// What was matched already, of one control.
    pub(crate) scenes: RefCell<Scenes<'s>>,
}

/// Scenes of a control, by the stage they are on, host, variant and states.
#[derive(Default)]
pub(crate) struct Scenes<'s> {
    of: Option<&'s Control>,
    known: FxHashMap<(*const Stage<'s>, usize, Variant, StateSet), Scene>,
    /// Options and themes that change no size share a layout.
    layouts: Rc<KnownLayouts>,
}

impl<'s> Survey<'s> {
    /// A look; what matches is the same in every theme, and kept while one control is looked at.
    pub fn look(&self, stage: &Stage<'s>, unit: &Unit<'s>, states: &StateSet) -> Look {
        if !stage.scenes_serve_all_themes() {
            return stage.look(unit, states);
        }
        let mut scenes = self.scenes.borrow_mut();
        if !scenes.of.is_some_and(|control| std::ptr::eq(control, unit.control)) {
            *scenes = Scenes { of: Some(unit.control), ..Scenes::default() };
        }
        let key = (std::ptr::from_ref(stage), unit.host, unit.variant.clone(), states.clone());
        let Scenes { known, layouts, .. } = &mut *scenes;
        let scene = known.entry(key).or_insert_with(|| stage.scene(unit, states));
        stage.look_in(scene, &unit.theme).among(Some(Rc::clone(layouts)))
    }

    /// Draws cases where the device forces its own colours.
    pub fn forced(&self) -> &Stage<'s> {
        let media = Media { forced_colors: true, ..Media::default() };
        self.forced.get_or_init(|| Stage::new(self.system, self.stage.written, self.parsed, media))
    }

    /// One theme for all that are alike, with the number of themes that it stands for.
    pub fn themes(&self, colors: Colors) -> Vec<(Theme, u64)> {
        let tokens = &self.system.tokens;
        // The default theme first: its name says most.
        let mut all = tokens.themes();
        all.sort_by_key(|theme| *theme != tokens.default_theme());
        let every: Vec<&Token> = tokens.list.iter().collect();
        let asks = (self.system, !self.stage.scenes_serve_all_themes());
        let distinct = distinct_themes(asks, colors, &every, all.iter().enumerate());
        distinct.into_iter().map(|((_, theme), stands_for)| (theme.clone(), stands_for)).collect()
    }

    /// The hosts on which options of a control may do different things: the first, and all where rules ask for hosts.
    pub fn hosts(&self, control: &Control) -> std::ops::Range<usize> {
        let asks = control.rules.iter().any(Rule::tells_hosts_apart)
            || control.excludes.iter().any(|exclude| exclude.hosts.is_some());
        0..if asks { control.template.hosts.len() } else { 1 }
    }

    /// Draws cases over the defaults of some browser.
    pub fn in_browser(&self, browser: Browser) -> Stage<'s> {
        Stage::in_browser(browser, self.system, self.stage.written, self.parsed, Media::default())
    }
}
