//! `stilk manual`: manual pages, as packages install them.

use crate::arguments::Arguments;
use crate::{Failure, Outcome, disk};
use clap::CommandFactory;
use clap_mangen::Man;
use std::path::Path;

/// Writes `stilk.1`, and `stilk-COMMAND.1` for each command that is shown.
pub fn run(to: &Path) -> Result<Outcome, Failure> {
    let mut command = Arguments::command().disable_help_subcommand(true);
    command.build();
    let shown = command.get_subcommands().filter(|one| !one.is_hide_set());
    for page in std::iter::once(&command).chain(shown).map(|one| Man::new(one.clone())) {
        let name = page.get_filename();
        let mut text = Vec::new();
        let failed = |why: String| Failure::Message(format!("error: cannot write `{name}`: {why}"));
        page.render(&mut text).map_err(|why| failed(why.to_string()))?;
        disk::write(&to.join(&name), &String::from_utf8_lossy(&text)).map_err(failed)?;
    }
    Ok(Outcome::Clean)
}
