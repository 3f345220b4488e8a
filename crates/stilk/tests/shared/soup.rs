//! Text that is nearly CSS.

use proptest::prelude::*;

/// Bits of CSS, in any order.
pub fn css_soup() -> impl Strategy<Value = String> {
    let piece = prop_oneof![
        Just("a"),
        Just("{"),
        Just("}"),
        Just("("),
        Just(")"),
        Just(";"),
        Just(":"),
        Just("var(--x)"),
        Just("--x:"),
        Just("@layer"),
        Just("@media"),
        Just("@container"),
        Just("@property"),
        Just("&"),
        Just("color"),
        Just("red"),
        Just("calc("),
        Just("1px"),
        Just("%"),
        Just("/"),
        Just("\""),
        Just("url("),
        Just("!important"),
        Just(","),
        Just("color-mix(in"),
        Just("oklch(from"),
        Just("linear-gradient("),
        Just("\\"),
        Just("\u{0}"),
        Just("é"),
        Just(" "),
        Just(":has("),
        Just(":nth-child("),
        Just("attr("),
        Just("if("),
        Just("transform:"),
        Just("font:"),
        Just("background:"),
    ];
    prop::collection::vec(piece, 0..60).prop_map(|pieces| pieces.concat())
}
