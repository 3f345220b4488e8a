//! What states change, and what they must not.

mod color_only;
mod edge_split;
mod erased;
mod hover_only;
mod indistinct;
mod leak;
mod missing;
mod motion;
mod nameless;
mod shift;
mod slips;
mod snap;
mod start;
mod unseen_motion;

use crate::judged::{BUTTON, PAIR, TICK, fails, passes};

const BASE: &str = "background: {sea}; color: {paper};";

#[track_caller]
fn base_passes(check: &'static str, more: &[&str]) {
    let all: Vec<String> = more.iter().map(|more| format!("{BASE} {more}")).collect();
    passes(check, BUTTON, &all);
}

#[track_caller]
fn base_fails(check: &'static str, more: &[(&str, &str)]) {
    let all: Vec<(String, &str)> = more.iter().map(|(more, words)| (format!("{BASE} {more}"), *words)).collect();
    fails(check, BUTTON, &all);
}

#[test]
fn checks_of_states_look_at_every_host() {
    fails(
        "state/missing",
        PAIR,
        &[(
            &format!(
                "{BASE} @state hover {{ @host button {{ background: {{ink}}; }} }} @state focus {{ outline: 3px solid {{ink}}; }} @state active {{ background: {{rust}}; }} @state disabled {{ opacity: .5; }}"
            ),
            "hover",
        )],
    );
    fails(
        "state/color-only",
        TICK,
        &[(
            "@part native { position: absolute; opacity: 0; } @part mark { display: inline-block; inline-size: 1em; block-size: 1em; background: {sea}; } @state checked { @part mark { background: {rust}; } }",
            "checked",
        )],
    );
}
