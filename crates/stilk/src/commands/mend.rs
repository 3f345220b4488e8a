//! `stilk check --mend`: what can be mended without asking, shown, tried, and then written.

use super::{Loaded, outcome};
use crate::disk::{self, Folder};
use crate::output::{count, fingerprint::fingerprint};
use crate::{Failure, Outcome};
use anstyle::{AnsiColor, Style};
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;
use stilk_core::diagnostic::{Diagnostic, Edit, Level};
use stilk_core::project;
use stilk_core::source::{FileError, FileId, Files, Sources};

/// A folder with some files as they would be.
struct Tried<'t> {
    folder: Folder,
    files: &'t BTreeMap<String, String>,
}

impl Files for Tried<'_> {
    fn read(&self, path: &str) -> Result<Vec<u8>, FileError> {
        match self.files.get(path) {
            Some(text) => Ok(text.clone().into_bytes()),
            None => self.folder.read(path),
        }
    }

    fn list(&self, folder: &str) -> Result<Vec<String>, FileError> {
        self.folder.list(folder)
    }
}

/// Mends a project: shows what is replaced, and writes it where nothing new fails after it.
pub fn run(root: &Path) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let report = loaded.report(&loaded.stylesheet());
    let edits: BTreeSet<Edit> = report.findings.iter().filter_map(|finding| finding.edit.clone()).collect();
    if edits.is_empty() {
        let findings = count(report.findings.len() as u64, "finding");
        anstream::println!("nothing that can be mended without a decision: {findings}");
        return Ok(outcome(&report));
    }
    let mut edits: Vec<Edit> = edits.into_iter().collect();
    // Two mends of one place: the first is taken, the next run sees to the other.
    edits.dedup_by(|later, first| later.span.file == first.span.file && later.span.start < first.span.end);
    let files = edited(&loaded.sources, &edits);
    show(&loaded, &edits);

    let project = project::load(&Tried { folder: Folder::new(root), files: &files });
    let Some(system) = project.system else {
        let first = project.diagnostics.iter().find(|d| d.level == Level::Error).map(|d| d.message.clone());
        let why = first.unwrap_or_default();
        return Err(Failure::Message(format!(
            "error: nothing was written; with this the sources no longer load: {why}"
        )));
    };
    let after = Loaded { root: root.to_owned(), sources: project.sources, system };
    let later = after.report(&after.stylesheet());
    let keys = |findings: &[Diagnostic], sources: &Sources| -> BTreeSet<String> {
        findings.iter().map(|finding| fingerprint(finding, sources)).collect()
    };
    let (was, is) = (keys(&report.findings, &loaded.sources), keys(&later.findings, &after.sources));
    let broken: Vec<&Diagnostic> =
        later.findings.iter().filter(|finding| !was.contains(&fingerprint(finding, &after.sources))).collect();
    if !broken.is_empty() {
        anstream::println!("nothing was written: it would break");
        broken.iter().for_each(|finding| anstream::println!("  {}: {}", finding.id, finding.message));
        return Ok(Outcome::Findings);
    }
    for (path, text) in &files {
        disk::write(&root.join(path), text).map_err(|message| Failure::Message(format!("error: {message}")))?;
    }
    let cleared = was.difference(&is).count() as u64;
    let left = later.findings.len() as u64;
    let files = count(files.len() as u64, "file");
    anstream::println!("{files} written: {} cleared, none broken, {left} left", count(cleared, "finding"));
    Ok(outcome(&later))
}

/// The files with the edits made; everything else in them stays as it is, byte for byte.
fn edited(sources: &Sources, edits: &[Edit]) -> BTreeMap<String, String> {
    let mut by_file: BTreeMap<FileId, Vec<&Edit>> = BTreeMap::new();
    for edit in edits {
        by_file.entry(edit.span.file).or_default().push(edit);
    }
    by_file
        .into_iter()
        .map(|(file, edits)| {
            let source = sources.file(file);
            let mut text = source.text.to_string();
            // From the end: what comes before keeps its place.
            for edit in edits.into_iter().rev() {
                text.replace_range(edit.span.range(), &edit.text);
            }
            (source.path.clone(), text)
        })
        .collect()
}

/// The lines that change, before and after.
fn show(loaded: &Loaded, edits: &[Edit]) {
    let (red, green) =
        (Style::new().fg_color(Some(AnsiColor::Red.into())), Style::new().fg_color(Some(AnsiColor::Green.into())));
    for edit in edits {
        let text = &loaded.sources.file(edit.span.file).text;
        let range = edit.span.range();
        let start = text[..range.start].rfind('\n').map_or(0, |at| at + 1);
        let end = text[range.end..].find('\n').map_or(text.len(), |at| range.end + at);
        anstream::println!("{}", loaded.place(edit.span));
        for line in text[start..end].lines() {
            anstream::println!("{red}- {}{red:#}", line.trim());
        }
        let new = format!("{}{}{}", &text[start..range.start], edit.text, &text[range.end..end]);
        anstream::println!("{green}+ {}{green:#}\n", new.trim());
    }
}
