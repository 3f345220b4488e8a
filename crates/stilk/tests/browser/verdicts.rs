//! Verdicts of checks, asked of the browser: on the example that fails it shows the fault, on the one that passes it does not.

use crate::webdriver::Browser;
use crate::{Folder, build};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use stilk_checks::example::Example;
use stilk_checks::registry::{self, find};
use stilk_language::markup::{Request, snippet};
use stilk_language::system::StateSet;

/// What scripts share: the first and the last variant of a control, in a room of its own.
const HELP: &str = "
    const host = document.querySelector('#one > *'), other = document.querySelector('#two > *');
    const part = name => host.querySelector(`[class$=_${name}]`);
    const box = element => element.getBoundingClientRect();
    const style = (element, pseudo) => getComputedStyle(element, pseudo);
    const pixel = color => {
        const context = document.createElement('canvas').getContext('2d');
        context.fillStyle = color; context.fillRect(0, 0, 1, 1);
        return context.getImageData(0, 0, 1, 1).data;
    };
    const luminance = color => {
        const [r, g, b] = [...pixel(color)].map(c => c / 255).map(c => c <= .04045 ? c / 12.92 : ((c + .055) / 1.055) ** 2.4);
        return .2126 * r + .7152 * g + .0722 * b;
    };
    const contrast = (a, b) => { const [x, y] = [luminance(a), luminance(b)]; return (Math.max(x, y) + .05) / (Math.min(x, y) + .05); };
";

/// A check, the states forced on both controls, and scripts: what to remember before, and whether the fault is there.
const VERDICTS: [(&str, &[&str], &str, &str); 20] = [
    ("contrast/text", &[], "0", "contrast(style(part('label')).color, style(host).backgroundColor) < 4.5"),
    (
        "contrast/placeholder",
        &[],
        "0",
        "contrast(style(part('native'), '::placeholder').color, style(host).backgroundColor) < 4.5",
    ),
    ("contrast/boundary", &[], "0", "contrast(style(part('native')).borderTopColor, 'white') < 3"),
    ("contrast/focus", &["focus", "focus-visible"], "0", "contrast(style(host).outlineColor, 'white') < 3"),
    (
        "contrast/indicator",
        &[],
        "0",
        "contrast(style(part('thumb')).backgroundColor, style(part('track')).backgroundColor) < 3",
    ),
    ("reset/unreachable", &[], "0", "(part('native').focus(), document.activeElement !== part('native'))"),
    ("state/shift", &["hover"], "box(host).height", "Math.abs(box(host).height - window.before) > .5"),
    ("state/hover-only", &["focus", "focus-visible"], "0", "style(part('hint')).visibility !== 'visible'"),
    (
        "state/slips",
        &["active"],
        "box(host).top",
        "!host.contains(document.elementFromPoint(box(host).left + 9, window.before + 3))",
    ),
    (
        "state/leak",
        &["hover"],
        "style(other).backgroundColor",
        "style(other).backgroundColor === style(host).backgroundColor",
    ),
    ("geometry/anchored", &[], "0", "part('badge').offsetParent !== host"),
    ("geometry/inline", &[], "0", "box(host).top < box(host.parentNode).top - .5"),
    ("geometry/depth", &["active"], "box(host).top", "Math.abs(box(host).top - window.before - 6) > .5"),
    ("geometry/variant-size", &[], "0", "Math.abs(box(host).height - box(other).height) > .5"),
    ("font/line", &[], "0", "parseFloat(style(part('label')).lineHeight) < parseFloat(style(part('label')).fontSize)"),
    ("geometry/target", &[], "0", "Math.min(box(host).width, box(host).height) < 24"),
    (
        "geometry/centered",
        &[],
        "0",
        "Math.abs(box(part('dot')).top - box(part('ring')).top - (box(part('ring')).bottom - box(part('dot')).bottom)) > .5",
    ),
    (
        "geometry/painted",
        &[],
        "0",
        "(b => document.elementFromPoint(b.left + b.width / 2, b.top + b.height / 2) !== part('label'))(box(part('label')))",
    ),
    (
        "geometry/wrap",
        &[],
        "document.querySelector('#one').style.width = '200px'",
        "(items => box(items[1]).top - box(items[0]).bottom < 1)([...host.children])",
    ),
    ("cascade/masked", &["hover"], "0", "style(host).backgroundImage !== 'none'"),
];

/// Asks for every verdict and returns how many are not the browser's.
pub fn run(browser: &Browser) -> usize {
    let mut wrong = 0;
    for (id, states, before, fault) in VERDICTS {
        let check = find(id).expect("a check");
        for (example, is_fault) in [(&check.fails, true), (&check.passes, false)] {
            open(browser, example);
            browser.run(
                &format!("{HELP} host.id = 'host'; if (other) other.id = 'other'; window.before = {before};"),
                json!([]),
            );
            let forced: Vec<&str> = states.to_vec();
            if !forced.is_empty() {
                browser.force(&BTreeMap::from([("host", forced.clone()), ("other", forced)]));
            }
            let found = browser.run(&format!("{HELP} return {fault}"), json!([]));
            if found != json!(is_fault) {
                println!(
                    "  {id}: the browser says {found} of the example that {}",
                    if is_fault { "fails" } else { "passes" }
                );
                wrong += 1;
            }
        }
    }
    wrong += travel(browser) + nameless(browser);
    println!("verdicts of {} checks asked of the browser: {wrong} differ", VERDICTS.len() + 2);
    wrong
}

/// A folder with the files of an example.
pub fn written(example: &Example) -> tempfile::TempDir {
    let work = tempfile::tempdir().expect("a folder");
    for (path, text) in example.files() {
        let path = work.path().join(path);
        std::fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
        std::fs::write(path, text).expect("a file");
    }
    work
}

/// The page of an example: its control in the default variant, and in the last one.
fn open(browser: &Browser, example: &Example) {
    let work = written(example);
    let css = std::fs::read_to_string(build(work.path())).expect("the stylesheet");
    let system = registry::load(&Folder(work.path().to_owned())).system.expect("a system");
    let control = &system.controls[0];
    let rest = StateSet::default();
    let rooms = [control.default_variant(), control.variants(0).pop().expect("a variant")].map(|variant| {
        snippet(&system, Request { control, host: 0, variant: &variant, states: &rest, plain: false }, "x")
    });
    let [one, two] = rooms;
    let page = work.path().join("page.html");
    let html = format!(
        "<!doctype html><meta charset=utf-8><title>Verdict</title><style>{css}\nbody {{ margin: 40px; background: white; }} #one, #two {{ margin-block: 60px; }}</style><div id=one>{one}</div><div id=two>{two}</div>"
    );
    std::fs::write(&page, html).expect("a page");
    browser.open(&format!("file://{}", page.display()));
}

/// Where a thumb stands off and on.
fn travel(browser: &Browser) -> usize {
    let check = find("geometry/travel").expect("a check");
    [(&check.fails, true), (&check.passes, false)]
        .into_iter()
        .filter(|(example, is_fault)| {
            open(browser, example);
            let script = format!(
                "{HELP} const gap = box(part('thumb')).left - box(part('track')).left; part('native').checked = true;
                 return Math.abs(gap - (box(part('track')).right - box(part('thumb')).right)) > .5"
            );
            browser.run(&script, json!([])) != json!(is_fault)
        })
        .count()
}

/// The accessible name of a busy button.
fn nameless(browser: &Browser) -> usize {
    let check = find("state/nameless").expect("a check");
    [(&check.fails, true), (&check.passes, false)]
        .into_iter()
        .filter(|(example, is_fault)| {
            open(browser, example);
            browser.run(&format!("{HELP} host.setAttribute('aria-busy', 'true'); other.remove()"), json!([]));
            let tree = browser.devtools("Accessibility.getFullAXTree", json!({}));
            let nodes = tree["nodes"].as_array().cloned().unwrap_or_default();
            let button = nodes.iter().find(|node| node["role"]["value"] == "button").cloned().unwrap_or(Value::Null);
            let name = button["name"]["value"].as_str().unwrap_or_default();
            button.is_null() || name.is_empty() != *is_fault
        })
        .count()
}
