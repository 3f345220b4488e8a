//! The modules of a crate, and what each names of the others, read as text.

use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

/// A module.
pub struct Module {
    /// Its path in the crate, joined by `/`; empty for the root.
    pub path: String,
    /// The room it is in: the folder of its file, or itself where it has one of its own or stands at the top.
    pub room: String,
    /// Its code without comments and tests.
    pub code: String,
    /// How many lines its file has.
    pub lines: usize,
}

/// Every module of a crate.
pub fn modules_of(sources: &Path) -> Vec<Module> {
    let mut found = Vec::new();
    collect(sources, "", &mut found);
    found
}

fn collect(folder: &Path, path: &str, found: &mut Vec<Module>) {
    let mut entries: Vec<_> =
        std::fs::read_dir(folder).expect("a folder").flatten().map(|entry| entry.path()).collect();
    entries.sort();
    for entry in entries {
        let name = entry.file_name().and_then(|name| name.to_str()).expect("a name").to_owned();
        let join = |name: &str| if path.is_empty() { name.to_owned() } else { format!("{path}/{name}") };
        if entry.is_dir() {
            collect(&entry, &join(&name), found);
            continue;
        }
        let Some(stem) = name.strip_suffix(".rs") else { continue };
        let own = match stem {
            "mod" => path.to_owned(),
            "lib" | "main" if path.is_empty() => String::new(),
            stem => join(stem),
        };
        let room = if path.is_empty() || entry.with_extension("").is_dir() { own.clone() } else { path.to_owned() };
        let text = std::fs::read_to_string(&entry).expect("text");
        let lines = text.lines().count();
        let code = text.split("#[cfg(test)]").next().unwrap_or_default();
        let code = code.lines().map(|line| line.split("//").next().unwrap_or_default()).collect::<Vec<_>>().join("\n");
        found.push(Module { path: own, room, code, lines });
    }
}

/// Circles of rooms that import each other, each in words with the modules that tie it.
pub fn circles(modules: &[Module]) -> Vec<String> {
    let mut arrows: BTreeMap<&str, BTreeMap<&str, String>> = BTreeMap::new();
    for module in modules {
        for named in names(module) {
            let of = |path: &str| modules.iter().find(|other| other.path == path);
            let longest = (0..=named.len()).rev().find_map(|length| of(&named[..length].join("/")));
            let Some(other) = longest.filter(|other| other.room != module.room && !other.path.is_empty()) else {
                continue;
            };
            let words = format!("  {} names {}", module.path, other.path);
            arrows.entry(&module.room).or_default().entry(&other.room).or_insert(words);
        }
    }
    let mut found = Vec::new();
    for (from, to) in &arrows {
        found.extend(to.iter().filter(|(to, _)| reach(&arrows, to).contains(from)).map(|(_, words)| words.clone()));
    }
    found
}

/// The rooms that one leads to.
fn reach<'r>(arrows: &BTreeMap<&'r str, BTreeMap<&'r str, String>>, from: &'r str) -> BTreeSet<&'r str> {
    let mut open = vec![from];
    let mut seen: BTreeSet<&str> = BTreeSet::new();
    while let Some(room) = open.pop() {
        open.extend(arrows.get(room).into_iter().flatten().map(|(to, _)| *to).filter(|to| seen.insert(to)));
    }
    seen
}

/// What a module names of its crate, each from the root.
fn names(module: &Module) -> Vec<Vec<String>> {
    let mut found = Vec::new();
    for (at, _) in module.code.match_indices("crate::").chain(module.code.match_indices("super::")) {
        let is_whole = !module.code[..at].ends_with(|c: char| c.is_alphanumeric() || c == '_' || c == ':');
        let statement = module.code[..at].rfind([';', '}', '{']).map_or(0, |end| end + 1);
        // A folder's own facade hands on what is in it.
        let hands_on = module.code[statement..at].trim_start().starts_with("pub") && module.path == module.room;
        if is_whole && !hands_on {
            expand(&module.code[at..], &mut Vec::new(), &mut found);
        }
    }
    found.into_iter().filter_map(|path| from_root(&module.path, path)).collect()
}

fn from_root(module: &str, path: Vec<String>) -> Option<Vec<String>> {
    let mut path = path.into_iter().peekable();
    if path.next_if(|first| first == "crate").is_some() {
        return Some(path.collect());
    }
    let mut at: Vec<String> = module.split('/').filter(|part| !part.is_empty()).map(str::to_owned).collect();
    while path.next_if(|first| first == "super").is_some() {
        at.pop()?;
    }
    Some(at.into_iter().chain(path).collect())
}

/// The paths that a tree of a `use` has, or the one that an expression begins with; returns what was read of the text.
fn expand<'t>(text: &'t str, before: &mut Vec<String>, found: &mut Vec<Vec<String>>) -> &'t str {
    let length = before.len();
    let mut rest = text.trim_start();
    loop {
        let end = rest.find(|c: char| !c.is_alphanumeric() && c != '_' && c != '#').unwrap_or(rest.len());
        before.push(rest[..end].trim_start_matches("r#").to_owned());
        rest = &rest[end..];
        match rest.strip_prefix("::") {
            Some(after) if after.starts_with('{') => {
                rest = &after[1..];
                while !rest.trim_start().starts_with('}') && !rest.is_empty() {
                    rest = expand(rest, before, found).trim_start().trim_start_matches(',');
                    // What is renamed is what it was.
                    rest = rest
                        .trim_start()
                        .strip_prefix("as ")
                        .map_or(rest, |rest| &rest[rest.find([',', '}']).unwrap_or(0)..]);
                }
                rest = rest.trim_start().strip_prefix('}').unwrap_or(rest);
                break;
            }
            Some(after) => rest = after,
            None => {
                found.push(before.iter().filter(|part| *part != "self" && !part.is_empty()).cloned().collect());
                break;
            }
        }
    }
    before.truncate(length);
    rest
}

#[cfg(test)]
mod tests {
    use super::*;

    fn module(path: &str, room: &str, code: &str) -> Module {
        Module { path: path.into(), room: room.into(), code: code.into(), lines: 1 }
    }

    #[test]
    fn a_circle_is_found_and_a_facade_is_none() {
        let mut modules = vec![
            module("paint", "paint", "use crate::{look::Look, other::Thing as Named};\n"),
            module("look", "look", "mod inner;\npub use crate::look::inner::Look;\n"),
            module("look/inner", "look", "use super::super::other::{self, Thing};\nfn f() { crate::other::f() }\n"),
            module("other", "other", "pub struct Thing;\n"),
        ];
        assert_eq!(circles(&modules), [""; 0]);
        modules[3].code.push_str("fn g() -> crate::paint::Pixel { todo!() }\n");
        assert_eq!(circles(&modules).len(), 4, "{:?}", circles(&modules));
    }
}
