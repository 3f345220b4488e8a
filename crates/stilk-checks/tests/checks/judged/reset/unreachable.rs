//! `reset/unreachable`.

use crate::judged::{TICK, fails, passes};

#[test]
fn a_native_control_stays_within_reach_of_the_keyboard() {
    let mark = "@part mark { position: relative; display: inline-block; inline-size: 1em; block-size: 1em; border: 1px solid {ink}; }";
    let native = |declarations: &str| format!("{mark} @part native {{ {declarations} }}");
    let good = [
        native("position: absolute; opacity: 0;"),
        native("position: absolute; inset: 0; appearance: none;"),
        native("clip-path: inset(50%); position: absolute;"),
    ];
    passes("reset/unreachable", TICK, &good);
    let bad = [
        (native("display: none;"), "display"),
        (native("visibility: hidden;"), "visibility"),
        (format!("{} @state checked {{ @part native {{ display: none; }} }}", native("opacity: 0;")), "display"),
    ];
    fails("reset/unreachable", TICK, &bad);
}
