//! What the server has to tell: the page, its stylesheets, what is wrong with the sources. Each with the version in which it
//! became another.

use super::page::Frame;
use serde_json::{Value, json};
use std::hash::BuildHasher;
use std::path::PathBuf;
use std::sync::Arc;
use tokio::sync::watch::{Receiver, Sender};

/// What is known of the project, and who waits for news of it.
pub struct State {
    known: Sender<Arc<Known>>,
    /// Which run of the program this is: versions of another one say nothing.
    pub run: String,
    /// What is put around the page.
    pub frame: Frame,
    /// What only this run's own page knows, and sends along where it sets values; nothing where none are set.
    pub secret: Option<String>,
}

/// What is known of the project.
#[derive(Default, Clone)]
pub struct Known {
    /// Grows with everything that becomes another.
    pub version: u64,
    /// The stylesheets of pictures and of controls to try, and since when.
    pub styles: (u64, Arc<[String; 2]>),
    /// The page, and since when.
    pub page: (u64, Arc<str>),
    /// What is wrong with the sources, and since when.
    pub errors: (u64, Option<String>),
    /// The folder that the stylesheet is written to, which may hold fonts and pictures.
    pub folder: Option<PathBuf>,
}

/// A hundred and twenty-eight bits that nobody guesses: SipHash under a key of the system's.
fn secret() -> String {
    let keyed = std::collections::hash_map::RandomState::new();
    format!("{:016x}{:016x}", keyed.hash_one(0), keyed.hash_one(1))
}

impl State {
    /// Of a run in which values are set, or in which none are.
    pub fn new(read_only: bool) -> State {
        let run = format!("{:08x}", fastrand::u32(..));
        let secret = (!read_only).then(secret);
        State { known: Sender::new(Arc::default()), run, frame: Frame::default(), secret }
    }

    /// What is known now.
    pub fn known(&self) -> Arc<Known> {
        Arc::clone(&self.known.borrow())
    }

    /// What will be known.
    pub fn follow(&self) -> Receiver<Arc<Known>> {
        self.known.subscribe()
    }

    /// Changes what is known where that makes a difference; the change gets the next version.
    fn change(&self, change: impl FnOnce(&mut Known, u64) -> bool) {
        self.known.send_if_modified(|known| {
            let mut next = Known::clone(known);
            let version = next.version + 1;
            let is_other = change(&mut next, version);
            if is_other {
                next.version = version;
                *known = Arc::new(next);
            }
            is_other
        });
    }

    /// The stylesheets.
    pub fn set_styles(&self, styles: [String; 2]) {
        self.change(|known, version| {
            let is_other = *known.styles.1 != styles;
            known.styles = (version, Arc::new(styles));
            is_other
        });
    }

    /// The page, and the folder that it stands in.
    pub fn set_page(&self, page: &str, folder: PathBuf) {
        self.change(|known, version| {
            let is_other = &*known.page.1 != page;
            known.page = (version, page.into());
            known.folder = Some(folder);
            is_other
        });
    }

    /// What is wrong; nothing when all is well.
    pub fn set_errors(&self, errors: Option<String>) {
        self.change(|known, version| {
            let is_other = known.errors.1 != errors;
            known.errors = (version, errors);
            is_other
        });
    }
}

impl Known {
    /// What is newer than a version.
    pub fn news(&self, than: u64) -> Value {
        let mut news = json!({ "version": self.version });
        if self.styles.0 > than {
            news["styles"] = json!(*self.styles.1);
        }
        if self.page.0 > than {
            news["page"] = json!(true);
        }
        if self.errors.0 > than {
            news["errors"] = json!(self.errors.1);
        }
        news
    }
}
