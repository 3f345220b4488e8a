//! `stilk live`: the specimen on a loopback address, drawn anew on every save.

mod answer;
mod body;
mod connections;
mod page;
mod project;
mod server;
mod state;
mod workbench;

use crate::{Failure, Outcome, say};
use answer::Site;
use project::Drawing;
use state::State;
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};
use workbench::Workbench;

/// What was asked.
pub struct Request<'r> {
    /// Where outputs go, where that is said.
    pub out: Option<&'r Path>,
    /// The port; 0 for any that is free.
    pub port: u16,
    /// Whether the browser is opened.
    pub open: bool,
    /// Whether nothing is printed.
    pub quiet: bool,
    /// Whether nothing can be set by hand.
    pub read_only: bool,
}

/// Serves a project's specimen until the program is told to end.
pub fn run(root: &Path, request: &Request) -> Result<Outcome, Failure> {
    if !root.is_dir() {
        return Err(Failure::Message(format!("error: there is no folder `{}`", root.display())));
    }
    let listener = server::open(request.port)?;
    let port = listener.local_addr().map_or(request.port, |address| address.port());
    let state = Arc::new(State::new(request.read_only));
    // The same notation for what is watched and what is written, and what changes from here on is seen.
    let root = root.canonicalize().unwrap_or_else(|_| root.to_owned());
    let mut changes = crate::watch::Changes::new(&root)?;
    // Held while files are written: the program ends when they are whole.
    let busy = Arc::new(Mutex::new(()));
    let held = Arc::clone(&busy);
    let workbench = Arc::new(Workbench::new(&root, request.out, Arc::clone(&busy)));
    let mut drawing = Drawing::new(&root, request.out, Arc::clone(&state), Arc::clone(&workbench));
    changes.follow(&drawing.draw());
    std::thread::spawn(move || {
        while changes.wait() {
            let _held = held.lock().unwrap_or_else(PoisonError::into_inner);
            changes.follow(&drawing.draw());
        }
    });
    let (open, quiet) = (request.open, request.quiet);
    server::serve(listener, Site { state, root, port, workbench }, || {
        let address = format!("http://127.0.0.1:{port}/");
        if !quiet {
            say!("{address} shows the specimen; Ctrl-C ends it");
            say::flush();
        }
        if open && let Err(why) = open::that_detached(&address) {
            tell!("warning: the browser cannot be opened: {why}");
        }
    })?;
    let _written = busy.lock().unwrap_or_else(PoisonError::into_inner);
    if !request.quiet {
        say!("ended");
    }
    Ok(Outcome::Clean)
}
