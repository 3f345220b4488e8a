//! Controls that are right, in the habits of many authors: nothing is to be said of any of them.

use crate::probe::{Probe, probes};

#[test]
fn nothing_is_said_of_what_is_right() {
    let all: Vec<Probe> = probes();
    let mut wrong = Vec::new();
    for probe in &all {
        let found = probe.findings(&[]);
        if !found.is_empty() {
            wrong.push(format!(
                "{}:\n    {}",
                probe.name,
                found.iter().map(|f| f.to_string()).collect::<Vec<_>>().join("\n    ")
            ));
        }
    }
    println!("{}", wrong.join("\n"));
    assert!(all.len() >= 60, "{} probes", all.len());
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), all.len(), wrong.join("\n"));
}
