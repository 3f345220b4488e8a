//! Whatever is read: a system or diagnostics, never a panic or a hang.

use crate::memory::Memory;
use proptest::prelude::*;

/// Bits of CSS, in any order.
fn css_soup() -> impl Strategy<Value = String> {
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

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, ..ProptestConfig::default() })]

    #[test]
    fn any_sheet_gives_diagnostics_or_a_system(sheet in css_soup()) {
        let project = Memory::with_sheet(&format!("@control x {{ color: {{a}}; {sheet} }}")).load();
        prop_assert!(project.system.is_some() || !project.diagnostics.is_empty());
    }

    #[test]
    fn any_template_gives_diagnostics_or_a_system(html in any::<String>()) {
        let project = Memory::with_sheet("@control x { color: {a}; }").file("controls/x.html", &html).load();
        prop_assert!(project.system.is_some() || !project.diagnostics.is_empty());
    }

    #[test]
    fn any_tokens_give_diagnostics_or_a_system(tokens in any::<String>()) {
        let project = Memory::with_sheet("@control x { color: red; }").file("t.tokens.json", &tokens).load();
        prop_assert!(project.system.is_some() || !project.diagnostics.is_empty());
    }
}
