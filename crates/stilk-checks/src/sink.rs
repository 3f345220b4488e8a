//! Where checks put what they find: one cause, one finding, however many cases it has.

use crate::gather::{Gathering, Met};
use crate::inspection::{Inspection, Shown};
use crate::report::Doubt;
use crate::settings::Settings;
use rustc_hash::FxHashMap;
use std::collections::btree_map::Entry;
use std::collections::{BTreeMap, BTreeSet};
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
    /// What a sheet chose, where colours do not go together.
    pub choice: Option<Choice>,
    /// What would mend it.
    pub mend: MendKind,
}

/// Where a sheet chose the colours that do not go together, and which tokens it chose.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Choice {
    /// The declaration that decides: of the two colours that of the rule that asks for more.
    pub at: Span,
    /// All declarations that have a say, the first colour's first.
    pub of: Vec<Span>,
    /// The tokens of the first colour.
    pub paths: Vec<String>,
    /// The tokens on both sides: their values in the files of the theme that gave them, and their paths.
    pub values: Vec<(Span, String)>,
}

/// What would mend a fault.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MendKind {
    /// What its finding says.
    AsSaid,
    /// Another colour for a token at fault: computed when all that meets it is known.
    AnotherColor,
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
    /// Where sheets chose what does not go together.
    pub choices: BTreeSet<Span>,
    /// The declarations that have a say in every case.
    pub common: Vec<Span>,
    /// The tokens of the first colour there.
    pub paths: Vec<String>,
    /// The values of all tokens there.
    pub values: BTreeSet<Vec<(Span, String)>>,
}

impl Failure {
    fn of(fault: Fault, case: String, cases: u64, control: String) -> Failure {
        let mut failure = Failure {
            case,
            cases,
            controls: BTreeSet::from([control]),
            choices: BTreeSet::new(),
            common: fault.choice.as_ref().map(|choice| choice.of.clone()).unwrap_or_default(),
            paths: Vec::new(),
            values: BTreeSet::new(),
            fault,
        };
        failure.note_choice(failure.fault.choice.clone());
        failure
    }

    fn note_choice(&mut self, choice: Option<Choice>) {
        let Some(Choice { at, of, paths, values }) = choice else { return };
        self.common.retain(|known| of.contains(known));
        self.values.insert(values);
        self.choices.insert(at);
        self.paths = paths;
    }

    /// The same with its places where they are now.
    fn moved(mut self, place: &mut dyn FnMut(Span) -> Option<Span>) -> Option<Failure> {
        self.fault.cause = self.fault.cause.moved(place)?;
        self.fault.diagnostic.move_places(place)?;
        if let Some(choice) = &mut self.fault.choice {
            choice.at = place(choice.at)?;
            choice.of = choice.of.iter().map(|span| place(*span)).collect::<Option<_>>()?;
            choice.values = values_moved(&choice.values, place)?;
        }
        self.choices = self.choices.iter().map(|span| place(*span)).collect::<Option<_>>()?;
        self.common = self.common.iter().map(|span| place(*span)).collect::<Option<_>>()?;
        self.values = self.values.iter().map(|values| values_moved(values, place)).collect::<Option<_>>()?;
        Some(self)
    }

    /// Where a sheet chose it: the one place that decides, or one that has a say in every case.
    pub fn chosen(&self) -> Option<Span> {
        let only = self.choices.first().filter(|_| self.choices.len() == 1);
        only.or(self.common.first()).copied()
    }

    /// Takes another failure of the same cause in; the first of equals is named, so that the words do not depend on the order
    /// of threads.
    pub fn absorb(&mut self, other: Failure) {
        self.cases += other.cases;
        self.controls.extend(other.controls);
        self.choices.extend(other.choices);
        self.common.retain(|known| other.common.contains(known));
        self.values.extend(other.values);
        if other.fault.score < self.fault.score {
            self.fault = other.fault;
            self.case = other.case;
            self.paths = other.paths;
        }
    }
}

/// The worst case of each cause, by check.
pub(super) type Failures = BTreeMap<(&'static str, Cause), Failure>;

/// What makes two failures one finding.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Cause {
    /// Places at fault.
    pub spans: Vec<Option<Span>>,
    /// Whatever else tells causes apart.
    pub words: String,
}

impl Cause {
    fn moved(&self, place: &mut dyn FnMut(Span) -> Option<Span>) -> Option<Cause> {
        let spans = self.spans.iter().map(|span| match span {
            Some(span) => place(*span).map(Some),
            None => Some(None),
        });
        Some(Cause { spans: spans.collect::<Option<_>>()?, words: self.words.clone() })
    }
}

fn values_moved(values: &[(Span, String)], place: &mut dyn FnMut(Span) -> Option<Span>) -> Option<Vec<(Span, String)>> {
    values.iter().map(|(span, path)| Some((place(*span)?, path.clone()))).collect()
}

/// Takes what checks say about one unit.
#[derive(Clone, Default)]
pub struct Sink {
    /// How many variants and themes each verdict is for.
    pub(super) stands_for: u64,
    /// The worst failure of each cause; its cases are those of all of them, so a fault in a million cases takes the room
    /// of one.
    pub(super) failures: Failures,
    /// Findings about no case.
    pub(super) general: Vec<Diagnostic>,
    pub(super) decided: FxHashMap<&'static str, u64>,
    pub(super) unknown: u64,
    pub(super) reasons: FxHashMap<(&'static str, &'static str), u64>,
    /// What is around what is looked at, in words; nothing where it is an ordinary screen.
    pub(super) around: String,
    /// What could not be decided, by check, reason and control.
    pub(super) doubts: BTreeMap<(&'static str, &'static str, String), Doubt>,
    /// The same of the unit that is being looked at.
    open: Vec<(&'static str, &'static str, u64)>,
    /// Adjacent colours, where they are gathered.
    pub(super) gathering: Gathering,
    settings: Option<Arc<Settings>>,
    /// Waivers that accepted something.
    pub(super) used: BTreeSet<Span>,
}

impl Sink {
    /// A sink that accepts what waivers accept.
    pub(super) fn new(settings: &Arc<Settings>) -> Sink {
        Sink { settings: Some(Arc::clone(settings)), ..Sink::default() }
    }

    /// A sink that gathers adjacent colours.
    pub(super) fn gathering(gathering: Gathering) -> Sink {
        Sink { gathering, ..Sink::default() }
    }

    /// A case's name, with what is around it: `button:hover in storm (width: 600px)`.
    fn case_name(&self, system: &System, unit: &Unit, states: &StateSet) -> String {
        in_surroundings(case_name(system, unit, states), &self.around)
    }

    /// So many cases of the unit were decided.
    pub fn decided(&mut self, check: &'static str, cases: u64) {
        *self.decided.entry(check).or_default() += self.stands_for.max(1) * cases;
    }

    /// So many cases of the unit could not be decided, for the first reason that was met.
    pub fn unknown(&mut self, check: &'static str, cases: u64, reason: Unknown) {
        let cases = self.stands_for.max(1) * cases;
        *self.reasons.entry((check, reason.0)).or_default() += cases;
        self.unknown += cases;
        self.open.push((check, reason.0, cases));
    }

    /// What could not be decided since this was called last is of a unit.
    pub(super) fn settle(&mut self, system: &System, unit: &Unit) {
        for (check, reason, cases) in std::mem::take(&mut self.open) {
            let control = &unit.control.name;
            let key = (check, reason, control.value.clone());
            match self.doubts.get_mut(&key) {
                Some(known) => known.cases += cases,
                None => {
                    let case = self.case_name(system, unit, &StateSet::default());
                    self.doubts.insert(key, Doubt { check, reason, cases, case, span: control.span });
                }
            }
        }
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
        let is_worst = self.failures.get(&key).is_none_or(|known| fault.score < known.fault.score);
        let case = if is_worst { self.case_name(system, unit, states) } else { String::new() };
        match self.failures.entry(key) {
            Entry::Vacant(empty) => {
                empty.insert(Failure::of(fault, case, cases, unit.control.name.value.clone()));
            }
            Entry::Occupied(known) => {
                let known = known.into_mut();
                known.cases += cases;
                known.note_choice(fault.choice.clone());
                if !known.controls.contains(&unit.control.name.value) {
                    known.controls.insert(unit.control.name.value.clone());
                }
                if is_worst {
                    (known.fault, known.case) = (fault, case);
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

    /// Whether adjacent colours are gathered: where they came from need not be asked otherwise.
    pub fn gathers(&self) -> bool {
        self.gathering.is_on()
    }

    /// Two colours are adjacent in a look.
    pub fn meet(&mut self, inspection: &Inspection, shown: &Shown, met: &Met) {
        let around = &self.around;
        let case = || in_surroundings(inspection.case_name(shown.states), around);
        self.gathering.take(inspection, met, self.stands_for.max(1) * shown.stands_for, &case);
    }

    /// The same with its places where they are now; nothing where one of them is gone.
    pub(super) fn moved(&self, place: &mut dyn FnMut(Span) -> Option<Span>) -> Option<Sink> {
        let mut moved = self.clone();
        let failures = std::mem::take(&mut moved.failures);
        for ((check, cause), failure) in failures {
            moved.failures.insert((check, cause.moved(place)?), failure.moved(place)?);
        }
        for diagnostic in &mut moved.general {
            diagnostic.move_places(place)?;
        }
        for doubt in moved.doubts.values_mut() {
            doubt.span = place(doubt.span)?;
        }
        moved.used = self.used.iter().map(|span| place(*span)).collect::<Option<_>>()?;
        Some(moved)
    }

    /// Takes what another sink holds; called in the order of units, so the result does not depend on threads.
    pub(super) fn absorb(&mut self, other: Sink) {
        for (key, failure) in other.failures {
            match self.failures.entry(key) {
                Entry::Vacant(empty) => drop(empty.insert(failure)),
                Entry::Occupied(known) => known.into_mut().absorb(failure),
            }
        }
        for (check, count) in other.decided {
            *self.decided.entry(check).or_default() += count;
        }
        self.unknown += other.unknown;
        for (reason, count) in other.reasons {
            *self.reasons.entry(reason).or_default() += count;
        }
        for (key, doubt) in other.doubts {
            match self.doubts.entry(key) {
                Entry::Vacant(empty) => drop(empty.insert(doubt)),
                Entry::Occupied(known) => known.into_mut().cases += doubt.cases,
            }
        }
        self.gathering.absorb(other.gathering);
        self.general.extend(other.general);
        self.used.extend(other.used);
    }
}

/// A case's name with what is around it, where that is no ordinary screen.
fn in_surroundings(name: String, around: &str) -> String {
    if around.is_empty() { name } else { format!("{name} ({around})") }
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
