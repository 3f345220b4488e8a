//! `markup/stylesheet`: a page that uses the system links it.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::page::SheetSource;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/stylesheet",
    summary: "a page that uses the system's classes links its stylesheet",
    why: "Without it all classes do nothing. Where it is part of a larger bundle, turn this check off.",
    source: "HTML, 4.6.7.19 (link type stylesheet)",
    level: Level::Warning,
    mend: "Write `<link rel=\"stylesheet\" href=\"…\">` with the file that `stilk build` writes.",
    fails: Example::page(
        "<!doctype html>\n<html lang=\"en\">\n<title>Ferries</title>\n<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let Some(first) = visit.instances.iter().find(|instance| !instance.attached) else { return };
    sink.decided(CHECK.id, 1);
    let links = visit.sheets.iter().any(|sheet| sheet.is_system && sheet.is_linked);
    if links {
        return;
    }
    let other = visit.named.iter().find_map(|sheet| match &sheet.source {
        SheetSource::Linked(address) => Some(address.clone()),
        SheetSource::Inline(_) => None,
    });
    let message = "the page uses the system and does not link its stylesheet";
    let mut diagnostic =
        Diagnostic::new(CHECK.level, CHECK.id, visit.span(first.node), message).label("has no look here");
    if let Some(other) = other {
        diagnostic =
            diagnostic.note(format!("it links `{other}`; where that file holds the system, turn this check off"));
    }
    sink.find("stylesheet", diagnostic);
}
