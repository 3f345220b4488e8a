//! Reading files once, with what cannot be read as a diagnostic.

use crate::diagnostic::{Diagnostic, Diagnostics, compare_anew, nearest};
use crate::source::{FileError, FileId, FileText, Files, MAX_FILE_BYTES, MAX_PROJECT_BYTES, Sources, Span};

/// Reads files into [`Sources`], reporting what cannot be read.
pub struct Loader<'a> {
    /// Where text comes from.
    pub files: &'a dyn Files,
    /// What was read so far.
    pub sources: Sources,
    /// What was said so far.
    pub diagnostics: Diagnostics,
    /// Folders outside of the project that may be read.
    pub allowed: Vec<String>,
    /// How many bytes were read.
    read: usize,
}

impl<'a> Loader<'a> {
    /// A loader that has read nothing.
    pub fn new(files: &'a dyn Files) -> Self {
        compare_anew();
        Loader { files, sources: Sources::default(), diagnostics: Diagnostics::default(), allowed: Vec::new(), read: 0 }
    }

    /// Reads a file once. `named_at` is the place that names it, shown when it cannot be read.
    pub fn read(&mut self, path: &str, named_at: Option<Span>) -> Option<FileId> {
        if let Some(id) = self.sources.find(path) {
            return Some(id);
        }
        let FileText { bytes, is_outside } = match self.files.read(path, &self.allowed) {
            Ok(file) if file.bytes.len() > MAX_FILE_BYTES => {
                self.diagnostics.push(self.unreadable(path, named_at, &FileError::TooLarge));
                return None;
            }
            Ok(file) => file,
            Err(error) => {
                self.diagnostics.push(self.unreadable(path, named_at, &error));
                return None;
            }
        };
        self.read += bytes.len();
        if self.read > MAX_PROJECT_BYTES {
            // Said once: of the files after it nothing is known.
            if self.read - bytes.len() <= MAX_PROJECT_BYTES {
                let most = MAX_PROJECT_BYTES / 1024 / 1024;
                let message = format!("with `{path}` the project's files are larger than {most} MB together");
                self.diagnostics.push(Diagnostic::error("file/size", named_at, message).mend("leave files out"));
            }
            return None;
        }
        match String::from_utf8(bytes) {
            Ok(text) => {
                let id = self.sources.add(path, text.strip_prefix('\u{feff}').unwrap_or(&text));
                if is_outside {
                    self.sources.set_outside(id);
                }
                Some(id)
            }
            Err(error) => {
                let valid = error.utf8_error().valid_up_to();
                // What could be read is kept, so that the caret can stand where the first bad byte is.
                let bytes = error.into_bytes();
                let id = self.sources.add(path, String::from_utf8_lossy(&bytes).into_owned());
                if is_outside {
                    self.sources.set_outside(id);
                }
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
        let label = |diagnostic: Diagnostic| match named_at {
            Some(_) => diagnostic.label("named here"),
            None => diagnostic,
        };
        match error {
            FileError::Missing | FileError::Other(_) => {}
            FileError::Outside => {
                let folder = path.rsplit_once('/').map_or("..", |(folder, _)| folder);
                let message = format!("`{path}` is outside of the project");
                return label(Diagnostic::error("file/outside", named_at, message)).mend(format!(
                    "bring it into the project, or allow its folder: `outside = [\"{folder}\"]` under `[system]` in stilk.toml"
                ));
            }
            FileError::TooLarge => {
                let message = format!("`{path}` is larger than {} MB", MAX_FILE_BYTES / 1024 / 1024);
                return label(Diagnostic::error("file/size", named_at, message)).mend("split the file");
            }
            FileError::NotRegular => {
                let message = format!("`{path}` is a folder, a device or a pipe");
                return label(Diagnostic::error("file/kind", named_at, message)).mend("name a regular file");
            }
        }
        let folder = path.rsplit_once('/').map_or("", |(folder, _)| folder);
        let name = path.rsplit('/').next().unwrap_or(path);
        let siblings = self.files.list(folder, &self.allowed).unwrap_or_default();
        let diagnostic = label(Diagnostic::error("file/missing", named_at, format!("cannot read `{path}`: {error}")));
        // Endings that all files share would make any two names alike.
        let (stem, ending) = name.split_once('.').unwrap_or((name, ""));
        let stems = siblings.iter().filter_map(|s| s.split_once('.').filter(|(_, e)| *e == ending).map(|(s, _)| s));
        let near = nearest(stem, stems).map(|near| format!("{near}.{ending}"));
        match near {
            Some(near) if folder.is_empty() => diagnostic.mend(format!("write `{near}`, or make the file")),
            Some(near) => diagnostic.mend(format!("write `{folder}/{near}`, or make the file")),
            None => diagnostic.mend("make the file, or name another"),
        }
    }
}
