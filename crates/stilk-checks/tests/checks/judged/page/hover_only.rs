//! `page/hover-only`.

use crate::judged::pages::{fails, passes};

#[test]
fn what_hover_reveals_focus_reveals_too() {
    passes(
        "page/hover-only",
        &[
            "<style>.m ul { display: none } .m:hover ul, .m:focus-within ul { display: block }</style><div class=\"m\"><ul></ul></div>",
        ],
    );
    fails(
        "page/hover-only",
        &[
            (
                "<style>.m ul { visibility: hidden } .m:hover ul { visibility: visible }</style><div class=\"m\"><a href=\"/\">x</a><ul></ul></div>",
                ".m:hover ul",
            ),
            (
                "<style>.m ul { opacity: 0 } .m:hover ul { opacity: 1 }</style><div class=\"m\"><a href=\"/\">x</a><ul></ul></div>",
                ".m:hover ul",
            ),
        ],
    );
}
