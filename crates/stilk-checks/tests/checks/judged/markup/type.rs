//! `markup/type`.

use crate::judged::pages::{fails, passes};

#[test]
fn elements_do_what_they_look_like() {
    let link = |href: &str| format!("<a {href} class=\"ex-button\"><span class=\"ex-button_label\">Book</span></a>");
    let place = link("href=\"/book\"");
    let submit = "<form method=\"post\"><input type=\"submit\" class=\"ex-button\" value=\"Send\"></form>";
    passes("markup/type", &["BUTTON", &place, submit]);
    let nowhere = link("href=\"#\"");
    let in_form = format!("<form method=\"post\">{nowhere}</form>");
    fails(
        "markup/type",
        &[
            (&link(""), "a link without `href` cannot be reached"),
            (&nowhere, "a link that leads nowhere acts as a button"),
            (&link("href=\"javascript:book()\""), "a link that leads nowhere"),
            (&in_form, "a link stands where the form is to be sent"),
            (
                "<form method=\"post\"><button class=\"ex-button\"><span class=\"ex-button_label\">Send</span></button></form>",
                "a button without a type sends the form",
            ),
            (
                "<div class=\"ex-button\"><span class=\"ex-button_label\">Book</span></div>",
                "`button` stands on `<div>`",
            ),
        ],
    );
}
