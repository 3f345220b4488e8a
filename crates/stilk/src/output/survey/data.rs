//! What was found, as Markdown and for programs.

use crate::disk::shown;
use serde_json::{Value, json};
use std::path::Path;
use stilk_survey::report::Survey;
use stilk_survey::site::Site;
use stilk_text::source::Span;

/// The families, as Markdown.
pub fn markdown(survey: &Survey) -> String {
    let cell = |text: &str| text.replace('|', "\\|").replace('\n', " ");
    let mut text = String::from(
        "| family | kind | controls | looks | states written | not written |\n|---|---|---:|---:|---|---|\n",
    );
    for report in &survey.families {
        let missing: Vec<&str> = report.missing.iter().map(|id| id.name()).collect();
        text.push_str(&format!(
            "| `{}` | {} | {} | {} | {} | {} |\n",
            cell(&report.family.name),
            report.family.kind.noun(),
            report.family.count,
            report.looks.len(),
            cell(&report.written.join(", ")),
            missing.join(", ")
        ));
    }
    text.push('\n');
    text
}

/// What was found, for programs.
pub fn json(survey: &Survey, site: &Site, root: &Path) -> Value {
    let place = |span: Span| {
        let position = site.sources.position(span);
        json!({ "file": shown(root, &site.sources.file(span.file).path), "line": position.line, "column": position.column })
    };
    let families: Vec<Value> = survey
        .families
        .iter()
        .map(|report| {
            let family = &report.family;
            json!({
                "name": family.name,
                "kind": family.kind.noun(),
                "styled": family.is_styled,
                "controls": family.count,
                "base": report.base.map(place),
                "hosts": family.hosts.iter().map(|(host, count)| json!({ "host": host, "controls": count })).collect::<Vec<_>>(),
                "axes": family.axes.iter().map(|axis| json!({
                    "name": axis.name,
                    "evidence": axis.why,
                    "options": axis.options.iter().map(|(option, count)| json!({ "chosenBy": option.text(), "controls": count })).collect::<Vec<_>>(),
                })).collect::<Vec<_>>(),
                "parts": report.parts,
                "statesWritten": report.written,
                "statesNotWritten": report.missing.iter().map(|id| id.name()).collect::<Vec<_>>(),
                "looks": report.looks.iter().map(|look| json!({
                    "name": look.name,
                    "host": look.host,
                    "controls": look.controls,
                    "first": look.tag.map(place),
                    "contrast": look.states.iter().filter_map(|one| {
                        let worst = one.text.ok().flatten()?;
                        let state = survey.system.states.set_name(&one.states);
                        Some(json!({ "state": state, "ratio": worst.ratio(), "needs": worst.needed() }))
                    }).collect::<Vec<_>>(),
                    "values": look.own.iter().map(|(longhand, value, _)| (longhand.name().to_owned(), Value::from(value.as_str()))).collect::<serde_json::Map<_, _>>(),
                })).collect::<Vec<_>>(),
            })
        })
        .collect();
    json!({
        "pages": survey.pages,
        "pagesWithControls": survey.with_controls,
        "controls": survey.controls(),
        "looks": survey.looks(),
        "families": families,
        "nearLooks": survey.near.iter().map(|pair| json!({
            "one": { "name": pair.one.name, "host": pair.one.host, "first": pair.one.tag.map(place) },
            "other": { "name": pair.other.name, "host": pair.other.host, "first": pair.other.tag.map(place) },
            "differing": pair.differing.iter().map(|d| json!({ "property": d.property, "one": d.one, "other": d.other })).collect::<Vec<_>>(),
        })).collect::<Vec<_>>(),
        "themes": survey.themes.iter().map(|theme| json!({
            "name": theme.name, "chosenBy": theme.selector(), "rules": theme.rules, "customProperties": theme.customs,
        })).collect::<Vec<_>>(),
        "devices": survey.sides,
        "values": survey.values.iter().map(|value| json!({
            "scale": value.scale.name(), "value": value.text, "declarations": value.declarations, "first": place(value.first),
            "users": value.users, "twins": value.twins.iter().map(|(twin, apart)| json!({ "value": twin, "apart": apart })).collect::<Vec<_>>(),
        })).collect::<Vec<_>>(),
        "customProperties": survey.customs.iter().map(|custom| json!({
            "name": custom.name, "readers": custom.readers, "users": custom.users,
            "values": custom.values.iter().map(|(value, span)| json!({ "value": value, "place": place(*span) })).collect::<Vec<_>>(),
        })).collect::<Vec<_>>(),
        "rules": survey.rules,
        "unused": survey.unused.iter().map(|unused| json!({ "selector": unused.selector, "place": place(unused.span) })).collect::<Vec<_>>(),
        "missing": site.missing.iter().map(|((address, why), pages)| json!({ "stylesheet": address, "why": why, "pages": pages })).collect::<Vec<_>>(),
    })
}
