//! `stilk build`: the stylesheet.

use super::Loaded;
use crate::output::count;
use crate::{Failure, Outcome};
use std::path::Path;
use stilk_core::stylesheet::Written;

/// Builds a project.
pub fn run(root: &Path, minify: bool, quiet: bool) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let written = match minify {
        true => stilk_core::stylesheet::write_compact(&loaded.system, &loaded.sources),
        false => loaded.stylesheet(),
    };
    let line = write(&loaded, &written)?;
    if !quiet {
        anstream::println!("{line}");
    }
    Ok(Outcome::Clean)
}

/// Writes the stylesheet and says what is in it.
pub(super) fn write(loaded: &Loaded, written: &Written) -> Result<String, Failure> {
    let path = loaded.output(&loaded.stylesheet_name());
    loaded.write(&path, &written.text)?;
    let system = &loaded.system;
    let variants: usize = system.controls.iter().map(|control| control.variant_count(0)).sum();
    Ok(format!(
        "{} ({:.1} kB): {}, {}, {}",
        loaded.shown(&path),
        written.text.len() as f64 / 1000.0,
        count(system.controls.len() as u64, "control"),
        count(variants as u64, "variant"),
        count(system.tokens.themes().len() as u64, "theme"),
    ))
}
