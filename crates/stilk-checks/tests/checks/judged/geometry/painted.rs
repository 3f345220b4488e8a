//! `geometry/painted`.

use crate::judged::{BUTTON, fails, passes};

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
