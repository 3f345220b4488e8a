//! `font/fallback`.

use crate::judged::{BUTTON, fails, passes};

#[test]
fn a_stack_of_fonts_ends_in_a_generic_family() {
    passes(
        "font/fallback",
        BUTTON,
        &[
            "font-family: \"Skerry Grotesk\", sans-serif;",
            "font: 600 1rem/1.5 \"Skerry Grotesk\", system-ui;",
            "font-family: monospace;",
            // What is around decides.
            "font-family: inherit;",
            "font: inherit;",
            "font-family: ui-rounded, \"Skerry Grotesk\", serif;",
        ],
    );
    fails(
        "font/fallback",
        BUTTON,
        &[
            ("font-family: \"Skerry Grotesk\";", "Skerry Grotesk"),
            ("font: 1rem/1.5 Skerry, \"Tern Sans\";", "Tern Sans"),
            ("@state selected { font-family: Skerry; }", "Skerry"),
            // Quoted, it is the name of a font.
            ("font-family: Skerry, \"serif\";", "serif"),
        ],
    );
}
