//! What engines paint differently from the same values: each scene is drawn beside what should look the same, and the pixels
//! that differ are counted.

use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::fmt::Write;

/// A scene: what it is about, its markup, and markup that a person would expect to look like it.
const SCENES: [(&str, &str, &str); 16] = [
    (
        "a shadow of no extent under a rounded box without a ground",
        "<i style='border-radius: 12px; box-shadow: 0 0 0 0 #c00'></i>",
        "<i style='border-radius: 12px'></i>",
    ),
    (
        "the same under a translucent ground",
        "<i style='border-radius: 12px; background: rgb(0 0 0 / .1); box-shadow: 0 0 0 0 #c00'></i>",
        "<i style='border-radius: 12px; background: rgb(0 0 0 / .1)'></i>",
    ),
    (
        "the same under an opaque ground",
        "<i style='border-radius: 12px; background: #def; box-shadow: 0 0 0 0 #c00'></i>",
        "<i style='border-radius: 12px; background: #def'></i>",
    ),
    (
        "the same under an opaque border",
        "<i style='border-radius: 12px; border: 2px solid #345; box-shadow: 0 0 0 0 #c00'></i>",
        "<i style='border-radius: 12px; border: 2px solid #345'></i>",
    ),
    ("the same without rounding", "<i style='box-shadow: 0 0 0 0 #c00'></i>", "<i></i>"),
    (
        "an inner shadow of no extent in a rounded box",
        "<i style='border-radius: 12px; box-shadow: inset 0 0 0 0 #c00'></i>",
        "<i style='border-radius: 12px'></i>",
    ),
    (
        "a ground under a rounded child of the same size and colour of the page",
        "<i style='border-radius: 12px; background: #c00; overflow: hidden'><b style='background: #fff'></b></i>",
        "<i style='border-radius: 12px; overflow: hidden'><b style='background: #fff'></b></i>",
    ),
    (
        "a ground that reaches under an opaque rounded border",
        "<i style='border-radius: 12px; border: 3px solid #fff; background: #c00'></i>",
        "<i style='border-radius: 12px; border: 3px solid #fff; background: #c00; background-clip: padding-box'></i>",
    ),
    ("a box of less than half a pixel", "<i style='height: .4px; background: #c00'></i>", "<i style='height: 0'></i>"),
    (
        "a line of less than a pixel",
        "<i style='border: .4px solid #c00'></i>",
        "<i style='border: 1px solid #c00'></i>",
    ),
    (
        "a line of one and a half pixels",
        "<i style='border: 1.5px solid #c00'></i>",
        "<i style='border: 1px solid #c00'></i>",
    ),
    (
        "a gradient from `transparent`",
        "<i style='background: linear-gradient(90deg, transparent, #c00)'></i>",
        "<i style='background: linear-gradient(90deg, rgb(204 0 0 / 0), #c00)'></i>",
    ),
    (
        "an outline of a rounded box",
        "<i style='border-radius: 12px; outline: 3px solid #c00'></i>",
        "<i style='border-radius: 12px; box-shadow: 0 0 0 3px #c00'></i>",
    ),
    (
        "a shadow of a blur alone under an opaque ground",
        "<i style='border-radius: 12px; background: #def; box-shadow: 0 0 0 0 #c00, 0 0 0 2px #345'></i>",
        "<i style='border-radius: 12px; background: #def; box-shadow: 0 0 0 2px #345'></i>",
    ),
    (
        "a box between two pixels",
        "<i style='background: #c00; translate: .5px .5px'></i>",
        "<i style='background: #c00; translate: 1px 1px'></i>",
    ),
    (
        "lengths in `rem` under `zoom`",
        "<i style='zoom: .5; inset: 20px auto auto 40px; inline-size: 7.5rem; block-size: 5rem; background: #c00'></i>",
        "<i style='background: #c00'></i>",
    ),
];

const COMPARE: &str = "
    const [png, count] = arguments;
    window.found = undefined;
    const image = new Image();
    image.onload = () => {
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [image.width, image.height];
        const context = canvas.getContext('2d', { willReadFrequently: true });
        context.drawImage(image, 0, 0);
        // The page begins at the mark; a window may have bars around it.
        const all = context.getImageData(0, 0, image.width, image.height).data;
        let mark = 0;
        while (mark < all.length && !(all[mark] === 255 && all[mark + 1] === 0 && all[mark + 2] === 255)) mark += 4;
        const [left, top] = [mark / 4 % image.width, Math.floor(mark / 4 / image.width)];
        const cell = (column, row) => context.getImageData(left + column * 100, top + 10 + row * 60, 100, 60).data;
        window.found = Array.from({ length: count }, (_, i) => {
            const row = Math.floor(i / 6), column = 2 * (i % 6);
            const [one, other] = [cell(column, row), cell(column + 1, row)];
            let differ = 0, most = 0;
            for (let at = 0; at < one.length; at += 4) {
                const by = Math.max(...[0, 1, 2].map(c => Math.abs(one[at + c] - other[at + c])));
                if (by > 8) differ += 1;
                most = Math.max(most, by);
            }
            return [differ, most];
        });
    };
    image.src = 'data:image/png;base64,' + png;";

/// How many pixels of each scene differ from what should look like it, and by how much of 255 at most.
pub fn measure(browser: &Browser) -> Vec<(u64, u64)> {
    let page = tempfile::Builder::new().suffix(".html").tempfile().expect("a page");
    let mut html = "<!doctype html><meta charset=utf-8><style>body { margin: 0; background: #fff }
        s { position: absolute; inset: 0 auto auto 0; inline-size: 3px; block-size: 3px; background: #f0f }
        u { position: absolute; inline-size: 100px; block-size: 60px }
        i { position: absolute; inset: 10px auto auto 20px; inline-size: 60px; block-size: 40px; box-sizing: border-box }
        b { position: absolute; inset: 0; border-radius: 12px }</style>"
        .to_owned();
    html.push_str("<s></s>");
    for (i, (_, scene, like)) in SCENES.iter().enumerate() {
        for (side, markup) in [scene, like].into_iter().enumerate() {
            let (left, top) = ((2 * (i % 6) + side) * 100, 10 + i / 6 * 60);
            // Writing to a String does not fail.
            let _ = write!(html, "<u style='left: {left}px; top: {top}px'>{markup}</u>");
        }
    }
    std::fs::write(page.path(), html).expect("a page");
    browser.open(&format!("file://{}", page.path().display()));
    let png = browser.screenshot();
    browser.run(COMPARE, json!([png, SCENES.len()]));
    for _ in 0..200 {
        let found = browser.run("return window.found || null;", json!([]));
        if let Some(list) = found.as_array() {
            let number = |one: &Value, at: usize| one[at].as_u64().unwrap_or(0);
            return list.iter().map(|one| (number(one, 0), number(one, 1))).collect();
        }
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    panic!("the pixels were not compared")
}

/// The table, in Markdown.
pub fn table(columns: &[(String, Vec<(u64, u64)>)]) -> String {
    let versions: Vec<&str> = columns.iter().map(|(version, _)| version.as_str()).collect();
    let mut text = format!("| scene | {} |\n|---|{}\n", versions.join(" | "), "---:|".repeat(columns.len()));
    for (i, (what, _, _)) in SCENES.iter().enumerate() {
        let cells: Vec<String> = columns
            .iter()
            .map(|(_, found)| match found[i] {
                (0, _) => "–".to_owned(),
                (pixels, by) => format!("{pixels} px by {by}"),
            })
            .collect();
        let _ = writeln!(text, "| {what} | {} |", cells.join(" | "));
    }
    text
}
