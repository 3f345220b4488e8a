//! `token/literal`: sheets take their colours from tokens.

use crate::check::sink::Sink;
use crate::check::{Check, Example, Scope, Survey};
use crate::css::color::{Color, parse};
use crate::diagnostic::{Diagnostic, Level};
use crate::tokens::Piece;
use cssparser::Parser;

/// The check.
pub const CHECK: Check = Check {
    id: "token/literal",
    summary: "sheets take their colours from tokens",
    why: "A colour that is written into a sheet is the same in every theme, and is found by nobody who changes the tokens.",
    source: "what tokens are for",
    level: Level::Note,
    mend: "Make it a token, or use the one that has this colour.",
    fails: Example::sheet("@control button {\n  color: #17324d; background: {paper};\n}\n"),
    passes: Example::sheet("@control button {\n  color: {ink}; background: {paper};\n}\n"),
    scope: Scope::System(run),
};

fn run(survey: &Survey, sink: &mut Sink) {
    for control in &survey.system.controls {
        for declaration in control.rules.iter().flat_map(|rule| &rule.declarations) {
            sink.decided(CHECK.id, 1);
            let texts = declaration.value.pieces.iter().filter_map(|piece| match piece {
                Piece::Text(text) => Some(text.as_str()),
                _ => None,
            });
            let Some(word) = texts.flat_map(literals).next() else { continue };
            let message = format!("`{word}` in `{}` is the same in every theme", control.name.value);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, declaration.span, message)
                .label("a colour of its own")
                .mend("make it a token: `{group.name}`");
            sink.find(Some(control), diagnostic);
        }
    }
}

/// Colours in a text that are neither system colours, `transparent` nor `currentcolor`.
fn literals(text: &str) -> Vec<String> {
    let words = text.split(|c: char| c.is_whitespace() || [',', '(', ')', '/'].contains(&c));
    let is_literal = |word: &&str| {
        let is_candidate = word.starts_with('#')
            || (word.chars().all(|c| c.is_ascii_alphabetic()) && !word.eq_ignore_ascii_case("transparent"));
        is_candidate && matches!(parse(&mut Parser::new(word)), Ok(Color::Absolute(_)))
    };
    words.filter(|word| !word.is_empty()).filter(is_literal).map(str::to_owned).collect()
}
