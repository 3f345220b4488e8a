//! `state/missing`: each kind of control has the states its users need.

use super::relevance::Reads;
use super::run::{Cause, Failure, Sink};
use super::{Check, Inspection};
use crate::case::{ControlKind, Look};
use crate::css::compute::resolve_colors;
use crate::css::property::{Longhand, Longhand as L};
use crate::diagnostic::{Diagnostic, Level};
use crate::engine::{PSEUDO_ELEMENTS, Style};
use crate::system::StateSet;

/// The check.
pub const CHECK: Check = Check {
    id: "state/missing",
    summary: "each kind of control shows the states its users need: hover, focus, active, checked, invalid, disabled",
    source: "WCAG 2.2, 2.4.7 Focus Visible, for focus; otherwise what people expect of a control",
    level: Level::Error,
    reads: Reads::Changes(&UNSEEN),
    run,
};

/// Properties whose change nobody sees on the control itself.
const UNSEEN: [Longhand; 14] = [
    L::Cursor,
    L::PointerEvents,
    L::UserSelect,
    L::TouchAction,
    L::WillChange,
    L::TransitionProperty,
    L::TransitionDuration,
    L::TransitionTimingFunction,
    L::TransitionDelay,
    L::TransitionBehavior,
    L::AnimationDuration,
    L::AnimationDelay,
    L::CaretColor,
    L::ForcedColorAdjust,
];

fn run(inspection: &Inspection, sink: &mut Sink) {
    let kind = ControlKind::of(inspection.unit.control);
    let Some(rest) = inspection.looks.iter().find(|shown| shown.states.is_rest()) else { return };
    let rest = rest.look;
    for name in kind.needed_states() {
        let Some(id) = inspection.system.states.find(name) else { continue };
        let set = StateSet::of([id]);
        let Some(shown) = inspection.looks.iter().find(|shown| *shown.states == set) else { continue };
        sink.decided(CHECK.id, 1);
        // A field may answer where the pointer is over its box alone: the state of a part counts as well.
        let of_part = inspection
            .looks
            .iter()
            .filter(|one| one.states.ids().is_empty() && matches!(one.states.of_parts(), [(only, _)] if *only == id));
        if differs(rest, shown.look) || of_part.into_iter().any(|one| differs(rest, one.look)) {
            continue;
        }
        let control = &inspection.unit.control.name;
        let message = format!("`{}` looks the same in {name} as at rest; {} needs it", control.value, kind.noun());
        let why = match *name {
            "focus" => "people who use the keyboard see only what each browser draws by itself",
            "hover" => "nothing tells the pointer that it can be pressed",
            "active" => "nothing answers a press",
            "disabled" => "nothing tells that it cannot be used",
            "checked" => "nothing tells that it is on",
            _ => "nothing tells that the entry is wrong",
        };
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, control.span, message)
            .label(format!("no `@state {name}` changes what it paints"))
            .note(why)
            .mend(format!("write `@state {name} {{ … }}` in `@control {}`", control.value));
        sink.fail(Failure {
            check: CHECK.id,
            cause: Cause { spans: vec![Some(control.span)], words: (*name).to_owned() },
            case: inspection.case_name(shown.states),
            cases: 1,
            score: 0.0,
            figures: format!("no difference in {name}"),
            diagnostic,
        });
    }
}

/// Whether a rule of the system changes something that can be seen.
fn differs(rest: &Look, look: &Look) -> bool {
    let pairs = rest.mounted.elements().zip(look.mounted.elements());
    for ((_, before), (_, after)) in pairs {
        for pseudo in std::iter::once(None).chain(PSEUDO_ELEMENTS.map(Some)) {
            let style = |look: &Look, node| match pseudo {
                None => look.styles.element(node).cloned(),
                Some(name) => look.styles.pseudo(node, name).cloned(),
            };
            match (style(rest, before), style(look, after)) {
                (Some(before), Some(after)) if style_differs(&before, &after) => return true,
                (None, Some(_)) => return true,
                _ => {}
            }
        }
    }
    false
}

fn style_differs(before: &Style, after: &Style) -> bool {
    after.set_by_author().any(|longhand| {
        // What the browser itself changes (its own focus ring, greyed text) differs between browsers and themes.
        !UNSEEN.contains(&longhand) && after.winner(longhand).is_some_and(|id| id.sheet != 0) && {
            let value = |style: &Style| style.get(longhand).map(|v| resolve_colors(v, style.surroundings()));
            value(before) != value(after)
        }
    })
}
