//! A report as JSON.

use crate::disk::shown;
use serde_json::{Value, json};
use std::path::Path;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::report::Report;
use stilk_text::diagnostic::{Diagnostic, Edit};
use stilk_text::source::{Sources, Span};

/// The schema that a report follows; its number grows when a reader would have to change.
const SCHEMA: &str = "urn:stilk:report:1";

/// The report, pretty-printed, with what a scan adds to it.
pub fn render(report: &Report, sources: &Sources, root: &Path, scan: Option<Value>) -> String {
    with(report, sources, root, scan.map(|scan| ("scan", scan)))
}

/// The same of a survey.
pub fn render_survey(report: &Report, sources: &Sources, root: &Path, survey: Value) -> String {
    with(report, sources, root, Some(("survey", survey)))
}

fn with(report: &Report, sources: &Sources, root: &Path, more: Option<(&str, Value)>) -> String {
    format!("{:#}\n", value(report, sources, root, more))
}

/// The report as a value, with what a scan or a survey adds to it by a name.
pub fn value(report: &Report, sources: &Sources, root: &Path, more: Option<(&str, Value)>) -> Value {
    let findings: Vec<Value> = report.findings.iter().map(|finding| to_value(finding, sources, root)).collect();
    let mut value = json!({
        "$schema": SCHEMA,
        "cases": report.cases,
        "computed": report.computed,
        "unknown": report.unknown,
        "reasons": report.reasons,
        "doubts": report.doubts.iter().map(|doubt| json!({
            "check": doubt.check,
            "reason": doubt.reason,
            "cases": doubt.cases,
            "case": doubt.case,
            "span": place(doubt.span, sources, root),
        })).collect::<Vec<_>>(),
        "decided": report.decided,
        "findings": findings,
        "sampled": report.sampled.iter().map(|control| json!({
            "control": control.name,
            "variants": control.variants,
            "notLookedAt": control.not_looked_at,
        })).collect::<Vec<_>>(),
    });
    if let Some((name, more)) = more {
        value[name] = more;
    }
    value
}

fn to_value(finding: &Diagnostic, sources: &Sources, root: &Path) -> Value {
    let spans: Vec<Value> = finding
        .span
        .iter()
        .chain(finding.related.iter().map(|related| &related.span))
        .map(|span| place(*span, sources, root))
        .collect();
    let evidence = finding.evidence.as_ref();
    json!({
        "check": finding.id,
        "fingerprint": fingerprint(finding, sources),
        "level": finding.level.word(),
        "message": finding.message,
        "cases": evidence.map_or(0, |e| e.cases),
        "controls": evidence.map_or(&[][..], |e| &e.controls),
        "worst": evidence.map(|e| match e.pages {
            None => format!("{}: {}", e.worst, e.figures),
            Some(_) => e.worst.clone(),
        }),
        "pages": evidence.and_then(|e| e.pages),
        "spans": spans,
        "mend": finding.mend,
        "edits": edits(&finding.edits, sources, root),
        "proposals": finding.proposals.iter().map(|proposal| json!({
            "mend": proposal.words,
            "edits": edits(&proposal.edits, sources, root),
        })).collect::<Vec<_>>(),
    })
}

fn edits(edits: &[Edit], sources: &Sources, root: &Path) -> Vec<Value> {
    let one = |edit: &Edit| {
        let (start, end) = (place(edit.span, sources, root), place(edit.span.end(), sources, root));
        json!({ "from": start, "to": end, "text": edit.text })
    };
    edits.iter().map(one).collect()
}

fn place(span: Span, sources: &Sources, root: &Path) -> Value {
    let position = sources.position(span);
    json!({
        "file": shown(root, &sources.file(span.file).path),
        "line": position.line,
        "column": position.column,
    })
}
