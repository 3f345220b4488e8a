//! Random stylesheets, asked of the engine and of Chromium.

use crate::compare::same;
use crate::random::{Sample, sample};
use crate::webdriver::Browser;
use serde_json::json;
use std::collections::BTreeMap;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Forced, Media, PseudoClass, Styled};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, NodeId};
use stilk_engine::inspect::{Inspector, SourceSheet, force};
use stilk_engine::page::Page;

/// What was compared.
#[derive(Default)]
pub struct Count {
    /// Stylesheets.
    pub sheets: u64,
    /// Values compared.
    pub compared: u64,
    /// Values that the engine does not know.
    pub unknown: u64,
    /// Values that differ.
    pub differences: u64,
    /// Differences by property and values: how many, and the first place.
    pub kinds: BTreeMap<String, (u64, String)>,
    /// Unknown values by reason.
    pub reasons: BTreeMap<String, u64>,
}

impl Count {
    /// Prints what was found.
    pub fn print(&self, what: &str) {
        let share = 100.0 * (1.0 - self.differences as f64 / self.compared.max(1) as f64);
        println!(
            "{what}: {} stylesheets, {} values compared, {} unknown, {} differences: {share:.4}% agree",
            self.sheets, self.compared, self.unknown, self.differences
        );
        let mut kinds: Vec<_> = self.kinds.iter().collect();
        kinds.sort_by_key(|(_, (count, _))| std::cmp::Reverse(*count));
        for (kind, (count, place)) in
            kinds.into_iter().take(if std::env::var_os("SHOW").is_some() { usize::MAX } else { 200 })
        {
            println!("  {count} × {kind} ({place})");
        }
        let mut reasons: Vec<_> = self.reasons.iter().collect();
        reasons.sort_by_key(|(_, count)| std::cmp::Reverse(**count));
        for (reason, count) in reasons.into_iter().take(40) {
            println!("  unknown {count} × {reason}");
        }
    }
}

const SCRIPT: &str = "
    const [ids, pseudos, names, expected] = arguments;
    const found = [];
    // What the new sheet and the forced states set in motion is stopped, and what that sets in motion in turn.
    for (let n = 0; n < 10 && document.getAnimations().length; n++) {
        document.getAnimations().forEach(animation => animation.cancel());
    }
    expected.forEach((values, i) => {
        const style = getComputedStyle(document.getElementById(ids[i]), pseudos[i]);
        values.forEach((value, j) => {
            if (value === null) return;
            const theirs = style.getPropertyValue(names[j]);
            if (theirs !== value) found.push([i, j, theirs]);
        });
    });
    return found;";

const LOAD: &str = "
    document.head.innerHTML = '';
    const style = document.createElement('style');
    style.textContent = arguments[0];
    document.head.append(style);
    document.body.innerHTML = arguments[1];
    // Nothing may be on its way while it is read.
    document.getAnimations().forEach(animation => animation.cancel());
    return document.querySelectorAll('*').length;";

/// Compares samples by seed.
pub fn run(browser: &Browser, seeds: impl Iterator<Item = u64>, media: &Media) -> Count {
    let blank = tempfile::Builder::new().suffix(".html").tempfile().expect("a page");
    std::fs::write(blank.path(), "<!doctype html><html><head></head><body></body></html>").expect("a page");
    browser.emulate(&[("prefers-reduced-motion", "reduce"), ("prefers-color-scheme", "light")]);
    browser.open(&format!("file://{}", blank.path().display()));
    let mut count = Count::default();
    for seed in seeds {
        // SHOW=1 prints what is compared.
        if std::env::var_os("SHOW").is_some() {
            println!("{}\n{}", sample(seed).css, sample(seed).html);
        }
        compare(browser, seed, &sample(seed), media, &mut count);
    }
    count
}

fn compare(browser: &Browser, seed: u64, sample: &Sample, media: &Media, count: &mut Count) {
    browser.run(LOAD, json!([sample.css, sample.html]));
    let page = Page::parse(&format!("<!doctype html><html><head></head><body>{}</body></html>", sample.html));
    let mut forced = Forced::default();
    for (id, state) in &sample.forced {
        // What is disabled is never pressed, though an inspector can say so.
        let is_disabled = |node: &NodeId| {
            let element = page.document.element(*node);
            element.is_some_and(|e| e.attribute("id") == Some(id) && e.attribute("disabled").is_some())
        };
        if *state == "active" && page.document.descendants(Document::ROOT).iter().any(is_disabled) {
            continue;
        }
        // The parser may have dropped a form in a form, here as in the browser.
        let _ = force(&page.document, &format!("#{id}:{state}"), &mut forced);
    }
    // What around them is within the focus the inspector sees to itself, but not that they are.
    let mut states: BTreeMap<&str, Vec<&str>> = BTreeMap::new();
    for (node, class) in forced.iter() {
        let id = page.document.element(node).and_then(|element| element.attribute("id"));
        let is_said = |(known, state): &(String, &str)| id == Some(known) && *state == class.name();
        if let Some(id) = id
            && (*class != PseudoClass::FocusWithin
                || sample.forced.iter().any(is_said)
                || forced.iter().any(|(other, class)| other == node && *class == PseudoClass::Focus))
        {
            states.entry(id).or_default().push(class.name());
        }
    }
    browser.force(&states);
    let defaults = SourceSheet::defaults(Defaults::Chromium);
    let sheet = SourceSheet::new("random.css", sample.css.clone());
    let inspection = Inspector::new(&page.document, &defaults, vec![&sheet], media.clone(), &forced);
    let names: Vec<&str> = Longhand::ALL.iter().map(|longhand| longhand.name()).collect();
    let (mut ids, mut pseudos, mut expected) = (Vec::new(), Vec::new(), Vec::new());
    for node in page.document.descendants(Document::ROOT) {
        let Some(id) = page.document.element(node).and_then(|e| e.attribute("id")) else { continue };
        for at in Styled::with_generated(node) {
            let style = inspection.style(at).expect("a style");
            let values: Vec<Option<String>> = Longhand::ALL
                .iter()
                .map(|longhand| match resolved(&style, *longhand) {
                    Ok(value) => Some(value),
                    Err(reason) => {
                        count.unknown += 1;
                        *count.reasons.entry(format!("{}: {}", longhand.name(), reason.0)).or_default() += 1;
                        None
                    }
                })
                .collect();
            count.compared += values.iter().flatten().count() as u64;
            ids.push(id.to_owned());
            pseudos.push(at.pseudo.map(|pseudo| format!("::{}", pseudo.name())));
            expected.push(values);
        }
    }
    count.sheets += 1;
    let answer = browser.run(SCRIPT, json!([ids, pseudos, names, expected]));
    for row in answer.as_array().expect("differences") {
        let at = |i: usize| row[i].as_u64().expect("an index") as usize;
        let ours = expected[at(0)][at(1)].as_deref().unwrap_or_default();
        let theirs = row[2].as_str().unwrap_or_default();
        if same(ours, theirs) {
            continue;
        }
        count.differences += 1;
        let kind = format!("{}: engine {ours}, browser {theirs}", names[at(1)]);
        let place = format!("seed {seed}, #{}{}", ids[at(0)], pseudos[at(0)].as_deref().unwrap_or_default());
        count.kinds.entry(kind).or_insert((0, place)).0 += 1;
    }
}
