//! Indented CSS text that remembers where its declarations came from.

use super::Written;
use crate::source::Span;

/// Writes lines, blocks and declarations.
#[derive(Debug, Default)]
pub struct Writer {
    text: String,
    depth: usize,
    origins: Vec<(u32, Span)>,
}

impl Writer {
    fn indent(&mut self) {
        for _ in 0..self.depth {
            self.text.push_str("  ");
        }
    }

    /// One line.
    pub fn line(&mut self, line: &str) {
        self.indent();
        self.text.push_str(line);
        self.text.push('\n');
    }

    /// An empty line.
    pub fn blank(&mut self) {
        self.text.push('\n');
    }

    /// `prelude {`
    pub fn open(&mut self, prelude: &str) {
        self.line(&format!("{prelude} {{"));
        self.depth += 1;
    }

    /// `}`
    pub fn close(&mut self) {
        self.depth -= 1;
        self.line("}");
    }

    /// `name: value;`
    pub fn declaration(&mut self, name: &str, value: &str, origin: Option<Span>) {
        self.indent();
        if let Some(span) = origin {
            self.origins.push((self.text.len() as u32, span));
        }
        // An empty custom property is written with a space, which all parsers take for a value.
        self.text.push_str(&format!("{name}: {value};\n"));
    }

    /// Where the text ends now.
    pub fn mark(&self) -> usize {
        self.text.len()
    }

    /// Goes back to a mark, leaving so many blocks that were opened since.
    pub fn undo(&mut self, mark: usize, blocks: usize) {
        self.text.truncate(mark);
        self.depth -= blocks;
        self.origins.retain(|(offset, _)| (*offset as usize) < mark);
    }

    /// The whole.
    pub fn finish(self) -> Written {
        Written { text: self.text, origins: self.origins }
    }
}
