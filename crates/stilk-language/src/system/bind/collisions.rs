//! Names that are written must not meet: two tokens in one custom property, an option in another control's class.

use crate::system::{Control, Mark, OptionId, System};
use std::collections::HashMap;
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::source::Span;

/// Reports every collision of written names.
pub fn check(system: &System, diagnostics: &mut Diagnostics) {
    let names = system.names();
    let mut properties: HashMap<String, (String, Option<Span>)> = HashMap::new();
    let mut add = |name: String, what: String, span: Option<Span>, diagnostics: &mut Diagnostics| {
        if let Some((other, first)) = properties.get(&name) {
            if *other != what {
                diagnostics.push(collision(&format!("`{name}`"), &what, span, other, *first));
            }
        } else {
            properties.insert(name, (what, span));
        }
    };
    for token in &system.tokens.list {
        let span = token.definitions().next().map(|d| d.span);
        add(names.token(&token.path), format!("the token `{}`", token.path), span, diagnostics);
    }
    for control in &system.controls {
        for declaration in
            control.rules.iter().flat_map(|rule| &rule.declarations).filter(|d| d.is_local() && d.owner.is_none())
        {
            let what = format!("the local `{}` of `{}`", declaration.name.value, control.name.value);
            let name = names.local(&control.name.value, &declaration.name.value);
            add(name, what, Some(declaration.name.span), diagnostics);
        }
    }
    let mut marks: HashMap<Mark, (String, Option<Span>)> = HashMap::new();
    for control in &system.controls {
        let mut list = vec![(names.control(&control.name.value), "the control".to_owned(), control.name.span)];
        // What a page had already may say the same in several controls: `.is-small`, `.icon`.
        let mut own: HashMap<Mark, (String, Span)> = HashMap::new();
        for (axis, a) in control.axes.iter().enumerate() {
            for (option, name) in a.options.iter().enumerate() {
                let mark = names.option(control, OptionId { axis, option });
                let what = format!("the option `{}` of", name.value);
                match a.marks[option] {
                    Some(_) => check_own(&mut own, mark, &what, name.span, control, diagnostics),
                    None => list.push((mark, what, name.span)),
                }
            }
        }
        for part in control.template.part_names() {
            let mark = names.part(&control.name.value, part);
            let what = format!("the part `{part}` of");
            match control.part_marks.iter().any(|(name, _)| name == part) {
                true => check_own(&mut own, mark, &what, control.name.span, control, diagnostics),
                false => list.push((mark, what, control.name.span)),
            }
        }
        for (mark, what, span) in list {
            let what = format!("{what} `{}`", control.name.value);
            if let Some((other, first)) = marks.get(&mark) {
                // The same option twice was reported as such.
                if *other == what {
                    continue;
                }
                diagnostics.push(collision(&written(&mark), &what, Some(span), other, *first));
            } else {
                marks.insert(mark, (what, Some(span)));
            }
        }
    }
}

fn written(mark: &Mark) -> String {
    match mark {
        Mark::Class(name) => format!("the class `{name}`"),
        other => format!("`{}`", other.text()),
    }
}

/// In one control an option and a part may share a mark: they stand at different elements. Two options may not, nor two
/// parts.
fn check_own(
    known: &mut HashMap<Mark, (String, Span)>,
    mark: Mark,
    what: &str,
    span: Span,
    control: &Control,
    diagnostics: &mut Diagnostics,
) {
    let what = format!("{what} `{}`", control.name.value);
    match known.get(&mark) {
        Some((other, first)) if *other != what && other.split(' ').nth(1) == what.split(' ').nth(1) => {
            diagnostics.push(collision(&written(&mark), &what, Some(span), other, Some(*first)));
        }
        Some(_) => {}
        None => {
            known.insert(mark, (what, span));
        }
    }
}

fn collision(name: &str, what: &str, span: Option<Span>, other: &str, first: Option<Span>) -> Diagnostic {
    let message = format!("{what} and {other} would both be written {name}");
    let diagnostic = Diagnostic::error("name/collision", span, message)
        .label("this one")
        .mend("rename one of them, give one another mark, or change a pattern in `[classes]`");
    match first {
        Some(first) => diagnostic.related(first, "the other one"),
        None => diagnostic,
    }
}
