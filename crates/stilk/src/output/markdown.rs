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
            inline(&format!(" · `{}:{}`", shown(root, &sources.file(span.file).path), position.line))
        });
        text.push_str(&format!("- **{}** {}{place}\n", finding.level.word(), inline(&finding.message)));
        if let Some(words) = finding.evidence.as_ref().and_then(Evidence::words) {
            text.push_str(&format!("  {}\n", inline(&words)));
        }
        if let Some(mend) = &finding.mend {
            text.push_str(&format!("  → {}\n", inline(mend)));
        }
    }
    if !report.reasons.is_empty() {
        // A pull request is read for what is wrong: this is there for whoever asks.
        let verdicts = count(report.unknown, "verdict");
        text.push_str(&format!("\n<details><summary>{verdicts} unknown</summary>\n\n"));
        for (reason, cases) in &report.reasons {
            text.push_str(&format!("- {}: {}\n", count(*cases, "case"), inline(reason)));
        }
        text.push_str("\n</details>\n");
    }
    text
}

/// A message as Markdown (CommonMark 0.31, sections 6.1, 6.6): what stands in backticks is code, and nothing becomes a tag or
/// a link.
pub fn inline(text: &str) -> String {
    let escaped = |text: &str| text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;");
    let parts: Vec<&str> = text.split('`').collect();
    let mut written = String::with_capacity(text.len());
    for (index, part) in parts.iter().enumerate() {
        // A backtick that is never closed is one.
        let is_code = index % 2 == 1 && index + 1 < parts.len();
        let part = part.replace(['\n', '\r'], " ");
        match is_code {
            // In a code span nothing can be escaped.
            true if part.contains('<') => written.push_str(&format!("<code>{}</code>", escaped(&part))),
            true => written.push_str(&format!("`{part}`")),
            false => {
                if index % 2 == 1 {
                    written.push_str("\\`");
                }
                written.push_str(&escaped(&part).replace('[', "\\["));
            }
        }
    }
    written
}
