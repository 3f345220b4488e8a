//! `state/hover-only`: what the pointer reveals, the keyboard reveals too.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/hover-only",
    summary: "what hover reveals, focus reveals too",
    why: "Who has no pointer never sees what only hover shows: a menu, a hint, a label.",
    source: "WCAG 2.2, 1.4.13 Content on Hover or Focus, and 2.1.1 Keyboard",
    level: Level::Error,
    mend: "Write both: `@state hover, focus-within { … }`.",
    fails: Example::drawn(
        HINT,
        "@control button {\n  background: {sea}; color: {paper};\n  @part hint { visibility: hidden; }\n  @state hover { @part hint { visibility: visible; } }\n}\n",
    ),
    passes: Example::drawn(
        HINT,
        "@control button {\n  background: {sea}; color: {paper};\n  @part hint { visibility: hidden; }\n  @state hover, focus { @part hint { visibility: visible; } }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).in_states(StatesAsked::Each), run).by_option()),
};

const HINT: &str = "<button type=\"button\"><span part=\"label\"><slot>Book</slot></span><span part=\"hint\">Opens the form</span></button>\n";

const READS: LonghandSet =
    LonghandSet::of(&[L::Display, L::Visibility, L::Opacity, L::Scale, L::Transform, L::ClipPath]);

fn run(inspection: &Inspection, sink: &mut Sink) {
    let Some(rest) = inspection.rest() else { return };
    for shown in &inspection.looks {
        let only_hover = shown.states.len() == 1 && shown.states.names(StateId::Hover);
        if !only_hover {
            continue;
        }
        let nodes = shown.look.document.descendants(shown.look.mounted.host);
        let elements = || nodes.iter().copied().filter(|node| shown.look.document.element(*node).is_some());
        let unknown = elements().find_map(|node| is_shown(rest.look, node).and(is_shown(shown.look, node)).err());
        sink.verdict(CHECK.id, shown.stands_for, unknown);
        let focused: Vec<&Look> = inspection
            .looks
            .iter()
            .filter(|other| {
                let reached = [StateId::Focus, StateId::FocusWithin, StateId::Open];
                other.states.len() == 1 && reached.iter().any(|state| other.states.names(*state))
            })
            .map(|other| other.look)
            .collect();
        for node in elements() {
            if !reveals(rest.look, shown.look, node) {
                continue;
            }
            if focused.iter().any(|look| is_shown(look, node) == Ok(true)) {
                continue;
            }
            // What is inside of what is revealed goes with it.
            let parent = shown.look.document.node(node).parent;
            if parent.is_some_and(|parent| reveals(rest.look, shown.look, parent)) {
                continue;
            }
            let control = &inspection.unit.control.name;
            let name = element_name(shown.look, Styled::element(node));
            let style = shown.look.styles.element(node);
            let place = style.and_then(|style| {
                let origins =
                    [L::Visibility, L::Display, L::Opacity].map(|l| inspection.tracer.origin(style, l).declaration);
                origins.into_iter().flatten().next()
            });
            let message = format!("hover reveals {name} of `{}`, focus does not", control.value);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                .label("only for a pointer")
                .mend("write the same for `focus`, or for `focus-within` where something inside takes it");
            let cause = Cause { spans: vec![Some(control.span)], words: name };
            sink.fail(
                inspection,
                shown,
                Fault {
                    cause,
                    score: 0.0,
                    figures: "not shown in focus".into(),
                    diagnostic,
                    mend: MendKind::AsSaid,
                    choice: None,
                },
            );
        }
    }
}

fn is_shown(look: &Look, node: NodeId) -> Result<bool, Unknown> {
    paint::is_visible(&paint::styles_of(look, &paint::chain(look, node)))
}

fn reveals(rest: &Look, hover: &Look, node: NodeId) -> bool {
    rest.document.element(node).is_some() && is_shown(rest, node) == Ok(false) && is_shown(hover, node) == Ok(true)
}
