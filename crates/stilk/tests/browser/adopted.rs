//! What `adopt` proves, held against Chromium: pages with their old stylesheets and with what stays of these and the system's,
//! in themes, widths and colour schemes, at rest and with states forced. Every longhand of every element has to be the same,
//! boxes within half a pixel, and at rest every pixel.

use crate::depth::Depth;
use crate::surveyed;
use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::process::Command;

/// Below so many values the test would say too little.
const LEAST: u64 = 1_000_000;

/// So many rounds are looked at, and so many themes, where not everything is.
const FEW: u64 = 2;

/// Rounds of forced states: each element is in each of them once.
const ROUNDS: usize = 5;

/// So many pixels of a picture may be other ones: native fields and the edges of text are not drawn alike each time.
const NOISE: u64 = 600;

/// A page before and afterwards.
struct Pair {
    old: PathBuf,
    new: PathBuf,
    themes: Vec<String>,
}

/// What was compared.
#[derive(Default)]
struct Count {
    values: u64,
    differences: u64,
    pictures: u64,
    told: usize,
}

/// Compares all sites; the number of differences.
pub fn run(browser: &Browser, depth: Depth) -> u64 {
    let mut count = Count::default();
    let own = own_output();
    for site in surveyed::sites().into_iter().chain([own.path().join("sample")]) {
        for pair in &adopted(&site, &[]) {
            compare(browser, pair, depth, &mut count);
        }
        if depth.full {
            // Once more with the system in layers.
            for pair in &adopted(&site, &["--layers"]) {
                compare(browser, pair, Depth { full: false, ..depth }, &mut count);
            }
        }
    }
    println!("adopted sites: {} values, {} pictures, {} differ", count.values, count.pictures, count.differences);
    let least = if depth.full { LEAST } else { LEAST / 4 };
    assert!(count.values >= least, "only {} values of adopted sites were compared", count.values);
    count.differences
}

/// The sample's pages with the stylesheet that Stilk wrote for them, as any other site.
fn own_output() -> tempfile::TempDir {
    let folder = tempfile::tempdir().expect("a folder");
    let system = folder.path().join("ternhaven");
    crate::folder::copy(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/ternhaven"), &system);
    let built = Command::new(env!("CARGO_BIN_EXE_stilk")).arg("build").current_dir(&system).output();
    assert!(built.expect("the program").status.success());
    let site = folder.path().join("sample");
    crate::folder::copy(&system.join("pages"), &site);
    std::fs::copy(system.join("dist/ternhaven.css"), site.join("ternhaven.css")).expect("a stylesheet");
    for page in surveyed::pages(&site) {
        let text = std::fs::read_to_string(&page).expect("a page");
        std::fs::write(&page, text.replace("../dist/ternhaven.css", "ternhaven.css")).expect("a page");
    }
    folder
}

/// Adopts a copy of a site and builds the system; its pages before and afterwards.
fn adopted(site: &Path, more: &[&str]) -> Vec<Pair> {
    let name = site.file_name().expect("a name").to_string_lossy().into_owned();
    let root = Path::new(env!("CARGO_TARGET_TMPDIR")).join(format!("adopted-{}-{name}", std::process::id()));
    let _ = std::fs::remove_dir_all(&root);
    crate::folder::copy(site, &root.join("site"));
    let run = |arguments: &[&str]| {
        let output = Command::new(env!("CARGO_BIN_EXE_stilk")).args(arguments).current_dir(&root).output();
        let output = output.expect("the program");
        assert_eq!(
            output.status.code(),
            Some(0),
            "{arguments:?}: {}{}",
            String::from_utf8_lossy(&output.stdout),
            String::from_utf8_lossy(&output.stderr)
        );
    };
    run(&[&["adopt", "site", "--to", "system"], more].concat());
    run(&["build", "--project", "system"]);
    let report = std::fs::read_to_string(root.join("system/ADOPTED.md")).expect("the account");
    let table: Vec<(String, String)> = report
        .lines()
        .filter_map(|line| line.strip_prefix("| ")?.strip_suffix(" |")?.split_once(" | "))
        .take_while(|(_, now)| !now.contains("written by"))
        .map(|(old, now)| (old.to_owned(), now.to_owned()))
        .collect();
    let themes = surveyed::theme_scripts(site);
    surveyed::pages(&root.join("site"))
        .into_iter()
        .map(|old| {
            let text = std::fs::read_to_string(&old).expect("a page");
            let new = old.with_file_name(format!("stilk-copy-{}", old.file_name().expect("a name").to_string_lossy()));
            std::fs::write(&new, linked(&text, &old, &table)).expect("a page");
            Pair { old, new, themes: themes.clone() }
        })
        .collect()
}

/// A page that links what stays of its stylesheets, and the system's.
fn linked(text: &str, page: &Path, table: &[(String, String)]) -> String {
    let mut text = text.to_owned();
    let name = page.file_name().expect("a name").to_string_lossy();
    for (old, now) in table {
        match old.strip_prefix("`<style>` of ") {
            Some(of) if of.ends_with(&*name) => {
                let start = text.find("<style").expect("a stylesheet in the page");
                let end = text[start..].find("</style>").expect("its end") + start + "</style>".len();
                text.replace_range(start..end, &format!("<link rel=\"stylesheet\" href=\"../system/{now}\">"));
            }
            Some(_) => {}
            None => {
                let address = old.strip_prefix("site/").unwrap_or(old);
                text = text.replace(&format!("\"{address}\""), &format!("\"../system/{now}\""));
            }
        }
    }
    let last = text.rfind("rel=\"stylesheet\"").expect("a stylesheet");
    let at = last + text[last..].find('>').expect("an end") + 1;
    text.insert_str(at, "<link rel=\"stylesheet\" href=\"../system/dist/system.css\">");
    text
}

fn compare(browser: &Browser, pair: &Pair, depth: Depth, count: &mut Count) {
    let all: Vec<&str> = std::iter::once("").chain(pair.themes.iter().map(String::as_str)).collect();
    let themes = depth.part(all.len() as u64, FEW).map(|at| all[at as usize]);
    let rounds: Vec<usize> = depth.part(ROUNDS as u64, FEW).map(|round| round as usize).collect();
    for theme in themes {
        for (width, dark) in [(1280, false), (1280, true), (400, false)] {
            let metrics = json!({ "width": width, "height": 800, "deviceScaleFactor": 1, "mobile": false });
            browser.devtools("Emulation.setDeviceMetricsOverride", metrics);
            let scheme = if dark { "dark" } else { "light" };
            browser.emulate(&[("prefers-color-scheme", scheme)]);
            let rounds = if width == 1280 && !dark { rounds.as_slice() } else { &[] };
            let (old, new) = (look(browser, &pair.old, theme, rounds), look(browser, &pair.new, theme, rounds));
            for (round, (old, new)) in old.values.iter().zip(&new.values).enumerate() {
                let place = format!("{} at {width}px, {scheme}, round {round}, {theme}", pair.old.display());
                differences(old, new, &place, count);
            }
            count.pictures += 1;
            // A page is drawn in several steps: a picture that was taken between two of them is taken again.
            let is_drawn_the_same = old.picture == new.picture
                || (0..4).any(|_| {
                    look(browser, &pair.old, theme, &[]).picture == look(browser, &pair.new, theme, &[]).picture
                });
            if !is_drawn_the_same {
                let apart = pixels_apart(browser, &old.picture, &new.picture);
                println!("  {} at {width}px, {scheme}, {theme}: {apart} pixels differ", pair.old.display());
                count.differences += u64::from(apart > NOISE);
            }
        }
    }
    browser.devtools("Emulation.clearDeviceMetricsOverride", json!({}));
}

/// How many pixels two pictures do not have in common.
fn pixels_apart(browser: &Browser, one: &str, other: &str) -> u64 {
    browser.open("data:text/html,<title>x</title>");
    let script = "
        const read = async png => {
            const image = new Image();
            image.src = 'data:image/png;base64,' + png;
            await image.decode();
            const canvas = document.createElement('canvas');
            [canvas.width, canvas.height] = [image.width, image.height];
            const context = canvas.getContext('2d');
            context.drawImage(image, 0, 0);
            return new Uint32Array(context.getImageData(0, 0, image.width, image.height).data.buffer);
        };
        return Promise.all([read(arguments[0]), read(arguments[1])]).then(([a, b]) =>
            a.length === b.length ? a.reduce((sum, pixel, at) => sum + (pixel === b[at] ? 0 : 1), 0) : a.length);";
    browser.run(script, json!([one, other])).as_u64().expect("a number of pixels")
}

/// What was seen of a page.
struct Seen {
    /// At rest, then in each round.
    values: Vec<Value>,
    picture: String,
}

fn look(browser: &Browser, page: &Path, theme: &str, rounds: &[usize]) -> Seen {
    browser.open(&format!("file://{}", page.display()));
    browser.run(&format!("{theme}; scrollTo(0, 0)"), json!([]));
    // The pointer of an earlier test lies somewhere: in the corner it points at nothing that cares.
    browser.devtools("Input.dispatchMouseEvent", json!({ "type": "mouseMoved", "x": 0, "y": 0 }));
    // What moves is looked at when it has arrived, and what is drawn when it has been.
    let settled = "const drawn = () => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done))); \
         return drawn().then(() => document.getAnimations().forEach(a => { \
         if (isFinite(a.effect.getComputedTiming().endTime)) a.finish(); else { a.pause(); a.currentTime = 0 } \
         })).then(drawn).then(() => 0)";
    browser.run(settled, json!([]));
    let picture = browser.screenshot();
    let mut values = vec![browser.run(SCRIPT, json!([]))];
    if rounds.is_empty() {
        return Seen { values, picture };
    }
    browser.run(STILL, json!([]));
    browser.devtools("DOM.enable", json!({}));
    browser.devtools("CSS.enable", json!({}));
    let root = browser.devtools("DOM.getDocument", json!({ "depth": 0 }))["root"]["nodeId"].clone();
    let selector = "a, button, input, select, textarea, summary, label, [role]";
    let all = browser.devtools("DOM.querySelectorAll", json!({ "nodeId": root, "selector": selector }));
    let nodes = all["nodeIds"].as_array().expect("elements").clone();
    for round in rounds {
        for (at, node) in nodes.iter().enumerate() {
            let states: &[&str] = match (at + round) % ROUNDS {
                0 => &["hover"],
                1 => &["focus", "focus-visible", "focus-within"],
                2 => &["active", "hover"],
                3 => &["hover", "focus", "focus-visible", "focus-within"],
                _ => &[],
            };
            browser.devtools("CSS.forcePseudoState", json!({ "nodeId": node, "forcedPseudoClasses": states }));
        }
        values.push(browser.run(SCRIPT, json!([])));
    }
    Seen { values, picture }
}

fn differences(old: &Value, new: &Value, place: &str, count: &mut Count) {
    let (names, old_rows) = (&old["names"], old["rows"].as_array().expect("rows"));
    let new_rows = new["rows"].as_array().expect("rows");
    assert_eq!(old_rows.len(), new_rows.len(), "{place}: other elements");
    for (one, other) in old_rows.iter().zip(new_rows) {
        let values = |row: &Value| -> Vec<String> {
            row["values"].as_str().expect("values").split('\u{1}').map(str::to_owned).collect()
        };
        let (before, after) = (values(one), values(other));
        count.values += before.len() as u64;
        for (at, (before, after)) in before.iter().zip(&after).enumerate().filter(|(_, (a, b))| a != b) {
            count.differences += 1;
            count.told += 1;
            if count.told <= 40 {
                println!("  {place}: {} {}: {before} became {after}", one["element"], names[at]);
            }
        }
        let boxes = |row: &Value| -> Vec<f64> {
            row["box"].as_array().expect("a box").iter().filter_map(Value::as_f64).collect()
        };
        if boxes(one).iter().zip(boxes(other)).any(|(a, b)| (a - b).abs() > 0.5) {
            count.differences += 1;
            println!("  {place}: {} is elsewhere: {} became {}", one["element"], one["box"], other["box"]);
        }
    }
}

/// Everything that moves arrives at once.
const STILL: &str = "const sheet = new CSSStyleSheet(); \
     sheet.replaceSync('*, *::before, *::after { transition-duration: 0s !important; transition-delay: 0s !important }'); \
     document.adoptedStyleSheets = [sheet];";

/// Every longhand of every element and of its generated boxes.
const SCRIPT: &str = r#"
    const names = [...getComputedStyle(document.documentElement)].filter(name => !name.startsWith('--'));
    const rows = [];
    const add = (element, pseudo) => {
        const style = getComputedStyle(element, pseudo);
        if (pseudo && style.content === 'none' && pseudo !== '::placeholder') return;
        const box = element.getBoundingClientRect();
        rows.push({
            element: element.localName + (element.id ? '#' + element.id : '') + (element.className ? '.' + element.className : '') + (pseudo || ''),
            values: names.map(name => style.getPropertyValue(name)).join('\u0001'),
            box: [box.x, box.y, box.width, box.height],
        });
    };
    for (const element of [document.documentElement, document.body, ...document.body.querySelectorAll('*')]) {
        add(element, null);
        for (const pseudo of ['::before', '::after', '::placeholder']) add(element, pseudo);
    }
    return { names, rows };
"#;
