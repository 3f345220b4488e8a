//! The core through its stages, on projects in memory.

mod broken_input;
#[path = "../cases/mod.rs"]
mod cases;
mod checks;
mod memory;
mod placed;
mod precedence;
mod spec;
mod themes;
mod tokens;
