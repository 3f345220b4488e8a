//! Switching a theme as docs/language.md writes it: every value is that of the new theme at once, and nothing starts to move.

use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::path::Path;

const DOCS: &str = include_str!("../../../../docs/language.md");

/// The block of a language that stands in the docs under the heading of the switch.
fn block(language: &str) -> &'static str {
    let section = DOCS.split("### Switching a theme").nth(1).expect("the heading");
    let start = section.split(&format!("```{language}\n")).nth(1).expect("a block");
    start.split("```").next().expect("its end")
}

/// Runs it on the sample's controls; the number of what does not hold.
pub fn run(browser: &Browser, sample: &Path) -> usize {
    let (css, body) = crate::resting_page(sample);
    let page = tempfile::tempdir().expect("a folder");
    let html = format!(
        "<!doctype html><html data-theme=day><head><style>{css}</style><style>{}</style></head><body>{body}<script>{}</script></body></html>",
        block("css"),
        block("js")
    );
    let path = page.path().join("page.html");
    std::fs::write(&path, html).expect("a page");
    browser.emulate(&[("prefers-reduced-motion", "no-preference")]);
    browser.open(&format!("file://{}", path.display()));
    let colors = "const read = () => [...document.querySelectorAll('*')].map(e => { const s = getComputedStyle(e); \
        return s.color + s.backgroundColor + s.borderTopColor }).join();";
    let settle = |theme: &str| -> Value {
        let script = format!(
            "{colors} document.documentElement.dataset.theme = '{theme}'; document.body.offsetHeight; \
             const moving = document.getAnimations().length; document.getAnimations().forEach(a => a.finish()); \
             return [moving, read()]"
        );
        browser.run(&script, json!([]))
    };
    let night = settle("night");
    settle("day");
    let switched = browser
        .run(&format!("{colors} switchTheme('night'); return [document.getAnimations().length, read()]"), json!([]));
    println!("switching a theme: {} transitions by itself, {} as the docs write it", night[0], switched[0]);
    assert!(night[0].as_u64().is_some_and(|count| count > 0), "nothing moves by itself: the test says nothing");
    usize::from(switched[0] != json!(0)) + usize::from(switched[1] != night[1])
}
