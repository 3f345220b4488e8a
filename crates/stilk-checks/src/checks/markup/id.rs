//! `markup/id`: ids are unique, and what refers to one finds it.

use crate::check::{Check, Scope};
use crate::checks::markup::{tag, word_in_tag};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashMap;
use stilk_engine::dom::NodeId;
use stilk_language::markup::REFERENCES;
use stilk_text::diagnostic::{Diagnostic, Level, nearest};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/id",
    summary: "each id stands once, and `for`, `aria-labelledby` and their like name one that is there",
    why: "Of two elements with one id the first gets every label: the second field has none, and a click goes to the wrong one.",
    source: "HTML, 3.2.6 (the id attribute); WCAG 2.2, 1.3.1 and 4.1.2",
    level: Level::Error,
    mend: "Give the copy an id of its own, and what refers to it the same; `stilk markup --id NAME` prints such copies.",
    fails: Example::page(
        "<label for=\"from\">From</label><input id=\"from\"><label for=\"from\">To</label><input id=\"from\">",
    ),
    passes: Example::page(
        "<label for=\"from\">From</label><input id=\"from\"><label for=\"to\">To</label><input id=\"to\">",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let mut known: HashMap<&str, NodeId> = HashMap::new();
    for node in visit.elements() {
        let Some(id) = visit.attribute(node, "id").filter(|id| !id.is_empty()) else { continue };
        sink.decided(CHECK.id, 1);
        let Some(first) = known.get(id).copied() else {
            known.insert(id, node);
            continue;
        };
        let message = format!("the id `{id}` stands here for the second time");
        let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, word_in_tag(visit, node, id), message)
            .label("nothing that refers to it comes here")
            .mend(format!("write another one, such as `{id}-2`, and the same in what refers to it"));
        if let Some(span) = visit.span(first) {
            diagnostic = diagnostic.related(span, "the first");
        }
        sink.find(format!("twice {id} {}", tag(visit, node)), diagnostic);
    }
    for node in visit.elements() {
        for attribute in REFERENCES {
            let Some(list) = visit.attribute(node, attribute) else { continue };
            for id in list.split_ascii_whitespace() {
                sink.decided(CHECK.id, 1);
                if known.contains_key(id) {
                    continue;
                }
                let message = format!("`{attribute}` names `{id}`, and nothing on the page has that id");
                let near = nearest(id, known.keys().copied());
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, word_in_tag(visit, node, id), message)
                    .label("leads nowhere")
                    .mend(match near {
                        Some(near) => format!("write `{near}`"),
                        None => format!("give the element that is meant `id=\"{id}\"`"),
                    });
                sink.find(format!("missing {id} {}", tag(visit, node)), diagnostic);
            }
        }
    }
}
