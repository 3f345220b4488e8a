//! Pages with controls of the small system of the examples: what is wrong with their markup, and with what they do to it.

use crate::memory::{Memory, messages};

use stilk_checks::registry::find;

use stilk_checks::scan::{Scanner, Worker};

use stilk_language::stylesheet::{Purpose, write};

/// A button of the system.
pub const BUTTON: &str =
    "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>";

/// What a check says of pages with these bodies, each with how often it decided.
pub fn said(check: &'static str, bodies: &[&str]) -> Vec<(Vec<String>, u64)> {
    let page = |body: &&str| {
        format!(
            "<!doctype html><html lang=\"en\"><title>Ferries</title><link rel=\"stylesheet\" href=\"dist/example.css\"><body>{}",
            body.replace("BUTTON", BUTTON)
        )
    };
    of_pages(check, &bodies.iter().map(page).collect::<Vec<_>>())
}

/// The same of whole pages.
pub fn of_pages(check: &'static str, pages: &[String]) -> Vec<(Vec<String>, u64)> {
    of_project(check, &of_example(check), pages)
}

/// The project that the check's own examples are of, without their page.
pub fn of_example(check: &'static str) -> Memory {
    let example = find(check).expect("a check").passes;
    let files = example.files().into_iter().filter(|(path, _)| path != "page.html");
    Memory(files.map(|(path, text)| (path, text.into_bytes())).collect())
}

/// What a check says of whole pages of a project.
pub fn of_project(check: &'static str, memory: &Memory, pages: &[String]) -> Vec<(Vec<String>, u64)> {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let scanner = Scanner::new(system, &written, vec!["example.css".into()]);
    let mut worker = Worker::new(&scanner);
    let mut of = |page: &String| {
        let report = worker.scan("page.html", page, &mut |_, _, _| Err("it is not there".into()));
        let found = report.found.iter().filter(|(_, finding)| finding.id == check);
        let decided = report.decided.get(check).copied().unwrap_or_default();
        (found.map(|(_, finding)| finding.message.clone()).collect(), decided)
    };
    pages.iter().map(&mut of).collect()
}

/// The check tells nothing of these pages, and looked at something in each.
#[track_caller]
pub fn passes(check: &'static str, bodies: &[&str]) {
    let verdicts = bodies.iter().zip(said(check, bodies));
    super::all_hold(verdicts.map(|(body, verdict)| match verdict {
        (said, decided) if said.is_empty() && decided > 0 => (*body, Ok(())),
        verdict => (*body, Err(format!("{verdict:?}"))),
    }));
}

/// The check tells one thing of each of these pages, in these words.
#[track_caller]
pub fn fails(check: &'static str, cases: &[(&str, &str)]) {
    let bodies: Vec<&str> = cases.iter().map(|(body, _)| *body).collect();
    let verdicts = cases.iter().zip(said(check, &bodies));
    super::all_hold(verdicts.map(|((body, words), (said, _))| match said.as_slice() {
        [one] if one.contains(words) => (*body, Ok(())),
        _ => (*body, Err(format!("{said:?} instead of one with `{words}`"))),
    }));
}
