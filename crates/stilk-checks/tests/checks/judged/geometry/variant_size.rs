//! `geometry/variant-size`.

use super::{STATES, said};
use crate::memory::Memory;

#[test]
fn an_option_that_nudges_the_box_is_seen_in_its_size() {
    let sized = |option: &str| {
        let sheet = format!(
            "@control x {{ display: inline-block; padding: 8px; border: 1px solid; font: 16px/20px sans-serif; {STATES} @option other {{ {option} }} }}"
        );
        said("geometry/variant-size", &Memory::with_sheet(&sheet)).0
    };
    assert_eq!(sized("background: {a};"), Vec::<String>::new());
    assert_eq!(sized("border-width: 2px; padding: 7px;"), Vec::<String>::new());
    assert!(sized("border-width: 2px;")[0].contains("`other` makes `x` 2px larger in height"));
    assert!(sized("line-height: 23px;")[0].contains("`other` makes `x` 3px larger in height"));
}
