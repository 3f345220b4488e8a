//! From what checks said to findings: one cause, one finding, worst first.

use crate::mend::Mend;
use crate::registry::find;
use crate::report::Report;
use crate::sink::{MendKind, Sink};
use std::collections::BTreeMap;
use stilk_language::system::System;
use stilk_text::diagnostic::{Diagnostic, Evidence};
use stilk_text::source::Span;

pub fn group(system: &System, sink: Sink, mends: &BTreeMap<Vec<Span>, Mend>, report: &mut Report) {
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
    for ((_, cause), worst) in sink.failures {
        let mut diagnostic = worst.fault.diagnostic;
        let controls = worst.controls.into_iter().collect();
        diagnostic.evidence = Some(Evidence {
            cases: worst.cases,
            worst: worst.case,
            figures: worst.fault.figures,
            controls,
            pages: None,
        });
        level(&mut diagnostic);
        let places: Vec<Span> = cause.spans.iter().copied().flatten().collect();
        if let Some(mend) = mends.get(&places).filter(|_| worst.fault.mend == MendKind::AnotherColor) {
            (diagnostic.mend, diagnostic.edits) = (Some(mend.words.clone()), mend.edits.clone());
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
