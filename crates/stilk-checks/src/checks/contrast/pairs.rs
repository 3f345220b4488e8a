//! Which colours meet: no check, but a list of what there is.

use crate::check::{Looks, Scope, Task};
use crate::checks::contrast::text::{GENERATED, READS, WHERE_SPLIT};
use crate::inspection::Inspection;
use crate::painted::origin::background_origin;
use crate::painted::paint::{self, contrast};
use crate::painted::text::{is_inactive, needed};
use crate::relevance::reads::Reads;
use crate::sink::{Pair, Sink};
use stilk_engine::css::property::Longhand as L;
use stilk_language::system::System;
use stilk_language::tokens::{Theme, Token, TokenType};

/// Collects the pairs of text and background.
pub const PAIRS: Task = Task {
    id: "contrast/pairs",
    scope: &Scope::Looks(
        Looks::new(Reads::values(READS).on_generated(GENERATED).with_large_text(), run).where_split(WHERE_SPLIT),
    ),
};

/// A theme by the contexts that change colours: a density is no theme of its own here.
fn colors_of(system: &System, theme: &Theme) -> String {
    let tokens = &system.tokens;
    let changes = |index: usize| {
        let is_color = |token: &&Token| token.kind.is_none_or(|kind| kind == TokenType::Color);
        tokens.list.iter().filter(is_color).any(|token| token.overrides.iter().any(|o| o.modifier == index))
    };
    let names = tokens.modifiers.iter().zip(&theme.contexts).enumerate();
    let names =
        names.filter(|(index, _)| changes(*index)).map(|(_, (modifier, context))| modifier.contexts[*context].as_str());
    let names: Vec<&str> = names.collect();
    if names.is_empty() { "every theme".into() } else { names.join(" ") }
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    let system = inspection.system;
    let theme = colors_of(system, &inspection.unit.theme);
    for shown in inspection.looks.iter().filter(|shown| !is_inactive(shown.states)) {
        let look = shown.look;
        let places = paint::text_places(look).into_iter().chain(paint::placeholder_places(look));
        for place in places {
            let Some(style) = place.style(look) else { continue };
            let needed = needed(system.manifest.conformance, style);
            let Ok(painted) = paint::paint(look, &place, needed, inspection.sizes) else { continue };
            for one in painted {
                let pair = Pair {
                    theme: theme.clone(),
                    text: inspection.tracer.color_origin(style, L::Color).name(),
                    on: background_origin(inspection.tracer, look, &place.chain, one.surface).name(),
                    text_pixel: one.text,
                    behind: one.behind,
                    ratio: contrast(one.text, one.behind),
                    needed,
                    cases: 0,
                    worst: inspection.case_name(shown.states),
                };
                sink.pair(shown.stands_for, pair);
            }
        }
    }
}
