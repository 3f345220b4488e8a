//! Runs the checks over every case, on all cores, and groups what they say: one cause, one finding.

mod queue;

use crate::check::{Check, Scope, Task};
use crate::checks::contrast::pairs::PAIRS;
use crate::inspection::{Inspection, Known, Shown};
use crate::mend::color::definition_at;
use crate::mend::meeting::Meetings;
use crate::mend::{self, Mend};
use crate::registry::CHECKS;
use crate::report::Report;
use crate::run::queue::{Job, Place, Queue};
use crate::sample::{Row, Sampled, sample};
use crate::settings::{Settings, Within, is_off};
use crate::sink::{Cause, Pair, Sink};
use crate::survey::Survey;
use crate::trace::Tracer;
use std::cell::{LazyCell, OnceCell, RefCell};
use std::collections::{BTreeMap, BTreeSet};
use std::rc::Rc;
use std::sync::Arc;
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_engine::layout::KnownLayouts;
use stilk_language::case::{Look, Scene, Stage, Unit};
use stilk_language::stylesheet::Written;
use stilk_language::system::System;
use stilk_text::diagnostic::{Diagnostic, Evidence, Level};
use stilk_text::source::{Sources, Span};

/// Runs every check over every case of a system.
pub fn run(system: &System, sources: &Sources, written: &Written, settings: &Settings) -> Report {
    let is_asked = |check: &&&'static Check| settings.only.is_empty() || settings.only.contains(&check.id);
    let tasks: Vec<Task> = CHECKS.iter().filter(is_asked).map(|check| check.task()).collect();
    let round = Round { system, sources, written, settings };
    let (mut sink, mut report) = round.run(&tasks, &Sink::new(&Arc::new(settings.clone())));
    report.decided = std::mem::take(&mut sink.decided).into_iter().collect();
    let reasons = std::mem::take(&mut sink.reasons);
    report.reasons = reasons.into_iter().map(|((check, why), cases)| (format!("{check}: {why}"), cases)).collect();
    let used = std::mem::take(&mut sink.used);
    report.waived = used.len();
    let mends = if settings.without_mends { BTreeMap::new() } else { round.mends(&sink) };
    group(system, sink, &mends, &mut report);
    // Where some checks are not asked, nobody knows what waivers are for.
    if settings.only.is_empty() {
        report.findings.extend(waivers(system, settings, &used));
    }
    report
}

/// The pairs of colours that text and what is behind it make, over every case; the worst first.
pub fn pairs(system: &System, sources: &Sources, written: &Written, settings: &Settings) -> Vec<Pair> {
    let (sink, _) = Round { system, sources, written, settings }.run(&[PAIRS], &Sink::default());
    let mut pairs: Vec<Pair> = sink.pairs.into_values().collect();
    pairs.sort_by(|a, b| (a.ratio / a.needed).total_cmp(&(b.ratio / b.needed)));
    pairs
}

/// One run over a system.
struct Round<'r> {
    system: &'r System,
    sources: &'r Sources,
    written: &'r Written,
    settings: &'r Settings,
}

impl Round<'_> {
    /// Runs checks; everything goes into sinks like this one.
    fn run(&self, checks: &[Task], empty: &Sink) -> (Sink, Report) {
        let Round { system, sources, written, settings } = *self;
        let parsed = Stylesheet::parse(&written.text);
        let tracer = Tracer::new(system, sources, written, &parsed);
        let queue = Queue::new(system.controls.len());
        let work = |stage: &Stage| {
            let mut done = Vec::new();
            while let Some(job) = queue.next() {
                match job {
                    Job::Sample(index) => {
                        let control = &system.controls[index];
                        let asked = settings.within.of(control);
                        let sample = asked.map(|variants| sample(system, stage, (control, variants), settings, checks));
                        queue.add(index, sample.unwrap_or_default());
                    }
                    Job::Inspect(at, piece) => {
                        let layouts = !settings.every_case;
                        done.push((at, inspect_all(system, stage, &tracer, &piece, layouts, empty.clone())));
                    }
                }
            }
            done
        };
        let mut surveyed = Sink::default();
        let stage = || Stage::new(system, written, &parsed, Media::default());
        let mut parts: Vec<(Place, Part)> = std::thread::scope(|scope| {
            let handles: Vec<_> = (1..settings.threads).map(|_| scope.spawn(|| work(&stage()))).collect();
            let own = stage();
            surveyed = self.survey(&own, &parsed, &tracer, checks, empty);
            let here = work(&own);
            // A check that breaks must not pass for one that found nothing.
            let join = |handle: std::thread::ScopedJoinHandle<'_, _>| {
                handle.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic))
            };
            here.into_iter().chain(handles.into_iter().flat_map(join)).collect()
        });
        parts.sort_by_key(|(place, _)| *place);
        let mut report = Report::default();
        let mut sink = empty.clone();
        for (_, part) in parts {
            report.computed += part.computed;
            sink.absorb(part.sink);
        }
        sink.absorb(surveyed);
        report.cases = queue.cases();
        report.unknown = sink.unknown;
        (sink, report)
    }

    /// The checks that ask the whole system.
    fn survey(&self, stage: &Stage, parsed: &Stylesheet, tracer: &Tracer, checks: &[Task], empty: &Sink) -> Sink {
        let Round { system, sources, .. } = *self;
        let mut all = empty.clone();
        let asked = |check: &&Task| {
            let is_of_all = matches!(check.scope, Scope::System(_) | Scope::Reading(_));
            is_of_all && !is_off(system, check.id)
        };
        let mut checks = checks.iter().filter(asked).peekable();
        if checks.peek().is_none() {
            return all;
        }
        let (forced, scenes) = (OnceCell::new(), RefCell::default());
        let survey = Survey { system, sources, stage, parsed, tracer, forced, scenes };
        for check in checks {
            let mut sink = empty.clone();
            match check.scope {
                Scope::System(run) => run(&survey, &mut sink),
                Scope::Reading(count) => sink.decided(check.id, count(system)),
                Scope::Looks(..) | Scope::Options(..) | Scope::Page(_) => {}
            }
            all.absorb(sink);
        }
        all
    }

    /// The mends of contrast, by the places at fault.
    fn mends(&self, sink: &Sink) -> BTreeMap<Vec<Span>, Mend> {
        let places = |cause: &Cause| -> Vec<Span> {
            let spans = cause.spans.iter().copied().flatten();
            spans.filter(|span| definition_at(&self.system.tokens, *span).is_some()).collect()
        };
        // What is too thin, or not there, has no other colour for a mend.
        let is_of_colors = |cause: &Cause| cause.words.is_empty();
        let of_contrast = sink.failures.keys().filter(|(check, _)| check.starts_with("contrast/"));
        let of_contrast = of_contrast.filter(|(_, cause)| is_of_colors(cause));
        let faults: BTreeSet<Vec<Span>> =
            of_contrast.map(|(_, cause)| places(cause)).filter(|places| !places.is_empty()).collect();
        if faults.is_empty() {
            return BTreeMap::new();
        }
        let system = self.system;
        let near = self.meetings(mend::reach::within(system, faults.iter().filter_map(|places| places.first())));
        // All that meets anywhere is asked for only where it must be.
        let all = LazyCell::new(|| self.meetings(Within::default()));
        let mend = |places: &Vec<Span>| {
            mend::of_itself(system, places)
                .or_else(|| mend::of_one(system, &places[..1], f64::INFINITY, &near))
                .or_else(|| mend::of_one(system, &places[1..], mend::FAR, &all))
                .or_else(|| mend::of_several(system, places, &all))
                .or_else(|| mend::contradiction(system, places, &near))
        };
        faults.iter().filter_map(|places| Some((places.clone(), mend(places)?))).collect()
    }

    /// Which colours meet in a part of the system.
    fn meetings(&self, within: Within) -> Meetings {
        let settings = Settings { within, ..self.settings.clone() };
        let of_contrast = CHECKS.iter().filter(|check| check.id.starts_with("contrast/"));
        let tasks: Vec<Task> = of_contrast.map(|check| check.task()).collect();
        let (sink, _) = Round { settings: &settings, ..*self }.run(&tasks, &Sink::gathering());
        Meetings::new(sink.meetings.unwrap_or_default().into_values())
    }
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

struct Part {
    computed: u64,
    sink: Sink,
}

/// A row of a plan in one theme: the sets of states to look at, each with what it stands for, and what each verdict stands
/// for.
type Asked<'s> = (&'s Row, Vec<(usize, u64)>, u64);

fn inspect_all(system: &System, stage: &Stage, tracer: &Tracer, sample: &[Sampled], layouts: bool, sink: Sink) -> Part {
    let mut part = Part { computed: 0, sink };
    let themes = system.tokens.themes();
    for Sampled { plan, host, variant, checks } in sample {
        // What matches is the same in every theme: scenes are kept for the units that differ by their theme only.
        let mut scenes: BTreeMap<usize, Scene> = BTreeMap::new();
        let layouts = layouts.then(|| Rc::new(KnownLayouts::default()));
        for (index, theme) in themes.iter().enumerate() {
            let (control, variant, theme) = (plan.control, variant.clone(), theme.clone());
            let unit = Unit { control, host: *host, variant, theme };
            let asked: Vec<Asked> = checks
                .iter()
                .filter_map(|(row, count)| {
                    let row = &plan.rows[*row];
                    let (_, stands_for) = row.relevance.themes.iter().find(|(theme, _)| *theme == index)?;
                    let is_asked = |set: usize| row.split.asks_for(*host, &unit.variant, set, index);
                    let states = row.relevance.states.iter().copied().filter(|(set, _)| is_asked(*set)).collect();
                    Some((row, states, count * stands_for))
                })
                .collect();
            if !stage.scenes_serve_all_themes() {
                scenes.clear();
            }
            let wanted: BTreeSet<usize> = asked.iter().flat_map(|(_, states, _)| states).map(|(set, _)| *set).collect();
            part.computed += wanted.len() as u64;
            let mut looks: Vec<Option<Look>> = plan.sets.iter().map(|_| None).collect();
            for set in wanted {
                let scene = scenes.entry(set).or_insert_with(|| stage.scene(&unit, &plan.sets[set]));
                looks[set] = Some(stage.look_in(scene, &unit.theme).among(layouts.clone()));
            }
            let known = Known::default();
            for (Row { check, split, .. }, states, stands_for) in asked {
                let (Scope::Looks(_, _, run) | Scope::Options(_, _, run)) = check.scope else { continue };
                let shown = states.into_iter().filter_map(|(set, stands_for)| {
                    let (states, look) = (&plan.sets[set], looks[set].as_ref()?);
                    split.takes(system, states, look).then_some(Shown { states, look, stands_for })
                });
                let (looks, sizes) = (shown.collect(), split.sizes());
                let inspection = Inspection { system, unit: &unit, looks, sizes, tracer, known: &known };
                part.sink.stands_for = stands_for;
                run(&inspection, &mut part.sink);
            }
        }
    }
    part
}

fn group(system: &System, sink: Sink, mends: &BTreeMap<Vec<Span>, Mend>, report: &mut Report) {
    let level = |diagnostic: &mut Diagnostic| {
        if let Some((_, level)) = system.manifest.levels.iter().find(|(id, _)| id.value == diagnostic.id) {
            diagnostic.level = level.unwrap_or(diagnostic.level);
        }
    };
    // Where no mend was computed, what helps in general.
    let offer = |diagnostic: &mut Diagnostic| {
        if diagnostic.mend.is_none() {
            diagnostic.mend = crate::registry::find(diagnostic.id).map(|check| check.mend.to_owned());
        }
    };
    let mut findings: Vec<(f64, Diagnostic)> = Vec::new();
    for ((check, cause), worst) in sink.failures {
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
        let places: Vec<Span> = cause.spans.iter().copied().flatten().collect();
        if let Some(mend) = mends.get(&places).filter(|_| check.starts_with("contrast/") && cause.words.is_empty()) {
            (diagnostic.mend, diagnostic.edits) = (Some(mend.words.clone()), mend.edits.clone());
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
