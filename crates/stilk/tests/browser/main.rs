//! The engine against a real browser: every host × variant × theme of a project, at rest and in every state, each
//! longhand that the engine knows must equal what Chromium computes from the stylesheet that was written.
//!
//! `cargo test --test browser` runs it on the sample, in Chromium, with a part of the variants and random pages;
//! `STILK_FULL=1` looks at all of them, and asks Firefox and WebKit as well. `cargo test --test browser -- DIR …` runs it on
//! any project.

mod adopted;
mod boxes;
#[path = "../../../stilk-engine/tests/cases/mod.rs"]
mod cases;
mod compare;
#[path = "../shared/depth.rs"]
mod depth;
mod fidelity;
#[path = "../shared/folder.rs"]
mod folder;
#[path = "../shared/injection.rs"]
mod injection;
mod islands;
mod keys;
mod others;
mod page_verdicts;
#[path = "../../../stilk-engine/tests/random/mod.rs"]
mod random;
mod random_pages;
mod real_pages;
mod sample;
mod spec;
mod specimen;
mod surveyed;
mod sweep;
mod switching;
mod verdicts;
mod webdriver;
mod words;

use depth::Depth;
use folder::{Folder, copy};
use serde_json::{Value, json};
use std::collections::{BTreeMap, HashMap};
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};
use std::process::Command;
use stilk_checks::registry;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, PseudoElement, Style, Styled, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::case::{state_sets, theme_attributes};
use stilk_language::markup::{Request, mount, mount_in_place, own_ids};
use stilk_language::project::Project;
use stilk_language::system::{StateSet, System};
use stilk_language::tokens::Theme;
use webdriver::Browser;

const WIDTH: u32 = 1280;
const HEIGHT: u32 = 800;
/// How many random stylesheets are compared, and how many where not everything is.
const RANDOM_SHEETS: u64 = 2000;
const FEW_RANDOM_SHEETS: u64 = 250;

fn main() {
    let sample = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/ternhaven");
    let mut folders: Vec<PathBuf> =
        std::env::args().skip(1).filter(|a| !a.starts_with('-')).map(PathBuf::from).filter(|p| p.is_dir()).collect();
    let whole = folders.is_empty();
    if whole {
        folders.push(sample.clone());
    }
    compare::self_test();
    let depth = Depth::of_environment();
    depth.print();
    let browser = Browser::start(WIDTH, HEIGHT);
    println!("{}", browser.version());
    // A window has a frame: what counts is what is left for the page.
    let size = browser.run("return [innerWidth, innerHeight]", json!([]));
    let (width, height) = (size[0].as_f64().expect("a width"), size[1].as_f64().expect("a height"));
    let media = Media { width, height, reduced_motion: true, ..Media::default() };
    // RANDOM=first..end asks for these seeds and nothing else.
    if let Some((first, end)) = std::env::var("RANDOM").ok().and_then(|text| {
        let (first, end) = text.split_once("..")?;
        Some((first.parse().ok()?, end.parse().ok()?))
    }) {
        // Shown before it is asked: perhaps nothing comes back.
        if end - first == 1 {
            let sample = random::sample(first);
            println!("<!doctype html><style>\n{}</style>\n<body>{}\n{:?}", sample.css, sample.html, sample.forced);
        }
        let count = random_pages::run(&browser, first..end, &media);
        count.print("random stylesheets");
        return;
    }
    // SWEEP=1 asks for every property with every value that it takes, and nothing else.
    if std::env::var_os("SWEEP").is_some() {
        sweep::run(&browser, &media, Depth { full: true, ..depth }).print();
        return;
    }
    // PAGES="a.html b.html" asks for these pages and nothing else; PAGES=debian for those of Debian's documentation.
    if let Ok(pages) = std::env::var("PAGES") {
        let pages: Vec<PathBuf> = match pages.as_str() {
            "debian" => real_pages::of_debian(),
            pages => pages.split_ascii_whitespace().map(PathBuf::from).collect(),
        };
        let count = real_pages::run(&browser, &pages, &media, real_pages::SITUATIONS);
        count.print("pages");
        drop(browser);
        std::process::exit(i32::from(count.differences > 0));
    }
    // SITES=1 asks for the sites that are surveyed, and for the contrast of their controls.
    if std::env::var_os("SITES").is_some() {
        let count = real_pages::run_sites(&browser, &media);
        count.print("pages of the surveyed sites, in each theme");
        let failed = surveyed::run(&browser) > 0 || count.differences > 0;
        drop(browser);
        std::process::exit(i32::from(failed));
    }
    // ADOPTED=1 asks for the sites before and after they are adopted.
    if std::env::var_os("ADOPTED").is_some() {
        let failed = adopted::run(&browser, Depth { full: true, ..depth }) > 0;
        drop(browser);
        std::process::exit(i32::from(failed));
    }
    // VERDICTS=1 asks for the verdicts of checks and for the keyboard alone.
    if std::env::var_os("VERDICTS").is_some() {
        let failed = verdicts::run(&browser) + page_verdicts::run(&browser) + keys::run(&browser, &sample) > 0;
        drop(browser);
        std::process::exit(i32::from(failed));
    }
    // BOXES=1 asks for the places of boxes alone.
    if std::env::var_os("BOXES").is_some() {
        let failed = folders.iter().filter(|folder| boxes::run(&browser, folder, depth) > 0).count();
        drop(browser);
        std::process::exit(i32::from(failed > 0));
    }
    // WORDS=1 asks for pages of a project whose texts would end what they stand in.
    if std::env::var_os("WORDS").is_some() {
        let failed = words::run(&browser) > 0;
        drop(browser);
        std::process::exit(i32::from(failed));
    }
    // SWITCHING=1 asks for the switch of a theme alone.
    if std::env::var_os("SWITCHING").is_some() {
        let failed = switching::run(&browser, &sample) > 0;
        drop(browser);
        std::process::exit(i32::from(failed));
    }
    // SPECIMEN=1 asks for the specimen and live alone.
    if std::env::var_os("SPECIMEN").is_some() {
        let failed = specimen::run(&browser, &sample) > 0;
        // Leaving the process at once would leave the browser behind.
        drop(browser);
        std::process::exit(i32::from(failed));
    }
    // The system that keeps the names of its pages once more, without layers.
    let jetty = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/projects/jetty");
    let flat = tempfile::tempdir().expect("a folder");
    copy(&jetty, &flat.path().join("jetty"));
    let manifest = flat.path().join("jetty/stilk.toml");
    let text = std::fs::read_to_string(&manifest).expect("a manifest");
    let text = text.replace("folder = \"dist\"", "folder = \"dist\"\nlayers = false\nweight = 2");
    std::fs::write(&manifest, text).expect("a manifest");
    let (cases, wrong) = spec::run(&browser);
    let mut failed = wrong > 0;
    let mut rows = Vec::new();
    let version = browser.version().to_owned();
    if whole {
        failed |= verdicts::run(&browser) + page_verdicts::run(&browser) + words::run(&browser) > 0;
        failed |= keys::run(&browser, &sample) > 0;
        failed |= specimen::run(&browser, &sample) > 0;
        failed |= islands::run(&browser, depth.seed) > 0;
        failed |= switching::run(&browser, &sample) > 0;
        folders.push(Path::new(env!("CARGO_MANIFEST_DIR")).join("starter"));
        folders.push(Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/projects/quay"));
        folders.push(jetty.clone());
        folders.push(flat.path().join("jetty"));
    }
    for folder in &folders {
        failed |= boxes::run(&browser, folder, depth) > 0;
        let tally = run_project(&browser, folder, depth);
        tally.print(folder);
        failed |= tally.differences > 0;
        let name = folder.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
        let what = match name.as_str() {
            "ternhaven" => "the sample system, every state and theme",
            "starter" => "the starting system of `new`, every state and theme",
            "jetty" => "a system that keeps the names of its pages, every state and theme",
            _ => "a second system of the tests, every state and theme",
        };
        let mut row = fidelity::Row::new(&version, what);
        (row.compared, row.differences) = (tally.compared, tally.differences);
        row.unknown = tally.unknown.values().sum();
        rows.push(row);
    }
    if whole {
        let mut row = fidelity::Row::new(&version, "small cases from the specifications");
        (row.compared, row.differences) = (cases, wrong);
        rows.push(row);
        let swept = sweep::run(&browser, &media, depth);
        swept.print();
        failed |= swept.differing > 0;
        let what = "every property with every value of a pool that it takes";
        let mut row = fidelity::Row::new(&version, what);
        (row.compared, row.unknown, row.differences) = (swept.compared, swept.unknown, swept.differences);
        rows.push(row);
        let sheets = if depth.full { RANDOM_SHEETS } else { FEW_RANDOM_SHEETS };
        let seed = depth.seed;
        let count = random_pages::run(&browser, seed..seed + sheets, &media);
        count.print(&format!("random stylesheets, seed {seed}"));
        let mut row = fidelity::Row::new(&version, &format!("{sheets} random stylesheets, seeds from {seed}"));
        (row.compared, row.unknown, row.differences) = (count.compared, count.unknown, count.differences);
        failed |= row.agreement() < 99.9;
        rows.push(row);
        let count = real_pages::run(&browser, &real_pages::of_our_own(), &media, real_pages::SITUATIONS);
        count.print("pages in old habits");
        failed |= count.differences > 0;
        let mut row = fidelity::Row::new(&version, "pages of our own in old habits, quirks mode among them");
        (row.compared, row.unknown, row.differences) = (count.compared, count.unknown, count.differences);
        rows.push(row);
        let count = real_pages::run_sites(&browser, &media);
        count.print("pages of the surveyed sites, in each theme");
        failed |= count.differences > 0;
        let mut row = fidelity::Row::new(&version, "the old site of the sample and two others, in each theme");
        (row.compared, row.unknown, row.differences) = (count.compared, count.unknown, count.differences);
        rows.push(row);
        failed |= surveyed::run(&browser) > 0;
        failed |= adopted::run(&browser, depth) > 0;
        if depth.full {
            let pages = real_pages::of_debian();
            let (usual, forced) = real_pages::without_and_with_forced_colors();
            for (situations, how) in [(usual, ""), (forced, ", in forced colours")] {
                let count = real_pages::run(&browser, &pages, &media, situations);
                let what = format!("{} pages of Debian's documentation packages{how}", count.sheets);
                count.print(&what);
                let mut row = fidelity::Row::new(&version, &what);
                (row.compared, row.unknown, row.differences) = (count.compared, count.unknown, count.differences);
                failed |= row.agreement() < 99.995;
                rows.push(row);
            }
        }
        drop(browser);
        let others: &[webdriver::BrowserKind] = match depth.full {
            true => &[webdriver::BrowserKind::Firefox, webdriver::BrowserKind::WebKit],
            false => &[],
        };
        let starter = resting_page(&Path::new(env!("CARGO_MANIFEST_DIR")).join("starter"));
        let pages = [("the starting system at rest".to_owned(), starter.0, starter.1), {
            let page = resting_page(&sample);
            ("the sample system at rest".to_owned(), page.0, page.1)
        }];
        for kind in others {
            for row in others::run(*kind, &pages) {
                row.print();
                failed |= row.agreement() < 95.0;
                rows.push(row);
            }
        }
        if std::env::var_os("STILK_FIDELITY").is_some() {
            assert!(depth.full, "the table says what everything gives: set STILK_FULL=1 as well");
            fidelity::write(&rows);
        }
    }
    if failed {
        std::process::exit(1);
    }
    println!("{} passed, 0 failed", folders.len());
}

/// What tells a page of a theme and a set of states from others.
fn page_seed(theme: Option<&Theme>, set: &StateSet) -> u64 {
    let mut hasher = DefaultHasher::new();
    (theme.map(|theme| &theme.contexts), set).hash(&mut hasher);
    hasher.finish()
}

/// A project's stylesheet, and one variant of every host of every control at rest.
fn resting_page(folder: &Path) -> (String, String) {
    let work = tempfile::tempdir().expect("a folder");
    copy(folder, work.path());
    let css = std::fs::read_to_string(build(work.path())).expect("the stylesheet");
    let Project { system, diagnostics, .. } = registry::load(&Folder(work.path().to_owned()));
    let system = system.unwrap_or_else(|| panic!("{diagnostics:#?}"));
    let mut document = Document::new();
    let body = document.append_element(Document::ROOT, Element::html("div"));
    for control in &system.controls {
        for host in 0..control.template.hosts.len() {
            let Some(variant) = control.variants(host).into_iter().next() else { continue };
            let states = StateSet::default();
            let request = Request { control, host, variant: &variant, states: &states, plain: false };
            mount(&system, request, &mut document, body, &mut Forced::default());
        }
    }
    (css, document.to_html(body))
}

/// What was compared.
#[derive(Default)]
struct Tally {
    compared: u64,
    by_state: BTreeMap<String, u64>,
    differences: u64,
    /// The first case of each kind of difference, with the number of cases.
    shown: BTreeMap<String, (String, u64)>,
    unknown: BTreeMap<String, u64>,
    pseudo: u64,
}

impl Tally {
    fn print(&self, folder: &Path) {
        println!("{}: {} values compared, {} differences", folder.display(), self.compared, self.differences);
        for (state, count) in &self.by_state {
            println!("  {state}: {count}");
        }
        println!("  on pseudo-elements: {}", self.pseudo);
        for (kind, (case, count)) in self.shown.iter().take(60) {
            println!("  {count} × {kind} ({case})");
        }
        println!("  not known to the engine, so not compared:");
        for (reason, count) in &self.unknown {
            println!("    {count} × {reason}");
        }
    }
}

/// The stylesheet that the built program wrote.
fn build(folder: &Path) -> PathBuf {
    let output = Command::new(env!("CARGO_BIN_EXE_stilk"))
        .args(["build", "--project"])
        .arg(folder)
        .output()
        .expect("the program runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let line = String::from_utf8(output.stdout).expect("text");
    PathBuf::from(line.split(" (").next().expect("a path"))
}

fn run_project(browser: &Browser, folder: &Path, depth: Depth) -> Tally {
    with_harness(browser, folder, depth, |harness| {
        harness.run();
        std::mem::take(&mut harness.tally)
    })
}

/// Builds a copy of a project and compares it with a browser.
fn with_harness<T>(browser: &Browser, folder: &Path, depth: Depth, compare: impl FnOnce(&mut Harness) -> T) -> T {
    let work = tempfile::tempdir().expect("a folder");
    copy(folder, work.path());
    let css_path = build(work.path());
    let css = std::fs::read_to_string(&css_path).expect("the stylesheet");
    let Project { system, diagnostics, .. } = registry::load(&Folder(work.path().to_owned()));
    let system = system.unwrap_or_else(|| panic!("{diagnostics:#?}"));
    let parsed = Stylesheet::parse(&css);
    let mut harness = Harness {
        browser,
        system: &system,
        parsed: &parsed,
        css_path,
        work: work.path(),
        depth,
        tally: Tally::default(),
    };
    compare(&mut harness)
}

/// Media features of one pass: as the browser is told, and as the engine is.
struct Pass {
    name: &'static str,
    features: Vec<(&'static str, &'static str)>,
    media: Media,
    rtl: bool,
}

fn passes() -> [Pass; 5] {
    let media = Media { width: f64::from(WIDTH), height: f64::from(HEIGHT), ..Media::default() };
    let reduced = ("prefers-reduced-motion", "reduce");
    [
        // States are read without motion: a forced state with a transition would be read on its way.
        Pass {
            name: "states",
            features: vec![reduced],
            media: Media { reduced_motion: true, ..media.clone() },
            rtl: false,
        },
        Pass {
            name: "rest, with motion",
            features: vec![("prefers-reduced-motion", "no-preference")],
            media: media.clone(),
            rtl: false,
        },
        Pass {
            name: "rest, following dark",
            features: vec![reduced, ("prefers-color-scheme", "dark")],
            media: Media { reduced_motion: true, dark: true, ..media.clone() },
            rtl: false,
        },
        Pass {
            name: "rest, following contrast",
            features: vec![reduced, ("prefers-color-scheme", "dark"), ("prefers-contrast", "more")],
            media: Media { reduced_motion: true, dark: true, contrast: "more", ..media.clone() },
            rtl: false,
        },
        Pass {
            name: "rest, right to left",
            features: vec![reduced],
            media: Media { reduced_motion: true, ..media },
            rtl: true,
        },
    ]
}

struct Harness<'h> {
    browser: &'h Browser,
    system: &'h System,
    parsed: &'h Stylesheet,
    css_path: PathBuf,
    work: &'h Path,
    depth: Depth,
    tally: Tally,
}

/// A page with many cases: the same tree goes to the browser and to the engine.
struct OpenPage {
    document: Document,
    forced: Forced,
    /// Names of the wrappers, by node.
    names: Vec<(NodeId, String)>,
}

impl OpenPage {
    /// All elements, in the order in which the browser has them.
    fn elements(&self) -> Vec<NodeId> {
        let nodes = self.document.descendants(Document::ROOT).into_iter();
        nodes.filter(|node| self.document.element(*node).is_some()).collect()
    }
}

impl Harness<'_> {
    fn run(&mut self) {
        let [states, motion, dark, contrast, rtl] = passes();
        let themes: Vec<Option<Theme>> = self.system.tokens.themes().into_iter().map(Some).collect();
        let mut sets: Vec<StateSet> =
            self.system.controls.iter().flat_map(|control| state_sets(self.system, control)).collect();
        sets.sort_by_key(|set| self.system.states.precedence(set));
        sets.dedup();
        for theme in &themes {
            for set in &sets {
                self.compare(&states, theme.as_ref(), set);
            }
            self.compare(&motion, theme.as_ref(), &StateSet::default());
        }
        for pass in [&dark, &contrast, &rtl] {
            self.compare(pass, None, &StateSet::default());
        }
        self.assert_not_empty(&sets);
        for control in &self.system.controls {
            let looked = sample::sample(control, 0, self.depth, 0).len();
            let all = control.variant_count(0) as usize;
            if looked < all {
                let what = if self.depth.full { "every pair of options" } else { "another one on each page" };
                println!("{}: {looked} of {all} variants, {what}", control.name.value);
            }
        }
    }

    /// A harness that tests nothing must fail.
    fn assert_not_empty(&self, sets: &[StateSet]) {
        for set in sets {
            let name = self.system.states.set_name(set);
            assert!(self.tally.by_state.get(&name).is_some_and(|n| *n > 0), "nothing was compared in {name}");
        }
    }

    fn page(&self, theme: Option<&Theme>, set: &StateSet, rtl: bool) -> OpenPage {
        let mut page = OpenPage { document: Document::new(), forced: Forced::default(), names: Vec::new() };
        let document = &mut page.document;
        let mut html = Element::html("html");
        for (name, value) in theme.map(|theme| theme_attributes(self.system, theme)).unwrap_or_default() {
            html.set(&name, value);
        }
        if rtl {
            html.set("dir", "rtl");
        }
        let html = document.append_element(Document::ROOT, html);
        let head = document.append_element(html, Element::html("head"));
        for (name, attributes) in [
            ("meta", vec![("charset", "utf-8".to_owned())]),
            ("link", vec![("rel", "stylesheet".into()), ("href", format!("file://{}", self.css_path.display()))]),
        ] {
            let mut element = Element::html(name);
            attributes.into_iter().for_each(|(name, value)| element.set(name, value));
            document.append_element(head, element);
        }
        let body = document.append_element(html, Element::html("body"));
        let number = page_seed(theme, set);
        for control in &self.system.controls {
            if !state_sets(self.system, control).contains(set) {
                continue;
            }
            for host in 0..control.template.hosts.len() {
                for variant in sample::sample(control, host, self.depth, number) {
                    let wrapper = document.append_element(body, Element::html("div"));
                    let request = Request { control, host, variant: &variant, states: set, plain: false };
                    let mounted = mount_in_place(self.system, request, document, wrapper, &mut page.forced);
                    // Ids and radio groups of many copies on one page must not meet.
                    own_ids(self.system, document, mounted.root, &format!("c{}", page.names.len()));
                    page.names.push((wrapper, control.variant_name(host, &variant)));
                }
            }
        }
        page
    }

    fn open(&self, page: &OpenPage) {
        let path = self.work.join("page.html");
        let html = page.document.child_elements(Document::ROOT).next().expect("an element");
        std::fs::write(&path, format!("<!doctype html>{}", page.document.to_html(html))).expect("the page");
        self.browser.open(&format!("file://{}", path.display()));
        let hover = self.browser.run("return matchMedia('(hover: hover)').matches", json!([]));
        assert_eq!(hover, Value::Bool(true), "the browser reports (hover: none): no hover rule would be tested");
    }

    /// Forces interaction states as the inspector does, each on its element.
    fn force(&self, page: &OpenPage, elements: &[NodeId]) {
        let mut by_node: BTreeMap<usize, Vec<&str>> = BTreeMap::new();
        for (node, pseudo) in page.forced.iter() {
            let index = elements.iter().position(|element| *element == node).expect("a forced element");
            by_node.entry(index).or_default().push(pseudo.name());
        }
        if by_node.is_empty() {
            return;
        }
        self.browser.devtools("DOM.enable", json!({}));
        self.browser.devtools("CSS.enable", json!({}));
        let root = self.browser.devtools("DOM.getDocument", json!({ "depth": 0 }))["root"]["nodeId"].clone();
        let all = self.browser.devtools("DOM.querySelectorAll", json!({ "nodeId": root, "selector": "*" }));
        let ids = all["nodeIds"].as_array().expect("nodes");
        assert_eq!(ids.len(), elements.len(), "the browser's tree is another one");
        for (index, pseudos) in by_node {
            let parameters = json!({ "nodeId": ids[index], "forcedPseudoClasses": pseudos });
            self.browser.devtools("CSS.forcePseudoState", parameters);
        }
    }

    fn compare(&mut self, pass: &Pass, theme: Option<&Theme>, set: &StateSet) {
        let page = self.page(theme, set, pass.rtl);
        self.browser.emulate(&pass.features);
        self.open(&page);
        let elements = page.elements();
        self.force(&page, &elements);
        let engine = Engine::new(Defaults::Chromium.sheet(), &[self.parsed], pass.media.clone());
        let styles = engine.styles(&page.document, &page.forced);
        let theme_name = theme.map_or_else(|| pass.name.to_owned(), |theme| self.system.tokens.theme_name(theme));
        let set_name = self.system.states.set_name(set);
        let drawn = [PseudoElement::Before, PseudoElement::After, PseudoElement::Placeholder];
        let drawn = drawn.into_iter().chain([PseudoElement::FileSelectorButton]).map(Some);
        for pseudo in std::iter::once(None).chain(drawn) {
            let chosen: Vec<(usize, &Style)> = elements
                .iter()
                .enumerate()
                .filter_map(|(index, node)| {
                    styles.of(Styled { node: *node, pseudo }).map(|style| (index, style.as_ref()))
                })
                .collect();
            if chosen.is_empty() {
                continue;
            }
            self.compare_styles(&page, &elements, &chosen, pseudo, &set_name, &theme_name);
        }
    }

    /// Compares styles in the page: what is expected goes there, each style once, and only what differs comes back.
    fn compare_styles(
        &mut self,
        page: &OpenPage,
        elements: &[NodeId],
        chosen: &[(usize, &Style)],
        pseudo: Option<PseudoElement>,
        set_name: &str,
        theme_name: &str,
    ) {
        const SCRIPT: &str = "
            const [indices, which, expected, names, pseudo] = arguments;
            // A running animation answers with a value on its way.
            document.getAnimations().forEach(animation => animation.cancel());
            const all = document.querySelectorAll('*');
            const found = new Map();
            indices.forEach((index, i) => {
                const style = getComputedStyle(all[index], pseudo);
                const values = expected[which[i]];
                names.forEach((name, j) => {
                    if (values[j] === null) return;
                    const theirs = style.getPropertyValue(name);
                    if (theirs === values[j]) return;
                    const key = JSON.stringify([values[j], j, theirs]);
                    const known = found.get(key);
                    if (known) known[1]++; else found.set(key, [i, 1]);
                });
            });
            return [...found].map(([key, [i, count]]) => [...JSON.parse(key), i, count]);";
        let mut expected: Vec<Vec<Option<String>>> = Vec::new();
        let mut known: HashMap<Vec<Option<String>>, usize> = HashMap::new();
        let mut which = Vec::new();
        for (_, style) in chosen {
            let values: Vec<Option<String>> =
                Longhand::ALL.iter().map(|longhand| self.expected(style, *longhand)).collect();
            let compared = values.iter().flatten().count() as u64;
            self.tally.compared += compared;
            *self.tally.by_state.entry(set_name.to_owned()).or_default() += compared;
            self.tally.pseudo += if pseudo.is_some() { compared } else { 0 };
            which.push(*known.entry(values).or_insert_with_key(|values| {
                expected.push(values.clone());
                expected.len() - 1
            }));
        }
        let indices: Vec<usize> = chosen.iter().map(|(index, _)| *index).collect();
        let names: Vec<&str> = Longhand::ALL.iter().map(|longhand| longhand.name()).collect();
        let pseudo_name = pseudo.map(|pseudo| format!("::{}", pseudo.name()));
        let answer = self.browser.run(SCRIPT, json!([indices, which, expected, names, pseudo_name]));
        for row in answer.as_array().expect("differences") {
            let (ours, theirs) = (row[0].as_str().unwrap_or_default(), row[2].as_str().unwrap_or_default());
            let number = |i: usize| row[i].as_u64().expect("a number");
            if compare::same(ours, theirs) {
                continue;
            }
            self.tally.differences += number(4);
            let name = element_name(page, elements[chosen[number(3) as usize].0], pseudo);
            let longhand = names[number(1) as usize];
            let kind = format!("{longhand}: engine {ours}, browser {theirs}");
            let case = format!("{name}:{set_name} in {theme_name}");
            self.tally.shown.entry(kind).or_insert((case, 0)).1 += number(4);
        }
    }

    /// What the engine expects; `None`, and counted, where it does not know.
    fn expected(&mut self, style: &Style, longhand: Longhand) -> Option<String> {
        match resolved(style, longhand) {
            Ok(ours) => Some(ours),
            Err(unknown) => {
                *self.tally.unknown.entry(format!("{}: {}", longhand.name(), unknown.0)).or_default() += 1;
                None
            }
        }
    }
}

fn element_name(page: &OpenPage, node: NodeId, pseudo: Option<PseudoElement>) -> String {
    let mut at = Some(node);
    let mut name = page.document.element(node).map_or("?", Element::local).to_owned();
    while let Some(id) = at {
        if let Some((_, case)) = page.names.iter().find(|(wrapper, _)| *wrapper == id) {
            name = format!("{case}/{name}");
        }
        at = page.document.node(id).parent;
    }
    match pseudo {
        Some(pseudo) => format!("{name}::{}", pseudo.name()),
        None => name,
    }
}
