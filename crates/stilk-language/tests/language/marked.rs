//! Controls, options, parts and contexts that are marked by what pages had: the look that they have there.

use crate::memory::{Memory, messages};
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::page::Page;
use stilk_language::markup::{Request, snippet};
use stilk_language::stylesheet::{Purpose, write};
use stilk_language::system::{Mark, StateSet, System};

const SHEET: &str = "
    @control x marked (.cta) {
      z-index: 1; color: {a};
      @part label marked ([data-label]) { order: 2; }
      @axis size default plain { plain { } small marked ([data-size='s']) { z-index: 2; } large marked (.is-large) { z-index: 3; } }
      @option send marked (#send) { z-index: 4; @part label { order: 5; } }
      @option own { z-index: 6; }
      @combine small send { z-index: 7; }
      @state disabled { z-index: 8; }
    }";

fn load(memory: &Memory) -> stilk_language::project::Project {
    let project = memory.load();
    assert!(project.system.is_some(), "{:?}", messages(&project));
    project
}

/// `z-index` of the first button or link of a page, and `order` of what is in it.
fn look(memory: &Memory, theirs: &str, body: &str) -> (String, String) {
    let project = load(memory);
    let system = project.system.as_ref().expect("a system");
    let ours = Stylesheet::parse(&write(system, &project.sources, Purpose::Page).text);
    let theirs = Stylesheet::parse(theirs);
    let page = Page::parse(&format!("<!doctype html><body>{body}"));
    let engine = Engine::new(Defaults::Chromium.sheet(), &[&theirs, &ours], Media::default());
    let styles = engine.styles(&page.document, &Forced::default());
    let all = page.document.descendants(stilk_engine::dom::Document::ROOT);
    let is = |local: &'static [&'static str]| {
        let found = all.iter().find(|node| page.document.element(**node).is_some_and(|e| local.contains(&e.local())));
        *found.expect("an element")
    };
    let value = |node, longhand| resolved(styles.element(node).expect("a style"), longhand).expect("a value");
    (value(is(&["button", "a"]), Longhand::ZIndex), value(is(&["span"]), Longhand::Order))
}

fn flat(sheet: &str, weight: u32) -> Memory {
    Memory::with_sheet(sheet).file(
        "stilk.toml",
        &format!(
            "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n[surfaces]\npage = \"{{paper}}\"\n\
             [stylesheet]\nlayers = false\nweight = {weight}\n"
        ),
    )
}

const LABEL: &str = "<span data-label>Go</span>";

#[test]
fn what_pages_had_chooses_control_option_and_part_in_layers_and_without() {
    for memory in [Memory::with_sheet(SHEET), flat(SHEET, 1), flat(SHEET, 2)] {
        for (attributes, z, order) in [
            ("class=cta", "1", "2"),
            ("class='cta is-large'", "3", "2"),
            ("class='is-large cta'", "3", "2"),
            ("class=cta data-size=s", "2", "2"),
            // Another value is none of its options.
            ("class=cta data-size=m", "1", "2"),
            ("class=cta id=send", "4", "5"),
            ("class=cta id=other", "1", "2"),
            ("class=cta data-size=s id=send", "7", "5"),
            ("class='cta t-x-own'", "6", "2"),
            ("class=cta data-size=s disabled", "8", "2"),
            // Without the control's mark the others say nothing.
            ("data-size=s id=send", "auto", "0"),
            ("class=t-x", "auto", "0"),
        ] {
            let found = look(&memory, "", &format!("<button {attributes}>{LABEL}</button>"));
            assert_eq!(found, (z.to_owned(), order.to_owned()), "{attributes}");
        }
    }
}

#[test]
fn an_id_weighs_no_more_than_a_class() {
    let body = format!("<div class=page><button class=cta id=send>{LABEL}</button></div>");
    // The page's own rules for two classes win over any of the system's, whatever marks it.
    assert_eq!(look(&flat(SHEET, 1), ".page .cta { z-index: 90 }", &body).0, "90");
    assert_eq!(look(&flat(SHEET, 1), ".page { z-index: 90 } button { z-index: 91 }", &body).0, "4");
    // Unlayered rules win over layers.
    assert_eq!(look(&Memory::with_sheet(SHEET), "button { z-index: 91 }", &body).0, "91");
}

#[test]
fn markup_that_is_written_has_the_marks_and_keeps_ids_that_are_marks() {
    let project = load(&Memory::with_sheet(SHEET));
    let system = project.system.as_ref().expect("a system");
    let control = system.control("x").expect("a control");
    let written = |options: &[&str]| {
        let mut variant = control.default_variant();
        for name in options {
            let id = control.find_option(name).expect("an option");
            variant.choices[id.axis] = Some(id.option);
        }
        snippet(
            system,
            Request { control, host: 0, variant: &variant, states: &StateSet::default(), plain: false },
            "s1",
        )
    };
    assert_eq!(written(&[]), "<button class=\"cta\" type=\"button\"><span data-label=\"\">Go</span></button>");
    let all = written(&["small", "send", "own"]);
    assert!(
        all.contains("class=\"cta t-x-own\"") && all.contains("data-size=\"s\"") && all.contains("id=\"send\""),
        "{all}"
    );
    assert!(written(&["large"]).contains("class=\"cta is-large\""));
}

#[test]
fn marks_are_those_of_the_control_itself() {
    let copied = format!("{SHEET} @control y from x {{ @axis size {{ small marked (.tiny) {{ z-index: 9; }} }} }}");
    let memory = Memory::with_sheet(&copied);
    let project = load(&memory);
    let system: &System = project.system.as_ref().expect("a system");
    let names = system.names();
    let text = |mark: Mark| mark.text();
    assert_eq!(text(names.control("x")), ".cta");
    assert_eq!(text(names.control("y")), ".t-y");
    assert_eq!(text(names.part("x", "label")), "[data-label]");
    assert_eq!(text(names.part("y", "label")), ".t-y_label");
    let option = |control: &str, option: &str| {
        let control = system.control(control).expect("a control");
        text(names.option(control, control.find_option(option).expect("an option")))
    };
    assert_eq!(
        (option("x", "small"), option("x", "send"), option("x", "own")),
        ("[data-size=\"s\"]".into(), "#send".into(), ".t-x-own".into())
    );
    assert_eq!((option("y", "small"), option("y", "send")), (".tiny".into(), ".t-y-send".into()));
    assert_eq!(system.control("x").expect("x").marks().count(), 5);
}

#[test]
fn what_is_no_mark_or_says_two_things_is_an_error() {
    for (sheet, expected) in [
        ("@control x marked (.a .b) { }", "`.a .b` is no mark"),
        ("@control x marked (a) { }", "`a` is no mark"),
        ("@control x marked (.a:hover) { }", "`.a:hover` is no mark"),
        ("@control x marked () { }", "`marked` names nothing"),
        ("@control x marked (.a { }", "`marked` names nothing"),
        ("@control x { @option o marked (.a, .b) { } }", "`.a, .b` is no mark"),
        ("@control x { @part label marked (.a) { } @part label marked (.b) { } }", "has the mark `.a` already"),
        ("@control x { @state hover { @part label marked (.a) { } } }", "under no condition"),
        ("@trait t { @part label marked (.a) { } } @control x { @traits t; }", "in no trait"),
        ("@control x { @part label, ::before marked (.a) { } }", "belongs to one part"),
        ("@control x { @option o marked (.a) { } @option p marked (.a) { } }", "would both be written the class `a`"),
        ("@control x { @option o marked (#a) { } @option p marked (#a) { } }", "would both be written `#a`"),
    ] {
        let said = messages(&Memory::with_sheet(sheet).load());
        assert!(said.iter().any(|m| m.contains(expected)), "{sheet}: {said:?}");
    }
    // The same mark once more is no second one, and a part may look like an option.
    for sheet in [
        "@control x { @part label marked (.a) { } @part label { } @part label marked (.a) { } }",
        "@control x { @part label marked (.a) { } @option o marked (.a) { order: 1; } }",
    ] {
        let said = messages(&Memory::with_sheet(sheet).load());
        assert!(!said.iter().any(|m| m.contains("mark") || m.contains("written")), "{sheet}: {said:?}");
    }
}
