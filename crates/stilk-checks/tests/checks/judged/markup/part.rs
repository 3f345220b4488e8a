//! `markup/part`.

use crate::judged::pages::{fails, passes};

#[test]
fn parts_are_there_and_in_their_control() {
    let field = "<div class=\"ex-field\"><label class=\"ex-field_label\" for=\"n\">Name</label><input class=\"ex-field_native\" id=\"n\"></div>";
    passes("markup/part", &["BUTTON", field, "<input type=\"submit\" class=\"ex-button\" value=\"Book\">"]);
    fails(
        "markup/part",
        &[
            ("<button type=\"button\" class=\"ex-button\">Book</button>", "`button` lacks its label"),
            ("BUTTON<p class=\"ex-button_label\">Book</p>", "`ex-button_label` stands outside of its control `button`"),
            (
                "<div class=\"ex-field\"><input class=\"ex-field_native\" id=\"n\"><label class=\"ex-field_label\" for=\"n\">Name</label></div>",
                "the parts of `field` stand as native, label",
            ),
            (
                "<div class=\"ex-field\"><label class=\"ex-field_label\" for=\"n\">Name</label></div>",
                "lacks its native",
            ),
        ],
    );
}
