//! `state/indistinct`: two states can be told apart.

use crate::check::{Check, Looks, Scope};
use crate::checks::state::{Step, is_usable, steps};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint::{self, Pixel, over};
use crate::painted::visible::{Change, UNSEEN};
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::css::Unknown;
use stilk_engine::css::color::{Absolute, Color, Space};
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::Flow;
use stilk_engine::css::serialize::number;
use stilk_engine::css::value::Value;
use stilk_language::case::{ControlKind, Look};
use stilk_language::system::{BoundDeclaration, Rule, StateId, StateSet};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "state/indistinct",
    summary: "two states look different: their colours are at least 0.02 apart in OKLab, or something else changes",
    why: "A change that nobody sees is no answer. A selected toggle that no longer answers to the pointer seems to be out \
          of use.",
    source: "Björn Ottosson, A perceptual color space for image processing (2020): 0.02 in OKLab is about what people notice",
    level: Level::Warning,
    mend: "Let the state change more: mix in a larger share, or change something besides the colour. Where a lasting state \
           covers the pointer's, write them together: `@state selected and hover { … }`.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state hover { background: color-mix(in oklab, {sea}, {ink} 2%); }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state hover { background: color-mix(in oklab, {sea}, {ink} 30%); }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::changes(UNSEEN), run).by_option()),
};

/// The least distance in OKLab that is noticed.
pub(super) const NOTICED: f64 = 0.02;

/// Lasting states in which people go on using the pointer to change them back.
const ANSWERING: [StateId; 3] = [StateId::Selected, StateId::Checked, StateId::Mixed];

/// The states that are held against the look without them.
const STATES: [StateId; 9] = [
    StateId::Hover,
    StateId::Focus,
    StateId::Active,
    StateId::Selected,
    StateId::Checked,
    StateId::Mixed,
    StateId::Invalid,
    StateId::Busy,
    StateId::Disabled,
];

fn run(inspection: &Inspection, sink: &mut Sink) {
    for Step { state, before, after } in steps(inspection, &STATES) {
        let name = state.name();
        let on_top = !before.states.is_rest();
        let lasting = before.states.ids();
        if on_top {
            let answers = lasting.len() == 1
                && ANSWERING.contains(&lasting[0])
                && matches!(state, StateId::Hover | StateId::Active)
                && is_usable(after);
            // Where the pointer changes nothing at rest either, another check speaks.
            let at_rest = inspection.rest().zip(inspection.in_state(state));
            if !answers || at_rest.is_none_or(|(rest, alone)| inspection.changes(rest.look, alone.look).is_empty()) {
                continue;
            }
        }
        let found = inspection.changes(before.look, after.look);
        // What no rule says anything of is no state of this control; what it needs is asked for by another check.
        let written = if found.is_empty() && !on_top { written(inspection, state) } else { None };
        if found.is_empty() && !on_top && written.is_none() {
            continue;
        }
        match distance(after.look, &found) {
            Err(reason) => sink.unknown(CHECK.id, after.stands_for, reason),
            Ok(apart) => {
                sink.decided(CHECK.id, after.stands_for);
                if apart >= NOTICED {
                    continue;
                }
                let control = &inspection.unit.control.name;
                let with = inspection.system.states.set_name(before.states);
                let (message, words) = match on_top {
                    true => (
                        format!("a {} `{}` no longer answers to {name}", with.replace('+', " "), control.value),
                        format!("{with} {name}"),
                    ),
                    false => {
                        let almost = if found.is_empty() { "" } else { "almost " };
                        let message = format!("`{}` looks {almost}the same in {name} as at rest", control.value);
                        (message, name.to_owned())
                    }
                };
                let place = match on_top {
                    // Both are to be written together, after what hides the answer.
                    true => inspection.rest().and_then(|rest| {
                        let changes = inspection.changes(rest.look, before.look);
                        inspection.place_of(&changes, before.look, before.states)
                    }),
                    false => inspection.place_of(&found, after.look, after.states).or(written),
                };
                let mend = match on_top {
                    true => format!("write {}", inspection.rule_in(&before.states.union(&StateSet::of([state])))),
                    false => format!("let {} change more", inspection.rule_in(&StateSet::of([state]))),
                };
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                    .label(format!("{} apart in OKLab", number((apart * 1000.0).round() / 1000.0)))
                    .mend(mend);
                let cause = Cause { spans: vec![Some(place.unwrap_or(control.span))], words };
                let figures = format!("{:.3} apart, noticed from 0.02", apart);
                sink.fail(
                    inspection,
                    after,
                    Fault { cause, score: apart, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
                );
            }
        }
    }
}

/// Where rules of this control say what it looks like in a state, on this host in this variant, with something that could be
/// seen.
fn written(inspection: &Inspection, state: StateId) -> Option<Span> {
    let unit = inspection.unit;
    let kind = ControlKind::of(unit.control);
    if kind.needed_states().contains(&state) {
        return None;
    }
    let states = StateSet::of([state]);
    let is_seen = |declaration: &&BoundDeclaration| {
        declaration.is_local()
            || parse_declaration(&declaration.name.value, "inherit")
                .is_ok_and(|parsed| parsed.targets().iter().any(|target| !UNSEEN.has(target.physical(Flow::LTR))))
    };
    let applies = |rule: &&Rule| {
        rule.states == states
            && rule.options.iter().all(|option| unit.variant.has(*option))
            && rule.hosts.is_empty()
            && rule.nested.is_empty()
            && rule.conditions.is_empty()
            && rule.target.is_plain()
    };
    let mut rules = unit.control.rules.iter().filter(applies);
    rules.find_map(|rule| rule.declarations.iter().find(is_seen)).map(|declaration| declaration.span)
}

/// How far apart two looks are: infinitely where more than colours changes.
pub(super) fn distance(look: &Look, changes: &[Change]) -> Result<f64, Unknown> {
    let mut most: f64 = 0.0;
    let surface = look.surfaces.first().copied().ok_or(Unknown("there is no surface"))?;
    let backdrop = paint::surface_pixel(look, surface)?;
    for change in changes {
        if !change.is_color() {
            return Ok(f64::INFINITY);
        }
        let (Some(before), Some(after)) = (color(change.before.as_ref()), color(change.after.as_ref())) else {
            return Ok(f64::INFINITY);
        };
        most = most.max(apart(over(&before, backdrop), over(&after, backdrop)));
    }
    Ok(most)
}

pub(super) fn color(value: Option<&Value>) -> Option<Absolute> {
    match value {
        Some(Value::Color(Color::Absolute(color))) => Some(*color),
        _ => None,
    }
}

/// Distance of two pixels in OKLab.
fn apart(a: Pixel, b: Pixel) -> f64 {
    let lab = |pixel: Pixel| {
        let color = Absolute {
            space: Space::Srgb,
            components: pixel.map(Some),
            alpha: 1.0,
            alpha_is_missing: false,
            legacy: false,
        };
        color.to(Space::Oklab).components.map(|c| c.unwrap_or(0.0))
    };
    let (a, b) = (lab(a), lab(b));
    a.iter().zip(b).map(|(a, b)| (a - b).powi(2)).sum::<f64>().sqrt()
}
