//! `stilk explain`: what a check means, why, an example, the mend.

use crate::output::explain;
use crate::{Failure, Outcome, PageFormat, say};
use stilk_checks::registry;
use stilk_text::diagnostic::nearest;

/// Prints one check, or all of them.
pub fn run(id: Option<&str>, format: PageFormat) -> Result<Outcome, Failure> {
    match (id, format) {
        (Some(id), _) => match registry::find(id) {
            Some(check) => put!("{}", explain::one(check)),
            None => return Err(unknown(id)),
        },
        (None, PageFormat::Text) => put!("{}", explain::list()),
        (None, PageFormat::Markdown) => say::markup(&explain::page()),
    }
    Ok(Outcome::Clean)
}

/// There is no check with an id: which one may be meant.
pub fn unknown(id: &str) -> Failure {
    let mend = match nearest(id, registry::ids()) {
        Some(near) => format!("write `{near}`"),
        None => "`stilk explain` lists all checks".to_owned(),
    };
    Failure::Message(format!("error: there is no check `{id}`\n  {mend}"))
}
