//! `token/literal`.

use crate::judged::{BUTTON, fails, passes};

#[test]
fn colours_are_tokens() {
    passes(
        "token/literal",
        BUTTON,
        &[
            "color: {ink}; background: {paper};",
            "color: color-mix(in oklab, {ink}, {paper} 20%);",
            "color: oklch(from {ink} l c h / 50%);",
            "background: linear-gradient({sea}, transparent);",
            // What is no colour of the system's own.
            "color: currentcolor; background: transparent; border-color: inherit;",
            "@media (forced-colors: active) { border-color: ButtonText; }",
        ],
    );
    fails(
        "token/literal",
        BUTTON,
        &[
            ("color: #17324d;", "#17324d"),
            ("color: rebeccapurple;", "rebeccapurple"),
            ("background: linear-gradient({sea}, oklch(0.5 0.1 200));", "oklch(0.5 0.1 200)"),
            ("--tint: rgb(1 2 3); color: var(--tint);", "rgb(1 2 3)"),
            ("color: color-mix(in oklab, {ink}, hsl(200 50% 40%));", "hsl(200 50% 40%)"),
            ("box-shadow: 0 1px 2px rgb(0 0 0 / 20%);", "rgb(0 0 0 / 20%)"),
        ],
    );
}
