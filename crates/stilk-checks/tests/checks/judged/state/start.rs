//! `state/start`.

use super::{fails, passes};
use crate::judged::{project, verdict};

/// A button, and a panel that it opens.
const PANEL: &str = "<div><button type=\"button\" popovertarget=\"more\">More</button><p part=\"panel\" id=\"more\" popover><slot>Dogs travel free.</slot></p></div>";

#[test]
fn what_begins_from_a_value_moves_from_it() {
    let with = |transition: &str, start: &str| {
        format!(
            "color: {{ink}}; @part panel {{ {transition} @state open of & {{ opacity: 1; @starting-style {{ {start} }} }} }}"
        )
    };
    let passing = [
        with("transition: opacity 1s;", "opacity: 0;"),
        with("transition: opacity 1s, translate 1s;", "opacity: 0; translate: 0 4px;"),
        // Everything, by its name or without one; a token may hold no more than the time.
        with("transition: all 1s;", "opacity: 0;"),
        with("transition: 1s ease-out;", "opacity: 0;"),
        with("transition: -.5s 1s cubic-bezier(.2, 0, 0, 1);", "opacity: 0;"),
        with("transition: overlay 1s, opacity 1s steps(2, start);", "opacity: 0;"),
        with(
            "transition: 1s; transition-property: opacity, display; transition-behavior: allow-discrete;",
            "opacity: 0;",
        ),
        // A function is no property, nor is what stands for another value; names are read in either case.
        with("transition: max(1s, .5s) ease;", "opacity: 0;"),
        with("transition: inherit;", "opacity: 0;"),
        with("transition: OPACITY 1S;", "opacity: 0;"),
        // A shorthand moves what it sets.
        with("transition: inset 1s;", "top: 10px;"),
        with("transition: border-top-color 1s;", "border-color: red;"),
        // What a local stands for is not followed, nor where a local leads.
        with("transition: var(--moves); } --moves: top 1s; @part panel {", "opacity: 0;"),
        "--far: 0px; @part panel { translate: var(--far); } @starting-style { --far: 9px; }".to_owned(),
        // It moves where it is opened.
        with("@state open of & { transition: opacity 1s; }", "opacity: 0;"),
        with("@media (width > 30rem) { transition: opacity 1s; }", "opacity: 0;"),
    ];
    passes("state/start", PANEL, &passing);
    // A placed control moves by its own sheet.
    let row = |transition: &str| {
        project(
            "<div><button part=\"item\" data-control=\"step\" type=\"button\">Deck</button></div>",
            "@part item { @starting-style { top: 4px; } }",
        )
        .file("controls/step.html", "<button type=\"button\"><slot>Deck</slot></button>")
        .file("controls/step.stilk", &format!("@control step {{ position: relative; {transition} }}"))
    };
    assert_eq!(verdict("state/start", &row("transition: top 1s;")).0, [""; 0]);
    assert_eq!(
        verdict("state/start", &row("transition: color 1s;")).0,
        ["nothing moves `item` of `x` from where its `top` starts"]
    );
    let failing = [
        (with("", "opacity: 0;"), "nothing moves `panel` of `x` from where its `opacity` starts"),
        (with("transition: translate 1s;", "opacity: 0;"), "its `opacity`"),
        (with("transition: none;", "opacity: 0;"), "its `opacity`"),
        (
            with("transition: overlay 1s allow-discrete, top 1s cubic-bezier(.2, 0, 0, 1);", "opacity: 0;"),
            "its `opacity`",
        ),
        ("transition: opacity 1s; @part panel { @starting-style { opacity: 0; } }".to_owned(), "`panel`"),
        (
            "transition: color 1s; @starting-style { scale: 0; }".to_owned(),
            "nothing moves `x` from where its `scale` starts",
        ),
        ("@part panel::backdrop { @starting-style { opacity: 0; } }".to_owned(), "`panel::backdrop`"),
    ];
    fails("state/start", PANEL, &failing);
}
