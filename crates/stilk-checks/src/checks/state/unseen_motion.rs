//! `state/unseen-motion`: what turns for ever is seen.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::moving::{self, unseen};
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::Styled;
use stilk_engine::css::property::Longhand as L;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/unseen-motion",
    summary: "what moves for ever is seen",
    why: "An animation without end runs in every control that carries it, whether anybody sees it or not: a spinner that waits \
          hidden in each button keeps the browser at work on every page, and makes all else that changes there slower.",
    source: "CSS Animations 1, section 3 (an animation runs while `animation-name` names it, whatever `visibility` and `opacity` are)",
    level: Level::Warning,
    mend: "Write `animation` where what it moves is shown: in the state, beside `visibility: visible`.",
    fails: Example::drawn(
        "<button><slot>Go</slot><span part=\"spinner\" aria-hidden=\"true\"></span></button>\n",
        "@keyframes turn { to { rotate: 1turn; } }\n@control button {\n  background: {sea}; color: {paper};\n  @part spinner { visibility: hidden; animation: turn 1s linear infinite; }\n  @state busy { @part spinner { visibility: visible; } }\n}\n",
    ),
    passes: Example::drawn(
        "<button><slot>Go</slot><span part=\"spinner\" aria-hidden=\"true\"></span></button>\n",
        "@keyframes turn { to { rotate: 1turn; } }\n@control button {\n  background: {sea}; color: {paper};\n  @part spinner { visibility: hidden; }\n  @state busy { @part spinner { visibility: visible; animation: turn 1s linear infinite; } }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(moving::READS).on_generated(moving::READS), run)),
};

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let mut unknown = None;
        for (_, node) in shown.look.mounted.elements() {
            for at in Styled::with_generated(node) {
                let (why, by) = match unseen(inspection.tracer, &shown.look.document, &shown.look.styles, at) {
                    Ok(Some(found)) => found,
                    Ok(None) => continue,
                    Err(reason) => {
                        unknown = Some(reason);
                        continue;
                    }
                };
                let Some(style) = shown.look.styles.of(at) else { continue };
                let place = inspection.tracer.origin(style, L::AnimationName).declaration;
                let control = &inspection.unit.control.name;
                let name = element_name(shown.look, at);
                let message = format!("{name} of `{}` moves for ever while {why}", control.value);
                let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                    .label("runs all the time")
                    .mend("write it in the state that shows it");
                if let Some(span) = inspection.tracer.origin(style, by).declaration.filter(|span| Some(*span) != place)
                {
                    diagnostic = diagnostic.related(span, "not to be seen");
                }
                let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
                let figures = why.to_owned();
                let fault = Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None };
                sink.fail(inspection, shown, fault);
            }
        }
        sink.verdict(CHECK.id, shown.stands_for, unknown);
    }
}
