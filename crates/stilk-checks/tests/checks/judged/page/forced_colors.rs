//! `page/forced-colors`.

use crate::judged::pages::passes;

#[test]
fn focus_that_a_page_draws_by_outline_stays() {
    passes(
        "page/forced-colors",
        &["<style>.ex-button:focus-visible { outline: 3px solid red }</style>BUTTON", "BUTTON"],
    );
}
