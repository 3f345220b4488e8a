//! `markup/role`: elements have the roles that the template gives them.

use crate::check::{Check, Scope};
use crate::checks::markup::{tag, word_in_tag};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_engine::dom::NodeId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/role",
    summary: "each control on a page has the roles that its template gives to its elements",
    why: "A switch without `role=\"switch\"` is read as a checkbox, a tab without its role as a button that leads nowhere: it looks \
          right, and is something else to those who listen.",
    source: "WCAG 2.2, 4.1.2 Name, Role, Value; WAI-ARIA 1.2, 5.3",
    level: Level::Error,
    mend: "Write the role of the template, or paste what `stilk markup CONTROL` prints.",
    fails: Example {
        template: SWITCH,
        ..Example::page(
            "<label class=\"ex-button\"><input type=\"checkbox\" class=\"ex-button_native\"><span class=\"ex-button_label\">Quiet deck</span></label>",
        )
    },
    passes: Example {
        template: SWITCH,
        ..Example::page(
            "<label class=\"ex-button\"><input type=\"checkbox\" role=\"switch\" class=\"ex-button_native\"><span class=\"ex-button_label\">Quiet deck</span></label>",
        )
    },
    scope: Scope::Page(run),
};

const SWITCH: &str = "<label><input part=\"native\" type=\"checkbox\" role=\"switch\"><span part=\"label\"><slot>Quiet deck</slot></span></label>\n";

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for instance in visit.instances.iter().filter(|instance| !instance.attached) {
        let control = &visit.system.controls[instance.control];
        let Some(host) = instance.host.map(|host| &control.template.hosts[host]) else { continue };
        let role_of = |node: NodeId| control.template.document.element(node)?.attribute("role");
        let own = std::iter::once((host.node, instance.node));
        let parts = host.parts.iter().flat_map(|(name, node)| {
            let is_there = move |part: &&(String, NodeId)| part.0 == name.value;
            instance.parts.iter().filter(is_there).map(|(_, there)| (*node, *there))
        });
        for (node, there) in own.chain(parts) {
            let Some(role) = role_of(node) else { continue };
            sink.decided(CHECK.id, 1);
            // The first that a browser knows is taken; whoever writes several has thought of it.
            let has = visit.attribute(there, "role").map(str::trim).filter(|has| !has.is_empty());
            if has.is_some_and(|has| has.split_ascii_whitespace().any(|word| word.eq_ignore_ascii_case(role))) {
                continue;
            }
            let name = &control.name.value;
            let (place, message) = match has {
                Some(has) => (
                    word_in_tag(visit, there, has),
                    format!("an element of `{name}` has the role `{has}`, its template has `{role}`"),
                ),
                None => (visit.span(there), format!("an element of `{name}` lacks the role `{role}`")),
            };
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place, message)
                .label("is read as something else")
                .mend(format!("write `role=\"{role}\"`"));
            sink.find(format!("role {role} {}", tag(visit, there)), diagnostic);
        }
    }
}
