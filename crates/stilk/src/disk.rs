//! Files on disk: reading a project, and writing so that nothing is ever lost or half-written.

use std::io::{ErrorKind, Write};
use std::path::{Path, PathBuf};
use stilk_text::source::{FileError, Files};

/// A project's folder.
pub struct Folder {
    root: PathBuf,
}

impl Folder {
    /// The project in this folder.
    pub fn new(root: &Path) -> Folder {
        Folder { root: root.to_owned() }
    }
}

fn file_error(error: &std::io::Error) -> FileError {
    match error.kind() {
        ErrorKind::NotFound => FileError::Missing,
        _ => FileError::Other(error.to_string()),
    }
}

impl Files for Folder {
    fn read(&self, path: &str) -> Result<Vec<u8>, FileError> {
        std::fs::read(self.root.join(path)).map_err(|error| file_error(&error))
    }

    fn list(&self, folder: &str) -> Result<Vec<String>, FileError> {
        let entries = std::fs::read_dir(self.root.join(folder)).map_err(|error| file_error(&error))?;
        let mut names = Vec::new();
        for entry in entries {
            let entry = entry.map_err(|error| file_error(&error))?;
            if let Ok(name) = entry.file_name().into_string() {
                names.push(name);
            }
        }
        Ok(names)
    }
}

/// Writes a file as a whole or not at all: readers see the old text until the new one is complete on disk.
///
/// # Errors
/// A message that names the file and the reason.
pub fn write(path: &Path, text: &str) -> Result<(), String> {
    let explain = |error: std::io::Error| format!("cannot write `{}`: {error}", path.display());
    let folder = path.parent().filter(|p| !p.as_os_str().is_empty()).unwrap_or(Path::new("."));
    std::fs::create_dir_all(folder).map_err(explain)?;
    let mut builder = tempfile::Builder::new();
    // Temporary files are private; what is written here is as public as any new file.
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        builder.permissions(std::fs::Permissions::from_mode(0o666));
    }
    let mut file = builder.prefix(".stilk-").tempfile_in(folder).map_err(explain)?;
    file.write_all(text.as_bytes()).map_err(explain)?;
    file.as_file().sync_all().map_err(explain)?;
    file.persist(path).map_err(|error| explain(error.error))?;
    Ok(())
}

/// A path as it is shown: relative to where the user stands, with `/`.
pub fn shown(root: &Path, path: &str) -> String {
    let joined = if root == Path::new(".") { PathBuf::from(path) } else { root.join(path) };
    let text = joined.to_string_lossy().replace('\\', "/");
    text.strip_prefix("./").unwrap_or(&text).to_owned()
}

/// Where a linked stylesheet is on this disk.
pub fn linked(page: &Path, address: &str) -> Option<PathBuf> {
    let address = address.split(['?', '#']).next().unwrap_or_default();
    if let Some(path) = address.strip_prefix("file://") {
        return Some(PathBuf::from(path));
    }
    let is_remote = address.starts_with("//") || address.contains("://") || address.starts_with("data:");
    if is_remote || address.is_empty() {
        return None;
    }
    Some(page.parent().unwrap_or(Path::new(".")).join(address.trim_start_matches('/')))
}
