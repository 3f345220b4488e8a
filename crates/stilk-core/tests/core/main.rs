//! The core through its stages, on projects in memory.

mod any_input;
mod attached;
mod broken_input;
#[path = "../cases/mod.rs"]
mod cases;
mod checks;
mod examples;
mod geometry;
mod judged;
mod layout;
mod memory;
mod placed;
mod plain_css;
mod precedence;
#[path = "../random/mod.rs"]
mod random;
mod references;
mod relevance;
mod resets;
mod spec;
mod themes;
mod tokens;
