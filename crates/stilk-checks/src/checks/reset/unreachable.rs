//! `reset/unreachable`: a native control that is drawn over stays reachable.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::visible::is_shown;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::LonghandSet;
use stilk_engine::css::property::Longhand as L;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "reset/unreachable",
    summary: "the native control is hidden from eyes only, never from the keyboard",
    why: "`display: none` and `visibility: hidden` take the input out of the tab order and away from screen readers: what \
          is drawn in its place is then a picture.",
    source: "WCAG 2.2, 2.1.1 Keyboard; HTML Standard, being rendered and focusable areas",
    level: Level::Error,
    mend: "Lay it over what is drawn with `position: absolute; inset: 0; opacity: 0`.",
    fails: Example::drawn(
        BOX,
        "@control checkbox {\n  @part native { display: none; }\n  @part mark { display: inline-block; inline-size: 1em; block-size: 1em; border: 1px solid {ink}; }\n}\n",
    ),
    passes: Example::drawn(
        BOX,
        "@control checkbox {\n  @part native { position: absolute; opacity: 0; }\n  @part mark { position: relative; display: inline-block; inline-size: 1em; block-size: 1em; border: 1px solid {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS), run).of_fields().by_option()),
};

const BOX: &str =
    "<label><span part=\"mark\"><input type=\"checkbox\" part=\"native\"></span><slot>Dogs</slot></label>\n";

const READS: LonghandSet =
    LonghandSet::of(&[L::Display, L::Opacity, L::Scale, L::Transform, L::ClipPath, L::Visibility]);

/// What takes the bearer out of reach.
fn hidden(look: &Look) -> Option<(&stilk_engine::cascade::Style, L)> {
    for style in paint::styles_of(look, &paint::chain(look, look.mounted.bearer)) {
        if style.is(L::Display, "none") {
            return Some((style, L::Display));
        }
    }
    let own = look.styles.element(look.mounted.bearer)?;
    (own.is(L::Visibility, "hidden") || own.is(L::Visibility, "collapse")).then_some((own, L::Visibility))
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in inspection.looks.iter().filter(|shown| !shown.states.has(StateId::Disabled)) {
        sink.decided(CHECK.id, shown.stands_for);
        if !is_shown(shown.look) {
            continue;
        }
        let Some((style, longhand)) = hidden(shown.look) else { continue };
        let place = inspection.tracer.origin(style, longhand).declaration;
        let control = &inspection.unit.control.name;
        let message = format!(
            "the keyboard cannot reach `{}`: its native control is taken out by `{}`",
            control.value,
            longhand.name()
        );
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label("also takes it from keyboard and screen reader")
            .mend("write `position: absolute; inset: 0; opacity: 0` instead");
        let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
        sink.fail(
            inspection,
            shown,
            Fault {
                cause,
                score: 0.0,
                figures: "out of reach".into(),
                diagnostic,
                mend: MendKind::AsSaid,
                choice: None,
            },
        );
    }
}
