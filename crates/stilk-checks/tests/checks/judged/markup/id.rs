//! `markup/id`.

use crate::judged::pages::{fails, passes};

#[test]
fn ids_stand_once_and_are_there() {
    passes(
        "markup/id",
        &[
            "<label for=\"a\">From</label><input id=\"a\">",
            "<p id=\"hint\">Piers are listed.</p><input aria-describedby=\"hint\" aria-label=\"From\" id=\"from\">",
            "<ul id=\"list\"></ul><input list=\"list\" id=\"b\" aria-label=\"From\" aria-controls=\"list\">",
        ],
    );
    fails(
        "markup/id",
        &[
            ("<input id=\"a\"><input id=\"a\">", "`a`"),
            ("<label for=\"b\">From</label><input id=\"a\">", "`b`"),
            ("<input id=\"a\" aria-labelledby=\"a gone\">", "`gone`"),
            ("<input id=\"a\" aria-describedby=\"hint\">", "`hint`"),
        ],
    );
}
