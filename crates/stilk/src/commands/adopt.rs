//! `stilk adopt`: pages and their stylesheets become a project, and the pages look the same.

use super::survey::{only, read, threads};
use crate::output::count;
use crate::{Failure, Outcome, disk, say};
use std::ffi::OsString;
use std::path::{Component, Path, PathBuf};
use stilk_adopt::account::{Adopted, Became};
use stilk_adopt::adopt::{Request as Asked, adopt};
use stilk_adopt::write::{kept, report};
use stilk_checks::registry::CHECKS;

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
    if request.to.join(stilk_language::manifest::MANIFEST).exists() {
        return Err(Failure::Message(format!(
            "error: there is a project in `{}` already, and nothing was written\nhelp: name a new folder with `--to DIR`",
            request.to.display()
        )));
    }
    let (site, unreadable) = read(request.pages, request.css)?;
    if let Some((page, why)) = unreadable.first() {
        return Err(Failure::Message(format!("error: `{page}` cannot be read: {why}")));
    }
    let own = std::path::absolute(request.to).unwrap_or_else(|_| request.to.to_owned());
    let folder = own.file_name().map_or_else(|| "system".into(), |name| name.to_string_lossy().into_owned());
    let dist = own.join("dist");
    let asked = Asked {
        name: request.name.unwrap_or(&folder).to_owned(),
        only,
        layers: request.layers,
        force: request.force,
        merge: request.merge,
        checks: CHECKS.iter().map(|check| check.id).collect(),
        threads: threads(),
        rebase: Box::new(move |old, address| rebased(old, &dist, address)),
    };
    let adopted = adopt(&site, &asked).map_err(|why| Failure::Message(format!("error: {why}")))?;
    if adopted.became.is_empty() {
        let left: Vec<String> = adopted.left.iter().map(|left| format!("  {}: {}", left.family, left.why)).collect();
        let why = if left.is_empty() {
            "no control on these pages has a look of its own".to_owned()
        } else {
            left.join("\n")
        };
        return Err(Failure::Message(format!("error: nothing was adopted\n{why}")));
    }
    write(request, &own, &adopted)?;
    Ok(adopted)
}

/// Writes the project; nothing that is there already is touched.
fn write(request: &Request, own: &Path, adopted: &Adopted) -> Result<(), Failure> {
    let mut files: Vec<(PathBuf, String)> =
        adopted.files.iter().map(|(path, text)| (request.to.join(path), text.clone())).collect();
    for file in &adopted.kept {
        let to = own.join(&file.path);
        let folder = to.parent().unwrap_or(own).to_owned();
        let text = kept::relocated(&file.text, &|address| rebased(&file.old, &folder, address));
        files.push((request.to.join(&file.path), text));
    }
    let there: Vec<String> =
        files.iter().filter(|(path, _)| path.exists()).map(|(path, _)| format!("  {}", path.display())).collect();
    if !there.is_empty() {
        return Err(Failure::Message(format!(
            "error: these files are there already, and nothing was written:\n{}\nhelp: name a new folder with `--to DIR`",
            there.join("\n")
        )));
    }
    // The manifest last: a folder without one is no project yet.
    files.sort_by_key(|(path, _)| path.ends_with(stilk_language::manifest::MANIFEST));
    for (path, text) in &files {
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
