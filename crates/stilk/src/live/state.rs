//! What the server has to tell: the page, its stylesheets, what is wrong with the sources. Each with the version in which it
//! became another.

use std::path::PathBuf;
use std::sync::{Condvar, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

/// What is known of the project, and who waits for news of it.
#[derive(Default)]
pub struct State {
    known: Mutex<Known>,
    news: Condvar,
}

/// What is known of the project.
#[derive(Default, Clone)]
pub struct Known {
    /// Grows with everything that becomes another.
    pub version: u64,
    /// The stylesheets of pictures and of controls to try, and since when.
    pub styles: (u64, [String; 2]),
    /// The page, and since when.
    pub page: (u64, String),
    /// What is wrong with the sources, and since when.
    pub errors: (u64, Option<String>),
    /// The folder that the stylesheet is written to, which may hold fonts and pictures.
    pub folder: Option<PathBuf>,
}

impl State {
    fn lock(&self) -> MutexGuard<'_, Known> {
        // A thread that panicked left whole values behind: each is set at once.
        self.known.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// What is known now.
    pub fn known(&self) -> Known {
        self.lock().clone()
    }

    /// Waits until something is newer than a version, for a while.
    pub fn newer(&self, than: u64, most: Duration) -> Known {
        let end = Instant::now() + most;
        let mut known = self.lock();
        while known.version <= than {
            let left = end.saturating_duration_since(Instant::now());
            if left.is_zero() {
                break;
            }
            known = self.news.wait_timeout(known, left).unwrap_or_else(PoisonError::into_inner).0;
        }
        known.clone()
    }

    /// Changes what is known; the change gets the next version.
    fn change(&self, change: impl FnOnce(&mut Known, u64)) {
        let mut known = self.lock();
        known.version += 1;
        let version = known.version;
        change(&mut known, version);
        self.news.notify_all();
    }

    /// The stylesheets, where they are others.
    pub fn set_styles(&self, styles: [String; 2]) {
        if self.lock().styles.1 != styles {
            self.change(|known, version| known.styles = (version, styles));
        }
    }

    /// The page, where it is another.
    pub fn set_page(&self, page: String, folder: PathBuf) {
        if self.lock().page.1 != page {
            self.change(|known, version| {
                known.page = (version, page);
                known.folder = Some(folder);
            });
        }
    }

    /// What is wrong; nothing when all is well.
    pub fn set_errors(&self, errors: Option<String>) {
        if self.lock().errors.1 != errors {
            self.change(|known, version| known.errors = (version, errors));
        }
    }
}
