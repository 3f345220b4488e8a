//! The checks on projects in memory.

mod accuracy;
mod again;
mod broken_input;
mod checks;
#[path = "../../../stilk/tests/shared/depth.rs"]
mod depth;
mod examples;
mod judged;
#[path = "../../../stilk-language/tests/language/memory.rs"]
mod memory;
mod mends;
mod only;
mod planted;
mod probe;
mod relevance;
mod right;

/// The checks that sheets and manifests may name.
fn known_checks() -> Vec<&'static str> {
    stilk_checks::registry::ids()
}
