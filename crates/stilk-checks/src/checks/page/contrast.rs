//! `page/contrast`: a control's text can be read where it stands.

use crate::check::{Check, Scope};
use crate::checks::page::place::{Places, STATES, is_disabled, likeness};
use crate::example::Example;
use crate::painted::paint::{self, contrast, floor, hex};
use crate::painted::text::needed;
use crate::visit::instance::Instance;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashMap;
use stilk_engine::cascade::PseudoClass;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "page/contrast",
    summary: "a control's text has the contrast it needs on what is behind it on the page, with the page's own rules over it",
    why: "A system is checked on the surfaces that it names. A page puts the calm button on its photograph-dark footer all the \
          same.",
    source: "WCAG 2.2, 1.4.3 Contrast (Minimum) and 1.4.6 Contrast (Enhanced)",
    level: Level::Error,
    mend: "Put it on a surface that the system names, give the place the theme that is made for it (`data-theme`), or choose \
           another option.",
    fails: Example::page(
        "<div style=\"background: #1b2430\"><button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Book</span></button></div>",
    ),
    passes: Example::page(
        "<div style=\"background: #f4f4f4\"><button type=\"button\" class=\"ex-button ex-button-calm\"><span class=\"ex-button_label\">Book</span></button></div>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    if visit.instances.is_empty() {
        return;
    }
    let places = Places::new(visit);
    let mut known: HashMap<u64, Outcome> = HashMap::new();
    for instance in visit.instances.iter().filter(|instance| !is_disabled(visit, instance)) {
        let outcome = known.entry(likeness(visit, instance)).or_insert_with(|| judge(visit, &places, instance));
        let Outcome { worst, unknown } = *outcome;
        match (worst, unknown) {
            (Some(worst), _) if worst.ratio < worst.needed => sink.decided(CHECK.id, 1),
            (_, Some(reason)) => sink.unknown(CHECK.id, 1, reason),
            _ => sink.decided(CHECK.id, 1),
        }
        let Some(Worst { ratio, needed, painted, states }) = worst.filter(|worst| worst.ratio < worst.needed) else {
            continue;
        };
        let name = instance.name(visit.system);
        let state = match states.first() {
            None => String::new(),
            Some(state) => {
                format!(" in {}", states.last().filter(|last| **last == PseudoClass::Active).unwrap_or(state).name())
            }
        };
        let message = format!(
            "`{name}` is {:.2}:1 here{state}, text needs {}:1: {} on {}",
            floor(ratio),
            number(needed),
            hex(painted.text),
            hex(painted.behind)
        );
        let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
            .label(format!("{:.2}:1", floor(ratio)));
        // What is behind it, or the page's own rule that painted over.
        let painted_by = |node, longhand| visit.styles.element(node).and_then(|style| style.winner(longhand));
        let winners: Vec<_> = instance
            .elements()
            .flat_map(|(_, node)| [L::Color, L::BackgroundColor].map(|longhand| painted_by(node, longhand)))
            .flatten()
            .collect();
        let is_inline = winners.iter().any(|id| id.is_inline());
        let around = visit.above(instance.node).find(|above| {
            let style = visit.styles.element(*above);
            style.is_some_and(|style| style.used_color(L::BackgroundColor).is_ok_and(|color| color.alpha > 0.0))
        });
        let mut cause = format!("{name} {} {}", hex(painted.text), hex(painted.behind));
        let foreign = winners.iter().find_map(|id| Some((visit.foreign_span(*id)?, visit.declaration_cause(*id)?)));
        if let Some((span, of_rule)) = foreign {
            diagnostic = diagnostic.related(span, "the page's own rule");
            // All that one rule spoils is one fault.
            cause = of_rule;
        } else if is_inline {
            diagnostic =
                diagnostic.mend("take the colour out of the `style` attribute, or set both colours by their tokens");
        } else if let Some(span) = around.and_then(|node| visit.span(node)) {
            diagnostic = diagnostic.related(span, "what it lies on");
        }
        sink.find(cause, diagnostic);
    }
}

/// The text of a control with the least contrast for what it needs, in all states.
#[derive(Clone, Copy)]
struct Worst {
    ratio: f64,
    needed: f64,
    painted: paint::Painted,
    states: &'static [PseudoClass],
}

/// What there is to say of a control in its place.
#[derive(Clone, Copy)]
struct Outcome {
    worst: Option<Worst>,
    unknown: Option<Unknown>,
}

fn judge(visit: &VisitedPage, places: &Places, instance: &Instance) -> Outcome {
    let mut outcome = Outcome { worst: None, unknown: None };
    for states in STATES {
        let look = places.look(instance, states);
        for mut place in paint::text_places(&look) {
            // A control in it has a place of its own.
            let is_inner = |node| node != instance.node && visit.is_control(node);
            if place.chain.iter().any(|node| is_inner(*node)) {
                continue;
            }
            if place.is_inactive(&look) {
                continue;
            }
            place.chain = places.chain(place.at.node);
            let Some(style) = place.style(&look) else { continue };
            let needed = needed(visit.system.manifest.conformance, style);
            let painted = match paint::paint(&look, &place, needed, paint::Sizes::Known) {
                Ok(painted) => painted,
                Err(reason) => {
                    outcome.unknown = outcome.unknown.or(Some(reason));
                    continue;
                }
            };
            for painted in painted {
                let ratio = contrast(painted.text, painted.behind);
                if outcome.worst.is_none_or(|worst| ratio / needed < worst.ratio / worst.needed) {
                    outcome.worst = Some(Worst { ratio, needed, painted, states });
                }
            }
        }
    }
    outcome
}
