//! `markup/label`: each field and each button has a name.

use crate::check::{Check, Scope};
use crate::checks::markup::{is_field, tag};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use std::collections::{HashMap, HashSet};
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
    let beside = Beside::new(visit, &labels);
    for node in visit.elements() {
        if is_field(visit, node) {
            sink.decided(CHECK.id, 1);
            judge_field(visit, node, &by_id, &beside, sink);
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

fn judge_field(visit: &VisitedPage, node: NodeId, by_id: &HashMap<&str, NodeId>, beside: &Beside, sink: &mut PageSink) {
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
        None => sink.find(format!("field {}", tag(visit, node)), no_label(visit, node, id, beside)),
    }
}

/// That a field has no label, and which one was meant.
fn no_label(visit: &VisitedPage, node: NodeId, id: Option<&str>, beside: &Beside) -> Diagnostic {
    let near = beside.label_of(visit, node);
    let message = match near {
        Some(label) => format!("the label `{}` beside this field is not paired with it", visit.text(label)),
        None => "this field has no label".to_owned(),
    };
    let mend = match (near, id) {
        (Some(label), Some(id)) => match visit.attribute(label, "for") {
            Some(wrong) => format!("write `<label for=\"{id}\">`; nothing to be filled in has the id `{wrong}`"),
            None => format!("write `<label for=\"{id}\">`"),
        },
        (Some(_), None) => "give the field an id and the label `for` with it".to_owned(),
        (None, _) => "write a `<label>` with `for`, or `aria-label` where there is no room".to_owned(),
    };
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(node), message).label("has no name").mend(mend);
    match near.and_then(|label| visit.span(label)) {
        Some(span) => diagnostic.related(span, "the label that is meant"),
        None => diagnostic,
    }
}

/// Fields, and labels that are for none, in document order.
struct Beside {
    order: Vec<NodeId>,
    /// Where in the order a field stands.
    places: HashMap<NodeId, usize>,
}

impl Beside {
    fn new(visit: &VisitedPage, labels: &[NodeId]) -> Beside {
        let fields: Vec<NodeId> = visit.elements().filter(|node| is_field(visit, *node)).collect();
        let ids: HashSet<&str> = fields.iter().filter_map(|field| visit.attribute(*field, "id")).collect();
        let is_for_none = |label: &NodeId| match visit.attribute(*label, "for") {
            Some(id) => !ids.contains(id),
            None => !visit.document().descendants(*label).iter().any(|inner| is_field(visit, *inner)),
        };
        let unpaired: HashSet<NodeId> = labels.iter().copied().filter(is_for_none).collect();
        let fields: HashSet<NodeId> = fields.into_iter().collect();
        let order: Vec<NodeId> =
            visit.elements().filter(|node| fields.contains(node) || unpaired.contains(node)).collect();
        let places = order.iter().enumerate().filter(|(_, node)| fields.contains(node));
        let places = places.map(|(place, node)| (*node, place)).collect();
        Beside { order, places }
    }

    /// The label for nothing that stands beside a field with no other field between them: the one that was meant.
    fn label_of(&self, visit: &VisitedPage, field: NodeId) -> Option<NodeId> {
        const AROUND: usize = 3;
        let place = *self.places.get(&field)?;
        let label =
            |place: Option<usize>| self.order.get(place?).copied().filter(|node| !self.places.contains_key(node));
        // How many boxes around the field are left to reach the one that holds both.
        let far = |label: NodeId| {
            let mut around = visit.above(field).take(AROUND);
            around.position(|above| visit.above(label).any(|outer| outer == above))
        };
        let kind = visit.attribute(field, "type").unwrap_or_default();
        let follows = ["checkbox", "radio"].iter().any(|toggle| kind.eq_ignore_ascii_case(toggle));
        let (before, after) = (label(place.checked_sub(1)), label(Some(place + 1)));
        // The words of a box to tick stand after it, of a field to fill in before it.
        let tried = if follows { [after, before] } else { [before, after] };
        let reached = tried.into_iter().flatten().filter_map(|label| Some((far(label)?, label)));
        reached.min_by_key(|(far, _)| *far).map(|(_, label)| label)
    }
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
