//! `token/type`: each token has a value of its type. Found while tokens and sheets are read.

use crate::check::{Check, Scope};
use crate::checks::token::count;
use crate::example::Example;
use stilk_text::diagnostic::Level;

/// The check.
pub const CHECK: Check = Check {
    id: "token/type",
    summary: "each token has a value of its type",
    why: "A length where a colour is meant is found by no browser: the declaration is dropped without a word.",
    source: "Design Tokens Format 2025.10, types",
    level: Level::Error,
    mend: "Write a value of the type, in the shape that the message shows.",
    fails: Example::with_tokens("\n  \"shade\": { \"$value\": 3 }", "@control button {\n  color: {shade};\n}\n"),
    passes: Example::with_tokens(
        "\n  \"shade\": { \"$type\": \"color\", \"$value\": \"{sea}\" }",
        "@control button {\n  color: {shade};\n}\n",
    ),
    scope: Scope::Reading(count),
};
