//! A report as JUnit XML, for what shows test results: a suite a check, in it a case a finding. A check that found nothing is
//! one case that passed; what it could not decide is a case that was skipped.

use crate::disk::shown;
use quick_junit::{NonSuccessKind, TestCase, TestCaseStatus, TestSuite};
use std::collections::BTreeSet;
use std::path::Path;
use stilk_checks::registry;
use stilk_checks::report::{Doubt, Report};
use stilk_survey::fault::KINDS;
use stilk_text::diagnostic::{Diagnostic, Evidence};
use stilk_text::source::Sources;

/// The report.
pub fn render(report: &Report, sources: &Sources, root: &Path) -> String {
    written(report, sources, root, NonSuccessKind::Failure)
}

/// Why there is no report: errors, not failures.
pub fn render_failed(report: &Report, sources: &Sources, root: &Path) -> String {
    written(report, sources, root, NonSuccessKind::Error)
}

fn written(report: &Report, sources: &Sources, root: &Path, kind: NonSuccessKind) -> String {
    let mut suites = quick_junit::Report::new("stilk");
    let asked = report.decided.keys().copied().chain(report.doubts.iter().map(|doubt| doubt.check));
    // Of pages it is told by check alone what is unknown, not by control.
    let by_check = || report.reasons.iter().filter_map(|(key, count)| Some((key.split_once(": ")?, *count)));
    let asked = asked.chain(by_check().map(|((id, _), _)| id));
    let ids: BTreeSet<&str> = asked.chain(report.findings.iter().map(|finding| finding.id)).collect();
    for id in ids {
        let mut suite = TestSuite::new(id);
        for finding in report.findings.iter().filter(|finding| finding.id == id) {
            suite.add_test_case(failed(finding, sources, root, kind));
        }
        let doubts: Vec<&Doubt> = report.doubts.iter().filter(|doubt| doubt.check == id).collect();
        for doubt in &doubts {
            suite.add_test_case(skipped(doubt, sources, root));
        }
        for ((_, reason), count) in by_check().filter(|((of, _), _)| *of == id && doubts.is_empty()) {
            let mut status = TestCaseStatus::skipped();
            status.set_message(format!("unknown in {}: {reason}", super::count(count, "case")));
            suite.add_test_case(case(id, reason, status));
        }
        if suite.test_cases.is_empty() {
            suite.add_test_case(case(id, holds(id), TestCaseStatus::success()));
        }
        suites.add_test_suite(suite);
    }
    // Writing to memory does not fail.
    let text = suites.to_string().unwrap_or_default();
    // The schema that servers go by counts what was skipped by suite alone.
    let skipped: usize = suites.test_suites.iter().map(|suite| suite.skipped).sum();
    text.replacen(&format!(" skipped=\"{skipped}\""), "", 1)
}

/// What holds where a check finds nothing.
fn holds(id: &str) -> &str {
    let foreign = || KINDS.iter().find(|kind| kind.id == id).map(|kind| kind.summary);
    registry::find(id).map(|check| check.summary).or_else(foreign).unwrap_or(id)
}

fn case(id: &str, name: &str, status: TestCaseStatus) -> TestCase {
    let mut case = TestCase::new(name, status);
    case.set_classname(id);
    case
}

fn failed(finding: &Diagnostic, sources: &Sources, root: &Path, kind: NonSuccessKind) -> TestCase {
    let place = finding.span.map(|span| {
        let position = sources.position(span);
        format!("{}:{}:{}", shown(root, &sources.file(span.file).path), position.line, position.column)
    });
    let evidence = finding.evidence.as_ref().and_then(Evidence::words);
    let mend = finding.mend.as_ref().map(|mend| format!("mend: {mend}"));
    let words: Vec<String> = place.clone().into_iter().chain(evidence).chain(mend).collect();
    let mut status = TestCaseStatus::non_success(kind);
    status.set_type(finding.level.word()).set_message(&finding.message).set_description(words.join("\n"));
    case(finding.id, &place.unwrap_or_else(|| finding.message.clone()), status)
}

fn skipped(doubt: &Doubt, sources: &Sources, root: &Path) -> TestCase {
    let position = sources.position(doubt.span);
    let place = format!("{}:{}", shown(root, &sources.file(doubt.span.file).path), position.line);
    let mut status = TestCaseStatus::skipped();
    status.set_message(format!("unknown in {}: {}", super::count(doubt.cases, "case"), doubt.reason));
    case(doubt.check, &format!("{} ({place})", doubt.case), status)
}
