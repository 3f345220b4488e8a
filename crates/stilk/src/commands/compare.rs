//! `stilk compare`: two versions of a system, from folders or from git.

use crate::arguments::format::CompareFormat;
use crate::disk::Folder;
use crate::output::compare as output;
use crate::output::failure::Refused;
use crate::{Failure, Outcome, say};
use std::collections::{BTreeMap, BTreeSet};
use std::io::{Read, Write};
use std::path::Path;
use std::process::{Command, Stdio};
use stilk_checks::registry;
use stilk_language::stylesheet::{Purpose, Written, write};
use stilk_language::system::System;
use stilk_text::diagnostic::Level;
use stilk_text::source::{FileError, FileText, Files, MAX_FILE_BYTES, MAX_PROJECT_BYTES, Sources};
use stilk_views::compare::{Version, compare, page};

/// One version, read.
struct ReadVersion {
    name: String,
    system: System,
    sources: Sources,
    written: Written,
}

impl ReadVersion {
    fn version(&self) -> Version<'_> {
        Version { system: &self.system, sources: &self.sources, written: &self.written }
    }
}

/// Compares two versions. `new` is the project as it is where nothing is named.
pub fn run(root: &Path, old: &str, new: Option<&str>, format: CompareFormat) -> Result<Outcome, Failure> {
    let [old, new] = [read(root, Some(old))?, read(root, new)?];
    let versions = [old.version(), new.version()];
    let comparison = compare(&versions[0], &versions[1]);
    let names = [old.name.as_str(), new.name.as_str()];
    match format {
        CompareFormat::Text => put!("{}", output::text(&comparison, names)),
        CompareFormat::Markdown => say::markup(&output::markdown(&comparison, names)),
        CompareFormat::Json => say::json(&format!("{:#}\n", output::json(&comparison, names))),
        CompareFormat::Html => say::markup(&page(&comparison, [&versions[0], &versions[1]], names)),
    }
    Ok(if comparison.is_equal() { Outcome::Clean } else { Outcome::Findings })
}

/// A version by its name: a folder, or a revision of the project; the project as it is without one.
fn read(root: &Path, name: Option<&str>) -> Result<ReadVersion, Failure> {
    let (files, folder, name): (Box<dyn Files>, &Path, String) = match name {
        None => (Box::new(Folder::new(root)), root, "the project as it is".into()),
        Some(name) if Path::new(name).is_dir() => {
            (Box::new(Folder::new(Path::new(name))), Path::new(name), name.into())
        }
        Some(name) => (Box::new(Revision::read(root, name)?), root, name.into()),
    };
    let project = registry::load(&*files);
    let errors: Vec<_> = project.diagnostics.into_iter().filter(|d| d.level == Level::Error).collect();
    let Some(system) = project.system else {
        let consequence = format!("error: `{name}` cannot be compared: its sources hold errors");
        let (root, sources) = (folder.to_owned(), project.sources);
        return Err(Failure::Sources(Box::new(Refused { root, diagnostics: errors, sources, consequence })));
    };
    let written = write(&system, &project.sources, Purpose::Page);
    Ok(ReadVersion { name, system, sources: project.sources, written })
}

/// The files of a project in a revision, as git has them.
struct Revision {
    files: BTreeMap<String, Vec<u8>>,
    /// What is there and was not read.
    too_large: BTreeSet<String>,
}

/// Git, which reads what is there and nothing else: it fetches nothing, runs no hook and no program that a repository
/// configures, asks nobody, and writes nothing.
fn git_command(root: &Path) -> Command {
    let mut command = Command::new("git");
    command.arg("--no-pager").arg("--no-optional-locks").arg("-C").arg(root);
    for setting in ["core.hooksPath=/dev/null", "core.fsmonitor=false", "protocol.allow=never", "diff.external="] {
        command.args(["-c", setting]);
    }
    command.env("GIT_NO_LAZY_FETCH", "1").env("GIT_TERMINAL_PROMPT", "0").env("GIT_NO_REPLACE_OBJECTS", "1");
    command
}

impl Revision {
    fn read(root: &Path, revision: &str) -> Result<Revision, Failure> {
        let said = |words: String| Failure::Message(format!("error: {words}"));
        let git = |arguments: &[&str]| {
            let output = git_command(root).args(arguments).output();
            output.map_err(|error| said(format!("cannot run git: {error}")))
        };
        // What looks like an option is none of git's business.
        let name = format!("{revision}^{{commit}}");
        let known = git(&["rev-parse", "--verify", "--quiet", "--end-of-options", &name])?;
        if !known.status.success() {
            let root = root.display();
            return Err(said(format!("`{revision}` is no folder, and no revision that git knows in `{root}`")));
        }
        let commit = String::from_utf8_lossy(&known.stdout).trim().to_owned();
        // Names are relative to the project's folder, which may be a part of the repository.
        let listed = git(&["ls-tree", "-r", "-z", "--long", &commit, "."])?;
        if !listed.status.success() {
            return Err(said(format!(
                "git cannot list `{revision}`: {}",
                String::from_utf8_lossy(&listed.stderr).trim()
            )));
        }
        let list = String::from_utf8_lossy(&listed.stdout).into_owned();
        let mut wanted: Vec<(String, String)> = Vec::new();
        let (mut all, mut too_large) = (0_usize, BTreeSet::new());
        for entry in list.split('\0').filter(|entry| !entry.is_empty()) {
            let Some((meta, path)) = entry.split_once('\t') else { continue };
            let mut meta = meta.split_ascii_whitespace();
            let (kind, id) = (meta.nth(1), meta.next());
            let size: usize = meta.next().and_then(|size| size.parse().ok()).unwrap_or_default();
            let is_source = [".stilk", ".html", ".json", ".toml"].iter().any(|ending| path.ends_with(ending));
            if let (Some("blob"), Some(id), true) = (kind, id, is_source) {
                // Read no further than files are; what the project names of it is said to be too large.
                all = all.saturating_add(size);
                if size > MAX_FILE_BYTES || all > 2 * MAX_PROJECT_BYTES {
                    too_large.insert(path.to_owned());
                    continue;
                }
                wanted.push((path.to_owned(), id.to_owned()));
            }
        }
        let files = blobs(root, &wanted).map_err(|error| said(format!("git cannot read `{revision}`: {error}")))?;
        Ok(Revision { files, too_large })
    }
}

/// The contents of blobs, by path, from one process.
fn blobs(root: &Path, wanted: &[(String, String)]) -> std::io::Result<BTreeMap<String, Vec<u8>>> {
    let mut command = git_command(root);
    command.args(["cat-file", "--batch"]).stdin(Stdio::piped()).stdout(Stdio::piped());
    let mut child = command.spawn()?;
    let ids: String = wanted.iter().map(|(_, id)| format!("{id}\n")).collect();
    // Git answers while it is still being asked: both ends are served at once.
    let stdin = child.stdin.take();
    let asking = std::thread::spawn(move || stdin.map_or(Ok(()), |mut stdin| stdin.write_all(ids.as_bytes())));
    let mut answer = Vec::new();
    if let Some(stdout) = child.stdout.as_mut() {
        stdout.read_to_end(&mut answer)?;
    }
    child.wait()?;
    asking.join().unwrap_or(Ok(()))?;
    let mut files = BTreeMap::new();
    let mut rest = answer.as_slice();
    for (path, _) in wanted {
        // `<id> blob <size>`, a line end, the contents, a line end.
        let bad = || std::io::Error::other("git answered something else");
        let end = rest.iter().position(|byte| *byte == b'\n').ok_or_else(bad)?;
        let size: usize = String::from_utf8_lossy(&rest[..end])
            .rsplit(' ')
            .next()
            .and_then(|text| text.parse().ok())
            .ok_or_else(bad)?;
        let text = rest.get(end + 1..end + 1 + size).ok_or_else(bad)?;
        files.insert(path.clone(), text.to_vec());
        rest = rest.get(end + 2 + size..).ok_or_else(bad)?;
    }
    Ok(files)
}

impl Files for Revision {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        let path = path.trim_start_matches("./");
        if self.too_large.contains(path) {
            return Err(FileError::TooLarge);
        }
        self.files.get(path).cloned().map(FileText::own).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let before = match folder.trim_start_matches("./").trim_end_matches('/') {
            "" | "." => String::new(),
            folder => format!("{folder}/"),
        };
        let inside = self.files.keys().chain(&self.too_large).filter_map(|path| path.strip_prefix(&before));
        let names: Vec<String> = inside.filter(|name| !name.contains('/')).map(str::to_owned).collect();
        if names.is_empty() { Err(FileError::Missing) } else { Ok(names) }
    }
}
