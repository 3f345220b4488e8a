//! `geometry/anchored`.

use super::BADGE;
use crate::judged::{asks_nothing, fails, passes};

#[test]
fn a_placed_part_belongs_to_its_control() {
    passes(
        "geometry/anchored",
        BADGE,
        &[
            "position: relative; @part badge { position: absolute; top: 0; right: 0; }",
            "position: relative; @part badge { position: absolute; inset: 0; }",
            "position: relative; @part badge { position: absolute; inset-block-end: 0; inset-inline-start: 0; }",
            // What only screen readers meet may stand anywhere, and so may what nobody sees.
            "position: relative; @part badge { position: absolute; inline-size: 1px; block-size: 1px; overflow: clip; }",
            "position: relative; @part badge { position: absolute; clip-path: inset(50%); }",
            "position: relative; @part badge { position: absolute; opacity: 0; }",
            // Between two insets it is centred.
            "position: relative; @part badge { position: absolute; inset: 0; margin: auto; inline-size: 20px; block-size: 20px; }",
            // A transform holds what is placed as well.
            "transform: translate(0); @part badge { position: absolute; top: 0; left: 0; }",
        ],
    );
    // Moved from where the text leaves it: nothing is placed.
    asks_nothing("geometry/anchored", BADGE, &["@part badge { position: relative; top: -4px; }"]);
    fails(
        "geometry/anchored",
        BADGE,
        &[
            ("@part badge { position: absolute; top: 0; right: 0; }", "badge"),
            ("position: relative; @part badge { position: absolute; top: 0; }", "nowhere across"),
            ("position: relative; @part badge { position: absolute; left: 0; }", "nowhere downwards"),
            ("position: relative; @part badge { position: absolute; }", "nowhere across"),
            (
                "position: relative; @part badge { position: absolute; inset: 0; inline-size: 20px; }",
                "placed twice across",
            ),
            ("@state selected { @part badge { position: absolute; top: 0; left: 0; } }", "badge"),
        ],
    );
}
