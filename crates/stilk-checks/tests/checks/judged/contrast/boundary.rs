//! `contrast/boundary`.

use crate::judged::{BUTTON, FIELD, asks_nothing, fails, passes};

#[test]
fn an_edge_is_a_border_or_a_fill_that_stands_out() {
    let native = |declarations: &str| format!("@part native {{ appearance: none; {declarations} }}");
    let good = [
        native("background: {paper}; border: 1px solid {sea}; color: {ink};"),
        // The fill alone.
        native("background: {sea}; border: 0; color: {paper};"),
        // The border does not stand out from the fill, the fill does from the page.
        native("background: {sea}; border: 1px solid {sea}; color: {paper};"),
        native("background: {paper}; border: 0; box-shadow: inset 0 0 0 1px {sea}; color: {ink};"),
    ];
    passes("contrast/boundary", FIELD, &good);
    let bad = [
        native("background: {paper}; border: 1px solid {mist}; color: {ink};"),
        native("background: {mist}; border: 0; color: {ink};"),
        native("background: {paper}; border: 0 solid {sea}; color: {ink};"),
        native("background: {paper}; border: 1px solid transparent; color: {ink};"),
    ];
    let words = ["`mist`", "`mist`", "the fill of `x`, `paper`", "the fill of `x`, `paper`"];
    let bad: Vec<(String, &str)> = bad.into_iter().zip(words).collect();
    fails("contrast/boundary", FIELD, &bad);
    // A button needs none: its text says that it is there.
    asks_nothing("contrast/boundary", BUTTON, &["background: {paper}; border: 0; color: {ink};"]);
}
