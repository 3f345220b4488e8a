//! `contrast/text`.

use crate::judged::{BUTTON, fails, leaves_open, passes};

#[test]
fn text_is_judged_on_what_is_painted_behind_it() {
    passes(
        "contrast/text",
        BUTTON,
        &[
            "background: {sea}; color: {paper};",
            // Nothing behind it but the page.
            "background: transparent; color: {ink};",
            // The label has a box of its own.
            "background: {ink}; color: {ink}; @part label { background: {paper}; }",
            // Dark behind light only where it is light enough: black at 45% over white is a mid grey.
            "background: rgb(0 0 0 / 65%); color: {paper};",
            // A state sets both.
            "background: {sea}; color: {paper}; @state hover { background: {mist}; color: {ink}; }",
            // Text that is never painted.
            "background: {mist}; color: {paper}; @part label { opacity: 0; }",
            "background: {mist}; color: {paper}; @part label { display: none; }",
            "background: {mist}; color: transparent;",
            // What text is filled with counts before its colour.
            "background: {sea}; color: {sea}; -webkit-text-fill-color: {paper};",
            "background: {mist}; color: {paper}; -webkit-text-fill-color: transparent;",
            // What is disabled needs no contrast.
            "background: {sea}; color: {paper}; @state disabled { background: {mist}; }",
            // Large, by size or by size and weight.
            "background: {paper}; color: #949494; font-size: 24px;",
            "background: {paper}; color: #949494; font-size: 19px; font-weight: 700;",
        ],
    );
    fails(
        "contrast/text",
        BUTTON,
        &[
            ("background: {paper}; color: {mist};", "`mist` on `paper` is "),
            ("background: {sea}; color: {paper}; @state hover { background: {mist}; }", "`paper` on `mist`"),
            ("background: {sea}; color: {paper}; @state hover { color: {rust}; }", "`rust` on `sea`"),
            ("background: {paper}; color: {ink}; -webkit-text-fill-color: {mist};", "`mist` on `paper` is "),
            // Thinned out by what is around it.
            ("background: {paper}; color: {ink}; @part label { opacity: .3; }", "`ink` on `paper`"),
            ("background: {paper}; color: rgb(0 0 0 / 40%);", "on `paper` is "),
            // A local of an option.
            (
                "--tint: {ink}; background: {paper}; color: var(--tint); @option pale { --tint: {mist}; }",
                "`mist` on `paper`",
            ),
            // One grey step too light, and just large enough to be too small.
            ("background: {paper}; color: #949494; font-size: 23.9px;", "text needs 4.5:1"),
            ("background: {paper}; color: #999999; font-size: 24px;", "text needs 3:1"),
            ("background: {paper}; color: #949494; font-size: 19px; font-weight: 600;", "text needs 4.5:1"),
        ],
    );
    leaves_open(
        "contrast/text",
        BUTTON,
        &[
            "background: url(waves.png); color: {ink};",
            "background: {paper}; color: {ink}; filter: invert(1);",
            "background: {paper}; color: {ink}; mix-blend-mode: multiply;",
            "background: {paper}; color: {ink}; text-shadow: 0 0 2px {paper};",
        ],
    );
}
