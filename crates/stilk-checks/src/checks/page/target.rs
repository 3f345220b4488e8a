//! `page/target`: what is pressed on a page is large enough there.

use crate::check::{Check, Scope};
use crate::checks::page::place::{Places, likeness};
use crate::example::Example;
use crate::painted::pressed::pressed;
use crate::visit::{PageSink, VisitedPage};
use std::collections::HashMap;
use stilk_engine::cascade::Styled;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::dom::NodeId;
use stilk_engine::layout::LaidOutBox;
use stilk_language::case::{Look, ROOM};
use stilk_language::manifest::Conformance;
use stilk_text::diagnostic::{Diagnostic, Level};

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

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    if visit.instances.is_empty() {
        return;
    }
    let least = match visit.system.manifest.conformance {
        Conformance::Aa => 24.0,
        Conformance::Aaa => 44.0,
    };
    let places = Places::new(visit);
    let mut known: HashMap<(u64, String), [Result<f64, Unknown>; 2]> = HashMap::new();
    for instance in visit.instances {
        // What the page leaves alone the system's own check has seen.
        let is_touched = instance.elements().any(|(_, node)| {
            visit.styles.element(node).is_some_and(|style| {
                let foreign = style.set_in(|sheet| !visit.is_of_system(sheet));
                SIZES.iter().any(|longhand| {
                    foreign.has(*longhand) && style.winner(*longhand).is_some_and(|id| visit.is_foreign(id))
                })
            })
        });
        let kind = stilk_language::case::ControlKind::of(&visit.system.controls[instance.control]);
        if !is_touched || kind == stilk_language::case::ControlKind::Other {
            sink.decided(CHECK.id, 1);
            continue;
        }
        let Some(node) = pressed(visit.document(), instance.node, instance.bearer) else { continue };
        let key = (likeness(visit, instance), visit.text(instance.node));
        let [width, height] = *known.entry(key).or_insert_with(|| size(&places.look(instance, &[]), node));
        let is_entry = ["input", "select", "textarea"].contains(&visit.local(node));
        match (height, width) {
            (Err(reason), _) => sink.unknown(CHECK.id, 1, reason),
            (Ok(_), Err(reason)) if !is_entry => sink.unknown(CHECK.id, 1, reason),
            (Ok(height), width) => {
                sink.decided(CHECK.id, 1);
                // Browsers make fields wider than any target where nobody says how wide.
                let width = width.unwrap_or(least);
                let is_small = |side: f64| side > 0.0 && side < least - 0.02;
                let (side, px) = match (is_small(height), is_small(width)) {
                    (true, _) => ("high", height),
                    (false, true) => ("wide", width),
                    (false, false) => continue,
                };
                let name = instance.name(visit.system);
                let shown = number((px * 10.0).round() / 10.0);
                let message = format!("`{name}` is {shown}px {side} here, a target needs {}px", number(least));
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

/// Width and height of an element in px.
fn size(look: &Look, node: NodeId) -> [Result<f64, Unknown>; 2] {
    // Whether the font decides does not matter here.
    let layout = look.layout_in(ROOM);
    let layout = layout.as_ref().map_err(|reason| *reason);
    let placed = layout.and_then(|layout| layout.of(Styled::element(node)).ok_or(Unknown("it has no box")));
    [placed.and_then(LaidOutBox::width), placed.and_then(LaidOutBox::height)]
}

/// What decides how large a control is.
const SIZES: [L; 13] = [
    L::PaddingLeft,
    L::PaddingRight,
    L::Width,
    L::MinWidth,
    L::MaxWidth,
    L::PaddingTop,
    L::PaddingBottom,
    L::Height,
    L::MinHeight,
    L::MaxHeight,
    L::FontSize,
    L::LineHeight,
    L::Display,
];
