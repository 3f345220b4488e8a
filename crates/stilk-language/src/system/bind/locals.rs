//! Local properties and values of a control: every local read is declared, and every value fits its property.

use super::super::Control;
use super::super::values::{Locals, ValueChecker};
use crate::sheet::{Declaration, ValuePiece};
use rustc_hash::{FxHashMap, FxHashSet};
use std::collections::HashMap;
use std::sync::atomic::{AtomicUsize, Ordering};
use stilk_text::diagnostic::{Diagnostic, Diagnostics, unknown_name};

/// What a control declares: each declaration as it is written, with the index of its rule.
pub type Declared = Vec<(Declaration, usize)>;

/// Locals that are read must be declared, and locals that are declared must have a value at rest.
pub fn check_locals(
    control: &Control,
    declarations: &[(Declaration, usize)],
    token_of: &dyn Fn(&str) -> Option<String>,
    diagnostics: &mut Diagnostics,
) {
    let locals: Vec<(&Declaration, bool)> = declarations
        .iter()
        .filter(|(d, _)| d.name.value.starts_with("--"))
        .map(|(d, rule)| (d, control.rules[*rule].is_unconditional()))
        .collect();
    let mut names: Vec<&str> = locals.iter().map(|(d, _)| d.name.as_str()).collect();
    names.sort_unstable();
    names.dedup();
    for name in &names {
        let mut of_name = locals.iter().filter(|(d, _)| d.name.value == **name);
        if of_name.clone().any(|(_, at_rest)| *at_rest) {
            continue;
        }
        if let Some((first, _)) = of_name.next() {
            let near = stilk_text::diagnostic::nearest(name, names.iter().copied().filter(|other| other != name));
            let diagnostic =
                Diagnostic::error("sheet/local", first.name.span, format!("`{name}` has no value at rest"))
                    .label("set only here, under a condition");
            diagnostics.push(match near.filter(|_| !is_read(declarations, name)) {
                Some(near) => diagnostic.mend(format!("write `{near}`, or declare `{name}` in the control itself")),
                None => diagnostic.mend(format!("declare `{name}: …;` in the control itself")),
            });
        }
    }
    for node in &control.registered {
        if !names.contains(&node.name.as_str()) {
            diagnostics.push(unknown_name("sheet/local", "local property", &node.name, names.iter().copied()));
        }
    }
    for (declaration, _) in declarations {
        for piece in &declaration.value.pieces {
            if let ValuePiece::Local(name) = piece
                && !names.contains(&name.as_str())
            {
                // The custom property that is written for a token.
                let unknown = unknown_name("sheet/local", "local property", name, names.iter().copied());
                diagnostics.push(match token_of(&name.value) {
                    Some(path) => unknown.mend(format!("write `{{{path}}}`: a token is named by its path")),
                    None => unknown,
                });
            }
        }
    }
}

fn is_read(declarations: &[(Declaration, usize)], local: &str) -> bool {
    declarations
        .iter()
        .flat_map(|(d, _)| &d.value.pieces)
        .any(|piece| matches!(piece, ValuePiece::Local(name) if name.value == local))
}

/// So many declarations are judged by one thread in less time than another takes to start.
const FEW: usize = 200;

/// Judges what controls declare; the order of what is said does not depend on who is done first.
pub fn check_all(controls: &[Control], declared: &[Declared], checker: &ValueChecker, diagnostics: &mut Diagnostics) {
    let next = AtomicUsize::new(0);
    let judge_some = || {
        let mut found: Vec<(usize, Vec<Diagnostic>)> = Vec::new();
        loop {
            let at = next.fetch_add(1, Ordering::Relaxed);
            let (Some(control), Some(declarations)) = (controls.get(at), declared.get(at)) else { break found };
            found.push((at, check_values(control, declarations, checker)));
        }
    };
    let mut found = match declared.iter().map(Vec::len).sum::<usize>() {
        ..=FEW => judge_some(),
        _ => std::thread::scope(|scope| {
            let other = scope.spawn(judge_some);
            let mut found = judge_some();
            found.extend(other.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic)));
            found
        }),
    };
    found.sort_unstable_by_key(|(at, _)| *at);
    found.into_iter().flat_map(|(_, said)| said).for_each(|diagnostic| diagnostics.push(diagnostic));
}

/// Values must fit their properties: with locals at rest, and with each value that options and states give them.
fn check_values(control: &Control, declarations: &[(Declaration, usize)], checker: &ValueChecker) -> Vec<Diagnostic> {
    let mut diagnostics = Vec::new();
    let is_local = |d: &Declaration| d.name.value.starts_with("--");
    let mut rest: FxHashMap<String, String> = FxHashMap::default();
    for (declaration, rule) in declarations.iter().filter(|(d, _)| is_local(d)) {
        if control.rules[*rule].is_unconditional()
            && let Some(text) = checker.text(&declaration.value)
        {
            rest.insert(declaration.name.value.clone(), text);
        }
    }
    let paints: Vec<&Declaration> = declarations.iter().map(|(d, _)| d).filter(|d| !is_local(d)).collect();
    // What is wrong, or has no value, is not judged again.
    let mut texts: Vec<Option<String>> = paints.iter().map(|declaration| checker.text(&declaration.value)).collect();
    for (declaration, text) in paints.iter().zip(&mut texts) {
        let at_rest = Locals { rest: &rest, set: None };
        if let Some(diagnostic) = text.as_ref().and_then(|text| checker.check(declaration, text, at_rest)) {
            diagnostics.push(diagnostic);
            *text = None;
        }
    }
    // A value that paints nothing at rest is judged where it paints; here only what a condition sets.
    let setters: Vec<&Declaration> = declarations
        .iter()
        .filter(|(d, rule)| is_local(d) && !control.rules[*rule].is_unconditional())
        .map(|(d, _)| d)
        .collect();
    let reach = Readers::new(declarations);
    let mut judged: FxHashSet<(&str, String)> = FxHashSet::default();
    for setter in setters {
        let Some(text) = checker.text(&setter.value) else { continue };
        // Options and states often give the same value again.
        if !judged.insert((&setter.name.value, text.clone())) {
            continue;
        }
        let locals = Locals { rest: &rest, set: Some((&setter.name.value, &text)) };
        let names = reach.of(&setter.name.value);
        for (declaration, css) in paints.iter().zip(&texts).filter(|(d, _)| reads_any(d, &names)) {
            let Some(css) = css else { continue };
            if let Some(Err(_)) = checker.fits(&declaration.name.value, css, locals) {
                let message = format!("`{}: {text}` does not fit `{}`", setter.name.value, declaration.name.value);
                let mend = match text.parse::<f64>() {
                    Ok(_) => format!("write `{text}px`, or whatever unit is meant"),
                    Err(_) => format!("write a value that fits where `{}` is used", setter.name.value),
                };
                diagnostics.push(
                    Diagnostic::error("cascade/value", setter.value.span, message)
                        .label("set here")
                        .related(declaration.span, "used here")
                        .mend(mend),
                );
            }
        }
    }
    diagnostics
}

/// Which locals a local's value can arrive in.
struct Readers<'d> {
    /// Locals by what they read.
    readers: HashMap<&'d str, Vec<&'d str>>,
}

impl<'d> Readers<'d> {
    fn new(declarations: &'d [(Declaration, usize)]) -> Readers<'d> {
        let mut readers: HashMap<&str, Vec<&str>> = HashMap::new();
        for (declaration, _) in declarations.iter().filter(|(d, _)| d.name.value.starts_with("--")) {
            for read in locals_read(declaration) {
                readers.entry(read).or_default().push(&declaration.name.value);
            }
        }
        Readers { readers }
    }

    /// The local itself and every one that it arrives in.
    fn of<'n>(&self, name: &'n str) -> Vec<&'n str>
    where
        'd: 'n,
    {
        let mut names = vec![name];
        let mut i = 0;
        while i < names.len() {
            for reader in self.readers.get(names[i]).into_iter().flatten() {
                if !names.contains(reader) {
                    names.push(reader);
                }
            }
            i += 1;
        }
        names
    }
}

fn locals_read(declaration: &Declaration) -> impl Iterator<Item = &str> {
    declaration.value.pieces.iter().filter_map(|piece| match piece {
        ValuePiece::Local(local) => Some(local.value.as_str()),
        _ => None,
    })
}

fn reads_any(declaration: &Declaration, names: &[&str]) -> bool {
    locals_read(declaration).any(|local| names.contains(&local))
}
