//! Resets against the measured defaults of three browsers.

use crate::memory::Memory;
use stilk_core::css::property::Longhand;
use stilk_core::dom::Document;
use stilk_core::engine::defaults::Browser;
use stilk_core::engine::resolved::resolved;
use stilk_core::engine::{Engine, Forced, Media, Stylesheet};
use stilk_core::page::Page;
use stilk_core::stylesheet::{Purpose, differences, resets, write};

/// What a button sets anyway; what is left unset is what resets are for.
const BASE: &str = "@control x { display: inline-flex; align-items: center; gap: 4px; padding: 4px 8px;
    border: 1px solid {a}; border-radius: 4px; background-color: {b}; background-image: none; color: {a};
    font: 400 1rem/1.4 serif; --n: 0; z-index: var(--n); }";

#[test]
fn what_hosts_and_engines_disagree_on_is_reset_and_nothing_else() {
    let project = Memory::with_sheet(BASE)
        .file(
            "controls/x.html",
            "<button type=\"button\">Go</button><input type=\"submit\" value=\"Go\"><a href=\"#\">Go</a>",
        )
        .load();
    let system = project.system.expect("a system");
    let control = &system.controls[0];
    let resets = resets(control);
    let covered: Vec<Longhand> = resets.iter().flat_map(|reset| reset.longhands()).collect();
    let differ = differences(control);
    let open: Vec<String> = differ
        .iter()
        .filter(|difference| !covered.contains(&difference.longhand))
        .map(|difference| format!("{}: {:?}", difference.longhand.name(), difference.values))
        .collect();
    assert!(open.is_empty(), "{}", open.join("\n"));
    for reset in resets.iter().filter(|reset| reset.property != "appearance") {
        let needed = reset.longhands().iter().any(|longhand| differ.iter().any(|d| d.longhand == *longhand));
        assert!(needed, "{} is reset, but nobody disagrees on it", reset.property);
    }
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
