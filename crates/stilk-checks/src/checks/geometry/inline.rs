//! `geometry/inline`: no box model is lost on an inline box.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::property::{Longhand, Longhand as L};
use stilk_engine::css::serialize::to_css;
use stilk_text::diagnostic::{Diagnostic, Level, list};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/inline",
    summary: "vertical padding, margin and sizes are not lost on an inline box",
    why: "On an inline link vertical padding paints over the lines above and below, and margin, width and height do nothing \
          at all: the button version stands right, the link version does not.",
    source: "CSS 2, 8.3, 10.2, 10.5, 10.6.1 (inline, non-replaced elements)",
    level: Level::Error,
    mend: "Write `display: inline-block` or `inline-flex`.",
    fails: Example::drawn(LINK, "@control link {\n  background: {sea}; color: {paper}; padding: {gap};\n}\n"),
    passes: Example::drawn(
        LINK,
        "@control link {\n  display: inline-block; background: {sea}; color: {paper}; padding: {gap};\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS), run).by_option()),
};

const LINK: &str = "<a href=\"#\"><span part=\"label\"><slot>Book</slot></span></a>\n";

const READS: LonghandSet = LonghandSet::of(&LOST).and(&[L::Display, L::Position, L::Float]);

/// What is lost on an inline box.
const LOST: [L; 8] =
    [L::PaddingTop, L::PaddingBottom, L::MarginTop, L::MarginBottom, L::Width, L::Height, L::MinWidth, L::MinHeight];

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        sink.decided(CHECK.id, shown.stands_for);
        for (_, node) in shown.look.mounted.elements() {
            let Some(style) = shown.look.styles.element(node) else { continue };
            let is_inline = style.is(L::Display, "inline")
                && style.is_item() == Ok(false)
                && !style.brings_size()
                && !["absolute", "fixed"].iter().any(|word| style.is(L::Position, word))
                && style.is(L::Float, "none");
            if !is_inline || shown.look.document.element(node).is_some_and(|e| e.local() == "svg") {
                continue;
            }
            let is_lost = |longhand: &Longhand| {
                let css = style.get(*longhand).map_or_else(|_| "auto".to_owned(), to_css);
                style.winner(*longhand).is_some_and(|id| id.sheet != 0)
                    && !["auto", "0px", "0%", "none"].contains(&css.as_str())
            };
            let lost: Vec<Longhand> = LOST.into_iter().filter(is_lost).collect();
            let Some(first) = lost.first() else { continue };
            let place = inspection.tracer.origin(style, *first).declaration;
            let control = &inspection.unit.control.name;
            let names: Vec<&str> = lost.iter().map(|longhand| longhand.name()).collect();
            let name = element_name(shown.look, Styled::element(node));
            let message = format!("{name} of `{}` is inline: {} take no room there", control.value, list(&names));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                .label("lost on an inline box")
                .mend("write `display: inline-block` or `display: inline-flex`");
            let cause = Cause { spans: vec![place], words: name };
            sink.fail(
                inspection,
                shown,
                Fault {
                    cause,
                    score: 0.0,
                    figures: format!("{} lost", lost.len()),
                    diagnostic,
                    mend: MendKind::AsSaid,
                    choice: None,
                },
            );
        }
    }
}
