//! Lines and columns.

use stilk_text::source::{Position, Sources, Span};

#[test]
fn lines_and_columns_count_characters_from_one() {
    let mut sources = Sources::default();
    let file = sources.add("a.css", "a {\n  é: 😀x;\n\n}");
    for (byte, line, column) in [
        (0, 1, 1),
        (2, 1, 3),
        (3, 1, 4),
        (4, 2, 1),
        (6, 2, 3),
        (8, 2, 4),
        (10, 2, 6),
        (14, 2, 7),
        (17, 3, 1),
        (18, 4, 1),
    ] {
        let place = sources.position(Span::new(file, byte, byte + 1));
        assert_eq!(place, Position { line, column }, "byte {byte}");
    }
    // Editors count what takes four bytes twice, from 0.
    let (line, column) = sources.position_in_utf16(Span::new(file, 14, 15));
    assert_eq!((line, column), (1, 7));
    assert_eq!(sources.place(Span::new(file, 4, 5)), "a.css:2");
}

#[test]
fn a_place_behind_the_text_is_at_its_end() {
    let mut sources = Sources::default();
    let file = sources.add("a.css", "ab\n");
    assert_eq!(sources.position(Span::new(file, 3, 3)), Position { line: 2, column: 1 });
    let empty = sources.add("b.css", "");
    assert_eq!(sources.position(Span::new(empty, 0, 0)), Position { line: 1, column: 1 });
    assert_eq!(sources.file(empty).line_start(1), 0);
    assert_eq!(sources.file(file).line_start(2), 3);
    assert_eq!(sources.file(file).line_start(99), 3);
}

#[test]
fn columns_of_a_line_as_long_as_the_file_are_right() {
    let mut sources = Sources::default();
    let text = "é".repeat(5000) + "x";
    let file = sources.add("long.css", text.as_str());
    for character in [0usize, 1, 1023, 1024, 1025, 4999, 5000] {
        let place = sources.position(Span::new(file, character * 2, character * 2 + 1));
        assert_eq!(place, Position { line: 1, column: character + 1 });
    }
}

#[test]
fn spans_join_and_end() {
    let mut sources = Sources::default();
    let file = sources.add("a", "0123456789");
    let (one, other) = (Span::new(file, 2, 4), Span::new(file, 6, 9));
    assert_eq!(one.to(other), Span::new(file, 2, 9));
    assert_eq!(other.to(one), Span::new(file, 2, 9));
    assert_eq!(one.end(), Span::new(file, 4, 4));
    assert_eq!(sources.text(one.to(other)), "2345678");
    assert_eq!(one.range(), 2..4);
}

#[test]
fn a_text_that_was_forgotten_comes_back_with_its_places() {
    let mut sources = Sources::default();
    let text = "a\nbb\nccc";
    let file = sources.add("p.html", text);
    let place = sources.position(Span::new(file, 5, 6));
    sources.forget(file);
    assert_eq!(sources.file(file).text, "");
    assert_eq!(sources.find("p.html"), Some(file));
    sources.restore(file, text.to_owned());
    assert_eq!(sources.position(Span::new(file, 5, 6)), place);
    assert_eq!(sources.all().count(), 1);
}
