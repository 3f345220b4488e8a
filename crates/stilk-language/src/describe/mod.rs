//! The system for programs: its machine-readable description ([`system`]), types for class names ([`types`]), and its
//! tokens as every theme resolves them, in the tokens standard ([`tokens`]); and schemas of what people write ([`schema`]).

pub mod schema;
pub mod system;
pub mod tokens;
pub mod types;

use crate::stylesheet::written_tokens;
use crate::system::System;
use serde_json::Value;

/// A description as a file has it: two spaces of indent and a line break at the end.
pub fn to_text(value: &Value) -> String {
    let mut text = serde_json::to_string_pretty(value).unwrap_or_default();
    text.push('\n');
    text
}

/// The tokens that a description lists: those that the stylesheet has.
fn listed(system: &System) -> impl Iterator<Item = crate::tokens::TokenId> {
    let tokens = &system.tokens;
    written_tokens(system).into_iter().filter(|id| !tokens.get(*id).is_member)
}
