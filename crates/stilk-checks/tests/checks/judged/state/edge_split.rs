//! `state/edge-split`.

use super::{base_fails, base_passes};

#[test]
fn an_edge_goes_along_with_its_fill() {
    base_passes(
        "state/edge-split",
        &[
            "border: 2px solid {sea}; @state hover { background: {ink}; border-color: {ink}; }",
            // An edge of another colour was drawn on purpose, and so was one that stays transparent.
            "border: 2px solid {rust}; @state hover { background: {ink}; }",
            "border: 2px solid transparent; @state hover { background: {ink}; }",
            "border: 0; @state hover { background: {ink}; }",
            "border: 2px solid {sea}; @state hover { background: {ink}; border-color: {paper}; }",
        ],
    );
    base_fails(
        "state/edge-split",
        &[
            ("border: 2px solid {sea}; @state hover { background: {ink}; }", "hover"),
            ("border: 2px solid {sea}; @state selected and hover { background: {ink}; }", "selected"),
            ("border-block-end: 2px solid {sea}; @state active { background: {ink}; }", "active"),
        ],
    );
}
