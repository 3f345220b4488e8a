//! `font/fallback`: there is a font where the first is not.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::font::GENERIC_FAMILIES;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::css::value::Value;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "font/fallback",
    summary: "a stack of fonts ends in a generic family",
    why: "Where none of the named fonts is there, the browser takes its own, mostly a serif: every control looks foreign.",
    source: "CSS Fonts 4, 2.1: a generic family as the last alternative",
    level: Level::Warning,
    mend: "Add `sans-serif`, `serif` or `monospace` at the end.",
    fails: Example::sheet(
        "@control button {\n  color: {ink}; background: {paper}; font-family: \"Skerry Grotesk\";\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  color: {ink}; background: {paper}; font-family: \"Skerry Grotesk\", sans-serif;\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(LonghandSet::of(&[L::FontFamily])), run).by_option()),
};

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        sink.decided(CHECK.id, shown.stands_for);
        for (_, node) in shown.look.mounted.elements() {
            let Some(style) = shown.look.styles.element(node) else { continue };
            let is_own = style.winner(L::FontFamily).is_some_and(|id| id.sheet != 0);
            let Ok(Value::List(families)) = style.get(L::FontFamily) else { continue };
            let last = families.last().map(to_css).unwrap_or_default();
            // What is taken over from around is not the control's own choice.
            if !is_own || inspection.tracer.is_wide(style, L::FontFamily) || GENERIC_FAMILIES.contains(&last.as_str()) {
                continue;
            }
            let place = inspection.tracer.origin(style, L::FontFamily).declaration;
            let control = &inspection.unit.control.name;
            let name = element_name(shown.look, Styled::element(node));
            let message = format!("the fonts of {name} in `{}` end in `{last}`, which may not be there", control.value);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                .label("no generic family at the end")
                .mend("add `sans-serif`, `serif` or `monospace`");
            let cause = Cause { spans: vec![place.or(Some(control.span))], words: last };
            sink.fail(
                inspection,
                shown,
                Fault {
                    cause,
                    score: 0.0,
                    figures: "no fallback".into(),
                    diagnostic,
                    mend: MendKind::AsSaid,
                    choice: None,
                },
            );
        }
    }
}
