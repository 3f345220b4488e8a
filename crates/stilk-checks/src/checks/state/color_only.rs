//! `state/color-only`: what a control says is not said by hue alone.

use crate::check::{Check, Looks, Scope};
use crate::checks::state::indistinct::color;
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint::{self, Pixel, contrast, over};
use crate::painted::visible::UNSEEN;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::css::Unknown;
use stilk_engine::css::vision::{DEFICIENCIES, seen_with};
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/color-only",
    summary: "checked, selected and invalid differ from rest by more than a hue, also for people who tell fewer colours apart",
    why: "One man in twelve tells red from green badly or not at all: where only the hue changes, he sees no change.",
    source: "WCAG 2.2, 1.4.1 Use of Color; colour vision: Machado, Oliveira, Fernandes, A Physiologically-based Model for Simulation of Color Vision Deficiency (2009)",
    level: Level::Error,
    mend: "Add a mark, a thicker border, a weight or a text, or let the colours differ in lightness by 3:1.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state selected { background: {rust}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state selected { background: {rust}; outline: 2px solid {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::changes(UNSEEN), run).by_option()),
};

const SAID: [StateId; 4] = [StateId::Checked, StateId::Mixed, StateId::Selected, StateId::Invalid];
const NEEDED: f64 = 3.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    let Some(rest) = inspection.rest() else { return };
    for state in SAID {
        let name = state.name();
        let Some(shown) = inspection.in_state(state) else { continue };
        let found = inspection.changes(rest.look, shown.look);
        if found.is_empty() {
            continue;
        }
        let backdrop = shown.look.surfaces.first().map(|node| paint::surface_pixel(shown.look, *node));
        let backdrop = match backdrop.unwrap_or(Err(Unknown("there is no surface"))) {
            Ok(backdrop) => backdrop,
            Err(reason) => {
                sink.unknown(CHECK.id, shown.stands_for, reason);
                continue;
            }
        };
        sink.decided(CHECK.id, shown.stands_for);
        let mut best: f64 = 1.0;
        for change in found.iter() {
            let (Some(before), Some(after)) = (color(change.before.as_ref()), color(change.after.as_ref())) else {
                best = f64::INFINITY;
                break;
            };
            let (before, after) = (over(&before, backdrop), over(&after, backdrop));
            let ratio = |see: &dyn Fn(Pixel) -> Pixel| contrast(see(before), see(after));
            let worst = DEFICIENCIES.iter().map(|(_, matrix)| ratio(&|pixel| seen_with(matrix, pixel)));
            best = best.max(worst.fold(ratio(&|pixel| pixel), f64::min));
        }
        if best >= NEEDED {
            continue;
        }
        let control = &inspection.unit.control.name;
        let place = inspection.place_of(&found, shown.look, shown.states);
        let figure = format!("{:.2}:1", (best * 100.0).floor() / 100.0);
        let message =
            format!("`{}` shows {name} by colour alone, {figure} from rest for those who see fewer", control.value);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label("only colours change")
            .mend("change something besides the colour, or let the colours differ by 3:1 in lightness");
        let cause = Cause { spans: vec![Some(control.span)], words: name.into() };
        let figures = format!("{figure}, needs 3:1 or another sign");
        sink.fail(
            inspection,
            shown,
            Fault { cause, score: best / NEEDED, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}
