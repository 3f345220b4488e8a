//! Pages that nobody wrote for Stilk: what Debian's documentation packages hold, made by many generators. Every longhand of
//! every element that the engine knows must equal what Chromium computes, narrow and wide, light and dark, with states forced.

use crate::compare::same;
use crate::random_pages::Count;
use crate::surveyed;
use crate::webdriver::Browser;
use serde_json::json;
use std::collections::{BTreeMap, HashMap};
use std::path::{Path, PathBuf};
use std::rc::Rc;
use std::sync::Arc;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Forced, Media, PseudoClass, Style, Styled, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, NodeId};
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_engine::page::{Page, SheetSource};

/// Scripts do not run, here or there, and are parsed as where they do.
const NO_SCRIPTS: &str = "<meta http-equiv=Content-Security-Policy content=\"script-src 'none'\">";

const SCRIPT: &str = "
    const [rows, which, names] = arguments;
    document.getAnimations().forEach(animation => animation.cancel());
    const elements = document.querySelectorAll('*');
    const found = [];
    which.forEach(([index, pseudo, row], i) => {
        const style = getComputedStyle(elements[index], pseudo);
        rows[row].forEach((value, j) => {
            if (value === null) return;
            const theirs = style.getPropertyValue(names[j]);
            // What is to be shown in place of a picture that is not there has no shape of its own.
            if (names[j] === 'aspect-ratio' && elements[index].naturalWidth === 0) return;
            if (theirs !== value) found.push([i, j, theirs]);
        });
    });
    return found;";

/// How a page is looked at.
pub struct Situation {
    name: &'static str,
    width: f64,
    dark: bool,
    forced: bool,
    /// Whether the user's colours replace the page's.
    colors: bool,
}

impl Situation {
    /// Whether pages are looked at so in each of their themes as well.
    fn is_themed(&self) -> bool {
        self.width > 1000.0 && !self.dark && !self.colors
    }
}

/// Every one.
pub const SITUATIONS: &[Situation] = &[
    Situation { name: "wide", width: 1280.0, dark: false, forced: false, colors: false },
    Situation { name: "wide, dark", width: 1280.0, dark: true, forced: false, colors: false },
    Situation { name: "narrow", width: 400.0, dark: false, forced: false, colors: false },
    Situation { name: "narrow, dark", width: 400.0, dark: true, forced: false, colors: false },
    Situation { name: "wide, states forced", width: 1280.0, dark: false, forced: true, colors: false },
    Situation { name: "wide, forced colours", width: 1280.0, dark: false, forced: true, colors: true },
    Situation { name: "wide, dark, forced colours", width: 1280.0, dark: true, forced: false, colors: true },
];

/// As most people have it, and where the user's colours replace the page's.
pub fn without_and_with_forced_colors() -> (&'static [Situation], &'static [Situation]) {
    SITUATIONS.split_at(SITUATIONS.iter().take_while(|situation| !situation.colors).count())
}

/// Packages and pages in them.
const PAGES: &str = include_str!("real_pages.txt");

/// The pages of Debian's packages, which are fetched and unpacked, not installed.
pub fn of_debian() -> Vec<PathBuf> {
    let root = Path::new(env!("CARGO_TARGET_TMPDIR")).join("debian-pages");
    let pages: Vec<(&str, &str)> = PAGES.lines().filter_map(|line| line.split_once(' ')).collect();
    let mut packages: Vec<&str> = pages.iter().map(|(package, _)| *package).collect();
    packages.dedup();
    for package in packages {
        let is_there = |(of, page): &(&str, &str)| *of != package || root.join("root").join(page).is_file();
        if pages.iter().all(is_there) {
            continue;
        }
        let folder = root.join(package);
        std::fs::create_dir_all(&folder).expect("a folder");
        let run = |program: &str, arguments: &[&std::ffi::OsStr]| {
            let output = std::process::Command::new(program).args(arguments).current_dir(&folder).output();
            let output = output.unwrap_or_else(|error| panic!("{program}: {error}"));
            assert!(output.status.success(), "{program} {package}: {}", String::from_utf8_lossy(&output.stderr));
        };
        run("apt-get", &["-qq".as_ref(), "download".as_ref(), package.as_ref()]);
        let archives = std::fs::read_dir(&folder).expect("a folder").filter_map(Result::ok).map(|entry| entry.path());
        for archive in archives.filter(|path| path.extension().is_some_and(|extension| extension == "deb")) {
            run("dpkg", &["-x".as_ref(), archive.as_ref(), root.join("root").as_ref()]);
        }
    }
    pages.into_iter().map(|(_, page)| root.join("root").join(page)).collect()
}

/// Pages of our own in the habits of old ones.
pub fn of_our_own() -> Vec<PathBuf> {
    surveyed::pages(&Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/browser/pages"))
}

/// Compares the pages of sites that are surveyed, as they are and in each of their themes.
pub fn run_sites(browser: &Browser, media: &Media) -> Count {
    let pages: Vec<PathBuf> = surveyed::sites().iter().flat_map(|site| surveyed::pages(site)).collect();
    let mut count = run(browser, &pages, media, SITUATIONS);
    for (theme, path, text) in surveyed::themed() {
        let themed: Vec<&Situation> = SITUATIONS.iter().filter(|situation| situation.is_themed()).collect();
        let before = count.differences;
        compare(browser, &path, &text, media, &themed, &mut count);
        if count.differences > before {
            println!("  {} in {theme}: {} differ", path.display(), count.differences - before);
        }
    }
    browser.devtools("Emulation.clearDeviceMetricsOverride", json!({}));
    count
}

/// Compares pages.
pub fn run(browser: &Browser, pages: &[PathBuf], media: &Media, situations: &[Situation]) -> Count {
    let mut count = Count::default();
    let situations: Vec<&Situation> = situations.iter().collect();
    for path in pages {
        let before = (count.compared, count.unknown, count.differences);
        let text = String::from_utf8_lossy(&std::fs::read(path).expect("a page")).into_owned();
        compare(browser, path, &text, media, &situations, &mut count);
        println!(
            "  {}: {} values, {} unknown, {} differ",
            path.display(),
            count.compared - before.0,
            count.unknown - before.1,
            count.differences - before.2
        );
    }
    browser.devtools("Emulation.clearDeviceMetricsOverride", json!({}));
    count
}

fn compare(browser: &Browser, path: &Path, text: &str, media: &Media, situations: &[&Situation], count: &mut Count) {
    let text = without_scripts(text);
    // Several runs may look at one folder at a time.
    let copy = path.with_file_name(format!("stilk-copy-{}.html", std::process::id()));
    std::fs::write(&copy, &text).expect("a copy");
    let page = Page::parse(&text);
    let sheets: Vec<SourceSheet> = page
        .sheets
        .iter()
        .filter_map(|sheet| {
            let (at, text) = match &sheet.source {
                SheetSource::Inline(text) => (path.to_owned(), text.clone()),
                SheetSource::Linked(address) => linked(path, address)?,
            };
            Some(source(&at, &text, &sheet.media))
        })
        .collect();
    let elements: Vec<NodeId> = page
        .document
        .descendants(Document::ROOT)
        .into_iter()
        .filter(|node| page.document.element(*node).is_some())
        .collect();
    let defaults = SourceSheet::defaults(Defaults::Chromium);
    for situation in situations {
        let metrics = json!({ "width": situation.width, "height": 800, "deviceScaleFactor": 1, "mobile": false });
        browser.devtools("Emulation.setDeviceMetricsOverride", metrics);
        let scheme = if situation.dark { "dark" } else { "light" };
        let colors = if situation.colors { "active" } else { "none" };
        browser.emulate(&[
            ("prefers-reduced-motion", "reduce"),
            ("prefers-color-scheme", scheme),
            ("forced-colors", colors),
        ]);
        browser.open(&format!("file://{}", copy.display()));
        let theirs = browser.run("return [...document.querySelectorAll('*')].map(e => e.localName)", json!([]));
        let ours: Vec<&str> =
            elements.iter().filter_map(|node| page.document.element(*node)).map(|e| e.local()).collect();
        if theirs != json!(ours) {
            count.differences += 1;
            let place = format!("{}, {}", path.display(), situation.name);
            count.kinds.entry("another document in the browser".to_owned()).or_insert((0, place)).0 += 1;
            break;
        }
        let forced = if situation.forced { force(browser, &page.document, &elements) } else { Forced::default() };
        let media = Media {
            width: situation.width,
            height: 800.0,
            dark: situation.dark,
            forced_colors: situation.colors,
            ..media.clone()
        };
        let inspection = Inspector::new(&page.document, &defaults, sheets.iter().collect(), media, &forced);
        let place = format!("{}, {}", path.display(), situation.name);
        values(browser, &inspection, &elements, &place, &ours, count);
    }
    count.sheets += 1;
    std::fs::remove_file(&copy).expect("the copy");
}

/// Forces states on some of what people point at.
fn force(browser: &Browser, document: &Document, elements: &[NodeId]) -> Forced {
    const POINTED: [&str; 10] = ["a", "button", "input", "select", "textarea", "summary", "label", "li", "tr", "p"];
    browser.devtools("DOM.enable", json!({}));
    browser.devtools("CSS.enable", json!({}));
    let root = browser.devtools("DOM.getDocument", json!({ "depth": 0 }))["root"]["nodeId"].clone();
    let all = browser.devtools("DOM.querySelectorAll", json!({ "nodeId": root, "selector": "*" }));
    let mut forced = Forced::default();
    // What is disabled is never pressed.
    let pointed = elements.iter().enumerate().filter(|(_, node)| {
        let element = document.element(**node);
        element.is_some_and(|e| POINTED.contains(&e.local()) && e.attribute("disabled").is_none())
    });
    let place: HashMap<NodeId, usize> = elements.iter().enumerate().map(|(index, node)| (*node, index)).collect();
    let mut names: BTreeMap<usize, Vec<&str>> = BTreeMap::new();
    let mut force = |node: NodeId, class: PseudoClass| {
        if let Some(index) = place.get(&node) {
            names.entry(*index).or_default().push(class.name());
            forced.add(node, class);
        }
    };
    for (n, (_, node)) in pointed.enumerate().filter(|(n, _)| n % 5 < 3).take(150) {
        let classes: &[PseudoClass] = match n % 5 {
            0 => &[PseudoClass::Hover],
            1 => &[PseudoClass::Focus, PseudoClass::FocusVisible],
            _ => &[PseudoClass::Active, PseudoClass::Hover],
        };
        for class in classes {
            force(*node, class.clone());
            if *class == PseudoClass::Focus {
                document.around(*node).for_each(|above| force(above, PseudoClass::FocusWithin));
            }
        }
    }
    for (index, names) in names {
        let parameters = json!({ "nodeId": all["nodeIds"][index], "forcedPseudoClasses": names });
        browser.devtools("CSS.forcePseudoState", parameters);
    }
    forced
}

fn values(
    browser: &Browser,
    inspection: &Inspector,
    elements: &[NodeId],
    place: &str,
    names: &[&str],
    count: &mut Count,
) {
    let longhands: Vec<&str> = Longhand::ALL.iter().map(|longhand| longhand.name()).collect();
    let mut rows: Vec<Vec<Option<String>>> = Vec::new();
    let mut unknown: Vec<Vec<String>> = Vec::new();
    let mut known: HashMap<(*const Style, bool), usize> = HashMap::default();
    let mut which: Vec<(usize, Option<String>, usize)> = Vec::new();
    for (index, node) in elements.iter().enumerate() {
        for at in Styled::with_generated(*node) {
            let own = inspection.styles.element(*node).expect("a style");
            let said = inspection.styles.of(at);
            let key = (said.map_or(Rc::as_ptr(own), Rc::as_ptr), at.pseudo.is_some() && said.is_none());
            let row = *known.entry(key).or_insert_with(|| {
                let style = inspection.style(at).expect("a style");
                let mut reasons = Vec::new();
                let row = Longhand::ALL.iter().map(|longhand| {
                    let value = resolved(&style, *longhand);
                    value.map_err(|reason| reasons.push(format!("{}: {}", longhand.name(), reason.0))).ok()
                });
                rows.push(row.collect());
                unknown.push(reasons);
                rows.len() - 1
            });
            count.compared += rows[row].iter().flatten().count() as u64;
            count.unknown += unknown[row].len() as u64;
            for reason in &unknown[row] {
                *count.reasons.entry(reason.clone()).or_default() += 1;
            }
            which.push((index, at.pseudo.map(|pseudo| format!("::{}", pseudo.name())), row));
        }
    }
    let answer = browser.run(SCRIPT, json!([rows, which, longhands]));
    for found in answer.as_array().expect("differences") {
        let at = |i: usize| found[i].as_u64().expect("an index") as usize;
        let (index, pseudo, row) = &which[at(0)];
        let ours = rows[*row][at(1)].as_deref().unwrap_or_default();
        let theirs = found[2].as_str().unwrap_or_default();
        if same(ours, theirs) {
            continue;
        }
        count.differences += 1;
        let pseudo = pseudo.as_deref().unwrap_or_default();
        let kind = format!("{}{pseudo} {}: engine {ours}, browser {theirs}", names[*index], longhands[at(1)]);
        count.kinds.entry(kind).or_insert((0, format!("{place}, element {index}"))).0 += 1;
    }
}

fn without_scripts(text: &str) -> String {
    let lower = text.to_ascii_lowercase();
    let head = lower.find("<head").and_then(|at| Some(at + lower[at..].find('>')? + 1));
    let doctype = || lower.find("<!doctype").and_then(|at| Some(at + lower[at..].find('>')? + 1));
    let at = head.or_else(doctype).unwrap_or(0);
    format!("{}{NO_SCRIPTS}{}", &text[..at], &text[at..])
}

/// The file behind an address, and its text.
fn linked(page: &Path, address: &str) -> Option<(PathBuf, String)> {
    let address = address.split(['?', '#']).next().unwrap_or_default();
    let path = page.parent()?.join(address);
    let bytes = std::fs::read(&path).ok()?;
    Some((path, String::from_utf8_lossy(&bytes).into_owned()))
}

fn source(at: &Path, text: &str, media: &str) -> SourceSheet {
    let text = if media.is_empty() { text.to_owned() } else { format!("@media {media} {{\n{text}\n}}") };
    let mut importer = |address: &str| linked(at, address).map(|(_, text)| text);
    let parsed = Stylesheet::parse_importing(&text, &mut importer);
    SourceSheet::of(at.display().to_string(), text, Arc::new(parsed))
}
