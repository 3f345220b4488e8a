//! `markup/class`: the classes on a page are ones that the system has.

use crate::check::{Check, Scope};
use crate::checks::markup::{tag, word_in_tag};
use crate::example::Example;
use crate::visit::classes::Meaning;
use crate::visit::{PageSink, VisitedPage};
use stilk_text::diagnostic::{Diagnostic, Level, nearest};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/class",
    summary: "each class that begins as the system's do is one of them, stands with its control, and makes a variant that exists",
    why: "A misspelt class does nothing and says nothing: the button is there, in the wrong look.",
    source: "the system's own names",
    level: Level::Error,
    mend: "Write the nearest name; `stilk markup CONTROL.option` prints markup that is right.",
    fails: Example::page(
        "<button type=\"button\" class=\"ex-button ex-button-quite\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let mut decided = 0;
    for node in visit.elements() {
        let Some(element) = visit.document().element(node) else { continue };
        for class in &element.classes {
            let known = visit.classes.by_pattern(class);
            decided += u64::from(visit.classes.knows(class));
            match known {
                Some(Meaning::Option(control, _)) if !visit.classes.is(element, Meaning::Control(control)) => {
                    let own = visit.system.names().control(&visit.system.controls[control].name.value);
                    let beside = match own.attribute() {
                        Some(("class", own)) => format!("write `{own} {class}`"),
                        Some((attribute, value)) => format!("write `{attribute}=\"{value}\"` beside it"),
                        None => format!("write it on `<{}>`", own.text()),
                    };
                    let message = format!("`{class}` does nothing without `{}` on the same element", own.shown());
                    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, word_in_tag(visit, node, class), message)
                        .label("an option without its control")
                        .mend(beside);
                    sink.find(format!("alone {class}"), diagnostic);
                }
                None if visit.classes.is_ours(class) && !visit.classes.knows(class) => {
                    decided += 1;
                    let message = format!("the system has no class `{class}`");
                    let mut diagnostic =
                        Diagnostic::new(CHECK.level, CHECK.id, word_in_tag(visit, node, class), message)
                            .label("does nothing");
                    if let Some(near) = nearest(class, visit.classes.all()) {
                        diagnostic = diagnostic.mend(format!("write `{near}`"));
                    }
                    sink.find(format!("unknown {class}"), diagnostic);
                }
                _ => {}
            }
        }
    }
    for instance in visit.instances {
        let control = &visit.system.controls[instance.control];
        for axis in 0..control.axes.len() {
            let chosen: Vec<&str> =
                instance.options.iter().filter(|id| id.axis == axis).map(|id| control.option_name(*id)).collect();
            if chosen.len() > 1 {
                let name = &control.axes[axis].name.value;
                let message =
                    format!("`{}` has {} at once, which exclude each other", control.name.value, chosen.join(" and "));
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
                    .label(format!("one option of `{name}` counts"))
                    .mend(format!("keep one of {}", chosen.join(", ")));
                sink.find(tag(visit, instance.node), diagnostic);
            }
        }
        let host = instance.host.unwrap_or_default();
        if control.excludes.iter().any(|exclude| exclude.covers(&instance.variant, host)) {
            let message = format!("`{}` is a variant that the sheet excludes", instance.name(visit.system));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
                .label("never styled, never checked")
                .mend("take one of its options away");
            sink.find(instance.name(visit.system), diagnostic);
        }
    }
    sink.decided(CHECK.id, decided);
}
