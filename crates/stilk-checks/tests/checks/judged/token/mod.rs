//! Fonts and tokens.

mod literal;
mod near_twin;

use crate::judged::{BUTTON, project, verdict};
use crate::memory::Memory;
use stilk_checks::example::Example;

/// The project with more tokens.
fn with(tokens: &str, body: &str) -> Memory {
    project(BUTTON, body).file("example.tokens.json", &format!("{{{}, {tokens}}}", Example::TOKENS))
}

#[test]
fn tokens_are_used_and_none_that_is_to_go() {
    let unused = |body: &str| {
        verdict("token/unused", &with("\"wide\": { \"$type\": \"dimension\", \"$value\": { \"value\": 20, \"unit\": \"px\" } }, \"far\": { \"$type\": \"dimension\", \"$value\": \"{wide}\" }", body)).0
    };
    let all = "color: {ink}; background: {sea}; border-color: {mist}; outline-color: {rust}; padding: {gap};";
    assert_eq!(unused(&format!("{all} margin: {{far}};")), Vec::<String>::new());
    let found = unused(all);
    assert!(found.iter().any(|message| message.contains("`far`")), "{found:?}");
    let old = "\"old\": { \"$type\": \"color\", \"$value\": \"{sea}\", \"$deprecated\": \"use sea\" }";
    assert_eq!(verdict("token/deprecated", &with(old, "color: {sea};")).0, Vec::<String>::new());
    for body in ["color: {old};", "@option loud { color: {old}; }", "color: color-mix(in oklab, {old}, {ink});"] {
        let found = verdict("token/deprecated", &with(old, body)).0;
        assert!(found.len() == 1 && found[0].contains("`old`"), "{body}: {found:?}");
    }
}

#[test]
fn what_is_wrong_with_tokens_is_told_while_they_are_read() {
    let told = |tokens: &str, body: &str| {
        let project = with(tokens, body).load();
        project.diagnostics.iter().map(|d| (d.id, d.message.clone())).collect::<Vec<_>>()
    };
    for (tokens, body, id, words) in [
        (
            "\"day\": { \"$type\": \"color\", \"$value\": \"{dusk}\" }, \"dusk\": { \"$type\": \"color\", \"$value\": \"{day}\" }",
            "color: {day};",
            "token/cycle",
            "day",
        ),
        ("\"day\": { \"$type\": \"color\", \"$value\": \"{day}\" }", "color: {day};", "token/cycle", "day"),
        ("\"day\": { \"$type\": \"color\", \"$value\": \"{dsk}\" }", "color: {day};", "token/unknown", "dsk"),
        ("\"day\": { \"$type\": \"colour\", \"$value\": \"{sea}\" }", "color: {day};", "token/type", "colour"),
        (
            "\"day\": { \"$type\": \"dimension\", \"$value\": { \"value\": 4, \"unit\": \"pt\" } }",
            "padding: {day};",
            "token/value",
            "pt",
        ),
        ("\"day\": { \"$type\": \"color\", \"$value\": \"{sea}\" }", "color: {dya};", "token/unknown", "dya"),
    ] {
        let told = told(tokens, body);
        assert!(
            told.iter().any(|(found, message)| *found == id && message.contains(words)),
            "{tokens} {body}: {told:?}"
        );
    }
}
