//! Checks of the group `page`: a file each.

mod contrast;

use crate::judged::pages::{fails, passes};

#[test]
fn pages_leave_the_systems_look_alone() {
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
    passes(
        "page/collision",
        &["<style>.booking { color: red }</style>BUTTON", "<style>button { color: red }</style>BUTTON"],
    );
    fails(
        "page/collision",
        &[
            ("<style>.ex-button { color: red }</style>BUTTON", "ex-button"),
            ("<style>main .ex-button_label { color: red }</style>BUTTON", "ex-button_label"),
            ("<style>:is(.card, .ex-button-quiet) { color: red }</style>BUTTON", "ex-button-quiet"),
        ],
    );
}

#[test]
fn the_keyboard_keeps_its_place_on_the_page() {
    passes(
        "page/outline",
        &[
            "<style>a:focus { outline: none } a:focus-visible { outline: 2px solid }</style>",
            "<style>a:focus { outline: none; box-shadow: 0 0 0 2px }</style>",
            "<style>a:focus-visible { outline: 3px solid red }</style>",
            "<style>a:focus:not(:focus-visible) { outline: none }</style>",
        ],
    );
    fails(
        "page/outline",
        &[
            ("<style>a:focus { outline: none }</style>", "a:focus"),
            ("<style>:focus { outline: 0 }</style>", ":focus"),
            ("<style>* { outline: none }</style>", ""),
        ],
    );
    passes(
        "page/hover-only",
        &[
            "<style>.m ul { display: none } .m:hover ul, .m:focus-within ul { display: block }</style><div class=\"m\"><ul></ul></div>",
        ],
    );
    fails(
        "page/hover-only",
        &[
            (
                "<style>.m ul { visibility: hidden } .m:hover ul { visibility: visible }</style><div class=\"m\"><a href=\"/\">x</a><ul></ul></div>",
                ".m:hover ul",
            ),
            (
                "<style>.m ul { opacity: 0 } .m:hover ul { opacity: 1 }</style><div class=\"m\"><a href=\"/\">x</a><ul></ul></div>",
                ".m:hover ul",
            ),
        ],
    );
    passes(
        "page/transition",
        &["<style>.c { transition: color 1s }</style>", "<style>.c { transition: none }</style>"],
    );
    fails(
        "page/transition",
        &[
            ("<style>.c { transition: 1s }</style>", ".c"),
            ("<style>@media (width > 1px) { .c { transition: color 1s, all 2s } }</style>", ".c"),
        ],
    );
}
