//! `markup/class`.

use crate::judged::pages::{fails, passes};

#[test]
fn classes_are_the_systems() {
    passes(
        "markup/class",
        &[
            "BUTTON",
            "<a href=\"/\" class=\"ex-button ex-button-calm mine\"><span class=\"ex-button_label\">Book</span></a>",
            // Others may begin alike.
            "BUTTON<p class=\"exhibit extra\">North</p>",
        ],
    );
    fails(
        "markup/class",
        &[
            ("<button type=\"button\" class=\"ex-button ex-button-quite\">Book</button>", "ex-button-quite"),
            ("<button type=\"button\" class=\"ex-buton\">Book</button>", "ex-buton"),
            (
                "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_lable\">Book</span></button>",
                "ex-button_lable",
            ),
            // An option without its control.
            ("<button type=\"button\" class=\"ex-button-calm\">Book</button>", "ex-button-calm"),
        ],
    );
}
