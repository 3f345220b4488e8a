//! `geometry/mirrored`.

use crate::judged::{BUTTON, fails, passes, project, verdict};

#[test]
fn what_stays_on_its_side_is_told() {
    let base = "display: flex; inline-size: 200px; padding-inline: 8px; font: 16px/20px sans-serif;";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("padding-inline-start: 20px;"),
        with("padding-left: 12px; padding-right: 12px;"),
        with("@part label { margin-inline-end: auto; }"),
        with("border-start-start-radius: 8px; border-end-start-radius: 8px;"),
        with("text-align: start; @part label { text-align: center; }"),
        // The middle is its own image, however it was found.
        with(
            "position: relative; @part label::before { content: \"\"; position: absolute; left: 50%; width: 10px; translate: -50% 0; }",
        ),
        with("position: relative; @part label::after { content: \"\"; position: absolute; inset: 0; }"),
        // Said on purpose.
        with("padding-left: 20px; &:dir(rtl) { padding-left: 8px; padding-right: 20px; }"),
        with("background: linear-gradient({sea}, {ink});"),
    ];
    passes("geometry/mirrored", BUTTON, &good);
    let bad = [
        (with("padding-left: 20px;"), "`padding-left`"),
        (with("padding: 4px 20px 4px 8px;"), "`padding-left`"),
        (with("@part label { margin-right: 20px; margin-left: auto; }"), "`margin-"),
        (with("border-left: 4px solid {ink};"), "`border-left-width`"),
        (with("border-radius: 8px 0 0 8px;"), "-radius`"),
        (with("text-align: left;"), "`text-align`"),
        (with("background: linear-gradient(to right, {sea}, {ink});"), "`background-image`"),
        (
            with(
                "position: relative; @part label::after { content: \"\"; position: absolute; right: 4px; top: 0; width: 8px; height: 8px; }",
            ),
            "`right`",
        ),
        (with("@part label { translate: 10px 0; }"), "`translate`"),
    ];
    fails("geometry/mirrored", BUTTON, &bad);
}

#[test]
fn who_writes_no_logical_side_has_not_asked() {
    let (said, decided, _) =
        verdict("geometry/mirrored", &project(BUTTON, "padding: 4px 20px 4px 8px; text-align: left;"));
    assert_eq!((said, decided), (Vec::new(), 0));
}
