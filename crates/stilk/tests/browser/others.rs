//! A smaller run in Firefox and WebKit: the small cases, and the starting system at rest, under what each brings along.

use crate::cases::all;
use crate::compare::same;
use crate::fidelity::Row;
use crate::webdriver::{Browser, BrowserKind};
use serde_json::json;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Forced, Media, Styled};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::Document;
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_engine::page::Page;

/// Compares in one browser; a page is its head's CSS and its body's HTML.
pub fn run(kind: BrowserKind, pages: &[(String, String, String)]) -> Vec<Row> {
    let browser = Browser::start_kind(kind, 1280, 800);
    let defaults = match kind {
        BrowserKind::Chromium => Defaults::Chromium,
        BrowserKind::Firefox => Defaults::Firefox,
        BrowserKind::WebKit => Defaults::WebKit,
    };
    let blank = tempfile::Builder::new().suffix(".html").tempfile().expect("a page");
    std::fs::write(blank.path(), "<!doctype html><html><head></head><body></body></html>").expect("a page");
    browser.open(&format!("file://{}", blank.path().display()));
    let media = media(&browser);
    let sheet = SourceSheet::defaults(defaults);
    let mut rows = Vec::new();
    let mut row = Row::new(browser.version(), "small cases, the longhand each is about");
    for (_, (_, css, html, property, _)) in all() {
        compare(&browser, &sheet, css, html, &media, Some(property), &mut row);
    }
    rows.push(row);
    for (name, css, html) in pages {
        let mut row = Row::new(browser.version(), name);
        compare(&browser, &sheet, css, html, &media, None, &mut row);
        rows.push(row);
    }
    rows
}

/// The media as the browser says they are.
fn media(browser: &Browser) -> Media {
    let answer = browser.run(
        "const is = query => matchMedia(query).matches;
         return [innerWidth, innerHeight, is('(hover: hover)'), is('(pointer: fine)'), is('(pointer: coarse)'),
             is('(prefers-color-scheme: dark)'), is('(prefers-reduced-motion: reduce)'), devicePixelRatio];",
        json!([]),
    );
    let is = |i: usize| answer[i] == json!(true);
    Media {
        width: answer[0].as_f64().unwrap_or(1280.0),
        height: answer[1].as_f64().unwrap_or(800.0),
        hover: is(2),
        pointer: if is(3) {
            "fine"
        } else if is(4) {
            "coarse"
        } else {
            "none"
        },
        dark: is(5),
        reduced_motion: is(6),
        resolution: answer[7].as_f64().unwrap_or(1.0),
        ..Media::default()
    }
}

fn compare(
    browser: &Browser,
    defaults: &SourceSheet,
    css: &str,
    html: &str,
    media: &Media,
    only: Option<&str>,
    row: &mut Row,
) {
    const SCRIPT: &str = "
        const [css, html, names, target] = arguments;
        document.head.innerHTML = '';
        const style = document.createElement('style');
        style.textContent = css;
        document.head.append(style);
        document.body.innerHTML = html;
        document.getAnimations().forEach(animation => animation.cancel());
        const elements = target ? [document.getElementById('t')] : [...document.body.querySelectorAll('*')];
        return elements.map(element => {
            const computed = getComputedStyle(element);
            return names.map(name => computed.getPropertyValue(name));
        });";
    let page = Page::parse(&format!("<!doctype html><html><head></head><body>{html}</body></html>"));
    let sheet = SourceSheet::new("page", css);
    let inspection = Inspector::new(&page.document, defaults, vec![&sheet], media.clone(), &Forced::default());
    let longhands: Vec<Longhand> = match only {
        Some(name) => Longhand::find(name).into_iter().collect(),
        None => Longhand::ALL.to_vec(),
    };
    let names: Vec<&str> = longhands.iter().map(|longhand| longhand.name()).collect();
    let answer = browser.run(SCRIPT, json!([css, html, names, only.is_some()]));
    let body = page
        .document
        .descendants(Document::ROOT)
        .into_iter()
        .find(|node| page.document.element(*node).is_some_and(|element| element.local() == "body"));
    let nodes: Vec<_> = match only {
        Some(_) => page.by_id("t").into_iter().collect(),
        None => {
            let inside = body.map(|body| page.document.descendants(body)).unwrap_or_default();
            inside.into_iter().skip(1).filter(|node| page.document.element(*node).is_some()).collect()
        }
    };
    for (node, theirs) in nodes.iter().zip(answer.as_array().into_iter().flatten()) {
        let style = inspection.style(Styled::element(*node)).expect("a style");
        for (longhand, theirs) in longhands.iter().zip(theirs.as_array().into_iter().flatten()) {
            let theirs = theirs.as_str().unwrap_or_default();
            // An empty answer: the browser has no such property.
            if theirs.is_empty() {
                continue;
            }
            match resolved(&style, *longhand) {
                Ok(ours) if same(&ours, theirs) => row.compared += 1,
                Ok(ours) => {
                    row.compared += 1;
                    row.differences += 1;
                    *row.kinds.entry(format!("{}: engine {ours}, browser {theirs}", longhand.name())).or_default() += 1;
                }
                Err(_) => row.unknown += 1,
            }
        }
    }
}
