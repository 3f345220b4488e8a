//! From what checks said to findings: one cause, one finding, worst first.

use crate::mend::{Mend, role};
use crate::registry::find;
use crate::report::Report;
use crate::sink::{Cause, Failure, Failures, MendKind, Sink};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use stilk_language::system::System;
use stilk_text::diagnostic::{Diagnostic, Evidence, Proposal};
use stilk_text::source::{Sources, Span};

/// So many mends of one finding are told.
const PROPOSED: usize = 3;

/// Puts what was found into a report.
pub fn group(
    system: &System,
    sources: &Sources,
    sink: Sink,
    mends: &BTreeMap<Vec<Span>, Vec<Mend>>,
    report: &mut Report,
) {
    let level = |diagnostic: &mut Diagnostic| {
        if let Some((_, level)) = system.manifest.levels.iter().find(|(id, _)| id.value == diagnostic.id) {
            diagnostic.level = level.unwrap_or(diagnostic.level);
        }
    };
    // Where no mend was computed, what helps in general.
    let offer = |diagnostic: &mut Diagnostic| {
        if diagnostic.mend.is_none() {
            diagnostic.mend = find(diagnostic.id).map(|check| check.mend.to_owned());
        }
    };
    let mut findings: Vec<(f64, Diagnostic)> = Vec::new();
    for (causes, worst) in merged(system, sink.failures) {
        let (chosen, kind) = (worst.chosen(), worst.fault.mend);
        let values = worst.values;
        let mut diagnostic = worst.fault.diagnostic;
        if let Some(place) = chosen.filter(|_| is_everywhere(system, &values)) {
            diagnostic = chosen_at(diagnostic, place);
        }
        let controls = worst.controls.into_iter().collect();
        diagnostic.evidence = Some(Evidence {
            cases: worst.cases,
            worst: worst.case,
            figures: worst.fault.figures,
            controls,
            pages: None,
        });
        level(&mut diagnostic);
        if kind == MendKind::AnotherColor {
            let mut proposals = Vec::new();
            if let Some(place) = chosen.filter(|place| diagnostic.span == Some(*place)) {
                proposals.extend(of_sheet(system, sources, diagnostic.id, place, &values));
            }
            proposals.extend(of_tokens(&causes, mends));
            // The first is the mend; of what only says why there is none, nothing is left where something else would do.
            proposals.dedup_by(|a, b| a.edits == b.edits);
            if proposals.iter().any(|mend| !mend.edits.is_empty()) {
                proposals.retain(|mend| !mend.edits.is_empty());
            }
            let mut proposals = proposals.into_iter().take(PROPOSED);
            if let Some(first) = proposals.next() {
                (diagnostic.mend, diagnostic.edits) = (Some(first.words), first.edits);
            }
            diagnostic.proposals = proposals.map(|Mend { words, edits }| Proposal { words, edits }).collect();
        }
        offer(&mut diagnostic);
        findings.push((worst.fault.score, diagnostic));
    }
    for mut diagnostic in sink.general {
        level(&mut diagnostic);
        offer(&mut diagnostic);
        findings.push((0.0, diagnostic));
    }
    findings.sort_by(|a, b| b.1.level.cmp(&a.1.level).then(a.1.id.cmp(b.1.id)).then(a.0.total_cmp(&b.0)));
    report.findings = findings.into_iter().map(|(_, diagnostic)| diagnostic).collect();
}

/// Failures with their causes, where those of several themes that have the same tokens are one if no theme is right: then it is
/// not a theme's value that is wrong.
fn merged(system: &System, failures: Failures) -> Vec<(Vec<Cause>, Failure)> {
    let key = |check: &'static str, cause: &Cause, failure: &Failure| {
        let is_of_tokens = !failure.choices.is_empty() && !failure.paths.is_empty();
        is_of_tokens.then(|| (check, failure.paths.clone(), cause.words.clone()))
    };
    let mut values: HashMap<_, BTreeSet<Vec<(Span, String)>>> = HashMap::new();
    for ((check, cause), failure) in &failures {
        if let Some(key) = key(check, cause, failure) {
            values.entry(key).or_default().extend(failure.values.iter().cloned());
        }
    }
    let mut found: Vec<(Vec<Cause>, Failure)> = Vec::new();
    let mut places: HashMap<_, usize> = HashMap::new();
    for ((check, cause), failure) in failures {
        let key = key(check, &cause, &failure).filter(|key| is_everywhere(system, &values[key]));
        match key.as_ref().and_then(|key| places.get(key)) {
            Some(at) => {
                let (causes, whole): &mut (Vec<Cause>, Failure) = &mut found[*at];
                causes.push(cause);
                whole.absorb(failure);
            }
            None => {
                places.extend(key.map(|key| (key, found.len())));
                found.push((vec![cause], failure));
            }
        }
    }
    found
}

/// Other tokens that the sheet may have meant.
fn of_sheet(
    system: &System,
    sources: &Sources,
    check: &str,
    place: Span,
    values: &BTreeSet<Vec<(Span, String)>>,
) -> Vec<Mend> {
    let paths: BTreeSet<Vec<&str>> =
        values.iter().map(|tokens| tokens.iter().map(|(_, path)| path.as_str()).collect()).collect();
    // Where more is mixed, nobody knows which of it was meant to be another.
    let (Some([one, other]), 1) = (paths.first().map(Vec::as_slice), paths.len()) else { return Vec::new() };
    let needed = if matches!(check, "contrast/text" | "contrast/placeholder") { 4.5 } else { 3.0 };
    role::instead(system, sources, place, [one, other], needed)
}

/// Other colours for the tokens, in every theme in which they fail.
fn of_tokens(causes: &[Cause], mends: &BTreeMap<Vec<Span>, Vec<Mend>>) -> Vec<Mend> {
    let places = |cause: &Cause| cause.spans.iter().copied().flatten().collect::<Vec<Span>>();
    let found: Vec<&[Mend]> = causes.iter().filter_map(|cause| mends.get(&places(cause)).map(Vec::as_slice)).collect();
    let [first, rest @ ..] = found.as_slice() else { return Vec::new() };
    if rest.is_empty() {
        return first.to_vec();
    }
    // Each theme has one of its own, and all of them are needed; of two for one place the first is taken.
    let mut whole = Mend::default();
    for mend in found.iter().filter_map(|mends| mends.first()) {
        let is_known = mend.edits.iter().all(|edit| whole.edits.contains(edit)) && !whole.words.is_empty();
        let meets = mend.edits.iter().any(|edit| whole.edits.iter().any(|known| known.span == edit.span));
        if is_known || meets {
            continue;
        }
        whole.words = [whole.words.as_str(), mend.words.as_str()].join(if whole.words.is_empty() { "" } else { "; " });
        whole.edits.extend(mend.edits.iter().cloned());
    }
    if found.iter().any(|mends| mends.first().is_none_or(|mend| mend.edits.is_empty())) {
        whole.edits.clear();
    }
    vec![whole]
}

/// Whether these values are all that their tokens have in any theme.
fn is_everywhere(system: &System, values: &BTreeSet<Vec<(Span, String)>>) -> bool {
    let tokens = &system.tokens;
    let themes = tokens.themes();
    let paths: BTreeSet<Vec<&str>> =
        values.iter().map(|tokens| tokens.iter().map(|(_, path)| path.as_str()).collect()).collect();
    paths.iter().all(|paths| {
        let ids: Option<Vec<_>> = paths.iter().map(|path| tokens.find(path)).collect();
        let Some(ids) = ids else { return false };
        themes.iter().all(|theme| {
            let in_theme = ids.iter().map(|id| {
                let token = tokens.get(*id);
                Some((token.in_theme(theme)?.span, token.path.clone()))
            });
            in_theme.collect::<Option<Vec<_>>>().is_some_and(|in_theme| values.contains(&in_theme))
        })
    })
}

/// The same finding at the declaration that chose what does not go together; where the value is stands beside it.
fn chosen_at(mut diagnostic: Diagnostic, place: Span) -> Diagnostic {
    let before = diagnostic.span.replace(place);
    diagnostic.related.retain(|related| related.span != place);
    match before.filter(|before| *before != place) {
        Some(before) => diagnostic.related(before, "its value"),
        None => diagnostic,
    }
}
