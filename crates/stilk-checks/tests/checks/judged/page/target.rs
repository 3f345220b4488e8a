//! `page/target`.

use crate::judged::pages::{fails, passes};

#[test]
fn what_a_page_does_leaves_targets_large_enough() {
    passes("page/target", &["BUTTON", "<style>.ex-button { padding: 20px }</style>BUTTON"]);
    fails(
        "page/target",
        &[
            ("<style>.ex-button { padding: 0; font-size: 10px }</style>BUTTON", "px high here, a target needs 24px"),
            ("<style>.ex-button { width: 12px; padding: 0 8px }</style>BUTTON", "16px wide here"),
        ],
    );
}
