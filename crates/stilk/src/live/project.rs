//! From sources to what is served: first what repaints the page, then what takes longer.

use super::state::State;
use super::workbench::Workbench;
use crate::commands::{Loaded, build, specimen};
use crate::say::plain;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;
use stilk_checks::run::memory::Memory;

/// How long the browser may take to paint before what takes longer begins.
const LET_PAINT: Duration = Duration::from_millis(90);

/// How long a file may be half-written.
const MOMENT: Duration = Duration::from_millis(30);

/// Draws a project again and again.
pub struct Drawing {
    root: PathBuf,
    out: Option<PathBuf>,
    state: Arc<State>,
    /// What was drawn last.
    drawn: Option<u64>,
    memory: Memory,
    /// What is asked of the project while values are set by hand.
    workbench: Arc<Workbench>,
}

impl Drawing {
    /// Draws the project in a folder into a state.
    pub fn new(root: &Path, out: Option<&Path>, state: Arc<State>, workbench: Arc<Workbench>) -> Drawing {
        let (root, out) = (root.to_owned(), out.map(Path::to_owned));
        Drawing { root, out, state, drawn: None, memory: Memory::default(), workbench }
    }

    /// Reads the project and tells the state, where it says something else than before; gives what was read.
    pub fn draw(&mut self) -> BTreeSet<PathBuf> {
        let mut reading = Loaded::load(&self.root);
        // Some editors empty a file before they write it: what is wrong is wrong a moment later too.
        if reading.loaded.is_none() {
            std::thread::sleep(MOMENT);
            reading = Loaded::load(&self.root);
        }
        // Own outputs and editors' own files change nothing.
        if self.drawn.replace(reading.print) == Some(reading.print) {
            return reading.asked;
        }
        let Some(loaded) = reading.loaded.map(|loaded| loaded.with_out(self.out.as_deref())) else {
            self.state.set_errors(Some(plain(&reading.said)));
            return reading.asked;
        };
        self.state.set_styles(stilk_views::specimen::stylesheets(&loaded.system, &loaded.sources));
        // The browser paints now, on the same cores.
        std::thread::sleep(LET_PAINT);
        // Files that cannot be written are an error of the project's, not the end of the looking.
        let errors = build::write(&loaded, false).err().map(|why| plain(&why.to_string()));
        self.state.set_errors(errors);
        let (page, report) = specimen::draw(&loaded, &mut self.memory);
        let folder = loaded.folder();
        self.workbench.set(Arc::new(loaded), report, &self.memory);
        self.state.set_page(&page, folder);
        reading.asked
    }
}
