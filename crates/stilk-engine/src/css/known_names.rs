//! Properties of CSS that no table here has: known so that a misspelt name can be told from one of these.

/// Names, from the property indices of the CSS snapshots and CSS modules in force, beside those of Chromium.
pub static KNOWN_NAMES: &[&str] = &[
    "align-tracks",
    "caret",
    "color-adjust",
    "hanging-punctuation",
    "isolation-mode",
    "line-clamp",
    "mask-border",
    "outline-radius",
];
