//! `markup/form`: what a form sends, and what it throws away.

use crate::check::{Check, Scope};
use crate::checks::markup::tag;
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/form",
    summary: "no password stands in a form that is sent by GET, and no reset stands beside submit",
    why: "A form without `method=\"post\"` writes its entries into the address: the password ends up in histories and logs. A \
          reset beside the submit button empties the form of those who meant to send it.",
    source: "HTML, 4.10.21.3 (form submission); WCAG 2.2, 3.3.4",
    level: Level::Error,
    mend: "Write `method=\"post\"`; take the reset button out.",
    fails: Example::page("<form action=\"/in\"><label>Password <input type=\"password\" name=\"p\"></label></form>"),
    passes: Example::page(
        "<form action=\"/in\" method=\"post\"><label>Password <input type=\"password\" name=\"p\"></label></form>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for form in visit.elements().filter(|node| visit.local(*node) == "form") {
        sink.decided(CHECK.id, 1);
        let inside = visit.document().descendants(form);
        let of_type = |node: &NodeId, wanted: &str| {
            let kind = visit.attribute(*node, "type").unwrap_or_default();
            ["input", "button"].contains(&visit.local(*node)) && kind.eq_ignore_ascii_case(wanted)
        };
        let method = visit.attribute(form, "method").unwrap_or("get");
        if let Some(password) = inside.iter().find(|node| of_type(node, "password"))
            && !method.eq_ignore_ascii_case("post")
            && !method.eq_ignore_ascii_case("dialog")
        {
            let mut diagnostic =
                Diagnostic::new(CHECK.level, CHECK.id, visit.span(*password), "the form sends a password by GET")
                    .label("ends up in the address")
                    .mend("write `method=\"post\"` on the form");
            if let Some(span) = visit.span(form) {
                diagnostic = diagnostic.related(span, "this form");
            }
            sink.find(format!("password {}", tag(visit, form)), diagnostic);
        }
        let submits = |node: &NodeId| {
            of_type(node, "submit") || visit.local(*node) == "button" && visit.attribute(*node, "type").is_none()
        };
        if let Some(reset) = inside.iter().find(|node| of_type(node, "reset"))
            && inside.iter().any(submits)
        {
            let diagnostic =
                Diagnostic::new(Level::Warning, CHECK.id, visit.span(*reset), "a reset stands beside submit")
                    .label("empties the form when it is hit by mistake")
                    .mend("take it out; who wants to begin again reloads the page");
            sink.find(format!("reset {}", tag(visit, *reset)), diagnostic);
        }
    }
}
