//! `token/deprecated`: nothing uses a token that should go.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "token/deprecated",
    summary: "no sheet uses a token that is marked as deprecated",
    why: "A token that is to go takes with it whatever still uses it.",
    source: "Design Tokens Format 2025.10, $deprecated",
    level: Level::Warning,
    mend: "Use what its description offers instead.",
    fails: Example::with_tokens(
        "\n  \"old-sea\": { \"$type\": \"color\", \"$value\": \"{sea}\", \"$deprecated\": \"use sea\" }",
        "@control button {\n  color: {old-sea};\n}\n",
    ),
    passes: Example::with_tokens(
        "\n  \"old-sea\": { \"$type\": \"color\", \"$value\": \"{sea}\", \"$deprecated\": \"use sea\" }",
        "@control button {\n  color: {sea};\n}\n",
    ),
    scope: Scope::System(run),
};

fn run(survey: &Survey, sink: &mut Sink) {
    for control in &survey.system.controls {
        for declaration in control.rules.iter().flat_map(|rule| &rule.declarations) {
            for id in declaration.value.tokens() {
                sink.decided(CHECK.id, 1);
                let token = survey.system.tokens.get(id);
                let Some(reason) = &token.deprecated else { continue };
                let message = format!("`{}` is deprecated", token.path);
                let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, declaration.span, message).label("uses it");
                if !reason.is_empty() && reason != "true" {
                    diagnostic = diagnostic.mend(reason.clone());
                }
                sink.find(Some(control), diagnostic);
            }
        }
    }
}
