//! Every check's own examples: the one that fails does, the one that passes does, and neither without being looked at.

use crate::memory::{Memory, messages};
use std::collections::BTreeSet;
use stilk_checks::check::Check;
use stilk_checks::example::Example;
use stilk_checks::registry::CHECKS;
use stilk_checks::report::Report;
use stilk_checks::run::run;
use stilk_checks::scan::{Scanner, Worker};
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

fn project(example: &Example) -> Memory {
    Memory(example.files().into_iter().map(|(path, text)| (path, text.into_bytes())).collect())
}

/// What is said of an example by a check, and how many cases it decided.
pub fn said(check: &Check, example: &Example) -> (Vec<String>, u64) {
    let project = project(example).load();
    let mut said: Vec<String> =
        project.diagnostics.iter().filter(|d| d.id == check.id).map(|d| d.message.clone()).collect();
    let Some(system) = project.system.as_ref() else {
        assert!(!said.is_empty(), "{}: {:?}", check.id, messages(&project));
        return (said, 1);
    };
    if let Some(page) = example.document() {
        let written = write(system, &project.sources, Purpose::Page);
        let scanner = Scanner::new(system, &written, vec!["example.css".into()]);
        let report = Worker::new(&scanner).scan("page.html", &page, &mut |_, _, _| Err("it is not there".into()));
        let found = report.found.iter().filter(|(_, finding)| finding.id == check.id);
        said.extend(found.map(|(_, finding)| finding.message.clone()));
        return (said, report.decided.get(check.id).copied().unwrap_or_default());
    }
    let report = report(system, &project.sources);
    said.extend(report.findings.iter().filter(|finding| finding.id == check.id).map(|f| f.message.clone()));
    (said, report.decided.get(check.id).copied().unwrap_or_default())
}

fn report(system: &stilk_language::system::System, sources: &stilk_text::source::Sources) -> Report {
    let written = write(system, sources, Purpose::Page);
    run(system, sources, &written, &Settings { threads: 1, today: None, ..Settings::default() })
}

#[test]
fn each_check_fails_what_fails_and_passes_what_passes() {
    let mut wrong = Vec::new();
    for check in CHECKS {
        let (fails, passes) = (said(check, &check.fails), said(check, &check.passes));
        // A button that shows one state of four lacks three.
        let wanted = if check.id == "state/missing" { 3 } else { 1 };
        if fails.0.len() != wanted {
            wrong.push(format!("{}: the failing example gives {:?} of {}", check.id, fails.0, fails.1));
        }
        if !passes.0.is_empty() || passes.1 == 0 {
            wrong.push(format!("{}: the passing example gives {:?} of {}", check.id, passes.0, passes.1));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

#[test]
fn ids_are_unique_and_sorted_by_group() {
    let ids: Vec<&str> = CHECKS.iter().map(|check| check.id).collect();
    assert_eq!(ids.iter().collect::<BTreeSet<_>>().len(), ids.len());
    for pair in CHECKS.windows(2) {
        let [a, b] = [pair[0].id, pair[1].id].map(|id| id.split_once('/').expect("group/name"));
        assert!(a.0 != b.0 || a.1 < b.1, "{} before {}", pair[0].id, pair[1].id);
    }
}

#[test]
fn the_tests_of_a_check_stand_in_a_file_of_its_name() {
    let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/checks/judged");
    let missing = CHECKS.iter().map(|check| format!("{}.rs", check.id.replace('-', "_")));
    let missing: Vec<String> = missing.filter(|path| !root.join(path).is_file()).collect();
    assert_eq!(missing, [""; 0]);
}

#[test]
fn the_readme_counts_them() {
    let commands = include_str!("../../../../docs/commands.md");
    let of_pages = CHECKS.iter().filter(|check| check.is_of_pages()).count();
    let of_systems = CHECKS.len() - of_pages;
    for words in [format!("[{of_systems} checks]"), format!("with {of_pages} checks more")] {
        assert!(commands.contains(&words), "docs/commands.md does not say {words}");
    }
}
