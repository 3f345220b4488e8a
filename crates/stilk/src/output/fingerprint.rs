//! What makes a finding the same finding in another run: its check, its file and its words without the figures. Lines
//! move, and figures change with every nudge.

use std::collections::BTreeSet;
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::Sources;

/// A finding's fingerprint.
pub fn fingerprint(finding: &Diagnostic, sources: &Sources) -> String {
    let file = finding.span.map_or("", |span| sources.file(span.file).path.as_str());
    let words: String = finding.message.chars().filter(|c| !c.is_ascii_digit() && *c != '.').collect();
    format!("{} {file} {words}", finding.id)
}

/// The fingerprints in a report that `stilk check --format json` printed.
///
/// # Errors
/// What is wrong with the file.
pub fn known(text: &str) -> Result<BTreeSet<String>, String> {
    let value: serde_json::Value = serde_json::from_str(text).map_err(|why| format!("it is no JSON: {why}"))?;
    let findings =
        value["findings"].as_array().ok_or("it has no `findings`; write `stilk check --format json > FILE`")?;
    let one = |finding: &serde_json::Value| finding["fingerprint"].as_str().map(str::to_owned);
    findings
        .iter()
        .map(|finding| one(finding).ok_or_else(|| "a finding in it has no `fingerprint`".to_owned()))
        .collect()
}
