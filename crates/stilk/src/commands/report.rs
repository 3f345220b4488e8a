//! `stilk report merge`: what was said of pages one by one, put together.

use crate::arguments::format::Format;
use crate::output::merged::Merged;
use crate::{Failure, Outcome, say};
use std::fs::File;
use std::io::{self, BufRead, BufReader};
use std::path::{Path, PathBuf};

/// Merges lines of files, or of standard input.
pub fn merge(files: &[PathBuf], format: Format) -> Result<Outcome, Failure> {
    let mut merged = Merged::default();
    if files.is_empty() {
        take(&mut merged, Path::new("standard input"), io::stdin().lock())?;
    }
    for path in files {
        let file = File::open(path).map_err(|why| failed(path, None, &why.to_string()))?;
        take(&mut merged, path, BufReader::new(file))?;
    }
    let findings = merged.has_findings();
    match format {
        Format::Json => say::json(&format!("{:#}\n", merged.report())),
        Format::Text => say::out(format_args!("{}", say::shown(&merged.text())), ""),
    }
    let mut unread = false;
    for (page, why) in merged.unreadable() {
        tell!("error: `{}` was not read: {}", say::in_line(page), say::in_line(why));
        unread = true;
    }
    match (unread, findings) {
        // Of what was not read nothing is known: neither clean nor not.
        (true, _) => Err(Failure::Said),
        (false, true) => Ok(Outcome::Findings),
        (false, false) => Ok(Outcome::Clean),
    }
}

fn take(merged: &mut Merged, path: &Path, lines: impl BufRead) -> Result<(), Failure> {
    for (index, line) in lines.lines().enumerate() {
        let line = line.map_err(|why| failed(path, Some(index), &why.to_string()))?;
        if !line.trim().is_empty() {
            merged.add(&line).map_err(|why| failed(path, Some(index), &why))?;
        }
    }
    Ok(())
}

fn failed(path: &Path, line: Option<usize>, why: &str) -> Failure {
    let line = line.map_or_else(String::new, |index| format!(":{}", index + 1));
    let path = say::in_line(&path.to_string_lossy());
    Failure::Message(format!(
        "error: `{path}{line}` cannot be taken: {why}\n  give what `stilk scan --stream` or `stilk survey --stream` printed"
    ))
}
