//! `contrast/placeholder`.

use crate::judged::{FIELD, fails, passes, project, verdict};

#[test]
fn a_placeholder_is_text() {
    let field = "<label><span part=\"label\">Vessel</span><input part=\"native\" placeholder=\"Kittiwake\"></label>";
    passes(
        "contrast/placeholder",
        field,
        &[
            "@part native { background: {paper}; } @part native::placeholder { color: {ink}; opacity: 1; }",
            // One that nobody sees.
            "@part native { background: {paper}; } @part native::placeholder { color: transparent; }",
        ],
    );
    fails(
        "contrast/placeholder",
        field,
        &[
            (
                "@part native { background: {paper}; } @part native::placeholder { color: {mist}; opacity: 1; }",
                "`mist`",
            ),
            ("@part native { background: {sea}; } @part native::placeholder { color: {ink}; opacity: 1; }", "`sea`"),
            ("@part native { background: {paper}; } @part native::placeholder { color: {ink}; opacity: .3; }", "`ink`"),
        ],
    );
    // A control without a placeholder has none to judge, whatever is said of it.
    let (said, ..) = verdict("contrast/placeholder", &project(FIELD, "@part native::placeholder { color: {mist}; }"));
    assert!(said.is_empty(), "{said:?}");
}
