//! `contrast/indicator`.

use crate::judged::{SWITCH, TICK, fails, passes};

#[test]
fn a_mark_can_be_found_on_what_it_lies_on() {
    let switch = |thumb: &str| {
        format!(
            "@part native {{ opacity: 0; }} @part track {{ display: flex; background: {{sea}}; }}
             @part thumb {{ inline-size: 16px; block-size: 16px; {thumb} }}"
        )
    };
    let good = [switch("background: {paper};"), switch("background: {mist};"), switch("border: 8px solid {paper};")];
    passes("contrast/indicator", SWITCH, &good);
    let bad = [
        switch("background: {ink};"),
        switch("background: {rust};"),
        switch("background: {paper}; @state checked { @part thumb { background: {rust}; } }"),
    ];
    fails("contrast/indicator", SWITCH, &[(&bad[0], "`ink`"), (&bad[1], "`rust`")]);
    // The tick of a box, drawn by a generated part when it is on.
    let tick = |color: &str| {
        format!(
            "@part native {{ position: absolute; opacity: 0; }}
             @part mark {{ display: inline-block; inline-size: 16px; block-size: 16px; background: {{sea}}; }}
             @part mark::after {{ content: \"\"; display: block; inline-size: 8px; block-size: 8px; visibility: hidden; background: {color}; }}
             @state checked {{ @part mark::after {{ visibility: visible; }} }}"
        )
    };
    passes("contrast/indicator", TICK, &[&tick("{paper}")]);
    fails("contrast/indicator", TICK, &[(&tick("{rust}"), "`rust`")]);
}
