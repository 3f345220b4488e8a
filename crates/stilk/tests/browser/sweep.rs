//! Every property that Chromium has, with every value of a pool that it takes: what the engine gives in its place is the same,
//! or unknown. A value that it takes for invalid, and the browser does not, would be wrong in silence.

use crate::compare::same;
use crate::depth::Depth;
use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_engine::page::Page;

/// Words that stand somewhere in CSS.
const WORDS: &str = include_str!("sweep/words.txt");
/// Values that are more than a word.
const VALUES: &str = include_str!("sweep/values.txt");

/// Selectors, right and wrong.
const SELECTORS: &str = include_str!("sweep/selectors.txt");

/// Selectors that a condition does not know and a rule takes (forgiving lists; unknown parts of WebKit), and pseudo-elements
/// of pseudo-elements, whose rules the engine drops.
const ELSEWHERE: [&str; 6] =
    ["::-webkit-foo", ":is()", ":where()", "::after::marker", "::before::marker", "::search-text:current"];

/// What other browsers take and Chromium does not: right in a sheet, so that the engine reads it.
const OF_OTHERS: [(&str, &str); 3] =
    [("text-transform", "full-width"), ("text-transform", "full-size-kana"), ("image-rendering", "smooth")];

/// So many declarations stand on one page.
const ON_A_PAGE: usize = 400;

/// One of so many values that the browser refuses is looked at.
const REFUSED: u64 = 5;

/// What stands under each declaration.
const CSS: &str = "section { font: 20px/30px serif; color: rgb(10, 20, 30); width: 600px; height: 400px; list-style: square; \
                   visibility: visible; border-spacing: 3px; }
    .b { width: 200px; height: 50px; position: relative; border: 2px solid rgb(1, 2, 3); outline: 1px solid; padding: 3px; \
         background: rgb(200, 210, 220); column-rule: 1px solid; text-decoration: underline; transition: none; }";

/// What the names are and what they take: every property with its valid values.
const NAMES: &str = "
    const names = new Set();
    const style = document.documentElement.style;
    for (const key in style) {
        const name = key === 'cssFloat' ? 'float'
            : key.replace(/[A-Z]/g, c => '-' + c.toLowerCase()).replace(/^webkit-/, '-webkit-');
        if (CSS.supports(name, 'initial')) names.add(name);
    }
    for (const name of getComputedStyle(document.documentElement)) names.add(name);
    return [...names].sort();";

const VALID: &str = "
    const [names, values] = arguments;
    return names.map(name => values.map((value, i) => CSS.supports(name, value) ? i : -1).filter(i => i >= 0));";

const COMPARE: &str = "
    const [html, css, names, rows, which] = arguments;
    document.head.innerHTML = '<style>' + css + '</style>';
    document.body.innerHTML = html;
    document.getAnimations().forEach(animation => animation.cancel());
    const found = [];
    which.forEach((row, i) => {
        const style = getComputedStyle(document.getElementById('e' + i));
        rows[row].forEach((value, j) => {
            if (value === null) return;
            const theirs = style.getPropertyValue(names[j]);
            if (theirs !== value) found.push([i, j, theirs]);
        });
    });
    return found;";

/// What the sweep found.
#[derive(Default)]
pub struct Sweep {
    /// Names of properties.
    pub names: u64,
    /// Declarations.
    pub declarations: u64,
    /// How many of them the browser refuses.
    pub refused: u64,
    /// Values compared.
    pub compared: u64,
    /// Values that the engine does not know.
    pub unknown: u64,
    /// Values that differ.
    pub differences: u64,
    /// Declarations with a value that differs.
    pub differing: u64,
    /// By property and longhand: how many, and one of them.
    pub kinds: BTreeMap<String, (u64, String)>,
}

impl Sweep {
    /// Prints it.
    pub fn print(&self) {
        println!(
            "sweep: {} properties, {} declarations ({} refused by the browser), {} values compared, {} unknown, {} declarations differ",
            self.names, self.declarations, self.refused, self.compared, self.unknown, self.differing
        );
        let mut kinds: Vec<_> = self.kinds.iter().collect();
        kinds.sort_by_key(|(_, (count, _))| std::cmp::Reverse(*count));
        for (kind, (count, example)) in kinds {
            println!("  {count} × {kind}: {example}");
        }
    }
}

/// Sweeps all properties, or a part of them.
pub fn run(browser: &Browser, media: &Media, depth: Depth) -> Sweep {
    let blank = tempfile::Builder::new().suffix(".html").tempfile().expect("a page");
    std::fs::write(blank.path(), "<!doctype html><html><head></head><body></body></html>").expect("a page");
    browser.emulate(&[("prefers-reduced-motion", "reduce"), ("prefers-color-scheme", "light")]);
    browser.open(&format!("file://{}", blank.path().display()));
    let names: Vec<String> = strings(&browser.run(NAMES, json!([])));
    let names: Vec<String> = match depth.full {
        true => names,
        false => depth.part(names.len() as u64, 60).map(|index| names[index as usize].clone()).collect(),
    };
    let mut values: Vec<&str> = WORDS.split_ascii_whitespace().collect();
    values.extend(VALUES.lines().filter(|line| !line.is_empty()));
    values.sort_unstable();
    values.dedup();
    let mut sweep = Sweep { names: names.len() as u64, ..Sweep::default() };
    selectors(browser, &mut sweep);
    let mut declarations: Vec<(String, &str)> = Vec::new();
    for names in names.chunks(40) {
        let valid = browser.run(VALID, json!([names, values]));
        for (name, valid) in names.iter().zip(valid.as_array().expect("lists")) {
            let valid: Vec<u64> = valid.as_array().expect("indices").iter().filter_map(Value::as_u64).collect();
            // Of what the browser refuses a part, another for each property: the engine has to refuse it as well, or not to know.
            let is_drawn = |index: &u64| (index * 7 + name.len() as u64).is_multiple_of(REFUSED);
            let refused = (0..values.len() as u64).filter(|index| is_drawn(index) && !valid.contains(index));
            let mut refused: Vec<(String, &str)> =
                refused.map(|index| (name.clone(), values[index as usize])).collect();
            refused.retain(|(name, value)| !OF_OTHERS.contains(&(name.as_str(), value)));
            sweep.refused += refused.len() as u64;
            declarations.extend(refused);
            let valid = valid.into_iter();
            let valid = valid.map(|index| (name.clone(), values[index as usize]));
            // Some functions in these end the tab, in the Chromium that this was written with.
            declarations.extend(valid.filter(|(name, value)| !name.ends_with("shape-outside") || !value.contains('(')));
        }
    }
    sweep.declarations = declarations.len() as u64;
    for declarations in declarations.chunks(ON_A_PAGE) {
        compare(browser, declarations, media, &mut sweep);
    }
    sweep
}

/// Whether the engine reads the selectors that the browser reads: a list with one that cannot be read is no rule at all.
fn selectors(browser: &Browser, sweep: &mut Sweep) {
    let all: Vec<&str> = SELECTORS.lines().collect();
    let script = "return arguments[0].map(text => CSS.supports('selector(' + text + ')'));";
    let answer = browser.run(script, json!([all]));
    for (text, theirs) in all.iter().zip(answer.as_array().expect("answers")) {
        let ours = !Stylesheet::parse(&format!("@supports selector({text}) {{ a {{ top: 0 }} }}")).rules.is_empty();
        sweep.compared += 1;
        if ELSEWHERE.contains(text) {
            continue;
        }
        if theirs.as_bool() != Some(ours) {
            sweep.differences += 1;
            sweep.differing += 1;
            sweep.kinds.insert(format!("selector {text}"), (1, format!("engine {ours}, browser {theirs}")));
        }
    }
}

fn strings(value: &Value) -> Vec<String> {
    value.as_array().into_iter().flatten().filter_map(Value::as_str).map(str::to_owned).collect()
}

fn compare(browser: &Browser, declarations: &[(String, &str)], media: &Media, sweep: &mut Sweep) {
    let element = |(index, (name, value)): (usize, &(String, &str))| {
        format!("<section><div id=e{index} class=b style='{name}: {value}'>x</div></section>")
    };
    let html: String = declarations.iter().enumerate().map(element).collect();
    let page = Page::parse(&format!("<!doctype html><html><head></head><body>{html}</body></html>"));
    let defaults = SourceSheet::defaults(Defaults::Chromium);
    let sheet = SourceSheet::new("sweep.css", CSS.to_owned());
    let forced = Forced::default();
    let inspection = Inspector::new(&page.document, &defaults, vec![&sheet], media.clone(), &forced);
    let names: Vec<&str> = Longhand::ALL.iter().map(|longhand| longhand.name()).collect();
    let mut rows: Vec<Vec<Option<String>>> = Vec::new();
    let mut known: BTreeMap<Vec<Option<String>>, usize> = BTreeMap::new();
    let mut which = Vec::new();
    for node in page.document.descendants(stilk_engine::dom::Document::ROOT) {
        if page.document.element(node).and_then(|e| e.attribute("id")).is_none() {
            continue;
        }
        let style = inspection.style(stilk_engine::cascade::Styled::element(node)).expect("a style");
        let row: Vec<Option<String>> = Longhand::ALL.iter().map(|longhand| resolved(&style, *longhand).ok()).collect();
        sweep.compared += row.iter().flatten().count() as u64;
        sweep.unknown += row.iter().filter(|value| value.is_none()).count() as u64;
        which.push(*known.entry(row).or_insert_with_key(|row| {
            rows.push(row.clone());
            rows.len() - 1
        }));
    }
    let answer = browser.run(COMPARE, json!([html, CSS, names, rows, which]));
    let mut last = None;
    for row in answer.as_array().expect("differences") {
        let at = |i: usize| row[i].as_u64().expect("an index") as usize;
        let ours = rows[which[at(0)]][at(1)].as_deref().unwrap_or_default();
        let theirs = row[2].as_str().unwrap_or_default();
        if same(ours, theirs) {
            continue;
        }
        sweep.differences += 1;
        sweep.differing += u64::from(last.replace(at(0)) != Some(at(0)));
        let (name, value) = &declarations[at(0)];
        let kind = format!("{name} -> {}", names[at(1)]);
        let example = format!("`{name}: {value}` engine {ours}, browser {theirs}");
        let known = sweep.kinds.entry(kind).or_insert((0, example.clone()));
        known.0 += 1;
        if std::env::var_os("SWEEP").is_some() && known.0 > 1 {
            known.1.push_str(&format!(" | {value}: {ours} / {theirs}"));
        }
    }
}
