//! `cascade/value`.

use crate::judged::{BUTTON, PAIR, project};
use crate::memory::messages;

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
