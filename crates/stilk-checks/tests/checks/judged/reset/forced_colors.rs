//! `reset/forced-colors`.

use crate::judged::{BUTTON, SWITCH, asks_nothing, fails, passes};

#[test]
fn lasting_states_outlive_forced_colours() {
    let base = "background: {sea}; color: {paper}; border: 1px solid {sea};";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("@state selected { border-width: 3px; }"),
        with("@state selected { text-decoration-line: underline; }"),
        with("@state selected { outline: 2px solid {ink}; }"),
        with("@state selected { @part label::before { content: \"✓ \"; } }"),
        with(
            "@state selected { background: {ink}; @media (forced-colors: active) { background: Highlight; forced-color-adjust: none; } }",
        ),
    ];
    // Nobody needs to see under forced colours that a pointer is there.
    asks_nothing("reset/forced-colors", BUTTON, &[&with("@state hover { background: {ink}; }")]);
    passes("reset/forced-colors", BUTTON, &good);
    let bad = [
        (with("@state selected { background: {ink}; }"), "selected"),
        (with("@state selected { box-shadow: 0 0 0 3px {ink}; }"), "selected"),
        (with("@state focus { outline: none; box-shadow: 0 0 0 3px {ink}; }"), "focus"),
        (with("@state selected { background: linear-gradient({ink}, {ink}); }"), "selected"),
    ];
    fails("reset/forced-colors", BUTTON, &bad);
    // A thumb that moves says it without any colour.
    let switch = |on: &str| {
        format!(
            "@part native {{ position: absolute; opacity: 0; }} @part track {{ display: flex; inline-size: 40px; border: 1px solid; }}
             @part thumb {{ inline-size: 16px; block-size: 16px; border: 1px solid; }} @state checked {{ {on} }}"
        )
    };
    passes("reset/forced-colors", SWITCH, &[&switch("@part thumb { translate: 24px 0; }")]);
    fails("reset/forced-colors", SWITCH, &[(&switch("@part track { background: {sea}; }"), "checked")]);
}
