//! What people and programs read: one renderer per format, all from the same diagnostics.

pub mod explain;
pub mod fingerprint;
pub mod json;
pub mod markdown;
pub mod matrix;
pub mod pairs;
pub mod sarif;
pub mod source_map;
pub mod terminal;
pub mod why;

pub use stilk_core::diagnostic::grouped;

/// `1 case`, `2 cases`.
pub fn count(number: u64, noun: &str) -> String {
    format!("{} {noun}{}", grouped(number), if number == 1 { "" } else { "s" })
}

/// Text without the colours of a terminal.
pub fn plain(text: &str) -> String {
    anstream::adapter::strip_str(text).to_string()
}
