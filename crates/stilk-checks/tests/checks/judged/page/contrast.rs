//! `page/contrast`.

use crate::judged::pages::{fails, passes};

#[test]
fn text_is_judged_on_what_is_behind_it_on_the_page() {
    let quiet = "<button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Book</span></button>";
    let on = |style: &str| format!("<div style=\"{style}\">{quiet}</div>");
    let good = [on(""), on("background: #eee"), on("color: white"), on("background: rgb(0 0 0 / 10%)")];
    passes("page/contrast", &good.each_ref().map(String::as_str));
    let bad = [
        on("background: #222"),
        on("background: rgb(0 0 0 / 80%)"),
        on("background: linear-gradient(#222, #333)"),
        on("opacity: .3"),
    ];
    fails("page/contrast", &bad.each_ref().map(|body| (body.as_str(), "")));
}
