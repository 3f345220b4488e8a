//! `markup/group`: radio buttons belong together by their name.

use crate::check::{Check, Scope};
use crate::checks::markup::tag;
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use std::collections::BTreeMap;
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/group",
    summary: "radio buttons share a name with at least one other, differ in value, and stand in a group with a name",
    why: "Radio buttons without a common name can all be on at once, and the arrow keys do not lead from one to the next. Without \
          a group with a name nobody who listens knows what is being chosen.",
    source: "HTML, 4.10.5.1.16 (radio button groups); WCAG 2.2, 1.3.1",
    level: Level::Error,
    mend: "Give all choices of one question the same `name` and a `value` each, inside `<fieldset><legend>…</legend>`.",
    fails: Example::page(
        "<fieldset><legend>Deck</legend><label><input type=\"radio\" value=\"sun\"> Sun</label> <label><input type=\"radio\" value=\"car\"> Car</label></fieldset>",
    ),
    passes: Example::page(
        "<fieldset><legend>Deck</legend><label><input type=\"radio\" name=\"deck\" value=\"sun\"> Sun</label> <label><input type=\"radio\" name=\"deck\" value=\"car\"> Car</label></fieldset>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let is_radio = |node: &NodeId| {
        visit.local(*node) == "input" && visit.attribute(*node, "type").is_some_and(|t| t.eq_ignore_ascii_case("radio"))
    };
    let mut groups: BTreeMap<(Option<NodeId>, String), Vec<NodeId>> = BTreeMap::new();
    let mut nameless = Vec::new();
    for node in visit.elements().filter(|node| is_radio(node)) {
        sink.decided(CHECK.id, 1);
        let form = visit.above(node).find(|above| visit.local(*above) == "form");
        match visit.attribute(node, "name").filter(|name| !name.is_empty()) {
            Some(name) => groups.entry((form, name.to_owned())).or_default().push(node),
            None => nameless.push(node),
        }
    }
    if let Some(first) = nameless.first() {
        let message = match nameless.len() {
            1 => "a radio button has no name, so it is in no group".to_owned(),
            count => format!("{count} radio buttons have no name: each can be on, whatever the others are"),
        };
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(*first), message)
            .label("in no group")
            .mend("give all choices of one question the same `name`");
        sink.find(format!("nameless {}", tag(visit, *first)), diagnostic);
    }
    for ((_, name), members) in &groups {
        let Some(first) = members.first() else { continue };
        if members.len() == 1 {
            let message = format!("the radio button `{name}` is alone in its group: once on, it cannot be turned off");
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(*first), message)
                .label("no other has this name")
                .mend("give it the name of the choices beside it, or use a checkbox");
            sink.find(format!("alone {}", tag(visit, *first)), diagnostic);
        }
        let mut values: Vec<&str> = Vec::new();
        for member in members {
            let value = visit.attribute(*member, "value").unwrap_or("on");
            if values.contains(&value) {
                let message = format!("two choices of `{name}` send the same value `{value}`");
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(*member), message)
                    .label("cannot be told from another")
                    .mend("give each choice a `value` of its own");
                sink.find(format!("value {}", tag(visit, *member)), diagnostic);
                break;
            }
            values.push(value);
        }
        let is_group = |above: &NodeId| {
            let role = visit.attribute(*above, "role").unwrap_or_default();
            let has_legend = || visit.document().child_elements(*above).any(|child| visit.local(child) == "legend");
            let is_named = ["aria-label", "aria-labelledby"].iter().any(|name| visit.attribute(*above, name).is_some());
            visit.local(*above) == "fieldset" && (has_legend() || is_named)
                || ["radiogroup", "group"].contains(&role) && is_named
        };
        if members.len() > 1 && !visit.above(*first).any(|above| is_group(&above)) {
            let message = format!("the choices of `{name}` stand in no group with a name");
            let diagnostic = Diagnostic::new(Level::Warning, CHECK.id, visit.span(*first), message)
                .label("nobody who listens knows what is chosen")
                .mend("put them into `<fieldset>` with a `<legend>`");
            sink.find(format!("group {}", tag(visit, *first)), diagnostic);
        }
    }
}
