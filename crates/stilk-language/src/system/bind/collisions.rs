//! Names that are written must not meet: two tokens in one custom property, an option in another control's class.

use crate::system::{OptionId, System};
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
    let mut classes: HashMap<String, (String, Option<Span>)> = HashMap::new();
    for control in &system.controls {
        let mut list = vec![(names.control(&control.name.value), "the control".to_owned(), control.name.span)];
        for (axis, a) in control.axes.iter().enumerate() {
            for (option, name) in a.options.iter().enumerate() {
                let class = names.option(control, OptionId { axis, option });
                list.push((class, format!("the option `{}` of", name.value), name.span));
            }
        }
        for part in control.template.part_names() {
            let class = names.part(&control.name.value, part);
            list.push((class, format!("the part `{part}` of"), control.name.span));
        }
        for (class, what, span) in list {
            let what = format!("{what} `{}`", control.name.value);
            if let Some((other, first)) = classes.get(&class) {
                // The same option twice was reported as such.
                if *other == what {
                    continue;
                }
                diagnostics.push(collision(&format!("the class `{class}`"), &what, Some(span), other, *first));
            } else {
                classes.insert(class, (what, Some(span)));
            }
        }
    }
}

fn collision(name: &str, what: &str, span: Option<Span>, other: &str, first: Option<Span>) -> Diagnostic {
    let message = format!("{what} and {other} would both be written {name}");
    let diagnostic = Diagnostic::error("name/collision", span, message)
        .label("this one")
        .mend("rename one of them, or change a pattern in `[classes]`");
    match first {
        Some(first) => diagnostic.related(first, "the other one"),
        None => diagnostic,
    }
}
