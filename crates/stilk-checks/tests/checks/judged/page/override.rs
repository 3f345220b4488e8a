//! `page/override`.

use crate::judged::pages::{fails, passes};

#[test]
fn rules_of_pages_leave_the_systems_look_alone() {
    passes(
        "page/override",
        &[
            "BUTTON",
            "<style>main a { color: red }</style>BUTTON",
            // Where it stands is the page's affair.
            "<style>.ex-button { margin-top: 20px }</style>BUTTON",
        ],
    );
    fails(
        "page/override",
        &[
            ("<style>button { color: red }</style>BUTTON", "color"),
            ("<style>* { padding: 0 }</style>BUTTON", "padding"),
            // A layer that comes after the system's wins over all of its layers.
            ("<style>@layer page { button { padding: 0 } }</style>BUTTON", "padding"),
            ("<style>#here button { background: none }</style><div id=\"here\">BUTTON</div>", "background"),
        ],
    );
}
