//! Checks of the group `token`: a file each.

mod cycle;
mod deprecated;
mod literal;
mod near_twin;
mod theme_gap;
mod r#type;
mod unknown;
mod unused;

use crate::judged::{BUTTON, project};
use crate::memory::Memory;
use stilk_checks::example::Example;

/// The project with more tokens.
fn with(tokens: &str, body: &str) -> Memory {
    project(BUTTON, body).file("example.tokens.json", &format!("{{{}, {tokens}}}", Example::TOKENS))
}

/// While these tokens and a sheet are read, a check tells something with these words in it.
#[track_caller]
fn is_told(check: &str, tokens: &str, body: &str, words: &str) {
    let project = with(tokens, body).load();
    let told = project.diagnostics.iter().map(|d| (d.id, d.message.as_str())).collect::<Vec<_>>();
    assert!(told.iter().any(|(id, message)| *id == check && message.contains(words)), "{tokens} {body}: {told:?}");
}
