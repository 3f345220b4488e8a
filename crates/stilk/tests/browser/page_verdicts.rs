//! Verdicts of checks of pages, asked of the browser: the page that fails shows the fault in it, the one that passes does not.

use crate::build;
use crate::verdicts::written;
use crate::webdriver::Browser;
use serde_json::json;
use std::collections::BTreeMap;
use stilk_checks::example::Example;
use stilk_checks::registry::find;

/// What scripts share.
const HELP: &str = "
    const one = selector => document.querySelector(selector);
    const box = selector => one(selector).getBoundingClientRect();
    const style = selector => getComputedStyle(one(selector));
    const luminance = color => {
        const [r, g, b] = color.match(/[\\d.]+/g).map(c => c / 255).map(c => c <= .04045 ? c / 12.92 : ((c + .055) / 1.055) ** 2.4);
        return .2126 * r + .7152 * g + .0722 * b;
    };
    const contrast = (a, b) => { const [x, y] = [luminance(a), luminance(b)]; return (Math.max(x, y) + .05) / (Math.min(x, y) + .05); };
";

/// A check, what is given the keyboard's focus, and a script: whether the fault is there.
const VERDICTS: [(&str, &str, &str); 9] = [
    ("page/contrast", "", "contrast(style('.ex-button_label').color, style('div').backgroundColor) < 4.5"),
    ("page/forced-colors", ".ex-button", "style('.ex-button').outlineStyle === 'none'"),
    ("page/hover-only", "", "(one('.more a').focus(), style('.more ul').display === 'none')"),
    (
        "page/lasting-focus",
        "",
        "(one('.day').focus(), window.on = style('.day').backgroundColor, one('.day').blur(), style('.day').backgroundColor !== on)",
    ),
    ("page/outline", "a", "style('a').outlineStyle === 'none'"),
    ("page/override", "", "style('.ex-button').paddingTop !== '8px'"),
    ("page/target", "", "Math.min(box('.ex-button').width, box('.ex-button').height) < 24"),
    ("page/transition", "", "style('.card').transitionProperty === 'all'"),
    ("page/unreachable", "", "(one('.ex-field_native').focus(), document.activeElement !== one('.ex-field_native'))"),
];

/// Asks for every verdict and returns how many are not the browser's.
pub fn run(browser: &Browser) -> usize {
    let mut wrong = 0;
    for (id, focused, fault) in VERDICTS {
        let check = find(id).expect("a check");
        for (example, is_fault) in [(&check.fails, true), (&check.passes, false)] {
            let forced = if id == "page/forced-colors" { "active" } else { "none" };
            let features = json!({ "features": [{ "name": "forced-colors", "value": forced }] });
            browser.devtools("Emulation.setEmulatedMedia", features);
            open(browser, example);
            if !focused.is_empty() {
                browser.run(&format!("document.querySelector('{focused}').id = 'host'"), json!([]));
                browser.force(&BTreeMap::from([("host", vec!["focus", "focus-visible"])]));
            }
            let found = browser.run(&format!("{HELP} return {fault}"), json!([]));
            if found != json!(is_fault) {
                let which = if is_fault { "fails" } else { "passes" };
                println!("  {id}: the browser says {found} of the page that {which}");
                wrong += 1;
            }
        }
    }
    browser.devtools("Emulation.setEmulatedMedia", json!({ "features": [] }));
    println!("verdicts of {} checks of pages asked of the browser: {wrong} differ", VERDICTS.len());
    wrong
}

/// The page of an example, with the stylesheet that it links.
fn open(browser: &Browser, example: &Example) {
    let work = written(example);
    build(work.path());
    browser.open(&format!("file://{}", work.path().join("page.html").display()));
}
