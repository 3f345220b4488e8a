//! What `stilk explain` says, as files that an editor can open from a diagnostic's code.

use crate::output::explain;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};
use stilk_checks::registry::CHECKS;
use stilk_editor::feature::diagnostics::file_of;
use stilk_language::ids;
use stilk_survey::fault::KINDS;

/// The folder with a page for each id, in the user's cache; written where it is not there. Nothing where there is no such place:
/// then codes lead nowhere.
pub fn folder() -> Option<PathBuf> {
    let pages = pages();
    let mut hasher = DefaultHasher::new();
    pages.hash(&mut hasher);
    let cache = dirs::cache_dir()?.join("stilk");
    // Another version has other words.
    let folder = cache.join(format!("explain-{:016x}", hasher.finish()));
    if !folder.is_dir() {
        write(&pages, &cache, &folder).ok()?;
    }
    Some(folder)
}

fn pages() -> Vec<(String, String)> {
    let checks = CHECKS.iter().map(|check| (check.id, explain::one(check)));
    let foreign = KINDS.iter().map(|kind| (kind.id, explain::of_foreign(kind)));
    let reading = ids::READING.iter().map(|(id, words)| (*id, explain::of_reading(id, words)));
    checks.chain(foreign).chain(reading).map(|(id, text)| (file_of(id), text)).collect()
}

/// All of them or none: editors may start side by side.
fn write(pages: &[(String, String)], cache: &Path, folder: &Path) -> std::io::Result<()> {
    std::fs::create_dir_all(cache)?;
    let new = tempfile::Builder::new().prefix("new-").tempdir_in(cache)?;
    for (name, text) in pages {
        std::fs::write(new.path().join(name), text)?;
    }
    match std::fs::rename(new.path(), folder) {
        Err(_) if folder.is_dir() => Ok(()),
        done => done,
    }
}
