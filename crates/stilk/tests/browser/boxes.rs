//! Where boxes stand, against `getBoundingClientRect`: every box of every control in its sample of variants, at rest and in every
//! state. What the layout claims to know must be the same within half a px.

use crate::depth::Depth;
use crate::webdriver::Browser;
use crate::{Harness, OpenPage, element_name, passes, with_harness};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::path::Path;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::{Engine, Styled};
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_engine::layout::{Known, lay_out};
use stilk_language::case::state_sets;
use stilk_language::system::StateSet;

/// In px: browsers lay out in 64ths and snap some lines to whole pixels.
const SAME: f64 = 0.5;

/// Whatever the sheet says, text is drawn in the reference font.
const FONT: &str = "* { font-family: \"Liberation Sans\" !important }";

/// Every rectangle, from the first child of the wrapper that it is in.
const READ: &str = "
    const all = [...document.querySelectorAll('*')];
    document.getAnimations().forEach(animation => animation.cancel());
    return all.map(element => { const { x, y, width, height } = element.getBoundingClientRect(); return [x, y, width, height]; });";

#[derive(Default)]
struct Count {
    values: u64,
    font: u64,
    unknown: BTreeMap<String, u64>,
    wrong: BTreeMap<String, u64>,
}

/// Compares a project's boxes; returns how many sides differ.
pub fn run(browser: &Browser, folder: &Path, depth: Depth) -> u64 {
    let count = with_harness(browser, folder, depth, |harness| {
        let mut count = Count::default();
        let mut sets: Vec<StateSet> =
            harness.system.controls.iter().flat_map(|control| state_sets(harness.system, control)).collect();
        sets.sort_by_key(|set| harness.system.states.precedence(set));
        sets.dedup();
        let fonts = browser.run("return document.fonts.check('16px \"Liberation Sans\"')", json!([]));
        assert_eq!(fonts, Value::Bool(true), "the reference font is not installed: run ./scripts/test.sh");
        for set in &sets {
            for rtl in [false, true] {
                if !rtl || set.is_rest() {
                    compare(harness, set, rtl, &mut count);
                }
            }
        }
        count
    });
    let wrong: u64 = count.wrong.values().sum();
    println!(
        "{}: boxes: {} sides known from values, {} with the reference font, {} unknown; {wrong} differ by more than {SAME}px",
        folder.display(),
        count.values,
        count.font,
        count.unknown.values().sum::<u64>()
    );
    let mut by_count: Vec<(&String, &u64)> = count.wrong.iter().collect();
    by_count.sort_by_key(|(_, cases)| std::cmp::Reverse(**cases));
    by_count.iter().take(40).for_each(|(what, cases)| println!("  {cases} × {what}"));
    count.unknown.iter().for_each(|(reason, cases)| println!("  unknown, {cases} × {reason}"));
    assert!(count.values > 0, "no box was compared");
    wrong
}

fn compare(harness: &Harness, set: &StateSet, rtl: bool, count: &mut Count) {
    let mut page: OpenPage = harness.page(None, set, rtl);
    let head = page.document.descendants(Document::ROOT).into_iter().find(|node| is(&page.document, *node, "head"));
    let style = page.document.append_element(head.expect("a head"), Element::html("style"));
    page.document.append_text(style, FONT);
    let [pass, ..] = passes();
    harness.browser.emulate(&pass.features);
    harness.open(&page);
    let elements = page.elements();
    harness.force(&page, &elements);
    let engine = Engine::new(Defaults::Chromium.sheet(), &[harness.parsed], pass.media.clone());
    let styles = engine.styles(&page.document, &page.forced);
    let theirs = harness.browser.run(READ, json!([]));
    let rect = |node: NodeId| {
        let index = elements.iter().position(|known| *known == node).expect("an element");
        [0, 1, 2, 3].map(|side| theirs[index][side].as_f64().expect("a number"))
    };
    let name_of = |node| element_name(&page, node, None);
    for (wrapper, case) in &page.names {
        let Some(host) = page.document.child_elements(*wrapper).next() else { continue };
        let wide = rect(*wrapper)[2];
        let layout = match lay_out(&page.document, &styles, host, wide) {
            Ok(layout) => layout,
            Err(reason) => {
                *count
                    .unknown
                    .entry(format!("{}: {}", case.split('.').next().unwrap_or(case), reason.0))
                    .or_default() += 4;
                continue;
            }
        };
        let origin = rect(host);
        let control = case.split(['.', '@']).next().unwrap_or(case);
        for (Styled { node, pseudo }, _) in layout.boxes() {
            if pseudo.is_some() {
                continue;
            }
            let sides = layout.drawn_sides(&page.document, &styles, host, Styled::element(node));
            let own = layout.drawn_sides(&page.document, &styles, host, Styled::element(host));
            let (sides, own) = match (sides, own) {
                (Ok(sides), Ok(own)) => (sides, own),
                (Err(reason), _) | (_, Err(reason)) => {
                    *count.unknown.entry(format!("{control}: {}", reason.0)).or_default() += 4;
                    continue;
                }
            };
            let their = rect(node);
            for side in 0..4 {
                let (ours, known) = sides[side];
                match known {
                    Known::Values => count.values += 1,
                    Known::Font => count.font += 1,
                    Known::No => {
                        *count.unknown.entry(format!("{control}: the side of a box")).or_default() += 1;
                        continue;
                    }
                }
                let (ours, their) = match side {
                    0 | 1 => (ours - own[side].0, their[side] - origin[side]),
                    _ => (ours, their[side]),
                };
                if (f64::from(ours) - their).abs() > SAME {
                    let what = ["x", "y", "width", "height"][side];
                    let set = harness.system.states.set_name(set);
                    let direction = if rtl { ", right to left" } else { "" };
                    let name = short(&name_of(node));
                    let line = format!("{name}:{set}{direction}: {what} {ours:.2}, the browser {their:.2} ({known:?})");
                    *count.wrong.entry(line).or_default() += 1;
                }
            }
        }
    }
}

/// A case's name without its options: what differs in one variant mostly does in all.
fn short(name: &str) -> String {
    let (case, element) = name.split_once('/').unwrap_or((name, ""));
    format!("{}/{element}", case.split('.').next().unwrap_or(case))
}

fn is(document: &Document, node: NodeId, name: &str) -> bool {
    document.element(node).is_some_and(|element| element.local() == name)
}
