//! Geometry of small controls: corners within corners, thumbs, options that nudge a box.

use crate::memory::{Memory, messages};
use stilk_core::check::{Settings, run};
use stilk_core::stylesheet::{Purpose, write};

const STATES: &str = "@state hover { z-index: 1; } @state focus { outline: 1px solid; } @state active { z-index: 3; } @state disabled { z-index: 4; }";

/// What a check says of a control, with how many cases it could not decide.
fn said(check: &'static str, memory: &Memory) -> (Vec<String>, u64) {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let settings = Settings { threads: 1, today: None, every_case: false, only: vec![check] };
    let report = run(system, &project.sources, &written, &settings);
    let words = |f: &stilk_core::diagnostic::Diagnostic| {
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
            "`label` of `x` has corners of {said}, 4px within corners of 12px: they do not share a centre | write 8px"
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
