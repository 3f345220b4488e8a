//! Controls that are right, in the habits of many authors: nothing is to be said of any of them.

use crate::memory::{Memory, messages};
use crate::probe::{Probe, Said, probes};
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

#[test]
fn nothing_is_said_of_what_is_right() {
    let all: Vec<Probe> = probes();
    assert!(all.len() >= 60, "{} probes", all.len());
    let mut wrong = Vec::new();
    for probe in &all {
        let said: Vec<String> = probe.report(&[]).1.iter().map(Said::to_string).collect();
        if !said.is_empty() {
            wrong.push(format!("{}:\n    {}", probe.name, said.join("\n    ")));
        }
    }
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), all.len(), wrong.join("\n"));
}

#[test]
fn a_system_by_three_hands_is_clean() {
    let project = Memory::folder("../stilk/tests/projects/skerry").load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    assert_eq!((system.controls.len(), system.tokens.themes().len()), (10, 4));
    let written = write(system, &project.sources, Purpose::Page);
    let report = run(system, &project.sources, &written, &Settings { threads: 1, ..Settings::default() });
    let said: Vec<&String> = project.diagnostics.iter().chain(&report.findings).map(|one| &one.message).collect();
    assert_eq!(said, Vec::<&String>::new());
}

#[test]
fn one_fault_in_that_system_is_one_finding() {
    for (file, from, to, check, place) in [
        (
            "action",
            "background-color: {accent};\n",
            "background-color: {paper.raised};\n",
            "contrast/text",
            "controls/action",
        ),
        (
            "entry",
            "border: 1px solid {edge}",
            "border: 1px solid {paper.raised}",
            "contrast/boundary",
            "controls/entry",
        ),
        (
            "choice",
            "left: 4px; background-color: {accent}; visibility",
            "left: 6px; background-color: {accent}; visibility",
            "geometry/centered",
            "controls/choice",
        ),
        (
            "tab",
            "outline: {ring.width} solid {accent}; outline-offset: calc",
            "outline: 1px solid {accent}; outline-offset: calc",
            "contrast/focus",
            "controls/tab",
        ),
        ("toggle", "(52px - 16px - 2 * 4px - 2 * 2px)", "(52px - 16px - 4px)", "geometry/travel", "controls/toggle"),
        (
            "chip",
            "--tick: visible; }",
            "--tick: hidden; --ground: {paper.page}; --ink: {ink.strong}; --line: {edge}; }",
            "state/indistinct",
            "controls/chip",
        ),
        (
            "list",
            "forced-color-adjust: none;\n    @media (forced-colors: active) { background: FieldText; }\n",
            "\n",
            "reset/forced-colors",
            "controls/list",
        ),
        ("note", "@container note (", "@container not3 (", "cascade/name", "controls/note"),
        ("pick", "opacity: 1; } }", "opacity: 0; } }", "state/missing", "controls/pick"),
        (
            "more",
            "padding: {space.m} {space.l}; cursor",
            "padding: 0; font-size: 12px; line-height: 14px; cursor",
            "geometry/target",
            "controls/more",
        ),
    ] {
        let memory = Memory::folder("../stilk/tests/projects/skerry");
        let path = format!("controls/{file}.stilk");
        let sheet = String::from_utf8(memory.0[&path].clone()).expect("text");
        assert!(sheet.contains(from), "{path}: {from}");
        let project = memory.file(&path, &sheet.replacen(from, to, 1)).load();
        let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
        let written = write(system, &project.sources, Purpose::Page);
        let report = run(system, &project.sources, &written, &Settings { threads: 1, ..Settings::default() });
        let said: Vec<(&str, String)> = report
            .findings
            .iter()
            .map(|one| (one.id, one.span.map(|span| project.sources.place(span)).unwrap_or_default()))
            .collect();
        let own: Vec<_> = said.iter().filter(|(id, _)| *id == check).collect();
        assert!(!own.is_empty() && own.iter().all(|(_, at)| at.starts_with(place)), "{file}: {said:#?}");
    }
}
