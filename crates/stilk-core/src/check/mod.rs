//! Checks: what can be proved about every case, and what was wrong where it cannot.
//!
//! A check is one file with one function and its own explanation. [`CHECKS`] lists them all; adding one touches its file
//! and the table. A check that cannot decide says *unknown* with its reason, and is counted.

mod cascade;
mod contrast;
mod example;
mod font;
mod geometry;
mod gradient;
mod markup;
mod mend;
mod page;
mod paint;
mod queue;
mod relevance;
mod reset;
mod run;
mod sample;
mod sink;
mod split;
mod state;
mod token;
pub mod trace;
mod visible;

use crate::case::{ControlKind, Look, Scene, Stage, Unit};
use crate::css::Unknown;
use crate::diagnostic::Level;
use crate::engine::defaults::Browser;
use crate::engine::{Media, Stylesheet};
use crate::layout::KnownLayouts;
use crate::scan::{PageSink, Visit};
use crate::source::Sources;
use crate::system::{Control, StateSet, System, Variant};
use crate::tokens::{Theme, Token};
use contrast::boxes::PaintedBox;
pub use contrast::text::{Figure, Worst, figure as contrast_figure, worst_text};
pub use contrast::text::{floor, floor as contrast_floor};
pub use example::Example;
pub(crate) use geometry::target::target as geometry_target;
pub use mend::reach;
pub use paint::{contrast, hex, over, text_places};
use relevance::{Colors, Reads, host_options, told_apart};
pub use run::{Report, Settings, Variants, Within, pairs, run};
use rustc_hash::FxHashMap;
pub(crate) use sample::alone;
pub use sink::Pair;
use sink::Sink;
use std::cell::{OnceCell, RefCell};
use std::rc::Rc;
use trace::Tracer;
use visible::Change;

/// One check.
pub struct Check {
    /// Stable id, `group/name`.
    pub id: &'static str,
    /// One sentence: when it holds.
    pub summary: &'static str,
    /// Why it matters to those who use the control.
    pub why: &'static str,
    /// Where the demand comes from.
    pub source: &'static str,
    /// Its level unless the manifest says otherwise.
    pub level: Level,
    /// What to do about it.
    pub mend: &'static str,
    /// A system that fails.
    pub fails: Example,
    /// The same, mended.
    pub passes: Example,
    scope: Scope,
}

/// Something to ask of a system, and under which name.
#[derive(Clone, Copy)]
struct Task {
    id: &'static str,
    scope: &'static Scope,
}

impl Check {
    fn task(&'static self) -> Task {
        Task { id: self.id, scope: &self.scope }
    }

    /// Whether it asks for the looks of one control after the other, not for the system or for pages.
    pub fn is_of_looks(&self) -> bool {
        matches!(self.scope, Scope::Looks(..) | Scope::Options(..))
    }
}

/// What a check asks.
enum Scope {
    /// One variant of a control on one host in one theme, in all the states that it can tell apart: every variant.
    Looks(Reads, Of, fn(&Inspection, &mut Sink)),
    /// The same for the default variant, for each option alone, and for options that the sheet combines: what a check says
    /// of one option does not depend on the options of other axes, but where the sheet says so.
    Options(Reads, Of, fn(&Inspection, &mut Sink)),
    /// The whole system at once.
    System(fn(&Survey, &mut Sink)),
    /// One page with the system's controls in it.
    Page(fn(&Visit, &mut PageSink)),
    /// Asked while sources are read: what fails cannot be drawn at all. Gives how many things it looked at.
    Reading(fn(&System) -> u64),
}

/// Which controls a check is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Of {
    /// All.
    Any,
    /// What takes an entry or a choice.
    Fields,
}

impl Scope {
    /// What it reads, where it is about looks of a control.
    fn reads(&self, control: &Control) -> Option<Reads> {
        let (Scope::Looks(reads, of, _) | Scope::Options(reads, of, _)) = self else { return None };
        let is_field = matches!(ControlKind::of(control), ControlKind::Entry | ControlKind::Choice);
        (*of == Of::Any || is_field).then_some(*reads)
    }
}

/// Every check, by group.
pub static CHECKS: &[&Check] = &[
    &contrast::boundary::CHECK,
    &contrast::focus::CHECK,
    &contrast::indicator::CHECK,
    &contrast::placeholder::CHECK,
    &contrast::text::CHECK,
    &state::color_only::CHECK,
    &state::edge_split::CHECK,
    &state::hover_only::CHECK,
    &state::indistinct::CHECK,
    &state::leak::CHECK,
    &state::missing::CHECK,
    &state::motion::CHECK,
    &state::nameless::CHECK,
    &state::shift::CHECK,
    &state::slips::CHECK,
    &state::snap::CHECK,
    &reset::forced_colors::CHECK,
    &reset::parity::CHECK,
    &reset::unreachable::CHECK,
    &reset::unset::CHECK,
    &geometry::anchored::CHECK,
    &geometry::centered::CHECK,
    &geometry::corner::CHECK,
    &geometry::depth::CHECK,
    &geometry::inline::CHECK,
    &geometry::painted::CHECK,
    &geometry::target::CHECK,
    &geometry::travel::CHECK,
    &geometry::variant_size::CHECK,
    &geometry::wrap::CHECK,
    &cascade::dead::CHECK,
    &cascade::masked::CHECK,
    &cascade::reach::CHECK,
    &cascade::value::CHECK,
    &font::fallback::CHECK,
    &font::line::CHECK,
    &token::cycle::CHECK,
    &token::deprecated::CHECK,
    &token::literal::CHECK,
    &token::near_twin::CHECK,
    &token::theme_gap::CHECK,
    &token::r#type::CHECK,
    &token::unknown::CHECK,
    &token::unused::CHECK,
    &markup::class::CHECK,
    &markup::count::CHECK,
    &markup::form::CHECK,
    &markup::group::CHECK,
    &markup::id::CHECK,
    &markup::label::CHECK,
    &markup::nesting::CHECK,
    &markup::part::CHECK,
    &markup::stylesheet::CHECK,
    &markup::r#type::CHECK,
    &page::bypass::CHECK,
    &page::collision::CHECK,
    &page::contrast::CHECK,
    &page::forced_colors::CHECK,
    &page::hover_only::CHECK,
    &page::lasting_focus::CHECK,
    &page::outline::CHECK,
    &page::r#override::CHECK,
    &page::target::CHECK,
    &page::transition::CHECK,
    &page::unreachable::CHECK,
];

/// What is asked of pages, but for what the manifest turns off.
pub(crate) fn page_checks(system: &System) -> impl Iterator<Item = fn(&Visit, &mut PageSink)> {
    CHECKS.iter().filter(|check| !run::is_off(system, check.id)).filter_map(|check| match check.scope {
        Scope::Page(run) => Some(run),
        _ => None,
    })
}

/// All ids.
pub fn ids() -> impl Iterator<Item = &'static str> {
    CHECKS.iter().map(|check| check.id)
}

/// Whether there is a check with this id.
pub fn is_id(id: &str) -> bool {
    find(id).is_some()
}

/// The check with this id.
pub fn find(id: &str) -> Option<&'static Check> {
    CHECKS.iter().copied().find(|check| check.id == id)
}

/// What a check looks at: one unit in all its states.
pub struct Inspection<'i> {
    /// The system.
    pub system: &'i System,
    /// The unit.
    pub unit: &'i Unit<'i>,
    /// Those of its looks that the check can tell apart, rest first.
    pub looks: Vec<Shown<'i>>,
    /// Whether the looks stand for others of another size.
    pub sizes: paint::Sizes,
    /// Follows values to their sources.
    pub tracer: &'i Tracer<'i>,
    /// What was found out already: several checks ask for the same.
    known: &'i Known<'i>,
}

/// What is known of the looks of one unit, by where these stand in memory: they outlive its inspection.
#[derive(Default)]
struct Known<'l> {
    /// What changes between two looks.
    changes: RefCell<FxHashMap<[*const Look; 2], Changes>>,
    /// The boxes that a look paints.
    boxes: RefCell<FxHashMap<*const Look, Boxes<'l>>>,
}

/// What changes between two looks.
type Changes = Rc<Vec<Change>>;

/// The boxes of a look, or why they are not known.
type Boxes<'l> = Rc<Result<Vec<PaintedBox<'l>>, Unknown>>;

/// A look that a check inspects.
pub struct Shown<'i> {
    /// The states.
    pub states: &'i StateSet,
    /// The look.
    pub look: &'i Look,
    /// How many sets of states give the check the same verdict, this one included.
    pub stands_for: u64,
}

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
    forced: OnceCell<Stage<'s>>,
    /// What was matched already, of one control.
    scenes: RefCell<Scenes<'s>>,
}

/// Scenes of a control, by the stage they are on, host, variant and states.
#[derive(Default)]
struct Scenes<'s> {
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
        let told =
            told_apart((self.system, !self.stage.scenes_serve_all_themes()), colors, &every, all.iter().enumerate());
        told.into_iter().map(|((_, theme), stands_for)| (theme.clone(), stands_for)).collect()
    }

    /// The hosts on which options of a control may do different things: the first, and all where rules ask for hosts.
    pub fn hosts(&self, control: &Control) -> std::ops::Range<usize> {
        let asks = control.rules.iter().any(host_options::asks_for_hosts)
            || control.excludes.iter().any(|exclude| exclude.hosts.is_some());
        0..if asks { control.template.hosts.len() } else { 1 }
    }

    /// Draws cases over the defaults of some browser.
    pub fn in_browser(&self, browser: Browser) -> Stage<'s> {
        Stage::in_browser(browser, self.system, self.stage.written, self.parsed, Media::default())
    }
}

impl<'i> Inspection<'i> {
    /// A case's name: `button@a.alarm:hover in storm`.
    pub fn case_name(&self, states: &StateSet) -> String {
        case_name(self.system, self.unit, states)
    }

    /// The look at rest.
    pub fn rest(&self) -> Option<&Shown<'i>> {
        self.looks.iter().find(|shown| shown.states.is_rest())
    }

    /// Everything that rules of the system change between two of the looks and that can be seen.
    fn changes(&self, before: &Look, after: &Look) -> Changes {
        let key = [std::ptr::from_ref(before), std::ptr::from_ref(after)];
        let mut known = self.known.changes.borrow_mut();
        Rc::clone(known.entry(key).or_insert_with(|| Rc::new(visible::changes(before, after))))
    }

    /// Every box of one of the looks that can be seen, the outermost first.
    fn boxes(&self, look: &'i Look) -> Boxes<'i> {
        let mut known = self.known.boxes.borrow_mut();
        Rc::clone(known.entry(std::ptr::from_ref(look)).or_insert_with(|| Rc::new(contrast::boxes::boxes(look))))
    }

    /// The look in exactly one state.
    pub fn alone(&self, state: &str) -> Option<&Shown<'i>> {
        let set = StateSet::of([self.system.states.find(state)?]);
        self.looks.iter().find(|shown| *shown.states == set)
    }
}

/// A case's name: `button@a.alarm:hover in storm`.
pub(crate) fn case_name(system: &System, unit: &Unit, states: &StateSet) -> String {
    let mut name = unit.control.variant_name(unit.host, &unit.variant);
    if !states.is_rest() {
        name.push(':');
        name.push_str(&system.states.set_name(states).replace('+', ":"));
    }
    format!("{name} in {}", system.tokens.theme_name(&unit.theme))
}

/// Whether a set of states has a state of this name, of the control itself.
fn has_state(system: &System, states: &StateSet, name: &str) -> bool {
    states.ids().iter().any(|id| system.states.get(*id).name == name)
}
