//! What `adopt` makes of pages that a test writes: nothing is read from disk.

#[path = "../../../stilk-engine/tests/random/mod.rs"]
mod random;

mod any_page;
mod controls;
mod kept;
mod orders;
mod support;
mod themes;
