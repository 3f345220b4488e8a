//! Tokens by switches and hooks: right in nested islands of several modifiers, and under overrides in a page.

use crate::memory::{Memory, messages};
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::stylesheet::{Purpose, write};

/// `line` is a constant of two modifiers; `edge` switches between references; `double` is computed from `line`.
fn system() -> Memory {
    let number = |value: f64| format!(r#"{{ "$type": "number", "$value": {value} }}"#);
    let resolver = format!(
        r##"{{ "version": "2025.10",
          "sets": {{ "base": {{ "sources": [{{ "line": {}, "thin": {}, "thick": {}, "edge": {{ "$value": "{{thin}}" }} }}] }} }},
          "modifiers": {{
            "theme": {{ "contexts": {{ "day": [], "night": [{{ "line": {}, "thin": {} }}] }}, "default": "day" }},
            "density": {{ "contexts": {{ "wide": [], "tight": [{{ "line": {}, "edge": {{ "$value": "{{thick}}" }} }}] }}, "default": "wide" }}
          }},
          "resolutionOrder": [{{ "$ref": "#/sets/base" }}, {{ "$ref": "#/modifiers/theme" }}, {{ "$ref": "#/modifiers/density" }}] }}"##,
        number(1.0),
        number(10.0),
        number(20.0),
        number(2.0),
        number(11.0),
        number(3.0),
    );
    Memory::with_sheet("@control x { z-index: {line}; order: {edge}; flex-grow: {double}; }")
        .file("stilk.toml", "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = \"t.resolver.json\"\n[modifiers.theme]\nfollow = [[\"night\", \"(prefers-color-scheme: dark)\"]]\n")
        .file("t.resolver.json", &resolver)
        .file("controls/shared.stilk", "@derive { double: calc(2 * {line}); }")
}

type Attributes<'a> = &'a [(&'a str, &'a str)];

/// Nests `div`s with these attributes and puts the control into the innermost; its three values.
fn values(wrappers: &[&[(&str, &str)]], media: Media) -> [String; 3] {
    let project = system().load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let parsed = Stylesheet::parse(&written.text);
    let mut document = Document::new();
    let mut at: NodeId = document.append_element(Document::ROOT, Element::html("html"));
    for attributes in wrappers {
        let mut element = Element::html("div");
        attributes.iter().for_each(|(name, value)| element.set(name, *value));
        at = document.append_element(at, element);
    }
    let mut control = Element::html("button");
    control.set("class", "t-x");
    let control = document.append_element(at, control);
    let styles = Engine::new(Defaults::Chromium.sheet(), &[&parsed], media).styles(&document, &Forced::default());
    let style = styles.element(control).unwrap();
    [Longhand::ZIndex, Longhand::Order, Longhand::FlexGrow].map(|longhand| resolved(style, longhand).unwrap())
}

#[test]
fn nested_islands_of_two_modifiers_meet_in_any_order() {
    let (night, day) = (&[("data-theme", "night")][..], &[("data-theme", "day")][..]);
    let (tight, wide) = (&[("data-density", "tight")][..], &[("data-density", "wide")][..]);
    let cases: [(&[Attributes], [&str; 3]); 8] = [
        (&[], ["1", "10", "2"]),
        (&[night], ["2", "11", "4"]),
        (&[tight], ["3", "20", "6"]),
        (&[night, tight], ["3", "20", "6"]),
        (&[tight, night], ["3", "20", "6"]),
        (&[night, tight, wide], ["2", "11", "4"]),
        (&[tight, night, wide, day], ["1", "10", "2"]),
        (&[night, day, tight, day], ["3", "20", "6"]),
    ];
    for (wrappers, expected) in cases {
        assert_eq!(values(wrappers, Media::default()), expected, "{wrappers:?}");
    }
}

#[test]
fn overrides_reach_what_depends_on_them_wherever_they_are_made() {
    let night = &[("data-theme", "night")][..];
    let over = |style| vec![("style", style)];
    for (wrappers, expected) in [
        (vec![over("--t-line: 7")], ["7", "10", "14"]),
        (vec![over("--t-line: 7"), night.to_vec()], ["7", "11", "14"]),
        (vec![night.to_vec(), over("--t-thin: 5")], ["2", "5", "4"]),
        (vec![over("--t-double: 9")], ["1", "10", "9"]),
        (vec![over("--t-edge: 4"), vec![("data-density", "tight")]], ["3", "4", "6"]),
    ] {
        let wrappers: Vec<&[(&str, &str)]> = wrappers.iter().map(Vec::as_slice).collect();
        assert_eq!(values(&wrappers, Media::default()), expected, "{wrappers:?}");
    }
}

#[test]
fn a_page_that_chooses_nothing_follows_its_media() {
    let dark = Media { dark: true, ..Media::default() };
    assert_eq!(values(&[], dark.clone()), ["2", "11", "4"]);
    assert_eq!(values(&[&[("data-theme", "day")]], dark), ["1", "10", "2"]);
}
