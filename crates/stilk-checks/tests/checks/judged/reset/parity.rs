//! `reset/parity`.

use crate::judged::{PAIR, fails, passes};

#[test]
fn hosts_of_a_control_look_alike() {
    passes(
        "reset/parity",
        PAIR,
        &[
            "background: {sea}; color: {paper}; padding: {gap};",
            // Whatever a browser gives a link is reset, and so is a button's font.
            "background: {sea};",
            // Said on purpose.
            "padding: {gap}; @host a { padding: 4px; }",
        ],
    );
    fails(
        "reset/parity",
        PAIR,
        &[
            ("padding: {gap}; &:is(a) { padding: 4px; }", "padding"),
            ("color: {ink}; &[href] { color: {sea}; }", "color"),
            ("&:not(button) { letter-spacing: 1px; }", "letter-spacing"),
        ],
    );
}
