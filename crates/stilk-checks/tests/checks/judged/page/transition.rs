//! `page/transition`.

use crate::judged::pages::{fails, passes};

#[test]
fn what_moves_is_named() {
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
