//! `markup/count`.

use crate::judged::pages::{fails, passes};

#[test]
fn a_page_stresses_no_more_than_the_system_allows() {
    let quiet = "<button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Change</span></button>";
    let mixed = format!("BUTTON{quiet}{quiet}");
    passes("markup/count", &["BUTTON", &mixed]);
    fails(
        "markup/count",
        &[("BUTTONBUTTON", "the page has 2 of `button.plain`, the system allows 1"), ("BUTTONBUTTONBUTTON", "3 of")],
    );
}
