//! `geometry/depth`.

use super::said;
use crate::memory::Memory;
use crate::mends::mends;

#[test]
fn what_is_pressed_goes_down_by_as_much_as_stands_out_below_it() {
    let shadow = |moves: &str, rest: &str| {
        Memory::with_sheet(&format!(
            "@control x {{ background: {{a}}; box-shadow: 0 {rest} 0 {{b}}; @state hover {{ z-index: 1; }} @state focus {{ outline: 1px solid; }} @state active {{ translate: 0 {moves}; box-shadow: none; }} }}"
        ))
    };
    assert_eq!(said("geometry/depth", &shadow("6px", "6px")), (Vec::new(), 0));
    mends("geometry/depth", shadow("6px", "{gap}"), &["{gap}"]);
    // A box behind, and one of its own that goes along.
    let layers = |front: &str, back: &str| {
        let sheet = format!("@control x {{ position: relative; display: inline-block; border: 0; padding: 0 0 6px; line-height: 20px; background: none;
            {back} @part label {{ position: relative; display: block; padding: 8px; background: {{a}}; }}
            @state active {{ @part label {{ translate: 0 {front}; }} }} }}");
        said("geometry/depth", &Memory::with_sheet(&sheet))
    };
    let behind = "@part ::before { content: \"\"; position: absolute; inset: 6px 0 0; background: {b}; }";
    assert_eq!(layers("6px", behind), (Vec::new(), 0));
    assert_eq!(layers("4px", behind), (Vec::new(), 0));
    assert_eq!(
        layers("9px", behind).0,
        [
            "pressed, `label` of `x` goes down by 9px, through the layer that stands out by 6px | move by `6px`, or let a local give both"
        ]
    );
    // A layer that nobody sees stands out nowhere: it keeps the pointer.
    for hidden in ["opacity: 0;", "visibility: hidden;", "scale: 0;"] {
        assert_eq!(layers("9px", &behind.replace("inset", &format!("{hidden} inset"))), (Vec::new(), 0), "{hidden}");
    }
    let along =
        "@part label::after { content: \"\"; position: absolute; z-index: -1; inset: 6px 0 -6px; background: {b}; }";
    assert_eq!(
        layers("4px", along).0,
        [
            "pressed, `label` of `x` goes down by 4px and its lower layer goes along | in `@state active`, move the lower layer up by 4px"
        ]
    );
}
