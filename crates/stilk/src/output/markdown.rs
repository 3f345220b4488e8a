//! A report as Markdown, for a pull request.

use super::count;
use crate::disk::shown;
use std::path::Path;
use stilk_checks::report::Report;
use stilk_text::diagnostic::Evidence;
use stilk_text::source::Sources;

/// The report, the worst first.
pub fn render(report: &Report, sources: &Sources, root: &Path, summary: &str) -> String {
    let mut text = format!("### Stilk: {summary}\n");
    let mut id = "";
    for finding in &report.findings {
        if finding.id != id {
            id = finding.id;
            text.push_str(&format!("\n#### {id}\n\n"));
        }
        let place = finding.span.map_or_else(String::new, |span| {
            let position = sources.position(span);
            format!(" · `{}:{}`", shown(root, &sources.file(span.file).path), position.line)
        });
        text.push_str(&format!("- **{}** {}{place}\n", finding.level.word(), finding.message));
        if let Some(words) = finding.evidence.as_ref().and_then(Evidence::words) {
            text.push_str(&format!("  {words}\n"));
        }
        if let Some(mend) = &finding.mend {
            text.push_str(&format!("  → {mend}\n"));
        }
    }
    if !report.reasons.is_empty() {
        // A pull request is read for what is wrong: this is there for whoever asks.
        let verdicts = count(report.unknown, "verdict");
        text.push_str(&format!("\n<details><summary>{verdicts} unknown</summary>\n\n"));
        for (reason, cases) in &report.reasons {
            text.push_str(&format!("- {}: {reason}\n", count(*cases, "case")));
        }
        text.push_str("\n</details>\n");
    }
    text
}
