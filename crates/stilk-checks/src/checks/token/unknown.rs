//! `token/unknown`: every reference names a token that there is. Found while tokens and sheets are read.

use crate::check::{Check, Scope};
use crate::checks::token::count;
use crate::example::Example;
use stilk_text::diagnostic::Level;

/// The check.
pub const CHECK: Check = Check {
    id: "token/unknown",
    summary: "every reference names a token that there is",
    why: "A misspelt name gives no colour at all: the property falls back to what is inherited.",
    source: "Design Tokens Format 2025.10, references",
    level: Level::Error,
    mend: "Write the name that the message offers.",
    fails: Example::sheet("@control button {\n  color: {inc};\n}\n"),
    passes: Example::sheet("@control button {\n  color: {ink};\n}\n"),
    scope: Scope::Reading(count),
};
