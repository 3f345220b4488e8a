//! `markup/part`: a control has its parts, in their order.

use crate::check::{Check, Scope};
use crate::checks::markup::{tag, word_in_tag};
use crate::example::Example;
use crate::visit::classes::Meaning;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashSet;
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/part",
    summary: "each control on a page has the parts of its template, in their order, and no part stands outside its control",
    why: "A switch without its thumb is a track; a label outside of its button gets no rule at all.",
    source: "the system's own templates",
    level: Level::Warning,
    mend: "Paste what `stilk markup CONTROL` prints.",
    fails: Example::page("<button type=\"button\" class=\"ex-button\">Book</button>"),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let document = visit.document();
    for instance in visit.instances.iter().filter(|instance| !instance.attached) {
        let Some(host) = instance.host else { continue };
        sink.decided(CHECK.id, 1);
        let control = &visit.system.controls[instance.control];
        let template = &control.template;
        let host = &template.hosts[host];
        // What a page or an option decides on need not be there; a part that is another control is that control's matter.
        let optional = |node: NodeId| {
            let mut at = Some(node);
            while let Some(here) = at {
                let element = template.document.element(here);
                if element.is_some_and(|e| e.attribute("data-when").is_some() || e.attribute("data-control").is_some())
                {
                    return true;
                }
                at = template.document.node(here).parent.filter(|_| here != host.node);
            }
            false
        };
        let mut wanted: Vec<&str> = Vec::new();
        for (name, node) in &host.parts {
            if !optional(*node) && !wanted.contains(&name.value.as_str()) {
                wanted.push(&name.value);
            }
        }
        let missing: Vec<&str> =
            wanted.iter().copied().filter(|name| !instance.parts.iter().any(|(known, _)| known == name)).collect();
        if !missing.is_empty() {
            let names: Vec<String> =
                missing.iter().map(|part| visit.system.names().part(&control.name.value, part).shown()).collect();
            let message = format!("`{}` lacks its {}", control.name.value, missing.join(", "));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
                .label(format!("no `{}`", names.join("`, `")))
                .mend(format!("paste what `stilk markup {}` prints", instance.name(visit.system)));
            sink.find(format!("missing {} {}", missing.join(" "), tag(visit, instance.node)), diagnostic);
        }
        let order: Vec<usize> = instance
            .parts
            .iter()
            .filter_map(|(name, _)| host.parts.iter().position(|(known, _)| known.value == *name))
            .collect();
        let is_sorted = order.windows(2).all(|pair| pair[0] <= pair[1]);
        // Parts that repeat go round: what comes again is no disorder.
        let mut seen: Vec<usize> = Vec::new();
        let repeats = order.iter().any(|place| {
            seen.contains(place) || {
                seen.push(*place);
                false
            }
        });
        if !is_sorted && !repeats {
            let names: Vec<&str> = instance.parts.iter().map(|(name, _)| name.as_str()).collect();
            let message = format!("the parts of `{}` stand as {}", control.name.value, names.join(", "));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
                .label("in another order than its template has them")
                .mend(format!("write them as {}", wanted.join(", ")));
            sink.find(format!("order {}", tag(visit, instance.node)), diagnostic);
        }
    }
    let is_of: HashSet<(NodeId, usize)> = visit.instances.iter().map(|i| (i.node, i.control)).collect();
    for node in visit.elements() {
        let Some(element) = document.element(node) else { continue };
        for class in &element.classes {
            let Some(Meaning::Part(control, _)) = visit.classes.by_pattern(class) else { continue };
            let own = &visit.system.controls[control].name.value;
            let is_inside = |above: NodeId| is_of.contains(&(above, control));
            if !visit.above(node).any(is_inside) {
                let class_of_control = visit.system.names().control(own).shown();
                let message = format!("`{class}` stands outside of its control `{own}`");
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, word_in_tag(visit, node, class), message)
                    .label("no rule reaches it here")
                    .mend(format!("put it into an element with `{class_of_control}`"));
                sink.find(format!("outside {class} {}", tag(visit, node)), diagnostic);
            }
        }
    }
}
