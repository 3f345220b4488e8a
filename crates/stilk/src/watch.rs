//! Changes of source files, wherever these are, and of the project as a whole: it may be removed and come back.

use crate::Failure;
use notify::{EventKind, RecommendedWatcher, RecursiveMode, Watcher};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender, channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

/// An editor writes a file in several steps; what comes within this time is one save.
const SETTLE: Duration = Duration::from_millis(8);

/// Saves without end are one save after this time.
const PATIENCE: u32 = 50;

/// How often it is looked whether the project's folder is still the same one.
const LOOK: Duration = Duration::from_millis(500);

/// Changes of a project.
pub struct Changes {
    root: PathBuf,
    /// The folder that is watched, as the system tells one from another.
    watched: Option<Identity>,
    events: Receiver<()>,
    watcher: RecommendedWatcher,
    /// Sources that are read, as they are called after links are followed.
    sources: Arc<Mutex<BTreeSet<PathBuf>>>,
    /// Folders outside of the project that are watched too.
    outside: BTreeSet<PathBuf>,
}

impl Changes {
    /// Watches a project's folder.
    ///
    /// # Errors
    /// The system does not let it be watched.
    pub fn new(root: &Path) -> Result<Changes, Failure> {
        let (send, events) = channel();
        let refused =
            |why: notify::Error| Failure::Message(format!("error: `{}` cannot be watched: {why}", root.display()));
        let sources = Arc::default();
        let mut watcher = notify::recommended_watcher(sender(send, Arc::clone(&sources))).map_err(refused)?;
        watcher.watch(root, RecursiveMode::Recursive).map_err(refused)?;
        let (root, watched) = (root.to_owned(), identity(root));
        Ok(Changes { root, watched, events, watcher, sources, outside: BTreeSet::new() })
    }

    /// Watches the sources that were read, those outside of the project too.
    pub fn follow(&mut self, asked: &BTreeSet<PathBuf>) {
        let found: BTreeSet<PathBuf> =
            asked.iter().map(|path| path.canonicalize().unwrap_or_else(|_| path.clone())).collect();
        let folders = found.iter().filter_map(|path| {
            let folder = if path.is_dir() { path } else { path.parent()? };
            folder.ancestors().find(|folder| folder.is_dir())
        });
        let outside: BTreeSet<PathBuf> =
            folders.filter(|folder| !folder.starts_with(&self.root)).map(Path::to_owned).collect();
        for folder in self.outside.difference(&outside) {
            // It may be gone already.
            let _ = self.watcher.unwatch(folder);
        }
        for folder in outside.difference(&self.outside) {
            // What cannot be watched is read at the next save of something else.
            let _ = self.watcher.watch(folder, RecursiveMode::NonRecursive);
        }
        self.outside = outside;
        *self.sources.lock().unwrap_or_else(PoisonError::into_inner) = found;
    }

    /// Waits for a change; false when there will be no more.
    pub fn wait(&mut self) -> bool {
        loop {
            match self.events.recv_timeout(LOOK) {
                Ok(()) => break,
                Err(RecvTimeoutError::Timeout) if self.is_same_folder() => {}
                Err(RecvTimeoutError::Timeout) => return true,
                Err(RecvTimeoutError::Disconnected) => return false,
            }
        }
        for _ in 0..PATIENCE {
            match self.events.recv_timeout(SETTLE) {
                Ok(()) => {}
                Err(RecvTimeoutError::Timeout) => break,
                Err(RecvTimeoutError::Disconnected) => return false,
            }
        }
        true
    }

    /// Whether the project's folder is the one that is watched; another one is, from then on.
    fn is_same_folder(&mut self) -> bool {
        let now = identity(&self.root);
        if now == self.watched {
            return true;
        }
        let _ = self.watcher.unwatch(&self.root);
        // Where it is gone there is nothing to watch; where it cannot be, it is tried again.
        let is_watched = now.is_none() || self.watcher.watch(&self.root, RecursiveMode::Recursive).is_ok();
        self.watched = now.filter(|_| is_watched);
        false
    }
}

/// What tells a folder from another one of the same name.
#[cfg(unix)]
type Identity = (u64, u64);

#[cfg(unix)]
fn identity(folder: &Path) -> Option<Identity> {
    use std::os::unix::fs::MetadataExt;
    std::fs::metadata(folder).ok().filter(std::fs::Metadata::is_dir).map(|known| (known.dev(), known.ino()))
}

#[cfg(not(unix))]
type Identity = ();

#[cfg(not(unix))]
fn identity(folder: &Path) -> Option<Identity> {
    folder.is_dir().then_some(())
}

fn sender(send: Sender<()>, sources: Arc<Mutex<BTreeSet<PathBuf>>>) -> impl Fn(notify::Result<notify::Event>) {
    move |event| {
        let Ok(event) = event else { return };
        if matches!(event.kind, EventKind::Access(_)) {
            return;
        }
        let is_known = |path: &PathBuf| sources.lock().unwrap_or_else(PoisonError::into_inner).contains(path);
        if event.paths.iter().any(|path| may_be_source(path) || is_known(path)) {
            // Nobody listens any more when the program ends.
            let _ = send.send(());
        }
    }
}

/// Editors' own files and whatever else is no source are left out.
fn may_be_source(path: &Path) -> bool {
    let is_hidden = path.file_name().is_some_and(|name| name.to_string_lossy().starts_with('.'));
    let extension = path.extension().map(|extension| extension.to_string_lossy().into_owned());
    // A folder that came or went may hold sources.
    !is_hidden && extension.is_none_or(|extension| ["toml", "json", "html", "stilk"].contains(&extension.as_str()))
}
