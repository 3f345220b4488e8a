//! `stilk tokens`.

use crate::support::Project;

#[test]
fn all_tokens_are_listed_with_their_values() {
    Project::pier().run(&["tokens"]).status(0).stdout("tokens-all.txt");
}

#[test]
fn one_token_shows_its_values_and_what_depends_on_it() {
    let project = Project::pier();
    project.run(&["tokens", "fill.buoy"]).status(0).stdout("tokens-one.txt");
    // Braces may be pasted along.
    let said = project.run(&["tokens", "{fill.buoy}"]).status(0);
    assert!(said.stdout.starts_with("fill.buoy (color)"));
    let said = project.run(&["tokens", "fill.boy"]).status(2);
    assert_eq!(said.stderr, "error: there is no token `fill.boy`: write `fill.buoy`\n");
}

#[test]
fn reach_goes_through_aliases_and_counts_cases() {
    let project = Project::pier();
    let said = project.run(&["tokens", "buoy.rust"]).status(0);
    assert!(said.stdout.contains("built on it: fill.buoy"), "{}", said.stdout);
    // One colour of three, on every host, in every state, size, voice and theme.
    assert!(said.stdout.ends_with("1 declaration, in 540 of 1,620 cases\n"), "{}", said.stdout);
    let unused = project.run(&["tokens", "gull.grey"]).status(0);
    assert!(unused.stdout.ends_with("0 declarations, in 0 of 1,620 cases\n"), "{}", unused.stdout);
}

#[test]
fn a_value_is_tried_and_nothing_is_written() {
    let project = Project::pier();
    let before = project.files("");
    let said = project.run(&["tokens", "fill.buoy", "--try", "oklch(0.7 0.18 28)"]);
    // Warnings and errors that come make it fail, as a check would.
    said.status(1).stdout("tokens-try.txt");
    assert_eq!(project.files(""), before, "nothing is written");
    let said = project.run(&["tokens", "{buoy.rust}", "--try", "{buoy.rusty}"]).status(2);
    assert!(said.stderr.contains("there is no token `buoy.rusty`"), "{}", said.stderr);
    let said = project.run(&["tokens", "fill.buoy", "--try", "12px"]).status(2);
    assert!(said.stderr.contains("`12px` is not a colour that a token can hold"), "{}", said.stderr);
    let said = project.run(&["tokens", "fill.buoy", "--try", "red", "--theme", "nite"]).status(2);
    assert!(said.stderr.contains("there is no context `nite`: write one of"), "{}", said.stderr);
    let said = project.run(&["tokens", "fill.boy", "--try", "red"]).status(2);
    assert_eq!(said.stderr, "error: there is no token `fill.boy`: write `fill.buoy`\n");
    // In one theme only its own cases are reached.
    let said = project.run(&["tokens", "fill.buoy", "--try", "{buoy.rust}", "--theme", "night"]);
    assert!(said.stdout.contains("in night"), "{}", said.stdout);
}
