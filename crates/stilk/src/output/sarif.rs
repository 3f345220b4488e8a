//! A report as SARIF 2.1.0 (OASIS), for code hosts and editors.

use crate::disk::shown;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::path::Path;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::registry::CHECKS;
use stilk_checks::report::Report;
use stilk_survey::fault::KINDS;
use stilk_text::diagnostic::{Diagnostic, Edit, Evidence, Level};
use stilk_text::source::{FileId, Sources, Span};

/// The report, pretty-printed.
pub fn render(report: &Report, sources: &Sources, root: &Path) -> String {
    log(report, sources, root, true)
}

/// Why there is no report.
pub fn render_failed(report: &Report, sources: &Sources, root: &Path) -> String {
    log(report, sources, root, false)
}

fn log(report: &Report, sources: &Sources, root: &Path, ran: bool) -> String {
    let of_checks = CHECKS.iter().map(|c| rule(c.id, c.summary, c.why, &[c.mend, c.source], c.level));
    let of_foreign = KINDS.iter().map(|k| rule(k.id, k.summary, k.why, &[k.mend, k.source], k.level));
    let rules: Vec<Value> = of_checks.chain(of_foreign).collect();
    let results: Vec<Value> = report.findings.iter().map(|finding| result(finding, sources, root)).collect();
    let value = json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "stilk", "version": env!("CARGO_PKG_VERSION"), "rules": rules } },
            "columnKind": "unicodeCodePoints",
            "invocations": [{ "executionSuccessful": ran }],
            "results": results,
        }],
    });
    format!("{value:#}\n")
}

fn rule(id: &str, summary: &str, why: &str, [mend, source]: &[&str; 2], default: Level) -> Value {
    json!({
        "id": id,
        "shortDescription": { "text": summary },
        "fullDescription": { "text": why },
        "help": { "text": format!("{mend}\nSource: {source}") },
        "defaultConfiguration": { "level": level(default) },
    })
}

fn level(level: Level) -> &'static str {
    match level {
        Level::Error => "error",
        Level::Warning => "warning",
        Level::Note => "note",
    }
}

fn result(finding: &Diagnostic, sources: &Sources, root: &Path) -> Value {
    let mut text = finding.message.clone();
    if let Some(words) = finding.evidence.as_ref().and_then(Evidence::words) {
        text.push_str(&format!(". {words}"));
    }
    if let Some(mend) = &finding.mend {
        text.push_str(&format!(". Mend: {mend}"));
    }
    let mut result = json!({
        "ruleId": finding.id,
        "level": level(finding.level),
        "message": { "text": text },
        "locations": finding.span.iter().map(|span| location(*span, &finding.label, sources, root)).collect::<Vec<_>>(),
        "partialFingerprints": { "stilk/v1": fingerprint(finding, sources) },
    });
    let mut ids = CHECKS.iter().map(|check| check.id).chain(KINDS.iter().map(|kind| kind.id));
    if let Some(index) = ids.position(|id| id == finding.id) {
        result["ruleIndex"] = json!(index);
    }
    if !finding.related.is_empty() {
        let related = finding.related.iter().map(|related| location(related.span, &related.label, sources, root));
        result["relatedLocations"] = related.collect();
    }
    let first = finding.mend.iter().map(|mend| (mend, &finding.edits));
    let others = finding.proposals.iter().map(|proposal| (&proposal.words, &proposal.edits));
    let fixes: Vec<Value> = first
        .chain(others)
        .filter(|(_, edits)| !edits.is_empty())
        .map(|(mend, edits)| {
            json!({ "description": { "text": mend }, "artifactChanges": changes(edits, sources, root) })
        })
        .collect();
    if !fixes.is_empty() {
        result["fixes"] = Value::Array(fixes);
    }
    result
}

/// What to replace, by file.
fn changes(edits: &[Edit], sources: &Sources, root: &Path) -> Vec<Value> {
    let mut by_file: BTreeMap<FileId, Vec<Value>> = BTreeMap::new();
    for edit in edits {
        let replacement = json!({
            "deletedRegion": region(edit.span, sources),
            "insertedContent": { "text": edit.text },
        });
        by_file.entry(edit.span.file).or_default().push(replacement);
    }
    let change = |(file, replacements)| json!({ "artifactLocation": artifact(file, sources, root), "replacements": replacements });
    by_file.into_iter().map(change).collect()
}

fn artifact(file: FileId, sources: &Sources, root: &Path) -> Value {
    json!({ "uri": shown(root, &sources.file(file).path).replace('\\', "/").replace(' ', "%20") })
}

/// From its first character to the one after its last.
fn region(span: Span, sources: &Sources) -> Value {
    let (start, end) = (sources.position(span), sources.position(span.end()));
    json!({
        "startLine": start.line,
        "startColumn": start.column,
        "endLine": end.line,
        "endColumn": end.column,
    })
}

fn location(span: Span, label: &str, sources: &Sources, root: &Path) -> Value {
    let mut location = json!({
        "physicalLocation": {
            "artifactLocation": artifact(span.file, sources, root),
            "region": region(span, sources),
        },
    });
    if !label.is_empty() {
        location["message"] = json!({ "text": label });
    }
    location
}
