//! Systems that the program carries with it: the sample and the one to start from.

use include_dir::{Dir, DirEntry};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use stilk_text::source::{FileError, FileText, Files};

/// The sources in a folder, with their texts; outputs are not among them.
pub fn sources(folder: &'static Dir) -> Vec<(PathBuf, &'static str)> {
    let mut files = Vec::new();
    collect(folder, &mut files);
    files
}

fn collect(folder: &'static Dir, files: &mut Vec<(PathBuf, &'static str)>) {
    for entry in folder.entries() {
        match entry {
            DirEntry::Dir(inner) if inner.path() != Path::new("dist") => collect(inner, files),
            DirEntry::File(file) => files.extend(file.contents_utf8().map(|text| (file.path().to_owned(), text))),
            DirEntry::Dir(_) => {}
        }
    }
}

/// A project that is nowhere yet, by path.
pub struct Embedded<'e>(pub &'e BTreeMap<String, String>);

impl Files for Embedded<'_> {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.as_bytes())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let before = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&before)).map(str::to_owned).collect())
    }
}
