//! `markup/label`: each field and each button has a name.

use crate::check::{Check, Scope};
use crate::checks::markup::{is_field, tag};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashMap;
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/label",
    summary: "each field is paired with a label, and each button has a name",
    why: "A word beside a field is a label to those who see it. Without `for`, or the field inside, nobody else learns what to \
          enter, and a click on the word does nothing.",
    source: "WCAG 2.2, 1.3.1, 3.3.2 and 4.1.2; Accessible Name Computation 1.2; HTML, 4.10.4",
    level: Level::Error,
    mend: "Write `for` with the field's id, or put the field into its label; a button without words needs `aria-label`.",
    fails: Example::page(
        "<div class=\"ex-field\"><label class=\"ex-field_label\">Name</label><input class=\"ex-field_native\" id=\"name\"></div>",
    ),
    passes: Example::page(
        "<div class=\"ex-field\"><label class=\"ex-field_label\" for=\"name\">Name</label><input class=\"ex-field_native\" id=\"name\"></div>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let labels: Vec<NodeId> = visit.elements().filter(|node| visit.local(*node) == "label").collect();
    let mut by_id: HashMap<&str, NodeId> = HashMap::new();
    for label in labels.iter().rev() {
        by_id.extend(visit.attribute(*label, "for").map(|id| (id, *label)));
    }
    // Those beside which a field may stand, in document order.
    const MOST: usize = 500;
    let unpaired: Vec<NodeId> = labels.iter().copied().filter(|label| is_unpaired(visit, *label)).take(MOST).collect();
    for node in visit.elements() {
        if is_field(visit, node) {
            sink.decided(CHECK.id, 1);
            judge_field(visit, node, &by_id, &unpaired, sink);
        }
        let presses = match visit.local(node) {
            "button" => true,
            "a" => visit.attribute(node, "href").is_some() && visit.is_control(node),
            _ => false,
        };
        if presses {
            sink.decided(CHECK.id, 1);
            judge_press(visit, node, sink);
        }
    }
}

/// Whether an attribute names an element.
fn is_named(visit: &VisitedPage, node: NodeId) -> bool {
    let has = |name: &str| visit.attribute(node, name).is_some_and(|text| !text.trim().is_empty());
    has("aria-label") || has("aria-labelledby") || has("title")
}

fn judge_field(
    visit: &VisitedPage,
    node: NodeId,
    by_id: &HashMap<&str, NodeId>,
    unpaired: &[NodeId],
    sink: &mut PageSink,
) {
    if is_named(visit, node) {
        return;
    }
    let id = visit.attribute(node, "id").filter(|id| !id.is_empty());
    let around = visit.above(node).find(|above| visit.local(*above) == "label");
    match id.and_then(|id| by_id.get(id).copied()).or(around) {
        Some(label) if visit.text(label).is_empty() => {
            let message = format!("the label of `{}` holds no words", tag(visit, node));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(label), message)
                .label("an empty label")
                .mend("write what is to be entered");
            sink.find(format!("empty {}", tag(visit, label)), diagnostic);
        }
        Some(_) => {}
        None => sink.find(format!("field {}", tag(visit, node)), no_label(visit, node, id, unpaired)),
    }
}

/// That a field has no label, and which one was meant.
fn no_label(visit: &VisitedPage, node: NodeId, id: Option<&str>, unpaired: &[NodeId]) -> Diagnostic {
    let near = nearest_label(visit, node, unpaired);
    let message = match near {
        Some(label) => format!("the label `{}` beside this field is not paired with it", visit.text(label)),
        None => "this field has no label".to_owned(),
    };
    let mend = match (near, id) {
        (Some(_), Some(id)) => format!("write `<label for=\"{id}\">`"),
        (Some(_), None) => "give the field an id and the label `for` with it".to_owned(),
        (None, _) => "write a `<label>` with `for`, or `aria-label` where there is no room".to_owned(),
    };
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(node), message).label("has no name").mend(mend);
    match near.and_then(|label| visit.span(label)) {
        Some(span) => diagnostic.related(span, "the label that is meant"),
        None => diagnostic,
    }
}

/// Whether a label is for nothing.
fn is_unpaired(visit: &VisitedPage, label: NodeId) -> bool {
    visit.attribute(label, "for").is_none()
        && !visit.document().descendants(label).iter().any(|inner| is_field(visit, *inner))
}

/// The unpaired label of the smallest box around a field and it: that one was meant.
fn nearest_label(visit: &VisitedPage, field: NodeId, unpaired: &[NodeId]) -> Option<NodeId> {
    const AROUND: usize = 3;
    let mut around = visit.above(field).take(AROUND);
    around.find_map(|above| unpaired.iter().copied().find(|label| visit.above(*label).any(|outer| outer == above)))
}

fn judge_press(visit: &VisitedPage, node: NodeId, sink: &mut PageSink) {
    let has_picture = || {
        visit.document().descendants(node).iter().any(|inner| {
            visit.attribute(*inner, "alt").is_some_and(|alt| !alt.is_empty())
                || visit.local(*inner) == "title"
                || visit.attribute(*inner, "aria-label").is_some()
        })
    };
    if visit.text(node).is_empty() && !is_named(visit, node) && !has_picture() {
        let message = format!("`{}` has no name", tag(visit, node));
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(node), message)
            .label("is read as \u{201c}button\u{201d} and nothing else")
            .mend("write words into it, or `aria-label`");
        sink.find(format!("button {}", tag(visit, node)), diagnostic);
    }
}
