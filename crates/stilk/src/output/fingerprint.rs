//! The fingerprints of a former report.

use std::collections::BTreeSet;

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
