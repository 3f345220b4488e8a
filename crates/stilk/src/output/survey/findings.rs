//! What is wrong: with source lines where there is little, folded where there is much.

use super::WIDTH;
use crate::output::{count, grouped, terminal, wrapped};
use crate::say::{in_line, marked};
use anstyle::{AnsiColor, Style};
use std::path::Path;
use stilk_checks::registry::CHECKS;
use stilk_survey::fault;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Sources;

/// So many are shown with their lines; of more nobody reads to the end.
const WHOLE: usize = 12;
/// So many of a kind are told where they are folded.
const EACH: usize = 3;

/// All findings.
pub fn render(findings: &[Diagnostic], sources: &Sources, whole: bool) -> String {
    match whole || findings.len() <= WHOLE {
        true => terminal::render(findings, sources, Path::new(".")),
        false => folded(findings, sources),
    }
}

/// What a kind of finding is, in a sentence.
fn summary_of(id: &str) -> &'static str {
    let check = CHECKS.iter().find(|check| check.id == id).map(|check| check.summary);
    check.or_else(|| fault::find(id).map(|kind| kind.summary)).unwrap_or_default()
}

/// By kind, those that matter most first; of each the worst, and how many more there are.
fn folded(findings: &[Diagnostic], sources: &Sources) -> String {
    let mut kinds: Vec<(&str, Vec<&Diagnostic>)> = Vec::new();
    for finding in findings {
        match kinds.iter_mut().find(|(id, _)| *id == finding.id) {
            Some((_, list)) => list.push(finding),
            None => kinds.push((finding.id, vec![finding])),
        }
    }
    let cases = |finding: &Diagnostic| finding.evidence.as_ref().map_or(1, |evidence| evidence.cases);
    let all = |list: &[&Diagnostic]| list.iter().map(|finding| cases(finding)).sum::<u64>();
    // What is found the same for many is said first, within one level.
    kinds.sort_by(|(_, a), (_, b)| b[0].level.cmp(&a[0].level).then_with(|| all(b).cmp(&all(a))));
    let mut text = String::new();
    for (id, list) in &kinds {
        let level = list[0].level;
        let style = style_of(level);
        let head = match list.len() {
            1 => String::new(),
            n => format!("  {} findings", grouped(n as u64)),
        };
        text.push_str(&format!("{style}{}[{id}]{style:#}{head}\n", level.word()));
        wrapped(summary_of(id), WIDTH - 2).iter().for_each(|line| text.push_str(&format!("  {line}\n")));
        for finding in list.iter().take(EACH) {
            let place = finding.span.map_or_else(String::new, |span| sources.place(span));
            let times = match cases(finding) {
                0 | 1 => String::new(),
                n => format!("  {} ×", grouped(n)),
            };
            text.push_str(&format!("    {}{times}\n", in_line(&place)));
            let message = in_line(&finding.message);
            wrapped(&message, WIDTH - 6).iter().for_each(|line| text.push_str(&format!("      {line}\n")));
        }
        if list.len() > EACH {
            text.push_str(&format!("    and {} more: --only {id}\n", grouped((list.len() - EACH) as u64)));
        }
        text.push('\n');
    }
    let more = format!(
        "Each with its lines: --all. {} of {}.",
        count(findings.len() as u64, "finding"),
        count(kinds.len() as u64, "kind")
    );
    wrapped(&more, WIDTH).iter().for_each(|line| text.push_str(&format!("{line}\n")));
    text.push('\n');
    marked(&text)
}

fn style_of(level: Level) -> Style {
    let color = match level {
        Level::Error => AnsiColor::BrightRed,
        Level::Warning => AnsiColor::Yellow,
        _ => AnsiColor::BrightGreen,
    };
    Style::new().bold().fg_color(Some(color.into()))
}
