//! `stilk format`: sheets in the plain layout.

use crate::disk::journal::{self, Edited};
use crate::output::count;
use crate::output::failure::Refused;
use crate::{Failure, Outcome, disk};
use std::path::{Path, PathBuf};
use stilk_language::manifest::{self, MANIFEST};
use stilk_language::{plain_layout as layout, sheet};
use stilk_text::diagnostic::Diagnostics;
use stilk_text::loader::Loader;
use stilk_text::source::{MAX_FILE_BYTES, Sources};

/// What was asked.
pub struct Request<'r> {
    /// The sheets; all of the project where none is named.
    pub files: &'r [PathBuf],
    /// Whether it is only said what is not in the plain layout.
    pub check: bool,
    /// Whether nothing is said of what was written.
    pub quiet: bool,
}

/// Writes sheets in the plain layout: all of them, or none where one cannot be read.
pub fn run(root: &Path, request: &Request) -> Result<Outcome, Failure> {
    let files = if request.files.is_empty() { sheets(root)? } else { request.files.to_vec() };
    let mut sources = Sources::default();
    let mut diagnostics = Diagnostics::default();
    let mut edits = Vec::new();
    let mut refused = Vec::new();
    for path in &files {
        let shown = path.to_string_lossy();
        let bytes = match disk::read(path, MAX_FILE_BYTES as u64) {
            Ok(bytes) => bytes,
            Err(why) => {
                refused.push(format!("error: cannot read `{shown}`: {why}"));
                continue;
            }
        };
        let Ok(text) = String::from_utf8(bytes.clone()) else {
            refused.push(format!("error: `{shown}` is not UTF-8: save it so"));
            continue;
        };
        let (mark, body) = text.split_at(text.len() - text.trim_start_matches('\u{feff}').len());
        let said = diagnostics.mark();
        let file = sources.add(shown.clone(), body);
        sheet::parse(file, &sources, &mut diagnostics);
        if diagnostics.has_errors_since(said) {
            continue;
        }
        let formatted = layout::formatted(body);
        if !layout::means_the_same(body, &formatted) {
            refused.push(format!("error: `{shown}` would mean something else in the plain layout, and stays as it is"));
        } else if formatted != body {
            edits.push(Edited { path: path.clone(), before: bytes, after: format!("{mark}{formatted}").into_bytes() });
        }
    }
    if !refused.is_empty() {
        return Err(Failure::Message(refused.join("\n")));
    }
    if diagnostics.has_errors() {
        let (diagnostics, root) = (diagnostics.into_sorted(), PathBuf::from("."));
        let consequence = "nothing was written: mend these first".to_owned();
        return Err(Failure::Sources(Box::new(Refused { root, diagnostics, sources, consequence })));
    }
    if request.check {
        edits.iter().for_each(|edit| say!("{} is not in the plain layout", shown(&edit.path)));
        return Ok(if edits.is_empty() { Outcome::Clean } else { Outcome::Findings });
    }
    if !edits.is_empty() {
        journal::write_all(root, &edits).map_err(|why| Failure::Message(format!("error: {why}")))?;
    }
    if !request.quiet {
        edits.iter().for_each(|edit| say!("{}", shown(&edit.path)));
        let all = count(files.len() as u64, "sheet");
        match edits.len() as u64 {
            0 => say!("{all}: all are in the plain layout"),
            written => say!("{all}: {} written", written),
        }
    }
    Ok(Outcome::Clean)
}

/// A path as the user can open it.
fn shown(path: &Path) -> String {
    disk::shown(Path::new("."), &path.to_string_lossy())
}

/// The sheets of a project, by name.
fn sheets(root: &Path) -> Result<Vec<PathBuf>, Failure> {
    let folder = disk::Folder::new(root);
    let mut loader = Loader::new(&folder);
    let manifest = loader.read(MANIFEST, None).and_then(|file| manifest::read(file, &mut loader));
    let Some(manifest) = manifest else {
        let (diagnostics, sources) = (loader.diagnostics.into_sorted(), loader.sources);
        let consequence = "the project's sheets are not known: name them, `stilk format FILE…`".to_owned();
        return Err(Failure::Sources(Box::new(Refused { root: root.to_owned(), diagnostics, sources, consequence })));
    };
    let controls = root.join(&manifest.controls.value);
    let failed = |why: std::io::Error| Failure::Message(format!("error: cannot read `{}`: {why}", controls.display()));
    let mut found = Vec::new();
    for entry in std::fs::read_dir(&controls).map_err(failed)? {
        let path = entry.map_err(failed)?.path();
        if path.extension().is_some_and(|ending| ending == "stilk") {
            found.push(path);
        }
    }
    found.sort();
    Ok(found)
}
