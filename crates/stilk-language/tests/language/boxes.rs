//! Parts beside others, pseudo-elements and what boxes begin from: which there may be, and what is written for them.

use crate::memory::{Memory, messages};
use stilk_language::stylesheet::{Purpose, write};

const TEMPLATE: &str = "<div><b part=\"mark\" data-when=\"marked\">!</b><span part=\"text\"><slot>Go</slot></span><i part=\"late\">late</i>\
    <p part=\"panel\" popover>Panel</p><details part=\"more\"><summary>More</summary></details>\
    <select part=\"choice\"><option part=\"one\">One</option></select><input part=\"entry\" type=\"file\"></div>";

fn memory(body: &str) -> Memory {
    Memory::with_sheet(&format!("@control x {{ {body} @option marked {{ top: 0; }} }}"))
        .file("controls/x.html", TEMPLATE)
}

fn said(body: &str) -> Vec<String> {
    messages(&memory(body).load())
}

/// The rules that are written, one a line, without layers and comments.
fn written(body: &str) -> Vec<String> {
    let project = memory(body).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let text = write(system, &project.sources, Purpose::Page).text;
    let lines = text.lines().map(str::trim).filter(|line| line.ends_with('{') && !line.starts_with("@layer"));
    lines.map(|line| line.trim_end_matches(" {").to_owned()).collect()
}

#[test]
fn a_part_beside_another_has_the_weight_of_every_part() {
    let lines = written(
        "@part mark + text { left: 1px; } @part text ~ late:hover { left: 2px; } @part mark ~ late::before { left: 3px; }",
    );
    for wanted in [
        ":where(.t-x) .t-x_text:where(.t-x_mark + *)",
        ":where(.t-x) .t-x_late:where(:hover):where(.t-x_text ~ *)",
        ":where(.t-x) .t-x_late:where(.t-x_mark ~ *)::before",
    ] {
        assert!(lines.iter().any(|line| line == wanted), "{wanted}: {lines:#?}");
    }
}

#[test]
fn parts_that_never_stand_beside_each_other_are_told() {
    // What is between them may be left out by an option.
    let fine = "@part mark + text { left: 0; } @part text + late { left: 0; } @part mark ~ choice { left: 0; }";
    assert_eq!(said(fine), [""; 0]);
    assert_eq!(
        said("@part text + mark { left: 0; } @part mark + late { left: 0; } @part late ~ text { left: 0; }"),
        [
            "sheet/part: `mark` never stands right behind `text`",
            "sheet/part: `late` never stands right behind `mark`",
            "sheet/part: `text` never stands behind `late`",
        ]
    );
    assert_eq!(
        said(
            "@part mark > text { left: 0; } @part mark text { left: 0; } @part mark + text + late { left: 0; } @part mark + { left: 0; }"
        ),
        [
            "sheet/part: there is no part `mark > text` in the template of `x`",
            "sheet/part: there is no part `mark text` in the template of `x`",
            "sheet/part: there is no part `text + late` in the template of `x`",
            "sheet/part: nothing stands behind `mark +`",
        ]
    );
    assert_eq!(
        said("@part mark:first-child + text { left: 0; }"),
        ["sheet/part: `:first-child + text` is no selector"]
    );
}

#[test]
fn a_pseudo_element_is_of_an_element_that_can_have_it() {
    let fine = "@part panel::backdrop, more::details-content, choice::picker(select), choice::picker-icon, one::checkmark,
        text::first-letter, panel::first-line, entry::file-selector-button, late::marker, ::selection, one::before, ::after,
        choice::-webkit-scrollbar, text::backdrop, entry::after { color: {a}; }";
    assert_eq!(said(fine), [""; 0]);
    // A list that the page draws holds content, wherever the sheet says so.
    assert_eq!(
        said("@part choice::before { color: {a}; } @media (width > 1px) { @part choice { appearance: base-select; } }"),
        [""; 0]
    );
    assert_eq!(
        said(
            "@part text::details-content, one::picker(select), choice::checkmark, choice::before, text::placeholder, ::picker-icon, text::first-leter { color: {a}; }"
        ),
        [
            "sheet/pseudo: the part `text` can have no `::details-content`",
            "sheet/pseudo: the part `one` can have no `::picker(select)`",
            "sheet/pseudo: the part `choice` can have no `::checkmark`",
            "sheet/pseudo: the part `choice` can have no `::before`",
            "sheet/pseudo: the part `text` can have no `::placeholder`",
            "sheet/pseudo: no host of this control can have `::picker-icon`",
            "sheet/part: there is no pseudo-element `::first-leter`",
        ]
    );
}

#[test]
fn nothing_of_the_control_beats_what_a_box_begins_from() {
    let body =
        "@part panel { transition: opacity 1s; @state open of & { @starting-style { opacity: 0; } opacity: 1; } }
        @option other { @part panel { @state disabled and hover { opacity: .5; } } } @starting-style { scale: 0; }";
    let project = memory(body).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    for layers in [true, false] {
        let text = write(system, &project.sources, Purpose::Page).text;
        let (first, last) = (text.find("@starting-style").unwrap(), text.rfind("opacity: .5").unwrap());
        assert!(first > last && text.matches("@starting-style {").count() == 2, "{layers}: {text}");
    }
    assert_eq!(said("@starting-style (open) { top: 0; }"), ["sheet/syntax: `@starting-style` asks for nothing"]);
}

#[test]
fn what_stands_only_inside_of_another_is_placed_there() {
    let with = |head: &str| {
        Memory::with_sheet(&format!("@control x {head} {{ color: {{a}}; }}"))
            .file(
                "controls/row.html",
                "<div><button data-control=\"x\" type=\"button\" aria-pressed=\"true\"></button></div>",
            )
            .file("controls/row.stilk", "@control row { gap: 0; }")
            .file("controls/bare.html", "<p>Bare</p>")
            .file("controls/bare.stilk", "@control bare { gap: 0; }")
    };
    assert_eq!(messages(&with("inside row").load()), [""; 0]);
    assert_eq!(messages(&with("inside row bare").load()), ["sheet/inside: `bare` places no `x`"]);
    let other =
        with("inside row").file("controls/bare.html", "<p><button data-control=\"x\" type=\"button\"></button></p>");
    assert_eq!(messages(&other.load()), ["sheet/inside: `bare` places `x`, which stands only inside of row"]);
    assert_eq!(messages(&with("inside rwo").load()), ["sheet/inside: there is no control `rwo`"]);
    assert_eq!(messages(&with("inside").load()), ["sheet/syntax: `inside` names no control"]);
    // An outer control says where its placed ones are anchored, and to what.
    let anchored = with("inside row")
        .file("controls/row.html", "<div><button part=\"item\" data-control=\"x\" type=\"button\"></button></div>")
        .file("controls/row.stilk", "@control row { @part item { anchor-name: --item; position: absolute; position-anchor: --row; position-area: top; position-try-fallbacks: flip-block; } }");
    assert_eq!(messages(&anchored.load()), [""; 0]);
}
