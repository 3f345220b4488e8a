//! From sources to what is served: first what repaints the page, then what takes longer.

use super::state::State;
use crate::commands::{Loaded, build, specimen};
use crate::output::plain;
use std::path::{Path, PathBuf};
use std::time::Duration;

/// How long the browser may take to paint before what takes longer begins.
const LET_PAINT: Duration = Duration::from_millis(90);

/// Reads the project and tells the state; returns the folder that its files were written to.
pub fn draw(root: &Path, state: &State) -> Option<PathBuf> {
    let loaded = match Loaded::load(root) {
        Ok((loaded, _)) => loaded,
        Err(said) => {
            state.set_errors(Some(plain(&said)));
            return None;
        }
    };
    let folder = loaded.folder();
    state.set_styles(stilk_views::specimen::stylesheets(&loaded.system, &loaded.sources));
    // The browser paints now, on the same cores.
    std::thread::sleep(LET_PAINT);
    // Files that cannot be written are an error of the project's, not the end of the looking.
    let errors = match build::write(&loaded, false) {
        Ok(_) => None,
        Err(why) => Some(why.to_string()),
    };
    state.set_errors(errors);
    let page = specimen::draw(&loaded);
    state.set_page(page, folder.clone());
    Some(folder)
}
