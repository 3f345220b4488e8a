//! Runs with a memory say what runs without say, edit after edit.

use crate::memory::Memory as Texts;
use fastrand::Rng;
use std::collections::BTreeMap;
use stilk_checks::registry;
use stilk_checks::report::Report;
use stilk_checks::run::memory::Memory;
use stilk_checks::run::{run, run_again};
use stilk_checks::settings::Settings;
use stilk_language::project::Project;
use stilk_language::stylesheet::{Purpose, write};

/// The texts of a project of this repository.
fn texts_of(folder: &str) -> BTreeMap<String, String> {
    let files = Texts::folder(folder).0.into_iter();
    files.filter_map(|(path, bytes)| Some((path, String::from_utf8(bytes).ok()?))).collect()
}

fn load(texts: &BTreeMap<String, String>) -> Project {
    registry::load(&Texts(texts.iter().map(|(path, text)| (path.clone(), text.clone().into_bytes())).collect()))
}

/// Everything that a report says, in words.
fn told(report: &Report) -> String {
    let mut text = format!(
        "{} cases, {} computed, {} unknown, {} waived\n{:?}\n{:?}\n{:?}\n{:?}\n",
        report.cases,
        report.computed,
        report.unknown,
        report.waived,
        report.decided,
        report.reasons,
        report.doubts,
        report.sampled
    );
    for finding in &report.findings {
        text.push_str(&format!("{finding:?}\n"));
    }
    text
}

/// One edit of a kind that people make, somewhere in a project.
fn edit(texts: &mut BTreeMap<String, String>, random: &mut Rng) {
    let names: Vec<String> = texts.keys().cloned().collect();
    let name = &names[random.usize(..names.len())];
    let text = texts[name].clone();
    let mut lines: Vec<String> = text.lines().map(str::to_owned).collect();
    if lines.is_empty() {
        return;
    }
    let at = random.usize(..lines.len());
    match random.u8(..8) {
        // Another number.
        0..=3 => {
            let digits: Vec<usize> = text.match_indices(|c: char| c.is_ascii_digit()).map(|(at, _)| at).collect();
            if digits.is_empty() {
                return;
            }
            let digit = digits[random.usize(..digits.len())];
            let mut changed = text.clone();
            changed.replace_range(digit..=digit, &random.u8(..10).to_string());
            texts.insert(name.clone(), changed);
            return;
        }
        // A line less, a line twice, two lines the other way round, a line more.
        4 => drop(lines.remove(at)),
        5 => lines.insert(at, lines[at].clone()),
        6 => {
            let other = random.usize(..lines.len());
            lines.swap(at, other);
        }
        _ if name.ends_with(".stilk") => lines.insert(at, "/* said */".to_owned()),
        // Another token where one is named.
        _ => {
            let references: Vec<(usize, usize)> = text
                .match_indices("\"{")
                .filter_map(|(open, _)| Some((open, open + text[open..].find("}\"")?)))
                .collect();
            if references.len() < 2 {
                return;
            }
            let (to, from) =
                (references[random.usize(..references.len())], references[random.usize(..references.len())]);
            let new = text[from.0..from.1].to_owned();
            let mut changed = text.clone();
            changed.replace_range(to.0..to.1, &new);
            texts.insert(name.clone(), changed);
            return;
        }
    }
    texts.insert(name.clone(), lines.join("\n") + "\n");
}

/// Edits a project so many times; every sound state of it is judged with the memory of those before and without.
fn hold(folder: &str, edits: usize, seed: u64) {
    let mut random = Rng::with_seed(seed);
    let first = texts_of(folder);
    let mut texts = first.clone();
    let mut memory = Memory::default();
    let settings = Settings { threads: 2, today: Some("2026-01-01".to_owned()), ..Settings::default() };
    let (mut judged, mut recalled) = (0, 0);
    for number in 0..edits {
        let before = texts.clone();
        edit(&mut texts, &mut random);
        let project = load(&texts);
        let Some(system) = &project.system else {
            // What cannot be read is put back, now and then the whole project.
            texts = if random.u8(..20) == 0 { first.clone() } else { before };
            continue;
        };
        let written = write(system, &project.sources, Purpose::Page);
        let again = run_again(system, &project.sources, &written, &settings, &mut memory);
        recalled += memory.recalled();
        let anew = run(system, &project.sources, &written, &settings);
        let (again, anew) = (told(&again), told(&anew));
        if again != anew {
            let line = again.lines().zip(anew.lines()).find(|(again, anew)| again != anew);
            panic!("{folder}, seed {seed}, edit {number}: {line:?}");
        }
        judged += 1;
    }
    assert!(judged > edits / 4 && recalled > judged, "{folder}: {judged} of {edits} judged, {recalled} recalled");
}

fn is_full() -> bool {
    std::env::var_os("STILK_FULL").is_some()
}

fn seed() -> u64 {
    std::env::var("STILK_SEED").ok().and_then(|seed| seed.parse().ok()).unwrap_or(7)
}

#[test]
fn small_controls_are_recalled_only_where_nothing_changed_for_them() {
    hold("../stilk/tests/projects/quay", if is_full() { 2000 } else { 20 }, seed());
}

#[test]
fn controls_of_several_hands_are_as_well() {
    hold("../stilk/tests/projects/skerry", if is_full() { 300 } else { 6 }, seed());
}

#[test]
fn the_sample_is_as_well() {
    if is_full() {
        hold("../../demo/ternhaven", 100, seed());
    }
}
