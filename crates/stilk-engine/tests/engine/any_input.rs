//! Whatever is read: a result or diagnostics, never a panic, a hang, or growth without bound.

use crate::random::sample;
use crate::soup::css_soup;
use proptest::prelude::*;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::explain::Fate;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::Document;
use stilk_engine::page::Page;

/// Everything the engine can say about a page.
fn look(css: &str, html: &str) -> usize {
    let page = Page::parse(html);
    let sheet = Stylesheet::parse(css);
    let styles =
        Engine::new(Browser::Chromium.sheet(), &[&sheet], Media::default()).styles(&page.document, &Forced::default());
    let nodes = page.document.descendants(Document::ROOT);
    let known = nodes
        .into_iter()
        .filter_map(|node| styles.element(node))
        .map(|style| Longhand::ALL.iter().filter(|longhand| resolved(style, **longhand).is_ok()).count());
    known.sum()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, ..ProptestConfig::default() })]

    #[test]
    fn any_css_is_read(css in css_soup(), html in "(<(div|p|a|button|input|style)( class=a)?>|</(div|p|a)>|x){0,12}") {
        look(&css, &html);
    }

    #[test]
    fn any_text_is_read(css in any::<String>(), html in any::<String>()) {
        look(&css, &html);
    }

    #[test]
    fn a_random_page_computes_the_same_twice(seed in any::<u64>()) {
        let sample = sample(seed);
        prop_assert_eq!(look(&sample.css, &sample.html), look(&sample.css, &sample.html));
        prop_assert!(sample.forced.len() < 4);
    }
}

/// An element whose `position` is not known has no `float` where nobody declared one.
#[test]
fn what_was_found_at_random_holds() {
    let sample = sample(7_955_535_678_891_043_166);
    assert!(look(&sample.css, &sample.html) > 0);
}

/// Two walks through the cascade, one for the value and one for the story, must come to the same winner.
#[test]
fn what_is_explained_is_what_won() {
    for seed in 0..60 {
        let sample = sample(seed);
        let page = Page::parse(&format!("<!doctype html><body>{}", sample.html));
        let sheet = Stylesheet::parse(&sample.css);
        let engine = Engine::new(Browser::Chromium.sheet(), &[&sheet], Media::default());
        let styles = engine.styles(&page.document, &Forced::default());
        for style in page.document.descendants(Document::ROOT).into_iter().filter_map(|node| styles.element(node)) {
            for longhand in Longhand::ALL {
                let candidates = style.candidates(*longhand);
                let told = candidates
                    .iter()
                    .find(|c| matches!(c.fate, Fate::Won | Fate::Invalid | Fate::Undecided(_)))
                    .map(|candidate| candidate.id);
                assert_eq!(told, style.winner(*longhand), "seed {seed}, {}", longhand.name());
            }
        }
    }
}

#[test]
fn what_is_nested_without_end_ends() {
    let deep = |open: &str, close: &str, n: usize| format!("{}{}{}", open.repeat(n), "x", close.repeat(n));
    for css in [
        format!("p {{ width: {} }}", deep("calc(", ")", 20_000)),
        format!("p {{ --x: {} }}", deep("var(--x,", ")", 20_000)),
        format!("{} {{ top: 0 }}", deep(":is(", ")", 20_000)),
        deep("@media all {", "}", 20_000),
        deep("p { ", "}", 20_000),
        format!("@supports {} {{}}", deep("(", ")", 20_000)),
        format!("@container {} {{}}", deep("(not ", ")", 20_000)),
        format!("p {{ color: {} }}", deep("color-mix(in oklab, red, ", ")", 20_000)),
        // Each reference doubles what it refers to.
        (0..40)
            .map(|i| format!("--x{}: var(--x{i}) var(--x{i});", i + 1))
            .fold(String::from("p { --x0: a;"), |a: String, b| a + &b)
            + "content: var(--x40) }",
        // Each `&` repeats the selector above it.
        deep("& & & & { ", "}", 50),
    ] {
        look(&css, "<!doctype html><p><p class=x>");
    }
    look("", &"<div>".repeat(5_000));
}

#[test]
fn a_browser_that_lacks_something_reads_another_sheet() {
    use stilk_engine::cascade::{Stylesheet, SupportsTest};
    let css =
        "@supports (appearance: base-select) { a { top: 0 } } @supports not (appearance: base-select) { b { top: 0 } }
               c { appearance: base-select; left: 0 } d::picker(select) { top: 0 } e, f:hover { top: 0 }";
    let rules = |without: &[SupportsTest]| Stylesheet::parse_without(css, without).rules.len();
    assert_eq!(rules(&[]), Stylesheet::parse(css).rules.len());
    let select = SupportsTest::Declaration("appearance".into(), "base-select".into());
    let sheet = Stylesheet::parse_without(css, std::slice::from_ref(&select));
    assert_eq!(sheet.rules.len(), rules(&[]), "one side for the other");
    // The line that is not read is dropped, the one beside it stays.
    assert!(sheet.rules.iter().all(|rule| rule.declarations.len() == 1));
    let picker = SupportsTest::Selector("x::picker(select)".into());
    assert_eq!(rules(&[picker]), rules(&[]) - 1);
}

#[test]
fn conditions_ask_for_what_chromium_has() {
    use stilk_engine::cascade::Stylesheet;
    for (condition, holds) in [
        ("(-moz-appearance: none)", false),
        ("(-ms-ime-align: auto)", false),
        ("not (-moz-appearance: none)", true),
        ("(-webkit-appearance: none)", true),
        ("(offset-path: none)", true),
        ("(--any: thing)", true),
        ("selector([title=\"my s]\"])", true),
        ("selector([title=my s])", false),
    ] {
        let sheet = Stylesheet::parse(&format!("@supports {condition} {{ a {{ top: 0 }} }}"));
        assert_eq!(!sheet.rules.is_empty(), holds, "{condition}");
    }
}
