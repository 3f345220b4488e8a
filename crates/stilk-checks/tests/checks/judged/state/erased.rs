//! `state/erased`.

use crate::judged::{BUTTON, TICK, asks_nothing, fails, passes};

#[test]
fn what_a_control_is_stays_visible() {
    let base = "background: {sea}; color: {paper}; border: 2px solid {sea}; @state selected { background: {ink}; }";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("@state disabled { opacity: .5; }"),
        with("@state busy { @part label { opacity: .2; } }"),
        with("@state disabled { background: {mist}; } @state selected and disabled { background: {rust}; }"),
        with(
            "@state disabled { background: {mist}; border-color: {mist}; } @state selected and disabled { border-style: dashed; }",
        ),
    ];
    passes("state/erased", BUTTON, &good);
    let bad = [
        (
            with("@state disabled { background: {mist}; }"),
            "that is disabled looks the same whether it is selected or not",
        ),
        (with("@state busy { background: {mist}; }"), "that is busy"),
        (
            with("@state disabled { background: {mist}; } @state selected and disabled { background: {mist}; }"),
            "that is disabled",
        ),
    ];
    fails("state/erased", BUTTON, &bad);
    // What is not written, or says nothing, is not asked for.
    asks_nothing("state/erased", BUTTON, &["@state disabled { opacity: .5; }", base]);
    let tick = |mixed: &str| {
        format!(
            "@part native {{ position: absolute; opacity: 0; }}
             @part mark {{ display: inline-block; inline-size: 20px; block-size: 20px; border: 2px solid {{ink}}; }}
             @state checked {{ @part mark {{ background: {{ink}}; }} }} @state mixed {{ @part mark {{ {mixed} }} }}"
        )
    };
    passes("state/erased", TICK, &[tick("background: linear-gradient({ink}, {ink}) center / 100% 4px no-repeat;")]);
    fails("state/erased", TICK, &[(tick("background: {ink};"), "when it is mixed and when it is checked")]);
}
