//! Looks at what was sampled, in every theme and in every set of states that some check asks for.

use crate::check::Task;
use crate::inspection::{Inspection, Known, Shown};
use crate::sample::split::Split;
use crate::sample::{Row, Sampled};
use crate::settings::Stop;
use crate::sink::Sink;
use crate::trace::Tracer;
use std::cell::RefCell;
use std::collections::{BTreeMap, BTreeSet};
use std::rc::Rc;
use stilk_engine::cascade::asked::{self, Asked};
use stilk_engine::layout::KnownLayouts;
use stilk_language::case::{Look, LookEngine, Unit, UnthemedLook};
use stilk_language::system::{Control, System};
use stilk_language::tokens::Theme;

/// What was found in a piece of what was sampled.
#[derive(Clone)]
pub struct Part {
    /// How many looks were computed.
    pub computed: u64,
    /// What checks said.
    pub sink: Sink,
}

/// Looks at pieces of a system; each thread has its own.
pub struct Inspector<'s> {
    /// The system.
    pub system: &'s System,
    /// Draws cases.
    pub look_engine: &'s LookEngine<'s>,
    /// Follows values to their sources.
    pub tracer: &'s Tracer<'s>,
    /// Whether looks that are laid out alike share a layout.
    pub shares_layouts: bool,
    /// Ends it before it is done.
    pub stop: &'s Stop,
    /// Layouts of the control that was looked at last.
    layouts: RefCell<(Option<&'s Control>, Rc<KnownLayouts>)>,
}

/// A row of a plan in one theme.
struct Asking<'r> {
    row: &'r Row,
    /// The sets of states to look at, by index, each with the number of sets that it stands for.
    states: Vec<(usize, u64)>,
    /// How many variants, hosts and themes each verdict is for.
    stands_for: u64,
}

/// What is kept while one variant is looked at in one theme after the other.
struct Kept {
    /// What matches, by the set of states.
    unthemed: BTreeMap<usize, UnthemedLook>,
    layouts: Option<Rc<KnownLayouts>>,
}

impl<'s> Inspector<'s> {
    /// One that has not looked at anything.
    pub fn new(
        system: &'s System,
        look_engine: &'s LookEngine<'s>,
        tracer: &'s Tracer<'s>,
        shares_layouts: bool,
        stop: &'s Stop,
    ) -> Inspector<'s> {
        Inspector { system, look_engine, tracer, shares_layouts, stop, layouts: RefCell::default() }
    }

    /// Where layouts of a control are shared.
    fn layouts_of(&self, control: &'s Control) -> Option<Rc<KnownLayouts>> {
        let mut known = self.layouts.borrow_mut();
        if !known.0.is_some_and(|last| std::ptr::eq(last, control)) {
            *known = (Some(control), Rc::default());
        }
        self.shares_layouts.then(|| Rc::clone(&known.1))
    }

    /// Looks at a piece; everything that checks say goes into a sink like this one.
    pub fn inspect(&self, piece: &[Sampled<'s>], empty: Sink) -> Part {
        let mut part = Part { computed: 0, sink: empty };
        let themes = self.system.tokens.themes();
        for sampled in piece {
            if self.stop.is_said() {
                break;
            }
            let layouts = self.layouts_of(sampled.plan.control);
            let mut kept = Kept { unthemed: BTreeMap::new(), layouts };
            for theme in themes.iter().enumerate() {
                self.inspect_in(sampled, theme, &mut kept, &mut part);
            }
        }
        part
    }

    fn inspect_in(&self, sampled: &Sampled, (index, theme): (usize, &Theme), kept: &mut Kept, part: &mut Part) {
        let Sampled { plan, host, variant, .. } = sampled;
        let unit = Unit { control: plan.control, host: *host, variant: variant.clone(), theme: theme.clone() };
        let asking = asking(sampled, index);
        let wanted: BTreeSet<usize> = asking.iter().flat_map(|one| &one.states).map(|(set, _)| *set).collect();
        part.computed += wanted.len() as u64;
        // What matches is the same in every theme, but where rules ask for the theme.
        if !self.look_engine.serves_all_themes() {
            kept.unthemed.clear();
        }
        let mut looks: Vec<Option<Look>> = plan.sets.iter().map(|_| None).collect();
        for set in wanted {
            let unthemed =
                kept.unthemed.entry(set).or_insert_with(|| self.look_engine.unthemed(&unit, &plan.sets[set]));
            looks[set] = Some(self.look_engine.look_in(unthemed, &unit.theme).among(kept.layouts.clone()));
        }
        let known = Known::default();
        let tracer = &self.tracer.in_theme(&unit.theme);
        for Asking { row: Row { check, split, .. }, states, stands_for } in asking {
            let Some(asks) = check.looks() else { continue };
            let shown = states.into_iter().filter_map(|(set, stands_for)| {
                let (states, look) = (&plan.sets[set], looks[set].as_ref()?);
                split.takes(states, look, self.system).then_some(Shown { states, look, stands_for })
            });
            let (looks, sizes) = (shown.collect(), split.sizes());
            let system = self.system;
            let inspection = Inspection { system, unit: &unit, looks, sizes, tracer, known: &known };
            part.sink.stands_for = stands_for;
            asked::take();
            (asks.run)(&inspection, &mut part.sink);
            part.sink.settle(system, &unit);
            hold_to_reads(check, split, &asked::take());
        }
    }
}

/// What is asked of a variant in a theme.
fn asking<'r>(Sampled { plan, host, variant, checks }: &'r Sampled, theme: usize) -> Vec<Asking<'r>> {
    let asking = checks.iter().filter_map(|(row, count)| {
        let row = &plan.rows[*row];
        let (_, stands_for) = row.relevance.themes.iter().find(|(known, _)| *known == theme)?;
        let is_asked = |set: usize| row.split.asks_for(*host, variant, set, theme);
        let states = row.relevance.states.iter().copied().filter(|(set, _)| is_asked(*set)).collect();
        Some(Asking { row, states, stands_for: count * stands_for })
    });
    asking.collect()
}

/// A check that asks what it does not declare may get a verdict that another look has: builds with debug assertions end there.
fn hold_to_reads(check: &Task, split: &Split, asked: &Asked) {
    let Some(looks) = check.looks() else { return };
    let reads = match split {
        Split::Only(_) => looks.reads_where_split.as_ref().unwrap_or(&looks.reads),
        Split::Unknown | Split::LeftOut => &looks.reads,
    };
    let undeclared = reads.undeclared(asked);
    debug_assert!(undeclared.is_empty(), "{} asks for {}", check.id, undeclared.join(", "));
}
