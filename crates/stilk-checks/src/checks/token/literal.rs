//! `token/literal`: sheets take their colours from tokens.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use cssparser::{ParseError, Parser, Token};
use stilk_engine::css::color::{Color, whole};
use stilk_text::diagnostic::{Diagnostic, Level};

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
            // Of a mask only how much it covers counts.
            if declaration.name.value.contains("mask") {
                continue;
            }
            let text = declaration.value.write(&mut |_| "var(--token)".to_owned(), &mut str::to_owned);
            let Some(word) = first_literal(&mut Parser::new(&text)) else { continue };
            let message = format!("`{word}` in `{}` is the same in every theme", control.name.value);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, declaration.span, message)
                .label("a colour of its own")
                .mend("make it a token: `{group.name}`");
            sink.find(Some(control), diagnostic);
        }
    }
}

/// The first colour in a text that is neither a system colour, `transparent` nor `currentcolor`, nor made from another.
fn first_literal(parser: &mut Parser) -> Option<String> {
    let is_literal = |text: &str| {
        !text.eq_ignore_ascii_case("transparent")
            && !text.contains("var(")
            && matches!(whole(text), Some(Color::Absolute(_)))
    };
    loop {
        let start = parser.position();
        let token = parser.next().ok()?.clone();
        let mut inner = None;
        match token {
            Token::Hash(_) | Token::IDHash(_) | Token::Ident(_) => {}
            Token::Function(_) | Token::ParenthesisBlock => {
                let _ = parser.parse_nested_block(|parser| {
                    inner = first_literal(parser);
                    while parser.next().is_ok() {}
                    Ok::<_, ParseError<()>>(())
                });
            }
            _ => continue,
        }
        let text = parser.slice_from(start).trim();
        if is_literal(text) {
            return Some(text.to_owned());
        }
        // A token's colour that is mixed with black or white follows the theme all the same.
        if inner.as_deref().is_some_and(|inner| !is_mixed(text) || !is_grey(inner)) {
            return inner;
        }
    }
}

/// Whether a text is a colour made from another one (CSS Color 5, sections 3 and 4).
fn is_mixed(text: &str) -> bool {
    let is_color = [
        "color-mix(",
        "color(from",
        "rgb(from",
        "hsl(from",
        "hwb(from",
        "lab(from",
        "lch(from",
        "oklab(from",
        "oklch(from",
    ];
    let lower = text.to_ascii_lowercase();
    is_color.iter().any(|start| lower.starts_with(start)) && lower.contains("var(")
}

/// Whether a colour has no hue.
fn is_grey(text: &str) -> bool {
    let Some(Color::Absolute(color)) = whole(text) else { return false };
    let [red, green, blue] = color.srgb();
    (red - green).abs() < 0.01 && (green - blue).abs() < 0.01
}
