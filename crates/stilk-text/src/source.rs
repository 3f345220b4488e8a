//! Source texts and the places in them.
//!
//! A [`Span`] is small and `Copy`: a file and a byte range. Lines and columns are counted only when a person is
//! shown a place. The core never opens a file; it asks [`Files`] for text.

use std::fmt;
use std::sync::OnceLock;

/// Where the core gets text from. The program reads the disk, tests read memory.
pub trait Files {
    /// A file. `path` is relative to the project's folder and uses `/`. What is not below that folder is read only where
    /// it is below one of those that are `allowed`; links are followed before that is asked.
    ///
    /// # Errors
    /// It is not there, no regular file, larger than [`MAX_FILE_BYTES`], or somewhere else.
    fn read(&self, path: &str, allowed: &[String]) -> Result<FileText, FileError>;
    /// The names (not paths) of the files directly in a folder, in any order; folders as `read` has them.
    ///
    /// # Errors
    /// As of `read`.
    fn list(&self, folder: &str, allowed: &[String]) -> Result<Vec<String>, FileError>;
}

/// The contents of a file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FileText {
    /// Its bytes.
    pub bytes: Vec<u8>,
    /// Whether it is outside of the project: what it says is not shown.
    pub is_outside: bool,
}

impl FileText {
    /// A file of the project's own.
    pub fn own(bytes: impl Into<Vec<u8>>) -> FileText {
        FileText { bytes: bytes.into(), is_outside: false }
    }
}

/// Why a file could not be read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum FileError {
    /// There is no such file or folder.
    Missing,
    /// It is outside of the project and of all folders that are allowed.
    Outside,
    /// It is a folder, a device, a pipe.
    NotRegular,
    /// It is larger than what is read.
    TooLarge,
    /// Anything else, in the words of the system.
    Other(String),
}

impl fmt::Display for FileError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FileError::Missing => f.write_str("there is no such file"),
            FileError::Outside => f.write_str("it is outside of the project"),
            FileError::NotRegular => f.write_str("it is no regular file"),
            FileError::TooLarge => write!(f, "it is larger than {} MB", MAX_FILE_BYTES / 1024 / 1024),
            FileError::Other(words) => f.write_str(words),
        }
    }
}

/// The files of a project as they were when they were read, whatever the disk says by now.
pub struct AsRead<'s>(pub &'s Sources);

impl Files for AsRead<'_> {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        let source = self.0.file(self.0.find(path).ok_or(FileError::Missing)?);
        Ok(FileText { bytes: source.text.clone().into_bytes(), is_outside: source.is_outside })
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let inside = |path: &str| {
            let name = path.strip_prefix(folder)?.strip_prefix('/')?;
            (!name.contains('/')).then(|| name.to_owned())
        };
        Ok(self.0.all().filter_map(|source| inside(&source.path)).collect())
    }
}

/// Names one file of a [`Sources`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct FileId(u32);

impl FileId {
    /// Its place among the files of its [`Sources`].
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

/// A byte range in a file, carried by every value that came from one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Span {
    /// The file.
    pub file: FileId,
    /// First byte.
    pub start: u32,
    /// One past the last byte.
    pub end: u32,
}

impl Span {
    /// A span from byte offsets. Files are bounded to [`MAX_FILE_BYTES`], so offsets fit.
    pub fn new(file: FileId, start: usize, end: usize) -> Span {
        Span { file, start: start as u32, end: end as u32 }
    }

    /// The smallest span that covers both; `other` must be in the same file.
    pub fn to(self, other: Span) -> Span {
        Span { file: self.file, start: self.start.min(other.start), end: self.end.max(other.end) }
    }

    /// The place right after it, of no length.
    pub fn end(self) -> Span {
        Span { start: self.end, ..self }
    }

    /// The byte range.
    pub fn range(self) -> std::ops::Range<usize> {
        self.start as usize..self.end as usize
    }
}

/// A value and the place it was written at.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Spanned<T> {
    /// The value.
    pub value: T,
    /// Its place.
    pub span: Span,
}

/// A name and the place it was written at.
pub type Name = Spanned<String>;

impl Name {
    /// The name as text.
    pub fn as_str(&self) -> &str {
        &self.value
    }
}

/// A line and a column, both from 1; columns count characters.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Position {
    /// Line, from 1.
    pub line: usize,
    /// Column in characters, from 1.
    pub column: usize,
}

/// Larger source files are refused: nobody writes them, and bounded input keeps every pass bounded.
pub const MAX_FILE_BYTES: usize = 8 * 1024 * 1024;

/// All files of a project together; what lies beyond is refused.
pub const MAX_PROJECT_BYTES: usize = 32 * 1024 * 1024;

/// One source file.
#[derive(Debug)]
pub struct Source {
    /// Path relative to the project's folder, with `/`.
    pub path: String,
    /// The text.
    pub text: String,
    /// Whether it is outside of the project: no piece of it is shown.
    pub is_outside: bool,
    /// Where its lines begin.
    lines: Vec<u32>,
    /// What begins before every so many bytes: a line may be as long as the file.
    counts: OnceLock<Vec<Count>>,
}

/// How long a text is.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
struct Count {
    characters: usize,
    /// Code units of UTF-16.
    units: usize,
}

impl Count {
    fn of(bytes: &[u8]) -> Count {
        // All bytes of a character but its first begin so.
        let characters = bytes.iter().filter(|byte| **byte & 0xc0 != 0x80).count();
        // What takes four bytes takes two units.
        Count { characters, units: characters + bytes.iter().filter(|byte| **byte >= 0xf0).count() }
    }

    fn plus(self, other: Count) -> Count {
        Count { characters: self.characters + other.characters, units: self.units + other.units }
    }

    fn minus(self, other: Count) -> Count {
        Count { characters: self.characters - other.characters, units: self.units - other.units }
    }
}

/// So many bytes are counted at a time.
const COUNTED: usize = 2048;

/// All source files of a project, in the order they were read.
#[derive(Debug, Default)]
pub struct Sources {
    files: Vec<Source>,
}

impl Source {
    /// The byte offset at which a line begins; lines count from 1.
    pub fn line_start(&self, line: usize) -> usize {
        self.lines.get(line.saturating_sub(1)).map_or(self.text.len(), |start| *start as usize)
    }

    /// What begins before a byte.
    fn count_before(&self, at: usize) -> Count {
        let bytes = self.text.as_bytes();
        let known = self.counts.get_or_init(|| {
            let counts = bytes.chunks(COUNTED).scan(Count::default(), |all, chunk| {
                let before = *all;
                *all = all.plus(Count::of(chunk));
                Some(before)
            });
            counts.collect()
        });
        let before = known.get(at / COUNTED).copied().unwrap_or_default();
        before.plus(Count::of(&bytes[at / COUNTED * COUNTED..at]))
    }

    /// The line of a byte, from 1, and what of it is before.
    fn line_of(&self, at: usize) -> (usize, Count) {
        if self.text.is_empty() {
            // Of a text that is not kept the lines are.
            return (self.lines.partition_point(|line| *line as usize <= at).max(1), Count::default());
        }
        let mut start = at.min(self.text.len());
        while !self.text.is_char_boundary(start) {
            start -= 1;
        }
        let line = self.lines.partition_point(|line| *line as usize <= start);
        let line_start = self.lines[line - 1] as usize;
        let before = match start - line_start {
            near if near < COUNTED => Count::of(&self.text.as_bytes()[line_start..start]),
            _ => self.count_before(start).minus(self.count_before(line_start)),
        };
        (line, before)
    }
}

impl Sources {
    /// Adds a file and returns its id.
    pub fn add(&mut self, path: impl Into<String>, text: impl Into<String>) -> FileId {
        let text = text.into();
        let breaks = text.bytes().enumerate().filter(|(_, byte)| *byte == b'\n');
        let lines = std::iter::once(0).chain(breaks.map(|(at, _)| at as u32 + 1)).collect();
        self.files.push(Source { path: path.into(), text, is_outside: false, lines, counts: OnceLock::new() });
        FileId(self.files.len() as u32 - 1)
    }

    /// Drops a file's text; its lines are still counted.
    pub fn forget(&mut self, file: FileId) {
        let source = &mut self.files[file.0 as usize];
        source.text = String::new();
        source.counts = OnceLock::new();
    }

    /// Puts a text back that was dropped; it must be the same.
    pub fn restore(&mut self, file: FileId, text: String) {
        self.files[file.0 as usize].text = text;
    }

    /// Says that a file is outside of the project.
    pub fn set_outside(&mut self, id: FileId) {
        self.files[id.0 as usize].is_outside = true;
    }

    /// The file behind an id.
    pub fn file(&self, id: FileId) -> &Source {
        &self.files[id.0 as usize]
    }

    /// Every file that was read.
    pub fn all(&self) -> impl Iterator<Item = &Source> {
        self.files.iter()
    }

    /// The file with this path, if it was read.
    pub fn find(&self, path: &str) -> Option<FileId> {
        self.files.iter().position(|f| f.path == path).map(|i| FileId(i as u32))
    }

    /// The text a span covers.
    pub fn text(&self, span: Span) -> &str {
        self.file(span.file).text.get(span.range()).unwrap_or("")
    }

    /// Line and column of a span's start.
    pub fn position(&self, span: Span) -> Position {
        let (line, before) = self.file(span.file).line_of(span.start as usize);
        Position { line, column: before.characters + 1 }
    }

    /// Line and column of a span's start, both from 0, the column in code units of UTF-16.
    pub fn position_in_utf16(&self, span: Span) -> (usize, usize) {
        let (line, before) = self.file(span.file).line_of(span.start as usize);
        (line - 1, before.units)
    }

    /// `path:line`, as comments in the written stylesheet name a place.
    pub fn place(&self, span: Span) -> String {
        format!("{}:{}", self.file(span.file).path, self.position(span).line)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn columns_count_characters_not_bytes() {
        let mut sources = Sources::default();
        let file = sources.add("a", "eins\nüü x\n");
        let at = sources.file(file).text.find('x').unwrap();
        assert_eq!(sources.position(Span::new(file, at, at + 1)), Position { line: 2, column: 4 });
        assert_eq!(sources.place(Span::new(file, at, at + 1)), "a:2");
    }

    #[test]
    fn columns_of_long_lines_are_those_of_short_ones() {
        let mut sources = Sources::default();
        let line: String = (0..3000).map(|at| ['a', 'ü', '→', '𝄞'][at % 4]).collect();
        let text = format!("ü\n{line}\n{line}");
        let file = sources.add("a", text.as_str());
        for (column, (at, _)) in line.char_indices().enumerate() {
            for (before, lines) in [(3, 2), (4 + line.len(), 3)] {
                let position = sources.position(Span::new(file, before + at, before + at + 1));
                assert_eq!(position, Position { line: lines, column: column + 1 });
                let units = line[..at].encode_utf16().count();
                let in_utf16 = sources.position_in_utf16(Span::new(file, before + at, before + at + 1));
                assert_eq!(in_utf16, (lines - 1, units));
            }
        }
        let end = sources.position(Span::new(file, text.len(), text.len()));
        assert_eq!(end, Position { line: 3, column: 3001 });
    }
}
