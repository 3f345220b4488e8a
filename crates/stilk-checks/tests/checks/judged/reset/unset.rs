//! `reset/unset`.

use crate::judged::{BUTTON, FIELD, fails, passes};

#[test]
fn nothing_is_left_to_what_browsers_bring() {
    passes(
        "reset/unset",
        BUTTON,
        &[
            // What is left out is reset.
            "",
            "background: {sea}; color: {paper};",
            // Initial values are the same everywhere.
            "padding: initial; margin: unset;",
        ],
    );
    fails("reset/unset", BUTTON, &[("padding: revert;", "padding"), ("font: revert;", "font")]);
    // A field that the platform draws is its own.
    passes("reset/unset", FIELD, &["@part native { color: {ink}; }"]);
}
