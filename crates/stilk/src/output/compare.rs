//! What differs between two versions.

use super::markdown::inline;
use super::{count, grouped, wrapped};
use serde_json::{Value, json};
use stilk_views::compare::{Change, Comparison, Contrast, NameChange, step};

/// Columns of a terminal.
const WIDTH: usize = 80;

/// So many changed properties of one cause are shown.
const PROPERTIES: usize = 6;

fn indented(text: &mut String, indent: usize, words: &str) {
    for line in wrapped(words, WIDTH - indent) {
        text.push_str(&format!("{:indent$}{line}\n", ""));
    }
}

fn name_words(change: &NameChange) -> String {
    let kind = change.kind.word();
    match (&change.old, &change.new) {
        (Some(old), Some(new)) => format!("{kind} {old} is now {new}"),
        (Some(old), None) => format!("{kind} {old} is gone"),
        (_, Some(new)) => format!("{kind} {new} is new"),
        (None, None) => String::new(),
    }
}

/// A contrast that is gained or lost, in words.
pub fn contrast_words(one: &Contrast) -> String {
    let verdict = if one.is_lost() { "lost" } else { "gained" };
    let cases = count(one.cases, "case");
    format!("{verdict} in {cases}: {} {:.2}:1 → {:.2}:1, needs {}:1", one.example, one.old, one.new, one.needed)
}

fn target_words(one: &stilk_views::compare::Target) -> String {
    let is_lost = one.new.0.min(one.new.1) < one.needed;
    let size = |(width, height): (f64, f64)| format!("{width:.1}×{height:.1}px");
    let verdict = if is_lost { "too small" } else { "large enough" };
    format!("{verdict}: {} {} → {}, needs {}px", one.example, size(one.old), size(one.new), one.needed)
}

fn controls(change: &Change) -> String {
    let names: Vec<&str> = change.controls.iter().map(String::as_str).collect();
    stilk_text::diagnostic::list(&names)
}

/// For people.
pub fn text(comparison: &Comparison, names: [&str; 2]) -> String {
    let (step, reasons) = step(comparison);
    let mut text = format!("{} → {}\n\n", names[0], names[1]);
    if comparison.is_equal() {
        text.push_str(&format!("nothing differs in {}\n", count(comparison.cases, "case")));
        return text;
    }
    for change in &comparison.names.list {
        let mark = match (&change.old, &change.new) {
            (Some(_), Some(_)) => '~',
            (Some(_), None) => '-',
            _ => '+',
        };
        text.push_str(&format!("{mark} {}  {}\n", name_words(change), change.written));
    }
    if !comparison.names.list.is_empty() {
        text.push('\n');
    }
    for one in &comparison.contrast {
        indented(&mut text, 0, &format!("contrast {}", contrast_words(one)));
    }
    for one in &comparison.targets {
        indented(&mut text, 0, &format!("target {}", target_words(one)));
    }
    if comparison.contrast.len() + comparison.targets.len() > 0 {
        text.push('\n');
    }
    for motion in &comparison.motions {
        indented(&mut text, 0, &format!("motion: {}", motion.words()));
    }
    if !comparison.motions.is_empty() {
        text.push('\n');
    }
    for change in &comparison.changes {
        indented(&mut text, 0, &format!("{}: {} of {}", change.cause, count(change.cases, "case"), controls(change)));
        for ((old, new), themes) in change.values_by_theme() {
            indented(&mut text, 4, &format!("{old} → {new} in {}", themes.join(", ")));
        }
        let properties = change.properties_by_value();
        for (names, (old, new)) in properties.iter().take(PROPERTIES) {
            indented(&mut text, 4, &format!("{}: {old} → {new}", names.join(", ")));
        }
        if properties.len() > PROPERTIES {
            indented(&mut text, 4, &format!("and {} more", properties.len() - PROPERTIES));
        }
        indented(&mut text, 4, &format!("first in {}", change.example));
        text.push('\n');
    }
    text.push_str(&format!("{} of {} look different", grouped(comparison.changed), count(comparison.cases, "case")));
    if comparison.unknown > 0 {
        text.push_str(&format!("; {} not compared", count(comparison.unknown, "value")));
    }
    text.push_str(&format!("\nthis asks for a {} step\n", step.word()));
    for reason in reasons {
        indented(&mut text, 2, &reason);
    }
    text
}

/// For a changelog.
pub fn markdown(comparison: &Comparison, names: [&str; 2]) -> String {
    let (step, _) = step(comparison);
    let mut text = format!("## {} → {} ({})\n", inline(names[0]), inline(names[1]), step.word());
    let mut part = |title: &str, lines: Vec<String>| {
        if !lines.is_empty() {
            text.push_str(&format!("\n### {title}\n\n"));
            lines.iter().for_each(|line| text.push_str(&format!("- {}\n", inline(line))));
        }
    };
    let written = |change: &NameChange| match change.written.as_str() {
        "" => String::new(),
        written => format!(" (`{written}`)"),
    };
    let names = |wanted: fn(&NameChange) -> bool| -> Vec<String> {
        let found = comparison.names.list.iter().filter(|change| wanted(change));
        found.map(|change| format!("{}{}", name_words(change), written(change))).collect()
    };
    part("Removed", names(|c| c.old.is_some() && c.new.is_none()));
    part("Renamed", names(|c| c.old.is_some() && c.new.is_some()));
    part("Added", names(|c| c.old.is_none()));
    let looks = comparison.changes.iter().map(|change| {
        let by_theme = change.values_by_theme();
        let values: Vec<String> =
            by_theme.iter().map(|((old, new), themes)| format!("`{old}` → `{new}` in {}", themes.join(", "))).collect();
        let values = if values.is_empty() { String::new() } else { format!("; {}", values.join("; ")) };
        let shown: Vec<&str> = change.properties.keys().copied().collect();
        format!(
            "`{}`: {} of {}, {}{values}",
            change.cause,
            count(change.cases, "case"),
            controls(change),
            stilk_text::diagnostic::list(&shown)
        )
    });
    part("Changed", looks.collect());
    part("Motion", comparison.motions.iter().map(stilk_views::compare::Motion::words).collect());
    let contrast = comparison.contrast.iter().map(|one| format!("contrast {}", contrast_words(one)));
    let targets = comparison.targets.iter().map(|one| format!("target {}", target_words(one)));
    part("Accessibility", contrast.chain(targets).collect());
    text
}

/// For programs.
pub fn json(comparison: &Comparison, names: [&str; 2]) -> Value {
    let (step, reasons) = step(comparison);
    let pair = |(old, new): &(String, String)| json!({ "old": old, "new": new });
    json!({
        "old": names[0],
        "new": names[1],
        "step": step.word(),
        "reasons": reasons,
        "cases": comparison.cases,
        "changed": comparison.changed,
        "unknown": comparison.unknown,
        "names": comparison.names.list.iter().map(|change| json!({
            "kind": change.kind.word(), "old": change.old, "new": change.new, "written": change.written,
        })).collect::<Vec<_>>(),
        "changes": comparison.changes.iter().map(|change| json!({
            "cause": change.cause,
            "cases": change.cases,
            "controls": change.controls,
            "values": change.values.iter().map(|(theme, old, new)| json!({ "theme": theme, "old": old, "new": new })).collect::<Vec<_>>(),
            "properties": change.properties.iter().map(|(name, values)| ((*name).to_owned(), pair(values))).collect::<serde_json::Map<_, _>>(),
            "example": change.example,
        })).collect::<Vec<_>>(),
        "motions": comparison.motions.iter().map(|motion| json!({ "what": motion.what, "old": motion.old, "new": motion.new })).collect::<Vec<_>>(),
        "contrast": comparison.contrast.iter().map(|one| json!({
            "lost": one.is_lost(), "example": one.example, "cases": one.cases, "old": one.old, "new": one.new, "needed": one.needed,
        })).collect::<Vec<_>>(),
        "targets": comparison.targets.iter().map(|one| json!({
            "example": one.example, "cases": one.cases, "old": [one.old.0, one.old.1], "new": [one.new.0, one.new.1], "needed": one.needed,
        })).collect::<Vec<_>>(),
    })
}
