//! Members that are put into JSON files and declarations that are put into sheets, in the layout that is there.

use stilk_text::diagnostic::Edit;
use stilk_text::json::Node;
use stilk_text::source::Span;

/// The white space before the first thing on the line of a byte.
pub fn indent_of(text: &str, at: usize) -> &str {
    let start = text[..at].rfind('\n').map_or(0, |newline| newline + 1);
    let line = &text[start..];
    &line[..line.len() - line.trim_start_matches([' ', '\t']).len()]
}

/// Whether nothing but white space stands before a byte on its line.
pub fn begins_line(text: &str, at: usize) -> bool {
    let start = text[..at].rfind('\n').map_or(0, |newline| newline + 1);
    text[start..at].trim().is_empty()
}

/// A member as the last of an object.
pub fn member(text: &str, object: &Node, name: &str, value: &str) -> Edit {
    let key = format!("\"{}\"", name.replace('\\', "\\\\").replace('"', "\\\""));
    let place = |at: usize| Span::new(object.span.file, at, at);
    match object.entries().last() {
        Some((key_name, last)) => {
            let end = last.span.range().end;
            let key_start = key_name.span.range().start;
            // The key's place may be without its quotes.
            let key_start = if text[..key_start].ends_with('"') { key_start - 1 } else { key_start };
            let separator = match begins_line(text, key_start) {
                true => format!(",\n{}", indent_of(text, key_start)),
                false => ", ".to_owned(),
            };
            Edit { span: place(end), text: format!("{separator}{key}: {value}") }
        }
        None => {
            let start = object.span.range().start + 1;
            let inner = object.span.range().end - 1;
            let space = if text[start..inner].is_empty() { " " } else { "" };
            Edit { span: place(start), text: format!(" {key}: {value}{space}") }
        }
    }
}
