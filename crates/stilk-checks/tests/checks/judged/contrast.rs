//! Text, edges, marks and focus rings on what is painted behind them.

use super::{BUTTON, FIELD, SWITCH, TICK, asks_nothing, fails, leaves_open, passes};

#[test]
fn text_is_judged_on_what_is_painted_behind_it() {
    passes(
        "contrast/text",
        BUTTON,
        &[
            "background: {sea}; color: {paper};",
            // Nothing behind it but the page.
            "background: transparent; color: {ink};",
            // The label has a box of its own.
            "background: {ink}; color: {ink}; @part label { background: {paper}; }",
            // Dark behind light only where it is light enough: black at 45% over white is a mid grey.
            "background: rgb(0 0 0 / 65%); color: {paper};",
            // A state sets both.
            "background: {sea}; color: {paper}; @state hover { background: {mist}; color: {ink}; }",
            // Text that is never painted.
            "background: {mist}; color: {paper}; @part label { opacity: 0; }",
            "background: {mist}; color: {paper}; @part label { display: none; }",
            "background: {mist}; color: transparent;",
            // What is disabled needs no contrast.
            "background: {sea}; color: {paper}; @state disabled { background: {mist}; }",
            // Large, by size or by size and weight.
            "background: {paper}; color: #949494; font-size: 24px;",
            "background: {paper}; color: #949494; font-size: 19px; font-weight: 700;",
        ],
    );
    fails(
        "contrast/text",
        BUTTON,
        &[
            ("background: {paper}; color: {mist};", "`mist` on `paper` is "),
            ("background: {sea}; color: {paper}; @state hover { background: {mist}; }", "`paper` on `mist`"),
            ("background: {sea}; color: {paper}; @state hover { color: {rust}; }", "`rust` on `sea`"),
            // Thinned out by what is around it.
            ("background: {paper}; color: {ink}; @part label { opacity: .3; }", "`ink` on `paper`"),
            ("background: {paper}; color: rgb(0 0 0 / 40%);", "on `paper` is "),
            // A local of an option.
            (
                "--tint: {ink}; background: {paper}; color: var(--tint); @option pale { --tint: {mist}; }",
                "`mist` on `paper`",
            ),
            // One grey step too light, and just large enough to be too small.
            ("background: {paper}; color: #949494; font-size: 23.9px;", "text needs 4.5:1"),
            ("background: {paper}; color: #999999; font-size: 24px;", "text needs 3:1"),
            ("background: {paper}; color: #949494; font-size: 19px; font-weight: 600;", "text needs 4.5:1"),
        ],
    );
    leaves_open(
        "contrast/text",
        BUTTON,
        &[
            "background: url(waves.png); color: {ink};",
            "background: {paper}; color: {ink}; filter: invert(1);",
            "background: {paper}; color: {ink}; mix-blend-mode: multiply;",
            "background: {paper}; color: {ink}; text-shadow: 0 0 2px {paper};",
        ],
    );
}

#[test]
fn a_placeholder_is_text() {
    let field = "<label><span part=\"label\">Vessel</span><input part=\"native\" placeholder=\"Kittiwake\"></label>";
    passes(
        "contrast/placeholder",
        field,
        &[
            "@part native { background: {paper}; } @part native::placeholder { color: {ink}; opacity: 1; }",
            // One that nobody sees.
            "@part native { background: {paper}; } @part native::placeholder { color: transparent; }",
        ],
    );
    fails(
        "contrast/placeholder",
        field,
        &[
            (
                "@part native { background: {paper}; } @part native::placeholder { color: {mist}; opacity: 1; }",
                "`mist`",
            ),
            ("@part native { background: {sea}; } @part native::placeholder { color: {ink}; opacity: 1; }", "`sea`"),
            ("@part native { background: {paper}; } @part native::placeholder { color: {ink}; opacity: .3; }", "`ink`"),
        ],
    );
    // A control without a placeholder has none to judge, whatever is said of it.
    let (said, ..) =
        super::verdict("contrast/placeholder", &super::project(FIELD, "@part native::placeholder { color: {mist}; }"));
    assert!(said.is_empty(), "{said:?}");
}

#[test]
fn an_edge_is_a_border_or_a_fill_that_stands_out() {
    let native = |declarations: &str| format!("@part native {{ appearance: none; {declarations} }}");
    let good = [
        native("background: {paper}; border: 1px solid {sea}; color: {ink};"),
        // The fill alone.
        native("background: {sea}; border: 0; color: {paper};"),
        // The border does not stand out from the fill, the fill does from the page.
        native("background: {sea}; border: 1px solid {sea}; color: {paper};"),
        native("background: {paper}; border: 0; box-shadow: inset 0 0 0 1px {sea}; color: {ink};"),
    ];
    passes("contrast/boundary", FIELD, &good);
    let bad = [
        native("background: {paper}; border: 1px solid {mist}; color: {ink};"),
        native("background: {mist}; border: 0; color: {ink};"),
        native("background: {paper}; border: 0 solid {sea}; color: {ink};"),
        native("background: {paper}; border: 1px solid transparent; color: {ink};"),
    ];
    let words = ["`mist`", "`mist`", "the fill of `x`, `paper`", "the fill of `x`, `paper`"];
    let bad: Vec<(String, &str)> = bad.into_iter().zip(words).collect();
    fails("contrast/boundary", FIELD, &bad);
    // A button needs none: its text says that it is there.
    asks_nothing("contrast/boundary", BUTTON, &["background: {paper}; border: 0; color: {ink};"]);
}

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

#[test]
fn a_focus_ring_stands_out_and_is_wide_enough() {
    let ring = |declarations: &str| format!("background: {{sea}}; color: {{paper}}; @state focus {{ {declarations} }}");
    let good = [
        ring("outline: 2px solid {ink}; outline-offset: 2px;"),
        ring("outline: 3px dashed {rust}; outline-offset: 1px;"),
        // A shadow is a ring as well.
        ring("outline: none; box-shadow: 0 0 0 2px {paper}, 0 0 0 4px {ink};"),
        ring("outline: none; box-shadow: 0 0 0 1px {mist}, 0 0 0 2px {paper}, 0 0 0 5px {ink};"),
        // Whatever else changes, the ring does what it must.
        ring("outline: 2px solid {ink}; outline-offset: 2px; background: {rust};"),
    ];
    passes("contrast/focus", BUTTON, &good);
    let bad = [
        (ring("outline: 2px solid {mist}; outline-offset: 2px;"), "`mist`"),
        (ring("outline: 1px solid {ink}; outline-offset: 2px;"), "1px"),
        (ring("outline: 2px solid transparent;"), ""),
        // Of the outer ring the inner one leaves a px.
        (ring("outline: none; box-shadow: 0 0 0 3px {paper}, 0 0 0 4px {ink};"), "1px"),
        // One behind the other is not painted at all.
        (ring("outline: none; box-shadow: 0 0 0 3px {paper}, 0 0 0 2px {ink};"), "`paper`"),
        // It touches the control, and there it is lost.
        (ring("outline: 2px solid {rust};"), "`rust`"),
    ];
    fails("contrast/focus", BUTTON, &bad);
    // Of a ring that was there at rest less is left: what focus adds is the other one.
    let covered = "background: {sea}; color: {paper}; box-shadow: 0 0 0 4px {ink};
        @state focus { outline: none; box-shadow: 0 0 0 2px {sea}, 0 0 0 4px {ink}; }";
    passes(
        "contrast/focus",
        BUTTON,
        &[&covered.replace("2px {sea}", "2px {paper}").replace("4px {ink}; }", "5px {ink}; }")],
    );
    fails("contrast/focus", BUTTON, &[(covered, "`sea`")]);
    // That there is none at all is told by `state/missing`.
    asks_nothing("contrast/focus", BUTTON, &[&ring("outline: none;")]);
}
