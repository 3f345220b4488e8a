//! What there is: families, themes, values, rules.

use super::WIDTH;
use crate::output::{count, grouped, wrapped};
use crate::say::in_line;
use std::collections::BTreeMap;
use stilk_survey::control::Kind;
use stilk_survey::report::{FamilyReport, Survey};
use stilk_survey::site::Site;
use stilk_survey::value::Scale;

/// So many families, options, values and rules are listed.
const FAMILIES: usize = 24;
const OPTIONS: usize = 8;
const VALUES: usize = 6;
const UNUSED: usize = 12;

/// All of it in words; long lists are folded.
pub fn overview(survey: &Survey, site: &Site) -> String {
    let mut text = String::new();
    if survey.controls() == 0 {
        return format!("No control on {}.\n\n", count(survey.pages as u64, "page"));
    }
    head(survey, WIDTH).into_iter().for_each(|line| text.push_str(&format!("{line}\n")));
    text.push('\n');
    for report in survey.families.iter().take(FAMILIES) {
        text.push_str(&family(report, site));
    }
    if survey.families.len() > FAMILIES {
        text.push_str(&format!("and {} more families\n\n", survey.families.len() - FAMILIES));
    }
    text.push_str(&themes(survey));
    text.push_str(&values(survey));
    text.push_str(&rules(survey, site));
    text
}

/// How many controls of which kinds, in how many looks.
fn head(survey: &Survey, width: usize) -> Vec<String> {
    let kinds: Vec<String> = Kind::ALL
        .into_iter()
        .map(|kind| (kind, survey.of_kind(kind)))
        .filter(|(_, (controls, _))| *controls > 0)
        .map(|(kind, (controls, looks))| {
            let noun = if controls == 1 { kind.noun() } else { kind.plural() };
            format!("{controls} {noun} in {}", count(looks as u64, "look"))
        })
        .collect();
    let head = format!(
        "{} on {} of {}: {}",
        count(survey.controls() as u64, "control"),
        survey.with_controls,
        count(survey.pages as u64, "page"),
        kinds.join(", ")
    );
    wrapped(&head, width)
}

/// The same in a few lines: what there is, and which findings there are most of.
pub fn brief(survey: &Survey) -> String {
    const KINDS: usize = 5;
    let mut text = String::new();
    let mut line = |line: &str| text.push_str(&format!("  {line}\n"));
    head(survey, WIDTH - 2).iter().for_each(|words| line(words));
    let mut kinds: BTreeMap<&str, u64> = BTreeMap::new();
    survey.report.findings.iter().for_each(|finding| *kinds.entry(finding.id).or_default() += 1);
    let mut kinds: Vec<(&str, u64)> = kinds.into_iter().collect();
    kinds.sort_by(|a, b| b.1.cmp(&a.1).then(a.0.cmp(b.0)));
    let most: Vec<String> = kinds.iter().take(KINDS).map(|(id, findings)| format!("{id} {findings}")).collect();
    let more = kinds.len().saturating_sub(KINDS);
    let more = if more > 0 { format!(" and {}", count(more as u64, "other kind")) } else { String::new() };
    let all = count(survey.report.findings.len() as u64, "finding");
    wrapped(&format!("{all}: {}{more}", most.join(", ")), WIDTH - 2).iter().for_each(|words| line(words));
    text
}

/// A line of a family: what it is about, and words that are wrapped beside it.
fn row(text: &mut String, name: &str, words: &str) {
    const NAME: usize = 8;
    for (index, line) in wrapped(words, WIDTH - NAME - 4).into_iter().enumerate() {
        let name = if index == 0 { name } else { "" };
        text.push_str(&format!("  {name:NAME$}  {line}\n"));
    }
}

fn family(report: &FamilyReport, site: &Site) -> String {
    let family = &report.family;
    let mut text = String::new();
    let noun = if family.count == 1 { family.kind.noun() } else { family.kind.plural() };
    let place = report.base.map_or_else(String::new, |span| format!("  {}", site.sources.place(span)));
    let name = if family.is_styled {
        in_line(&family.name)
    } else {
        format!("{} without rules of their own", in_line(&family.name))
    };
    // What belongs together stays on one line.
    let tail = format!("{} {noun}{}", family.count, in_line(&place));
    match name.chars().count() + 2 + tail.chars().count() > WIDTH {
        true => {
            wrapped(&name, WIDTH).iter().for_each(|line| text.push_str(&format!("{line}\n")));
            text.push_str(&format!("  {tail}\n"));
        }
        false => text.push_str(&format!("{name}  {tail}\n")),
    }
    if family.hosts.len() > 1 || family.hosts.first().is_some_and(|(host, _)| *host != family.name) {
        let hosts: Vec<String> = family.hosts.iter().map(|(host, count)| format!("{host} {count}")).collect();
        row(&mut text, "on", &hosts.join(", "));
    }
    for axis in &family.axes {
        let options: Vec<String> =
            axis.options.iter().take(OPTIONS).map(|(option, count)| format!("{} {count}", option.text())).collect();
        let more = axis.options.len().saturating_sub(OPTIONS);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        let why = if axis.options.len() > 1 { format!("  ({})", axis.why) } else { String::new() };
        row(&mut text, axis.name, &format!("{}{more}{why}", options.join(", ")));
    }
    if !report.parts.is_empty() {
        let parts: Vec<&str> = report.parts.iter().take(OPTIONS).map(String::as_str).collect();
        row(&mut text, "parts", &parts.join(", "));
    }
    let written = if report.written.is_empty() { "none written".to_owned() } else { report.written.join(", ") };
    let missing: Vec<&str> = report.missing.iter().map(|id| id.name()).collect();
    let missing = if missing.is_empty() { String::new() } else { format!("; not written: {}", missing.join(", ")) };
    row(&mut text, "states", &format!("{written}{missing}"));
    if report.looks.len() > 1 {
        // Looks of one name differ by where they stand.
        let mut by_name: Vec<(String, u64, u64)> = Vec::new();
        for look in &report.looks {
            let name =
                if family.hosts.len() > 1 { format!("{} on {}", look.name, look.host) } else { look.name.clone() };
            match by_name.iter_mut().find(|(known, _, _)| *known == name) {
                Some((_, controls, looks)) => (*controls, *looks) = (*controls + look.controls, *looks + 1),
                None => by_name.push((name, look.controls, 1)),
            }
        }
        by_name.sort_by_key(|(_, controls, _)| std::cmp::Reverse(*controls));
        let one = |(name, controls, looks): &(String, u64, u64)| match looks {
            1 => format!("{controls} × {name}"),
            looks => format!("{controls} × {name} in {looks}"),
        };
        let looks: Vec<String> = by_name.iter().take(VALUES).map(one).collect();
        let more = by_name.len().saturating_sub(VALUES);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        row(&mut text, "looks", &format!("{}: {}{more}", report.looks.len(), looks.join(", ")));
    }
    text.push('\n');
    text
}

fn themes(survey: &Survey) -> String {
    let mut text = String::new();
    if survey.themes.is_empty() && survey.sides.is_empty() {
        return text;
    }
    text.push_str("Themes and devices\n");
    for theme in &survey.themes {
        let sets = match theme.customs.len() as u64 {
            0 => String::new(),
            n => format!(", sets {}", count(n, "custom property").replace("propertys", "properties")),
        };
        row(&mut text, "theme", &format!("{}  {}{sets}", theme.selector(), count(theme.rules as u64, "rule")));
    }
    for side in &survey.sides {
        row(&mut text, "device", side);
    }
    text.push('\n');
    text
}

fn values(survey: &Survey) -> String {
    let mut text = String::new();
    for scale in Scale::ALL {
        let of_scale: Vec<_> = survey.values.iter().filter(|value| value.scale == scale).collect();
        if of_scale.is_empty() {
            continue;
        }
        if text.is_empty() {
            text.push_str("Values in rules of controls\n");
        }
        let shown: Vec<String> =
            of_scale.iter().take(VALUES).map(|value| format!("{} ×{}", value.text, value.declarations)).collect();
        let more = of_scale.len().saturating_sub(VALUES);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        let name = if of_scale.len() == 1 { scale.one() } else { scale.name() };
        text.push_str(&format!("  {} {name}\n", of_scale.len()));
        wrapped(&format!("{}{more}", shown.join(", ")), WIDTH - 4)
            .iter()
            .for_each(|line| text.push_str(&format!("    {line}\n")));
        let mut twins: Vec<String> = Vec::new();
        for value in &of_scale {
            for (twin, _) in value.twins.iter().filter(|(twin, _)| *twin > value.text) {
                twins.push(format!("{} and {twin}", value.text));
            }
        }
        if !twins.is_empty() {
            let more = twins.len().saturating_sub(VALUES);
            let more = if more > 0 { format!(" and {more} more pairs") } else { String::new() };
            let all =
                format!("nearly the same: {}{more}", twins.iter().take(VALUES).cloned().collect::<Vec<_>>().join("; "));
            wrapped(&all, WIDTH - 4).iter().for_each(|line| text.push_str(&format!("    {line}\n")));
        }
    }
    if !survey.customs.is_empty() {
        let shown: Vec<String> = survey
            .customs
            .iter()
            .take(VALUES)
            .map(|custom| format!("{} ×{}", in_line(&custom.name), custom.readers))
            .collect();
        let more = survey.customs.len().saturating_sub(VALUES);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        text.push_str(&format!(
            "  {} read by them\n",
            count(survey.customs.len() as u64, "custom property").replace("propertys", "properties")
        ));
        wrapped(&format!("{}{more}", shown.join(", ")), WIDTH - 4)
            .iter()
            .for_each(|line| text.push_str(&format!("    {line}\n")));
    }
    if !text.is_empty() {
        text.push('\n');
    }
    text
}

fn rules(survey: &Survey, site: &Site) -> String {
    let mut text = count(survey.rules as u64, "rule");
    match survey.unused.len() as u64 {
        0 => text.push_str(", each used by some page\n\n"),
        n => {
            text.push_str(&format!(", {} used by no page of these\n", grouped(n)));
            for unused in survey.unused.iter().take(UNUSED) {
                let line = format!("  {}  {}", in_line(&site.sources.place(unused.span)), in_line(&unused.selector));
                text.push_str(&format!("{}\n", stilk_text::diagnostic::clipped(&line, WIDTH)));
            }
            if survey.unused.len() > UNUSED {
                text.push_str(&format!("  and {} more\n", survey.unused.len() - UNUSED));
            }
            text.push('\n');
        }
    }
    text
}
