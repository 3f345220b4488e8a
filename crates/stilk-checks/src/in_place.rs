//! Checks of looks, asked of controls where they stand on pages that nobody wrote for a system.
//!
//! It is the same checks: each gets looks of one control in its states, with what the page paints behind it and a tracer that
//! leads to the page's own stylesheets.

use crate::check::Scope;
use crate::inspection::{Inspection, Known, Shown};
use crate::painted::paint::{self, Stack};
use crate::registry::CHECKS;
use crate::report::Report;
use crate::run::group;
use crate::sink::Sink;
use crate::trace::Tracer;
use std::collections::BTreeMap;
use stilk_engine::cascade::{Style, asked};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_language::case::{Look, Unit};
use stilk_language::system::{StateSet, System};
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::Sources;

/// Asks checks of controls in their places, and keeps what they say.
pub struct InPlace<'s> {
    system: &'s System,
    only: Vec<&'static str>,
    sink: Sink,
}

/// What was said, to be put together with what was said elsewhere.
pub struct Said(Sink);

/// Checks that ask for what a foreign stylesheet cannot say: how a sheet of a system is written.
const NOT_ASKED: [&str; 1] = ["font/fallback"];

impl<'s> InPlace<'s> {
    /// Of the controls of a system that was found; these checks only, or all where none is named.
    pub fn new(system: &'s System, only: Vec<&'static str>) -> InPlace<'s> {
        InPlace { system, only, sink: Sink::default() }
    }

    /// Asks of a control in all states in which it was looked at, rest first. `place` says where it stands and in which
    /// surroundings; its verdicts count for `stands_for` controls.
    pub fn ask(&mut self, tracer: &Tracer, unit: &Unit, looks: &[(StateSet, Look)], place: &str, stands_for: u64) {
        let known = Known::default();
        self.sink.around = place.to_owned();
        self.sink.stands_for = stands_for;
        for check in CHECKS.iter().filter(|check| !NOT_ASKED.contains(&check.id)) {
            let Scope::Looks(asks) = &check.scope else { continue };
            if !asks.is_for(unit.control) || !self.only.is_empty() && !self.only.contains(&check.id) {
                continue;
            }
            let shown = looks.iter().map(|(states, look)| Shown { states, look, stands_for: 1 });
            let (system, sizes) = (self.system, paint::Sizes::Known);
            let inspection = Inspection { system, unit, looks: shown.collect(), sizes, tracer, known: &known };
            (asks.run)(&inspection, &mut self.sink);
            self.sink.settle(self.system, unit);
            asked::take();
        }
    }

    /// Something is wrong that is no matter of states.
    pub fn find(&mut self, diagnostic: Diagnostic) {
        self.sink.find(None, diagnostic);
    }

    /// What was said so far.
    pub fn said(self) -> Said {
        Said(self.sink)
    }
}

/// The findings of all that was said, in the order in which it is given: one cause, one finding.
pub fn findings(system: &System, sources: &Sources, all: Vec<Said>) -> Report {
    let mut sink = Sink::default();
    for Said(one) in all {
        sink.absorb(one);
    }
    let mut report = Report { unknown: sink.unknown, ..Report::default() };
    report.decided = std::mem::take(&mut sink.decided).into_iter().collect();
    let reasons = std::mem::take(&mut sink.reasons);
    report.reasons = reasons.into_iter().map(|((check, why), cases)| (format!("{check}: {why}"), cases)).collect();
    report.doubts = std::mem::take(&mut sink.doubts).into_values().collect();
    group::group(system, sources, sink, &BTreeMap::new(), &mut report);
    for finding in &mut report.findings {
        // What helps in general is said in the words of a system's sheets.
        let speaks_of_sheets = |words: &String| ["`@", "token", "trait"].iter().any(|word| words.contains(word));
        if finding.mend.as_ref().is_some_and(speaks_of_sheets) {
            finding.mend = general(finding.id).map(str::to_owned);
        }
        finding.message = without_usual(&finding.message);
        if let Some(evidence) = &mut finding.evidence {
            // Options are chosen by attributes and places as well: names are joined as selectors are.
            let worst = without_usual(&evidence.worst).replace(".[", "[").replace(".#", "#").replace(".in ", " in ");
            evidence.worst = worst;
        }
    }
    report
}

/// The name of the theme that a page has as it is.
pub const USUAL: &str = "the usual theme";

/// What is so without anybody's choice is not said.
fn without_usual(words: &str) -> String {
    words.replace(&format!(" in {USUAL}"), "").replace(" in default", "")
}

/// What helps in general, for those who write CSS.
fn general(check: &str) -> Option<&'static str> {
    Some(match check {
        "contrast/text" => "give the text, or what is behind it, another lightness",
        "contrast/placeholder" => "give `::placeholder` a colour with enough contrast, and `opacity: 1`",
        "contrast/boundary" => "darken the border, or let the fill stand out from what is around it",
        "contrast/indicator" => "give the mark, or what is behind it, another lightness",
        "contrast/focus" => {
            "give the ring a colour that stands out from what is around it, or draw a second one beside it"
        }
        "state/hover-only" => "show it for `:focus-within` as well",
        "state/slips" => "let a generated box reach out to where the edge was",
        "state/indistinct" => "let the state change more",
        _ => return None,
    })
}

/// What is painted behind an element by all that is around it: the styles from the root to its parent.
///
/// # Errors
/// The reason why it is not one known pixel.
pub fn behind(around: &[&Style]) -> Result<paint::Pixel, Unknown> {
    for style in around {
        let opacity = style.get(L::Opacity)?.as_number().unwrap_or(1.0);
        if opacity < 1.0 {
            return Err(Unknown("what is around it is translucent as a whole"));
        }
    }
    let pixels = Stack::of(around)?.over([1.0; 3]);
    match pixels.as_slice() {
        [one] => Ok(*one),
        [first, rest @ ..] if rest.iter().all(|other| other == first) => Ok(*first),
        _ => Err(Unknown("a gradient or picture is behind it")),
    }
}
