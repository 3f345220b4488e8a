//! A project's folder, for programs that test or measure: its files as the core reads them, and copies of it.

#![allow(dead_code, reason = "each program that uses this needs some of it")]

use std::path::{Path, PathBuf};
use stilk_text::source::{FileError, FileText, Files};

/// Files of a folder.
pub struct Folder(pub PathBuf);

impl Files for Folder {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        std::fs::read(self.0.join(path)).map(FileText::own).map_err(|_| FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let entries = std::fs::read_dir(self.0.join(folder)).map_err(|_| FileError::Missing)?;
        Ok(entries.filter_map(|e| e.ok()?.file_name().into_string().ok()).collect())
    }
}

/// Copies a folder.
pub fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).expect("a folder");
    for entry in std::fs::read_dir(from).expect("a folder").flatten() {
        let (path, target) = (entry.path(), to.join(entry.file_name()));
        if path.is_dir() {
            copy(&path, &target);
        } else {
            std::fs::copy(&path, &target).expect("a copy");
        }
    }
}
