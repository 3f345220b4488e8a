//! `page/bypass`: native controls use the system.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::classes::Meaning;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashSet;
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/bypass",
    summary: "each native control on a page that uses the system is one of the system's",
    why: "A button without the system's classes has another look, other states and no theme.",
    source: "the system's own names",
    level: Level::Note,
    mend: "Paste what `stilk markup CONTROL` prints, or attach the look to markup that cannot be changed with `@attach`.",
    fails: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button> <button type=\"button\">Change</button>",
    ),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button> <button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Change</span></button>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    // A page without the system goes by nothing.
    if visit.instances.is_empty() {
        return;
    }
    let of_controls: HashSet<NodeId> = visit
        .instances
        .iter()
        .flat_map(|instance| instance.parts.iter().map(|(_, part)| *part).chain([instance.node]))
        .collect();
    let is_known = |node: NodeId| {
        let has_class = visit.document().element(node).is_some_and(|element| {
            let of_system = |meaning: &Meaning| matches!(meaning, Meaning::Control(_) | Meaning::Part(..));
            visit.classes.of(element).iter().any(of_system)
        });
        has_class || of_controls.contains(&node)
    };
    for node in visit.elements() {
        let local = visit.local(node);
        let kind = visit.attribute(node, "type").unwrap_or_default();
        let is_native = match local {
            "button" | "select" | "textarea" => true,
            "input" => !["hidden", "image"].contains(&kind),
            _ => false,
        };
        if !is_native {
            continue;
        }
        sink.decided(CHECK.id, 1);
        // What is inside a control is that control's matter.
        if is_known(node) || visit.above(node).any(|above| visit.is_control(above)) {
            continue;
        }
        let what = match (local, kind) {
            ("input", "") => "<input>".to_owned(),
            ("input", kind) => format!("<input type={kind}>"),
            (local, _) => format!("<{local}>"),
        };
        let message = format!("this `{what}` uses no class of the system");
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(node), message).label("goes by the system");
        let class = visit.attribute(node, "class").unwrap_or_default();
        sink.find(format!("{what} {class}"), diagnostic);
    }
}
