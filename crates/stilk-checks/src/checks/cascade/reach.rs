//! `cascade/reach`: no rule touches elements outside of its control.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "cascade/reach",
    summary: "no rule of the system touches elements outside of its controls: no bare element name, no `*`",
    why: "A rule for every `a` or `button` restyles what other people wrote, in every page that takes the stylesheet.",
    source: "Selectors 4, sections 5 and 6",
    level: Level::Error,
    mend: "Name a class, an attribute or a place on the page: `@attach (.teaser-more > a) as …`.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n}\n@attach (a) as button { label: span; }\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n}\n@attach (.teaser > a) as button { label: span; }\n",
    ),
    scope: Scope::System(run),
};

fn run(survey: &Survey, sink: &mut Sink) {
    // What Stilk writes for a control begins with the control's class; only an attachment may say something else.
    let controls = survey.system.controls.iter().map(|control| control.rules.len() as u64).sum();
    sink.decided(CHECK.id, controls);
    for attachment in &survey.system.attachments {
        sink.decided(CHECK.id, attachment.selectors.len() as u64);
        for selector in &attachment.selectors {
            if selector.contains(['.', '#', '[']) {
                continue;
            }
            let message = format!("`{selector}` is every such element of every page");
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, attachment.span, message)
                .label("reaches what is no control of this system")
                .mend("name a class or an attribute that only the elements have which are meant");
            sink.find(survey.system.control(&attachment.control), diagnostic);
        }
    }
}
