//! `geometry/travel`.

use super::said;
use crate::memory::Memory;

fn switch(thumb: &str, on: &str) -> (Vec<String>, u64) {
    let sheet = format!(
        "@control x {{ display: flex; @part native {{ position: absolute; opacity: 0; }}
           @part track {{ display: block; inline-size: 44px; block-size: 24px; background: {{b}}; padding: 4px; box-sizing: border-box; }}
           @part thumb {{ display: block; inline-size: 16px; block-size: 16px; background: {{paper}}; {thumb} }}
           @state checked {{ @part thumb {{ {on} }} }}
           @state hover {{ z-index: 1; }} @state focus {{ outline: 1px solid; }} @state disabled {{ z-index: 4; }} }}"
    );
    let template = "<label><span part=\"track\"><input type=\"checkbox\" part=\"native\"><span part=\"thumb\"></span></span><slot>On</slot></label>";
    said("geometry/travel", &Memory::with_sheet(&sheet).file("controls/x.html", template))
}

#[test]
fn a_thumb_is_followed_by_values_and_by_the_layout() {
    assert_eq!(switch("", "translate: 20px 0;"), (Vec::new(), 0));
    assert_eq!(switch("", "translate: 125% 0;"), (Vec::new(), 0));
    assert_eq!(switch("", "margin-inline-start: auto;"), (Vec::new(), 0));
    for on in ["translate: 18px 0;", "translate: calc(100% + 2px) 0;", "margin-inline-start: 18px;"] {
        let (found, unknown) = switch("", on);
        assert_eq!(unknown, 0, "{on}");
        assert!(
            found.len() == 1 && found[0].contains("4px from one end of its track and 6px from the other"),
            "{on}: {found:?}"
        );
    }
}
