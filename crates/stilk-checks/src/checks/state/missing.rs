//! `state/missing`: each kind of control has the states its users need.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint::is_drawn_natively;
use crate::painted::visible::{UNSEEN, browser_answers, differs};
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::dom::{Element, is_disableable};
use stilk_language::case::{ControlKind, Look};
use stilk_language::system::{StateId, StateSet};
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
        // On a page of somebody's, what the browser does by itself is there; what cannot come about need not be shown.
        let is_of_page = inspection.tracer.is_of_page();
        let is_on_anyway = is_of_page && is_lasting(id) && bearer(rest) == bearer(shown.look);
        if is_on_anyway {
            continue;
        }
        if is_of_page && (is_needless(id, shown.look) || browser_answers(rest, shown.look, shown.look.mounted.bearer)) {
            continue;
        }
        let control = &inspection.unit.control.name;
        let message = format!("`{}` looks the same in {name} as at rest; {} needs it", control.value, kind.noun());
        let why = match id {
            StateId::Focus if is_of_page => "people who use the keyboard do not see where they are",
            StateId::Focus => "people who use the keyboard see only what each browser draws by itself",
            StateId::Hover => "nothing tells the pointer that it can be pressed",
            StateId::Active => "nothing answers a press",
            StateId::Disabled => "nothing tells that it cannot be used",
            StateId::Checked => "nothing tells that it is on",
            _ => "nothing tells that the entry is wrong",
        };
        // The source of this demand speaks of the focus alone; the others are the system's own.
        let level = if is_of_page && id != StateId::Focus { Level::Warning } else { CHECK.level };
        let label = match is_of_page {
            true => format!("no rule for {name} changes what it paints"),
            false => format!("no `@state {name}` changes what it paints"),
        };
        let diagnostic = Diagnostic::new(level, CHECK.id, control.span, message)
            .label(label)
            .note(why)
            .mend(format!("write {}", inspection.rule_in(&StateSet::of([id]))));
        let cause = Cause { spans: vec![Some(control.span)], words: name.to_owned() };
        let figures = format!("no difference in {name}");
        sink.fail(
            inspection,
            shown,
            Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}

/// Whether attributes say a state: a control of a page may have them as it was written.
fn is_lasting(id: StateId) -> bool {
    !matches!(id, StateId::Hover | StateId::Focus | StateId::Active)
}

fn bearer(look: &Look) -> Option<Vec<(String, &str)>> {
    let element = look.document.element(look.mounted.bearer)?;
    Some(element.attributes.iter().map(|(name, value)| (name.local.to_string(), value.as_str())).collect())
}

/// Whether a control of a page can hardly be in a state, or shows it anyway: a link is never out of use, and an entry of which nothing is asked is
/// never wrong.
fn is_needless(id: StateId, look: &Look) -> bool {
    let Some(element) = look.document.element(look.mounted.bearer) else { return true };
    let has = |name: &str| element.attribute(name).is_some();
    match id {
        StateId::Disabled => !is_disableable(element),
        // Over text the pointer itself turns into another one (`cursor: auto`), and a list of options has an arrow at rest.
        StateId::Hover => is_typed_into(element) || element.local() == "select",
        StateId::Invalid => {
            let kind = element.attribute("type").unwrap_or("text").to_ascii_lowercase();
            let is_checked = ["email", "url", "number", "date", "month", "week", "time"].contains(&kind.as_str());
            // What this look has of it came with the state.
            !(is_checked
                || ["required", "pattern", "min", "max", "minlength", "maxlength"].iter().any(|name| has(name)))
        }
        _ => false,
    }
}

/// Whether text is typed into it.
fn is_typed_into(element: &Element) -> bool {
    const PRESSED: [&str; 10] =
        ["button", "checkbox", "color", "file", "image", "radio", "range", "reset", "submit", "hidden"];
    let kind = element.attribute("type").unwrap_or("text").to_ascii_lowercase();
    element.local() == "textarea" || element.local() == "input" && !PRESSED.contains(&kind.as_str())
}
