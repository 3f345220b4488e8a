//! `stilk markup`: the HTML of one variant, ready to paste.

use super::Loaded;
use crate::{Failure, Outcome, say};
use std::path::Path;
use stilk_language::markup::{Request, snippet};
use stilk_language::system::notation as case_name;

/// Prints the markup of a case. `id` begins the ids in it; the control's name when none is given.
pub fn run(root: &Path, case: &str, id: Option<&str>) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let named = case_name::parse(&loaded.system, case).map_err(|why| Failure::Message(format!("error: {why}")))?;
    let request = Request {
        control: named.control,
        host: named.host,
        variant: &named.variant,
        states: &named.states,
        plain: false,
    };
    let html = snippet(&loaded.system, request, id.unwrap_or(&named.control.name.value));
    say::markup(&format!("{html}\n"));
    Ok(Outcome::Clean)
}
