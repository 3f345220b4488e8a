//! Each check on more than its own examples: what it has to tell, in which words, and where it has to be quiet.

mod cascade;
mod contrast;
mod font;
pub mod geometry;
mod markup;
mod page;
mod pages;
mod reset;
mod state;
mod token;

use crate::memory::{Memory, messages};
use stilk_checks::example::Example;
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

/// A button with a label.
const BUTTON: &str = Example::TEMPLATE;
/// The same as a button and as a link.
const PAIR: &str = "<button type=\"button\"><span part=\"label\">Book</span></button><a href=\"#\"><span part=\"label\">Book</span></a>";
/// A field with its label around it.
const FIELD: &str = "<label><span part=\"label\">Vessel</span><input part=\"native\" value=\"Kittiwake\"></label>";
/// A checkbox whose box is drawn.
const TICK: &str = "<label><span part=\"mark\"><input type=\"checkbox\" part=\"native\"></span><span part=\"label\">Dogs</span></label>";
/// A switch.
const SWITCH: &str = "<label><span part=\"track\"><input type=\"checkbox\" role=\"switch\" part=\"native\"><span part=\"thumb\"></span></span><slot>Dogs</slot></label>";

/// A project with one control and the tokens of the examples.
fn project(template: &str, body: &str) -> Memory {
    Memory::default()
        .file("stilk.toml", Example::MANIFEST)
        .file("example.tokens.json", &format!("{{{}}}", Example::TOKENS))
        .file("controls/x.html", template)
        .file("controls/x.stilk", &format!("@control x {{ {body} }}"))
}

/// What a check says of a project, how many cases it decided, and how many it could not.
fn verdict(check: &'static str, project: &Memory) -> (Vec<String>, u64, u64) {
    let project = project.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let settings = Settings { threads: 1, only: vec![check], ..Settings::default() };
    let report = run(system, &project.sources, &written, &settings);
    let noticed = project.diagnostics.iter().filter(|d| d.id == check).map(|d| d.message.clone());
    let said = noticed.chain(report.findings.iter().map(|finding| finding.message.clone())).collect();
    (said, report.decided.get(check).copied().unwrap_or_default(), report.unknown)
}

#[track_caller]
fn all_hold<'c>(cases: impl IntoIterator<Item = (&'c str, Result<(), String>)>) {
    let wrong = cases.into_iter().filter_map(|(body, verdict)| Some(format!("{body}\n    {}", verdict.err()?)));
    let wrong: Vec<String> = wrong.collect();
    assert!(wrong.is_empty(), "\n{}", wrong.join("\n"));
}

/// Each of these bodies of a control has nothing to tell, and that is known in every case.
#[track_caller]
fn passes(check: &'static str, template: &str, bodies: &[impl AsRef<str>]) {
    all_hold(bodies.iter().map(AsRef::as_ref).map(|body| match verdict(check, &project(template, body)) {
        (said, decided, 0) if said.is_empty() && decided > 0 => (body, Ok(())),
        (said, decided, unknown) => (body, Err(format!("{said:?}, {decided} decided, {unknown} unknown"))),
    }));
}

/// Each of these bodies has nothing that the check asks about.
#[track_caller]
fn asks_nothing(check: &'static str, template: &str, bodies: &[impl AsRef<str>]) {
    all_hold(bodies.iter().map(AsRef::as_ref).map(|body| match verdict(check, &project(template, body)) {
        (said, 0, 0) if said.is_empty() => (body, Ok(())),
        (said, decided, unknown) => (body, Err(format!("{said:?}, {decided} decided, {unknown} unknown"))),
    }));
}

/// Each of these bodies has one finding, with these words in it.
#[track_caller]
fn fails(check: &'static str, template: &str, bodies: &[(impl AsRef<str>, &str)]) {
    all_hold(bodies.iter().map(|(body, words)| (body.as_ref(), words)).map(|(body, words)| {
        match verdict(check, &project(template, body)) {
            (said, ..) if said.len() == 1 && said[0].contains(words) => (body, Ok(())),
            (said, ..) => (body, Err(format!("{said:?} instead of one with `{words}`"))),
        }
    }));
}

/// Each of these bodies leaves cases in which nobody can know.
#[track_caller]
fn leaves_open(check: &'static str, template: &str, bodies: &[impl AsRef<str>]) {
    all_hold(bodies.iter().map(AsRef::as_ref).map(|body| match verdict(check, &project(template, body)) {
        (said, _, unknown) if said.is_empty() && unknown > 0 => (body, Ok(())),
        (said, decided, unknown) => (body, Err(format!("{said:?}, {decided} decided, {unknown} unknown"))),
    }));
}
