//! `token/cycle`: no token refers to itself, by others or in some theme. Found while tokens and sheets are read.

use crate::check::{Check, Scope};
use crate::checks::token::count;
use crate::example::Example;
use stilk_text::diagnostic::Level;

/// The check.
pub const CHECK: Check = Check {
    id: "token/cycle",
    summary: "no token refers to itself, by others or in some theme",
    why: "Tokens that wait for each other have no value.",
    source: "Design Tokens Format 2025.10, circular references",
    level: Level::Error,
    mend: "Give one of them a value of its own.",
    fails: Example::with_tokens(
        "\n  \"day\": { \"$type\": \"color\", \"$value\": \"{dusk}\" },\n  \"dusk\": { \"$type\": \"color\", \"$value\": \"{day}\" }",
        "@control button {\n  color: {day};\n}\n",
    ),
    passes: Example::with_tokens(
        "\n  \"day\": { \"$type\": \"color\", \"$value\": \"{sea}\" },\n  \"dusk\": { \"$type\": \"color\", \"$value\": \"{day}\" }",
        "@control button {\n  color: {day};\n}\n",
    ),
    scope: Scope::Reading(count),
};
