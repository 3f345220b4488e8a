//! Writing: a file as a whole or not at all, and nowhere else than was said.

use super::leftover::{begin, remove_leftovers};
use std::fs::Metadata;
use std::io::Write;
use std::path::{Path, PathBuf};
use tempfile::NamedTempFile;

/// Writes a file as a whole or not at all: readers see the old text until the new one is complete on disk. One that was there
/// keeps its mode and its owner; a link stays, and what it leads to is written.
///
/// # Errors
/// A message that names the file and the reason.
pub fn write(path: &Path, text: &str) -> Result<(), String> {
    let (file, target) = prepare(path, text.as_bytes())?;
    file.persist(&target).map_err(|error| refused(path, &error.error))?;
    sync_folder(&target);
    Ok(())
}

/// A new text of a file on disk beside it, and where it belongs.
pub(super) fn prepare(path: &Path, bytes: &[u8]) -> Result<(NamedTempFile, PathBuf), String> {
    let explain = |error: std::io::Error| refused(path, &error);
    // A link that leads nowhere is replaced by the file.
    let target = path.canonicalize().unwrap_or_else(|_| path.to_owned());
    let known = std::fs::metadata(&target).ok();
    match &known {
        Some(known) if !known.is_file() => {
            return Err(format!("cannot write `{}`: it is no regular file", path.display()));
        }
        Some(known) if known.permissions().readonly() => {
            return Err(format!("cannot write `{}`: it is read-only", path.display()));
        }
        _ => {}
    }
    let folder = target.parent().filter(|p| !p.as_os_str().is_empty()).unwrap_or(Path::new("."));
    std::fs::create_dir_all(folder).map_err(explain)?;
    remove_leftovers(folder);
    let mut file = begin(folder).map_err(explain)?;
    keep_owner_and_mode(&file, known.as_ref()).map_err(explain)?;
    file.write_all(bytes).map_err(explain)?;
    file.as_file().sync_all().map_err(explain)?;
    Ok((file, target))
}

fn refused(path: &Path, error: &std::io::Error) -> String {
    format!("cannot write `{}`: {error}", path.display())
}

/// Temporary files are private; what is written here is as public as any new file, or as what was there.
#[cfg(unix)]
fn keep_owner_and_mode(file: &NamedTempFile, known: Option<&Metadata>) -> std::io::Result<()> {
    use std::os::unix::fs::{MetadataExt, PermissionsExt, fchown};
    let mode = match known {
        Some(known) => {
            let own = file.as_file().metadata()?;
            if (own.uid(), own.gid()) != (known.uid(), known.gid()) {
                fchown(file.as_file(), Some(known.uid()), Some(known.gid()))?;
            }
            known.mode() & 0o7777
        }
        None => 0o666 & !file_mask(),
    };
    file.as_file().set_permissions(std::fs::Permissions::from_mode(mode))
}

#[cfg(not(unix))]
fn keep_owner_and_mode(_: &NamedTempFile, _: Option<&Metadata>) -> std::io::Result<()> {
    Ok(())
}

/// What new files are not for, as the system says it of this process.
#[cfg(unix)]
fn file_mask() -> u32 {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let mask = status.lines().find_map(|line| line.strip_prefix("Umask:"));
    mask.and_then(|mask| u32::from_str_radix(mask.trim(), 8).ok()).unwrap_or(0o022)
}

/// A name is on disk when its folder is; some systems cannot say so.
pub(super) fn sync_folder(path: &Path) {
    if let Some(folder) = path.parent().and_then(|folder| std::fs::File::open(folder).ok()) {
        let _ = folder.sync_all();
    }
}

/// Whether a file that may not be there yet would be written below a folder, links followed.
pub fn is_below(path: &Path, folder: &Path) -> bool {
    let Ok(folder) = folder.canonicalize() else { return false };
    // The path itself or what of it is there; what is not there yet holds no links.
    path.ancestors().find_map(|known| known.canonicalize().ok()).is_some_and(|known| known.starts_with(folder))
}
