//! What the stylesheet costs a visitor's browser, beside one that is written by hand for the same looks and the same elements:
//! `cargo bench -p stilk --bench weight`; `STILK_FIGURES=1` writes the table into docs/figures.md. `STILK_WEIGHT=quick` looks at the
//! small page with motion alone, `small` at that page in Chromium alone; `STILK_SHEET=FILE` takes another stylesheet than the one that `build` writes.
//!
//! Both sides take turns in one browser, so that a slow hour is slow for both.

#[path = "../../tests/shared/folder.rs"]
mod folder;
mod pages;
mod sizes;
#[path = "../../tests/browser/webdriver.rs"]
mod webdriver;

use pages::{Motion, Side};
use serde_json::json;
use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::Path;
use std::process::Command;
use webdriver::{Browser, BrowserKind};

/// How often each step is done on a page.
const ROUNDS: usize = 5;
/// How often both sides take turns.
const TURNS: usize = 3;
const MEASURE: &str = include_str!("measure.js");
const STEPS: [&str; 9] =
    ["first style", "theme", "density", "root font", "hover 50", "toggle 100", "invalid 50", "typing", "insert 60"];

fn main() {
    // `cargo test` runs benchmarks without this argument to see whether they start.
    if !std::env::args().any(|argument| argument == "--bench") {
        return;
    }
    let asked = std::env::var("STILK_WEIGHT").unwrap_or_default();
    let quick = asked == "quick";
    let folder = tempfile::tempdir().expect("a folder");
    folder::copy(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/ternhaven"), folder.path());
    let built =
        Command::new(env!("CARGO_BIN_EXE_stilk")).args(["build", "--minify"]).current_dir(folder.path()).output();
    assert!(built.expect("a build").status.success());
    let path =
        std::env::var("STILK_SHEET").unwrap_or_else(|_| folder.path().join("dist/ternhaven.css").display().to_string());
    let ours = std::fs::read_to_string(path).expect("the stylesheet");
    let mut text = sizes::table(&ours, pages::HAND);
    println!("{text}");
    let mut ratios = Vec::new();
    let kinds = if quick || asked == "small" {
        &[BrowserKind::Chromium][..]
    } else {
        &[BrowserKind::Chromium, BrowserKind::Firefox][..]
    };
    for kind in kinds {
        let browser = Browser::start_kind(*kind, 1280, 800);
        warm(&browser);
        let _ = writeln!(text, "\n{}: milliseconds of ours, of the other, and the ratio.\n", browser.version());
        let _ = writeln!(text, "| step | controls | with motion | reduced motion | none |\n|---|---:|---:|---:|---:|");
        for controls in if quick || asked == "small" { &[360][..] } else { &[360, 3600][..] } {
            let motions = if quick { &[Motion::Full][..] } else { &Motion::ALL[..] };
            let mut cells: BTreeMap<&str, Vec<String>> = BTreeMap::new();
            for motion in motions {
                let times = measure(&browser, folder.path(), &ours, *controls, *motion);
                for step in STEPS {
                    let [ours, theirs] = times[step];
                    ratios.push(ours / theirs);
                    cells.entry(step).or_default().push(format!("{ours:.1} / {theirs:.1} = {:.2}", ours / theirs));
                    println!(
                        "{} {controls} {motion:?} {step}: {ours:.2} / {theirs:.2} = {:.2}",
                        browser.version(),
                        ours / theirs
                    );
                }
                for (what, [ours, theirs]) in times.iter().filter(|(what, _)| what.starts_with("idle")) {
                    println!("{} {controls} {motion:?} {what}: {ours} / {theirs}", browser.version());
                    cells
                        .entry("idle: styles recalculated a second")
                        .or_default()
                        .push(format!("{ours:.0} / {theirs:.0}"));
                }
            }
            for (step, cells) in cells {
                let _ = writeln!(text, "| {step} | {controls} | {} |", cells.join(" | "));
            }
        }
    }
    let mean = (ratios.iter().map(|ratio: &f64| ratio.ln()).sum::<f64>() / ratios.len() as f64).exp();
    let _ = writeln!(text, "\nGeometric mean of the ratios: {mean:.2}.");
    println!("geometric mean {mean:.2}");
    if std::env::var_os("STILK_FIGURES").is_some() {
        write(&text);
    }
}

/// Lets the browser do once what is measured.
fn warm(browser: &Browser) {
    browser.open("data:text/html,<!doctype html><body><p>Warm</p>");
    browser.run(MEASURE, json!(["theme", 3]));
}

/// By step: the time of our side and of the other, in ms.
type Times = BTreeMap<&'static str, [f64; 2]>;

fn measure(browser: &Browser, folder: &Path, ours: &str, controls: usize, motion: Motion) -> Times {
    let mut all: BTreeMap<&str, [Vec<f64>; 2]> = BTreeMap::new();
    let pages: Vec<String> = [Side::Ours, Side::ByHand]
        .map(|side| {
            let path = folder.join(format!("{side:?}-{controls}-{motion:?}.html"));
            std::fs::write(&path, pages::page(side, ours, controls, motion)).expect("a page");
            format!("file://{}", path.display())
        })
        .to_vec();
    for turn in 0..TURNS {
        // Who comes first is slower: the browser has just had the other page.
        for at in 0..pages.len() {
            let side = (at + turn) % pages.len();
            let address = &pages[side];
            browser.open(address);
            for step in STEPS {
                let time = match step {
                    "hover 50" => hover(browser),
                    step => browser.run(MEASURE, json!([step, ROUNDS])).as_f64().expect("a time"),
                };
                all.entry(step).or_default()[side].push(time);
            }
            all.entry("idle").or_default()[side].push(idle(browser));
        }
    }
    all.into_iter().map(|(step, times)| (step, times.map(median))).collect()
}

fn median(mut times: Vec<f64>) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

/// The time that styles take while the pointer goes over fifty buttons, in ms.
fn hover(browser: &Browser) -> f64 {
    let listen = "window.hovered = 0; window.listening ??= document.addEventListener('pointerover', () => { \
        const started = performance.now(); document.body.offsetHeight; window.hovered += performance.now() - started }) ?? true; \
        document.querySelectorAll('button').forEach((one, at) => one.id = `over-${at}`)";
    browser.run(listen, json!([]));
    for at in 0..50 {
        browser.point(&format!("#over-{}", at % 12), false);
    }
    browser.run("return window.hovered", json!([])).as_f64().expect("a time")
}

/// How many times a second styles are recalculated while nothing happens; in Firefox, which does not say, how many animations run.
fn idle(browser: &Browser) -> f64 {
    std::thread::sleep(std::time::Duration::from_millis(600));
    if !browser.version().starts_with("Chromium") {
        let running = "return document.getAnimations().filter(one => one.playState === 'running').length";
        return browser.run(running, json!([])).as_f64().unwrap_or_default();
    }
    browser.devtools("Performance.enable", json!({}));
    let count = || {
        let metrics = browser.devtools("Performance.getMetrics", json!({}));
        let list = metrics["metrics"].as_array().cloned().unwrap_or_default();
        let one = list.iter().find(|metric| metric["name"] == "RecalcStyleCount");
        one.map_or(0.0, |metric| metric["value"].as_f64().unwrap_or_default())
    };
    let before = count();
    std::thread::sleep(std::time::Duration::from_secs(1));
    count() - before
}

/// Writes the tables into the docs.
fn write(text: &str) {
    const HEAD: &str = "<!-- weight -->\n";
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/figures.md");
    let old = std::fs::read_to_string(&path).expect("docs/figures.md");
    let (before, rest) = old.split_once(HEAD).expect("the place of the table");
    let (_, after) = rest.split_once("<!-- /weight -->").expect("its end");
    std::fs::write(&path, format!("{before}{HEAD}{text}<!-- /weight -->{after}")).expect("docs/figures.md");
}
