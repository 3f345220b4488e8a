//! Edits of several files: all of them or none. What is meant stands in a journal before the first file is touched, so that a
//! run that is killed in between is completed by the next one, or undone.

use super::read::read;
use super::write::{prepare, sync_folder, write};
use serde_json::{Value, json};
use std::fs::File;
use std::path::{Path, PathBuf};
use stilk_text::source::MAX_FILE_BYTES;

/// Its name, in the project's folder.
const JOURNAL: &str = ".stilk-journal";

/// Several files' worth.
const LARGEST: u64 = 16 * MAX_FILE_BYTES as u64;

/// A file that is edited.
pub struct Edited {
    /// Its path.
    pub path: PathBuf,
    /// Its bytes as they were read.
    pub before: Vec<u8>,
    /// As they are to be.
    pub after: Vec<u8>,
}

/// An edit as the journal has it.
struct Entry {
    path: PathBuf,
    before: String,
    after: String,
}

impl Entry {
    fn to_json(&self) -> Value {
        json!({ "path": self.path.to_string_lossy(), "before": self.before, "after": self.after })
    }

    fn of_json(value: &Value) -> Option<Entry> {
        let text = |key: &str| value.get(key).and_then(Value::as_str).map(str::to_owned);
        Some(Entry { path: text("path")?.into(), before: text("before")?, after: text("after")? })
    }
}

/// Writes edits of files of a project.
///
/// # Errors
/// Some file is another than was read, or cannot be written; then all are as they were.
pub fn write_all(root: &Path, edits: &[Edited]) -> Result<(), String> {
    for edit in edits {
        unchanged(&edit.path, &edit.before)?;
    }
    if let [edit] = edits {
        return replace(&edit.path, &edit.before, &edit.after);
    }
    let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    let entries: Vec<Entry> = edits
        .iter()
        .map(|edit| Entry { path: absolute(&edit.path), before: text(&edit.before), after: text(&edit.after) })
        .collect();
    let journal = root.join(JOURNAL);
    write(&journal, &Value::from_iter(entries.iter().map(Entry::to_json)).to_string())?;
    // Locked as long as this run lives: another one leaves it alone.
    let lock = File::open(&journal).ok();
    let _ = lock.as_ref().map(File::try_lock);
    let result = complete(&entries);
    if result.is_err() {
        undo(&entries)?;
    }
    let _ = std::fs::remove_file(&journal);
    sync_folder(&journal);
    result
}

/// Completes or undoes what a killed run began, and says so; nothing where nothing was begun.
///
/// # Errors
/// What was begun can be neither completed nor undone.
pub fn recover(root: &Path) -> Result<Option<String>, String> {
    let journal = root.join(JOURNAL);
    let Ok(bytes) = read(&journal, LARGEST) else { return Ok(None) };
    if File::open(&journal).is_ok_and(|file| file.try_lock().is_err()) {
        return Ok(None);
    }
    let name = journal.display();
    let entries: Option<Vec<Entry>> = serde_json::from_slice(&bytes)
        .ok()
        .and_then(|value: Value| value.as_array()?.iter().map(Entry::of_json).collect());
    let entries =
        entries.ok_or_else(|| format!("the journal `{name}` cannot be read; remove it when the sources are right"))?;
    if let Some(foreign) = entries.iter().find(|entry| !super::is_below(&entry.path, root)) {
        return Err(format!(
            "the journal `{name}` names `{}`, outside of the project; remove it",
            foreign.path.display()
        ));
    }
    let files = stilk_text::diagnostic::count(entries.len() as u64, "file");
    let said = match complete(&entries) {
        Ok(()) => format!("an interrupted `check --mend` was completed: {files}"),
        Err(why) => {
            undo(&entries)?;
            format!("an interrupted `check --mend` was undone: {why}")
        }
    };
    std::fs::remove_file(&journal).map_err(|error| format!("cannot remove `{name}`: {error}"))?;
    sync_folder(&journal);
    Ok(Some(said))
}

/// Brings every file to what it is to be.
fn complete(entries: &[Entry]) -> Result<(), String> {
    for entry in entries {
        if current(&entry.path)? != entry.after.as_bytes() {
            replace(&entry.path, entry.before.as_bytes(), entry.after.as_bytes())?;
        }
    }
    Ok(())
}

/// Brings every file that was written back to what it was; what somebody else wrote since is left alone.
fn undo(entries: &[Entry]) -> Result<(), String> {
    for entry in entries {
        if current(&entry.path).is_ok_and(|now| now == entry.after.as_bytes()) {
            replace(&entry.path, entry.after.as_bytes(), entry.before.as_bytes())?;
        }
    }
    Ok(())
}

/// Replaces a file that is still what it was.
fn replace(path: &Path, before: &[u8], after: &[u8]) -> Result<(), String> {
    let (file, target) = prepare(path, after)?;
    unchanged(path, before)?;
    file.persist(&target).map_err(|error| format!("cannot write `{}`: {}", path.display(), error.error))?;
    sync_folder(&target);
    Ok(())
}

fn unchanged(path: &Path, before: &[u8]) -> Result<(), String> {
    match current(path)? == before {
        true => Ok(()),
        false => Err(format!("`{}` was changed by somebody else since it was read", path.display())),
    }
}

fn current(path: &Path) -> Result<Vec<u8>, String> {
    read(path, MAX_FILE_BYTES as u64).map_err(|error| format!("cannot read `{}`: {error}", path.display()))
}

fn absolute(path: &Path) -> PathBuf {
    std::path::absolute(path).unwrap_or_else(|_| path.to_owned())
}
