//! What an editor asks for, a file each, and what they share.

pub mod actions;
pub mod colors;
pub mod completion;
pub mod diagnostics;
pub mod hints;
pub mod hover;
pub mod layout;
pub mod lens;
pub mod navigate;
pub mod outline;
pub mod rename;
pub mod semantic;
mod told;

use crate::place::{Encoding, Lines};
use crate::snapshot::Snapshot;
use lsp_types::{Position, Range};
use std::collections::BTreeMap;
use stilk_language::manifest::MANIFEST;
use stilk_text::source::FileId;

/// What an editor can do with answers.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Client {
    /// What its columns count.
    pub encoding: Encoding,
    /// Whether edits may rename files.
    pub renames_files: bool,
    /// Whether text to insert may have stops in it.
    pub takes_snippets: bool,
    /// The folder in which a file explains each id, an absolute path; nothing where there is none, or where codes may not lead
    /// anywhere.
    pub explained: Option<&'static str>,
}

/// What kind of file is asked about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FileKind {
    /// `*.stilk`
    Sheet,
    /// The HTML of a control.
    Template,
    /// `*.tokens.json`
    Tokens,
    /// `*.resolver.json`
    Resolver,
    /// `stilk.toml`
    Manifest,
    /// Any other HTML.
    Page,
    /// Anything else.
    Other,
}

/// The file that is asked about, in its project.
#[derive(Clone, Copy)]
pub struct Subject<'s> {
    /// The project.
    pub snapshot: &'s Snapshot,
    /// Pages of the project: absolute paths and texts.
    pub pages: &'s BTreeMap<String, String>,
    /// The file's absolute path.
    pub path: &'s str,
    /// Its text.
    pub text: &'s str,
    /// The file, where the project was read from it.
    pub file: Option<FileId>,
    /// Who asks.
    pub client: Client,
}

impl<'s> Subject<'s> {
    /// What kind of file it is.
    pub fn kind(&self) -> FileKind {
        let name = self.path.rsplit('/').next().unwrap_or_default();
        let is_read = self.file.is_some();
        match name {
            MANIFEST => FileKind::Manifest,
            _ if name.ends_with(".stilk") => FileKind::Sheet,
            _ if name.ends_with(".resolver.json") => FileKind::Resolver,
            _ if name.ends_with(".json") && (is_read || name.ends_with(".tokens.json")) => FileKind::Tokens,
            _ if name.ends_with(".html") && is_read => FileKind::Template,
            _ if [".html", ".htm", ".xhtml"].iter().any(|ending| name.ends_with(ending)) => FileKind::Page,
            _ => FileKind::Other,
        }
    }

    /// Its lines.
    pub fn lines(&self) -> Lines<'s> {
        Lines::new(self.text, self.client.encoding)
    }

    /// The byte at a position.
    pub fn offset(&self, position: Position) -> usize {
        self.lines().offset(position)
    }

    /// The range of bytes.
    pub fn range(&self, bytes: std::ops::Range<usize>) -> Range {
        self.lines().range(bytes)
    }
}
