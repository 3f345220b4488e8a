//! Faults that people make, each planted in a control that is right: each is found, at the place that a person would edit.

use crate::probe::{Probe, Said, probes};
use std::path::Path;

/// A fault.
pub struct Fault {
    /// The check that is to find it.
    pub check: String,
    /// What is wrong.
    pub words: String,
    /// The probe that it is planted in.
    pub probe: String,
    /// What is replaced, and by what.
    pub planted: Vec<(String, String)>,
    /// What the line that is to be edited holds.
    pub at: String,
}

/// What became of a fault.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Outcome {
    /// Found where it is.
    Found,
    /// Found, and another place is named.
    Elsewhere,
    /// Not found.
    Missed,
}

/// All of them, from `planted/*.faults`. Each begins with `== CHECK: WORDS`; `in:` names the probe, `-` what is replaced, `+`
/// by what, `at:` what the line holds that is to be edited.
pub fn faults() -> Vec<Fault> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/checks/planted");
    let mut files: Vec<_> = std::fs::read_dir(folder).expect("a folder").flatten().map(|entry| entry.path()).collect();
    files.sort();
    let text: String = files.iter().map(|file| std::fs::read_to_string(file).expect("a file")).collect();
    let mut faults: Vec<Fault> = Vec::new();
    for line in text.lines() {
        let (kind, rest) = line.split_once(' ').unwrap_or((line, ""));
        let last = faults.last_mut();
        match (kind, last) {
            ("==", _) => {
                let (check, words) = rest.split_once(": ").unwrap_or_else(|| panic!("{line}"));
                let (probe, at) = (String::new(), String::new());
                faults.push(Fault { check: check.to_owned(), words: words.to_owned(), probe, planted: Vec::new(), at });
            }
            ("in:", Some(fault)) => fault.probe = rest.to_owned(),
            ("at:", Some(fault)) => fault.at = rest.to_owned(),
            ("-", Some(fault)) => fault.planted.push((rest.to_owned(), String::new())),
            ("+", Some(fault)) => fault.planted.last_mut().expect("what is replaced").1 = rest.to_owned(),
            ("", _) => {}
            _ => panic!("{line}"),
        }
    }
    faults
}

impl Fault {
    /// What becomes of it, and all that is said.
    pub fn outcome(&self, probes: &[Probe]) -> (Outcome, Vec<Said>) {
        let probe = probes.iter().find(|probe| probe.name == self.probe);
        let probe = probe.unwrap_or_else(|| panic!("no probe is named {}", self.probe));
        let planted: Vec<(&str, &str)> = self.planted.iter().map(|(from, to)| (from.as_str(), to.as_str())).collect();
        let said = probe.report(&planted).1;
        let own: Vec<&Said> = said.iter().filter(|one| one.id == self.check).collect();
        let outcome = match own.iter().any(|one| one.line.contains(&self.at)) {
            true => Outcome::Found,
            false if own.is_empty() => Outcome::Missed,
            false => Outcome::Elsewhere,
        };
        (outcome, said)
    }
}

#[test]
fn every_fault_is_found_where_it_is() {
    let probes = probes();
    let faults = faults();
    let mut wrong = Vec::new();
    for fault in &faults {
        let (outcome, said) = fault.outcome(&probes);
        if outcome != Outcome::Found {
            let said: Vec<String> = said.iter().map(Said::to_string).collect();
            wrong.push(format!("{outcome:?}: {}: {}\n    {}", fault.check, fault.words, said.join("\n    ")));
        }
    }
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), faults.len(), wrong.join("\n"));
}
