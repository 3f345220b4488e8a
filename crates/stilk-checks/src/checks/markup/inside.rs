//! `markup/inside`: what stands only inside of another control stands there.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::instance::Instance;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashSet;
use stilk_engine::dom::NodeId;
use stilk_language::system::Control;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/inside",
    summary: "a control that stands only inside of another stands there",
    why: "A segment without its group has neither the ground that it is read on nor the name that says what is chosen: no case of \
          it was ever looked at there.",
    source: "the system's own: `@control NAME inside OTHER`",
    level: Level::Error,
    mend: "Put it into the control that it belongs to, or use one that stands by itself.",
    fails: Example::page(LONE).placed(),
    passes: Example::page(WITH_ITS_ROW).placed(),
    scope: Scope::Page(run),
};

const LONE: &str = "<button type=\"button\" class=\"ex-step\"><span class=\"ex-step_label\">Deck</span></button>";
const WITH_ITS_ROW: &str = "<div class=\"ex-row\"><button type=\"button\" class=\"ex-step ex-row_item\"><span class=\"ex-step_label\">Deck</span></button></div>";

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let controls = &visit.system.controls;
    let is_of_others = |instance: &&Instance| !controls[instance.control].inside.is_empty();
    if !visit.instances.iter().any(|instance| is_of_others(&instance)) {
        return;
    }
    // A page may have any number of both.
    let all: HashSet<(NodeId, &str)> =
        visit.instances.iter().map(|one| (one.node, controls[one.control].name.as_str())).collect();
    for instance in visit.instances.iter().filter(is_of_others) {
        let control: &Control = &controls[instance.control];
        sink.decided(CHECK.id, 1);
        let mut around = visit.above(instance.node);
        if around.any(|above| control.inside.iter().any(|outer| all.contains(&(above, outer.as_str())))) {
            continue;
        }
        let names: Vec<String> = control.inside.iter().map(|outer| format!("`{}`", outer.value)).collect();
        let message = format!("`{}` stands outside of {}", control.name.value, names.join(" and "));
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
            .label("belongs there, and only there")
            .mend(format!("put it into {}", names.join(" or ")));
        sink.find(control.name.value.clone(), diagnostic);
    }
}
