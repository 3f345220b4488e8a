//! Systems that the program carries with it: the sample and the one to start from.

use include_dir::{Dir, DirEntry};
use std::path::{Path, PathBuf};

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
