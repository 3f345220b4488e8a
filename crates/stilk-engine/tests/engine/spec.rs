//! The engine on small cases from the specifications.

use crate::cases::all;
use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, Element};
use stilk_engine::html::parse_content_in;
use stilk_text::source::Sources;

fn engine_value(css: &str, html: &str, property: &str) -> Result<String, String> {
    let mut sources = Sources::default();
    let mut document = parse_content_in(sources.add("", html), html).document;
    let content = document.node(Document::ROOT).children.clone();
    let root = document.append_element(Document::ROOT, Element::html("html"));
    let body = document.append_element(root, Element::html("body"));
    content.into_iter().for_each(|node| document.append(body, node));
    let sheet = Stylesheet::parse(css);
    let styles =
        Engine::new(Defaults::Chromium.sheet(), &[&sheet], Media::default()).styles(&document, &Forced::default());
    let target = document
        .descendants(Document::ROOT)
        .into_iter()
        .find(|node| document.element(*node).and_then(|e| e.attribute("id")) == Some("t"))
        .ok_or("there is no #t")?;
    let longhand = Longhand::find(property).ok_or("the property is not modelled")?;
    resolved(styles.element(target).ok_or("no style")?, longhand).map_err(|unknown| unknown.0.to_owned())
}

#[test]
fn every_case_has_the_value_of_the_specification() {
    let mut wrong = Vec::new();
    for (group, (name, css, html, property, expected)) in all() {
        let found = engine_value(css, html, property);
        // Colours carry the rounding of 32 bits: six digits are compared after rounding to four.
        let same = found.as_deref().is_ok_and(|found| found == *expected || rounded(found) == rounded(expected));
        if !same {
            wrong.push(format!("{group}: {name}: {found:?}, expected {expected}"));
        }
    }
    assert!(all().count() >= 400);
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

fn rounded(text: &str) -> String {
    let number = |word: &str| {
        let trimmed = word.trim_end_matches([')', ',']);
        trimmed.parse::<f64>().map(|n| format!("{}{}", (n * 1e4).round() / 1e4 + 0.0, &word[trimmed.len()..]))
    };
    text.split(' ')
        .map(|word| match word.split_once('(') {
            Some((name, first)) => format!("{name}({}", number(first).unwrap_or_else(|_| first.to_owned())),
            None => number(word).unwrap_or_else(|_| word.to_owned()),
        })
        .collect::<Vec<_>>()
        .join(" ")
}
