//! `page/collision`.

use crate::judged::pages::{fails, passes};

#[test]
fn class_names_of_the_system_are_the_systems() {
    passes(
        "page/collision",
        &["<style>.booking { color: red }</style>BUTTON", "<style>button { color: red }</style>BUTTON"],
    );
    fails(
        "page/collision",
        &[
            ("<style>.ex-button { color: red }</style>BUTTON", "ex-button"),
            ("<style>main .ex-button_label { color: red }</style>BUTTON", "ex-button_label"),
            ("<style>:is(.card, .ex-button-calm) { color: red }</style>BUTTON", "ex-button-calm"),
        ],
    );
}
