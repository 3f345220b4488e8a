//! `state/hover-only`.

use crate::judged::{fails, passes};

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
