//! Resets against the measured defaults of three browsers.

use crate::memory::{Memory, messages};
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, PseudoClass, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, Element};
use stilk_engine::page::Page;
use stilk_language::stylesheet::resets::defaults;
use stilk_language::stylesheet::{Purpose, Reset, write};
use stilk_language::system::System;

/// What a button sets anyway; what is left unset is what resets are for.
const BASE: &str = "@control x { display: inline-flex; align-items: center; gap: 4px; padding: 4px 8px;
    border: 1px solid {a}; border-radius: 4px; background-color: {b}; background-image: none; color: {a};
    font: 400 1rem/1.4 serif; --n: 0; z-index: var(--n); }";

#[test]
fn the_table_is_what_the_measured_defaults_give() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/src/stylesheet/resets/defaults.txt");
    let table = defaults::table();
    if std::env::var_os("STILK_ACCEPT").is_some() {
        std::fs::write(path, &table).expect("the table");
    }
    let kept = std::fs::read_to_string(path).expect("the table");
    let line = kept.lines().zip(table.lines()).find(|(kept, made)| kept != made);
    assert!(kept == table, "STILK_ACCEPT=1 writes it anew: {line:?}");
}

fn system(templates: &str, sheet: &str) -> System {
    let project = Memory::with_sheet(sheet).file("controls/x.html", templates).load();
    assert!(project.system.is_some(), "{:?}", messages(&project));
    project.system.expect("a system")
}

/// What `resets` writes, in the notation of CSS.
fn written(templates: &str, sheet: &str) -> Vec<String> {
    let system = system(templates, sheet);
    let resets = stilk_language::stylesheet::resets(&system.controls[0]).into_iter();
    resets
        .map(|reset| {
            let part = reset.part.map(|part| format!("{part} ")).unwrap_or_default();
            let hosts = if reset.hosts.is_empty() { String::new() } else { format!("{} ", reset.hosts) };
            format!("{part}{hosts}{}: {}", reset.property, reset.value)
        })
        .collect()
}

const THREE: &str = "<button type=\"button\">Go</button><input type=\"submit\" value=\"Go\"><a href=\"#\">Go</a>";

#[test]
fn the_smallest_set_makes_all_hosts_agree_in_all_engines() {
    assert_eq!(
        written(THREE, BASE),
        [
            "appearance: none",
            "cursor: pointer",
            "user-select: none",
            "text-rendering: auto",
            "white-space: normal",
            "outline-offset: 0",
            "a box-sizing: border-box",
            "a text-decoration-line: none",
            "a text-transform: none",
            "a text-indent: 0",
            "a text-shadow: none",
            "a letter-spacing: normal",
            "a word-spacing: normal",
            "a text-align: center",
        ]
    );
    for (hosts, sheet) in [
        (THREE, BASE),
        (THREE, "@control x { color: {a}; }"),
        ("<input value=\"Rum\"><textarea>Rum</textarea>", "@control x { color: {a}; }"),
        ("<select><option>Rum</option></select>", "@control x { appearance: none; color: {a}; }"),
        ("<input type=checkbox>", "@control x { appearance: none; }"),
    ] {
        let system = system(hosts, sheet);
        let control = &system.controls[0];
        let all = stilk_language::stylesheet::resets(control);
        assert!(disagreements(&system, sheet, &all).is_empty(), "{hosts}: {:?}", disagreements(&system, sheet, &all));
        // Not one of them can be left out; that a look is the platform's own is not in the tables.
        for left_out in all.iter().filter(|reset| reset.property != "appearance") {
            let rest: Vec<Reset> = all.iter().filter(|reset| *reset != left_out).cloned().collect();
            let open = disagreements(&system, sheet, &rest);
            assert!(!open.is_empty(), "{hosts}: nobody needs {}: {}", left_out.property, left_out.value);
        }
    }
}

#[test]
fn what_the_platform_draws_is_left_to_it() {
    assert_eq!(written("<input type=checkbox>", "@control x { color: {a}; }"), [""; 0]);
    assert_eq!(written("<a href=\"#\">Go</a>", BASE), ["cursor: pointer", "outline-offset: 0"]);
    let inside = "<div><select part=\"native\"><option>Rum</option></select></div>";
    assert_eq!(written(inside, "@control x { color: {a}; }"), [""; 0]);
    let drawn = "@control x { @part native { appearance: none; padding: 2px; border: 1px solid; border-radius: 2px; font: inherit; color: {a}; } }";
    assert_eq!(
        written(inside, drawn),
        [
            "native cursor: default",
            "native user-select: none",
            "native text-rendering: auto",
            "native white-space: normal",
            "native outline-offset: 0",
            "native background-color: transparent",
            "native opacity: 1",
        ]
    );
}

/// Longhands on which hosts or engines do not agree, in the same place, once the resets are in force.
fn disagreements(system: &System, sheet: &str, resets: &[Reset]) -> Vec<String> {
    let control = &system.controls[0];
    let declarations = |hosts: &str| -> String {
        let of = resets.iter().filter(|reset| reset.hosts == hosts);
        of.map(|reset| format!("{}: {};", reset.property, reset.value)).collect()
    };
    let own = "display: inline-flex; appearance: none;";
    let base =
        sheet.trim_start_matches("@control x {").trim_end_matches('}').replace("{a}", "red").replace("{b}", "blue");
    let css = format!(
        "@layer reset {{ .x {{ {} }} .x:where(a) {{ {} }} }} .x {{ {own} {base} }}
         .around {{ letter-spacing: 3px; text-transform: capitalize; text-indent: 11px; text-align: justify; cursor: grab;
           word-spacing: 5px; text-shadow: 1px 1px red; white-space: pre-line; text-rendering: geometricprecision;
           font: italic 700 21px/2 fantasy }}",
        declarations(""),
        declarations("a")
    );
    let sheet = Stylesheet::parse(&css);
    let mut open = Vec::new();
    for (around, states) in [("", ""), ("around", ""), ("", "focus-visible"), ("", "disabled")] {
        let mut values: BTreeMap<Longhand, BTreeSet<String>> = BTreeMap::new();
        for browser in Browser::MEASURED {
            for host in &control.template.hosts {
                let mut element = control.template.document.element(host.node).expect("an element").clone();
                if states == "disabled" && element.local() == "a" {
                    continue;
                }
                element.set("class", "x");
                if states == "disabled" {
                    element.set("disabled", "");
                }
                let mut document = Document::new();
                let mut parent = Element::html("div");
                parent.set("class", around);
                let parent = document.append_element(Document::ROOT, parent);
                let node = document.append_element(parent, element);
                let mut forced = Forced::default();
                if states == "focus-visible" {
                    forced.add(node, PseudoClass::FocusVisible);
                }
                let styles = Engine::new(browser.sheet(), &[&sheet], Media::default()).styles(&document, &forced);
                for longhand in defaults::defaults(defaults::ElementKind::OTHER).keys() {
                    if let Some(value) = defaults::shown(styles.element(node).expect("a style"), *longhand) {
                        values.entry(*longhand).or_default().insert(value);
                    }
                }
            }
        }
        let different = values.iter().filter(|(_, values)| values.len() > 1);
        open.extend(different.map(|(longhand, values)| format!("{}: {values:?} {around}{states}", longhand.name())));
    }
    open
}

#[test]
fn foreign_controls_compute_the_same_with_and_without_the_stylesheet() {
    let project = Memory::sample().load();
    let system = project.system.expect("the sample");
    let ours = Stylesheet::parse(&write(&system, &project.sources, Purpose::Page).text);
    let page = Page::parse(
        "<!doctype html><body><main><h1>Other</h1><p>Text <a href=#>link</a><button>Go</button><input><input type=checkbox>
         <select><option>x</select><textarea></textarea><fieldset><legend>x</legend><label>y <input type=radio></label>
         </fieldset><ul><li>z</ul><details><summary>s</summary></details><button class=button>B</button></main>",
    );
    for browser in Browser::MEASURED {
        let styles = |authors: &[&Stylesheet]| {
            Engine::new(browser.sheet(), authors, Media::default()).styles(&page.document, &Forced::default())
        };
        let (with, without) = (styles(&[&ours]), styles(&[]));
        for node in page.document.descendants(Document::ROOT) {
            let (Some(a), Some(b)) = (with.element(node), without.element(node)) else { continue };
            for longhand in Longhand::ALL {
                // The page's own colour scheme is the one thing that a theme sets on the root.
                let (a, b) = (resolved(a, *longhand), resolved(b, *longhand));
                assert!(a == b || *longhand == Longhand::ColorScheme, "{}: {a:?} with, {b:?} without", longhand.name());
            }
        }
    }
}
