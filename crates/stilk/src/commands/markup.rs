//! `stilk markup`: the HTML of one variant, ready to paste.

use super::Loaded;
use crate::{Failure, Outcome};
use std::path::Path;
use stilk_core::case_name;
use stilk_core::dom::Document;
use stilk_core::engine::Forced;
use stilk_core::markup::{Request, mount, own_ids};

/// Prints the markup of a case. `id` begins the ids in it; the control's name when none is given.
pub fn run(root: &Path, case: &str, id: Option<&str>) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let named = case_name::parse(&loaded.system, case).map_err(|why| Failure::Message(format!("error: {why}")))?;
    let mut document = Document::new();
    let request = Request { control: named.control, host: named.host, variant: &named.variant, states: &named.states };
    let mut forced = Forced::default();
    let mounted = mount(&loaded.system, request, &mut document, Document::ROOT, &mut forced);
    own_ids(&mut document, mounted.host, id.unwrap_or(&named.control.name.value));
    anstream::println!("{}", document.to_html(mounted.host));
    Ok(Outcome::Clean)
}
