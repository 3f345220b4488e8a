//! `state/missing`: each kind of control has the states its users need.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint::is_drawn_natively;
use crate::painted::visible::{UNSEEN, differs};
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_language::case::ControlKind;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/missing",
    summary: "each kind of control shows the states its users need: hover, focus, active, checked, invalid, disabled",
    why: "A control that looks the same in every state answers nobody: the pointer does not learn that it can press, the \
          keyboard not where it is, nobody whether it is on, wrong or out of use.",
    source: "WCAG 2.2, 2.4.7 Focus Visible, for focus; the system's own for the others",
    level: Level::Error,
    mend: "Write `@state NAME { … }` with a change that can be seen; a trait can share it between controls.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state hover { background: {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state hover { background: {ink}; }\n  @state focus { outline: 3px solid {ink}; outline-offset: 2px; }\n  @state active { background: {rust}; }\n  @state disabled { opacity: .5; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::needed_changes(UNSEEN), run)),
};

fn run(inspection: &Inspection, sink: &mut Sink) {
    let kind = ControlKind::of(inspection.unit.control);
    let Some(rest) = inspection.looks.iter().find(|shown| shown.states.is_rest()) else { return };
    let rest = rest.look;
    for id in kind.needed_states().iter().copied() {
        let name = id.name();
        let Some(shown) = inspection.in_state(id) else { continue };
        sink.decided(CHECK.id, 1);
        // The platform ticks what it draws itself.
        if id == StateId::Checked && is_drawn_natively(shown.look, shown.look.mounted.bearer) {
            continue;
        }
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
        let why = match id {
            StateId::Focus => "people who use the keyboard see only what each browser draws by itself",
            StateId::Hover => "nothing tells the pointer that it can be pressed",
            StateId::Active => "nothing answers a press",
            StateId::Disabled => "nothing tells that it cannot be used",
            StateId::Checked => "nothing tells that it is on",
            _ => "nothing tells that the entry is wrong",
        };
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, control.span, message)
            .label(format!("no `@state {name}` changes what it paints"))
            .note(why)
            .mend(format!("write `@state {name} {{ … }}` in `@control {}`", control.value));
        let cause = Cause { spans: vec![Some(control.span)], words: name.to_owned() };
        let figures = format!("no difference in {name}");
        sink.fail(
            inspection,
            shown,
            Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}
