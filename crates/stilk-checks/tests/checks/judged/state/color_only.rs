//! `state/color-only`.

use super::{BASE, base_fails, base_passes};
use crate::judged::{BUTTON, FIELD, asks_nothing, fails, passes};

#[test]
fn a_lasting_state_differs_by_more_than_a_hue() {
    base_passes(
        "state/color-only",
        &[
            // Lightness tells them apart.
            "@state selected { background: {mist}; color: {ink}; }",
            "@state selected { background: {rust}; font-weight: 700; }",
            "@state selected { background: {rust}; @part label::before { content: \"✓ \"; } }",
            "@state selected { background: {rust}; text-decoration-line: underline; }",
            "@state selected { background: {rust}; border: 3px solid {paper}; }",
        ],
    );
    // What passes is no lasting state.
    asks_nothing("state/color-only", BUTTON, &[&format!("{BASE} @state hover {{ background: {{rust}}; }}")]);
    base_fails(
        "state/color-only",
        &[
            ("@state selected { background: {rust}; }", "selected"),
            ("border: 2px solid {sea}; @state selected { border-color: {rust}; }", "selected"),
        ],
    );
    fails(
        "state/color-only",
        FIELD,
        &[(
            "@part native { background: {paper}; border: 1px solid {sea}; color: {ink}; } @state invalid { @part native { border-color: {rust}; } }",
            "invalid",
        )],
    );
    passes(
        "state/color-only",
        FIELD,
        &[
            "@part native { background: {paper}; border: 1px solid {sea}; color: {ink}; } @state invalid { @part native { border: 2px solid {rust}; } }",
        ],
    );
}
