//! `geometry/inline`.

use crate::judged::{PAIR, fails, passes};

#[test]
fn sizes_are_not_lost_on_an_inline_box() {
    let link = "<a href=\"#\"><span part=\"label\">Book</span></a>";
    passes(
        "geometry/inline",
        link,
        &[
            "display: inline-block; padding: {gap};",
            "display: flex; block-size: 40px;",
            // To the sides an inline box has room.
            "padding-inline: {gap}; margin-inline: 4px;",
            "color: {sea};",
            "position: absolute; inset: 0; padding: {gap};",
        ],
    );
    fails(
        "geometry/inline",
        link,
        &[
            ("padding: {gap};", "padding"),
            ("margin-block-end: 4px;", "margin"),
            ("block-size: 40px;", "height"),
            ("inline-size: 120px;", "width"),
            ("@option wide { inline-size: 120px; }", "width"),
        ],
    );
    // The button would have taken it, the link beside it does not.
    fails("geometry/inline", PAIR, &[("padding: {gap};", "padding")]);
}
