//! A project at one moment.

use crate::names::{Names, gather};
use crate::place::{Encoding, Lines, plain, uri_of};
use crate::trees::Trees;
use lsp_types::{Location, Uri};
use std::sync::{Arc, OnceLock};
use stilk_checks::registry;
use stilk_engine::cascade::Stylesheet;
use stilk_language::stylesheet::{Purpose, Written, write};
use stilk_language::system::System;
use stilk_language::tokens::Tokens;
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::{FileId, Files, Source, Sources, Span};

/// What reading a project gave.
pub struct Snapshot {
    /// The project's folder, absolute, without a slash at its end.
    pub root: String,
    /// Every text that was read.
    pub sources: Sources,
    /// What is wrong with them.
    pub diagnostics: Vec<Diagnostic>,
    /// What stands in them.
    pub trees: Trees,
    /// The names in them.
    pub names: Names,
    /// The system, where they hold no errors.
    pub system: Option<System>,
    /// What could be made of them where they do: names and tokens.
    unsound: Option<System>,
    /// The last one that made sense, where this does not.
    before: Option<Arc<Snapshot>>,
    written: OnceLock<(Written, Stylesheet)>,
}

impl Snapshot {
    /// Reads a project. `before` is what was known of it.
    pub fn read(root: &str, files: &dyn Files, before: Option<&Arc<Snapshot>>) -> Snapshot {
        let project = registry::load(files);
        let trees = Trees::read(&project.sources);
        let names = gather(&project.sources, &trees);
        let sound = before.and_then(|before| match before.system {
            Some(_) => Some(before),
            None => before.before.as_ref(),
        });
        Snapshot {
            root: root.to_owned(),
            sources: project.sources,
            diagnostics: project.diagnostics,
            trees,
            names,
            before: if project.system.is_some() { None } else { sound.cloned() },
            system: project.system,
            unsound: project.unsound,
            written: OnceLock::new(),
        }
    }

    /// The last project that made sense, this one or one before it.
    pub fn sound(&self) -> Option<&Snapshot> {
        if self.system.is_some() { Some(self) } else { self.before.as_deref() }
    }

    /// The tokens as they are now, or as they were when last they could be read.
    pub fn tokens(&self) -> Option<&Tokens> {
        let now = self.system.as_ref().or(self.unsound.as_ref()).map(|system| &system.tokens);
        let complete = now.filter(|tokens| !tokens.incomplete && !tokens.list.is_empty());
        complete.or_else(|| Some(&self.before.as_ref()?.system.as_ref()?.tokens))
    }

    /// A system to look names up in, sound or not.
    pub fn any_system(&self) -> Option<&System> {
        let before = || self.before.as_ref().and_then(|before| before.system.as_ref());
        self.system.as_ref().or(self.unsound.as_ref()).or_else(before)
    }

    /// The stylesheet of a sound project, and what the engine reads in it.
    pub fn written(&self) -> Option<(&System, &Written, &Stylesheet)> {
        let system = self.system.as_ref()?;
        let (written, parsed) = self.written.get_or_init(|| {
            let written = write(system, &self.sources, Purpose::Page);
            let parsed = Stylesheet::parse(&written.text);
            (written, parsed)
        });
        Some((system, written, parsed))
    }

    /// A file's path from the project's folder; nothing for what is not in it.
    pub fn relative<'p>(&self, path: &'p str) -> Option<&'p str> {
        path.strip_prefix(&self.root)?.strip_prefix('/')
    }

    /// The file at an absolute path, where the project was read from it.
    pub fn file_at(&self, path: &str) -> Option<FileId> {
        self.sources.find(self.relative(path)?)
    }

    /// The absolute path of a file.
    pub fn path_of(&self, source: &Source) -> String {
        match source.path.starts_with('/') {
            true => source.path.clone(),
            // What is outside of the project is named from its folder.
            false => plain(&format!("{}/{}", self.root, source.path)),
        }
    }

    /// The URI of a file.
    pub fn uri_of(&self, file: FileId) -> Option<Uri> {
        uri_of(&self.path_of(self.sources.file(file)))
    }

    /// A place as the protocol has it.
    pub fn location(&self, span: Span, encoding: Encoding) -> Option<Location> {
        let uri = self.uri_of(span.file)?;
        Some(Location { uri, range: self.lines(span.file, encoding).of(span) })
    }

    /// The lines of a file.
    pub fn lines(&self, file: FileId, encoding: Encoding) -> Lines<'_> {
        Lines::new(&self.sources.file(file).text, encoding)
    }
}
