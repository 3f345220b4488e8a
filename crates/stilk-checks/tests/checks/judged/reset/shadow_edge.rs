//! `reset/shadow-edge`.

use crate::judged::{BUTTON, fails, passes};

#[test]
fn a_shadow_has_an_extent_or_no_colour() {
    let with = |more: &str| format!("background: {{sea}}; color: {{paper}}; border-radius: 8px; {more}");
    let good = [
        with("box-shadow: none;"),
        with("box-shadow: 0 0 0 0 transparent; @state hover { box-shadow: 0 0 0 3px {ink}; }"),
        with("box-shadow: 0 1px 0 0 {ink};"),
        with("box-shadow: inset 0 0 0 1px {ink}, 0 0 4px {ink};"),
        with("box-shadow: 0 0 {ink}; @part label { display: none; } border-radius: 0;"),
        with("@part label { border-radius: 4px; box-shadow: 0 0 {ink}; opacity: 0; }"),
        with(
            "@part label { display: none; } @part label::before { content: \"\"; border-radius: 4px; box-shadow: 0 0 {ink}; }",
        ),
    ];
    passes("reset/shadow-edge", BUTTON, &good);
    let bad = [
        (with("box-shadow: 0 0 {ink};"), "has no extent"),
        (with("box-shadow: 0 0 0 3px {ink}, inset 0 0 0 0 {ink};"), "has no extent"),
        (with("--depth: 4px; box-shadow: 0 var(--depth) 0 0 {ink}; @state active { --depth: 0px; }"), "has no extent"),
        (with("@part label { border-radius: 0 4px 0 0; box-shadow: 0 0 rgb(0 0 0 / 20%); }"), "label"),
    ];
    fails("reset/shadow-edge", BUTTON, &bad);
}
