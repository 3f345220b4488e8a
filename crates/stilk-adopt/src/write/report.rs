//! `ADOPTED.md`: what became what, what was left and why, and what a person should decide.

use crate::account::Adopted;
use crate::ground::Ground;

/// So many of one list are written out.
const MOST: usize = 60;

/// Its text.
pub fn write(adopted: &Adopted, ground: &Ground) -> String {
    let mut text = String::from("# What was adopted\n\n");
    let controls: usize = adopted.became.iter().map(|one| one.controls).sum();
    text.push_str(&format!(
        "{} of {} pages became {}; {}.\n",
        count(controls, "control"),
        ground.site.pages.len(),
        count(adopted.became.len(), "control sheet"),
        count(adopted.tokens, "token"),
    ));
    let (literals, named) = adopted.literals;
    if literals > 0 {
        text.push_str(&format!("Of {} in sheets {} are tokens.\n", count(literals, "literal colour"), named));
    }
    text.push_str("\n## On the pages\n\nMarkup stays. Each page links what stays of its stylesheets in place of these, and the system's stylesheet last:\n\n| before | now |\n|---|---|\n");
    for kept in &adopted.kept {
        let old = if kept.is_inline { format!("`<style>` of {}", kept.old) } else { kept.old.clone() };
        text.push_str(&format!("| {old} | {} |\n", kept.path));
    }
    text.push_str(&format!("| | {} (written by `stilk build`) |\n", adopted.stylesheet));
    text.push_str("\n## The proof\n\n");
    text.push_str(&super::report::summary(adopted));
    text.push('\n');
    if !adopted.proof.differences.is_empty() {
        text.push_str(
            "\n| element | state | where | property | before | after | why |\n|---|---|---|---|---|---|---|\n",
        );
        for one in adopted.proof.differences.iter().take(MOST * 10) {
            let said =
                |value: &Option<String>| value.clone().map_or_else(|| "not known".to_owned(), |v| format!("`{v}`"));
            let why = match (&one.by, &one.now_by) {
                (Some(by), Some(now)) => format!("{by}; now {now}"),
                (Some(by), None) => format!("{by}; now nothing"),
                (None, Some(now)) => format!("nothing; now {now}"),
                (None, None) => "what is around it".to_owned(),
            };
            text.push_str(&format!(
                "| `{}` | {} | {}{} | {} | {} | {} | {why} |\n",
                one.element,
                if one.states.is_empty() { "at rest" } else { &one.states },
                ground.site.path(one.page),
                if one.situation.is_empty() { String::new() } else { format!(", {}", one.situation) },
                one.longhand,
                said(&one.before),
                said(&one.after),
            ));
        }
    }
    if !adopted.merged.is_empty() {
        text.push_str("\n## Colours that became one\n\n| colour | token | apart (ΔE OK) |\n|---|---|---|\n");
        for (color, token, apart) in &adopted.merged {
            text.push_str(&format!("| `{color}` | `{token}` | {apart:.4} |\n"));
        }
    }
    text.push_str("\n## What became what\n");
    for one in &adopted.became {
        text.push_str(&format!(
            "\n### `{}` became `{}`\n\n{} on pages, {} in `controls/{}.stilk`.\n",
            one.family,
            one.control,
            count(one.controls, "control"),
            count(one.declarations, "declaration"),
            one.control,
        ));
        if one.meetings > 0 {
            text.push_str(&format!(
                "{} of these write out where two old rules meet and the old order gave another look than that of states and places.\n",
                one.meetings
            ));
        }
        if !one.names.is_empty() {
            let names: Vec<String> = one.names.iter().map(|(name, mark)| format!("{name} (`{mark}`)")).collect();
            text.push_str(&format!("Options and parts: {}.\n", names.join(", ")));
        }
        if !one.lost.is_empty() {
            text.push_str("\nNever won anything, and is not carried over:\n\n");
            for (rule, declaration) in one.lost.iter().take(MOST) {
                text.push_str(&format!("- `{rule}`: `{declaration}`\n"));
            }
        }
        if !one.unreadable.is_empty() {
            text.push_str("\nStays where it is, because a sheet cannot say it:\n\n");
            for (rule, why) in one.unreadable.iter().take(MOST) {
                text.push_str(&format!("- `{rule}`: {why}\n"));
            }
        }
    }
    if !adopted.left.is_empty() {
        text.push_str("\n## What stays as it was\n\n");
        for left in &adopted.left {
            text.push_str(&format!("- `{}` ({}): {}\n", left.family, count(left.controls, "control"), left.why));
            for one in left.differences.iter().take(5) {
                let said = |value: &Option<String>| value.clone().unwrap_or_else(|| "not known".to_owned());
                text.push_str(&format!(
                    "  - `{}`{}: {} would be `{}` in place of `{}`\n",
                    one.element,
                    if one.states.is_empty() { String::new() } else { format!(" ({})", one.states) },
                    one.longhand,
                    said(&one.after),
                    said(&one.before),
                ));
            }
        }
    }
    text
}

/// The proof in a sentence or two.
pub fn summary(adopted: &Adopted) -> String {
    let proof = &adopted.proof;
    let mut text = format!(
        "{} values of all elements were compared: {} of themes, widths and devices, at rest and in every state that rules ask for; {}",
        grouped(proof.compared),
        count(proof.situations, "situation"),
        match proof.differing {
            0 => "none differs.".to_owned(),
            differing => format!("{} differ.", grouped(differing)),
        }
    );
    if proof.unknown > 0 {
        text.push_str(&format!(" {} are not known before and after.", grouped(proof.unknown)));
    }
    if adopted.unseen > 0 {
        text.push_str(&format!(" {} of media queries were too many to be looked at.", count(adopted.unseen, "side")));
    }
    text
}

/// A number with its noun.
pub fn count(number: usize, noun: &str) -> String {
    if number == 1 { format!("1 {noun}") } else { format!("{} {noun}s", grouped(number as u64)) }
}

/// A number in groups of three digits.
fn grouped(number: u64) -> String {
    let digits = number.to_string();
    let mut text = String::new();
    for (at, digit) in digits.chars().enumerate() {
        if at > 0 && (digits.len() - at).is_multiple_of(3) {
            text.push(',');
        }
        text.push(digit);
    }
    text
}
