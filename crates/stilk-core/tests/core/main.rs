//! The core through its stages, on projects in memory.

mod attached;
mod broken_input;
#[path = "../cases/mod.rs"]
mod cases;
mod checks;
mod memory;
mod placed;
mod plain_css;
mod precedence;
mod relevance;
mod spec;
mod themes;
mod tokens;
