//! Files on disk: reading a project, and writing so that nothing is ever lost or half-written.

pub mod journal;
mod leftover;
mod read;
mod write;

pub use leftover::remove_leftovers;
pub use read::{open_regular, read};
pub use write::{is_below, write};

use crate::say::in_line;
use std::collections::{BTreeSet, HashSet};
use std::path::{Component, Path, PathBuf};
use std::sync::{Mutex, OnceLock, PoisonError};
use stilk_text::source::{FileError, FileText, Files, MAX_FILE_BYTES};

/// A project's folder.
pub struct Folder {
    root: PathBuf,
    /// Where that is, links followed; looked up once.
    followed: OnceLock<Option<PathBuf>>,
    /// Every file and folder that was asked for, whether it is there or not.
    asked: Mutex<BTreeSet<PathBuf>>,
    /// Every file that was read, links followed.
    sources: Mutex<HashSet<PathBuf>>,
}

impl Folder {
    /// The project in this folder.
    pub fn new(root: &Path) -> Folder {
        Folder { root: root.to_owned(), followed: OnceLock::new(), asked: Mutex::default(), sources: Mutex::default() }
    }

    /// Whether a file was read, by where it is when links are followed.
    pub fn has_read(&self, found: &Path) -> bool {
        self.sources.lock().unwrap_or_else(PoisonError::into_inner).contains(found)
    }

    /// Every file and folder that was asked for so far.
    pub fn asked(&self) -> BTreeSet<PathBuf> {
        self.asked.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }

    /// Where a path leads, links followed; and whether that is outside of the project.
    fn place(&self, path: &str, allowed: &[String]) -> Result<(PathBuf, bool), FileError> {
        let full = self.root.join(path);
        self.asked.lock().unwrap_or_else(PoisonError::into_inner).insert(full.clone());
        // What is named outside is refused whether it is there or not: that is nobody's business.
        let named = |folder: &str| plain(Path::new(path)).starts_with(plain(Path::new(folder)));
        if climbs(Path::new(path)) && !allowed.iter().any(|folder| named(folder)) {
            return Err(FileError::Outside);
        }
        let found = full.canonicalize().map_err(|error| read::file_error(&error))?;
        let is_in = |folder: &Path| folder.canonicalize().is_ok_and(|folder| found.starts_with(folder));
        let root = self.followed.get_or_init(|| self.root.canonicalize().ok());
        match root.as_ref().is_some_and(|root| found.starts_with(root)) {
            true => Ok((found, false)),
            false if allowed.iter().any(|folder| is_in(&self.root.join(folder))) => Ok((found, true)),
            false => Err(FileError::Outside),
        }
    }
}

impl Files for Folder {
    fn read(&self, path: &str, allowed: &[String]) -> Result<FileText, FileError> {
        let (found, is_outside) = self.place(path, allowed)?;
        let bytes = read(&found, MAX_FILE_BYTES as u64)?;
        self.sources.lock().unwrap_or_else(PoisonError::into_inner).insert(found);
        Ok(FileText { bytes, is_outside })
    }

    fn list(&self, folder: &str, allowed: &[String]) -> Result<Vec<String>, FileError> {
        let (found, _) = self.place(folder, allowed)?;
        let entries = std::fs::read_dir(found).map_err(|error| read::file_error(&error))?;
        let mut names = Vec::new();
        for entry in entries {
            let entry = entry.map_err(|error| read::file_error(&error))?;
            if let Ok(name) = entry.file_name().into_string() {
                names.push(name);
            }
        }
        Ok(names)
    }
}

/// A path without `.` and, where that says the same, without `..`.
pub fn plain(path: &Path) -> PathBuf {
    let mut plain = PathBuf::new();
    for part in path.components() {
        match part {
            Component::ParentDir if plain.file_name().is_some() => {
                plain.pop();
            }
            Component::CurDir => {}
            other => plain.push(other),
        }
    }
    plain
}

/// Whether a relative path leads out of where it begins, or is not relative at all.
fn climbs(path: &Path) -> bool {
    !matches!(plain(path).components().next(), None | Some(Component::Normal(_)))
}

/// A path as it is shown: in one line, relative to where the user stands, with `/`.
pub fn shown(root: &Path, path: &str) -> String {
    let joined = if root == Path::new(".") { PathBuf::from(path) } else { root.join(path) };
    let text = in_line(&joined.to_string_lossy().replace('\\', "/"));
    text.strip_prefix("./").unwrap_or(&text).to_owned()
}
