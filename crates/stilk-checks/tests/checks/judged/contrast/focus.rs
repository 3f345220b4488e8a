//! `contrast/focus`.

use crate::judged::{BUTTON, asks_nothing, fails, passes};

#[test]
fn a_focus_ring_stands_out_and_is_wide_enough() {
    let ring = |declarations: &str| format!("background: {{sea}}; color: {{paper}}; @state focus {{ {declarations} }}");
    let good = [
        ring("outline: 2px solid {ink}; outline-offset: 2px;"),
        ring("outline: 3px dashed {rust}; outline-offset: 1px;"),
        // A shadow is a ring as well.
        ring("outline: none; box-shadow: 0 0 0 2px {paper}, 0 0 0 4px {ink};"),
        ring("outline: none; box-shadow: 0 0 0 1px {mist}, 0 0 0 2px {paper}, 0 0 0 5px {ink};"),
        // Whatever else changes, the ring does what it must.
        ring("outline: 2px solid {ink}; outline-offset: 2px; background: {rust};"),
    ];
    passes("contrast/focus", BUTTON, &good);
    let bad = [
        (ring("outline: 2px solid {mist}; outline-offset: 2px;"), "`mist`"),
        (ring("outline: 1px solid {ink}; outline-offset: 2px;"), "1px"),
        (ring("outline: 2px solid transparent;"), ""),
        // Of the outer ring the inner one leaves a px.
        (ring("outline: none; box-shadow: 0 0 0 3px {paper}, 0 0 0 4px {ink};"), "1px"),
        // One behind the other is not painted at all.
        (ring("outline: none; box-shadow: 0 0 0 3px {paper}, 0 0 0 2px {ink};"), "`paper`"),
        // It touches the control, and there it is lost.
        (ring("outline: 2px solid {rust};"), "`rust`"),
    ];
    fails("contrast/focus", BUTTON, &bad);
    // Of a ring that was there at rest less is left: what focus adds is the other one.
    let covered = "background: {sea}; color: {paper}; box-shadow: 0 0 0 4px {ink};
        @state focus { outline: none; box-shadow: 0 0 0 2px {sea}, 0 0 0 4px {ink}; }";
    passes(
        "contrast/focus",
        BUTTON,
        &[&covered.replace("2px {sea}", "2px {paper}").replace("4px {ink}; }", "5px {ink}; }")],
    );
    fails("contrast/focus", BUTTON, &[(covered, "`sea`")]);
    // That there is none at all is told by `state/missing`.
    asks_nothing("contrast/focus", BUTTON, &[&ring("outline: none;")]);
}
