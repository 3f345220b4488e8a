//! Controls that are right, in the habits of many authors: nothing is to be said of any of them.

use crate::probe::{Probe, Said, probes};

#[test]
fn nothing_is_said_of_what_is_right() {
    let all: Vec<Probe> = probes();
    assert!(all.len() >= 60, "{} probes", all.len());
    let mut wrong = Vec::new();
    for probe in &all {
        let said: Vec<String> = probe.report(&[]).1.iter().map(Said::to_string).collect();
        if !said.is_empty() {
            wrong.push(format!("{}:\n    {}", probe.name, said.join("\n    ")));
        }
    }
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), all.len(), wrong.join("\n"));
}
