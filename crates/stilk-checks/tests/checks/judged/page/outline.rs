//! `page/outline`.

use crate::judged::pages::{fails, passes};

#[test]
fn an_outline_is_not_taken_without_another_sign() {
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
}
