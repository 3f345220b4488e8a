//! `markup/nesting`: no block in a button, no control in a control.

use crate::check::{Check, Scope};
use crate::checks::markup::{is_field, tag};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/nesting",
    summary: "a button holds words and pictures only, and no control stands in another",
    why: "A block or a heading in a button is read as nothing at all; of a link in a button nobody knows which one is pressed.",
    source: "HTML, 4.10.6 and 4.5.1 (content models: phrasing content, no interactive content)",
    level: Level::Error,
    mend: "Write `<span>` for blocks inside a button; put the inner control beside it.",
    fails: Example::page(
        "<button type=\"button\" class=\"ex-button\"><div class=\"ex-button_label\">Book</div></button>",
    ),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

/// Elements that are no phrasing content (HTML, 3.2.5.2.5).
const BLOCKS: [&str; 34] = [
    "address",
    "article",
    "aside",
    "blockquote",
    "center",
    "dd",
    "details",
    "dialog",
    "dir",
    "div",
    "dl",
    "dt",
    "fieldset",
    "figcaption",
    "figure",
    "footer",
    "form",
    "h1",
    "h2",
    "h3",
    "h4",
    "h5",
    "h6",
    "header",
    "hr",
    "li",
    "main",
    "nav",
    "ol",
    "p",
    "pre",
    "section",
    "table",
    "ul",
];

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let is_pressed = |node: NodeId| match visit.local(node) {
        "button" | "summary" => true,
        "a" => visit.attribute(node, "href").is_some(),
        _ => false,
    };
    for node in visit.elements() {
        let local = visit.local(node);
        if is_pressed(node) || local == "label" {
            sink.decided(CHECK.id, 1);
        }
        // In a link of the page's own a block is allowed (HTML, 4.5.1: transparent).
        let around = visit.above(node).find(|above| {
            let own = visit.local(*above);
            own == "button" || own == "label" || own == "a" && is_pressed(*above)
        });
        let Some(around) = around else { continue };
        let outer = visit.local(around).to_owned();
        let is_control = visit.is_control(around);
        let is_block = BLOCKS.contains(&local) && (outer != "a" || is_control);
        // What stands in a block that is told already goes with it.
        let is_told =
            || visit.above(node).take_while(|above| *above != around).any(|above| BLOCKS.contains(&visit.local(above)));
        let what = if is_block && is_told() {
            None
        } else if is_block {
            Some((
                format!("`<{local}>` stands in a `<{outer}>`, which holds words and pictures only"),
                "write `<span>`",
            ))
        } else if outer != "label" && (is_pressed(node) || is_field(visit, node)) {
            Some((format!("a control stands in a `<{outer}>`"), "put it beside it"))
        } else {
            None
        };
        if let Some((message, mend)) = what {
            let mut diagnostic =
                Diagnostic::new(CHECK.level, CHECK.id, visit.span(node), message).label("not allowed here").mend(mend);
            if let Some(span) = visit.span(around) {
                diagnostic = diagnostic.related(span, "in this");
            }
            sink.find(format!("{} in {}", tag(visit, node), tag(visit, around)), diagnostic);
        }
    }
}
