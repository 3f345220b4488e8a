//! `cascade/masked`.

use crate::judged::{BUTTON, fails, leaves_open, passes};

#[test]
fn a_colour_is_not_hidden_behind_a_picture() {
    let base = "background: linear-gradient({sea}, {ink}); color: {paper};";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("@state hover { background: {rust}; }"),
        with("@state hover { background-color: {rust}; background-image: none; }"),
        with("@state hover { background-image: linear-gradient({ink}, {sea}); }"),
        // A picture that lets the colour through.
        "background: linear-gradient(transparent, rgb(0 0 0 / 20%)) {sea}; @option loud { background-color: {rust}; }"
            .to_owned(),
    ];
    passes("cascade/masked", BUTTON, &good);
    let bad = [
        (with("@state hover { background-color: {rust}; }"), "a picture lies over it"),
        (with("@option loud { background-color: {rust}; }"), "a picture lies over it"),
    ];
    fails("cascade/masked", BUTTON, &bad);
    leaves_open(
        "cascade/masked",
        BUTTON,
        &["background: url(waves.png) {sea}; @option loud { background-color: {rust}; }"],
    );
}
