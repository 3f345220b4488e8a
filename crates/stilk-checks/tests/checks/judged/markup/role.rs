//! `markup/role`.

use crate::judged::pages::{fails, passes};

#[test]
fn a_switch_is_a_switch_to_those_who_listen() {
    let switch = |attributes: &str| {
        format!(
            "<label class=\"ex-button\"><input type=\"checkbox\" {attributes} class=\"ex-button_native\"><span class=\"ex-button_label\">Quiet</span></label>"
        )
    };
    let (right, both) = (switch("role=\"SWITCH\""), switch("role=\"switch checkbox\" aria-label=\"Quiet\""));
    passes("markup/role", &[&right, &both]);
    let (none, empty, other) = (switch(""), switch("role=\" \""), switch("role=\"menuitem\""));
    fails(
        "markup/role",
        &[
            (&none, "an element of `button` lacks the role `switch`"),
            (&empty, "lacks the role `switch`"),
            (&other, "has the role `menuitem`, its template has `switch`"),
        ],
    );
}
