//! The same cases in headless Chromium: a page with a system's controls in their variants, states forced as the
//! inspector forces them, everything that the contrast check reads read in one batch.

use crate::folder::Folder;
use crate::webdriver::Browser;
use serde_json::json;
use std::collections::BTreeMap;
use std::path::Path;
use std::process::Command;
use std::time::Instant;
use stilk_checks::registry;
use stilk_engine::cascade::Forced;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::case::{state_sets, theme_attributes};
use stilk_language::markup::{Request, mount, own_ids};
use stilk_language::system::System;

/// So many variants of each host are drawn in each state; more would only take longer.
const VARIANTS: usize = 6;

const READ: &str = "
    const names = ['color', 'color-scheme', 'background-color', 'background-image', 'backdrop-filter', 'content', 'display',
        'filter', 'font-size', 'font-weight', 'mix-blend-mode', 'opacity', 'position', 'text-shadow', 'visibility'];
    let length = 0;
    for (const element of document.querySelectorAll('.case, .case *')) {
        for (const pseudo of [null, '::before', '::after']) {
            const style = getComputedStyle(element, pseudo);
            for (const name of names) length += style.getPropertyValue(name).length;
        }
    }
    return length;";

/// What the browser took.
pub struct Figures {
    /// The browser and its version.
    pub version: String,
    /// How many cases.
    pub cases: usize,
    seconds: f64,
    reading: f64,
}

impl Figures {
    /// Cases per second, from the page's loading to the last value.
    pub fn per_second(&self) -> f64 {
        self.cases as f64 / self.seconds
    }

    /// Cases per second of reading alone.
    pub fn read_per_second(&self) -> f64 {
        self.cases as f64 / self.reading
    }
}

/// Measures a project's cases in every theme.
pub fn measure(folder: &Path) -> Figures {
    let built = Command::new(env!("CARGO_BIN_EXE_stilk")).arg("build").current_dir(folder).output().expect("a build");
    let said = String::from_utf8(built.stdout).expect("text");
    let css = folder.join(said.split(" (").next().expect("a path"));
    let system = registry::load(&Folder(folder.to_owned())).system.expect("a system");
    let browser = Browser::start(1280, 800);
    let mut figures = Figures { version: browser.version().to_owned(), cases: 0, seconds: 0.0, reading: 0.0 };
    for theme in system.tokens.themes() {
        let attributes = theme_attributes(&system, &theme);
        let (html, forced, cases) = page(&system, &css, &attributes);
        let path = folder.join("cases.html");
        std::fs::write(&path, html).expect("the page");
        let started = Instant::now();
        browser.open(&format!("file://{}", path.display()));
        force(&browser, &forced);
        let reading = Instant::now();
        browser.run(READ, json!([]));
        figures.reading += reading.elapsed().as_secs_f64();
        figures.seconds += started.elapsed().as_secs_f64();
        figures.cases += cases;
    }
    figures
}

/// A page, the pseudo-classes to force by the element's place in it, and the number of cases.
fn page(system: &System, css: &Path, attributes: &[(String, String)]) -> (String, BTreeMap<usize, Vec<String>>, usize) {
    let mut document = Document::new();
    let mut forced = Forced::default();
    let mut root = Element::html("html");
    attributes.iter().for_each(|(name, value)| root.set(name, value.clone()));
    let root = document.append_element(Document::ROOT, root);
    let head = document.append_element(root, Element::html("head"));
    let mut link = Element::html("link");
    link.set("rel", "stylesheet");
    link.set("href", format!("file://{}", css.display()));
    document.append_element(head, link);
    let body = document.append_element(root, Element::html("body"));
    let mut cases = 0;
    for control in &system.controls {
        for host in 0..control.template.hosts.len() {
            let variants = control.variants(host);
            let step = variants.len().div_ceil(VARIANTS);
            for variant in variants.iter().step_by(step) {
                for states in &state_sets(system, control) {
                    let mut wrapper = Element::html("div");
                    wrapper.set("class", "case");
                    let wrapper = document.append_element(body, wrapper);
                    let request = Request { control, host, variant, states, plain: false };
                    let mounted = mount(system, request, &mut document, wrapper, &mut forced);
                    own_ids(system, &mut document, mounted.host, &format!("c{cases}"));
                    cases += 1;
                }
            }
        }
    }
    let elements = document.descendants(Document::ROOT).into_iter().filter(|node| document.element(*node).is_some());
    let places: BTreeMap<NodeId, usize> = elements.enumerate().map(|(place, node)| (node, place)).collect();
    let mut by_place: BTreeMap<usize, Vec<String>> = BTreeMap::new();
    for (node, pseudo) in forced.iter() {
        by_place.entry(places[&node]).or_default().push(pseudo.name().to_owned());
    }
    (format!("<!doctype html>{}", document.to_html(root)), by_place, cases)
}

fn force(browser: &Browser, forced: &BTreeMap<usize, Vec<String>>) {
    browser.devtools("DOM.enable", json!({}));
    browser.devtools("CSS.enable", json!({}));
    let root = browser.devtools("DOM.getDocument", json!({ "depth": 0 }))["root"]["nodeId"].clone();
    let all = browser.devtools("DOM.querySelectorAll", json!({ "nodeId": root, "selector": "*" }));
    let ids = all["nodeIds"].as_array().expect("nodes");
    for (place, pseudos) in forced {
        let parameters = json!({ "nodeId": ids[*place], "forcedPseudoClasses": pseudos });
        browser.devtools("CSS.forcePseudoState", parameters);
    }
}
