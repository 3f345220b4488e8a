//! The core through its stages, on projects in memory.

mod broken_input;
mod checks;
mod memory;
mod precedence;
mod themes;
mod tokens;
