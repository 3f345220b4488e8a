//! What people look at, drawn from projects in memory.

#[path = "../../../stilk/tests/shared/depth.rs"]
mod depth;
#[path = "../../../stilk/tests/shared/injection.rs"]
mod injection;
mod words;
