//! Runs the checks over every case, on all cores, and groups what they say: one cause, one finding.

pub(crate) mod group;
mod inspect;
pub mod memory;
mod queue;
mod sides;
mod waivers;

use crate::check::{Check, Scope, Task};
use crate::checks::contrast::pairs::PAIRS;
use crate::gather::{Gathering, Pair};
use crate::mend::adjacency::Adjacencies;
use crate::mend::color::definition_at;
use crate::mend::{self, Mend};
use crate::registry::CHECKS;
use crate::report::Report;
use crate::run::inspect::{Inspector, Part};
use crate::run::memory::{Found, Memory};
use crate::run::queue::{Job, Place, Queue, Worker};
use crate::run::sides::Side;
use crate::sample::{Sample, sample};
use crate::settings::{Selection, Settings, Variants, is_off};
use crate::sink::{Cause, MendKind, Sink};
use crate::surroundings::surroundings;
use crate::survey::{Engines, Survey};
use crate::trace::Tracer;
use std::cell::{LazyCell, RefCell};
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Media, Stylesheet, Surroundings};
use stilk_engine::css::Unknown;
use stilk_language::case::{LookEngine, Unit};
use stilk_language::stylesheet::Written;
use stilk_language::system::{Control, Rule, System};
use stilk_text::source::{Sources, Span};

/// Runs every check over every case of a system.
pub fn run(system: &System, sources: &Sources, written: &Written, settings: &Settings) -> Report {
    report(system, sources, written, settings, None)
}

/// The same, where a memory has what former runs over the system found: only what an edit can have changed is looked at again.
pub fn run_again(
    system: &System,
    sources: &Sources,
    written: &Written,
    settings: &Settings,
    memory: &mut Memory,
) -> Report {
    report(system, sources, written, settings, Some(memory))
}

fn report(
    system: &System,
    sources: &Sources,
    written: &Written,
    settings: &Settings,
    memory: Option<&mut Memory>,
) -> Report {
    let is_asked = |check: &&&'static Check| settings.only.is_empty() || settings.only.contains(&check.id);
    let tasks: Vec<Task> = CHECKS.iter().filter(is_asked).map(|check| check.task()).collect();
    let round = Round { system, sources, written, settings };
    // What a part of the system gave is nothing to remember of the whole.
    let memory = memory.filter(|_| settings.within.is_whole());
    let (mut sink, mut report) = round.run(&tasks, &Sink::new(&Arc::new(settings.clone())), memory);
    report.decided = std::mem::take(&mut sink.decided).into_iter().collect();
    let reasons = std::mem::take(&mut sink.reasons);
    report.reasons = reasons.into_iter().map(|((check, why), cases)| (format!("{check}: {why}"), cases)).collect();
    report.doubts = std::mem::take(&mut sink.doubts).into_values().collect();
    let used = std::mem::take(&mut sink.used);
    report.waived = used.len();
    let mends = if settings.without_mends { BTreeMap::new() } else { round.mends(&sink) };
    group::group(system, sources, sink, &mends, &mut report);
    // Where some checks are not asked, nobody knows what waivers are for.
    if settings.only.is_empty() {
        report.findings.extend(waivers::findings(system, settings, &used));
    }
    report
}

/// The pairs of colours that text and what is behind it make, over every case; the worst first.
pub fn pairs(system: &System, sources: &Sources, written: &Written, settings: &Settings) -> Vec<Pair> {
    let (sink, _) =
        Round { system, sources, written, settings }.run(&[PAIRS], &Sink::gathering(Gathering::pairs()), None);
    let mut pairs: Vec<Pair> = sink.gathering.into_pairs();
    pairs.sort_by(|a, b| (a.ratio / a.needed).total_cmp(&(b.ratio / b.needed)));
    pairs
}

/// The same of each control, by name, where a memory has what former runs found. Nothing more of it is asked once it is
/// stopped.
pub fn pairs_by_control(
    system: &System,
    sources: &Sources,
    written: &Written,
    settings: &Settings,
    memory: &mut Memory,
) -> BTreeMap<String, Arc<Vec<Pair>>> {
    let keys = memory::keys(system, sources, settings);
    let mut found = BTreeMap::new();
    for (control, key) in system.controls.iter().zip(keys) {
        let own = memory.recall_pairs(control, key).unwrap_or_else(|| {
            let controls = Some(BTreeMap::from([(control.name.value.clone(), Variants::All)]));
            let settings = Settings { within: Selection { controls, themes: None }, ..settings.clone() };
            Arc::new(pairs(system, sources, written, &settings))
        });
        if settings.stop.is_said() {
            break;
        }
        memory.keep_pairs(control, key, &own);
        found.insert(control.name.value.clone(), own);
    }
    found
}

/// A colour that another one meets.
#[derive(Debug, Clone, PartialEq)]
pub struct MetColor {
    /// As it is painted, in sRGB from 0 to 1.
    pub with: [f64; 3],
    /// The contrast that the two need, 1 to 21.
    pub needed: f64,
    /// A case in which they do.
    pub case: String,
}

/// What the colour of a token meets where it is its own colour that is painted, by the place of its definition: what mends have to
/// pass with.
pub fn met_by(
    system: &System,
    sources: &Sources,
    written: &Written,
    settings: &Settings,
    place: Span,
) -> Vec<MetColor> {
    let round = Round { system, sources, written, settings };
    let Some(variable) = mend::color::Variable::new(&system.tokens, place) else { return Vec::new() };
    let all = round.adjacencies(mend::affected::selection(system, [&place]));
    let mut found: Vec<MetColor> = Vec::new();
    for adjacency in all.of(&variable) {
        let Some(other) = adjacency.other(place) else { continue };
        let is_known = |known: &MetColor| known.with == other.pixel && known.needed >= adjacency.needed;
        if !found.iter().any(is_known) {
            let (with, needed, case) = (other.pixel, adjacency.needed, adjacency.case.clone());
            found.push(MetColor { with, needed, case });
        }
    }
    found
}

const TOO_MANY: Unknown = Unknown("it stands under more conditions than are looked at");

/// A stylesheet as a browser reads it.
struct Read<'r> {
    parsed: &'r Stylesheet,
    tracer: &'r Tracer<'r>,
}

/// Asks a check of what a survey looks at.
fn ask(survey: &Survey, check: &Task, empty: &Sink) -> Sink {
    let mut sink = empty.clone();
    match check.scope {
        Scope::Controls(run) | Scope::System(run) => run(survey, &mut sink),
        Scope::Reading(count) => sink.decided(check.id, count(survey.system)),
        Scope::Looks(_) | Scope::Page(_) => {}
    }
    sink
}

/// One run over a system.
struct Round<'r> {
    system: &'r System,
    sources: &'r Sources,
    written: &'r Written,
    settings: &'r Settings,
}

impl Round<'_> {
    /// Runs checks; everything goes into sinks like this one. Controls that a memory knows are not looked at again.
    fn run(&self, checks: &[Task], empty: &Sink, mut memory: Option<&mut Memory>) -> (Sink, Report) {
        let Round { system, sources, written, settings } = *self;
        let parsed = Stylesheet::parse(&written.text);
        let tracer = Tracer::new(system, sources, written, &parsed);
        let keys = memory.as_ref().map(|_| memory::keys(system, sources, settings)).unwrap_or_default();
        let mut known: Vec<Option<Found>> = system.controls.iter().map(|_| None).collect();
        if let Some(memory) = &mut memory {
            memory.begin(system);
            for (index, control) in system.controls.iter().enumerate() {
                known[index] = memory.recall(control, keys[index], sources);
            }
        }
        let is_known: Vec<bool> = known.iter().map(Option::is_some).collect();
        let is_controls = |check: &Task| matches!(check.scope, Scope::Controls(_));
        let is_system = |check: &Task| matches!(check.scope, Scope::System(_) | Scope::Reading(_));
        let asked = |is: &dyn Fn(&Task) -> bool| -> Vec<usize> {
            let all = checks.iter().enumerate().filter(|(_, check)| is(check) && !is_off(system, check.id));
            all.map(|(at, _)| at).collect()
        };
        let (of_controls, of_system) = (asked(&is_controls), asked(&is_system));
        let is_meant = |index: &usize| settings.within.of(&system.controls[*index]).is_some();
        let looked_at = (0..system.controls.len()).filter(is_meant);
        let looked_at = looked_at.filter(|index| self.is_ordinary(*index) && !is_known[*index]);
        let surveys = looked_at.flat_map(|index| of_controls.iter().map(move |check| (Some(index), *check)));
        let surveys = of_system.iter().map(|check| (None, *check)).chain(surveys);
        let queue = Queue::new(system.controls.len(), surveys);
        let read = Read { parsed: &parsed, tracer: &tracer };
        let work = |look_engine: &LookEngine| {
            let inspector = Inspector::new(system, look_engine, &tracer, !settings.every_case, &settings.stop);
            let mut done = Vec::new();
            let mut survey = self.survey_of(look_engine, &read, Vec::new());
            let worker = queue.worker();
            while let Some(job) = worker.next() {
                if settings.stop.is_said() {
                    worker.stop();
                    break;
                }
                match job {
                    Job::Sample(index) => {
                        let control = &system.controls[index];
                        let variants = settings.within.of(control).filter(|_| !is_known[index]);
                        let Some(variants) = variants else {
                            worker.add(index, Sample::default(), Vec::new());
                            continue;
                        };
                        let sides = sides::of_control(system, index, checks);
                        let is_ordinary = !sides.iter().any(|side| side.is_usual);
                        let sample = || sample(system, look_engine, (control, variants), settings, checks);
                        worker.add(index, if is_ordinary { sample() } else { Sample::default() }, sides);
                    }
                    Job::Inspect(at, piece) => done.push((at, inspector.inspect(&piece, empty.clone()))),
                    Job::Turn(at, side) => done.push((at, self.turned(&read, &side, &worker, empty))),
                    Job::Survey(at, control, check) => {
                        survey.controls = match control {
                            Some(index) => vec![&system.controls[index]],
                            None => system.controls.iter().collect(),
                        };
                        done.push((at, Part { computed: 0, sink: ask(&survey, &checks[check], empty) }));
                    }
                }
            }
            done
        };
        let look_engine = || LookEngine::new(system, written, &parsed, Media::default());
        let mut parts: Vec<(Place, Part)> = std::thread::scope(|scope| {
            let handles: Vec<_> = (1..settings.threads).map(|_| scope.spawn(|| work(&look_engine()))).collect();
            let own = look_engine();
            let here = work(&own);
            // A check that breaks must not pass for one that found nothing.
            let join = |handle: std::thread::ScopedJoinHandle<'_, _>| {
                handle.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic))
            };
            here.into_iter().chain(handles.into_iter().flat_map(join)).collect()
        });
        parts.sort_by_key(|(place, _)| *place);
        let mut found: Vec<Found> = Vec::new();
        let mut parts = parts.into_iter().peekable();
        for (index, known) in known.into_iter().enumerate() {
            if let Some(known) = known {
                found.push(known);
                continue;
            }
            let mut whole = Part { computed: 0, sink: empty.clone() };
            while let Some((_, part)) = parts.next_if(|((control, _), _)| *control == index) {
                whole.computed += part.computed;
                whole.sink.absorb(part.sink);
            }
            found.push(Found { part: whole, cases: queue.cases(index), left_out: queue.left_out(index) });
        }
        if let Some(memory) = memory.filter(|_| !settings.stop.is_said()) {
            let texts = memory::texts(sources);
            for (index, control) in system.controls.iter().enumerate() {
                memory.keep(control, keys[index], &texts, found[index].clone());
            }
        }
        let mut report = Report::default();
        let mut sink = empty.clone();
        for Found { part, cases, left_out } in found {
            report.computed += part.computed;
            report.cases = report.cases.saturating_add(cases);
            report.sampled.extend(left_out);
            sink.absorb(part.sink);
        }
        // What is said of all together comes last.
        parts.for_each(|(_, part)| sink.absorb(part.sink));
        report.sampled.sort();
        report.unknown = sink.unknown;
        (sink, report)
    }

    /// Whether an ordinary screen is the usual surroundings of a control.
    fn is_ordinary(&self, control: usize) -> bool {
        let control = &self.system.controls[control];
        !control.rules.iter().any(Rule::asks_for_container)
            || surroundings(control).first() == Some(&Surroundings::default())
    }

    /// What checks say of a control in surroundings of its own.
    fn turned<'s>(&'s self, read: &Read<'s>, side: &Side, worker: &Worker<'_, 's>, empty: &Sink) -> Part {
        let Round { system, sources, written, settings } = *self;
        let control = &system.controls[side.control];
        let mut part = Part { computed: 0, sink: empty.clone() };
        let Some(variants) = settings.within.of(control) else { return part };
        if side.left_out > 0 {
            let (variant, theme) = (control.default_variant(), system.tokens.default_theme());
            side.tasks.iter().for_each(|check| part.sink.unknown(check.id, side.left_out, TOO_MANY));
            part.sink.settle(system, &Unit { control, host: 0, variant, theme });
            return part;
        }
        part.sink.around = side.surroundings.words();
        // A browser that lacks something reads another stylesheet.
        let lacking;
        let tracer;
        let read = match side.surroundings.without.as_slice() {
            [] => read,
            without => {
                lacking = Stylesheet::parse_without(&written.text, without);
                tracer = Tracer::new(system, sources, written, &lacking);
                &Read { parsed: &lacking, tracer: &tracer }
            }
        };
        let look_engine = LookEngine::in_browser(Browser::Chromium, system, written, read.parsed, &side.surroundings);
        let mut sample = sample(system, &look_engine, (control, variants), settings, &side.tasks);
        if side.is_usual {
            worker.count(side.control, &mut sample);
        }
        let shares_layouts = !settings.every_case;
        let (tracer, stop) = (read.tracer, &settings.stop);
        let inspector = Inspector::new(system, &look_engine, tracer, shares_layouts, stop);
        let empty = part.sink.clone();
        let looked = inspector.inspect(&sample.units, empty.clone());
        part.computed += looked.computed;
        part.sink = looked.sink;
        let of_controls = |check: &&Task| matches!(check.scope, Scope::Controls(_));
        let checks: Vec<Task> = side.tasks.iter().filter(of_controls).copied().collect();
        part.sink.absorb(self.survey(&look_engine, read, vec![control], &checks, &empty));
        part
    }

    /// The checks that ask the whole system, or some controls of it.
    fn survey(
        &self,
        look_engine: &LookEngine,
        read: &Read,
        controls: Vec<&Control>,
        checks: &[Task],
        empty: &Sink,
    ) -> Sink {
        let mut all = empty.clone();
        let mut checks = checks.iter().filter(|check| !is_off(self.system, check.id)).peekable();
        if checks.peek().is_none() {
            return all;
        }
        let survey = self.survey_of(look_engine, read, controls);
        for check in checks {
            all.absorb(ask(&survey, check, empty));
        }
        all
    }

    fn survey_of<'a>(&'a self, look_engine: &'a LookEngine, read: &'a Read, controls: Vec<&'a Control>) -> Survey<'a> {
        let Round { system, sources, .. } = *self;
        let Read { parsed, tracer } = *read;
        let (engines, known) = (Engines::default(), RefCell::default());
        Survey { system, sources, controls, look_engine, parsed, tracer, engines, known }
    }

    /// The mends of contrast, by the places at fault.
    fn mends(&self, sink: &Sink) -> BTreeMap<Vec<Span>, Vec<Mend>> {
        let places = |cause: &Cause| -> Vec<Span> {
            let spans = cause.spans.iter().copied().flatten();
            spans.filter(|span| definition_at(&self.system.tokens, *span).is_some()).collect()
        };
        let of_color = sink.failures.iter().filter(|(_, failure)| failure.fault.mend == MendKind::AnotherColor);
        let faults: BTreeSet<Vec<Span>> =
            of_color.map(|((_, cause), _)| places(cause)).filter(|places| !places.is_empty()).collect();
        if faults.is_empty() {
            return BTreeMap::new();
        }
        let system = self.system;
        let near =
            self.adjacencies(mend::affected::selection(system, faults.iter().filter_map(|places| places.first())));
        // All that meets anywhere is asked for only where it must be.
        let all = LazyCell::new(|| self.adjacencies(Selection::default()));
        let mend = |places: &Vec<Span>| {
            if let Some(same) = mend::of_itself(system, places) {
                return vec![same];
            }
            let first = mend::of_one(system, &places[..1], f64::INFINITY, &near);
            // Asking for all that meets takes its time: a second one is looked for where there is no first.
            let second = || mend::of_one(system, &places[1..], mend::FAR, &all);
            let found = first.or_else(second).or_else(|| mend::of_several(system, places, &all));
            found.or_else(|| mend::contradiction(system, places, &near)).into_iter().collect()
        };
        faults.iter().map(|places| (places.clone(), mend(places))).collect()
    }

    /// Which colours meet in a part of the system.
    fn adjacencies(&self, within: Selection) -> Adjacencies {
        let settings = Settings { within, ..self.settings.clone() };
        let of_contrast = CHECKS.iter().filter(|check| check.id.starts_with("contrast/"));
        let tasks: Vec<Task> = of_contrast.map(|check| check.task()).collect();
        let (sink, _) =
            Round { settings: &settings, ..*self }.run(&tasks, &Sink::gathering(Gathering::adjacencies()), None);
        Adjacencies::new(sink.gathering.into_adjacencies())
    }
}
