//! What a terminal gets: nothing that it would obey, whoever wrote it; and what happens when nobody takes what is printed.

use crate::support::Project;
use std::process::Stdio;

/// Clears the screen, renames the window, in two notations.
const EVIL: &str = "\u{1b}[2J\u{1b}]0;evil\u{7}\u{9b}2J";

fn is_harmless(text: &str) -> bool {
    let sgr = text.split('\u{1b}').skip(1).all(|part| {
        part.strip_prefix('[').is_some_and(|rest| {
            let end = rest.find(|c: char| !c.is_ascii_digit() && c != ';').unwrap_or(rest.len());
            rest[end..].starts_with('m')
        })
    });
    sgr && !text.chars().any(|c| c.is_control() && !matches!(c, '\n' | '\t' | '\u{1b}'))
}

#[test]
fn control_characters_are_shown_and_never_sent() {
    let project = Project::pier();
    let json = serde_json::to_string(EVIL).unwrap();
    let tokens =
        project.read("tokens/day.tokens.json").replacen('{', &format!("{{ {json}: 1, \"$description\": {json},"), 1);
    let evil = Project::pier().file("tokens/day.tokens.json", tokens).edit(
        "controls/button.stilk",
        "@control button {",
        &format!("@control button {{ /* {EVIL} */ colr{EVIL}: red;"),
    );
    let page =
        format!("<!doctype html><link rel=stylesheet href='{EVIL}.css'><button class='tern-button tern-{EVIL}'>x");
    project.write(&format!("{EVIL}.html"), &page);
    project.run(&["build"]).status(0);
    let named = format!("{EVIL}.html");
    for (project, arguments) in [
        (&evil, vec!["build"]),
        (&evil, vec!["check", "--format", "json"]),
        (&project, vec!["scan", &named]),
        (&project, vec!["scan", &named, "--format", "json"]),
        (&project, vec!["scan", &named, "--format", "markdown"]),
        (&project, vec!["scan", &named, "--format", "sarif"]),
        (&project, vec!["why", "--page", &named, "button", "color"]),
        (&project, vec!["why", EVIL, "color"]),
        (&project, vec!["markup", EVIL]),
        (&project, vec!["tokens", EVIL]),
        (&project, vec!["explain", EVIL]),
        (&project, vec!["contrast", EVIL, EVIL]),
        (&project, vec!["specimen", "--terminal", EVIL]),
        (&project, vec!["build", "--project", EVIL]),
        (&project, vec!["compare", EVIL]),
        (&project, vec![EVIL]),
        (&project, vec!["build", "--colour", EVIL]),
        (&project, vec!["check", "--only", EVIL]),
        (&project, vec!["check", "--against", EVIL]),
    ] {
        for forced in ["0", "1"] {
            let output = project.command(&arguments).env("CLICOLOR_FORCE", forced).output().unwrap();
            let text = String::from_utf8(output.stdout).unwrap() + &String::from_utf8(output.stderr).unwrap();
            assert!(is_harmless(&text), "{arguments:?}: {text:?}");
            assert!(!text.contains("panicked"), "{arguments:?}: {text}");
        }
    }
}

#[test]
fn a_full_disk_and_a_reader_that_goes_away_end_it_with_words() {
    let project = Project::demo();
    project.run(&["build"]).status(0);
    for arguments in [
        &["check"][..],
        &["check", "--format", "json"],
        &["contrast"],
        &["contrast", "--format", "html"],
        &["explain"],
        &["tokens"],
        &["markup", "button"],
        &["scan", "pages"],
        &["why", "button", "color"],
        &["build", "--explain-resets"],
        &["specimen", "--terminal", "button"],
        &["compare", "."],
        &["--help"],
        &["--version"],
    ] {
        let full = std::fs::File::options().write(true).open("/dev/full").expect("/dev/full");
        let output = project.command(arguments).stdout(full).stderr(Stdio::piped()).output().unwrap();
        let said = String::from_utf8_lossy(&output.stderr).into_owned();
        assert_eq!(output.status.code(), Some(2), "{arguments:?}: {said}");
        assert!(said.contains("error: the output could not be written"), "{arguments:?}: {said}");
        assert!(!said.contains("panicked"), "{arguments:?}: {said}");
    }
}
