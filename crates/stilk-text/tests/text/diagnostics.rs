//! What is said, once and in order.

use stilk_text::diagnostic::{Diagnostic, Diagnostics, Level, clipped, count, grouped, list, nearest, unknown_name};
use stilk_text::source::{Name, Sources, Span};

#[test]
fn the_same_words_about_the_same_place_are_said_once_and_places_are_in_order() {
    let mut sources = Sources::default();
    let file = sources.add("a", "0123456789");
    let mut all = Diagnostics::default();
    for at in [5, 2, 5] {
        all.push(Diagnostic::error("x/y", Span::new(file, at, at + 1), "no"));
    }
    all.push(Diagnostic::error("x/y", None, "nowhere"));
    let starts: Vec<Option<u32>> = all.into_sorted().iter().map(|d| d.span.map(|span| span.start)).collect();
    assert_eq!(starts, [None, Some(2), Some(5)]);
}

#[test]
fn one_cause_in_many_places_is_told_once_with_all_of_them() {
    let mut sources = Sources::default();
    let file = sources.add("a", "0123456789");
    let mut all = Diagnostics::default();
    for at in [1, 4, 4, 7] {
        all.push_place(Diagnostic::error("x/y", Span::new(file, at, at + 1), "the same"));
    }
    all.push_place(Diagnostic::error("x/y", Span::new(file, 8, 9), "another"));
    let all = all.into_sorted();
    assert_eq!(all.len(), 2);
    assert_eq!(all[0].related.iter().map(|r| r.span.start).collect::<Vec<_>>(), [4, 7]);
    assert!(all[1].related.is_empty());
}

#[test]
fn errors_after_a_mark_are_told_from_those_before() {
    let mut all = Diagnostics::default();
    assert!(!all.has_errors());
    all.push(Diagnostic::error("x/y", None, "first"));
    let mark = all.mark();
    all.push(Diagnostic::new(Level::Note, "x/y", None, "only a note"));
    assert!(all.has_errors() && !all.has_errors_since(mark));
    all.push(Diagnostic::error("x/y", None, "second"));
    assert!(all.has_errors_since(mark));
    assert_eq!(all.iter().count(), 3);
}

#[test]
fn a_name_that_was_meant_is_offered_and_else_what_there_is() {
    let mut sources = Sources::default();
    let file = sources.add("a", "outlne");
    let name = |text: &str| Name { value: text.to_owned(), span: Span::new(file, 0, 6) };
    let known = ["outline", "bare", "strong"];
    let said = unknown_name("sheet/option", "option {} of `button`", &name("outlne"), known);
    assert_eq!(said.message, "there is no option `outlne` of `button`");
    assert_eq!(said.mend.as_deref(), Some("write `outline`"));
    let said = unknown_name("sheet/option", "option", &name("q"), known);
    assert_eq!(said.message, "there is no option `q`");
    assert_eq!(said.mend.as_deref(), Some("write one of: outline, bare, strong"));
    assert_eq!(unknown_name("sheet/option", "option", &name("q"), []).mend, None);
    // What nobody types is held against nothing.
    assert_eq!(nearest(&"x".repeat(300), ["x"]), None);
    // Of names as near as each other the first by the alphabet, so that it does not depend on their order.
    assert_eq!(nearest("colr", ["color", "colar"]), nearest("colr", ["colar", "color"]));
}

#[test]
fn words_for_numbers_and_lists() {
    for (number, text) in [(0, "0"), (7, "7"), (999, "999"), (1000, "1,000"), (1_234_567, "1,234,567")] {
        assert_eq!(grouped(number), text);
    }
    assert_eq!((count(1, "case").as_str(), count(1620, "case").as_str()), ("1 case", "1,620 cases"));
    assert_eq!((clipped("abc", 3).as_str(), clipped("abcd", 3).as_str()), ("abc", "ab…"));
    assert_eq!(clipped("äöü", 2), "ä…");
    let many: Vec<String> = (0..20).map(|n| format!("n{n}")).collect();
    let many: Vec<&str> = many.iter().map(String::as_str).collect();
    assert!(list(&many).ends_with("n15 and 4 more"), "{}", list(&many));
    assert_eq!(list(&["a", "b"]), "a, b");
    assert_eq!([Level::Error, Level::Warning, Level::Note].map(Level::word), ["error", "warning", "note"]);
}
