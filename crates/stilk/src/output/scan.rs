//! What a scan of pages found.

use super::{count, grouped, terminal, unknown_in, wrapped};
use crate::say::in_line;
use serde_json::{Value, json};
use std::path::Path;
use stilk_checks::report::Report;
use stilk_checks::scan::Gathered;
use stilk_language::system::System;
use stilk_text::source::Sources;

/// Columns of a terminal.
const WIDTH: usize = 80;

/// So many pages are listed.
const PAGES: usize = 10;

/// Prints findings, then what is used, then the pages with most findings.
pub fn print(system: &System, report: &Report, sources: &Sources, gathered: &Gathered, quiet: bool) {
    put!("{}", terminal::render_some(&report.findings, sources, Path::new(".")));
    if !quiet {
        put!("{}", usage(system, gathered));
    }
    if gathered.by_page.len() > 1 {
        say!("Pages with most findings");
        for (page, findings) in gathered.by_page.iter().take(PAGES) {
            say!("  {:>6}  {page}", grouped(*findings));
        }
        if gathered.by_page.len() > PAGES {
            say!("          and {} more pages", gathered.by_page.len() - PAGES);
        }
        say!("");
    }
    if !quiet {
        outside(gathered);
    }
    for (reason, cases) in &report.reasons {
        say!("{}", unknown_in(*cases, "control", reason));
    }
    say!("{}", summary(report, gathered));
}

/// What a survey would add.
fn outside(gathered: &Gathered) {
    let (controls, pages) = gathered.outside;
    if controls == 0 {
        return;
    }
    let are = if controls == 1 { "is" } else { "are" };
    let words = format!(
        "{} on {} {are} none of the system's: `stilk survey` of these pages says how they look and what is wrong with them",
        count(controls, "control"),
        count(pages, "page")
    );
    wrapped(&words, WIDTH).iter().for_each(|line| say!("{line}"));
    say!("");
}

/// The last line: how much was looked at, what was found.
pub fn summary(report: &Report, gathered: &Gathered) -> String {
    let findings = match report.findings.len() as u64 {
        0 if !gathered.unreadable.is_empty() => "nothing found in those that could be read".to_owned(),
        0 => "nothing to mend".to_owned(),
        n => count(n, "finding"),
    };
    let unknown = match report.unknown {
        0 => "none unknown".to_owned(),
        n => format!("{} unknown", count(n, "verdict")),
    };
    let pages = count(gathered.pages, "page");
    let controls = count(gathered.usage.controls(), "control");
    let on = if gathered.with_controls == gathered.pages {
        String::new()
    } else {
        format!(" on {} of them", grouped(gathered.with_controls))
    };
    let unread = match gathered.unreadable.len() as u64 {
        0 => String::new(),
        n => format!(", {} not read", grouped(n)),
    };
    format!("{pages}{unread}, {controls}{on} looked at, {unknown}: {findings}")
}

/// What could not be read or had: each once, in the order of names.
pub fn tell_missing(gathered: &Gathered) {
    for (page, why) in &gathered.unreadable {
        tell!("error: `{page}` cannot be read: {why}");
    }
    for ((address, why), pages) in &gathered.missing {
        tell!("warning: `{}` cannot be had: {why}; {} it", in_line(address), links(*pages));
    }
}

fn links(pages: u64) -> String {
    match pages {
        1 => "1 page links".to_owned(),
        n => format!("{} link", count(n, "page")),
    }
}

fn usage(system: &System, gathered: &Gathered) -> String {
    if gathered.usage.controls() == 0 {
        return "No page uses the system.\n\n".to_owned();
    }
    let mut text = String::from("What is used\n");
    let mut rows: Vec<(u64, usize)> = gathered.usage.by_control.iter().map(|(index, count)| (*count, *index)).collect();
    rows.sort_by(|a, b| b.cmp(a).then(a.1.cmp(&b.1)));
    let widest = rows.iter().map(|(_, index)| system.controls[*index].name.value.len()).max().unwrap_or_default();
    for (times, index) in rows {
        let control = &system.controls[index];
        let mut options: Vec<(u64, String)> = Vec::new();
        for ((of, axis, option), times) in &gathered.usage.options {
            let is_default = control.axes.get(*axis).is_some_and(|axis| axis.default == Some(*option));
            if *of == index && !is_default {
                options.push((*times, control.axes[*axis].options[*option].value.clone()));
            }
        }
        options.sort_by(|a, b| b.0.cmp(&a.0).then(a.1.cmp(&b.1)));
        let states = gathered.usage.states.iter().filter(|((of, _), _)| *of == index);
        let said = options.iter().map(|(times, name)| format!("{name} {times}"));
        let said: Vec<String> = said.chain(states.map(|((_, state), times)| format!(":{state} {times}"))).collect();
        let mut lines = wrapped(&said.join(", "), WIDTH - widest - 12).into_iter();
        text.push_str(
            &format!("  {:>6}  {:widest$}  {}\n", grouped(times), control.name.value, lines.next().unwrap_or_default())
                .replace("  \n", "\n"),
        );
        for line in lines {
            text.push_str(&format!("  {:6}  {:widest$}  {line}\n", "", ""));
        }
    }
    let unused = gathered.usage.unused(system);
    if !unused.is_empty() {
        text.push_str("Not used\n");
        for line in wrapped(&unused.join(", "), WIDTH - 2) {
            text.push_str(&format!("  {line}\n"));
        }
    }
    text.push('\n');
    text
}

/// What is used, as Markdown.
pub fn markdown(system: &System, gathered: &Gathered) -> String {
    let mut text = String::from("\n| control | used | options |\n|---|---:|---|\n");
    for (index, times) in &gathered.usage.by_control {
        let control = &system.controls[*index];
        let options = gathered
            .usage
            .options
            .iter()
            .filter(|((of, axis, option), _)| of == index && control.axes[*axis].default != Some(*option));
        let said: Vec<String> = options
            .map(|((_, axis, option), times)| format!("{} {times}", control.axes[*axis].options[*option].value))
            .collect();
        text.push_str(&format!("| {} | {times} | {} |\n", control.name.value, said.join(", ")));
    }
    text
}

/// What is used, and findings by page, for programs.
pub fn json(system: &System, gathered: &Gathered) -> Value {
    let controls: Vec<Value> = gathered
        .usage
        .by_control
        .iter()
        .map(|(index, times)| {
            let control = &system.controls[*index];
            let options = gathered.usage.options.iter().filter(|((of, ..), _)| of == index);
            let options: serde_json::Map<String, Value> = options
                .map(|((_, axis, option), times)| (control.axes[*axis].options[*option].value.clone(), (*times).into()))
                .collect();
            let states = gathered.usage.states.iter().filter(|((of, _), _)| of == index);
            let states: serde_json::Map<String, Value> =
                states.map(|((_, state), times)| ((*state).to_owned(), (*times).into())).collect();
            json!({ "control": control.name.value, "used": times, "options": options, "states": states })
        })
        .collect();
    let pages: Vec<Value> =
        gathered.by_page.iter().map(|(page, findings)| json!({ "page": page, "findings": findings })).collect();
    let mut unused = gathered.usage.unused(system);
    unused.sort();
    json!({
        "pages": gathered.pages,
        "pagesWithControls": gathered.with_controls,
        "controls": controls,
        "variants": gathered.usage.variants,
        "unused": unused,
        "outside": { "controls": gathered.outside.0, "pages": gathered.outside.1 },
        "findingsByPage": pages,
        "unreadable": gathered.unreadable.iter().map(|(page, why)| json!({ "page": page, "why": why })).collect::<Vec<_>>(),
        "missing": gathered.missing.iter().map(|((address, why), pages)| {
            json!({ "stylesheet": address, "why": why, "pages": pages })
        }).collect::<Vec<_>>(),
    })
}
