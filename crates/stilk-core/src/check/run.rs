//! Runs the checks over every case, on all cores, and groups what they say: one cause, one finding.

use super::relevance::{Relevance, representatives};
use super::trace::Tracer;
use super::{CHECKS, Check, Inspection, Shown};
use crate::case::{Look, Scene, Stage, Unit, state_sets};
use crate::css::Unknown;
use crate::diagnostic::{Diagnostic, Evidence, Level};
use crate::engine::{Media, Stylesheet};
use crate::source::{Sources, Span};
use crate::stylesheet::Written;
use crate::system::{Control, StateSet, System, Variant, Waiver};
use std::collections::btree_map::Entry;
use std::collections::{BTreeMap, BTreeSet, HashMap};
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

/// One failing case, before grouping.
pub struct Failure {
    /// The check.
    pub check: &'static str,
    /// What failures with the same cause share.
    pub cause: Cause,
    /// The case's name.
    pub case: String,
    /// How bad: smaller is worse.
    pub score: f64,
    /// How many cases it is.
    pub cases: u64,
    /// The figures.
    pub figures: String,
    /// The finding, as it would read if this were the worst case.
    pub diagnostic: Diagnostic,
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

/// Takes what checks say about one unit.
#[derive(Default)]
pub struct Sink {
    /// How many variants each verdict is for.
    stands_for: u64,
    /// The worst failure of each cause; its cases are those of all of them, so a fault in a million cases takes the room
    /// of one.
    failures: BTreeMap<(&'static str, Cause), Failure>,
    decided: BTreeMap<&'static str, u64>,
    unknown: u64,
    reasons: BTreeMap<(&'static str, &'static str), u64>,
    seen: HashMap<Span, Vec<Seen>>,
}

impl Sink {
    /// So many cases of the unit were decided.
    pub fn decided(&mut self, check: &'static str, cases: u64) {
        *self.decided.entry(check).or_default() += self.stands_for * cases;
    }

    /// So many cases of the unit could not be decided, for the first reason that was met.
    pub fn unknown(&mut self, check: &'static str, cases: u64, reason: Unknown) {
        *self.reasons.entry((check, reason.0)).or_default() += self.stands_for * cases;
        self.unknown += self.stands_for * cases;
    }

    /// A case failed.
    pub fn fail(&mut self, mut failure: Failure) {
        match self.failures.entry((failure.check, failure.cause.clone())) {
            Entry::Vacant(empty) => drop(empty.insert(failure)),
            Entry::Occupied(mut known) => {
                let cases = known.get().cases + failure.cases;
                // The first of equals is named, so that the words do not depend on the order of threads.
                if failure.score < known.get().score {
                    std::mem::swap(known.get_mut(), &mut failure);
                }
                known.get_mut().cases = cases;
            }
        }
    }

    /// Remembers a background of a text token, for the mend.
    pub fn see(&mut self, token: Span, seen: Seen) {
        let list = self.seen.entry(token).or_default();
        if !list.contains(&seen) {
            list.push(seen);
        }
    }

    /// Takes what another sink holds; called in the order of units, so the result does not depend on threads.
    fn absorb(&mut self, other: Sink) {
        other.failures.into_values().for_each(|failure| self.fail(failure));
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
    }
}

/// How the checks are run.
#[derive(Debug, Clone)]
pub struct Settings {
    /// On so many threads; the report does not depend on it.
    pub threads: usize,
    /// The day, `YYYY-MM-DD`, by which waivers end; `None` lets none end.
    pub today: Option<String>,
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
    let threads = settings.threads;
    let parsed = Stylesheet::parse(&written.text);
    let tracer = Tracer::new(system, sources, written, &parsed);
    let sample = sample(system, settings.every_case);
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
    let mut parts: Vec<(usize, Part)> = std::thread::scope(|scope| {
        let handles: Vec<_> = (0..threads.max(1)).map(|_| scope.spawn(work)).collect();
        handles.into_iter().filter_map(|handle| handle.join().ok()).flatten().collect()
    });
    parts.sort_by_key(|(index, _)| *index);
    let mut report = Report::default();
    let mut sink = Sink::default();
    for (_, part) in parts {
        report.computed += part.computed;
        sink.absorb(part.sink);
    }
    report.cases = sample.cases;
    report.unknown = sink.unknown;
    report.decided = std::mem::take(&mut sink.decided);
    let reasons = std::mem::take(&mut sink.reasons);
    report.reasons = reasons.into_iter().map(|((check, why), cases)| (format!("{check}: {why}"), cases)).collect();
    group(system, sink, &mut report);
    report.findings.extend(ended(system, settings));
    report
}

/// Waivers that counted until a day that has passed.
fn ended(system: &System, settings: &Settings) -> Vec<Diagnostic> {
    let waivers = system.controls.iter().flat_map(|control| &control.waivers);
    let ended = waivers.filter(|waiver| settings.is_over(waiver));
    ended
        .map(|waiver| {
            let until = waiver.until.as_deref().unwrap_or_default();
            let message = format!("the waiver of `{}` ended on {until}", waiver.check.value);
            Diagnostic::new(Level::Warning, "waiver/ended", waiver.span, message)
                .label("no longer counts")
                .mend("mend what it accepts, or decide anew and write a later day")
        })
        .collect()
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
    relevance: Vec<(&'static Check, Relevance)>,
}

/// A variant that stands, for some of the checks, for all that they cannot tell from it.
struct Sampled<'s> {
    plan: Arc<Plan<'s>>,
    host: usize,
    variant: Variant,
    /// The checks, by index in the plan, and how many variants it stands for.
    checks: Vec<(usize, u64)>,
}

fn is_off(system: &System, check: &str) -> bool {
    system.manifest.levels.iter().any(|(id, level)| id.value == check && level.is_none())
}

fn sample(system: &System, every_case: bool) -> Sample<'_> {
    let themes = system.tokens.themes().len() as u64;
    let mut sample = Sample { cases: 0, units: Vec::new() };
    for control in &system.controls {
        let sets = state_sets(system, control);
        let checks = CHECKS.iter().filter(|check| !is_off(system, check.id));
        let relevance = checks.map(|check| match every_case {
            true => (check, Relevance::all(system, control, check.reads, &sets)),
            false => (check, Relevance::new(system, control, check.reads, &sets)),
        });
        let plan = Arc::new(Plan { control, relevance: relevance.collect(), sets });
        for host in 0..control.template.hosts.len() {
            let variants = control.variants(host);
            sample.cases += variants.len() as u64 * plan.sets.len() as u64 * themes;
            let mut checks: BTreeMap<usize, Vec<(usize, u64)>> = BTreeMap::new();
            for (index, (_, relevance)) in plan.relevance.iter().enumerate() {
                for one in representatives(&variants, &relevance.axes) {
                    checks.entry(one.variant).or_default().push((index, one.stands_for));
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

#[derive(Default)]
struct Part {
    computed: u64,
    sink: Sink,
}

fn inspect_all(system: &System, stage: &Stage, tracer: &Tracer, sample: &[Sampled], settings: &Settings) -> Part {
    let mut part = Part::default();
    let themes = system.tokens.themes();
    for Sampled { plan, host, variant, checks } in sample {
        let wanted: BTreeSet<usize> =
            checks.iter().flat_map(|(check, _)| &plan.relevance[*check].1.states).map(|(set, _)| *set).collect();
        // What matches is the same in every theme: scenes are kept for the units that differ by their theme only.
        let mut scenes: BTreeMap<usize, Scene> = BTreeMap::new();
        for theme in &themes {
            let (control, variant, theme) = (plan.control, variant.clone(), theme.clone());
            let unit = Unit { control, host: *host, variant, theme };
            if scenes.is_empty() || !stage.scenes_serve_all_themes() {
                scenes = wanted.iter().map(|set| (*set, stage.scene(&unit, &plan.sets[*set]))).collect();
            }
            let looks: BTreeMap<usize, Look> =
                scenes.iter().map(|(set, scene)| (*set, stage.look_in(scene, &unit.theme))).collect();
            part.computed += looks.len() as u64;
            for (check, count) in checks {
                let (check, relevance) = &plan.relevance[*check];
                let shown = relevance.states.iter().map(|(set, stands_for)| Shown {
                    states: &plan.sets[*set],
                    look: &looks[set],
                    stands_for: *stands_for,
                });
                let inspection = Inspection { system, unit: &unit, looks: shown.collect(), tracer };
                let mut sink = Sink { stands_for: *count, ..Sink::default() };
                (check.run)(&inspection, &mut sink);
                sink.failures.retain(|(check, _), _| !waived(&unit, &unit.variant, check, settings));
                sink.failures.values_mut().for_each(|failure| failure.cases *= count);
                part.sink.absorb(sink);
            }
        }
    }
    part
}

fn waived(unit: &Unit, variant: &Variant, check: &str, settings: &Settings) -> bool {
    unit.control.waivers.iter().any(|waiver| {
        let covers = waiver.option.is_none_or(|option| variant.has(option));
        waiver.check.value == check && covers && !settings.is_over(waiver)
    })
}

fn group(system: &System, sink: Sink, report: &mut Report) {
    let mut findings: Vec<(f64, Diagnostic)> = Vec::new();
    for ((check, _), worst) in sink.failures {
        let mut diagnostic = worst.diagnostic;
        diagnostic.evidence = Some(Evidence { cases: worst.cases, worst: worst.case, figures: worst.figures });
        if let Some((_, level)) = system.manifest.levels.iter().find(|(id, _)| id.value == check) {
            diagnostic.level = level.unwrap_or(diagnostic.level);
        }
        if let Some(span) = diagnostic.span
            && let Some(seen) = sink.seen.get(&span)
        {
            diagnostic.mend = super::contrast_text::mend(system, span, seen);
        }
        findings.push((worst.score, diagnostic));
    }
    findings.sort_by(|a, b| b.1.level.cmp(&a.1.level).then(a.1.id.cmp(b.1.id)).then(a.0.total_cmp(&b.0)));
    report.findings = findings.into_iter().map(|(_, diagnostic)| diagnostic).collect();
}
