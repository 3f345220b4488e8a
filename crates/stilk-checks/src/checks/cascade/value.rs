//! `cascade/value`: each value fits its property. Found while sheets are read.

use crate::check::{Check, Scope};
use crate::example::Example;
use stilk_language::system::System;
use stilk_text::diagnostic::Level;

/// The check.
pub const CHECK: Check = Check {
    id: "cascade/value",
    summary: "each value fits its property: a length has its unit, a colour is one, no semicolon is missing",
    why: "A browser drops a declaration that it cannot read and says nothing: the padding that was forgotten a unit is gone.",
    source: "the grammars of the CSS modules that define each property",
    level: Level::Error,
    mend: "Write what the message offers; a sheet with such a value is not built.",
    fails: Example::sheet("@control button {\n  padding: 8; color: {ink};\n}\n"),
    passes: Example::sheet("@control button {\n  padding: 8px; color: {ink};\n}\n"),
    scope: Scope::Reading(count),
};

fn count(system: &System) -> u64 {
    let rules = system.controls.iter().flat_map(|control| &control.rules);
    rules.map(|rule| rule.declarations.len() as u64).sum()
}
