//! `state/slips`.

use super::BASE;
use crate::judged::{BUTTON, fails, passes};

#[test]
fn a_click_stays_on_what_moves_away() {
    let moved = |by: &str, more: &str| format!("position: relative; {BASE} @state active {{ {by} {more} }}");
    let good = [
        moved("translate: 0 4px;", "@part label::after { content: \"\"; position: absolute; inset: -4px 0 0; }"),
        // It grows: nothing moves away.
        moved("scale: 1.05;", ""),
        moved("opacity: .8;", ""),
    ];
    passes("state/slips", BUTTON, &good);
    let bad = [
        (moved("translate: 0 4px;", ""), "4px"),
        (moved("translate: 3px 0;", ""), "3px"),
        (moved("top: 3px;", ""), "3px"),
        // The box reaches out by less than it moves.
        (
            moved("translate: 0 4px;", "@part label::after { content: \"\"; position: absolute; inset: -2px 0 0; }"),
            "4px",
        ),
    ];
    fails("state/slips", BUTTON, &bad);
}
