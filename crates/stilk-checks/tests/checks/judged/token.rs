//! Fonts and tokens.

use super::{BUTTON, fails, passes, project, verdict};
use crate::memory::Memory;
use stilk_checks::example::Example;

/// The project with more tokens.
fn with(tokens: &str, body: &str) -> Memory {
    project(BUTTON, body).file("example.tokens.json", &format!("{{{}, {tokens}}}", Example::TOKENS))
}

#[test]
fn a_stack_of_fonts_ends_in_a_generic_family() {
    passes(
        "font/fallback",
        BUTTON,
        &[
            "font-family: \"Skerry Grotesk\", sans-serif;",
            "font: 600 1rem/1.5 \"Skerry Grotesk\", system-ui;",
            "font-family: monospace;",
            // What is around decides.
            "font-family: inherit;",
            "font: inherit;",
            "font-family: ui-rounded, \"Skerry Grotesk\", serif;",
        ],
    );
    fails(
        "font/fallback",
        BUTTON,
        &[
            ("font-family: \"Skerry Grotesk\";", "Skerry Grotesk"),
            ("font: 1rem/1.5 Skerry, \"Tern Sans\";", "Tern Sans"),
            ("@state selected { font-family: Skerry; }", "Skerry"),
            // Quoted, it is the name of a font.
            ("font-family: Skerry, \"serif\";", "serif"),
        ],
    );
}

#[test]
fn lines_are_as_high_as_their_type() {
    passes(
        "font/line",
        BUTTON,
        &[
            "font-size: 20px; line-height: 1;",
            "font-size: 20px; line-height: 20px;",
            "font: 16px/24px sans-serif; @option small { font-size: 12px; }",
            "line-height: normal;",
        ],
    );
    fails(
        "font/line",
        BUTTON,
        &[
            ("font-size: 20px; line-height: .9;", ""),
            ("font-size: 20px; line-height: 19px;", "19px"),
            ("font: 16px/20px sans-serif; @option large { font-size: 24px; }", "20px"),
            ("font-size: 20px; line-height: 80%;", "16px"),
        ],
    );
}

#[test]
fn colours_are_tokens() {
    passes(
        "token/literal",
        BUTTON,
        &[
            "color: {ink}; background: {paper};",
            "color: color-mix(in oklab, {ink}, {paper} 20%);",
            "color: oklch(from {ink} l c h / 50%);",
            "background: linear-gradient({sea}, transparent);",
            // What is no colour of the system's own.
            "color: currentcolor; background: transparent; border-color: inherit;",
            "@media (forced-colors: active) { border-color: ButtonText; }",
        ],
    );
    fails(
        "token/literal",
        BUTTON,
        &[
            ("color: #17324d;", "#17324d"),
            ("color: rebeccapurple;", "rebeccapurple"),
            ("background: linear-gradient({sea}, oklch(0.5 0.1 200));", "oklch(0.5 0.1 200)"),
            ("--tint: rgb(1 2 3); color: var(--tint);", "rgb(1 2 3)"),
            ("color: color-mix(in oklab, {ink}, hsl(200 50% 40%));", "hsl(200 50% 40%)"),
            ("box-shadow: 0 1px 2px rgb(0 0 0 / 20%);", "rgb(0 0 0 / 20%)"),
        ],
    );
}

#[test]
fn no_two_colours_are_nearly_the_same() {
    let twins = |tokens: &str| verdict("token/near-twin", &with(tokens, "color: {ink};")).0;
    let oklch = |name: &str, lightness: &str| {
        format!(
            "\"{name}\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"oklch\", \"components\": [{lightness}, 0.1, 230] }} }}"
        )
    };
    assert_eq!(twins(&oklch("wave", "0.48")), Vec::<String>::new());
    // An alias is meant to be the same.
    assert_eq!(twins("\"wave\": { \"$type\": \"color\", \"$value\": \"{sea}\" }"), Vec::<String>::new());
    let found = twins(&oklch("wave", "0.452"));
    assert!(found.len() == 1 && found[0].contains("`wave`") && found[0].contains("`sea`"), "{found:?}");
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
