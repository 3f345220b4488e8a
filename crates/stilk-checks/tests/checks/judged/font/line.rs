//! `font/line`.

use crate::judged::{BUTTON, fails, passes};

#[test]
fn lines_are_as_high_as_their_type() {
    passes(
        "font/line",
        BUTTON,
        &[
            "font-size: 20px; line-height: 1;",
            "font-size: 20px; line-height: 20px;",
            "font: 16px/24px sans-serif; @option small { font-size: 12px; }",
            "line-height: normal;",
        ],
    );
    fails(
        "font/line",
        BUTTON,
        &[
            ("font-size: 20px; line-height: .9;", ""),
            ("font-size: 20px; line-height: 19px;", "19px"),
            ("font: 16px/20px sans-serif; @option large { font-size: 24px; }", "20px"),
            ("font-size: 20px; line-height: 80%;", "16px"),
        ],
    );
}
