//! Where boxes stand, how large they are, and what lies over what.

use super::{BUTTON, PAIR, asks_nothing, fails, leaves_open, passes};

const BADGE: &str = "<button type=\"button\"><span part=\"label\">Book</span><span part=\"badge\">2</span></button>";

#[test]
fn a_placed_part_belongs_to_its_control() {
    passes(
        "geometry/anchored",
        BADGE,
        &[
            "position: relative; @part badge { position: absolute; top: 0; right: 0; }",
            "position: relative; @part badge { position: absolute; inset: 0; }",
            "position: relative; @part badge { position: absolute; inset-block-end: 0; inset-inline-start: 0; }",
            // What only screen readers meet may stand anywhere, and so may what nobody sees.
            "position: relative; @part badge { position: absolute; inline-size: 1px; block-size: 1px; overflow: clip; }",
            "position: relative; @part badge { position: absolute; clip-path: inset(50%); }",
            "position: relative; @part badge { position: absolute; opacity: 0; }",
            // Between two insets it is centred.
            "position: relative; @part badge { position: absolute; inset: 0; margin: auto; inline-size: 20px; block-size: 20px; }",
            // A transform holds what is placed as well.
            "transform: translate(0); @part badge { position: absolute; top: 0; left: 0; }",
        ],
    );
    // Moved from where the text leaves it: nothing is placed.
    asks_nothing("geometry/anchored", BADGE, &["@part badge { position: relative; top: -4px; }"]);
    fails(
        "geometry/anchored",
        BADGE,
        &[
            ("@part badge { position: absolute; top: 0; right: 0; }", "badge"),
            ("position: relative; @part badge { position: absolute; top: 0; }", "nowhere across"),
            ("position: relative; @part badge { position: absolute; left: 0; }", "nowhere downwards"),
            ("position: relative; @part badge { position: absolute; }", "nowhere across"),
            (
                "position: relative; @part badge { position: absolute; inset: 0; inline-size: 20px; }",
                "placed twice across",
            ),
            ("@state selected { @part badge { position: absolute; top: 0; left: 0; } }", "badge"),
        ],
    );
}

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

#[test]
fn nothing_covers_the_label() {
    let base = "position: relative; display: inline-block; padding: {gap}; color: {ink}; font: 16px/20px sans-serif;";
    let with = |more: &str| format!("{base} {more}");
    let cover = "content: \"\"; position: absolute; inset: 0; background: {mist};";
    let good = [
        with(&format!("@part label {{ position: relative; }} @part ::before {{ {cover} }}")),
        with(&format!("isolation: isolate; @part ::before {{ {cover} z-index: -1; }}")),
        // It lies beside the label, or is not painted.
        with(
            "@part ::after { content: \"\"; position: absolute; inset: 0 0 auto; block-size: 4px; background: {mist}; }",
        ),
        with("@part ::after { content: \"\"; position: absolute; inset: 0; }"),
        with(&format!("@part ::after {{ {cover} visibility: hidden; }}")),
        with(&format!("@part ::after {{ {cover} opacity: 0; }}")),
    ];
    passes("geometry/painted", BUTTON, &good);
    let bad = [
        (with(&format!("@part ::before {{ {cover} }}")), "::before"),
        (with(&format!("@part ::after {{ {cover} }}")), "::after"),
        (with("@part ::before { position: absolute; inset: 0; background: {mist}; }"), "content"),
        (
            with(&format!("@part ::after {{ {cover} scale: 0 1; }} @state hover {{ @part ::after {{ scale: 1; }} }}")),
            "::after",
        ),
    ];
    fails("geometry/painted", BUTTON, &bad);
}

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

#[test]
fn what_a_layout_would_have_to_say_is_left_open() {
    leaves_open(
        "geometry/target",
        BUTTON,
        &[
            "display: inline-block; writing-mode: vertical-rl; padding: 4px;",
            "display: inline-block; float: left; padding: 4px; line-height: 20px;",
        ],
    );
    leaves_open("geometry/corner", BUTTON, &["border-radius: 20px; line-height: normal;"]);
}
