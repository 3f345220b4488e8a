//! What stands at the cursor, in text that may be half-written: found by reading from the start of the file, not from a tree.

pub mod json;
pub mod markup;
pub mod sheet;
pub mod toml;
