//! What people look at, drawn from projects in memory.

#[path = "../../../stilk/tests/shared/depth.rs"]
mod depth;
mod words;
