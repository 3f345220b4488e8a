//! A report as SARIF 2.1.0 (OASIS), for code hosts and editors.

use super::fingerprint::fingerprint;
use crate::disk::shown;
use serde_json::{Value, json};
use std::path::Path;
use stilk_core::check::{CHECKS, Report};
use stilk_core::diagnostic::{Diagnostic, Evidence, Level};
use stilk_core::source::{Sources, Span};

/// The report, pretty-printed.
pub fn render(report: &Report, sources: &Sources, root: &Path) -> String {
    let rules: Vec<Value> = CHECKS
        .iter()
        .map(|check| {
            json!({
                "id": check.id,
                "shortDescription": { "text": check.summary },
                "fullDescription": { "text": check.why },
                "help": { "text": format!("{}\nSource: {}", check.mend, check.source) },
                "defaultConfiguration": { "level": level(check.level) },
            })
        })
        .collect();
    let results: Vec<Value> = report.findings.iter().map(|finding| result(finding, sources, root)).collect();
    let value = json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "stilk", "version": env!("CARGO_PKG_VERSION"), "rules": rules } },
            "columnKind": "unicodeCodePoints",
            "results": results,
        }],
    });
    format!("{value:#}\n")
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
        text.push_str(&format!(". {mend}"));
    }
    let mut result = json!({
        "ruleId": finding.id,
        "level": level(finding.level),
        "message": { "text": text },
        "locations": finding.span.iter().map(|span| location(*span, &finding.label, sources, root)).collect::<Vec<_>>(),
        "partialFingerprints": { "stilk/v1": fingerprint(finding, sources) },
    });
    if let Some(index) = CHECKS.iter().position(|check| check.id == finding.id) {
        result["ruleIndex"] = json!(index);
    }
    if !finding.related.is_empty() {
        let related = finding.related.iter().map(|related| location(related.span, &related.label, sources, root));
        result["relatedLocations"] = related.collect();
    }
    result
}

fn location(span: Span, label: &str, sources: &Sources, root: &Path) -> Value {
    let position = sources.position(span);
    let mut location = json!({
        "physicalLocation": {
            "artifactLocation": { "uri": shown(root, &sources.file(span.file).path).replace('\\', "/").replace(' ', "%20") },
            "region": { "startLine": position.line, "startColumn": position.column },
        },
    });
    if !label.is_empty() {
        location["message"] = json!({ "text": label });
    }
    location
}
