//! Controls placed in other controls.

use crate::memory::{Memory, messages};
use stilk_engine::cascade::{Forced, PseudoClass};
use stilk_engine::dom::Document;
use stilk_language::markup::{Request, mount, mount_in_place, own_ids};
use stilk_language::system::{StateId, StateSet, Variant};

fn with_row(html: &str, sheet: &str) -> Memory {
    Memory::with_sheet("@control x { --tone: red; color: var(--tone); @option big { top: 0; } }")
        .file(
            "controls/x.html",
            "<button type=\"button\"><i part=\"mark\"><slot name=\"mark\">*</slot></i><slot>Go</slot></button>",
        )
        .file("controls/row.html", html)
        .file("controls/row.stilk", sheet)
}

const ROW: &str = "<div>\n<button part=\"item\" data-control=\"x\" data-options=\"big\" type=\"submit\"><b slot=\"mark\">!</b> Stop</button>\n<button part=\"item\" data-control=\"x\"></button></div>";

/// What a page has for the control `row`.
fn html_of_row(memory: &Memory) -> String {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let control = system.control("row").unwrap();
    let mut document = Document::new();
    let (variant, states) = (Variant { choices: vec![] }, StateSet::default());
    let request = Request { control, host: 0, variant: &variant, states: &states, plain: false };
    let mounted = mount(system, request, &mut document, Document::ROOT, &mut Forced::default());
    own_ids(system, &mut document, mounted.host, "r");
    document.to_html(mounted.host)
}

#[test]
fn content_fills_slots_and_attributes_replace_those_of_the_control() {
    assert_eq!(
        html_of_row(&with_row(ROW, "@control row { display: flex; }")),
        "<div class=\"t-row\">\n\
         <button class=\"t-x t-x-big t-row_item\" type=\"submit\"><i class=\"t-x_mark\"><b>!</b></i> Stop</button>\n\
         <button class=\"t-x t-row_item\" type=\"button\"><i class=\"t-x_mark\">*</i>Go</button></div>"
    );
}

#[test]
fn an_outer_control_positions_and_sets_locals_and_nothing_else() {
    let said = |sheet: &str| messages(&with_row(ROW, sheet).load());
    assert_eq!(said("@control row { @part item { margin: 1px; --tone: {b}; order: 2; } }"), Vec::<String>::new());
    assert_eq!(
        said("@control row { @part item { color: {b}; --tune: {b}; } }"),
        [
            "sheet/placed: `color` of a placed `x` is for `x` itself to say",
            "sheet/placed: `x` has no local property `--tune`"
        ]
    );
}

#[test]
fn placements_that_cannot_be_are_refused() {
    let said = |html: &str| messages(&with_row(html, "@control row { }").load());
    assert_eq!(said("<div><button data-control=\"y\"></button></div>"), ["template/control: there is no control `y`"]);
    assert_eq!(said("<div><p data-control=\"x\"></p></div>"), ["template/control: `x` has no host `<p>`"]);
    assert_eq!(
        said("<div><button data-control=\"x\" data-options=\"bog\"></button></div>"),
        ["template/control: there is no option `bog` of `x`"]
    );
    assert_eq!(said("<button data-control=\"x\"></button>"), ["template/control: a host cannot be another control"]);
    let circle = said("<div><div data-control=\"row\"></div></div>");
    assert_eq!(circle, ["template/control: `row` stands in itself, by way of what is placed in it"]);
}

#[test]
fn a_native_element_in_a_placed_label_is_the_labels_own() {
    let memory = |html: &str| {
        Memory::with_sheet("@control x { color: red; @part native { top: 0; } }")
            .file(
                "controls/x.html",
                "<label><input part=\"native\" type=\"checkbox\"><span part=\"text\"><slot>Go</slot></span></label>",
            )
            .file("controls/row.html", html)
            .file("controls/row.stilk", "@control row { display: flex; }")
    };
    let written = html_of_row(&memory(
        "<div><label data-control=\"x\" part=\"item\"><input type=\"checkbox\" name=\"dog\" value=\"yes\" checked part=\"box\"> Dog</label></div>",
    ));
    assert_eq!(written.matches("<input").count(), 1, "{written}");
    for text in ["name=\"dog\"", "value=\"yes\"", "checked", "t-x_native t-row_box", "> Dog<"] {
        assert!(written.contains(text), "{text}: {written}");
    }
    // Another field is a second one, which a label cannot be for.
    assert_eq!(
        messages(&memory("<div><label data-control=\"x\"><input type=\"radio\"> Dog</label></div>").load()),
        ["template/control: `x` has a field of its own, and `<input>` in it is another"]
    );
}

#[test]
fn a_host_has_the_same_name_in_sheets_and_cases() {
    let project = Memory::with_sheet(
        "@control x { color: red; @option big { top: 0; } @host submit { left: 0; } @exclude big on submit; }",
    )
    .file("controls/x.html", "<button type=\"button\">Go</button><input type=\"submit\" value=\"Go\">")
    .load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let control = system.control("x").unwrap();
    assert_eq!((control.host_name(0), control.host_name(1)), ("button", "submit"));
    assert_eq!(control.variants(1).len(), 1, "what is excluded on it is not there");
    let written =
        stilk_language::stylesheet::write(system, &project.sources, stilk_language::stylesheet::Purpose::Page);
    assert!(written.text.contains("input[type=\"submit\"]"), "{}", written.text);
}

#[test]
fn the_cases_of_what_stands_only_inside_of_another_stand_there() {
    let memory = Memory::with_sheet("@control x inside row { color: {a}; @state hover { color: {b}; } @option big { top: 0; } }")
        .file("controls/row.html", "<div><p data-when=\"tall\"><button part=\"item\" data-control=\"x\" type=\"button\" aria-pressed=\"true\">One</button></p><a data-when=\"tall\" part=\"item\" data-control=\"x\" href=\"#\">Two</a></div>")
        .file("controls/row.stilk", "@control row { gap: 0; @option tall { top: 0; } @state open { gap: 1px; } }");
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let control = system.control("x").unwrap();
    let variant = Variant { choices: vec![Some(0)] };
    let states = StateSet::of([StateId::Hover]);
    let request = Request { control, host: 1, variant: &variant, states: &states, plain: false };
    let (mut document, mut forced) = (Document::new(), Forced::default());
    let mounted = mount_in_place(system, request, &mut document, Document::ROOT, &mut forced);
    // In the variant of the other that has a place for it, which is open; in its own host, variant and states.
    assert_eq!(
        document.to_html(mounted.root),
        "<div class=\"t-row t-row-tall\" aria-expanded=\"true\"><p><button class=\"t-x t-row_item\" type=\"button\" aria-pressed=\"true\"><span class=\"t-x_label\">Go</span></button></p>\
         <a class=\"t-x t-x-big t-row_item\" href=\"#\"><span class=\"t-x_label\">Go</span></a></div>"
    );
    let hovered = |node| forced.iter().any(|(at, class)| at == node && *class == PseudoClass::Hover);
    assert!(hovered(mounted.host) && hovered(mounted.root), "a pointer over it is over what is around it");
}

#[test]
fn what_opens_by_itself_says_so_by_its_own_attribute() {
    for (template, wanted) in [
        ("<details><summary>More</summary></details>", "<details class=\"t-x\" open=\"\">"),
        ("<dialog><p>Sure?</p></dialog>", "<dialog class=\"t-x\" open=\"\">"),
        ("<button type=\"button\">More</button>", "<button class=\"t-x\" type=\"button\" aria-expanded=\"true\">"),
    ] {
        let memory = Memory::with_sheet("@control x { @state open { color: {a}; } }").file("controls/x.html", template);
        let project = memory.load();
        let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
        let control = system.control("x").unwrap();
        let (variant, states) = (Variant { choices: vec![] }, StateSet::of([StateId::Open]));
        let request = Request { control, host: 0, variant: &variant, states: &states, plain: false };
        let mut document = Document::new();
        let mounted = mount(system, request, &mut document, Document::ROOT, &mut Forced::default());
        let html = document.to_html(mounted.host);
        assert!(html.starts_with(wanted), "{html}");
    }
}
