//! Pages as a whole: what stands beside what, and what elements share.

use std::rc::Rc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Forced, Media, Styled};
use stilk_engine::css::property::Longhand;
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_engine::page::Page;

/// Asks for the values of elements by id.
fn values(css: &str, body: &str, asked: &[(&str, Longhand)]) -> Vec<Result<String, &'static str>> {
    let page = Page::parse(&format!("<!doctype html><body>{body}"));
    let defaults = SourceSheet::defaults(Browser::Chromium);
    let sheet = SourceSheet::new("page.css", css);
    let inspection = Inspector::new(&page.document, &defaults, vec![&sheet], Media::default(), &Forced::default());
    let value = |(id, longhand): &(&str, Longhand)| {
        let style = inspection.style(Styled::element(page.by_id(id).expect("an element"))).expect("a style");
        stilk_engine::cascade::resolved::resolved(&style, *longhand).map_err(|unknown| unknown.0)
    };
    asked.iter().map(value).collect()
}

#[test]
fn what_keeps_floats_out_is_as_wide_as_nobody_knows_where_something_floats() {
    let css = "pre { overflow: auto } div { width: 500px }";
    let asked = [("p", Longhand::Width), ("q", Longhand::Width)];
    let body = |beside: &str| format!("<div>{beside}<pre id=p>x</pre><p id=q>x</div>");
    let alone = values(css, &body("<b>y</b>"), &asked);
    assert_eq!(alone, [Ok("500px".into()), Ok("500px".into())]);
    let floating = [
        (css.to_owned() + " b { float: left }", "<b>y</b>"),
        (css.to_owned(), "<b style='float: right'>y</b>"),
        (css.to_owned(), "<img align=left>"),
    ];
    for (css, beside) in floating {
        let found = values(&css, &body(beside), &asked);
        assert_eq!(found, [Err("the used size needs a layout"), Ok("500px".into())], "{beside}");
    }
}

#[test]
fn a_button_that_is_an_input_is_the_pages_as_soon_as_it_is_painted() {
    let line = |css: &str| {
        let css = format!("input {{ line-height: 20px }} {css}");
        values(&css, "<input type=submit id=t>", &[("t", Longhand::LineHeight)]).remove(0)
    };
    assert_eq!(line("").as_deref(), Ok("normal"));
    assert_eq!(line("input { color: red; padding: 3px }").as_deref(), Ok("normal"));
    assert_eq!(line("input { border-radius: 3px }").as_deref(), Ok("20px"));
    assert_eq!(line("@media (width < 1px) { input { background: red } }").as_deref(), Ok("normal"));
    assert_eq!(line("input { appearance: none }").as_deref(), Ok("20px"));
}

#[test]
fn elements_to_which_the_same_applies_share_a_style_and_no_others_do() {
    let page = Page::parse(
        "<!doctype html><table><tr><td id=a>x<td id=b>x<td id=c bgcolor=red>x<td id=d class=k>x<td id=e style='top: 0'>x</table>",
    );
    let defaults = SourceSheet::defaults(Browser::Chromium);
    let sheet = SourceSheet::new("page.css", ".k { color: red } td:first-child { left: 0 }");
    let other = SourceSheet::new("page.css", ".k { color: red }");
    let same = |sheet: &SourceSheet, one: &str, two: &str| {
        let inspection = Inspector::new(&page.document, &defaults, vec![sheet], Media::default(), &Forced::default());
        let style = |id| inspection.style(Styled::element(page.by_id(id).expect("an element"))).expect("a style");
        Rc::ptr_eq(&style(one), &style(two))
    };
    assert!(same(&other, "a", "b") && !same(&sheet, "a", "b"));
    for different in ["c", "d", "e"] {
        assert!(!same(&other, "b", different), "{different}");
    }
}
