//! `markup/nesting`.

use crate::judged::pages::{fails, passes};

#[test]
fn what_stands_in_a_button_is_words_and_pictures() {
    passes(
        "markup/nesting",
        &[
            "BUTTON",
            "<button type=\"button\" class=\"ex-button\"><svg></svg><span class=\"ex-button_label\"><b>Book</b></span></button>",
            "<a href=\"/\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></a>",
        ],
    );
    fails(
        "markup/nesting",
        &[
            ("<button type=\"button\" class=\"ex-button\"><h2 class=\"ex-button_label\">Book</h2></button>", "h2"),
            ("<button type=\"button\" class=\"ex-button\"><ul class=\"ex-button_label\"><li>Book</ul></button>", "ul"),
            ("<a href=\"/\" class=\"ex-button\"><input class=\"ex-button_label\"></a>", "a control stands in a `<a>`"),
        ],
    );
}
