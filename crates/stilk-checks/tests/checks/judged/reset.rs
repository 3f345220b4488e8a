//! What browsers bring along, and what forced colours take away.

use super::{BUTTON, FIELD, PAIR, SWITCH, TICK, asks_nothing, fails, passes};

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

#[test]
fn hosts_of_a_control_look_alike() {
    passes(
        "reset/parity",
        PAIR,
        &[
            "background: {sea}; color: {paper}; padding: {gap};",
            // Whatever a browser gives a link is reset, and so is a button's font.
            "background: {sea};",
            // Said on purpose.
            "padding: {gap}; @host a { padding: 4px; }",
        ],
    );
    fails(
        "reset/parity",
        PAIR,
        &[
            ("padding: {gap}; &:is(a) { padding: 4px; }", "padding"),
            ("color: {ink}; &[href] { color: {sea}; }", "color"),
            ("&:not(button) { letter-spacing: 1px; }", "letter-spacing"),
        ],
    );
}

#[test]
fn a_native_control_stays_within_reach_of_the_keyboard() {
    let mark = "@part mark { position: relative; display: inline-block; inline-size: 1em; block-size: 1em; border: 1px solid {ink}; }";
    let native = |declarations: &str| format!("{mark} @part native {{ {declarations} }}");
    let good = [
        native("position: absolute; opacity: 0;"),
        native("position: absolute; inset: 0; appearance: none;"),
        native("clip-path: inset(50%); position: absolute;"),
    ];
    passes("reset/unreachable", TICK, &good);
    let bad = [
        (native("display: none;"), "display"),
        (native("visibility: hidden;"), "visibility"),
        (format!("{} @state checked {{ @part native {{ display: none; }} }}", native("opacity: 0;")), "display"),
    ];
    fails("reset/unreachable", TICK, &bad);
}

#[test]
fn nothing_is_left_to_what_browsers_bring() {
    passes(
        "reset/unset",
        BUTTON,
        &[
            // What is left out is reset.
            "",
            "background: {sea}; color: {paper};",
            // Initial values are the same everywhere.
            "padding: initial; margin: unset;",
        ],
    );
    fails("reset/unset", BUTTON, &[("padding: revert;", "padding"), ("font: revert;", "font")]);
    // A field that the platform draws is its own.
    passes("reset/unset", FIELD, &["@part native { color: {ink}; }"]);
}
