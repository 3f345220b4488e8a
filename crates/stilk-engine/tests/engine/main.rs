//! The engine on its own: HTML and CSS in, computed styles and boxes out.

mod any_input;
#[path = "../cases/mod.rs"]
mod cases;
mod layout;
mod pages;
#[path = "../random/mod.rs"]
mod random;
mod references;
#[path = "../../../stilk/tests/shared/soup.rs"]
mod soup;
mod spec;
