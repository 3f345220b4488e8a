//! What states change, and what they must not.

use super::{BUTTON, FIELD, PAIR, SWITCH, TICK, asks_nothing, fails, passes};

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
fn a_lasting_state_differs_by_more_than_a_hue() {
    base_passes(
        "state/color-only",
        &[
            // Lightness tells them apart.
            "@state selected { background: {mist}; color: {ink}; }",
            "@state selected { background: {rust}; font-weight: 700; }",
            "@state selected { background: {rust}; @part label::before { content: \"✓ \"; } }",
            "@state selected { background: {rust}; text-decoration-line: underline; }",
            "@state selected { background: {rust}; border: 3px solid {paper}; }",
        ],
    );
    // What passes is no lasting state.
    asks_nothing("state/color-only", BUTTON, &[&format!("{BASE} @state hover {{ background: {{rust}}; }}")]);
    base_fails(
        "state/color-only",
        &[
            ("@state selected { background: {rust}; }", "selected"),
            ("border: 2px solid {sea}; @state selected { border-color: {rust}; }", "selected"),
        ],
    );
    fails(
        "state/color-only",
        FIELD,
        &[(
            "@part native { background: {paper}; border: 1px solid {sea}; color: {ink}; } @state invalid { @part native { border-color: {rust}; } }",
            "invalid",
        )],
    );
    passes(
        "state/color-only",
        FIELD,
        &[
            "@part native { background: {paper}; border: 1px solid {sea}; color: {ink}; } @state invalid { @part native { border: 2px solid {rust}; } }",
        ],
    );
}

#[test]
fn an_edge_goes_along_with_its_fill() {
    base_passes(
        "state/edge-split",
        &[
            "border: 2px solid {sea}; @state hover { background: {ink}; border-color: {ink}; }",
            // An edge of another colour was drawn on purpose, and so was one that stays transparent.
            "border: 2px solid {rust}; @state hover { background: {ink}; }",
            "border: 2px solid transparent; @state hover { background: {ink}; }",
            "border: 0; @state hover { background: {ink}; }",
            "border: 2px solid {sea}; @state hover { background: {ink}; border-color: {paper}; }",
        ],
    );
    base_fails(
        "state/edge-split",
        &[
            ("border: 2px solid {sea}; @state hover { background: {ink}; }", "hover"),
            ("border: 2px solid {sea}; @state selected and hover { background: {ink}; }", "selected"),
            ("border-block-end: 2px solid {sea}; @state active { background: {ink}; }", "active"),
        ],
    );
}

#[test]
fn what_hover_reveals_focus_reveals_too() {
    let hint =
        "<button type=\"button\"><span part=\"label\">Book</span><span part=\"hint\">Opens the form</span></button>";
    passes(
        "state/hover-only",
        hint,
        &[
            "@part hint { opacity: 0; } @state hover, focus { @part hint { opacity: 1; } }",
            "@part hint { display: none; } @state hover { @part hint { display: inline; } } @state focus { @part hint { display: inline; } }",
            // Nothing was hidden.
            "@state hover { @part hint { color: {sea}; } }",
            // Hidden by hover, not shown by it.
            "@state hover { @part hint { visibility: hidden; } }",
        ],
    );
    fails(
        "state/hover-only",
        hint,
        &[
            ("@part hint { opacity: 0; } @state hover { @part hint { opacity: 1; } }", "hint"),
            ("@part hint { display: none; } @state hover { @part hint { display: inline; } }", "hint"),
            ("@part hint { visibility: hidden; } @state hover { @part hint { visibility: visible; } }", "hint"),
            ("@part hint { scale: 0; } @state hover { @part hint { scale: 1; } }", "hint"),
        ],
    );
}

#[test]
fn two_states_look_different() {
    base_passes(
        "state/indistinct",
        &[
            "@state hover { background: {ink}; }",
            "@state hover { box-shadow: 0 0 0 2px {ink}; }",
            "@state hover { translate: 0 -1px; }",
            "@state hover { background: {ink}; } @state selected { background: {rust}; } @state selected and hover { background: {mist}; color: {ink}; }",
        ],
    );
    base_fails(
        "state/indistinct",
        &[
            ("@state hover { background: color-mix(in oklab, {sea}, {ink} 1%); }", "hover"),
            // A lasting state covers the pointer's.
            ("@state hover { background: {ink}; } @state selected { background: {rust}; }", "hover"),
        ],
    );
}

#[test]
fn an_option_keeps_what_it_changed_under_the_pointer() {
    base_passes(
        "state/leak",
        &[
            "@state hover { opacity: .8; } @option quiet { background: transparent; color: {sea}; }",
            "@state hover { background: {ink}; } @option round { border-radius: 4px; }",
            "--fill: {sea}; background: var(--fill); @state hover { box-shadow: 0 0 0 2px {ink}; } @option quiet { --fill: transparent; color: {sea}; }",
            "@state hover { background: {ink}; } @option quiet { background: transparent; color: {sea}; @state hover { background: {mist}; } }",
        ],
    );
    base_fails(
        "state/leak",
        &[
            ("@state hover { background: {ink}; } @option quiet { background: transparent; color: {sea}; }", "quiet"),
            ("@state hover { color: {mist}; } @option quiet { background: {paper}; color: {ink}; }", "quiet"),
            (
                "border: 1px solid {ink}; @state active { border-color: {rust}; } @option bare { border-color: transparent; }",
                "bare",
            ),
        ],
    );
}

#[test]
fn a_control_shows_the_states_of_its_kind() {
    let all = "@state hover { background: {ink}; } @state focus { outline: 3px solid {ink}; outline-offset: 2px; } @state active { background: {rust}; } @state disabled { opacity: .5; }";
    base_passes("state/missing", &[all, &all.replace("hover {", "hover, active {")]);
    base_fails(
        "state/missing",
        &[
            (&all.replace("@state active { background: {rust}; }", ""), "active"),
            (&all.replace("@state disabled { opacity: .5; }", "@state disabled { cursor: default; }"), "disabled"),
            (&all.replace("@state hover { background: {ink}; }", "@state hover { cursor: pointer; }"), "hover"),
        ],
    );
    // A link cannot be disabled.
    let link = "<a href=\"#\"><span part=\"label\">Book</span></a>";
    passes("state/missing", link, &[&format!("{BASE} {}", all.replace("@state disabled { opacity: .5; }", ""))]);
    // A switch has to say that it is on.
    let switch = "@part native { opacity: 0; } @part track { display: flex; background: {sea}; } @part thumb { inline-size: 16px; block-size: 16px; background: {paper}; }
        @state hover { @part track { background: {ink}; } } @state focus { @part track { outline: 2px solid {ink}; } } @state active { @part thumb { background: {mist}; } } @state disabled { opacity: .5; }";
    fails("state/missing", SWITCH, &[(switch, "checked")]);
    passes("state/missing", SWITCH, &[&format!("{switch} @state checked {{ @part thumb {{ translate: 16px 0; }} }}")]);
}

#[test]
fn what_moves_is_named() {
    base_passes(
        "state/motion",
        &[
            "transition: none;",
            "transition: background-color 120ms, color 120ms;",
            "transition-property: opacity; transition-duration: 120ms;",
        ],
    );
    base_fails(
        "state/motion",
        &[
            ("transition: 120ms;", "all"),
            ("transition: color 80ms, all 120ms;", "all"),
            ("transition-duration: 1s;", "all"),
        ],
    );
}

#[test]
fn a_hidden_label_stays_in_the_name() {
    base_passes(
        "state/nameless",
        &[
            "@state busy { @part label { opacity: 0; } }",
            "@state busy { color: transparent; }",
            "@state busy { @part label { position: absolute; clip-path: inset(50%); } }",
            // Hidden for good is hidden in no state.
            "@state busy { opacity: .5; }",
        ],
    );
    base_fails(
        "state/nameless",
        &[
            ("@state busy { @part label { display: none; } }", "busy"),
            ("@state hover { @part label { visibility: hidden; } }", "hover"),
            ("@state selected and busy { @part label { visibility: hidden; } }", "busy"),
        ],
    );
    // A name that does not come from the label stays.
    let named = "<button type=\"button\" aria-label=\"Book\"><span part=\"label\">Book</span></button>";
    passes("state/nameless", named, &["@state busy { @part label { display: none; } }"]);
}

#[test]
fn no_state_moves_its_neighbours() {
    let base = "display: inline-block; border: 0; padding: {gap}; font: 16px/20px sans-serif;";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("@state hover { translate: 0 -2px; }"),
        with("@state hover { scale: 1.1; }"),
        with("@state hover { outline: 4px solid {ink}; }"),
        with("@state hover { box-shadow: 0 0 0 4px {ink}; }"),
        // What the border takes, the padding gives.
        with("@state hover { border: 2px solid {ink}; padding: calc({gap} - 2px); }"),
        with("@state hover { font-style: italic; }"),
    ];
    passes("state/shift", BUTTON, &good);
    let bad = [
        (with("@state hover { border: 2px solid {ink}; }"), "hover"),
        (with("@state selected { font-weight: 700; }"), "selected"),
        (with("@state hover { margin-block-start: 2px; }"), "hover"),
        (with("@state active { padding: 9px; }"), "active"),
        (with("@state hover { line-height: 22px; }"), "hover"),
        (with("@state busy { display: none; }"), "busy"),
    ];
    fails("state/shift", BUTTON, &bad);
}

#[test]
fn a_click_stays_on_what_moves_away() {
    let moved = |by: &str, more: &str| format!("position: relative; {BASE} @state active {{ {by} {more} }}");
    let good = [
        moved("translate: 0 4px;", "@part label::after { content: \"\"; position: absolute; inset: -4px 0 0; }"),
        // It grows: nothing moves away.
        moved("scale: 1.05;", ""),
        moved("opacity: .8;", ""),
    ];
    passes("state/slips", BUTTON, &good);
    let bad = [
        (moved("translate: 0 4px;", ""), "4px"),
        (moved("translate: 3px 0;", ""), "3px"),
        (moved("top: 3px;", ""), "3px"),
        // The box reaches out by less than it moves.
        (
            moved("translate: 0 4px;", "@part label::after { content: \"\"; position: absolute; inset: -2px 0 0; }"),
            "4px",
        ),
    ];
    fails("state/slips", BUTTON, &bad);
}

#[test]
fn what_changes_together_moves_together() {
    base_passes(
        "state/snap",
        &[
            // Nothing moves at all, or all of it does.
            "@state hover { background: {ink}; border-color: {ink}; }",
            "transition: background-color 1s, color 1s; @state hover { background: {ink}; color: {mist}; }",
            "transition: background-color 1s; @state hover { background: {ink}; }",
            // A change of its own: focus has nothing to do with what hover moves.
            "transition: background-color 1s; @state hover { background: {ink}; } @state focus { outline: 2px solid {ink}; }",
        ],
    );
    base_fails(
        "state/snap",
        &[
            ("transition: background-color 1s; @state hover { background: {ink}; color: {mist}; }", "color"),
            ("transition: opacity 1s; @state selected { opacity: .5; background: {ink}; }", "background-color"),
        ],
    );
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
