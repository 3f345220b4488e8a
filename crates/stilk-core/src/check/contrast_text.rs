//! `contrast/text`: text can be read on everything painted behind it.

use super::paint::{self, Painted, Pixel, TextPlace, contrast, hex};
use super::run::{Cause, Failure, Seen, Sink};
use super::{Check, Inspection};
use crate::case::Look;
use crate::css::color::Absolute;
use crate::css::property::Longhand as L;
use crate::css::serialize::number;
use crate::diagnostic::{Diagnostic, Level};
use crate::manifest::Conformance;
use crate::source::Span;
use crate::engine::Style;
use crate::system::{StateSet, System};
use crate::tokens::TokenValue;
use color::ColorSpaceTag as Space;

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/text",
    summary: "text on everything painted behind it has a contrast of at least 4.5:1, large text 3:1",
    source: "WCAG 2.2, 1.4.3 Contrast (Minimum) and 1.4.6 Contrast (Enhanced)",
    level: Level::Error,
    run,
};

fn run(inspection: &Inspection, sink: &mut Sink) {
    for (index, (states, look)) in inspection.looks.iter().enumerate() {
        if is_inactive(inspection.system, states) {
            sink.decided(CHECK.id);
            continue;
        }
        let mut known = true;
        for place in paint::text_places(look) {
            match paint::paint(look, &place) {
                Ok(painted) => judge(inspection, index, &place, &painted, sink),
                Err(reason) => {
                    sink.unknown(CHECK.id, index, reason);
                    known = false;
                }
            }
        }
        if known {
            sink.decided(CHECK.id);
        }
    }
}

/// The ratio that text of a size and weight needs: large is 18pt, or 14pt and bold (WCAG 2.2, "large scale").
fn needed(conformance: Conformance, style: &Style) -> f64 {
    let px = style.px(L::FontSize).unwrap_or(0.0);
    let weight = style.get(L::FontWeight).ok().and_then(|w| w.as_number()).unwrap_or(400.0);
    const LARGE: f64 = 24.0;
    const LARGE_BOLD: f64 = 14.0 * 96.0 / 72.0;
    let large = px >= LARGE || (px >= LARGE_BOLD && weight >= 700.0);
    match (conformance, large) {
        (Conformance::Aa, false) | (Conformance::Aaa, true) => 4.5,
        (Conformance::Aa, true) => 3.0,
        (Conformance::Aaa, false) => 7.0,
    }
}

fn judge(inspection: &Inspection, index: usize, place: &TextPlace, painted: &[Painted], sink: &mut Sink) {
    let (states, look) = &inspection.looks[index];
    let Some(style) = look.styles.element(place.node) else { return };
    let needed = needed(inspection.system.manifest.conformance, style);
    let text = inspection.tracer.origin(style, L::Color);
    let mut worst: Option<(f64, &Painted)> = None;
    for one in painted {
        let ratio = contrast(one.text, one.behind);
        if let Some((span, _)) = &text.token {
            sink.see(*span, Seen { behind: one.behind, needed, opaque: one.opaque });
        }
        if worst.is_none_or(|(known, _)| ratio < known) {
            worst = Some((ratio, one));
        }
    }
    let Some((ratio, painted)) = worst.filter(|(ratio, _)| *ratio < needed) else { return };
    let behind = background_origin(inspection, look, place, painted.surface);
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let shown = format!("{:.2}:1", floor(ratio));
    let message = format!(
        "{} on {} is {shown} in {theme}, text needs {}:1",
        text.name(),
        behind.name(),
        number(needed)
    );
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, text.span().or(behind.span()), message)
        .label(format!("{} on {}: {shown}", hex(painted.text), hex(painted.behind)));
    if let Some((span, _)) = &behind.token {
        diagnostic = diagnostic.related(*span, "the background");
    }
    if let Some(span) = text.declaration {
        diagnostic = diagnostic.related(span, "the text is painted with it here");
    }
    sink.fail(Failure {
        check: CHECK.id,
        cause: Cause { spans: vec![text.span(), behind.span()], words: String::new() },
        case: inspection.case_name(states),
        score: ratio / needed,
        figures: format!("{shown}, needs {}:1", number(needed)),
        diagnostic,
    });
}

/// Two decimals, rounded down: 4.496 must not read as 4.50.
fn floor(ratio: f64) -> f64 {
    (ratio * 100.0).floor() / 100.0
}

/// Where the topmost background that shows behind the text came from.
fn background_origin(
    inspection: &Inspection,
    look: &Look,
    place: &TextPlace,
    surface: usize,
) -> super::trace::Origin {
    for node in place.chain.iter().rev() {
        if let Some(style) = look.styles.element(*node)
            && style.used_color(L::BackgroundColor).is_ok_and(|color| color.alpha > 0.0)
        {
            return inspection.tracer.origin(style, L::BackgroundColor);
        }
    }
    let node = look.surfaces.get(surface).copied();
    let text = node.and_then(|n| look.document.element(n)).and_then(|e| e.attribute("style")).unwrap_or_default();
    match node.and_then(|node| look.styles.element(node)) {
        Some(style) => inspection.tracer.reference_origin(style, text),
        None => super::trace::Origin { declaration: None, token: None },
    }
}

/// The mend: the token's own hue at the lightness nearest to it that passes on every background it was seen on.
pub(super) fn mend(system: &System, token: Span, seen: &[Seen]) -> String {
    let definition = system.tokens.list.iter().flat_map(|t| t.definitions().map(move |d| (t, d))).find(|(_, d)| d.span == token);
    let Some((found, definition)) = definition else { return "write a colour with more contrast".into() };
    let color = match &definition.value {
        TokenValue::Color { .. } => parse(&definition.expression.pieces),
        _ => None,
    };
    let Some(color) = color.filter(|_| seen.iter().all(|s| s.opaque)) else {
        return format!("refer to a colour with more contrast in `{}`, or change its background", found.path);
    };
    let oklch = color.to(Space::Oklch);
    let [lightness, chroma, hue] = oklch.components.map(|c| c.unwrap_or(0.0));
    let passes = |l: f64| {
        let pixel = in_gamut(l, chroma, hue);
        // A browser paints whole 8-bit channels: what is written must pass as painted.
        let pixel: Pixel = pixel.map(|c| (c * 255.0).round() / 255.0);
        seen.iter().all(|s| contrast(pixel, s.behind) >= s.needed)
    };
    // A thousandth is finer than an 8-bit channel.
    let found_lightness = (0..=1000)
        .flat_map(|step| [lightness + f64::from(step) / 1000.0, lightness - f64::from(step) / 1000.0])
        .find(|l| (0.0..=1.0).contains(l) && passes(*l));
    match found_lightness {
        Some(l) => {
            let pixel = in_gamut(l, chroma, hue);
            format!(
                "`{}` with a lightness of {} ({}) passes on all {} backgrounds it is used on",
                found.path,
                number((l * 1000.0).round() / 1000.0),
                hex(pixel),
                seen.len()
            )
        }
        None => format!(
            "no lightness of `{}` passes on all {} backgrounds it is used on: change a background",
            found.path,
            seen.len()
        ),
    }
}

fn parse(pieces: &[crate::tokens::Piece]) -> Option<Absolute> {
    let [crate::tokens::Piece::Text(css)] = pieces else { return None };
    match crate::css::color::parse(&mut cssparser::Parser::new(css)).ok()? {
        crate::css::color::Color::Absolute(absolute) => Some(absolute),
        _ => None,
    }
}

/// The colour as sRGB, with as much of its chroma as fits into the gamut.
fn in_gamut(lightness: f64, chroma: f64, hue: f64) -> Pixel {
    let at = |chroma: f64| {
        let color =
            Absolute { space: Space::Oklch, components: [Some(lightness), Some(chroma), Some(hue)], alpha: 1.0, legacy: false };
        color.to(Space::Srgb).components.map(|c| c.unwrap_or(0.0))
    };
    let fits = |pixel: &Pixel| pixel.iter().all(|c| (-1e-4..=1.0001).contains(c));
    if fits(&at(chroma)) {
        return at(chroma).map(|c| c.clamp(0.0, 1.0));
    }
    let (mut low, mut high) = (0.0, chroma);
    for _ in 0..24 {
        let middle = (low + high) / 2.0;
        if fits(&at(middle)) { low = middle } else { high = middle }
    }
    at(low).map(|c| c.clamp(0.0, 1.0))
}

/// The contrast of a look's text, for showing.
#[derive(Debug, Clone, PartialEq)]
pub enum Figure {
    /// It passes.
    Passes {
        /// The ratio, `7.21:1`.
        ratio: String,
        /// What is needed.
        needed: String,
    },
    /// It fails.
    Fails {
        /// The ratio.
        ratio: String,
        /// What is needed.
        needed: String,
    },
    /// Nothing is asked: the control is disabled.
    Exempt {
        /// The ratio.
        ratio: String,
    },
    /// It cannot be known.
    Unknown(&'static str),
    /// No text is painted.
    NoText,
}

/// The figure of the worst text in a look, over all surfaces.
pub fn figure(system: &System, look: &Look, states: &StateSet) -> Figure {
    let mut worst: Option<(f64, f64)> = None;
    for place in paint::text_places(look) {
        let painted = match paint::paint(look, &place) {
            Ok(painted) => painted,
            Err(reason) => return Figure::Unknown(reason.0),
        };
        let Some(style) = look.styles.element(place.node) else { continue };
        let needed = needed(system.manifest.conformance, style);
        for one in painted {
            let ratio = contrast(one.text, one.behind);
            if worst.is_none_or(|(r, n)| ratio / needed < r / n) {
                worst = Some((ratio, needed));
            }
        }
    }
    let Some((ratio, needed)) = worst else { return Figure::NoText };
    let shown = format!("{:.2}", floor(ratio));
    let needed_text = number(needed);
    if is_inactive(system, states) {
        Figure::Exempt { ratio: shown }
    } else if ratio < needed {
        Figure::Fails { ratio: shown, needed: needed_text }
    } else {
        Figure::Passes { ratio: shown, needed: needed_text }
    }
}

/// WCAG 1.4.3 asks nothing of inactive controls.
fn is_inactive(system: &System, states: &StateSet) -> bool {
    states.ids().iter().any(|id| system.states.get(*id).name == "disabled")
}
