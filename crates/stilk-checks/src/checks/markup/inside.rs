//! `markup/inside`: what stands only inside of another control stands there.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
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
    for instance in visit.instances {
        let control: &Control = &visit.system.controls[instance.control];
        if control.inside.is_empty() {
            continue;
        }
        sink.decided(CHECK.id, 1);
        let is_around = |name: &str| {
            visit.above(instance.node).any(|above| {
                visit
                    .instances
                    .iter()
                    .any(|other| other.node == above && visit.system.controls[other.control].name.value == name)
            })
        };
        if control.inside.iter().any(|outer| is_around(&outer.value)) {
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
