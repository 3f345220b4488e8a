//! The small cases from the specifications, asked of Chromium: the engine is held to the same values in the core's tests.

use crate::cases::all;
use crate::compare::same;
use crate::webdriver::Browser;
use serde_json::{Value, json};

/// Compares every case; prints the differences and returns how many there are and how many differ.
pub fn run(browser: &Browser) -> (u64, u64) {
    const SCRIPT: &str = "
        return arguments[0].map(([css, html, property]) => {
            document.head.innerHTML = '';
            const style = document.createElement('style');
            style.textContent = css;
            document.head.append(style);
            document.body.innerHTML = html;
            return getComputedStyle(document.getElementById('t')).getPropertyValue(property);
        });";
    let page = tempfile::Builder::new().suffix(".html").tempfile().expect("a page");
    std::fs::write(page.path(), "<!doctype html><title>cases</title>").expect("a page");
    browser.emulate(&[("prefers-color-scheme", "light")]);
    browser.open(&format!("file://{}", page.path().display()));
    let (mut count, mut differences) = (0, 0);
    let asked: Vec<Value> = all().map(|(_, (_, css, html, property, _))| json!([css, html, property])).collect();
    let answers = browser.run(SCRIPT, json!([asked]));
    for ((group, (name, _, _, _, expected)), answer) in all().zip(answers.as_array().expect("answers")) {
        let answer = answer.as_str().unwrap_or_default();
        count += 1;
        if !same(expected, answer) {
            differences += 1;
            println!("  {group}: {name}: expected {expected}, browser {answer}");
        }
    }
    println!("cases from the specifications: {count} compared, {differences} differences");
    assert!(count > 0, "no case was compared");
    (count, differences)
}
