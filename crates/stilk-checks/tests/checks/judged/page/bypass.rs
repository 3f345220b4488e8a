//! `page/bypass`.

use crate::judged::pages::{fails, passes};

#[test]
fn native_controls_beside_the_system_use_it() {
    passes(
        "page/bypass",
        &[
            "BUTTON",
            "BUTTON<input type=\"hidden\" name=\"line\" value=\"2\"><a href=\"/\">All lines</a>",
            // What is inside of a control is that control's matter.
            "<div class=\"ex-field\"><label class=\"ex-field_label\" for=\"n\">Name</label><input class=\"ex-field_native\" id=\"n\"></div>",
        ],
    );
    fails(
        "page/bypass",
        &[
            ("BUTTON<button type=\"button\">Change</button>", "`<button>` uses no class"),
            ("BUTTON<input type=\"search\">", "`<input type=search>`"),
            ("BUTTON<select><option>Skerry</select>", "`<select>`"),
            ("BUTTON<button type=\"button\" class=\"big\">Change</button>", "`<button>`"),
        ],
    );
}
