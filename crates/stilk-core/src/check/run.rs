//! Runs the checks over every case, on all cores, and groups what they say: one cause, one finding.

use super::contrast::pairs::PAIRS;
use super::relevance::{Dependence, Hosts, Relevance, representatives};
use super::trace::Tracer;
use super::{CHECKS, Check, Inspection, Known, Scope, Shown, Survey, Task, case_name};
use crate::case::{Look, Scene, Stage, Unit, state_sets};
use crate::css::Unknown;
use crate::css::property::Longhand;
use crate::diagnostic::{Diagnostic, Evidence, Level};
use crate::engine::{Media, Stylesheet};
use crate::layout::KnownLayouts;
use crate::source::{Sources, Span};
use crate::stylesheet::Written;
use crate::system::{Control, StateSet, System, Variant, Waiver};
use rustc_hash::FxHashMap;
use std::collections::btree_map::Entry;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::rc::Rc;
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};

/// What the checks found.
#[derive(Debug, Default)]
pub struct Report {
    /// How many cases were looked at.
    pub cases: u64,
    /// How many of them were computed; the others differ from one that was by nothing that a check reads.
    pub computed: u64,
    /// How many verdicts there are none of, because a check could not decide in a case.
    pub unknown: u64,
    /// Why, with the number of verdicts.
    pub reasons: BTreeMap<String, u64>,
    /// Findings, worst first.
    pub findings: Vec<Diagnostic>,
    /// How many cases each check decided, by id.
    pub decided: BTreeMap<&'static str, u64>,
    /// How many findings were waived.
    pub waived: usize,
}

impl Report {
    /// Whether there is anything that should be mended.
    pub fn is_clean(&self) -> bool {
        self.findings.iter().all(|finding| finding.level == Level::Note)
    }
}

/// What a check says of a case that fails.
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
struct Failure {
    fault: Fault,
    case: String,
    /// How many cases have this cause.
    cases: u64,
    /// The controls that they are of.
    controls: BTreeSet<String>,
}

/// What makes two failures one finding.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Cause {
    /// Places at fault.
    pub spans: Vec<Option<Span>>,
    /// Whatever else tells causes apart.
    pub words: String,
}

/// A background that a text token was seen on, and the ratio it needs there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Seen {
    /// The background.
    pub behind: super::paint::Pixel,
    /// The ratio needed.
    pub needed: f64,
    /// Whether the text was opaque, so that its colour alone decides.
    pub opaque: bool,
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
    pub text_pixel: super::paint::Pixel,
    /// The pixel behind it.
    pub behind: super::paint::Pixel,
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
#[derive(Default)]
pub struct Sink {
    /// How many variants and themes each verdict is for.
    stands_for: u64,
    /// The worst failure of each cause; its cases are those of all of them, so a fault in a million cases takes the room
    /// of one.
    failures: BTreeMap<(&'static str, Cause), Failure>,
    /// Findings about no case.
    general: Vec<Diagnostic>,
    decided: FxHashMap<&'static str, u64>,
    unknown: u64,
    reasons: FxHashMap<(&'static str, &'static str), u64>,
    seen: HashMap<Span, Vec<Seen>>,
    /// Pairs of colours, by theme and the names of both.
    pairs: BTreeMap<(String, String, String), Pair>,
    /// By which waivers are accepted; nothing where they are not asked.
    settings: Option<Arc<Settings>>,
    /// Waivers that accepted something.
    used: BTreeSet<Span>,
}

impl Sink {
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
            && let Some(waiver) = waiver_of(unit.control, Some(&unit.variant), fault.diagnostic.id, settings)
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

    /// Remembers a background of a text token, for the mend.
    pub fn see(&mut self, token: Span, seen: Seen) {
        let list = self.seen.entry(token).or_default();
        if !list.contains(&seen) {
            list.push(seen);
        }
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
    fn absorb(&mut self, other: Sink) {
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
        for (token, list) in other.seen {
            list.into_iter().for_each(|seen| self.see(token, seen));
        }
        other.pairs.into_values().for_each(|pair| self.add_pair(pair));
        self.general.extend(other.general);
        self.used.extend(other.used);
    }
}

/// How the checks are run.
#[derive(Debug, Clone)]
pub struct Settings {
    /// On so many threads; the report does not depend on it.
    pub threads: usize,
    /// The day, `YYYY-MM-DD`, by which waivers end; `None` lets none end.
    pub today: Option<String>,
    /// Asks these checks only, by id; all of them where none is named.
    pub only: Vec<&'static str>,
    /// Computes each case, also where no check can tell it from one that was: the report is the same, later.
    pub every_case: bool,
}

impl Settings {
    fn is_over(&self, waiver: &Waiver) -> bool {
        // Dates of this form compare as text.
        matches!((&waiver.until, &self.today), (Some(until), Some(today)) if today > until)
    }
}

/// Runs every check over every case of a system.
pub fn run(system: &System, sources: &Sources, written: &Written, settings: &Settings) -> Report {
    let is_asked = |check: &&&'static Check| settings.only.is_empty() || settings.only.contains(&check.id);
    let tasks: Vec<Task> = CHECKS.iter().filter(is_asked).map(|check| check.task()).collect();
    let (mut sink, mut report) = run_checks(system, sources, written, settings, &tasks);
    report.decided = std::mem::take(&mut sink.decided).into_iter().collect();
    let reasons = std::mem::take(&mut sink.reasons);
    report.reasons = reasons.into_iter().map(|((check, why), cases)| (format!("{check}: {why}"), cases)).collect();
    let used = std::mem::take(&mut sink.used);
    report.waived = used.len();
    group(system, sink, &mut report);
    // Where some checks are not asked, nobody knows what waivers are for.
    if settings.only.is_empty() {
        report.findings.extend(waivers(system, settings, &used));
    }
    report
}

/// The pairs of colours that text and what is behind it make, over every case; the worst first.
pub fn pairs(system: &System, sources: &Sources, written: &Written, settings: &Settings) -> Vec<Pair> {
    let (sink, _) = run_checks(system, sources, written, settings, &[PAIRS]);
    let mut pairs: Vec<Pair> = sink.pairs.into_values().collect();
    pairs.sort_by(|a, b| (a.ratio / a.needed).total_cmp(&(b.ratio / b.needed)));
    pairs
}

fn run_checks(
    system: &System,
    sources: &Sources,
    written: &Written,
    settings: &Settings,
    checks: &[Task],
) -> (Sink, Report) {
    let threads = settings.threads;
    let settings = &Arc::new(settings.clone());
    let parsed = Stylesheet::parse(&written.text);
    let tracer = Tracer::new(system, sources, written, &parsed);
    let sample = sample(system, &Stage::new(system, written, &parsed, Media::default()), settings.every_case, checks);
    // Small pieces keep all threads at work to the end; their order is kept, so the result does not depend on threads.
    let pieces: Vec<&[Sampled]> = sample.units.chunks(4).collect();
    let next = AtomicUsize::new(0);
    let work = || {
        let stage = Stage::new(system, written, &parsed, Media::default());
        let mut done = Vec::new();
        loop {
            let index = next.fetch_add(1, Ordering::Relaxed);
            let Some(piece) = pieces.get(index) else { return done };
            done.push((index, inspect_all(system, &stage, &tracer, piece, settings)));
        }
    };
    let mut surveyed = Sink::default();
    let mut parts: Vec<(usize, Part)> = std::thread::scope(|scope| {
        let handles: Vec<_> = (0..threads.max(1)).map(|_| scope.spawn(work)).collect();
        surveyed = survey(system, sources, written, &parsed, &tracer, settings, checks);
        // A check that breaks must not pass for one that found nothing.
        let join = |handle: std::thread::ScopedJoinHandle<'_, _>| {
            handle.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic))
        };
        handles.into_iter().flat_map(join).collect()
    });
    parts.sort_by_key(|(index, _)| *index);
    let mut report = Report::default();
    let mut sink = Sink::default();
    for (_, part) in parts {
        report.computed += part.computed;
        sink.absorb(part.sink);
    }
    sink.absorb(surveyed);
    report.cases = sample.cases;
    report.unknown = sink.unknown;
    (sink, report)
}

/// The checks that ask the whole system.
fn survey(
    system: &System,
    sources: &Sources,
    written: &Written,
    parsed: &Stylesheet,
    tracer: &Tracer,
    settings: &Arc<Settings>,
    checks: &[Task],
) -> Sink {
    let stage = Stage::new(system, written, parsed, Media::default());
    let forced = Stage::new(system, written, parsed, Media { forced_colors: true, ..Media::default() });
    let survey = Survey { system, sources, stage: &stage, forced: &forced, parsed, tracer };
    let mut all = Sink::default();
    for check in checks.iter().filter(|check| !is_off(system, check.id)) {
        let mut sink = Sink { settings: Some(Arc::clone(settings)), ..Sink::default() };
        match check.scope {
            Scope::System(run) => run(&survey, &mut sink),
            Scope::Reading(count) => sink.decided(check.id, count(system)),
            Scope::Looks(..) | Scope::Options(..) | Scope::Page(_) => continue,
        }
        all.absorb(sink);
    }
    all
}

/// Waivers that say something no longer true: their day has passed, or there is nothing to accept.
fn waivers(system: &System, settings: &Settings, used: &BTreeSet<Span>) -> Vec<Diagnostic> {
    let waivers = system.controls.iter().flat_map(|control| &control.waivers);
    let unlike = waivers.filter(|waiver| !used.contains(&waiver.span) && !is_off(system, &waiver.check.value));
    let mut found: Vec<Diagnostic> = unlike
        .map(|waiver| {
            let check = &waiver.check.value;
            match (&waiver.until, settings.is_over(waiver)) {
                (Some(until), true) => {
                    let message = format!("the waiver of `{check}` ended on {until}");
                    Diagnostic::new(Level::Warning, "waiver/ended", waiver.span, message)
                        .label("no longer counts")
                        .mend("mend what it accepts, or decide anew and write a later day")
                }
                _ => {
                    let message = format!("the waiver of `{check}` accepts nothing");
                    Diagnostic::new(Level::Warning, "waiver/unused", waiver.span, message)
                        .label("nothing fails here")
                        .mend("take it out, so that it cannot hide what fails later")
                }
            }
        })
        .collect();
    // A control that is copied brings its waivers along.
    found.dedup_by_key(|diagnostic| diagnostic.span);
    found
}

/// What is computed of a system.
struct Sample<'s> {
    /// How many cases there are.
    cases: u64,
    units: Vec<Sampled<'s>>,
}

/// A control, and what each check can tell apart in it.
struct Plan<'s> {
    control: &'s Control,
    sets: Vec<StateSet>,
    relevance: Vec<(Task, Relevance)>,
}

/// A variant that stands, for some of the checks, for all that they cannot tell from it.
struct Sampled<'s> {
    plan: Arc<Plan<'s>>,
    host: usize,
    variant: Variant,
    /// The checks, by index in the plan, and how many variants it stands for.
    checks: Vec<(usize, u64)>,
}

pub(super) fn is_off(system: &System, check: &str) -> bool {
    system.manifest.levels.iter().any(|(id, level)| id.value == check && level.is_none())
}

/// 14pt in px: no smaller text is large, be it bold.
const LARGE_BOLD: f64 = 14.0 * 96.0 / 72.0;

/// Whether no text of a control is large in any variant, state or theme.
fn is_never_large(system: &System, stage: &Stage, control: &Control, dependence: &Dependence) -> bool {
    let default = control.default_variant();
    let rest = StateSet::default();
    let is_small = |unit: &Unit| {
        let look = stage.look(unit, &rest);
        let nodes = look.document.descendants(look.mounted.host);
        nodes
            .into_iter()
            .filter_map(|node| look.styles.element(node))
            .all(|style| style.px(Longhand::FontSize).is_ok_and(|px| px < LARGE_BOLD))
    };
    dependence.shows_all_sizes()
        && (0..control.template.hosts.len()).all(|host| {
            let variants = control.variants(host);
            variants.iter().filter(|variant| default.distance(variant) <= 1).all(|variant| {
                let unit = |theme| Unit { control, host, variant: variant.clone(), theme };
                system.tokens.themes().into_iter().all(|theme| is_small(&unit(theme)))
            })
        })
}

fn sample<'s>(system: &'s System, stage: &Stage, every_case: bool, checks: &[Task]) -> Sample<'s> {
    let themes = system.tokens.themes().len() as u64;
    let mut sample = Sample { cases: 0, units: Vec::new() };
    for control in &system.controls {
        let sets = state_sets(system, control);
        let checks = checks.iter().copied().filter(|check| !is_off(system, check.id));
        let dependence = Dependence::new(system, control);
        let hosts = Hosts::new(system, stage, control, &sets);
        let is_never_large = !every_case && is_never_large(system, stage, control, &dependence);
        let relevance = checks.filter_map(|check| {
            let reads = check.scope.reads(control)?;
            Some((
                check,
                match every_case {
                    true => Relevance::all(system, control, reads, &sets),
                    false => dependence.relevance(reads, &sets, is_never_large, &hosts),
                },
            ))
        });
        let relevance = relevance.collect();
        let variants = hosts.variants;
        let plan = Arc::new(Plan { control, relevance, sets });
        for (host, mut variants) in variants.into_iter().enumerate() {
            let default = control.default_variant();
            // The variant nearest to the default stands for those that are like it: its name says most.
            variants.sort_by_cached_key(|variant| default.distance(variant));
            let alone = alone(control, &default, &variants);
            sample.cases += variants.len() as u64 * plan.sets.len() as u64 * themes;
            let mut checks: BTreeMap<usize, Vec<(usize, u64)>> = BTreeMap::new();
            for (index, (check, relevance)) in plan.relevance.iter().enumerate() {
                let Some((_, hosts)) = relevance.hosts.iter().find(|(known, _)| *known == host) else { continue };
                if matches!(check.scope, Scope::Options(..)) {
                    alone.iter().for_each(|variant| checks.entry(*variant).or_default().push((index, *hosts)));
                    continue;
                }
                for one in representatives(&variants, &relevance.axes) {
                    checks.entry(one.variant).or_default().push((index, one.stands_for * hosts));
                }
            }
            sample.units.extend(checks.into_iter().map(|(variant, checks)| Sampled {
                plan: Arc::clone(&plan),
                host,
                variant: variants[variant].clone(),
                checks,
            }));
        }
    }
    sample
}

/// The default variant, each option alone, and the nearest variant of what a rule combines, by index.
pub(crate) fn alone(control: &Control, default: &Variant, variants: &[Variant]) -> Vec<usize> {
    let mut found: BTreeSet<usize> =
        variants.iter().enumerate().filter(|(_, v)| default.distance(v) <= 1).map(|(index, _)| index).collect();
    for rule in &control.rules {
        let has_all = |variant: &Variant| rule.options.iter().all(|option| variant.has(*option));
        found.extend(variants.iter().position(has_all));
    }
    found.into_iter().collect()
}

struct Part {
    computed: u64,
    sink: Sink,
}

fn inspect_all(system: &System, stage: &Stage, tracer: &Tracer, sample: &[Sampled], settings: &Arc<Settings>) -> Part {
    let sink = Sink { settings: Some(Arc::clone(settings)), ..Sink::default() };
    let mut part = Part { computed: 0, sink };
    let themes = system.tokens.themes();
    for Sampled { plan, host, variant, checks } in sample {
        // What matches is the same in every theme: scenes are kept for the units that differ by their theme only.
        let mut scenes: BTreeMap<usize, Scene> = BTreeMap::new();
        let layouts = (!settings.every_case).then(|| Rc::new(KnownLayouts::default()));
        for (index, theme) in themes.iter().enumerate() {
            let (control, variant, theme) = (plan.control, variant.clone(), theme.clone());
            let unit = Unit { control, host: *host, variant, theme };
            let asked: Vec<(Task, &Relevance, u64)> = checks
                .iter()
                .filter_map(|(check, count)| {
                    let (check, relevance) = &plan.relevance[*check];
                    let (_, stands_for) = relevance.themes.iter().find(|(theme, _)| *theme == index)?;
                    Some((*check, relevance, count * stands_for))
                })
                .collect();
            if !stage.scenes_serve_all_themes() {
                scenes.clear();
            }
            let wanted: BTreeSet<usize> =
                asked.iter().flat_map(|(_, relevance, _)| &relevance.states).map(|(set, _)| *set).collect();
            part.computed += wanted.len() as u64;
            let mut looks: Vec<Option<Look>> = plan.sets.iter().map(|_| None).collect();
            for set in wanted {
                let scene = scenes.entry(set).or_insert_with(|| stage.scene(&unit, &plan.sets[set]));
                looks[set] = Some(stage.look_in(scene, &unit.theme).among(layouts.clone()));
            }
            let known = Known::default();
            for (check, relevance, stands_for) in asked {
                let (Scope::Looks(_, _, run) | Scope::Options(_, _, run)) = check.scope else { continue };
                let shown = relevance.states.iter().filter_map(|(set, stands_for)| {
                    let (states, look) = (&plan.sets[*set], looks[*set].as_ref()?);
                    Some(Shown { states, look, stands_for: *stands_for })
                });
                let inspection = Inspection { system, unit: &unit, looks: shown.collect(), tracer, known: &known };
                part.sink.stands_for = stands_for;
                run(&inspection, &mut part.sink);
            }
        }
    }
    part
}

/// The waiver that accepts what a check finds in a control, or in one of its variants.
fn waiver_of<'s>(
    control: &'s Control,
    variant: Option<&Variant>,
    check: &str,
    settings: &Settings,
) -> Option<&'s Waiver> {
    control.waivers.iter().find(|waiver| {
        let covers = waiver.option.is_none_or(|option| variant.is_some_and(|variant| variant.has(option)));
        waiver.check.value == check && covers && !settings.is_over(waiver)
    })
}

fn group(system: &System, sink: Sink, report: &mut Report) {
    let level = |diagnostic: &mut Diagnostic| {
        if let Some((_, level)) = system.manifest.levels.iter().find(|(id, _)| id.value == diagnostic.id) {
            diagnostic.level = level.unwrap_or(diagnostic.level);
        }
    };
    // Where no mend was computed, what helps in general.
    let offer = |diagnostic: &mut Diagnostic| {
        if diagnostic.mend.is_none() {
            diagnostic.mend = super::find(diagnostic.id).map(|check| check.mend.to_owned());
        }
    };
    let mut findings: Vec<(f64, Diagnostic)> = Vec::new();
    for (_, worst) in sink.failures {
        let mut diagnostic = worst.fault.diagnostic;
        let controls = worst.controls.into_iter().collect();
        diagnostic.evidence = Some(Evidence {
            cases: worst.cases,
            worst: worst.case,
            figures: worst.fault.figures,
            controls,
            pages: None,
        });
        level(&mut diagnostic);
        if let Some(span) = diagnostic.span
            && diagnostic.id.starts_with("contrast/")
            && let Some(seen) = sink.seen.get(&span)
        {
            let mend = super::contrast::mend::mend(system, span, seen);
            (diagnostic.mend, diagnostic.edit) = mend.map_or((None, None), |(words, edit)| (Some(words), edit));
        }
        offer(&mut diagnostic);
        findings.push((worst.fault.score, diagnostic));
    }
    for mut diagnostic in sink.general {
        level(&mut diagnostic);
        offer(&mut diagnostic);
        findings.push((0.0, diagnostic));
    }
    findings.sort_by(|a, b| b.1.level.cmp(&a.1.level).then(a.1.id.cmp(b.1.id)).then(a.0.total_cmp(&b.0)));
    report.findings = findings.into_iter().map(|(_, diagnostic)| diagnostic).collect();
}
