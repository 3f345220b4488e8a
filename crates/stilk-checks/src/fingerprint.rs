//! What makes a finding the same finding in another run: its check, its file and its words without the figures. Lines
//! move, and figures change with every nudge.

use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::Sources;

/// A finding's fingerprint.
pub fn fingerprint(finding: &Diagnostic, sources: &Sources) -> String {
    let file = finding.span.map_or("", |span| sources.file(span.file).path.as_str());
    let words: String = finding.message.chars().filter(|c| !c.is_ascii_digit() && *c != '.').collect();
    format!("{} {file} {words}", finding.id)
}
