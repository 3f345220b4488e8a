//! `markup/context`: the themes that a page chooses are ones that there are.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_text::diagnostic::{Diagnostic, Level, nearest};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/context",
    summary: "an attribute that chooses a theme names a context that there is",
    why: "A misspelt context chooses nothing: the page stays in the default theme, and nobody is told.",
    source: "the system's own names; Design Tokens Format, Resolver module, modifiers",
    level: Level::Error,
    mend: "Write the name of a context as the resolver document has it.",
    fails: Example::page("<div data-theme=\"ngiht\"><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button></div>").in_themes(THEMES),
    passes: Example::page("<div data-theme=\"night\"><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button></div>").in_themes(THEMES),
    scope: Scope::Page(run),
};

const THEMES: [&str; 2] = [
    "\"glow\": { \"$type\": \"color\", \"$value\": { \"colorSpace\": \"srgb\", \"components\": [1, 1, 1] } }",
    "\"glow\": { \"$type\": \"color\", \"$value\": { \"colorSpace\": \"srgb\", \"components\": [0, 0, 0] } }",
];

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    let system = visit.system;
    for modifier in &system.tokens.modifiers {
        let attribute = system.manifest.attribute_of(&modifier.name.value);
        for node in visit.elements() {
            let Some(chosen) = visit.attribute(node, &attribute) else { continue };
            sink.decided(CHECK.id, 1);
            let names = || modifier.contexts.iter().map(|context| context.value.as_str());
            if names().any(|name| name == chosen) {
                continue;
            }
            let message = format!("`{}` has no context `{chosen}`", modifier.name.value);
            let mend = match nearest(chosen, names()) {
                Some(near) => format!("write `{attribute}=\"{near}\"`"),
                None => format!("write one of: {}", names().collect::<Vec<_>>().join(", ")),
            };
            let diagnostic =
                Diagnostic::new(CHECK.level, CHECK.id, visit.span(node), message).label("chooses nothing").mend(mend);
            sink.find(format!("{attribute} {chosen}"), diagnostic);
        }
    }
}
