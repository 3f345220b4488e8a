//! Reading a project: the manifest, then everything it names.

use crate::diagnostic::{Diagnostic, Diagnostics};
use crate::manifest::{self, Manifest};
use crate::sheet::{self, Sheet};
use crate::source::{FileError, FileId, Files, MAX_FILE_BYTES, Name, Sources, Span};
use crate::system::{self, System};
use crate::template::{self, Template};
use crate::tokens::{self, Tokens};

/// The manifest's file name.
pub const MANIFEST: &str = "stilk.toml";
/// The sheet that is read before all others.
pub const SHARED_SHEET: &str = "shared.stilk";

/// Reads files into [`Sources`], reporting what cannot be read.
pub struct Loader<'a> {
    /// Where text comes from.
    pub files: &'a dyn Files,
    /// What was read so far.
    pub sources: Sources,
    /// What was said so far.
    pub diagnostics: Diagnostics,
}

impl<'a> Loader<'a> {
    /// A loader that has read nothing.
    pub fn new(files: &'a dyn Files) -> Self {
        Loader { files, sources: Sources::default(), diagnostics: Diagnostics::default() }
    }

    /// Reads a file once. `named_at` is the place that names it, shown when it cannot be read.
    pub fn read(&mut self, path: &str, named_at: Option<Span>) -> Option<FileId> {
        if let Some(id) = self.sources.find(path) {
            return Some(id);
        }
        let bytes = match self.files.read(path) {
            Ok(bytes) => bytes,
            Err(error) => {
                self.diagnostics.push(self.unreadable(path, named_at, &error));
                return None;
            }
        };
        if bytes.len() > MAX_FILE_BYTES {
            let message = format!("`{path}` is larger than {} MB", MAX_FILE_BYTES / 1024 / 1024);
            self.diagnostics.push(Diagnostic::error("file/size", named_at, message).mend("split the file"));
            return None;
        }
        match String::from_utf8(bytes) {
            Ok(text) => Some(self.sources.add(path, text.strip_prefix('\u{feff}').unwrap_or(&text))),
            Err(error) => {
                let valid = error.utf8_error().valid_up_to();
                // What could be read is kept, so that the caret can stand where the first bad byte is.
                let bytes = error.into_bytes();
                let id = self.sources.add(path, String::from_utf8_lossy(&bytes).into_owned());
                let span = Span::new(id, valid, valid + '\u{fffd}'.len_utf8());
                self.diagnostics.push(
                    Diagnostic::error("file/encoding", span, format!("`{path}` is not UTF-8"))
                        .label(format!("byte {valid} starts no UTF-8 character"))
                        .mend("save the file as UTF-8"),
                );
                None
            }
        }
    }

    fn unreadable(&self, path: &str, named_at: Option<Span>, error: &FileError) -> Diagnostic {
        let folder = path.rsplit_once('/').map_or("", |(folder, _)| folder);
        let name = path.rsplit('/').next().unwrap_or(path);
        let siblings = self.files.list(folder).unwrap_or_default();
        let diagnostic = Diagnostic::error("file/missing", named_at, format!("cannot read `{path}`: {error}"));
        let diagnostic = if named_at.is_some() { diagnostic.label("named here") } else { diagnostic };
        // Endings that all files share would make any two names alike.
        let (stem, ending) = name.split_once('.').unwrap_or((name, ""));
        let stems = siblings.iter().filter_map(|s| s.split_once('.').filter(|(_, e)| *e == ending).map(|(s, _)| s));
        let near = crate::diagnostic::nearest(stem, stems).map(|near| format!("{near}.{ending}"));
        match near {
            Some(near) if folder.is_empty() => diagnostic.mend(format!("write `{near}`, or make the file")),
            Some(near) => diagnostic.mend(format!("write `{folder}/{near}`, or make the file")),
            None => diagnostic.mend("make the file, or name another"),
        }
    }
}

/// A project that was read: what it says, and what is wrong with it.
pub struct Project {
    /// All text that was read.
    pub sources: Sources,
    /// The checked system; `None` when there were errors.
    pub system: Option<System>,
    /// Errors, warnings and notes, ordered by place.
    pub diagnostics: Vec<Diagnostic>,
}

/// Reads and checks the project in `files`. Never fails: what is wrong is in the diagnostics, all of it.
pub fn load(files: &dyn Files) -> Project {
    let mut loader = Loader::new(files);
    let system = load_system(&mut loader);
    let failed = loader.diagnostics.has_errors();
    Project {
        sources: loader.sources,
        system: if failed { None } else { system },
        diagnostics: loader.diagnostics.into_sorted(),
    }
}

fn load_system(loader: &mut Loader) -> Option<System> {
    let file = match loader.read(MANIFEST, None) {
        Some(file) => file,
        None => {
            if loader.sources.find(MANIFEST).is_none() {
                loader.diagnostics = Diagnostics::default();
                loader.diagnostics.push(
                    Diagnostic::error("file/missing", None, format!("there is no `{MANIFEST}` here"))
                        .mend("name the project's folder with `--project DIR`, or write the sample with `stilk demo`"),
                );
            }
            return None;
        }
    };
    let manifest = manifest::read(file, loader)?;
    let tokens = tokens::read(&manifest, loader);
    let (sheets, templates) = read_controls(&manifest, loader);
    let mut unread = Tokens::default();
    unread.incomplete = true;
    // Binding goes on after errors, so that one run names the mistakes of every stage.
    Some(system::bind(manifest, tokens.unwrap_or(unread), sheets, templates, loader))
}

fn read_controls(manifest: &Manifest, loader: &mut Loader) -> (Vec<Sheet>, Vec<Template>) {
    let folder = &manifest.controls;
    let mut names = match loader.files.list(&folder.value) {
        Ok(names) => names,
        Err(_) => {
            loader.diagnostics.push(
                Diagnostic::error("file/missing", folder.span, format!("there is no folder `{}`", folder.value))
                    .label("controls are read from here")
                    .mend("make the folder, or name another"),
            );
            return Default::default();
        }
    };
    // `shared.stilk` first, then by name: the order on disk must not matter.
    names.sort_by(|a, b| (a != SHARED_SHEET).cmp(&(b != SHARED_SHEET)).then(a.cmp(b)));
    let mut sheets = Vec::new();
    let mut templates = Vec::new();
    for name in &names {
        let path = format!("{}/{name}", folder.value);
        if name.ends_with(".stilk") {
            if let Some(file) = loader.read(&path, Some(folder.span)) {
                sheets.push(sheet::parse(file, &loader.sources, &mut loader.diagnostics));
            }
        } else if let Some(control) = name.strip_suffix(".html")
            && let Some(file) = loader.read(&path, Some(folder.span))
        {
            templates.extend(template::parse(file, control, &loader.sources, &mut loader.diagnostics));
        }
    }
    if !names.iter().any(|n| n.ends_with(".stilk")) {
        let message = format!("the folder `{}` has no control sheet", folder.value);
        loader.diagnostics.push(
            Diagnostic::error("file/missing", folder.span, message)
                .mend(format!("write `{0}/NAME.html` and `{0}/NAME.stilk`", folder.value)),
        );
    }
    (sheets, templates)
}

/// A name at a place.
pub fn name(value: impl Into<String>, span: Span) -> Name {
    Name { value: value.into(), span }
}
