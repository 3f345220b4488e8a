//! `page/unreachable`.

use crate::judged::pages::{fails, passes};

const FIELD: &str = "<div class=\"ex-field\"><label class=\"ex-field_label\" for=\"n\">Name</label><input class=\"ex-field_native\" id=\"n\"></div>";

#[test]
fn the_keyboard_reaches_what_the_system_draws() {
    let page = |style: &str| format!("<style>{style}</style>{FIELD}");
    let good = ["", "input { opacity: 0 }", ".ex-field { display: none }", ".search input { display: none }"].map(page);
    passes("page/unreachable", &good.each_ref().map(String::as_str));
    let bad =
        ["input { display: none }", "input { visibility: hidden }", "@media all { input { display: none } }"].map(page);
    let expected = ["`display: none`", "`visibility: hidden`", "`display: none`"];
    let cases: Vec<(&str, &str)> = bad.iter().map(String::as_str).zip(expected).collect();
    fails("page/unreachable", &cases);
}
