//! What a shell is offered while a command is typed, from the project in reach: cases, controls, tokens, themes, checks.
//!
//! A project that cannot be read offers nothing, and says nothing: nobody asked it to.

use crate::disk::Folder;
use clap_complete::CompletionCandidate;
use std::ffi::OsStr;
use std::path::PathBuf;
use stilk_checks::registry;
use stilk_language::system::{System, notation};
use stilk_language::unfinished::continuations;

/// Cases as far as they go: what may be written next behind what is there.
pub fn cases(current: &OsStr) -> Vec<CompletionCandidate> {
    with_system(current, continuations)
}

/// Cases, and the parts of their control behind a `/`.
pub fn cases_and_parts(current: &OsStr) -> Vec<CompletionCandidate> {
    with_system(current, |system, text| match text.rsplit_once('/') {
        None => continuations(system, text),
        Some((case, part)) => {
            let control = notation::parse(system, case).map(|named| named.control);
            let parts = control.map(|control| control.template.part_names()).unwrap_or_default();
            parts.iter().filter(|name| name.starts_with(part)).map(|name| format!("{case}/{name}")).collect()
        }
    })
}

/// Controls.
pub fn controls(current: &OsStr) -> Vec<CompletionCandidate> {
    with_system(current, |system, text| {
        let names = system.controls.iter().map(|control| control.name.as_str());
        names.filter(|name| name.starts_with(text)).map(str::to_owned).collect()
    })
}

/// Paths of tokens.
pub fn tokens(current: &OsStr) -> Vec<CompletionCandidate> {
    with_system(current, |system, text| {
        let paths = system.tokens.list.iter().map(|token| token.path.as_str());
        paths.filter(|path| path.starts_with(text)).map(str::to_owned).collect()
    })
}

/// Contexts of modifiers, as themes are named by them.
pub fn themes(current: &OsStr) -> Vec<CompletionCandidate> {
    with_system(current, |system, text| {
        let contexts = system.tokens.modifiers.iter().flat_map(|modifier| &modifier.contexts);
        contexts.map(|context| context.as_str().to_owned()).filter(|name| name.starts_with(text)).collect()
    })
}

/// Checks, each with what it holds.
pub fn checks(current: &OsStr) -> Vec<CompletionCandidate> {
    let Some(text) = current.to_str() else { return Vec::new() };
    let known = registry::CHECKS.iter().filter(|check| check.id.starts_with(text));
    known.map(|check| CompletionCandidate::new(check.id).help(Some(check.summary.into()))).collect()
}

fn with_system(current: &OsStr, names: impl Fn(&System, &str) -> Vec<String>) -> Vec<CompletionCandidate> {
    let project = registry::load(&Folder::new(&project()));
    let (Some(text), Some(system)) = (current.to_str(), project.system) else { return Vec::new() };
    names(&system, text).into_iter().map(CompletionCandidate::new).collect()
}

/// The folder that is typed behind `--project` on the line being completed; otherwise the one the shell is in.
fn project() -> PathBuf {
    let typed: Vec<_> = std::env::args_os().collect();
    let apart = typed.iter().rposition(|word| word == "--project").and_then(|i| typed.get(i + 1)).map(PathBuf::from);
    let joined = || typed.iter().rev().find_map(|word| word.to_str()?.strip_prefix("--project=").map(PathBuf::from));
    apart.or_else(joined).unwrap_or_else(|| PathBuf::from("."))
}
