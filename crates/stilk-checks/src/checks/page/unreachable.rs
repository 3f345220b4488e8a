//! `page/unreachable`: the keyboard reaches each control where it stands.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::css::property::Longhand as L;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/unreachable",
    summary: "no rule of a page takes a control's native element away from the keyboard, while the control is there to be seen",
    why: "A page that hides all checkboxes to draw its own hides the system's too: the drawing stays, and nobody can reach it.",
    source: "WCAG 2.2, 2.1.1 Keyboard; CSS Display 3 (`none` takes an element out of the focus order)",
    level: Level::Error,
    mend: "Narrow the page's rule to the elements that it is meant for.",
    fails: Example::page(
        "<style>input { display: none }</style><div class=\"ex-field\"><label class=\"ex-field_label\" for=\"n\">Name</label><input class=\"ex-field_native\" id=\"n\"></div>",
    ),
    passes: Example::page(
        "<style>.search input { display: none }</style><div class=\"ex-field\"><label class=\"ex-field_label\" for=\"n\">Name</label><input class=\"ex-field_native\" id=\"n\"></div>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for instance in visit.instances {
        let (Some(style), Some(host)) = (visit.styles.element(instance.bearer), visit.styles.element(instance.node))
        else {
            continue;
        };
        sink.decided(CHECK.id, 1);
        let hiding = [(L::Display, "none"), (L::Visibility, "hidden")];
        let hidden = hiding.into_iter().find(|(longhand, value)| style.is(*longhand, value));
        let Some((longhand, value)) = hidden.filter(|_| instance.bearer != instance.node) else { continue };
        // What is hidden as a whole is nowhere to be seen; what the system hides itself is a matter of its own checks.
        let is_gone = host.is(L::Display, "none") || host.is(L::Visibility, "hidden");
        let by_system = visit.by_system.element(instance.bearer).is_some_and(|style| style.is(longhand, value));
        if is_gone || by_system {
            continue;
        }
        let name = instance.name(visit.system);
        let message =
            format!("the keyboard cannot reach this `{name}`: its native element has `{}: {value}`", longhand.name());
        let mut diagnostic =
            Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.bearer), message).label("out of reach");
        let winner = style.winner(longhand);
        let mut cause = format!("{name} {value}");
        if let Some(id) = winner
            && let (Some(span), Some(of_rule)) = (visit.foreign_span(id), visit.declaration_cause(id))
        {
            diagnostic = diagnostic.related(span, "the page's own rule");
            cause = of_rule;
        }
        sink.find(cause, diagnostic);
    }
}
