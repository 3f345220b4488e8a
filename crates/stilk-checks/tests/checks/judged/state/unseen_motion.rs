//! `state/unseen-motion`.

use super::{fails, passes};

/// A button with something in it that turns.
const WAITING: &str = "<button type=\"button\"><span part=\"label\">Book</span><span part=\"ring\" aria-hidden=\"true\"><span part=\"dot\"></span></span></button>";

/// A control's body with an animation beside it.
fn with(body: &str, steps: &str) -> String {
    format!(
        "background: {{sea}}; color: {{paper}}; {body} }} @keyframes turn {{ {steps} }} @keyframes other {{ from {{ top: 0 }}"
    )
}

#[test]
fn what_moves_for_ever_is_to_be_seen() {
    let turn = "to { rotate: 1turn; }";
    let passing = [
        with("@part ring { animation: turn 1s linear infinite; }", turn),
        with(
            "@part ring { visibility: hidden; } @state busy { @part ring { visibility: visible; animation: turn 1s infinite; } }",
            turn,
        ),
        // It ends, it is halted, it has no time, there is no such animation, it is not there at all.
        with("@part ring { visibility: hidden; animation: turn 1s linear 3; }", turn),
        with(
            "@part ring { visibility: hidden; animation: turn 1s linear infinite paused; } @state busy { @part ring { visibility: visible; animation-play-state: running; } }",
            turn,
        ),
        with("@part ring { visibility: hidden; animation: turn 0s linear infinite; }", turn),
        with("@part ring { visibility: hidden; animation: spin 1s linear infinite; }", turn),
        with("@part ring { display: none; animation: turn 1s linear infinite; }", turn),
        // The animation itself shows it, or something in it is seen.
        with("@part ring { opacity: 0; animation: turn 2s infinite; }", "50% { opacity: 1; }"),
        with("@part ring { scale: 0; animation: turn 2s infinite; }", "50% { scale: 1; }"),
        with(
            "@part ring { visibility: hidden; animation: turn 2s infinite; } @part dot { visibility: visible; }",
            turn,
        ),
    ];
    passes("state/unseen-motion", WAITING, &passing);
    let failing = [
        (with("@part ring { visibility: hidden; animation: turn 1s linear infinite; }", turn), "it is hidden"),
        (
            with(
                "@part ring { opacity: 0; animation: turn 1s linear infinite; } @state busy { @part ring { opacity: 1; } }",
                turn,
            ),
            "opaque",
        ),
        (with("@part ring { opacity: 0; } @part dot { animation: other 1s, turn 1s infinite; }", turn), "opaque"),
        (with("@part ring { scale: 0; animation: turn 1s infinite; }", turn), "no size"),
        (
            with("@part ring::after { content: \"\"; visibility: hidden; animation: turn 1s infinite; }", turn),
            "it is hidden",
        ),
    ];
    fails("state/unseen-motion", WAITING, &failing);
}
