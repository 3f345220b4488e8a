//! Changes of source files.

use crate::Failure;
use notify::{EventKind, RecommendedWatcher, RecursiveMode, Watcher};
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender, channel};
use std::time::Duration;

/// Changes below a folder.
pub struct Changes {
    events: Receiver<PathBuf>,
    /// Watches as long as it lives.
    _watcher: RecommendedWatcher,
}

/// An editor writes a file in several steps; what comes within this time is one save.
const SETTLE: Duration = Duration::from_millis(8);

/// Watches a folder.
///
/// # Errors
/// The system does not let it be watched.
pub fn changes(root: &Path) -> Result<Changes, Failure> {
    let (send, events) = channel();
    let refused =
        |why: notify::Error| Failure::Message(format!("error: `{}` cannot be watched: {why}", root.display()));
    let mut watcher = notify::recommended_watcher(sender(send)).map_err(refused)?;
    watcher.watch(root, RecursiveMode::Recursive).map_err(refused)?;
    Ok(Changes { events, _watcher: watcher })
}

fn sender(send: Sender<PathBuf>) -> impl Fn(notify::Result<notify::Event>) {
    move |event| {
        let Ok(event) = event else { return };
        if !matches!(event.kind, EventKind::Access(_)) {
            for path in event.paths.into_iter().filter(|path| is_source(path)) {
                // Nobody listens any more when the program ends.
                let _ = send.send(path);
            }
        }
    }
}

/// Editors' own files and whatever else is no source are left out.
fn is_source(path: &Path) -> bool {
    let is_hidden = path.file_name().is_some_and(|name| name.to_string_lossy().starts_with('.'));
    let extension = path.extension().map(|extension| extension.to_string_lossy().into_owned());
    // A folder that came or went may hold sources.
    !is_hidden && extension.is_none_or(|extension| ["toml", "json", "html", "stilk"].contains(&extension.as_str()))
}

impl Changes {
    /// Waits for a change outside of the folder that is written to; false when there will be no more.
    pub fn wait(&self, written: Option<&Path>) -> bool {
        let is_own = |path: &PathBuf| written.is_some_and(|folder| path.starts_with(folder));
        loop {
            match self.events.recv() {
                Ok(path) if is_own(&path) => {}
                Ok(_) => break,
                Err(_) => return false,
            }
        }
        loop {
            match self.events.recv_timeout(SETTLE) {
                Ok(_) => {}
                Err(RecvTimeoutError::Timeout) => return true,
                Err(RecvTimeoutError::Disconnected) => return false,
            }
        }
    }
}
