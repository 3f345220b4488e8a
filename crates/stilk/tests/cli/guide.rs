//! The guide and the recipes, as somebody would follow them.

use crate::support::Project;
use crate::walk;

#[test]
fn a_button_in_all_its_hosts() {
    walk::through("docs/guide/button.md", &Project::empty());
}

#[test]
fn themes_without_repeating() {
    walk::through("docs/guide/themes.md", &Project::empty());
}

#[test]
fn states_people_forget() {
    walk::through("docs/guide/states.md", &Project::empty());
}

#[test]
fn a_switch_by_arithmetic() {
    walk::through("docs/guide/switch.md", &Project::empty());
}

#[test]
fn a_release_nobody_fears() {
    walk::through("docs/guide/release.md", &Project::empty());
}

#[test]
fn the_recipes_for_pipelines() {
    walk::through("docs/ci.md", &Project::empty());
}

#[test]
fn pages_are_streamed_as_documented() {
    walk::through("docs/scale.md", &Project::empty());
}
