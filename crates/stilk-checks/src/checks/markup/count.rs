//! `markup/count`: no more of a thing on one page than the maintainer allows.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::instance::Instance;
use crate::visit::{PageSink, VisitedPage};
use stilk_language::manifest::counted;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/count",
    summary: "no page has more of a control or option than the manifest allows",
    why: "Three of the strongest button on one page are three times nothing: nobody sees what to do next.",
    source: "`[checks] count` in the manifest",
    level: Level::Warning,
    mend: "Leave the strongest to the one thing that the page is for, and give the others a quieter option.",
    fails: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>\n<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Change</span></button>",
    )
    .counted(),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>\n<button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Change</span></button>",
    )
    .counted(),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for (name, most) in &visit.system.manifest.counts {
        let wanted = counted(&name.value);
        let counts = |instance: &&Instance| {
            let own = &visit.system.controls[instance.control];
            let has = |option: &&str| match *option {
                "plain" if own.find_option("plain").is_none() => own.spoken_options(&instance.variant).next().is_none(),
                option => own.find_option(option).is_some_and(|id| instance.variant.has(id)),
            };
            wanted.iter().any(|one| own.name.value == one.control && one.options.iter().all(has))
        };
        let found: Vec<&Instance> = visit.instances.iter().filter(counts).collect();
        sink.decided(CHECK.id, found.len() as u64);
        if found.len() as u64 <= *most {
            continue;
        }
        let message = format!("the page has {} of `{}`, the system allows {most}", found.len(), name.value);
        let extra =
            found.get(usize::try_from(*most).unwrap_or(usize::MAX)).and_then(|instance| visit.span(instance.node));
        let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, extra, message).label("one too many");
        if let Some(span) = found.first().and_then(|instance| visit.span(instance.node)) {
            diagnostic = diagnostic.related(span, "the first");
        }
        sink.find(name.value.clone(), diagnostic);
    }
}
