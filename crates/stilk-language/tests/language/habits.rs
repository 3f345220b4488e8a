//! What is written by habit is told what does it here, at its place and once.

use crate::memory::Memory;
use stilk_text::diagnostic::Level;

const FIELDSET: &str = "<fieldset><legend part=\"legend\">Class</legend><label><input type=\"radio\" name=\"c\"> Deck</label><label><input type=\"radio\" name=\"c\"> Saloon</label></fieldset>";
const FIELD: &str = "<label><span part=\"label\">Name</span><input part=\"native\" type=\"checkbox\"></label>";

/// The errors of a body of a control, each as `what is pointed at: message | mend`.
fn errors(template: Option<&str>, body: &str) -> Vec<String> {
    let mut memory = Memory::with_sheet(&format!("@control x {{ {body} }}"));
    if let Some(template) = template {
        memory = memory.file("controls/x.html", template);
    }
    let project = memory.load();
    let errors = project.diagnostics.iter().filter(|diagnostic| diagnostic.level == Level::Error);
    errors
        .map(|diagnostic| {
            let at = diagnostic.span.map(|span| project.sources.text(span)).unwrap_or_default();
            format!("{at}: {} | {}", diagnostic.message, diagnostic.mend.clone().unwrap_or_default())
        })
        .collect()
}

#[test]
fn what_is_written_by_habit_leads_to_what_does_it_here() {
    for (template, body, at, words) in [
        (None, "&::after { content: \"\"; }", "::after", "write `@part ::after { … }`"),
        (
            None,
            "&:dir(rtl)::before { content: \"\"; }",
            ":dir(rtl)::before",
            "write `&:dir(rtl) { @part ::before { … } }`",
        ),
        (None, "& > svg { fill: red; }", "> svg", "write `part=\"svg\"` in the template and `@part svg { … }` here"),
        (None, "&--large { padding: 4px; }", "--large", "write `@option large { … }`"),
        (None, "&:hover { color: red; }", ":hover", "write `@state hover { … }`"),
        (Some(FIELD), "&:has(:checked) { color: red; }", ":has(:checked)", "write `@state checked { … }`"),
        (Some(FIELDSET), "&:has(:checked) { color: red; }", ":has(:checked)", "a control of its own, and place it"),
        (
            Some(FIELDSET),
            "@state checked { color: red; }",
            "checked",
            "in a control of the field itself, and place that",
        ),
        (None, "background: {a}80;", "80", "`color-mix(in srgb, {a} 50%, transparent)`"),
        (None, "padding: {gap}2;", "2", "`calc({gap} * 12)`"),
        (None, "color: var(--t-a);", "--t-a", "write `{a}`"),
        (None, "border: 1px soild red;", "soild", "write `solid`"),
        (None, "border: 1px solid {a} dotted;", "solid", "take it away"),
        (None, "transition: color 120ms eaze;", "eaze", "write `ease`"),
        (None, "padding: 4 px;", "4 px", "write `4px`"),
        (None, "padding: 4 px 8 px;", "4 px", "write `4px`"),
        (None, "width: 100 %;", "100 %", "write `100%`"),
        (None, "flex: 1 1 0 px;", "0 px", "write `0px`"),
        (None, "// a comment\n colr: red;", "// a comment", "write `/* … */`"),
        (None, "$room: 4px;", "$room: 4px", "write a local, `--room: VALUE;`"),
        (None, "padding: $room;", "$room", "read by `var(--room)`, or a token, read by `{room}`"),
        (None, "@room: 4px;", "@room", "write a local, `--room: VALUE;`"),
        (None, "padding: @room;", "@room", "read by `var(--room)`"),
        (None, "@include ring;", "@include", "write `@traits NAME;`"),
        (None, "@mixin ring { color: red; }", "@mixin", "write `@trait NAME { … }`"),
        (None, "@if x { color: red; }", "@if", "write `@option`, `@state`"),
        (None, "@each $i in a { color: red; }", "@each", "write an `@axis`"),
        (None, "@layer base { color: red; }", "@layer", "take it away"),
        (None, "@stat hover { color: red; }", "@stat", "write `@state`"),
        (None, "color: darken({a}, 10%);", "darken", "write `color-mix(in oklab, COLOR, black 10%)`"),
    ] {
        let found = errors(template, body);
        let first = found.first().cloned().unwrap_or_default();
        assert!(first.starts_with(&format!("{at}: ")) && first.contains(words), "{body}: {found:#?}");
        // What follows a comment of another language is read all the same.
        let expected = if body.contains("colr") { 2 } else { 1 };
        assert_eq!(found.len(), expected, "{body}: {found:#?}");
    }
}

#[test]
fn what_is_right_is_nobodys_habit() {
    for (template, body) in [
        (None, "&:has(svg) { gap: 4px; } &[data-x] { gap: 4px; } &:dir(rtl) { gap: 4px; }"),
        (None, "font: bold 16px/1.5 Arial, sans-serif; transition: color 1s ease; grid-area: 1 / 2;"),
        (None, "background: url(a$b.png); content: \"$x @y // z\"; padding: 4px 8px;"),
        (None, "width: calc(100% - 4px); flex: 1 1 0; margin: 0 auto;"),
        (Some(FIELDSET), "@state invalid, disabled { color: red; }"),
    ] {
        assert_eq!(errors(template, body), Vec::<String>::new(), "{body}");
    }
}

#[test]
fn signs_of_every_script_stand_before_what_is_wrong() {
    // Places are counted in bytes: what takes several must not be cut.
    for before in ["\u{202e}", "é", "日本", "\u{1f6a2}"] {
        for value in ["4 px", "darken(red)", "$room", "soild", "url(", "1px soild red", "@room 4 px"] {
            let found = errors(None, &format!("padding: {before} {value}; border: {before}{value};"));
            assert!(!found.is_empty(), "{before} {value}");
        }
    }
}
