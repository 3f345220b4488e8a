//! `cascade/name`.

use crate::judged::{BUTTON, asks_nothing, fails, passes};

#[test]
fn what_is_named_is_there() {
    passes(
        "cascade/name",
        BUTTON,
        &[
            "counter-reset: berth; @part label::before { content: counters(berth, \".\") \" \"; }",
            "@part label::before { content: counter(list-item) \". \"; }",
            "display: grid; grid-template-areas: \"icon label\"; @part label { grid-area: label; }",
            "display: grid; grid-template-columns: [text-start] 1fr [text-end]; @part label { grid-column: text; }",
            "container-name: deck; @part label { @container deck (width > 20rem) { color: {ink}; } }",
            // The grid that a control stands in is the page's, and so may a container be.
            "grid-area: aside;",
            "@container main (width > 20rem) { color: {ink}; }",
        ],
    );
    asks_nothing(
        "cascade/name",
        BUTTON,
        &[
            "animation: none;",
            "animation: 1s ease-in both;",
            "@container (width > 20rem) { color: {ink}; }",
            "@part label { grid-area: 1 / 1 / auto / span 2; }",
        ],
    );
    fails(
        "cascade/name",
        BUTTON,
        &[
            ("animation: glow 1s infinite alternate;", "no keyframes `glow`"),
            ("animation-name: glow;", "no keyframes `glow`"),
            ("@part label::before { content: counter(berth); }", "no counter `berth`"),
            (
                "display: grid; grid-template-areas: \"icon label\"; @part label { grid-area: labl; }",
                "no grid area `labl`",
            ),
            (
                "container-name: deck; @part label { @container dek (width > 20rem) { color: {ink}; } }",
                "no container `dek`",
            ),
        ],
    );
}
