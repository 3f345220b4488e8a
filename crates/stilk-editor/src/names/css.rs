//! Names in plain CSS and HTML: identifiers of custom properties, words of classes.

use std::ops::Range;

/// Whether a character can stand in an identifier.
pub fn is_name(c: char) -> bool {
    c.is_alphanumeric() || c == '-' || c == '_'
}

/// Every identifier in a text, with its place.
pub fn identifiers(text: &str) -> impl Iterator<Item = (Range<usize>, &str)> {
    let mut from = 0;
    std::iter::from_fn(move || {
        let start = from + text[from..].find(is_name)?;
        let end = text[start..].find(|c| !is_name(c)).map_or(text.len(), |at| start + at);
        from = end;
        Some((start..end, &text[start..end]))
    })
}
