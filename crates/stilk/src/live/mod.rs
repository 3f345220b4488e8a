//! `stilk live`: the specimen on a loopback address, drawn anew on every save.

mod page;
mod project;
mod server;
mod state;
mod watch;

use crate::{Failure, Outcome};
use state::State;
use std::path::Path;
use std::sync::Arc;

/// Serves a project's specimen until the program is interrupted.
pub fn run(root: &Path, port: u16, quiet: bool) -> Result<Outcome, Failure> {
    if !root.is_dir() {
        return Err(Failure::Message(format!("error: there is no folder `{}`", root.display())));
    }
    let server = Arc::new(server::open(port)?);
    let state = Arc::new(State::default());
    // The same notation for what is watched and what is written, and what changes from here on is seen.
    let root = &root.canonicalize().unwrap_or_else(|_| root.to_owned());
    let changes = watch::changes(root)?;
    let stop = Arc::clone(&server);
    ctrlc::set_handler(move || stop.unblock())
        .map_err(|why| Failure::Message(format!("error: Ctrl-C cannot be caught: {why}")))?;
    let address = server::address(&server);
    let mut written = project::draw(root, &state);
    if !quiet {
        anstream::println!("http://{address}/ shows the specimen; Ctrl-C ends it");
    }
    let drawing = (root.to_owned(), Arc::clone(&state));
    std::thread::spawn(move || {
        let (root, state) = drawing;
        while changes.wait(written.as_deref()) {
            // A folder that cannot be read for a moment is still the one that is written to.
            written = project::draw(&root, &state).or(written);
        }
    });
    server::serve(&server, &state, root);
    // The drawing ends with the process: files are written whole or not at all.
    if !quiet {
        anstream::println!("ended");
    }
    Ok(Outcome::Clean)
}
