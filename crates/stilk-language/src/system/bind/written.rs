//! What the manifest and names bring into stylesheets, pages and file names: each is what it says it is, wherever it is written.

use crate::manifest::Manifest;
use crate::sheet::Sheet;
use crate::system::Control;
use crate::template::Template;
use crate::tokens::Tokens;
use stilk_engine::cascade::media;
use stilk_engine::cascade::selector;
use stilk_engine::css::contained::{MAX_NAME, is_contained, is_plain_name};
use stilk_text::diagnostic::{Diagnostic, Diagnostics, nearest};
use stilk_text::source::Name;

/// Checks everything that is written as it stands.
pub fn check(
    manifest: &Manifest,
    tokens: &Tokens,
    sheets: &[Sheet],
    templates: &[Template],
    diagnostics: &mut Diagnostics,
) {
    check_manifest(manifest, diagnostics);
    for modifier in &tokens.modifiers {
        check_context_name(&modifier.name, "modifier", diagnostics);
        modifier.contexts.iter().for_each(|context| check_context_name(context, "context", diagnostics));
    }
    for sheet in sheets {
        let traits = sheet.traits.iter().map(|node| &node.name);
        for name in sheet.keyframes.iter().map(|node| &node.name).chain(traits) {
            check_name(name, "name", diagnostics);
        }
        sheet.controls.iter().for_each(|control| check_name(&control.name, "control", diagnostics));
    }
    for template in templates {
        for (name, _) in template.hosts.iter().flat_map(|host| &host.parts) {
            check_name(name, "part", diagnostics);
        }
    }
}

/// The same of what controls are made of.
pub fn check_controls(controls: &[Control], diagnostics: &mut Diagnostics) {
    for control in controls {
        for axis in &control.axes {
            check_name(&axis.name, "axis", diagnostics);
            axis.options.iter().for_each(|option| check_name(option, "option", diagnostics));
        }
        for declaration in control.rules.iter().flat_map(|rule| &rule.declarations).filter(|d| d.is_local()) {
            check_name(&declaration.name, "local property", diagnostics);
        }
    }
}

/// A name becomes a part of classes, custom properties and paths.
fn check_name(name: &Name, what: &str, diagnostics: &mut Diagnostics) {
    if is_plain_name(&name.value) {
        return;
    }
    let message = match name.value.chars().count() > MAX_NAME {
        true => format!("the {what} has a name of more than {MAX_NAME} characters"),
        false => format!("`{}` is no name of a {what}", name.value),
    };
    diagnostics.push(
        Diagnostic::error("sheet/name", name.span, message)
            .label("letters, digits, `-` and `_`")
            .mend("give it another name"),
    );
}

/// A context is written as the value of an attribute, as a part of custom properties and as the name of a file.
fn check_context_name(name: &Name, what: &str, diagnostics: &mut Diagnostics) {
    let is_inner = |c: char| c.is_alphanumeric() || matches!(c, '-' | '_' | ' ' | '.');
    let text = name.value.as_str();
    let begins = text.starts_with(|c: char| c.is_alphanumeric() || c == '_');
    if begins && text.chars().all(is_inner) && text.chars().count() <= MAX_NAME && text.trim() == text {
        return;
    }
    let shown: String = text.chars().take(40).collect();
    diagnostics.push(
        Diagnostic::error("resolver/name", name.span, format!("`{shown}` is no name of a {what}"))
            .label(format!("letters, digits, `-`, `_`, `.` and spaces, at most {MAX_NAME}, beginning with a letter"))
            .mend("give it another name: it is written into stylesheets and names a file"),
    );
}

fn check_manifest(manifest: &Manifest, diagnostics: &mut Diagnostics) {
    let value = |name: &Name, message: String| Diagnostic::error("manifest/value", name.span, message);
    let name = &manifest.name;
    if name.value.trim().is_empty() || name.value.chars().any(char::is_control) || name.value.chars().count() > MAX_NAME
    {
        diagnostics.push(
            value(name, "this is no name of a system".to_owned())
                .label(format!("one line of at most {MAX_NAME} characters"))
                .mend("write what people call it, such as `name = \"Ternhaven\"`"),
        );
    }
    for modifier in &manifest.modifiers {
        let attribute = &modifier.attribute;
        if let Some(span) = modifier.attribute_span.filter(|_| !is_attribute(attribute)) {
            diagnostics.push(
                Diagnostic::error("manifest/value", span, format!("`{attribute}` is no name of an attribute"))
                    .label("letters, digits and `-`, beginning with a letter")
                    .mend(format!("write such as `attribute = \"data-{}\"`", modifier.name.value)),
            );
        }
        for follow in modifier.follow.iter().filter(|follow| !media::is_list(&follow.query.value)) {
            diagnostics.push(
                value(&follow.query, format!("`{}` is no media query", follow.query.value))
                    .mend("write it with brackets, such as `(prefers-color-scheme: dark)`"),
            );
        }
    }
    for own in &manifest.states {
        check_name(&own.name, "state", diagnostics);
        let text = &own.selector.value;
        if !selector::is_valid(text) || text.contains("::") || !is_contained(text) {
            diagnostics.push(
                Diagnostic::error("manifest/state", own.selector.span, format!("`{text}` is no selector"))
                    .mend("write a selector of the element itself, such as `[data-dismissed]`"),
            );
        }
    }
    for surface in &manifest.surfaces {
        check_name(&surface.name, "surface", diagnostics);
    }
    for (pattern, example, keys) in manifest.classes.all() {
        check_pattern(pattern, example, keys, diagnostics);
    }
    check_folder(&manifest.stylesheet.folder, diagnostics);
}

/// Whether a text is an attribute that a page's author may use: no handler of events, which would run what stands in it.
fn is_attribute(text: &str) -> bool {
    is_plain_name(text)
        && text.is_ascii()
        && text.starts_with(|c: char| c.is_ascii_alphabetic())
        && !text.get(..2).is_some_and(|start| start.eq_ignore_ascii_case("on"))
}

fn check_pattern(pattern: &Name, example: &str, keys: &[&str], diagnostics: &mut Diagnostics) {
    let mend = format!("write such as `{example}`");
    let mut plain = String::new();
    let mut found: Vec<&str> = Vec::new();
    let mut rest = pattern.value.as_str();
    while let Some((before, after)) = rest.split_once('{') {
        plain.push_str(before);
        let Some((key, after)) = after.split_once('}') else {
            rest = after;
            plain.push('{');
            continue;
        };
        if !keys.contains(&key) && key != "prefix" {
            let near = nearest(key, keys.iter().copied().chain(["prefix"]));
            let near = near.map_or_else(|| mend.clone(), |near| format!("write `{{{near}}}`"));
            let message = format!("`{{{key}}}` is nothing that this class is made of");
            diagnostics.push(Diagnostic::error("manifest/value", pattern.span, message).mend(near));
        }
        found.push(key);
        // Stands for any name.
        plain.push('x');
        rest = after;
    }
    plain.push_str(rest);
    let begins = plain.starts_with(|c: char| c.is_alphabetic() || c == '_')
        || plain.strip_prefix('-').is_some_and(|rest| rest.starts_with(|c: char| c.is_alphabetic() || c == '-'));
    if !is_plain_name(&plain) || !begins {
        let message = format!("`{}` makes no class", pattern.value);
        diagnostics.push(
            Diagnostic::error("manifest/value", pattern.span, message)
                .label("letters, digits, `-` and `_` beside what stands in braces")
                .mend(mend.clone()),
        );
    }
    if let Some(key) = keys.last().filter(|key| !found.contains(key)) {
        let message = format!("`{}` gives the same class to all: it has no `{{{key}}}`", pattern.value);
        diagnostics.push(Diagnostic::error("manifest/value", pattern.span, message).mend(mend.clone()));
    }
}

/// Outputs stay below the project; where they are to go elsewhere, the command line says so.
fn check_folder(folder: &Name, diagnostics: &mut Diagnostics) {
    let text = folder.value.as_str();
    let climbs = text.split('/').scan(0_i32, |depth, part| {
        *depth += match part {
            "" | "." => 0,
            ".." => -1,
            _ => 1,
        };
        Some(*depth < 0)
    });
    let message = match () {
        () if text.trim().is_empty() => "`folder` names no folder".to_owned(),
        () if text.starts_with('/')
            || text.contains(':')
            || text.contains('\\')
            || climbs.into_iter().any(|out| out) =>
        {
            format!("`{text}` is outside of the project")
        }
        () if text.chars().any(char::is_control) => "`folder` holds a control character".to_owned(),
        () => return,
    };
    diagnostics.push(
        Diagnostic::error("manifest/value", folder.span, message).label("outputs are written here").mend(
            "write a folder of the project, such as `folder = \"dist\"`; for one elsewhere `stilk build --out DIR`",
        ),
    );
}
