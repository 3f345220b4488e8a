//! Places of the protocol: lines and columns from 0, columns in code units of UTF-16 or in bytes, files as URIs.

use lsp_types::{Position, Range, Uri};
use std::str::FromStr;
use stilk_text::source::Span;

/// What columns count; the client chooses it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Encoding {
    /// Code units of UTF-16: what every client knows.
    #[default]
    Utf16,
    /// Bytes of UTF-8.
    Utf8,
}

/// A text with the beginnings of its lines.
#[derive(Debug, Clone, Copy)]
pub struct Lines<'t> {
    text: &'t str,
    encoding: Encoding,
}

impl<'t> Lines<'t> {
    /// The lines of a text.
    pub fn new(text: &'t str, encoding: Encoding) -> Lines<'t> {
        Lines { text, encoding }
    }

    /// The byte at a position; the end of the line or of the text where that is not so long.
    pub fn offset(&self, position: Position) -> usize {
        let mut start = 0;
        for _ in 0..position.line {
            match self.text[start..].find('\n') {
                Some(at) => start += at + 1,
                None => return self.text.len(),
            }
        }
        let line = &self.text[start..];
        let line = line.find('\n').map_or(line, |end| &line[..end]);
        let line = line.strip_suffix('\r').unwrap_or(line);
        let wanted = position.character as usize;
        let mut column = 0;
        for (at, c) in line.char_indices() {
            if column >= wanted {
                return start + at;
            }
            column += self.units(c);
        }
        start + line.len()
    }

    /// The position of a byte.
    pub fn position(&self, offset: usize) -> Position {
        let mut offset = offset.min(self.text.len());
        while !self.text.is_char_boundary(offset) {
            offset -= 1;
        }
        let before = &self.text[..offset];
        let line = before.bytes().filter(|byte| *byte == b'\n').count();
        let start = before.rfind('\n').map_or(0, |at| at + 1);
        let column: usize = before[start..].chars().map(|c| self.units(c)).sum();
        Position { line: line as u32, character: column as u32 }
    }

    /// The range of bytes.
    pub fn range(&self, bytes: std::ops::Range<usize>) -> Range {
        Range { start: self.position(bytes.start), end: self.position(bytes.end) }
    }

    /// The range of a place.
    pub fn of(&self, span: Span) -> Range {
        self.range(span.range())
    }

    fn units(&self, c: char) -> usize {
        match self.encoding {
            Encoding::Utf16 => c.len_utf16(),
            Encoding::Utf8 => c.len_utf8(),
        }
    }
}

/// The path of a file by its URI; nothing for what is no file.
pub fn path_of(uri: &Uri) -> Option<String> {
    let rest = uri.as_str().strip_prefix("file://")?;
    // A host before the path is this machine's own, if any.
    let path = &rest[rest.find('/')?..];
    let mut bytes = Vec::with_capacity(path.len());
    let mut left = path.bytes();
    while let Some(byte) = left.next() {
        if byte != b'%' {
            bytes.push(byte);
            continue;
        }
        let digits = [left.next()?, left.next()?];
        bytes.push(u8::from_str_radix(std::str::from_utf8(&digits).ok()?, 16).ok()?);
    }
    String::from_utf8(bytes).ok()
}

/// The URI of a file by its absolute path.
pub fn uri_of(path: &str) -> Option<Uri> {
    let mut uri = String::from("file://");
    for byte in path.bytes() {
        match byte {
            b'/' | b'-' | b'.' | b'_' | b'~' | b'0'..=b'9' | b'a'..=b'z' | b'A'..=b'Z' => uri.push(byte as char),
            _ => uri.push_str(&format!("%{byte:02X}")),
        }
    }
    Uri::from_str(&uri).ok()
}

/// An absolute path without `.` and `..`.
pub fn plain(path: &str) -> String {
    let mut kept: Vec<&str> = Vec::new();
    for part in path.split('/') {
        match part {
            "." | "" => {}
            ".." => drop(kept.pop()),
            part => kept.push(part),
        }
    }
    format!("/{}", kept.join("/"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn columns_are_those_of_the_client() {
        let text = "a\n/* ⛴🏝 مرفأ */ color\r\nend";
        let at = text.find("color").unwrap();
        for (encoding, column) in [(Encoding::Utf16, 15), (Encoding::Utf8, at as u32 - 2)] {
            let lines = Lines::new(text, encoding);
            let position = Position { line: 1, character: column };
            assert_eq!((lines.position(at), lines.offset(position)), (position, at), "{encoding:?}");
            // Beyond the end of a line is its end.
            assert_eq!(lines.offset(Position { line: 1, character: 999 }), text.find('\r').unwrap());
            assert_eq!(lines.offset(Position { line: 9, character: 0 }), text.len());
        }
    }

    #[test]
    fn uris_and_paths_lead_to_each_other() {
        let path = "/home/ö x/a#b/é%.stilk";
        let uri = uri_of(path).unwrap();
        assert_eq!(uri.as_str(), "file:///home/%C3%B6%20x/a%23b/%C3%A9%25.stilk");
        assert_eq!(path_of(&uri).as_deref(), Some(path));
        assert_eq!(path_of(&Uri::from_str("untitled:x").unwrap()), None);
    }
}
