//! Files that are being written, and those that runs of the program left behind when they were killed.

use std::fs::File;
use std::io::ErrorKind;
use std::path::Path;
use tempfile::{Builder, NamedTempFile};

const PREFIX: &str = ".stilk-";

/// A file beside the one that it becomes. Its name says whose it is, and it is locked as long as it is written.
pub(super) fn begin(folder: &Path) -> std::io::Result<NamedTempFile> {
    let prefix = format!("{PREFIX}{}-", std::process::id());
    let file = Builder::new().prefix(&prefix).tempfile_in(folder)?;
    // Where a system has no locks, the name has to do.
    let _ = file.as_file().try_lock();
    Ok(file)
}

/// Removes from a folder what killed runs left behind; what another run is writing stays.
pub fn remove_leftovers(folder: &Path) {
    let Ok(entries) = std::fs::read_dir(folder) else { return };
    for entry in entries.flatten() {
        let name = entry.file_name();
        let owner = name.to_str().and_then(|name| name.strip_prefix(PREFIX)?.split_once('-')?.0.parse::<u32>().ok());
        let Some(owner) = owner else { continue };
        let is_file = entry.file_type().is_ok_and(|kind| kind.is_file());
        if is_file && !is_running(owner) && File::open(entry.path()).is_ok_and(|file| file.try_lock().is_ok()) {
            // Somebody else may have been quicker.
            let _ = std::fs::remove_file(entry.path());
        }
    }
}

/// Whether a process of this machine has this number; where that is not known, it has.
fn is_running(process: u32) -> bool {
    if process == std::process::id() {
        return true;
    }
    match std::fs::metadata(format!("/proc/{process}")) {
        Ok(_) => true,
        Err(error) => error.kind() != ErrorKind::NotFound || !Path::new("/proc/self").exists(),
    }
}
