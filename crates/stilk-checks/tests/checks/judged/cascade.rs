//! Declarations that do nothing, colours behind pictures, rules that reach too far, values that do not fit.

use super::{BUTTON, PAIR, asks_nothing, fails, leaves_open, passes, project, verdict};
use crate::memory::messages;

#[test]
fn every_declaration_wins_somewhere() {
    passes(
        "cascade/dead",
        BUTTON,
        &[
            "color: {paper}; @state hover { color: {mist}; }",
            // A fallback for browsers that do not know the second value.
            "color: {paper}; @option pale { color: {mist}; }",
            // A shorthand, and one side of it.
            "padding: 4px; padding-inline: 8px;",
            "--tint: {sea}; background: var(--tint);",
        ],
    );
    // Under a condition it may win elsewhere.
    asks_nothing("cascade/dead", BUTTON, &["@media (width > 600px) { color: {sea}; }"]);
    fails(
        "cascade/dead",
        BUTTON,
        &[
            ("color: {sea}; color: {ink};", "color"),
            ("padding-inline: 8px; padding: 4px;", "padding-inline"),
            ("background-color: {sea}; background: {mist};", "background-color"),
            ("@state hover { color: {sea}; color: {ink}; }", "color"),
        ],
    );
}

#[test]
fn a_colour_is_not_hidden_behind_a_picture() {
    let base = "background: linear-gradient({sea}, {ink}); color: {paper};";
    let with = |more: &str| format!("{base} {more}");
    let good = [
        with("@state hover { background: {rust}; }"),
        with("@state hover { background-color: {rust}; background-image: none; }"),
        with("@state hover { background-image: linear-gradient({ink}, {sea}); }"),
        // A picture that lets the colour through.
        "background: linear-gradient(transparent, rgb(0 0 0 / 20%)) {sea}; @option loud { background-color: {rust}; }"
            .to_owned(),
    ];
    passes("cascade/masked", BUTTON, &good);
    let bad = [
        (with("@state hover { background-color: {rust}; }"), "a picture lies over it"),
        (with("@option loud { background-color: {rust}; }"), "a picture lies over it"),
    ];
    fails("cascade/masked", BUTTON, &bad);
    leaves_open(
        "cascade/masked",
        BUTTON,
        &["background: url(waves.png) {sea}; @option loud { background-color: {rust}; }"],
    );
}

#[test]
fn rules_reach_controls_only() {
    let attached = |selector: &str| {
        let memory = project(BUTTON, "color: {ink}; @option quiet { color: {sea}; }");
        let sheet = String::from_utf8(memory.0["controls/x.stilk"].clone()).unwrap();
        let sheet = format!("{sheet}\n@attach ({selector}) as x quiet {{ label: span; }}");
        verdict("cascade/reach", &memory.file("controls/x.stilk", &sheet)).0
    };
    for selector in [".teaser > a", "a.teaser", "[data-teaser]", "main a[rel=next]", "#top"] {
        assert_eq!(attached(selector), Vec::<String>::new(), "{selector}");
    }
    for selector in ["a", "*", "main a", "ul > li", "a:hover"] {
        assert_eq!(attached(selector).len(), 1, "{selector}");
    }
}

#[test]
fn values_fit_their_properties() {
    // What does not fit is told while it is read, with what would.
    let told = |body: &str| {
        let project = project(PAIR, body).load();
        let all = project.diagnostics.iter().filter(|d| d.id == "cascade/value" || d.id == "cascade/property");
        all.map(|d| format!("{} | {}", d.message, d.mend.clone().unwrap_or_default())).collect::<Vec<_>>()
    };
    for body in [
        "padding: 8px;",
        "padding: {gap} calc(2 * {gap});",
        "color: light-dark({ink}, {paper});",
        "inline-size: max(100%, 20ch);",
        "margin: 0 auto;",
        "background: {sea} linear-gradient(in oklch, {sea}, {rust});",
        "border-radius: calc(infinity * 1px);",
        "translate: 0 -1px;",
    ] {
        assert_eq!(told(body), Vec::<String>::new(), "{body}");
    }
    for (body, message, mend) in [
        ("padding: 8;", "`8` in `padding` has no unit", "write `8px`"),
        ("transition: color 120;", "`120` in `transition` has no unit", "write `120ms`"),
        ("rotate: 45;", "`45` in `rotate` has no unit", "write `45deg`"),
        ("display: inline-flx;", "`display` does not take `inline-flx`", "write `inline-flex`"),
        ("padding: {sea};", "`{sea}` is of type color, but `padding` takes a dimension here", "`{gap}`"),
        ("color: {gap};", "`{gap}` is of type dimension, but `color` takes a color here", ""),
        ("colour: {ink};", "there is no property `colour`", "write `color`"),
        ("--side: 4; padding: var(--side);", "does not take", ""),
    ] {
        let told = told(body);
        assert!(told.len() == 1 && told[0].contains(message) && told[0].contains(mend), "{body}: {told:?}");
    }
}

#[test]
fn a_local_that_an_option_sets_is_judged_where_it_is_used() {
    let body = "--side: 4px; padding: var(--side); @option wide { --side: 8; } @option far { --side: 8; }";
    let project = project(BUTTON, body).load();
    let told = messages(&project);
    // Said where it is set, and once for each place.
    assert_eq!(told.len(), 1, "{told:?}");
    assert!(told[0].contains("`--side: 8` does not fit `padding`"), "{told:?}");
    assert_eq!(project.diagnostics[0].mend.as_deref(), Some("write `8px`, or whatever unit is meant"));
}
