//! Runs the checks over every case, on all cores, and groups what they say: one cause, one finding.

use super::relevance::{Representative, relevant_axes, representatives};
use super::trace::Tracer;
use super::{CHECKS, Inspection};
use crate::case::{Scene, Stage, Unit, state_sets};
use crate::css::Unknown;
use crate::diagnostic::{Diagnostic, Evidence, Level};
use crate::engine::{Media, Stylesheet};
use crate::source::{Sources, Span};
use crate::stylesheet::Written;
use crate::system::{Control, System, Variant, Waiver};
use std::collections::{BTreeMap, HashMap};
use std::sync::atomic::{AtomicUsize, Ordering};

/// What the checks found.
#[derive(Debug, Default)]
pub struct Report {
    /// How many cases were looked at.
    pub cases: u64,
    /// How many of them were computed; the others differ from one that was by nothing that a check reads.
    pub computed: u64,
    /// In how many of them some check could not decide.
    pub unknown: u64,
    /// Why, with the number of cases.
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
    /// How many cases each verdict is for.
    stands_for: u64,
    failures: Vec<Failure>,
    decided: BTreeMap<&'static str, u64>,
    reasons: BTreeMap<String, u64>,
    unknown_cases: BTreeMap<usize, ()>,
    seen: HashMap<Span, Vec<Seen>>,
}

impl Sink {
    /// A case was decided.
    pub fn decided(&mut self, check: &'static str) {
        *self.decided.entry(check).or_default() += self.stands_for;
    }

    /// A case could not be decided; `state` is the index of its look.
    pub fn unknown(&mut self, check: &'static str, state: usize, reason: Unknown) {
        *self.reasons.entry(format!("{check}: {}", reason.0)).or_default() += self.stands_for;
        self.unknown_cases.insert(state, ());
    }

    /// A case failed.
    pub fn fail(&mut self, failure: Failure) {
        self.failures.push(failure);
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
        self.failures.extend(other.failures);
        for (check, count) in other.decided {
            *self.decided.entry(check).or_default() += count;
        }
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
    /// Computes each variant, also where no check can tell it from one that was: the report is the same, later.
    pub every_variant: bool,
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
    let sample = sample(system, settings.every_variant);
    // Small pieces keep all threads at work to the end; their order is kept, so the result does not depend on threads.
    let pieces: Vec<&[Sampled]> = sample.chunks(4).collect();
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
        report.cases += part.cases;
        report.computed += part.computed;
        report.unknown += part.unknown;
        sink.absorb(part.sink);
    }
    report.decided = std::mem::take(&mut sink.decided);
    report.reasons = std::mem::take(&mut sink.reasons);
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

/// One variant that stands for all that no check can tell from it.
struct Sampled<'s> {
    control: &'s Control,
    host: usize,
    representative: Representative,
}

fn is_off(system: &System, check: &str) -> bool {
    system.manifest.levels.iter().any(|(id, level)| id.value == check && level.is_none())
}

fn sample(system: &System, every_variant: bool) -> Vec<Sampled<'_>> {
    let reads: Vec<_> = CHECKS.iter().filter(|check| !is_off(system, check.id)).map(|check| check.reads).collect();
    let mut sample = Vec::new();
    for control in &system.controls {
        let axes = match every_variant {
            true => (0..control.axes.len()).collect(),
            false => relevant_axes(system, control, &reads),
        };
        for host in 0..control.template.hosts.len() {
            let of_host = representatives(control, host, &axes).into_iter();
            sample.extend(of_host.map(|representative| Sampled { control, host, representative }));
        }
    }
    sample
}

#[derive(Default)]
struct Part {
    cases: u64,
    computed: u64,
    unknown: u64,
    sink: Sink,
}

fn inspect_all(system: &System, stage: &Stage, tracer: &Tracer, sample: &[Sampled], settings: &Settings) -> Part {
    let mut part = Part::default();
    let themes = system.tokens.themes();
    for Sampled { control, host, representative } in sample {
        let sets = state_sets(system, control);
        let count = representative.stands_for;
        // What matches is the same in every theme: scenes are kept for the units that differ by their theme only.
        let mut scenes: Vec<Scene> = Vec::new();
        for theme in &themes {
            let (variant, theme) = (representative.variant.clone(), theme.clone());
            let unit = Unit { control, host: *host, variant, theme };
            if scenes.is_empty() || !stage.scenes_serve_all_themes() {
                scenes = sets.iter().map(|states| stage.scene(&unit, states)).collect();
            }
            let looks: Vec<_> =
                sets.iter().cloned().zip(scenes.iter().map(|scene| stage.look_in(scene, &unit.theme))).collect();
            let mut sink = Sink { stands_for: count, ..Sink::default() };
            let inspection = Inspection { system, unit: &unit, looks: &looks, tracer };
            for check in CHECKS.iter().filter(|check| !is_off(system, check.id)) {
                (check.run)(&inspection, &mut sink);
            }
            part.cases += looks.len() as u64 * count;
            part.computed += looks.len() as u64;
            part.unknown += sink.unknown_cases.len() as u64 * count;
            sink.failures.retain(|failure| !waived(&unit, &unit.variant, failure.check, settings));
            sink.failures.iter_mut().for_each(|failure| failure.cases = count);
            part.sink.absorb(sink);
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
    let mut groups: BTreeMap<(&'static str, Cause), Vec<Failure>> = BTreeMap::new();
    for failure in sink.failures {
        groups.entry((failure.check, failure.cause.clone())).or_default().push(failure);
    }
    let mut findings: Vec<(f64, Diagnostic)> = Vec::new();
    for ((check, _), failures) in groups {
        // The first of equals is named, so that the words do not depend on hash order.
        let Some(worst) = failures.iter().reduce(|a, b| if b.score < a.score { b } else { a }) else { continue };
        let mut diagnostic = worst.diagnostic.clone();
        diagnostic.evidence = Some(Evidence {
            cases: failures.iter().map(|failure| failure.cases).sum(),
            worst: worst.case.clone(),
            figures: worst.figures.clone(),
        });
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
