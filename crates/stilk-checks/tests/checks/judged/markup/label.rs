//! `markup/label`.

use crate::judged::pages::{fails, passes};

#[test]
fn fields_have_labels_and_buttons_names() {
    passes(
        "markup/label",
        &[
            "<label>From <input></label>",
            "<label for=\"a\">From</label><input id=\"a\">",
            "<input aria-label=\"From\">",
            "<span id=\"word\">From</span><input aria-labelledby=\"word\">",
            "<button type=\"button\" aria-label=\"Close\"><svg></svg></button>",
            "<button type=\"button\"><img src=\"x.svg\" alt=\"Close\"></button>",
            "<input title=\"From\"><input type=\"hidden\">",
        ],
    );
    fails(
        "markup/label",
        &[
            ("<input placeholder=\"From\">", ""),
            ("<label>From</label><input id=\"a\">", ""),
            ("<button type=\"button\"><svg></svg></button>", ""),
            ("<button type=\"button\"><img src=\"x.svg\" alt=\"\"></button>", ""),
            ("<select><option>North</select>", ""),
            ("<textarea></textarea>", ""),
        ],
    );
}
