//! `geometry/target`.

use crate::judged::{BUTTON, fails, passes};

#[test]
fn a_target_can_be_hit() {
    let base = "display: inline-block; border: 0; font: 12px/16px sans-serif;";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("padding: 4px;"),
        with("padding: 0; min-block-size: 24px; min-inline-size: 24px;"),
        with("padding: 0 4px; block-size: 24px;"),
        with("padding: 3px 4px; border: 1px solid;"),
    ];
    passes("geometry/target", BUTTON, &good);
    let bad = [
        (with("padding: 0;"), "16px"),
        (with("padding: 3px 4px;"), "22px"),
        (with("padding: 4px; @option tight { padding: 2px 4px; }"), "20px"),
        (with("padding: 4px; inline-size: 20px;"), "20px"),
    ];
    fails("geometry/target", BUTTON, &bad);
}
