//! Pages as a whole: what stands beside what, and what elements share.

use std::rc::Rc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Forced, Media, Styled};
use stilk_engine::css::property::Longhand;
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_engine::page::Page;

/// Asks for the values of elements by id.
fn values(css: &str, body: &str, asked: &[(&str, Longhand)]) -> Vec<Result<String, &'static str>> {
    values_in(Media::default(), css, body, asked)
}

fn values_in(media: Media, css: &str, body: &str, asked: &[(&str, Longhand)]) -> Vec<Result<String, &'static str>> {
    let page = Page::parse(&format!("<!doctype html><body>{body}"));
    let defaults = SourceSheet::defaults(Browser::Chromium);
    let sheet = SourceSheet::new("page.css", css);
    let inspection = Inspector::new(&page.document, &defaults, vec![&sheet], media, &Forced::default());
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
        ("b { float: left } pre { align-content: start } div { width: 500px }".to_owned(), "<b>y</b>"),
    ];
    for (css, beside) in floating {
        let found = values(&css, &body(beside), &asked);
        assert_eq!(found, [Err("the used size needs a layout"), Ok("500px".into())], "{beside}");
    }
}

#[test]
fn a_padding_never_comes_to_less_than_nothing() {
    let css = "div { width: 100px } p { padding: calc(10% - 30px); margin: calc(10% - 30px) }";
    let found = values(css, "<div><p id=t>x</div>", &[("t", Longhand::PaddingTop), ("t", Longhand::PaddingLeft)]);
    assert_eq!(found, [Ok("0px".into()), Ok("0px".into())]);
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

#[test]
fn forced_colours_are_the_users_own() {
    let forced = |dark: bool| Media { forced_colors: true, dark, ..Media::default() };
    let ask = |dark: bool, css: &str, body: &str, longhand: Longhand| {
        values_in(forced(dark), css, body, &[("t", longhand)]).remove(0)
    };
    use Longhand as L;
    for (css, body, longhand, light, night) in [
        ("p { color: red }", "<p id=t>x", L::Color, "rgb(0, 0, 0)", "rgb(255, 255, 255)"),
        ("", "<a href=x id=t>x</a>", L::Color, "rgb(0, 0, 159)", "rgb(255, 255, 0)"),
        ("p { color: GrayText }", "<p id=t>x", L::Color, "rgb(96, 0, 0)", "rgb(63, 242, 63)"),
        (
            "p { --c: red; border: 1px solid var(--c) }",
            "<p id=t>x",
            L::BorderTopColor,
            "rgb(0, 0, 0)",
            "rgb(255, 255, 255)",
        ),
        (
            "p { background: rgb(9 9 9 / .5) }",
            "<p id=t>x",
            L::BackgroundColor,
            "rgba(255, 255, 255, 0.5)",
            "rgba(0, 0, 0, 0.5)",
        ),
        ("p { background: Mark }", "<p id=t>x", L::BackgroundColor, "rgb(255, 255, 0)", "rgb(255, 255, 0)"),
        ("p { background: linear-gradient(red, blue) }", "<p id=t>x", L::BackgroundImage, "none", "none"),
        ("p { box-shadow: 0 0 3px red }", "<p id=t>x", L::BoxShadow, "none", "none"),
        ("p { forced-color-adjust: none; color: red }", "<p id=t>x", L::Color, "rgb(255, 0, 0)", "rgb(255, 0, 0)"),
        ("button { color: GrayText }", "<button id=t>x", L::Color, "rgb(96, 0, 0)", "rgb(63, 242, 63)"),
        ("button { background: Mark }", "<button id=t>x", L::BackgroundColor, "rgb(255, 255, 0)", "rgb(255, 255, 0)"),
        (
            "p { border: 1px solid Mark } #t { border-color: red }",
            "<p id=t>x",
            L::BorderTopColor,
            "rgb(0, 0, 0)",
            "rgb(255, 255, 255)",
        ),
        ("div { color: Mark } p { color: red }", "<div><p id=t>x", L::Color, "rgb(0, 0, 0)", "rgb(255, 255, 255)"),
        // What inherits a colour that is replaced is in the user's own for it, and one that stays is inherited.
        (
            "p { color: red } #t { color: inherit }",
            "<p><a href=x id=t>x",
            L::Color,
            "rgb(0, 0, 159)",
            "rgb(255, 255, 0)",
        ),
        ("#t { color: inherit }", "<p><a href=x id=t>x", L::Color, "rgb(0, 0, 159)", "rgb(255, 255, 0)"),
        ("#t { color: initial }", "<p><a href=x id=t>x", L::Color, "rgb(0, 0, 159)", "rgb(255, 255, 0)"),
        (
            "p { color: CanvasText } #t { color: currentcolor }",
            "<p><a href=x id=t>x",
            L::Color,
            "rgb(0, 0, 0)",
            "rgb(255, 255, 255)",
        ),
        // Whether the edge is the platform's does not depend on what it draws.
        (
            "input { border: 1px solid red; background: blue }",
            "<input type=submit id=t>",
            L::BorderTopColor,
            "rgb(0, 0, 0)",
            "rgb(255, 255, 255)",
        ),
    ] {
        assert_eq!(ask(false, css, body, longhand).as_deref(), Ok(light), "{css}");
        assert_eq!(ask(true, css, body, longhand).as_deref(), Ok(night), "{css}, dark");
    }
    // What is inherited past the user's colours, and what is painted in another colour than told.
    assert!(ask(false, "p { forced-color-adjust: none }", "<p id=t>x", L::Color).is_err());
    assert!(ask(false, "", "<p id=t>x", L::TextDecorationColor).is_err());
    // Which of two is meant is the page's colour scheme to say, not the user's palette.
    let either = |scheme: &str| format!("#t {{ color-scheme: {scheme}; color: light-dark(red, CanvasText) }}");
    assert_eq!(ask(true, &either("light"), "<a href=x id=t>x", L::Color).as_deref(), Ok("rgb(255, 255, 0)"));
    assert_eq!(ask(false, &either("dark"), "<a href=x id=t>x", L::Color).as_deref(), Ok("rgb(0, 0, 0)"));
}

#[test]
fn what_a_shadow_tree_has_a_say_in_is_unknown() {
    let tree =
        "<template shadowrootmode=open><style>:host { color: red }</style><p id=in>x</p><slot></slot></template>";
    let asked = [("h", Longhand::Color), ("s", Longhand::Color), ("after", Longhand::Color)];
    let found = values("", &format!("<div id=h>{tree}<b id=s>x</b></div><p id=after>x"), &asked);
    assert!(found[0].is_err() && found[1].is_err() && found[2].is_ok(), "{found:?}");
    // What may have none has none.
    let found = values("", &format!("<ul id=h>{tree}<li id=s>x</ul><p id=after>x"), &asked);
    assert!(found.iter().all(Result::is_ok), "{found:?}");
}

#[test]
fn a_state_of_a_button_that_the_platform_draws_ends_under_forced_colours() {
    let page = Page::parse("<!doctype html><p><input type=submit id=t>");
    let css = "input { border: 1px solid red } input:hover { border-color: blue } input:focus { color: red }";
    let (defaults, sheet) = (SourceSheet::defaults(Browser::Chromium), SourceSheet::new("page.css", css));
    for state in ["#t:hover", "#t:focus", "#t:active"] {
        let mut forced = Forced::default();
        stilk_engine::inspect::force(&page.document, state, &mut forced).expect("a state");
        let media = Media { forced_colors: true, ..Media::default() };
        let inspection = Inspector::new(&page.document, &defaults, vec![&sheet], media, &forced);
        let style = inspection.style(Styled::element(page.by_id("t").expect("an element"))).expect("a style");
        assert!(style.get(Longhand::BorderTopColor).is_ok(), "{state}");
    }
}

#[test]
fn what_is_in_an_element_that_browsers_draw_is_unknown() {
    for body in ["<progress><b id=t>x", "<video><b id=t>x", "<canvas><b id=t>x", "<select><button id=t>x"] {
        assert!(values("", body, &[("t", Longhand::Display)])[0].is_err(), "{body}");
    }
    for body in ["<select><option id=t>x", "<object><b id=t>x", "<p><video></video><b id=t>x", "<progress id=t>"] {
        assert!(values("", body, &[("t", Longhand::Display)])[0].is_ok(), "{body}");
    }
}

#[test]
fn what_one_types_into_shows_that_it_has_the_focus() {
    let page = Page::parse(
        "<!doctype html><input id=a><button id=b>x</button><input id=c type=CHECKBOX><p id=d contenteditable>",
    );
    for (id, shows) in [("a", true), ("b", false), ("c", false), ("d", true)] {
        let mut forced = Forced::default();
        stilk_engine::inspect::force(&page.document, &format!("#{id}:focus"), &mut forced).expect("a state");
        let is_shown = forced.iter().any(|(_, class)| *class == stilk_engine::cascade::PseudoClass::FocusVisible);
        assert_eq!(is_shown, shows, "{id}");
    }
}
