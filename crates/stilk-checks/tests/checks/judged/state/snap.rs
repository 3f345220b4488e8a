//! `state/snap`.

use super::{base_fails, base_passes};

#[test]
fn what_changes_together_moves_together() {
    base_passes(
        "state/snap",
        &[
            // Nothing moves at all, or all of it does.
            "@state hover { background: {ink}; border-color: {ink}; }",
            "transition: background-color 1s, color 1s; @state hover { background: {ink}; color: {mist}; }",
            "transition: background-color 1s; @state hover { background: {ink}; }",
            // A change of its own: focus has nothing to do with what hover moves.
            "transition: background-color 1s; @state hover { background: {ink}; } @state focus { outline: 2px solid {ink}; }",
        ],
    );
    base_fails(
        "state/snap",
        &[
            ("transition: background-color 1s; @state hover { background: {ink}; color: {mist}; }", "color"),
            ("transition: opacity 1s; @state selected { opacity: .5; background: {ink}; }", "background-color"),
        ],
    );
}
