//! The language through its stages, on projects in memory.

mod any_input;
mod as_written;
mod attached;
mod boxes;
mod documented;
mod habits;
mod marked;
mod memory;
mod placed;
mod plain_css;
mod precedence;
mod resets;
#[path = "../../../stilk/tests/shared/soup.rs"]
mod soup;
mod themes;
mod tokens;
mod variant_space;

/// The checks that sheets and manifests may name; which there are is not known here.
fn known_checks() -> Vec<&'static str> {
    vec!["contrast/boundary", "contrast/text", "state/leak"]
}
