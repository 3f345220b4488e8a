//! Whatever is read: a system or diagnostics, never a panic or a hang.

use crate::memory::Memory;
use crate::soup::css_soup;
use proptest::prelude::*;

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
