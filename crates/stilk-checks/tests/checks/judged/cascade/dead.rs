//! `cascade/dead`.

use crate::judged::{BUTTON, asks_nothing, fails, passes};

#[test]
fn every_declaration_wins_somewhere() {
    passes(
        "cascade/dead",
        BUTTON,
        &[
            "color: {paper}; @state hover { color: {mist}; }",
            // A fallback for browsers that do not know the second value.
            "color: {paper}; @option pale { color: {mist}; }",
            // A shorthand, and one side of it.
            "padding: 4px; padding-inline: 8px;",
            "--tint: {sea}; background: var(--tint);",
        ],
    );
    // Under a condition it may win elsewhere.
    asks_nothing("cascade/dead", BUTTON, &["@media (width > 600px) { color: {sea}; }"]);
    fails(
        "cascade/dead",
        BUTTON,
        &[
            ("color: {sea}; color: {ink};", "color"),
            ("padding-inline: 8px; padding: 4px;", "padding-inline"),
            ("background-color: {sea}; background: {mist};", "background-color"),
            ("@state hover { color: {sea}; color: {ink}; }", "color"),
        ],
    );
}
