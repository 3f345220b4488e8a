//! `stilk explain`: what a check means, why, an example, the mend.

use crate::arguments::format::PageFormat;
use crate::output::explain;
use crate::output::failure::COMMAND;
use crate::{Failure, Outcome, say};
use stilk_checks::registry;
use stilk_language::ids;
use stilk_survey::fault;
use stilk_text::diagnostic::nearest;

/// Prints one check, or all of them.
pub fn run(id: Option<&str>, format: PageFormat) -> Result<Outcome, Failure> {
    match (id, format) {
        (Some(id), _) => match registry::find(id) {
            Some(check) => put!("{}", explain::one(check)),
            None => match (fault::find(id), said(id)) {
                (Some(kind), _) => put!("{}", explain::of_foreign(kind)),
                (None, Some(words)) => put!("{}", explain::of_reading(id, words)),
                (None, None) => return Err(unknown(id)),
            },
        },
        (None, PageFormat::Text) => put!("{}", explain::list()),
        (None, PageFormat::Markdown) => say::markup(&explain::page()),
    }
    Ok(Outcome::Clean)
}

/// What an id means that is no check's: it is said while sources are read, or of a command.
fn said(id: &str) -> Option<&'static str> {
    const OF_COMMAND: &str = "a command could not run as it was called";
    if id == COMMAND {
        return Some(OF_COMMAND);
    }
    ids::find(id).map(|(_, words)| *words)
}

/// There is no check with an id: which one may be meant.
pub fn unknown(id: &str) -> Failure {
    let all = registry::ids().into_iter().chain(fault::KINDS.map(|kind| kind.id));
    let all = all.chain(ids::READING.iter().map(|(id, _)| *id));
    let mend = match nearest(id, all) {
        Some(near) => format!("write `{near}`"),
        None => "`stilk explain` lists all checks".to_owned(),
    };
    Failure::Message(format!("error: there is no check `{id}`\n  {mend}"))
}
