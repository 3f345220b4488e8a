//! `state/start`: what a box begins from, it moves from.

use crate::check::{Check, Scope};
use crate::example::Example;
use crate::relevance::dependence::longhands_of;
use crate::sink::Sink;
use crate::survey::Survey;
use stilk_language::system::{BoundDeclaration, Control, Rule};
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
                if declaration.is_local() || may_move(control, rule, &declaration.name.value) {
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

/// Whether some transition of what a rule styles may move a property, wherever it holds.
fn may_move(control: &Control, rule: &Rule, property: &str) -> bool {
    let of_target = control.rules.iter().filter(|other| {
        other.target.part == rule.target.part && other.target.pseudo == rule.target.pseudo && !other.is_start()
    });
    of_target.flat_map(|rule| &rule.declarations).any(|declaration| moves(declaration, property))
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
    outside_brackets(&text).split(',').any(|one| {
        // Of what is left of a transition, words that are no keyword name a property; without one, all of them move.
        let mut names = one.split_ascii_whitespace().filter(|word| is_property(word)).peekable();
        let is_moved = |name: &str| match name {
            "all" => true,
            "none" => false,
            // What is not known here is compared by its name.
            name => name == property || longhands_of(name).iter().any(|longhand| wanted.contains(longhand)),
        };
        names.peek().is_none() || names.any(is_moved)
    })
}

/// A text without what stands in brackets.
fn outside_brackets(text: &str) -> String {
    let mut depth = 0_usize;
    let mut kept = String::new();
    for c in text.chars() {
        match c {
            '(' => depth += 1,
            ')' => depth = depth.saturating_sub(1),
            c if depth == 0 => kept.push(c),
            _ => {}
        }
    }
    kept
}

/// Whether a word of a transition is a property: no time, no easing and no behaviour.
fn is_property(word: &str) -> bool {
    const OTHERS: [&str; 13] = [
        "allow-discrete",
        "cubic-bezier",
        "ease",
        "ease-in",
        "ease-in-out",
        "ease-out",
        "linear",
        "normal",
        "step-end",
        "step-start",
        "steps",
        "env",
        "calc",
    ];
    word.starts_with(|c: char| c.is_ascii_alphabetic() || c == '-')
        && !OTHERS.contains(&word)
        && !word[1..].starts_with(|c: char| c.is_ascii_digit() || c == '.')
}
