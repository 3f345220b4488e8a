//! `state/erased`: what a control is stays visible, whatever else holds.

use super::indistinct::{NOTICED, distance};
use super::leak::by_one_option_on;
use crate::check::{Check, Scope};
use crate::example::Example;
use crate::painted::visible::{UNSEEN, changes, is_shown};
use crate::relevance::Dependence;
use crate::relevance::reads::{Colors, Reads};
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::survey::Survey;
use std::collections::BTreeMap;
use stilk_engine::css::Unknown;
use stilk_engine::css::serialize::number;
use stilk_language::case::Unit;
use stilk_language::system::{Control, StateId, StateSet, Variant};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "state/erased",
    summary: "disabled, busy and read-only leave visible what is checked, selected, mixed or invalid, and mixed differs from checked",
    why: "Who looks at a form that is being sent, or at a choice that cannot be changed, still reads from it what was chosen.",
    source: "WCAG 2.2, 1.3.1 Info and Relationships and 4.1.2 Name, Role, Value: what is said to some is shown to all",
    level: Level::Error,
    mend: "Write both together: `@state checked and disabled { … }`; or let the state that blocks dim the whole control.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state selected { background: {ink}; }\n  @state disabled { background: {mist}; color: {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state selected { background: {ink}; }\n  @state disabled { opacity: .5; }\n}\n",
    ),
    scope: Scope::Controls(run),
};

/// What lasts, and says something that people need.
const LASTING: [StateId; 4] = [StateId::Selected, StateId::Checked, StateId::Mixed, StateId::Invalid];
/// What takes a control out of use for a while, or for good.
const BLOCKING: [StateId; 3] = [StateId::Readonly, StateId::Busy, StateId::Disabled];

/// Two sets of states that are to be told apart.
struct Pair {
    /// The state that says something.
    said: StateId,
    /// With it.
    with: StateSet,
    /// Without it, or with what it is taken for.
    without: StateSet,
    /// The state whose rules take it away.
    eraser: StateId,
}

fn run(survey: &Survey, sink: &mut Sink) {
    let system = survey.system;
    let all = system.tokens.themes();
    let order = survey.theme_order();
    for control in survey.controls.iter().copied() {
        let pairs = pairs(control);
        if pairs.is_empty() {
            continue;
        }
        let dependence = Dependence::new(system, survey.look_engine, control, order.clone());
        let themes = dependence.themes(&Reads::changes(UNSEEN), Colors::All);
        for host in survey.hosts(control) {
            let options = by_one_option_on(control, host).into_iter().map(|(_, variant)| variant);
            let variants: Vec<Variant> = std::iter::once(control.default_variant()).chain(options).collect();
            for (variant, (theme, stands_for)) in
                variants.iter().flat_map(|variant| themes.iter().map(move |theme| (variant, theme)))
            {
                let unit = Unit { control, host, variant: variant.clone(), theme: all[*theme].clone() };
                let rest = survey.look(survey.look_engine, &unit, &StateSet::default());
                // What says nothing alone says nothing together: another check speaks.
                let mut alone: BTreeMap<StateId, Result<f64, Unknown>> = BTreeMap::new();
                for pair in &pairs {
                    let says = alone.entry(pair.said).or_insert_with(|| {
                        let look = survey.look(survey.look_engine, &unit, &StateSet::of([pair.said]));
                        distance(&look, &changes(&rest, &look))
                    });
                    match says {
                        Err(reason) => {
                            sink.unknown(CHECK.id, *stands_for, *reason);
                            sink.settle(survey.system, &unit);
                        }
                        Ok(apart) if *apart < NOTICED => {}
                        Ok(_) => judge(survey, &unit, pair, *stands_for, sink),
                    }
                }
            }
        }
    }
}

/// The pairs that a sheet makes possible.
fn pairs(control: &Control) -> Vec<Pair> {
    let writes = |state: StateId| control.rules.iter().any(|rule| rule.states.has(state));
    let lasting: Vec<StateId> = LASTING.into_iter().filter(|state| writes(*state)).collect();
    let mut pairs: Vec<Pair> = Vec::new();
    for blocking in BLOCKING.into_iter().filter(|state| writes(*state)) {
        pairs.extend(lasting.iter().map(|said| Pair {
            said: *said,
            with: StateSet::of([*said, blocking]),
            without: StateSet::of([blocking]),
            eraser: blocking,
        }));
    }
    if writes(StateId::Mixed) && writes(StateId::Checked) {
        pairs.push(Pair {
            said: StateId::Mixed,
            with: StateSet::of([StateId::Mixed]),
            without: StateSet::of([StateId::Checked]),
            eraser: StateId::Mixed,
        });
    }
    pairs
}

fn judge<'s>(survey: &Survey<'s>, unit: &Unit<'s>, pair: &Pair, stands_for: u64, sink: &mut Sink) {
    let look = |states: &StateSet| survey.look(survey.look_engine, unit, states);
    let (with, without) = (look(&pair.with), look(&pair.without));
    if !is_shown(&with) {
        return;
    }
    let apart = match distance(&with, &changes(&without, &with)) {
        Ok(apart) => apart,
        Err(reason) => {
            sink.unknown(CHECK.id, stands_for, reason);
            return sink.settle(survey.system, unit);
        }
    };
    sink.decided(CHECK.id, stands_for);
    // What a state only takes away is a change as well, seen from the other side.
    let back = distance(&without, &changes(&with, &without)).unwrap_or(f64::INFINITY);
    if apart.max(back) >= NOTICED {
        return;
    }
    let control = unit.control;
    let (said, eraser) = (pair.said.name(), pair.eraser.name());
    let is_mixed = pair.eraser == pair.said;
    let message = match is_mixed {
        true => format!("`{}` looks the same when it is mixed and when it is checked", control.name.value),
        false => format!("`{}` that is {eraser} looks the same whether it is {said} or not", control.name.value),
    };
    let place = place(control, pair, is_mixed);
    let mend = match is_mixed {
        true => "draw another mark in `@state mixed`: a bar for a tick".to_owned(),
        false => format!("write `@state {said} and {eraser} {{ … }}`, or dim the whole control in `@state {eraser}`"),
    };
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.name.span), message)
        .label(format!("takes away what says that it is {said}"))
        .mend(mend);
    let cause = Cause { spans: vec![place], words: format!("{said} {eraser}") };
    let figures = format!("{} apart, noticed from 0.02", number((apart * 1000.0).round() / 1000.0));
    let fault = Fault { cause, score: apart, figures, diagnostic, mend: MendKind::AsSaid, choice: None };
    sink.fail_case(survey.system, unit, &pair.with, stands_for, fault);
}

/// The first declaration of the rules that take it away: those of both states together, else of the one that blocks.
fn place(control: &Control, pair: &Pair, is_mixed: bool) -> Option<Span> {
    let first = |wanted: &StateSet| {
        let rule = control.rules.iter().find(|rule| rule.states == *wanted)?;
        rule.declarations.first().map(|declaration| declaration.span)
    };
    let eraser = StateSet::of([pair.eraser]);
    let together = if is_mixed { None } else { first(&pair.with) };
    together.or_else(|| first(&eraser)).or_else(|| first(&StateSet::of([pair.said])))
}
