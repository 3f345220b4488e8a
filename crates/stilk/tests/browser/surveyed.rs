//! What `survey` says of the contrast of controls, held against pixels: the text is replaced by solid blocks, and what is
//! painted there is compared with what is painted without them.

use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use stilk_checks::scan::Linked;
use stilk_engine::cascade::Stylesheet;
use stilk_engine::dom::{Document, NodeId};
use stilk_language::system::{StateId, StateSet};
use stilk_survey::report::LookRecord;
use stilk_survey::site::Site;
use stilk_survey::survey::{Request, survey};
use stilk_survey::theme::Mark;

/// Ratios may differ by so much of themselves: browsers round each channel of a pixel.
const APART: f64 = 0.03;

/// Below so many comparisons the test would say too little.
const LEAST: usize = 30;

/// The sites: folders of pages with their stylesheets.
pub fn sites() -> Vec<PathBuf> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    vec![
        root.join("../../demo/before"),
        root.join("tests/sites/library"),
        root.join("tests/sites/allotments"),
        root.join("tests/sites/orchard"),
    ]
}

/// The pages of a site, in order.
pub fn pages(site: &Path) -> Vec<PathBuf> {
    let entries = std::fs::read_dir(site).expect("a folder").filter_map(Result::ok).map(|entry| entry.path());
    // A run that was stopped leaves its copy of a page.
    let is_copy = |path: &Path| path.file_name().is_some_and(|name| name.to_string_lossy().starts_with("stilk-copy-"));
    let is_page = |path: &PathBuf| path.extension().is_some_and(|e| e == "html") && !is_copy(path);
    let mut pages: Vec<PathBuf> = entries.filter(is_page).collect();
    pages.sort();
    pages
}

/// A site as the program reads it.
fn read(folder: &Path) -> Site {
    let mut site = Site::default();
    for page in pages(folder) {
        let text = std::fs::read_to_string(&page).expect("a page");
        site.add(&page.to_string_lossy(), &text, &[], &mut |_, address, _| {
            let path = folder.join(address);
            let text = std::fs::read_to_string(&path).map_err(|error| error.to_string())?;
            let parsed = Arc::new(Stylesheet::parse(&text));
            Ok(Linked { path: path.to_string_lossy().into_owned(), text: text.into(), parsed })
        });
    }
    site
}

/// The pages of the sites in each of their themes but the usual one: the name of the theme, the page, its text.
pub fn themed() -> Vec<(String, PathBuf, String)> {
    let mut all = Vec::new();
    for folder in sites() {
        let mut site = read(&folder);
        let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
        for (index, path) in pages(&folder).into_iter().enumerate() {
            for theme in &found.themes {
                let mut document = site.document(index);
                if !theme.is_on(&document) {
                    theme.put_on(&mut document);
                    all.push((theme.name.clone(), path.clone(), text_of(&document)));
                }
            }
        }
    }
    all
}

/// The themes of a site, as scripts that put them on a page.
pub fn theme_scripts(folder: &Path) -> Vec<String> {
    let mut site = read(folder);
    let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
    let scripts = found.themes.iter().map(|theme| match &theme.mark {
        Mark::Attribute { of_body, name, value } => {
            let on = if *of_body { "body" } else { "documentElement" };
            format!("document.{on}.setAttribute({}, {})", json!(name), json!(value))
        }
        Mark::Class { of_body, name } => {
            let on = if *of_body { "body" } else { "documentElement" };
            format!("document.{on}.classList.add({})", json!(name))
        }
    });
    scripts.collect()
}

fn text_of(document: &Document) -> String {
    let root = document.child_elements(Document::ROOT).next().expect("a root");
    let doctype = if document.quirks { "" } else { "<!doctype html>" };
    format!("{doctype}{}", document.to_html(root))
}

/// Compares, and returns how many differ.
pub fn run(browser: &Browser) -> usize {
    let (mut compared, mut wrong) = (0, 0);
    browser.emulate(&[("prefers-reduced-motion", "reduce")]);
    for folder in sites() {
        let mut site = read(&folder);
        let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
        for look in found.families.iter().flat_map(|family| &family.looks) {
            for state in [StateSet::default(), StateSet::of([StateId::Hover])] {
                let Some((ours, needed)) = ratio_of(look, &state) else { continue };
                let Some(theirs) = painted(browser, &site, look, &state) else { continue };
                compared += 1;
                if (ours - theirs).abs() > APART * ours {
                    wrong += 1;
                    let state = found.system.states.set_name(&state);
                    println!(
                        "  {} {state}: survey {ours:.2}:1 of {needed}:1, pixels {theirs:.2}:1 ({})",
                        look.name, look.place
                    );
                }
            }
        }
    }
    println!("contrast of surveyed controls against pixels: {compared} compared, {wrong} differ");
    assert!(compared >= LEAST, "too little was compared");
    wrong
}

fn ratio_of(look: &LookRecord, state: &StateSet) -> Option<(f64, f64)> {
    let worst = look.in_state(state)?.text.ok().flatten()?;
    Some((worst.ratio(), worst.needed()))
}

/// Finds the texts of a control, and shows one of them as a block, or none.
const TEXTS: &str = "
    const [index] = arguments;
    const host = document.querySelectorAll('*')[index];
    const still = document.createElement('style');
    still.textContent = '*, ::before, ::after { transition: none !important; animation: none !important }';
    document.head.append(still);
    host.scrollIntoView({ block: 'center' });
    const walker = document.createTreeWalker(host, NodeFilter.SHOW_TEXT);
    window.places = [];
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
        const parent = node.parentElement;
        if (!node.data.trim() || parent.closest('option, script, style, textarea') || !parent.checkVisibility({ opacityProperty: true })) continue;
        const style = getComputedStyle(parent);
        const large = parseFloat(style.fontSize) >= 24 || parseFloat(style.fontSize) >= 18.66 && style.fontWeight >= 700;
        window.places.push({ node, parent, needed: large ? 3 : 4.5 });
    }
    for (const place of window.places) place.node.data = '\u{2588}'.repeat(Math.max(1, place.node.data.trim().length));
    const box = host.getBoundingClientRect();
    return [window.places.length, box.left + scrollX, box.top + scrollY, box.width, box.height];";

/// Shows the text of this number only, or none.
const SHOW: &str = "
    const [shown] = arguments;
    window.places.forEach((place, i) => {
        const hide = i !== shown;
        for (const property of ['color', '-webkit-text-fill-color', 'text-decoration-color'])
            hide ? place.parent.style.setProperty(property, 'transparent', 'important') : place.parent.style.removeProperty(property);
    });
    return window.places[Math.max(0, shown)].needed;";

/// The least ratio between two pictures where they differ most.
const COMPARE: &str = "
    const [one, other] = arguments;
    window.found = undefined;
    const read = async png => {
        const image = new Image();
        image.src = 'data:image/png;base64,' + png;
        await image.decode();
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [image.width, image.height];
        const context = canvas.getContext('2d', { willReadFrequently: true });
        context.drawImage(image, 0, 0);
        return context.getImageData(0, 0, image.width, image.height).data;
    };
    const luminance = (data, at) => [.2126, .7152, .0722].reduce((sum, weight, i) => {
        const c = data[at + i] / 255;
        return sum + weight * (c <= .04045 ? c / 12.92 : ((c + .055) / 1.055) ** 2.4);
    }, 0);
    Promise.all([read(one), read(other)]).then(([a, b]) => {
        let most = 0;
        const apart = at => Math.abs(a[at] - b[at]) + Math.abs(a[at + 1] - b[at + 1]) + Math.abs(a[at + 2] - b[at + 2]);
        for (let at = 0; at < a.length; at += 4) most = Math.max(most, apart(at));
        let least = 22;
        for (let at = 0; at < a.length; at += 4) {
            if (most === 0 || apart(at) < most * .98) continue;
            const [x, y] = [luminance(a, at), luminance(b, at)];
            least = Math.min(least, (Math.max(x, y) + .05) / (Math.min(x, y) + .05));
        }
        window.found = most === 0 ? 0 : least;
    });";

/// The contrast of the text that has the least for what it needs, as it is painted; nothing where a control has no text of its
/// own in the page.
fn painted(browser: &Browser, site: &Site, look: &LookRecord, state: &StateSet) -> Option<f64> {
    let document = site.document(look.page);
    let elements: Vec<NodeId> =
        document.descendants(Document::ROOT).into_iter().filter(|node| document.element(*node).is_some()).collect();
    let index = elements.iter().position(|node| *node == look.found.host)?;
    browser.open(&format!("file://{}", Path::new(site.path(look.page)).canonicalize().expect("a page").display()));
    if !state.is_rest() {
        browser.run(&format!("document.querySelectorAll('*')[{index}].id ||= 'stilk-host'"), json!([]));
        let id = browser.run(&format!("return document.querySelectorAll('*')[{index}].id"), json!([]));
        browser.force(&BTreeMap::from([(id.as_str()?, vec!["hover"])]));
    }
    let texts = browser.run(TEXTS, json!([index]));
    let number = |at: usize| texts[at].as_f64().unwrap_or_default();
    let mut worst: Option<(f64, f64)> = None;
    let shot = || {
        let clip = json!({ "x": number(1), "y": number(2), "width": number(3), "height": number(4), "scale": 1 });
        browser.devtools("Page.captureScreenshot", json!({ "format": "png", "clip": clip }))["data"].clone()
    };
    if number(0) == 0.0 || number(3) < 1.0 || number(4) < 1.0 {
        return None;
    }
    browser.run(SHOW, json!([-1]));
    let without = shot();
    for place in 0..number(0) as i64 {
        let needed = browser.run(SHOW, json!([place])).as_f64()?;
        browser.run(COMPARE, json!([shot(), without]));
        let ratio = answer(browser);
        if ratio > 0.0 && worst.is_none_or(|(known, of)| ratio / needed < known / of) {
            worst = Some((ratio, needed));
        }
    }
    worst.map(|(ratio, _)| ratio)
}

fn answer(browser: &Browser) -> f64 {
    for _ in 0..200 {
        let found = browser.run("return window.found ?? null;", json!([]));
        if let Value::Number(number) = found {
            return number.as_f64().unwrap_or_default();
        }
        std::thread::sleep(std::time::Duration::from_millis(20));
    }
    panic!("the pictures were not compared")
}
