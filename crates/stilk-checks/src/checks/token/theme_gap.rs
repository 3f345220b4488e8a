//! `token/theme-gap`: every token that is used has a value in every theme. Found while tokens and sheets are read.

use crate::check::{Check, Scope};
use crate::checks::token::count;
use crate::example::Example;
use stilk_text::diagnostic::Level;

/// The check.
pub const CHECK: Check = Check {
    id: "token/theme-gap",
    summary: "every token that is used has a value in every theme",
    why: "In the theme that was forgotten the colour is missing, and the control shows what is behind it.",
    source: "Design Tokens Resolver 2025.10, resolution order",
    level: Level::Error,
    mend: "Define it in a set, or in each context.",
    fails: Example::themed(
        ["\"flag\": { \"$type\": \"color\", \"$value\": \"{rust}\" }", ""],
        "@control button {\n  color: {flag};\n}\n",
    ),
    passes: Example::themed(
        [
            "\"flag\": { \"$type\": \"color\", \"$value\": \"{rust}\" }",
            "\"flag\": { \"$type\": \"color\", \"$value\": \"{sea}\" }",
        ],
        "@control button {\n  color: {flag};\n}\n",
    ),
    scope: Scope::Reading(count),
};
