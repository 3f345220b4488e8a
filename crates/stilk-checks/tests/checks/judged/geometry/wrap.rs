//! `geometry/wrap`.

use crate::judged::{asks_nothing, fails, passes};

#[test]
fn a_row_wraps_and_keeps_its_gap() {
    let row = "<div role=\"group\"><button type=\"button\" part=\"one\">Book</button><button type=\"button\" part=\"one\">Change</button><button type=\"button\" part=\"one\">Cancel</button></div>";
    let one = "@part one { flex: none; inline-size: 120px; block-size: 30px; }";
    let with = |container: &str| format!("{container} {one}");
    let good = [
        with("display: flex; flex-wrap: wrap; gap: {gap};"),
        // Three of these fit into the smallest window.
        "display: flex; gap: {gap}; @part one { flex: none; inline-size: 60px; }".to_owned(),
    ];
    passes("geometry/wrap", row, &good);
    // A column, a grid and a line of text are no rows.
    let others = [
        with("display: flex; flex-direction: column; gap: {gap};"),
        with("display: grid; grid-template-columns: repeat(auto-fit, 120px); gap: {gap};"),
        with("display: inline;"),
    ];
    asks_nothing("geometry/wrap", row, &others);
    let bad = [
        (with("display: flex; gap: {gap};"), "wrap"),
        (with("display: flex; flex-wrap: wrap; column-gap: {gap};"), "0px between its lines"),
    ];
    fails("geometry/wrap", row, &bad);
}
