//! Custom properties and what is inherited past elements that say nothing: values at the innermost of three boxes.

use stilk_engine::cascade::defaults::Browser as Defaults;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::{Document, Element};

/// What a longhand comes to at `.inner`, which stands in `.middle`, which stands in `.outer`.
#[track_caller]
fn value(css: &str, longhand: L) -> String {
    let mut document = Document::new();
    let html = document.append_element(Document::ROOT, Element::html("html"));
    let mut at = document.append_element(html, Element::html("body"));
    for class in ["outer", "middle", "inner"] {
        let mut element = Element::html("div");
        element.set("class", class);
        at = document.append_element(at, element);
    }
    let parsed = Stylesheet::parse(css);
    let engine = Engine::new(Defaults::Chromium.sheet(), &[&parsed], Media::default());
    let styles = engine.styles(&document, &Forced::default());
    resolved(styles.element(at).unwrap(), longhand).unwrap_or_else(|reason| format!("unknown: {reason:?}"))
}

/// What a longhand comes to with each of these sheets.
#[track_caller]
fn values(longhand: L, cases: &[(&str, &str)]) {
    for (css, expected) in cases {
        assert_eq!(value(css, longhand), *expected, "{css}");
    }
}

#[test]
fn a_reference_is_replaced_wherever_it_stands() {
    values(
        L::Order,
        &[
            (".inner { --n: 3; order: var(--n); }", "3"),
            (".inner { --n: 3; order: calc(1 + var(--n) * (var(--n) - 1)); }", "7"),
            (".inner { --n: 3; order: calc( /* one */ 1 /* and */ + /* more */ var( --n /* it */ ) ); }", "4"),
            (".inner { --n: 3; order: max(1, min(var(--n), 2)); }", "2"),
            (".inner { --n: 3; --m: calc(var(--n) * 2); order: var(--m); }", "6"),
            (".inner { order: var(--none, 5); }", "5"),
            (".inner { order: var(--none, var(--other, calc(2 * (1 + 1)))); }", "4"),
            (".inner { order: 1; order: var(--none); }", "0"),
            (".inner { --n: ; order: calc(2 var(--n)); }", "2"),
        ],
    );
}

#[test]
fn a_custom_property_goes_past_elements_that_do_not_set_it() {
    values(
        L::Order,
        &[
            (".outer { --n: 3; } .inner { order: var(--n); }", "3"),
            (".outer { --n: 3; } .middle { --m: 1; } .inner { order: calc(var(--n) + var(--m)); }", "4"),
            // References are replaced where they stand, and go down as what they came to.
            (".outer { --n: 3; --m: var(--n); } .middle { --n: 9; } .inner { order: var(--m); }", "3"),
            (".outer { --n: 3; } .middle { --n: inherit; } .inner { order: var(--n); }", "3"),
            (".outer { --n: 3; } .middle { --n: INITIAL; } .inner { order: var(--n, 8); }", "8"),
            (".outer { --n: 3; } .middle { --n: unset; } .inner { order: var(--n); }", "3"),
            (
                "@layer { .middle { --n: 4; } } .outer { --n: 3; } .middle { --n: revert-layer; } .inner { order: var(--n); }",
                "4",
            ),
        ],
    );
}

#[test]
fn a_typed_property_that_does_not_inherit_stays_where_it_is_set() {
    let typed =
        |inherits: bool| format!("@property --n {{ syntax: \"<integer>\"; inherits: {inherits}; initial-value: 7; }}");
    for (inherits, css, expected) in [
        (true, ".outer { --n: 3; } .inner { order: var(--n); }", "3"),
        (false, ".outer { --n: 3; } .inner { order: var(--n); }", "7"),
        (false, ".middle { --n: 3; } .inner { --n: inherit; order: var(--n); }", "3"),
        (false, ".outer { --n: 3; } .inner { --n: inherit; order: var(--n); }", "7"),
        (false, ".outer { --n: 3; } .middle { --n: inherit; } .inner { --n: inherit; order: var(--n); }", "3"),
        (true, ".inner { --n: calc(1 + 1); order: var(--n); }", "2"),
        // What does not fit its type is as if it were not there.
        (true, ".outer { --n: 3; } .inner { --n: red; order: var(--n); }", "3"),
        (false, ".outer { --n: 3; } .inner { --n: red; order: var(--n); }", "7"),
    ] {
        assert_eq!(value(&(typed(inherits) + css), L::Order), expected, "{inherits} {css}");
    }
}

#[test]
fn a_cycle_leaves_nothing_and_what_only_looks_like_one_is_none() {
    values(
        L::Order,
        &[
            (".inner { --n: var(--n); order: var(--n, 4); }", "4"),
            (".inner { --n: var(--m); --m: var(--n); order: var(--n, 4); }", "4"),
            (".outer { --n: 3; } .inner { --n: var(--n); order: var(--n, 4); }", "4"),
            (".inner { --n: var(--m, 1); --m: 2; order: var(--n); }", "2"),
            // A fallback that is not taken refers to nothing (measured in Chromium 156).
            (".inner { --n: var(--m, var(--n)); --m: 2; order: var(--n, 4); }", "2"),
            (".inner { --n: var(--m, var(--n)); order: var(--n, 4); }", "4"),
            (".inner { --n: var(--nope) var(--m); --m: var(--n, 5); order: var(--m, 4); }", "4"),
            (".inner { --k: var(--n, 5); --n: var(--m, var(--k)); --m: var(--n); order: var(--k, 4); }", "5"),
            (".outer { --n: var(--m); --m: 2; } .inner { --m: var(--n); order: var(--m); }", "2"),
        ],
    );
}

#[test]
fn a_font_size_that_nobody_sets_is_inherited_but_for_fonts_of_one_width() {
    values(
        L::FontSize,
        &[
            ("", "16px"),
            (".outer { font-size: 20px; }", "20px"),
            (".outer { font-size: 2em; } .middle { font-size: 50%; }", "16px"),
            // Browsers have a smaller default size for these, where no size was asked for.
            (".inner { font-family: monospace; }", "13px"),
            (".outer { font-family: monospace; }", "13px"),
            (".outer { font-family: monospace; } .inner { font-family: serif; }", "16px"),
            (".outer { font-size: 20px; } .inner { font-family: monospace; }", "20px"),
            (".outer { font-family: monospace; font-size: 20px; }", "20px"),
            (".outer { font-family: monospace, serif; }", "16px"),
            (".outer { font-size: large; } .inner { font-family: monospace; }", "16px"),
        ],
    );
}

#[test]
fn the_last_declaration_that_sets_a_longhand_wins_whatever_stands_around_it() {
    values(
        L::PaddingTop,
        &[
            (".inner { padding-top: 1px; padding: 2px; color: red; }", "2px"),
            (".inner { padding: 2px; padding-top: 1px; margin: 0; }", "1px"),
            (".inner { padding: 2px; padding-block: 3px; padding-inline: 4px; }", "3px"),
            (".inner { padding: 2px; } div.inner { margin: 0; }", "2px"),
            ("@layer a, b; @layer b { .inner { padding: 2px; } } @layer a { div.inner { padding: 3px; } }", "2px"),
            (".inner { padding: 2px !important; padding: 3px; } div.inner { padding: 4px; }", "2px"),
            (".inner { padding: 5px; } div.inner { padding: 6px; padding: var(--none); }", "0px"),
            (".inner { writing-mode: vertical-rl; padding: 2px; padding-inline-start: 9px; }", "9px"),
            (".inner { writing-mode: vertical-rl; padding-inline-start: 9px; padding: 2px; }", "2px"),
            (".inner { all: unset; padding-top: 3px; }", "3px"),
            (".inner { padding-top: 3px; all: unset; }", "0px"),
        ],
    );
}
