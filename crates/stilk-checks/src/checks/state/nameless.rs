//! `state/nameless`: a state that hides a label leaves the name.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::visible::is_shown;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::LonghandSet;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::{NodeData, NodeId};
use stilk_language::case::{ControlKind, Look};
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "state/nameless",
    summary: "a state that hides a label keeps the accessible name",
    why: "`visibility: hidden` and `display: none` take text out of the name as well: a busy button then says \"button\" to \
          a screen reader, and nothing else.",
    source: "WCAG 2.2, 4.1.2 Name, Role, Value; Accessible Name and Description Computation 1.2, 4.3.2 step 2A",
    level: Level::Error,
    mend: "Hide the label with `opacity: 0`, or with the rules of something unseen that stays in the name.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state busy { @part label { visibility: hidden; } }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state busy { @part label { opacity: 0; } }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).in_states(StatesAsked::Each), run).by_option()),
};

const READS: LonghandSet =
    LonghandSet::of(&[L::Display, L::Opacity, L::Scale, L::Transform, L::ClipPath, L::Visibility]);

fn run(inspection: &Inspection, sink: &mut Sink) {
    let Some(rest) = inspection.rest() else { return };
    if ControlKind::of(inspection.unit.control) == ControlKind::Other || !has_name(rest.look).0 {
        return;
    }
    for shown in inspection.looks.iter().filter(|shown| !shown.states.is_rest() && is_shown(shown.look)) {
        sink.decided(CHECK.id, shown.stands_for);
        let (named, hidden) = has_name(shown.look);
        if named {
            continue;
        }
        let style = hidden.and_then(|node| shown.look.styles.element(node));
        let place: Option<Span> = style.and_then(|style| {
            let own = [L::Display, L::Visibility].map(|longhand| inspection.tracer.origin(style, longhand).declaration);
            own.into_iter().flatten().last()
        });
        let control = &inspection.unit.control.name;
        let state = inspection.system.states.set_name(shown.states).replace('+', " and ");
        let message =
            format!("`{}` has no accessible name in {state}: its label is hidden from everybody", control.value);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label("takes the text out of the name")
            .mend("write `opacity: 0` instead: it hides the label from eyes only");
        let cause = Cause { spans: vec![Some(control.span), place], words: String::new() };
        sink.fail(
            inspection,
            shown,
            Fault { cause, score: 0.0, figures: "no name".into(), diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}

/// Whether some text or attribute still names the control; and an element whose text does not count.
fn has_name(look: &Look) -> (bool, Option<NodeId>) {
    let document = &look.document;
    let mut hidden = None;
    for node in document.descendants(look.mounted.host) {
        match &document.node(node).data {
            NodeData::Element(element) => {
                let named = ["aria-label", "alt", "title"]
                    .iter()
                    .any(|a| element.attribute(a).is_some_and(|v| !v.trim().is_empty()));
                let is_button = element.local() == "input"
                    && matches!(element.attribute("type"), Some("submit" | "reset" | "button"));
                if (named || is_button) && is_exposed(look, node) {
                    return (true, None);
                }
            }
            NodeData::Text(text) if !text.trim().is_empty() => {
                let Some(parent) = document.node(node).parent else { continue };
                if is_exposed(look, parent) {
                    return (true, None);
                }
                hidden = hidden.or(Some(parent));
            }
            _ => {}
        }
    }
    (false, hidden)
}

/// Whether an element is there for assistive technology.
fn is_exposed(look: &Look, node: NodeId) -> bool {
    let own = look.styles.element(node);
    let is_hidden = own.is_some_and(|style| style.is(L::Visibility, "hidden") || style.is(L::Visibility, "collapse"));
    let mut at = Some(node);
    while let Some(node) = at {
        let taken_out = look.styles.element(node).is_some_and(|style| style.is(L::Display, "none"));
        let says_so = look.document.element(node).is_some_and(|e| e.attribute("aria-hidden") == Some("true"));
        if taken_out || says_so {
            return false;
        }
        at = look.document.node(node).parent.filter(|_| node != look.mounted.root);
    }
    !is_hidden
}
