//! `state/start`: what a box begins from, it moves from.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::relevance::dependence::longhands_of;
use crate::sink::Sink;
use crate::survey::Survey;
use cssparser::{Parser, Token};
use stilk_language::system::{BoundDeclaration, Control, Rule, System};
use stilk_language::tokens::Piece;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/start",
    summary: "what begins from a value moves from it",
    why: "`@starting-style` says from where a box moves as it comes to be. Where no transition of it names the property, it is there at \
          once, and what was written for its beginning does nothing.",
    source: "CSS Transitions 2, section 3.3",
    level: Level::Warning,
    mend: "Name the property in a `transition` of the same part.",
    fails: Example::drawn(
        "<div><button type=\"button\" popovertarget=\"more\">More</button><p part=\"panel\" id=\"more\" popover><slot>Dogs travel free.</slot></p></div>\n",
        "@control note {\n  @part panel {\n    background: {paper}; color: {ink}; transition: translate 120ms;\n    @starting-style { opacity: 0; }\n  }\n}\n",
    ),
    passes: Example::drawn(
        "<div><button type=\"button\" popovertarget=\"more\">More</button><p part=\"panel\" id=\"more\" popover><slot>Dogs travel free.</slot></p></div>\n",
        "@control note {\n  @part panel {\n    background: {paper}; color: {ink}; transition: opacity 120ms;\n    @starting-style { opacity: 0; }\n  }\n}\n",
    ),
    scope: Scope::Controls(run),
};

fn run(survey: &Survey, sink: &mut Sink) {
    for control in survey.controls.iter().copied() {
        for rule in control.rules.iter().filter(|rule| rule.is_start()) {
            for declaration in &rule.declarations {
                sink.decided(CHECK.id, 1);
                // What a local begins from reaches whatever reads it.
                if declaration.is_local() || may_move(survey.system, control, rule, &declaration.name.value) {
                    continue;
                }
                let whose = match (&rule.target.part, rule.target.pseudo.as_str()) {
                    (None, "") => String::new(),
                    (None, pseudo) => format!("`{pseudo}` of "),
                    (Some(part), pseudo) => format!("`{part}{pseudo}` of "),
                };
                let property = &declaration.name.value;
                let message =
                    format!("nothing moves {whose}`{}` from where its `{property}` starts", control.name.value);
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, declaration.span, message)
                    .label("no transition names it: the value is never seen")
                    .mend(format!("name `{property}` in the `transition` of the same part"));
                sink.find(Some(control), diagnostic);
            }
        }
    }
}

/// Whether some transition of what a rule styles may move a property, wherever it holds. What a placed control moves its own sheet
/// says.
fn may_move(system: &System, control: &Control, rule: &Rule, property: &str) -> bool {
    let of_target = |other: &&Rule| other.target.part == rule.target.part && other.target.pseudo == rule.target.pseudo;
    let placed = rule.target.part.as_deref().and_then(|part| control.placement_of_part(part));
    let placed = placed.and_then(|placement| system.control(&placement.control));
    let of_host = |other: &&Rule| other.target.part.is_none() && other.target.pseudo == rule.target.pseudo;
    let inner = placed.into_iter().flat_map(|placed| &placed.rules).filter(of_host);
    let rules = control.rules.iter().filter(of_target).chain(inner).filter(|rule| !rule.is_start());
    rules.flat_map(|rule| &rule.declarations).any(|declaration| moves(declaration, property))
}

/// Whether a declaration may make a property move: one of `transition` without a property moves them all.
fn moves(declaration: &BoundDeclaration, property: &str) -> bool {
    if !["transition", "transition-property"].contains(&declaration.name.value.as_str()) {
        return false;
    }
    // What a local stands for is not followed.
    if declaration.value.pieces.iter().any(|piece| matches!(piece, Piece::Local(_))) {
        return true;
    }
    let text = declaration.value.write(&mut |_| "0s".into(), &mut |local| local.to_owned());
    let wanted = longhands_of(property);
    names(&text).into_iter().any(|name| match name.as_deref() {
        None | Some("all") => true,
        Some("none") => false,
        // What some other declaration or element says is not followed either.
        Some("inherit" | "initial" | "revert" | "revert-layer" | "unset") => true,
        // A property that is not known here is compared by its name.
        Some(name) => name == property || longhands_of(name).iter().any(|longhand| wanted.contains(longhand)),
    })
}

/// The property of each transition of a list; nothing where it names none (CSS Transitions 2, section 2.5).
fn names(text: &str) -> Vec<Option<String>> {
    const OTHERS: [&str; 9] =
        ["allow-discrete", "ease", "ease-in", "ease-in-out", "ease-out", "linear", "normal", "step-end", "step-start"];
    let mut found = vec![None];
    let mut parser = Parser::new(text);
    while let Ok(token) = parser.next() {
        match token {
            Token::Comma => found.push(None),
            Token::Ident(word) => {
                let word = if word.starts_with("--") { word.to_string() } else { word.to_ascii_lowercase() };
                if !OTHERS.contains(&word.as_str()) {
                    found.pop();
                    found.push(Some(word));
                }
            }
            // What stands in brackets is a time or an easing: it is passed over with them.
            _ => {}
        }
    }
    found
}
