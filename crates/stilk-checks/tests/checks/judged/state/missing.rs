//! `state/missing`.

use super::{BASE, base_fails, base_passes};
use crate::judged::{SWITCH, fails, passes};

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
