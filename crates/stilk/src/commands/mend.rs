//! `stilk check --mend`: what can be mended without asking, shown, tried, and then written.

use super::{Loaded, outcome};
use crate::disk::journal::{self, Edited};
use crate::output::count;
use crate::say::Ink;
use crate::{Failure, Outcome};
use anstyle::AnsiColor;
use std::collections::BTreeSet;
use std::path::Path;
use stilk_checks::report::Report;
use stilk_checks::trial::{Found, Trial, meet, prove};
use stilk_text::diagnostic::{Diagnostic, Edit};

/// Mends a project: shows what is replaced, and writes it where nothing new fails after it.
pub fn run(root: &Path) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let mut report = loaded.report(&loaded.stylesheet());
    let found = Found::new(&report.findings, &loaded.sources);
    prove(loaded.project(), &mut report, &[], &found, &Loaded::settings());
    let mends = chosen(&report.findings);
    if mends.is_empty() {
        let findings = count(report.findings.len() as u64, "finding");
        say!("nothing that can be mended without a decision: {findings}");
        return Ok(outcome(&report));
    }
    let together = mends.concat();
    if let Ok(tried) = tried(&loaded, &report, &together)
        && tried.broken.is_empty()
    {
        return tried.write(&loaded, &together);
    }
    // Each alone holds, or nothing is known of it; what does not hold with those before it is left out.
    let mut held: Vec<Edit> = Vec::new();
    let mut last: Option<Tried> = None;
    for mend in mends {
        let edits = [&held[..], &mend[..]].concat();
        match tried(&loaded, &report, &edits) {
            Ok(tried) if tried.broken.is_empty() => {
                held = edits;
                last = Some(tried);
            }
            Ok(tried) => {
                show(&loaded, &mend);
                say!("left out: it would break");
                tried.broken.iter().for_each(|words| say!("  {words}"));
                say!("");
            }
            Err(why) => {
                show(&loaded, &mend);
                say!("left out: with this the sources no longer load: {why}\n");
            }
        }
    }
    match last {
        Some(tried) => tried.write(&loaded, &held),
        None => {
            say!("nothing was written");
            Ok(Outcome::Findings)
        }
    }
}

/// Prints the mends of some findings as they would be written, and writes nothing.
pub fn propose(loaded: &Loaded, findings: &[Diagnostic]) {
    let mut said: BTreeSet<&str> = BTreeSet::new();
    for finding in findings {
        let Some(mend) = finding.mend.as_deref().filter(|mend| said.insert(mend)) else { continue };
        say!("{}\n{mend}", finding.message);
        show(loaded, &finding.edits);
        if finding.edits.is_empty() {
            say!("");
        }
    }
}

/// The mends that can be made together: of two for one place the first is taken, the next run sees to the other.
fn chosen(findings: &[Diagnostic]) -> Vec<Vec<Edit>> {
    let mut mends: Vec<Vec<Edit>> = Vec::new();
    for finding in findings.iter().filter(|finding| !finding.edits.is_empty()) {
        if !mends.iter().flatten().any(|known| finding.edits.iter().any(|edit| meet(known.span, edit.span))) {
            mends.push(finding.edits.clone());
        }
    }
    mends
}

/// Edits that were tried.
struct Tried {
    trial: Trial,
    later: Report,
    cleared: u64,
    broken: Vec<String>,
}

fn tried(loaded: &Loaded, report: &Report, edits: &[Edit]) -> Result<Tried, String> {
    let trial = Trial::new(loaded.project(), edits)?;
    let later = trial.report(&Loaded::settings());
    let (known, left) = (Found::new(&report.findings, &loaded.sources), Found::new(&later.findings, &trial.sources));
    let worse = known.worse(&later.findings, &trial.sources);
    let broken = worse.into_iter().map(|finding| format!("{}: {}", finding.id, finding.message)).collect();
    let cleared = known.cleared_in(&left);
    Ok(Tried { trial, later, cleared, broken })
}

impl Tried {
    fn write(self, loaded: &Loaded, edits: &[Edit]) -> Result<Outcome, Failure> {
        show(loaded, edits);
        let edited: Vec<Edited> =
            self.trial.files.iter().map(|(path, text)| loaded.edited(path, text)).collect::<Result<_, _>>()?;
        journal::write_all(&loaded.root, &edited).map_err(|why| {
            Failure::Message(format!(
                "error: {why}\n  nothing was written: look at it and run `stilk check --mend` again"
            ))
        })?;
        let left = self.later.findings.len() as u64;
        let files = count(self.trial.files.len() as u64, "file");
        say!("{files} written: {} cleared, none broken, {left} left", count(self.cleared, "finding"));
        Ok(outcome(&self.later))
    }
}

/// The lines that change, before and after.
fn show(loaded: &Loaded, edits: &[Edit]) {
    let (red, green) = (Ink(AnsiColor::Red.on_default()), Ink(AnsiColor::Green.on_default()));
    let mut edits: Vec<&Edit> = edits.iter().collect();
    edits.sort();
    for edit in edits {
        let text = &loaded.sources.file(edit.span.file).text;
        let range = edit.span.range();
        let start = text[..range.start].rfind('\n').map_or(0, |at| at + 1);
        let end = text[range.end..].find('\n').map_or(text.len(), |at| range.end + at);
        say!("{}", loaded.place(edit.span));
        for line in text[start..end].lines() {
            say!("{red}- {}{red:#}", line.trim());
        }
        let new = format!("{}{}{}", &text[start..range.start], edit.text, &text[range.end..end]);
        for line in new.lines() {
            say!("{green}+ {}{green:#}", line.trim());
        }
        say!("");
    }
}
