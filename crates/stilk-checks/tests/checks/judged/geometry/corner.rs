//! `geometry/corner`.

use super::{STATES, said};
use crate::memory::Memory;

fn corners(label: &str) -> Vec<String> {
    let sheet = format!(
        "@control x {{ display: inline-block; padding: 4px; border: 0; border-radius: 12px; background: {{a}}; line-height: 20px;
           @part label {{ display: block; inline-size: 60px; block-size: 40px; background: {{paper}}; {label} }} {STATES} }}"
    );
    said("geometry/corner", &Memory::with_sheet(&sheet)).0
}

#[test]
fn an_inner_corner_is_less_round_by_the_gap() {
    assert_eq!(corners("border-radius: 8px;"), Vec::<String>::new());
    // A corner of its own, further in than the outer one reaches, is nobody's neighbour.
    assert_eq!(corners("border-radius: 3px; margin: 12px;"), Vec::<String>::new());
    assert_eq!(corners("border-radius: 0;"), Vec::<String>::new());
    for (radius, said) in [("12px", "12px"), ("4px", "4px"), ("20px", "20px"), ("50%", "20px")] {
        let found = corners(&format!("border-radius: {radius};"));
        let expected = format!(
            "`label` of `x` has corners of {said}, 4px within corners of 12px: they do not share a centre | write `8px`"
        );
        assert_eq!(found, [expected], "{radius}");
    }
    // No more than half of a side is drawn.
    assert_eq!(corners("border-radius: 99px; block-size: 16px; inline-size: 16px;"), Vec::<String>::new());
}
