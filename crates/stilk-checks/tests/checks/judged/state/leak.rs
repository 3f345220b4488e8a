//! `state/leak`.

use super::{base_fails, base_passes};

#[test]
fn an_option_keeps_what_it_changed_under_the_pointer() {
    base_passes(
        "state/leak",
        &[
            "@state hover { opacity: .8; } @option calm { background: transparent; color: {sea}; }",
            "@state hover { background: {ink}; } @option round { border-radius: 4px; }",
            "--fill: {sea}; background: var(--fill); @state hover { box-shadow: 0 0 0 2px {ink}; } @option calm { --fill: transparent; color: {sea}; }",
            "@state hover { background: {ink}; } @option calm { background: transparent; color: {sea}; @state hover { background: {mist}; } }",
        ],
    );
    base_fails(
        "state/leak",
        &[
            ("@state hover { background: {ink}; } @option calm { background: transparent; color: {sea}; }", "calm"),
            ("@state hover { color: {mist}; } @option calm { background: {paper}; color: {ink}; }", "calm"),
            (
                "border: 1px solid {ink}; @state active { border-color: {rust}; } @option bare { border-color: transparent; }",
                "bare",
            ),
        ],
    );
}
