//! What is offered as a mend, written as it would be.

use crate::judged::geometry::said;
use crate::memory::{Memory, messages};
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

const STATES: &str = "@state hover { z-index: 1; } @state focus { outline: 1px solid; } @state active { z-index: 3; } @state disabled { z-index: 4; }";

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
pub fn mends(check: &'static str, memory: Memory, expected: &[&str]) {
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
