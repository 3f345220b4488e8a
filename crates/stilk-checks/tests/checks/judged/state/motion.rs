//! `state/motion`.

use super::{base_fails, base_passes};

#[test]
fn what_moves_is_named() {
    base_passes(
        "state/motion",
        &[
            "transition: none;",
            "transition: background-color 120ms, color 120ms;",
            "transition-property: opacity; transition-duration: 120ms;",
        ],
    );
    base_fails(
        "state/motion",
        &[
            ("transition: 120ms;", "all"),
            ("transition: color 80ms, all 120ms;", "all"),
            ("transition-duration: 1s;", "all"),
        ],
    );
}
