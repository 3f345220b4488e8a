//! Geometry of small controls: corners within corners, thumbs, options that nudge a box.

use crate::memory::{Memory, messages};
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

const STATES: &str = "@state hover { z-index: 1; } @state focus { outline: 1px solid; } @state active { z-index: 3; } @state disabled { z-index: 4; }";

/// What a check says of a control, with how many cases it could not decide.
fn said(check: &'static str, memory: &Memory) -> (Vec<String>, u64) {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let settings = Settings { threads: 1, today: None, only: vec![check], ..Settings::default() };
    let report = run(system, &project.sources, &written, &settings);
    let words = |f: &stilk_text::diagnostic::Diagnostic| {
        let mend = f.mend.clone().unwrap_or_default();
        format!("{} | {}", f.message, mend.split(':').next().unwrap_or_default())
    };
    (report.findings.iter().map(words).collect(), report.unknown)
}

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

/// What the mends of a check's findings write into the sheet, and what the check says after that.
fn written(check: &'static str, memory: Memory) -> (Vec<String>, Vec<String>) {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let settings = Settings { threads: 1, only: vec![check], ..Settings::default() };
    let report = run(system, &project.sources, &write(system, &project.sources, Purpose::Page), &settings);
    let mut edits: Vec<_> = report.findings.iter().flat_map(|finding| finding.edits.clone()).collect();
    edits.sort();
    edits.dedup();
    let mut text = String::from_utf8(memory.0["controls/x.stilk"].clone()).unwrap();
    for edit in edits.iter().rev() {
        text.replace_range(edit.span.range(), &edit.text);
    }
    let after = said(check, &memory.file("controls/x.stilk", &text)).0;
    (edits.into_iter().map(|edit| edit.text).collect(), after)
}

#[track_caller]
fn mends(check: &'static str, memory: Memory, expected: &[&str]) {
    let (texts, after) = written(check, memory);
    assert_eq!((texts, after), (expected.iter().map(|text| (*text).to_owned()).collect(), Vec::new()), "{check}");
}

#[test]
fn a_mend_of_a_length_is_written_with_the_names_that_the_sheet_has_for_it() {
    let x = |own: &str, more: &str| {
        Memory::with_sheet(&format!(
            "@control x {{ display: inline-block; border: 0; background: {{a}}; line-height: 20px; {own} {more} {STATES} }}"
        ))
    };
    // Corners: a token, a calculation, a local.
    let inner = "@part label { display: block; inline-size: 60px; block-size: 40px; background: {paper}; border-radius: 12px; }";
    mends("geometry/corner", x("padding: 3px; border-radius: {gap};", inner), &["calc({gap} - 3px)"]);
    mends(
        "geometry/corner",
        x("padding: {gap}; border-radius: calc({gap} + 6px);", inner),
        &["calc(({gap} + 6px) - {gap})"],
    );
    mends(
        "geometry/corner",
        x("--round: 13px; padding: 4px; border-radius: var(--round);", inner),
        &["calc(var(--round) - 4px)"],
    );
    mends("geometry/corner", x("padding: 4px; border-radius: 50px;", ""), &["calc(infinity * 1px)"]);
    // Thumbs.
    let switch = |track: &str| {
        let sheet = format!(
            "@control x {{ display: flex; @part native {{ position: absolute; opacity: 0; }}
           @part track {{ display: block; block-size: 24px; {track} box-sizing: border-box; background: {{b}}; }}
           @part thumb {{ display: block; inline-size: 16px; block-size: 16px; background: {{paper}}; }}
           @state checked {{ @part thumb {{ translate: 21px 0; }} }} }}"
        );
        let template = "<label><span part=\"track\"><input type=\"checkbox\" part=\"native\"><span part=\"thumb\"></span></span><slot>On</slot></label>";
        Memory::with_sheet(&sheet).file("controls/x.html", template)
    };
    mends("geometry/travel", switch("inline-size: 48px; padding: {gap};"), &["calc(48px - 16px - 2 * {gap})"]);
    mends("geometry/travel", switch("inline-size: 44px; padding: 4px;"), &["20px"]);
    // What stands in the middle.
    let dot = "@part label { position: relative; display: block; box-sizing: border-box; inline-size: 20px; block-size: 20px; border: 2px solid {b}; } @part label::after { content: \"\"; position: absolute; top: 3px; left: 4px; inline-size: {gap}; block-size: {gap}; background: {b}; }";
    let empty = x("", dot)
        .file("controls/x.html", "<button type=\"button\" aria-label=\"Go\"><span part=\"label\"></span></button>");
    mends("geometry/centered", empty, &["calc(0.5 * 20px - 0.5 * {gap} - 0.5 * 2px - 0.5 * 2px)"]);
    // Targets: a size grows, and where there is none it gets a least one.
    mends("geometry/target", x("block-size: {gap}; inline-size: 60px;", ""), &["max({gap}, 24px)"]);
    mends("geometry/target", x("padding: 1px 20px;", ""), &["; min-block-size: 24px"]);
}

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

#[test]
fn a_ring_that_is_too_thin_is_made_wide_enough() {
    let ring = |outline: &str, more: &str| {
        Memory::with_sheet(&format!(
            "@control x {{ background: {{b}}; color: {{paper}}; {more} @state focus {{ outline: {outline}; outline-offset: 2px; }} }}"
        ))
    };
    mends("contrast/focus", ring("1px solid {b}", ""), &["2px"]);
    mends("contrast/focus", ring("0.1rem solid {b}", ""), &["2px"]);
    // Where the ring is pale as well, its colour comes first.
    let (found, _) = said("contrast/focus", &ring("1px solid {paper}", ""));
    assert!(found.len() == 1 && found[0].contains("it needs 3:1"), "{found:?}");
}
