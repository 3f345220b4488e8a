//! How good the word of each check is, counted and written into docs/accuracy.md: faults that were planted, controls that are
//! right, and how much of real systems is unknown.

use crate::examples::said;
use crate::memory::Memory;
use crate::planted::{Outcome, faults};
use crate::probe::probes;
use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::Path;
use stilk_checks::registry::CHECKS;
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

/// What was counted of one check.
#[derive(Default)]
struct Count {
    found: usize,
    elsewhere: usize,
    missed: usize,
    right: usize,
    alarms: usize,
    decided: u64,
    unknown: u64,
}

const SYSTEMS: [&str; 3] = ["../../demo/ternhaven", "../stilk/starter", "../stilk/tests/projects/quay"];

fn counts() -> (BTreeMap<&'static str, Count>, BTreeMap<String, u64>) {
    let mut counts: BTreeMap<&'static str, Count> = CHECKS.iter().map(|c| (c.id, Count::default())).collect();
    let probes = probes();
    for fault in faults() {
        // What the language itself refuses is no matter of a check.
        let Some(count) = counts.get_mut(fault.check.as_str()) else { continue };
        match fault.outcome(&probes).0 {
            Outcome::Found => count.found += 1,
            Outcome::Elsewhere => count.elsewhere += 1,
            Outcome::Missed => count.missed += 1,
        }
    }
    for probe in &probes {
        let (report, said) = probe.report(&[]);
        for (check, count) in &mut counts {
            count.right += usize::from(report.decided.get(check).is_some_and(|decided| *decided > 0));
            count.alarms += said.iter().filter(|one| one.id == *check).count();
        }
    }
    // A check's own examples are a fault and a right one each.
    for check in CHECKS {
        let count = counts.get_mut(check.id).expect("every check is counted");
        match said(check, &check.fails).0.is_empty() {
            true => count.missed += 1,
            false => count.found += 1,
        }
        let (alarms, decided) = said(check, &check.passes);
        count.right += usize::from(decided > 0);
        count.alarms += alarms.len();
    }
    let mut reasons: BTreeMap<String, u64> = BTreeMap::new();
    for folder in SYSTEMS {
        let project = Memory::folder(folder).load();
        let system = project.system.as_ref().expect("it loads");
        let written = write(system, &project.sources, Purpose::Page);
        let settings = Settings { without_mends: true, ..Settings::default() };
        let report = run(system, &project.sources, &written, &settings);
        for (check, decided) in &report.decided {
            counts.get_mut(check).expect("a check").decided += decided;
        }
        for (reason, cases) in report.reasons {
            let check = reason.split(": ").next().unwrap_or_default();
            counts.get_mut(check).expect("a check").unknown += cases;
            *reasons.entry(reason).or_default() += cases;
        }
    }
    (counts, reasons)
}

fn page() -> String {
    let (counts, reasons) = counts();
    let mut text = String::from(
        "# How good a check's word is\n\nWritten by `STILK_FIGURES=1 cargo test -p stilk-checks --test checks accuracy`, and held to by every run of the tests.\n\n\
         *Planted* are faults that people make, each in a control that is right (`crates/stilk-checks/tests/checks/planted/`), and \
         the failing example of the check: *found* at the place that a person would edit, *elsewhere*, or *missed*. *Right* are \
         controls in the habits of many authors (`crates/stilk-checks/tests/checks/right/`) that gave the check something to decide, \
         and its passing example; *false alarms* is what was said of them. *Unknown* is the share of verdicts that there are none of in \
         the sample, the starter and the small system of the tests together.\n\n\
         | check | planted | found | elsewhere | missed | right | false alarms | unknown |\n|---|---:|---:|---:|---:|---:|---:|---:|\n",
    );
    let mut all = Count::default();
    let percent = |count: &Count| match count.decided + count.unknown {
        0 => "–".to_owned(),
        whole => format!("{:.2}%", count.unknown as f64 * 100.0 / whole as f64),
    };
    let mut row = |name: &str, count: &Count| {
        let planted = count.found + count.elsewhere + count.missed;
        let Count { found, elsewhere, missed, right, alarms, .. } = count;
        let unknown = percent(count);
        let _ = writeln!(
            text,
            "| {name} | {planted} | {found} | {elsewhere} | {missed} | {right} | {alarms} | {unknown} |"
        );
    };
    for (check, count) in &counts {
        row(check, count);
        all.found += count.found;
        all.elsewhere += count.elsewhere;
        all.missed += count.missed;
        all.right += count.right;
        all.alarms += count.alarms;
        all.decided += count.decided;
        all.unknown += count.unknown;
    }
    row("**all**", &all);
    text.push_str("\nWhat is unknown there, and why:\n\n| check and reason | verdicts |\n|---|---:|\n");
    for (reason, cases) in reasons {
        let _ = writeln!(text, "| {reason} | {cases} |");
    }
    text
}

#[test]
fn accuracy_is_as_the_docs_say() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/accuracy.md");
    let page = page();
    if std::env::var_os("STILK_FIGURES").is_some() {
        std::fs::write(&path, &page).expect("docs/accuracy.md");
    }
    let docs = std::fs::read_to_string(path).unwrap_or_default();
    // Line by line: whoever changes a check sees which.
    let changed: Vec<&str> = page.lines().filter(|line| !docs.lines().any(|known| known == *line)).collect();
    assert!(changed.is_empty() && docs == page, "docs/accuracy.md says otherwise:\n{}", changed.join("\n"));
    let counted: usize = faults().len() + CHECKS.len();
    assert!(counted >= 150, "{counted} faults are planted");
}
