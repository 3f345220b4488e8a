//! Markup that cannot be changed gets a control's look: in layers and without, over the rules it already has.

use crate::memory::{Memory, messages};
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, PseudoClass, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::stylesheet::{Purpose, write};

const SHEET: &str = "
    @control x {
      --tall: 1;
      z-index: var(--tall); color: {a};
      @part label { order: 2; }
      @state hover { z-index: 30; @part label { order: 3; } }
      @axis size { small { } big { --tall: 7; @state hover { z-index: 31; } } }
      @option wide { z-index: 99; }
    }
    @attach (.old > a, .older a) as x big { label: span; }";

/// `<div class=CLASS><a href=#><span>` and what is forced on the link.
fn page(class: &str, own: &str, hover: bool) -> (Document, NodeId, NodeId, Forced) {
    let mut document = Document::new();
    let html = document.append_element(Document::ROOT, Element::html("html"));
    let mut outer = Element::html("div");
    outer.set("class", class);
    let outer = document.append_element(html, outer);
    let mut link = Element::html("a");
    link.set("href", "#");
    link.set("class", own);
    let link = document.append_element(outer, link);
    let span = document.append_element(link, Element::html("span"));
    let mut forced = Forced::default();
    if hover {
        forced.add(link, PseudoClass::Hover);
    }
    (document, link, span, forced)
}

/// `z-index` of the link and `order` of the span.
fn look(memory: &Memory, class: &str, own: &str, hover: bool) -> (String, String) {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let ours = Stylesheet::parse(&write(system, &project.sources, Purpose::Page).text);
    let theirs = Stylesheet::parse("a { z-index: 500 } a:hover { z-index: 501 }");
    let (document, link, span, forced) = page(class, own, hover);
    let styles =
        Engine::new(Defaults::Chromium.sheet(), &[&theirs, &ours], Media::default()).styles(&document, &forced);
    let value = |node, longhand| resolved(styles.element(node).unwrap(), longhand).unwrap();
    (value(link, Longhand::ZIndex), value(span, Longhand::Order))
}

#[test]
fn attached_markup_has_the_look_of_its_variant() {
    let layered = Memory::with_sheet(SHEET);
    let flat = Memory::with_sheet(SHEET).file(
        "stilk.toml",
        "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n[surfaces]\npage = \"{paper}\"\n\
         [stylesheet]\nlayers = false\n",
    );
    let is = |z: &str, order: &str| (z.to_owned(), order.to_owned());
    for (name, memory) in [("layered", &layered), ("flat", &flat)] {
        assert_eq!(look(memory, "old", "", false), is("7", "2"), "{name}");
        assert_eq!(look(memory, "older", "", false), is("7", "2"), "{name}");
        // Nothing else is touched.
        assert_eq!(look(memory, "other", "", false), is("500", "0"), "{name}");
    }
    assert_eq!(look(&layered, "old", "", true), is("31", "3"));
    // Without layers `a:hover` has more weight than one class: the design's table says so.
    assert_eq!(look(&flat, "old", "", true), is("501", "3"));
    // What bears the class has its own variant: the attachment leaves it alone.
    assert_eq!(look(&flat, "old", "t-x", false).0, "1");
}

#[test]
fn what_cannot_be_attached_is_an_error() {
    for (attach, expected) in [
        ("(.a::before) as x;", "is a pseudo-element"),
        ("(.a >) as x;", "is no selector"),
        ("(.a) as y;", "there is no control `y`"),
        ("(.a) as x bigger;", "there is no option `bigger`"),
        ("(.a) as x { lable: span; }", "there is no part `lable`"),
        (".a as x;", "begins with a selector in brackets"),
        ("(.a) x;", "does not say what is attached"),
    ] {
        let project =
            Memory::with_sheet(&format!("{} @attach {attach}", SHEET.split("@attach").next().unwrap())).load();
        let said = messages(&project);
        assert!(said.iter().any(|m| m.contains(expected)), "{attach}: {said:?}");
    }
}
