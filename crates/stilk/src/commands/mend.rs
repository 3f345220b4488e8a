//! `stilk check --mend`: what can be mended, shown, asked for or named, tried, and then written.

use super::{Loaded, outcome};
use crate::disk::journal::{self, Edited};
use crate::output::count;
use crate::say::{self, Ink};
use crate::{Failure, Outcome};
use anstyle::AnsiColor;
use std::collections::BTreeSet;
use std::io::IsTerminal;
use std::path::Path;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::report::Report;
use stilk_checks::trial::{Found, Trial, meet, prove};
use stilk_text::diagnostic::{Diagnostic, Edit, Proposal, nearest};

/// Which mends are to be written.
pub struct Request<'r> {
    /// Those of these findings: checks by id, or places, `FILE:LINE`.
    pub named: &'r [String],
    /// All of them.
    pub yes: bool,
}

/// What can be mended of a finding.
struct Mendable {
    message: String,
    id: &'static str,
    place: String,
    fingerprint: String,
    /// What can be written, the best first.
    proposals: Vec<Proposal>,
}

/// A mend that was chosen, and the findings that it is for.
struct Chosen {
    edits: Vec<Edit>,
    fingerprints: Vec<String>,
}

/// Mends a project: shows what is replaced, and writes it where what it is for is gone after it and nothing new fails.
pub fn run(root: &Path, request: &Request) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    let mut report = loaded.report(&loaded.stylesheet());
    let found = Found::new(&report.findings, &loaded.sources);
    prove(loaded.project(), &mut report, &[], &found, &Loaded::settings());
    let mendable = mendable(&loaded, &report.findings);
    if mendable.is_empty() {
        let findings = count(report.findings.len() as u64, "finding");
        say!("nothing that can be mended without a decision: {findings}");
        return Ok(outcome(&report));
    }
    let Some(chosen) = choose(&loaded, &mendable, request)? else {
        say!("nothing was written: name what to mend, `--mend CHECK` or `--mend FILE:LINE`, or all of it with `--yes`");
        return Ok(outcome(&report));
    };
    if chosen.is_empty() {
        say!("nothing was written");
        return Ok(outcome(&report));
    }
    let together: Vec<Edit> = chosen.iter().flat_map(|chosen| chosen.edits.clone()).collect();
    let meant: Vec<&Chosen> = chosen.iter().collect();
    if let Ok(tried) = tried(&loaded, &report, &together, &meant)
        && tried.broken.is_empty()
    {
        return tried.write(&loaded, &together);
    }
    // Each alone holds, or nothing is known of it; what does not hold with those before it is left out.
    let mut held: Vec<&Chosen> = Vec::new();
    let mut last: Option<Tried> = None;
    let edits_of = |held: &[&Chosen]| held.iter().flat_map(|chosen| chosen.edits.clone()).collect::<Vec<Edit>>();
    for mend in &chosen {
        let with = [&held[..], &[mend]].concat();
        match tried(&loaded, &report, &edits_of(&with), &with) {
            Ok(tried) if tried.broken.is_empty() => {
                held = with;
                last = Some(tried);
            }
            Ok(tried) => {
                show(&loaded, &mend.edits);
                say!("left out: it would break");
                tried.broken.iter().for_each(|words| say!("  {words}"));
                say!("");
            }
            Err(why) => {
                show(&loaded, &mend.edits);
                say!("left out: with this the sources no longer load: {why}\n");
            }
        }
    }
    match last {
        Some(tried) => tried.write(&loaded, &edits_of(&held)),
        None => {
            say!("nothing was written");
            Ok(Outcome::Findings)
        }
    }
}

/// What can be mended, each way of it once.
fn mendable(loaded: &Loaded, findings: &[Diagnostic]) -> Vec<Mendable> {
    let of_finding = |finding: &Diagnostic| {
        let first = Proposal { words: finding.mend.clone().unwrap_or_default(), edits: finding.edits.clone() };
        let proposals = std::iter::once(first).chain(finding.proposals.iter().cloned());
        let proposals: Vec<Proposal> = proposals.filter(|proposal| !proposal.edits.is_empty()).collect();
        (!proposals.is_empty()).then(|| Mendable {
            message: finding.message.clone(),
            id: finding.id,
            place: finding.span.map(|span| loaded.place(span)).unwrap_or_default(),
            fingerprint: fingerprint(finding, &loaded.sources),
            proposals,
        })
    };
    findings.iter().filter_map(of_finding).collect()
}

/// The mends to be written; nothing where nobody said which.
fn choose(loaded: &Loaded, mendable: &[Mendable], request: &Request) -> Result<Option<Vec<Chosen>>, Failure> {
    let first = |mendable: &Mendable| (mendable.fingerprint.clone(), mendable.proposals[0].edits.clone());
    if !request.named.is_empty() {
        let named = |one: &Mendable, name: &String| *name == one.id || *name == one.place;
        if let Some(unknown) = request.named.iter().find(|name| !mendable.iter().any(|one| named(one, name))) {
            let known: Vec<&str> = mendable.iter().flat_map(|one| [one.id, one.place.as_str()]).collect();
            let mend = match nearest(unknown, known.iter().copied()) {
                Some(near) => format!("write `{near}`"),
                None => format!("write one of {}", known.join(", ")),
            };
            return Err(Failure::Message(format!("error: `{unknown}` has nothing that can be mended\n  {mend}")));
        }
        let wanted = mendable.iter().filter(|one| request.named.iter().any(|name| named(one, name)));
        return Ok(Some(without_conflicts(wanted.map(first))));
    }
    if request.yes {
        return Ok(Some(without_conflicts(mendable.iter().map(first))));
    }
    if !std::io::stdin().is_terminal() || !std::io::stdout().is_terminal() {
        for one in mendable {
            say!("{} {}: {}", one.place, one.id, one.message);
            for (index, proposal) in one.proposals.iter().enumerate() {
                let or = if index == 0 { "" } else { "or: " };
                say!("{or}{}", proposal.words);
                show(loaded, &proposal.edits);
            }
        }
        return Ok(None);
    }
    ask(loaded, mendable).map(Some)
}

/// Asks for each: yes, the next way, no, or all that follow.
fn ask(loaded: &Loaded, mendable: &[Mendable]) -> Result<Vec<Chosen>, Failure> {
    let mut wanted: Vec<(String, Vec<Edit>)> = Vec::new();
    let mut all = false;
    for one in mendable {
        let is_done =
            |wanted: &[(String, Vec<Edit>)], edits: &Vec<Edit>| wanted.iter().any(|(_, known)| known == edits);
        if all || is_done(&wanted, &one.proposals[0].edits) {
            wanted.push((one.fingerprint.clone(), one.proposals[0].edits.clone()));
            continue;
        }
        let mut at = 0;
        say!("{} {}: {}", one.place, one.id, one.message);
        loop {
            let proposal = &one.proposals[at];
            say!("{}", proposal.words);
            show(loaded, &proposal.edits);
            let next = if one.proposals.len() > 1 { ", next" } else { "" };
            put!("write this? (yes{next}, no, all) ");
            say::flush();
            let mut answer = String::new();
            let read = std::io::stdin().read_line(&mut answer);
            let read = read.map_err(|why| Failure::Message(format!("error: the answer cannot be read: {why}")))?;
            match answer.trim().to_ascii_lowercase().as_str() {
                "y" | "yes" => {
                    wanted.push((one.fingerprint.clone(), proposal.edits.clone()));
                    break;
                }
                "a" | "all" => {
                    all = true;
                    wanted.push((one.fingerprint.clone(), proposal.edits.clone()));
                    break;
                }
                "n" | "no" => break,
                "" if read == 0 => return Ok(without_conflicts(wanted)),
                "next" if one.proposals.len() > 1 => at = (at + 1) % one.proposals.len(),
                _ => say!("write `yes`{next}, `no` or `all`"),
            }
        }
    }
    Ok(without_conflicts(wanted))
}

/// The mends that can be made together: of two for one place the first is taken, the next run sees to the other.
fn without_conflicts(wanted: impl IntoIterator<Item = (String, Vec<Edit>)>) -> Vec<Chosen> {
    let mut chosen: Vec<Chosen> = Vec::new();
    for (fingerprint, edits) in wanted {
        if let Some(known) = chosen.iter_mut().find(|known| known.edits == edits) {
            known.fingerprints.push(fingerprint);
        } else if !chosen
            .iter()
            .flat_map(|known| &known.edits)
            .any(|known| edits.iter().any(|e| meet(known.span, e.span)))
        {
            chosen.push(Chosen { edits, fingerprints: vec![fingerprint] });
        }
    }
    chosen
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

/// Edits that were tried.
struct Tried {
    trial: Trial,
    later: Report,
    cleared: u64,
    broken: Vec<String>,
}

/// Tries edits: what they are for must be gone after them.
fn tried(loaded: &Loaded, report: &Report, edits: &[Edit], meant: &[&Chosen]) -> Result<Tried, String> {
    let trial = Trial::new(loaded.project(), edits)?;
    let later = trial.report(&Loaded::settings());
    let (known, left) = (Found::new(&report.findings, &loaded.sources), Found::new(&later.findings, &trial.sources));
    let worse = known.worse(&later.findings, &trial.sources);
    let stays = |finding: &&Diagnostic| {
        let print = fingerprint(finding, &trial.sources);
        meant.iter().any(|chosen| chosen.fingerprints.contains(&print))
    };
    let stays = later.findings.iter().filter(stays);
    let broken = worse.into_iter().chain(stays).map(|finding| format!("{}: {}", finding.id, finding.message)).collect();
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
pub fn show(loaded: &Loaded, edits: &[Edit]) {
    let (red, green) = (Ink(AnsiColor::Red.on_default()), Ink(AnsiColor::Green.on_default()));
    let mut edits: Vec<&Edit> = edits.iter().collect();
    edits.sort();
    let mut rest = edits.as_slice();
    while let [first, ..] = rest {
        let text = &loaded.sources.file(first.span.file).text;
        let start = text[..first.span.range().start].rfind('\n').map_or(0, |at| at + 1);
        let end_of_line = |from: usize| text[from..].find('\n').map_or(text.len(), |at| from + at);
        // Edits of one line are one change of it.
        let mut end = end_of_line(first.span.range().end);
        let is_on = |edit: &Edit, end: usize| edit.span.file == first.span.file && edit.span.range().start <= end;
        let mut new = String::new();
        let mut kept = start;
        let mut taken = 0;
        while let Some(edit) = rest.get(taken).filter(|edit| is_on(edit, end)) {
            let range = edit.span.range();
            new.push_str(&text[kept..range.start]);
            new.push_str(&edit.text);
            (kept, end) = (range.end, end.max(end_of_line(range.end)));
            taken += 1;
        }
        new.push_str(&text[kept..end]);
        say!("{}", loaded.place(first.span));
        for line in text[start..end].lines() {
            say!("{red}- {}{red:#}", line.trim());
        }
        for line in new.lines() {
            say!("{green}+ {}{green:#}", line.trim());
        }
        say!("");
        rest = &rest[taken..];
    }
}
