//! `stilk adopt`: pages and their stylesheets become a project, and the pages look the same.

use super::survey::{only, read, threads};
use crate::output::{count, survey as output};
use crate::{Failure, Outcome, disk, say};
use std::ffi::OsString;
use std::path::{Component, Path, PathBuf};
use stilk_adopt::account::{Adopted, Became};
use stilk_adopt::adopt::{Request as Asked, adopt};
use stilk_adopt::write::{kept, report};
use stilk_checks::registry::CHECKS;
use stilk_survey::survey::Only;

/// What was asked.
pub struct Request<'r> {
    /// Files, folders and patterns.
    pub pages: &'r [OsString],
    /// The folder of the project.
    pub to: &'r Path,
    /// The system's name.
    pub name: Option<&'r str>,
    /// Stylesheets that every page uses after its own.
    pub css: &'r [PathBuf],
    /// Kinds of controls, or selectors.
    pub only: &'r [String],
    /// Whether rules stand in layers.
    pub layers: bool,
    /// Whether families are adopted that would look different.
    pub force: bool,
    /// Whether colours that are almost one become one.
    pub merge: bool,
    /// Whether nothing is printed.
    pub quiet: bool,
}

/// Adopts pages.
pub fn run(request: &Request) -> Result<Outcome, Failure> {
    let adopted = adopted(request)?;
    if !request.quiet {
        print(request, &adopted);
    }
    Ok(match adopted.proof.differing {
        0 => Outcome::Clean,
        _ => Outcome::Findings,
    })
}

/// Adopts pages and writes the project.
pub fn adopted(request: &Request) -> Result<Adopted, Failure> {
    let (checks, only) = only(request.only)?;
    if let Some(check) = checks.first() {
        return Err(Failure::Message(format!(
            "error: `{check}` is a check; controls are adopted by a selector or their kind"
        )));
    }
    let manifest = request.to.join(stilk_language::manifest::MANIFEST);
    let earlier = if manifest.exists() { earlier(request.to) } else { Some(Vec::new()) };
    let Some(earlier) = earlier else {
        return Err(Failure::Message(format!(
            "error: there is a project in `{}` already that was not adopted, and nothing was written\nmend: name a new folder with `--to DIR`",
            request.to.display()
        )));
    };
    let (site, unreadable) = read("adopt", request.pages, request.css)?;
    if let Some((page, why)) = unreadable.first() {
        return Err(Failure::Message(format!("error: `{page}` cannot be read: {why}")));
    }
    let own = std::path::absolute(request.to).unwrap_or_else(|_| request.to.to_owned());
    let folder = own.file_name().map_or_else(|| "system".into(), |name| name.to_string_lossy().into_owned());
    let name = request.name.map(str::to_owned).or_else(|| name_of(&manifest)).unwrap_or(folder);
    let asked = |only_earlier: bool, only: Vec<Only>| {
        let dist = own.join("dist");
        Asked {
            name: name.clone(),
            only,
            earlier: earlier.clone(),
            only_earlier,
            layers: request.layers,
            force: request.force,
            merge: request.merge,
            checks: CHECKS.iter().map(|check| check.id).collect(),
            threads: threads(),
            rebase: Box::new(move |old, address| rebased(old, &dist, address)),
        }
    };
    let failed = |why: String| Failure::Message(format!("error: {why}"));
    let adopted = adopt(&site, &asked(false, only)).map_err(failed)?;
    output::tell_missing(&site);
    if adopted.became.is_empty() {
        let left: Vec<String> = adopted.left.iter().map(|left| format!("  {}: {}", left.family, left.why)).collect();
        let why = if left.is_empty() {
            "no control on these pages has a look of its own".to_owned()
        } else {
            left.join("\n")
        };
        return Err(Failure::Message(format!("error: nothing was adopted\n{why}")));
    }
    // What was written before and nobody has changed since may be written anew.
    let before = match earlier.is_empty() {
        true => None,
        false => Some(files(request, &own, &adopt(&site, &asked(true, Vec::new())).map_err(failed)?)),
    };
    write(files(request, &own, &adopted), before.as_deref())?;
    Ok(adopted)
}

/// The families of a project that was adopted, in their order; nothing where it was not.
fn earlier(to: &Path) -> Option<Vec<String>> {
    let text = std::fs::read_to_string(to.join("ADOPTED.md")).ok()?;
    let family = |line: &str| Some(line.strip_prefix("### `")?.rsplit_once("` became `")?.0.to_owned());
    let families: Vec<String> = text.lines().filter_map(family).collect();
    (!families.is_empty()).then_some(families)
}

/// What a manifest calls its system.
fn name_of(manifest: &Path) -> Option<String> {
    let text = std::fs::read_to_string(manifest).ok()?;
    let line = text.lines().find_map(|line| line.strip_prefix("name = \""))?;
    Some(line.strip_suffix('"')?.to_owned())
}

/// All files of the project, the manifest last: a folder without one is no project yet.
fn files(request: &Request, own: &Path, adopted: &Adopted) -> Vec<(PathBuf, String)> {
    let mut files: Vec<(PathBuf, String)> =
        adopted.files.iter().map(|(path, text)| (request.to.join(path), text.clone())).collect();
    for file in &adopted.kept {
        let to = own.join(&file.path);
        let folder = to.parent().unwrap_or(own).to_owned();
        let text = kept::relocated(&file.text, &|address| rebased(&file.old, &folder, address));
        files.push((request.to.join(&file.path), text));
    }
    files.sort_by_key(|(path, _)| path.ends_with(stilk_language::manifest::MANIFEST));
    files
}

/// Writes the project. What is there already stays, unless it is what was written `before` and has not been changed since.
fn write(files: Vec<(PathBuf, String)>, before: Option<&[(PathBuf, String)]>) -> Result<(), Failure> {
    let mut wanted = Vec::new();
    let mut there = Vec::new();
    for (path, text) in files {
        let Ok(known) = std::fs::read_to_string(&path) else {
            // What cannot be read is somebody's.
            if path.exists() {
                there.push(format!("  {}", path.display()));
            }
            wanted.push((path, text));
            continue;
        };
        let written = before.and_then(|before| before.iter().find(|(of, _)| *of == path)).map(|(_, text)| text);
        if known == text || written == Some(&text) {
            continue;
        }
        match written {
            Some(written) if *written == known => wanted.push((path, text)),
            _ => there.push(format!("  {}", path.display())),
        }
    }
    if !there.is_empty() {
        let (what, mend) = match before {
            Some(_) => {
                ("were changed since they were adopted", "adopt into a new folder and take over what you changed")
            }
            None => ("are there already", "name a new folder with `--to DIR`"),
        };
        return Err(Failure::Message(format!(
            "error: these files {what}, and nothing was written:\n{}\nmend: {mend}",
            there.join("\n")
        )));
    }
    for (path, text) in &wanted {
        disk::write(path, text).map_err(|message| Failure::Message(format!("error: {message}")))?;
    }
    Ok(())
}

/// An address in a stylesheet, written from another folder; nothing where it does not depend on the place.
fn rebased(old: &str, folder: &Path, address: &str) -> Option<String> {
    let is_fixed = address.is_empty()
        || address.starts_with(['/', '#'])
        || address.split(['/', '?', '#']).next().is_some_and(|first| first.contains(':'));
    if is_fixed {
        return None;
    }
    let (path, rest) = match address.find(['?', '#']) {
        Some(at) => address.split_at(at),
        None => (address, ""),
    };
    let from = std::path::absolute(old).ok()?;
    let target = plain(&from.parent()?.join(path));
    let relative = from_folder(&plain(folder), &target);
    Some(format!("{relative}{rest}"))
}

/// A path without `.` and `..`.
fn plain(path: &Path) -> PathBuf {
    let mut plain = PathBuf::new();
    for part in path.components() {
        match part {
            Component::CurDir => {}
            Component::ParentDir => drop(plain.pop()),
            part => plain.push(part),
        }
    }
    plain
}

/// The way from a folder to a file, as addresses have it.
fn from_folder(folder: &Path, file: &Path) -> String {
    let (from, to): (Vec<Component>, Vec<Component>) = (folder.components().collect(), file.components().collect());
    let common = from.iter().zip(&to).take_while(|(one, other)| one == other).count();
    let up = std::iter::repeat_n("..".to_owned(), from.len() - common);
    let down = to[common..].iter().map(|part| part.as_os_str().to_string_lossy().into_owned());
    up.chain(down).collect::<Vec<_>>().join("/")
}

/// Says what came of it.
pub fn print(request: &Request, adopted: &Adopted) {
    let controls: usize = adopted.became.iter().map(|one| one.controls).sum();
    say!(
        "{} in {} written to {}, with {}\n",
        count(controls as u64, "control"),
        count(adopted.became.len() as u64, "sheet"),
        request.to.display(),
        count(adopted.tokens as u64, "token"),
    );
    let width = adopted.became.iter().map(|one| one.control.len()).max().unwrap_or(0);
    let number = |one: &Became| count(one.controls as u64, "control");
    let numbers = adopted.became.iter().map(|one| number(one).len()).max().unwrap_or(0);
    for one in &adopted.became {
        say!("  {:width$}  {:<numbers$}  {}", one.control, number(one), shortened(&one.family));
    }
    if !adopted.left.is_empty() {
        say!("\nLeft as it was:");
        for left in &adopted.left {
            say!("  {} · {}", shortened(&left.family), left.why);
        }
    }
    say!("\n{}", report::summary(adopted));
    let flag = say::word(&request.to.to_string_lossy());
    say!("\nWhat became what, and what pages link now, stands in {}.", request.to.join("ADOPTED.md").display());
    say!("Now: stilk build --project {flag}    writes {}", request.to.join(&adopted.stylesheet).display());
    say!("     stilk check --project {flag}    says what is wrong with it");
}

fn shortened(family: &str) -> String {
    const MOST: usize = 60;
    match family.char_indices().nth(MOST) {
        Some((at, _)) => format!("{}…", &family[..at]),
        None => family.to_owned(),
    }
}
