//! `geometry/centered`.

use super::said;
use crate::memory::Memory;

fn dot(style: &str) -> Vec<String> {
    let sheet = format!(
        "@control x {{ display: block; position: relative; inline-size: 24px; block-size: 24px; padding: 0; border: 0; background: {{b}};
           @part label {{ position: absolute; inline-size: 8px; block-size: 8px; background: {{paper}}; {style} }} }}"
    );
    let template = "<button type=\"button\" aria-label=\"On\"><span part=\"label\"></span></button>";
    said("geometry/centered", &Memory::with_sheet(&sheet).file("controls/x.html", template)).0
}

#[test]
fn a_mark_stands_in_the_middle_of_what_it_is_in() {
    assert_eq!(dot("inset-inline-start: 8px; inset-block-start: 8px;"), Vec::<String>::new());
    assert_eq!(dot("inset: 0; margin: auto;"), Vec::<String>::new());
    let found = dot("inset-inline-start: 8px; inset-block-start: 9px;");
    assert!(found.len() == 1 && found[0].contains("9px"), "{found:?}");
}
