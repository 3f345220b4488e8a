//! Where checks put what they find: one cause, one finding, however many cases it has.

use crate::inspection::{Inspection, Shown};
use crate::mend::meeting::{Meeting, Side};
use crate::painted::paint::Pixel;
use crate::settings::Settings;
use crate::trace::Origin;
use rustc_hash::{FxBuildHasher, FxHashMap};
use std::collections::btree_map::Entry;
use std::collections::{BTreeMap, BTreeSet};
use std::hash::BuildHasher;
use std::sync::Arc;
use stilk_engine::css::Unknown;
use stilk_language::case::{Unit, case_name};
use stilk_language::system::{Control, StateSet, System, Waiver};
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::Span;

/// What a check says of a case that fails.
#[derive(Clone)]
pub struct Fault {
    /// What failures with the same cause share.
    pub cause: Cause,
    /// How bad: smaller is worse.
    pub score: f64,
    /// The figures.
    pub figures: String,
    /// The finding, as it would read if this were the worst case.
    pub diagnostic: Diagnostic,
}

/// The worst case of one cause.
#[derive(Clone)]
pub(super) struct Failure {
    /// The worst.
    pub fault: Fault,
    /// Its name.
    pub case: String,
    /// How many cases have this cause.
    pub cases: u64,
    /// The controls that they are of.
    pub controls: BTreeSet<String>,
}

/// What makes two failures one finding.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Cause {
    /// Places at fault.
    pub spans: Vec<Option<Span>>,
    /// Whatever else tells causes apart.
    pub words: String,
}

/// Two colours that meet: a text and what is behind it.
#[derive(Debug, Clone)]
pub struct Pair {
    /// The theme.
    pub theme: String,
    /// Where the text's colour came from, tokens by name.
    pub text: String,
    /// Where the background came from.
    pub on: String,
    /// The text's pixel in the worst case.
    pub text_pixel: Pixel,
    /// The pixel behind it.
    pub behind: Pixel,
    /// The contrast, 1 to 21.
    pub ratio: f64,
    /// What is needed.
    pub needed: f64,
    /// In how many cases it occurs.
    pub cases: u64,
    /// The worst of them.
    pub worst: String,
}

/// Takes what checks say about one unit.
#[derive(Clone, Default)]
pub struct Sink {
    /// How many variants and themes each verdict is for.
    pub(super) stands_for: u64,
    /// The worst failure of each cause; its cases are those of all of them, so a fault in a million cases takes the room
    /// of one.
    pub(super) failures: BTreeMap<(&'static str, Cause), Failure>,
    /// Findings about no case.
    pub(super) general: Vec<Diagnostic>,
    pub(super) decided: FxHashMap<&'static str, u64>,
    pub(super) unknown: u64,
    pub(super) reasons: FxHashMap<(&'static str, &'static str), u64>,
    /// Colours that meet, where they are gathered.
    pub(super) meetings: Option<BTreeMap<[u64; 7], Meeting>>,
    /// Pairs of colours, by theme and the names of both.
    pub(super) pairs: BTreeMap<(String, String, String), Pair>,
    settings: Option<Arc<Settings>>,
    /// Waivers that accepted something.
    pub(super) used: BTreeSet<Span>,
}

impl Sink {
    /// A sink that accepts what waivers accept.
    pub(super) fn new(settings: &Arc<Settings>) -> Sink {
        Sink { settings: Some(Arc::clone(settings)), ..Sink::default() }
    }

    /// A sink that gathers colours that meet.
    pub(super) fn gathering() -> Sink {
        Sink { meetings: Some(BTreeMap::new()), ..Sink::default() }
    }

    /// So many cases of the unit were decided.
    pub fn decided(&mut self, check: &'static str, cases: u64) {
        *self.decided.entry(check).or_default() += self.stands_for.max(1) * cases;
    }

    /// So many cases of the unit could not be decided, for the first reason that was met.
    pub fn unknown(&mut self, check: &'static str, cases: u64, reason: Unknown) {
        *self.reasons.entry((check, reason.0)).or_default() += self.stands_for.max(1) * cases;
        self.unknown += self.stands_for.max(1) * cases;
    }

    /// So many cases of the unit were decided, or not for this reason.
    pub fn verdict(&mut self, check: &'static str, cases: u64, unknown: Option<Unknown>) {
        match unknown {
            None => self.decided(check, cases),
            Some(reason) => self.unknown(check, cases, reason),
        }
    }

    /// A case failed.
    pub fn fail(&mut self, inspection: &Inspection, shown: &Shown, fault: Fault) {
        self.fail_case(inspection.system, inspection.unit, shown.states, shown.stands_for, fault);
    }

    /// A case of a system's survey failed.
    pub fn fail_case(&mut self, system: &System, unit: &Unit, states: &StateSet, stands_for: u64, fault: Fault) {
        if let Some(settings) = &self.settings
            && let Some(waiver) = waiver_of(unit.control, Some((unit, states)), fault.diagnostic.id, settings)
        {
            self.used.insert(waiver.span);
            return;
        }
        let key = (fault.diagnostic.id, fault.cause.clone());
        let cases = self.stands_for.max(1) * stands_for;
        match self.failures.entry(key) {
            Entry::Vacant(empty) => {
                let controls = BTreeSet::from([unit.control.name.value.clone()]);
                empty.insert(Failure { fault, case: case_name(system, unit, states), cases, controls });
            }
            Entry::Occupied(known) => {
                let known = known.into_mut();
                known.cases += cases;
                if !known.controls.contains(&unit.control.name.value) {
                    known.controls.insert(unit.control.name.value.clone());
                }
                if fault.score < known.fault.score {
                    known.fault = fault;
                    known.case = case_name(system, unit, states);
                }
            }
        }
    }

    /// Something is wrong that is no matter of cases; with the control that it is about, if there is one.
    pub fn find(&mut self, control: Option<&Control>, diagnostic: Diagnostic) {
        if let (Some(control), Some(settings)) = (control, &self.settings)
            && let Some(waiver) = waiver_of(control, None, diagnostic.id, settings)
        {
            self.used.insert(waiver.span);
            return;
        }
        self.general.push(diagnostic);
    }

    /// Whether colours that meet are gathered, for the mends.
    pub fn gathers(&self) -> bool {
        self.meetings.is_some()
    }

    /// Remembers that two colours meet in a theme, from wherever they came.
    pub fn meet(&mut self, inspection: &Inspection, shown: &Shown, sides: [(Pixel, &Origin); 2], needed: f64) {
        let bits = sides.map(|(pixel, _)| pixel.map(f64::to_bits));
        // One pixel of several tokens is several sides.
        let names: Vec<_> = sides.iter().map(|(_, origin)| &origin.tokens).collect();
        let names = (names, needed.to_bits());
        let names = FxBuildHasher.hash_one(names);
        let [[a, b, c], [d, e, f]] = bits;
        let Some(meetings) = &mut self.meetings else { return };
        meetings.entry([a, b, c, d, e, f, names]).or_insert_with(|| {
            let (tokens, theme) = (&inspection.system.tokens, &inspection.unit.theme);
            let sides = sides.map(|(pixel, origin)| Side::new(tokens, theme, pixel, origin));
            Meeting { sides, needed, case: inspection.case_name(shown.states) }
        });
    }

    /// A pair of colours occurs in so many cases of a unit.
    pub fn pair(&mut self, stands_for: u64, mut pair: Pair) {
        pair.cases = self.stands_for.max(1) * stands_for;
        self.add_pair(pair);
    }

    fn add_pair(&mut self, pair: Pair) {
        match self.pairs.entry((pair.theme.clone(), pair.text.clone(), pair.on.clone())) {
            Entry::Vacant(empty) => drop(empty.insert(pair)),
            Entry::Occupied(known) => {
                let known = known.into_mut();
                let cases = known.cases + pair.cases;
                if pair.ratio / pair.needed < known.ratio / known.needed {
                    *known = pair;
                }
                known.cases = cases;
            }
        }
    }

    /// Takes what another sink holds; called in the order of units, so the result does not depend on threads.
    pub(super) fn absorb(&mut self, other: Sink) {
        for (key, failure) in other.failures {
            match self.failures.entry(key) {
                Entry::Vacant(empty) => drop(empty.insert(failure)),
                Entry::Occupied(known) => {
                    let known = known.into_mut();
                    known.cases += failure.cases;
                    known.controls.extend(failure.controls);
                    // The first of equals is named, so that the words do not depend on the order of threads.
                    if failure.fault.score < known.fault.score {
                        known.fault = failure.fault;
                        known.case = failure.case;
                    }
                }
            }
        }
        for (check, count) in other.decided {
            *self.decided.entry(check).or_default() += count;
        }
        self.unknown += other.unknown;
        for (reason, count) in other.reasons {
            *self.reasons.entry(reason).or_default() += count;
        }
        if let (Some(own), Some(others)) = (&mut self.meetings, other.meetings) {
            for (key, meeting) in others {
                own.entry(key).or_insert(meeting);
            }
        }
        other.pairs.into_values().for_each(|pair| self.add_pair(pair));
        self.general.extend(other.general);
        self.used.extend(other.used);
    }
}

/// The waiver that accepts what a check finds in a control, or in one of its cases.
fn waiver_of<'s>(
    control: &'s Control,
    case: Option<(&Unit, &StateSet)>,
    check: &str,
    settings: &Settings,
) -> Option<&'s Waiver> {
    control.waivers.iter().find(|waiver| {
        let covers = match case {
            Some((unit, states)) => waiver.cases.have(unit.host, &unit.variant, states),
            None => waiver.cases.are_all(),
        };
        waiver.check.value == check && covers && !settings.is_over(waiver)
    })
}
