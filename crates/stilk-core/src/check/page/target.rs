//! `page/target`: what is pressed on a page is large enough there.

use super::place::Places;
use crate::check::geometry::target::target;
use crate::check::{Check, Example, Scope};
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::serialize::number;
use crate::diagnostic::{Diagnostic, Level};
use crate::manifest::Conformance;
use crate::scan::{PageSink, Visit};

/// The check.
pub const CHECK: Check = Check {
    id: "page/target",
    summary: "a control is at least 24×24 CSS px on the page, 44×44 for AAA, with the page's own rules over it",
    why: "A reset of the page's takes the padding away, and with it the room to hit.",
    source: "WCAG 2.2, 2.5.8 Target Size (Minimum) and 2.5.5 Target Size (Enhanced)",
    level: Level::Error,
    mend: "Take the page's rule away, or load it in a layer before the system's stylesheet.",
    fails: Example::page(
        "<style>* { padding: 0 } .ex-button { font-size: 10px }</style><button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    passes: Example::page(
        "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>",
    ),
    scope: Scope::Page(run),
};

fn run(visit: &Visit, sink: &mut PageSink) {
    if visit.instances.is_empty() {
        return;
    }
    let least = match visit.system.manifest.conformance {
        Conformance::Aa => 24.0,
        Conformance::Aaa => 44.0,
    };
    let places = Places::new(visit);
    for instance in visit.instances {
        // What the page leaves alone the system's own check has seen.
        let is_touched = instance.elements().any(|(_, node)| {
            let style = visit.styles.element(node);
            style.is_some_and(|style| {
                SIZES.iter().any(|longhand| {
                    let foreign = style.winner(*longhand).and_then(|id| match id.is_inline() {
                        true => Some(true),
                        false => visit.sheet_of(id).map(|sheet| !sheet.is_system),
                    });
                    foreign == Some(true)
                })
            })
        });
        let kind = crate::case::ControlKind::of(&visit.system.controls[instance.control]);
        if !is_touched || kind == crate::case::ControlKind::Other {
            sink.decided(CHECK.id, 1);
            continue;
        }
        let look = places.look(instance, &[]);
        let Some(node) = target(&look) else { continue };
        let height = look.layout().and_then(|layout| layout.of(node, None).ok_or(Unknown("it has no box"))?.height());
        match height {
            Err(reason) => sink.unknown(CHECK.id, 1, reason),
            Ok(height) => {
                sink.decided(CHECK.id, 1);
                if height <= 0.0 || height >= least - 0.02 {
                    continue;
                }
                let name = instance.name(visit.system);
                let shown = number((height * 10.0).round() / 10.0);
                let message = format!("`{name}` is {shown}px high here, a target needs {}px", number(least));
                let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, visit.span(instance.node), message)
                    .label(format!("{shown}px"));
                let rule = visit
                    .styles
                    .element(node)
                    .and_then(|style| SIZES.iter().find_map(|longhand| visit.foreign_span(style.winner(*longhand)?)));
                // All that one rule makes too small is one fault.
                let cause = match rule {
                    Some(span) => format!("{} {}", visit.sources.place(span), visit.sources.text(span)),
                    None => format!("{name} {shown}"),
                };
                if let Some(span) = rule {
                    diagnostic = diagnostic.related(span, "the page's own rule");
                }
                sink.find(cause, diagnostic);
            }
        }
    }
}

/// What decides how high a control is.
const SIZES: [L; 8] =
    [L::PaddingTop, L::PaddingBottom, L::Height, L::MinHeight, L::MaxHeight, L::FontSize, L::LineHeight, L::Display];
