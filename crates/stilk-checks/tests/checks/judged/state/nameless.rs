//! `state/nameless`.

use super::{base_fails, base_passes};
use crate::judged::passes;

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
