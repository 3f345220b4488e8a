//! Indented CSS text that remembers where its declarations came from.

use super::Written;
use stilk_text::source::Span;

/// Writes lines, blocks and declarations.
#[derive(Debug, Default)]
pub struct Writer {
    /// Whether comments, indents and line breaks are left out.
    compact: bool,
    text: String,
    depth: usize,
    origins: Vec<(u32, Span)>,
}

impl Writer {
    /// A writer; a compact one leaves out comments, indents and line breaks.
    pub fn new(compact: bool) -> Writer {
        Writer { compact, ..Writer::default() }
    }

    fn indent(&mut self) {
        if self.compact {
            return;
        }
        for _ in 0..self.depth {
            self.text.push_str("  ");
        }
    }

    fn end_line(&mut self) {
        if !self.compact {
            self.text.push('\n');
        }
    }

    /// One line.
    pub fn line(&mut self, line: &str) {
        self.indent();
        self.text.push_str(line);
        self.end_line();
    }

    /// A comment on a line of its own; the text cannot end it early.
    pub fn comment(&mut self, text: &str) {
        if !self.compact {
            self.line(&format!("/* {} */", text.replace("*/", "* /")));
        }
    }

    /// An empty line.
    pub fn blank(&mut self) {
        self.end_line();
    }

    /// `prelude {`
    pub fn open(&mut self, prelude: &str) {
        self.line(&if self.compact { format!("{prelude}{{") } else { format!("{prelude} {{") });
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
        // The space stays where a custom property is empty: all parsers take it for a value.
        let space = if self.compact && !value.is_empty() { "" } else { " " };
        self.text.push_str(&format!("{name}:{space}{value};"));
        self.end_line();
    }

    /// Where the text ends now.
    pub fn mark(&self) -> usize {
        self.text.len()
    }

    /// What was written since a mark.
    pub fn since(&self, mark: usize) -> &str {
        &self.text[mark..]
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
