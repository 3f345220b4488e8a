//! `cascade/reach`.

use crate::judged::{BUTTON, project, verdict};

#[test]
fn rules_reach_controls_only() {
    let attached = |selector: &str| {
        let memory = project(BUTTON, "color: {ink}; @option calm { color: {sea}; }");
        let sheet = String::from_utf8(memory.0["controls/x.stilk"].clone()).unwrap();
        let sheet = format!("{sheet}\n@attach ({selector}) as x calm {{ label: span; }}");
        verdict("cascade/reach", &memory.file("controls/x.stilk", &sheet)).0
    };
    for selector in [".teaser > a", "a.teaser", "[data-teaser]", "main a[rel=next]", "#top"] {
        assert_eq!(attached(selector), Vec::<String>::new(), "{selector}");
    }
    for selector in ["a", "*", "main a", "ul > li", "a:hover"] {
        assert_eq!(attached(selector).len(), 1, "{selector}");
    }
}
