//! `state/indistinct`.

use super::{base_fails, base_passes};

#[test]
fn two_states_look_different() {
    base_passes(
        "state/indistinct",
        &[
            "@state hover { background: {ink}; }",
            "@state hover { box-shadow: 0 0 0 2px {ink}; }",
            "@state hover { translate: 0 -1px; }",
            "@state hover { background: {ink}; } @state selected { background: {rust}; } @state selected and hover { background: {mist}; color: {ink}; }",
        ],
    );
    base_fails(
        "state/indistinct",
        &[
            ("@state hover { background: color-mix(in oklab, {sea}, {ink} 1%); }", "hover"),
            // A lasting state covers the pointer's.
            ("@state hover { background: {ink}; } @state selected { background: {rust}; }", "hover"),
        ],
    );
}
