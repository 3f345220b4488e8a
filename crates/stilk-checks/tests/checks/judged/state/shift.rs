//! `state/shift`.

use crate::judged::{BUTTON, fails, passes};

#[test]
fn no_state_moves_its_neighbours() {
    let base = "display: inline-block; border: 0; padding: {gap}; font: 16px/20px sans-serif;";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("@state hover { translate: 0 -2px; }"),
        with("@state hover { scale: 1.1; }"),
        with("@state hover { outline: 4px solid {ink}; }"),
        with("@state hover { box-shadow: 0 0 0 4px {ink}; }"),
        // What the border takes, the padding gives.
        with("@state hover { border: 2px solid {ink}; padding: calc({gap} - 2px); }"),
        with("@state hover { font-style: italic; }"),
    ];
    passes("state/shift", BUTTON, &good);
    let bad = [
        (with("@state hover { border: 2px solid {ink}; }"), "hover"),
        (with("@state selected { font-weight: 700; }"), "selected"),
        (with("@state hover { margin-block-start: 2px; }"), "hover"),
        (with("@state active { padding: 9px; }"), "active"),
        (with("@state hover { line-height: 22px; }"), "hover"),
        (with("@state busy { display: none; }"), "busy"),
    ];
    fails("state/shift", BUTTON, &bad);
}
