//! `contrast/text`: text can be read on everything painted behind it.

use super::paint::{self, Painted, Pixel, TextPlace, contrast, hex};
use super::relevance::Reads;
use super::run::{Cause, Failure, Seen, Sink};
use super::trace::Origin;
use super::{Check, Inspection, Shown};
use crate::case::Look;
use crate::css::Unknown;
use crate::css::color::Absolute;
use crate::css::property::Longhand as L;
use crate::css::serialize::number;
use crate::diagnostic::{Diagnostic, Level};
use crate::engine::Style;
use crate::manifest::Conformance;
use crate::source::Span;
use crate::system::{StateSet, System};
use crate::tokens::{Theme, Token, TokenValue, Tokens};
use color::ColorSpaceTag as Space;

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/text",
    summary: "text on everything painted behind it has a contrast of at least 4.5:1, large text 3:1",
    source: "WCAG 2.2, 1.4.3 Contrast (Minimum) and 1.4.6 Contrast (Enhanced)",
    level: Level::Error,
    reads: Reads::Text(&READS),
    run,
};

/// Everything that [`paint`] and the sizes of WCAG ask for.
const READS: [L; 15] = [
    L::Color,
    L::ColorScheme,
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackdropFilter,
    L::Content,
    L::Display,
    L::Filter,
    L::FontSize,
    L::FontWeight,
    L::MixBlendMode,
    L::Opacity,
    L::Position,
    L::TextShadow,
    L::Visibility,
];

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        if is_inactive(inspection.system, shown.states) {
            sink.decided(CHECK.id, shown.stands_for);
            continue;
        }
        let mut unknown = None;
        for place in paint::text_places(shown.look) {
            match paint::paint(shown.look, &place) {
                Ok(painted) => judge(inspection, shown, &place, &painted, sink),
                Err(reason) => unknown = unknown.or(Some(reason)),
            }
        }
        match unknown {
            None => sink.decided(CHECK.id, shown.stands_for),
            Some(reason) => sink.unknown(CHECK.id, shown.stands_for, reason),
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

fn judge(inspection: &Inspection, shown: &Shown, place: &TextPlace, painted: &[Painted], sink: &mut Sink) {
    let (states, look) = (shown.states, shown.look);
    let Some(style) = look.styles.element(place.node) else { return };
    let needed = needed(inspection.system.manifest.conformance, style);
    // An inherited colour was declared further out.
    let declared = place.chain.iter().rev().filter_map(|node| look.styles.element(*node));
    let declared = declared.into_iter().find(|style| style.winner(L::Color).is_some()).unwrap_or(style);
    let text = inspection.tracer.origin(declared, L::Color);
    let mut worst: Option<(f64, &Painted)> = None;
    for one in painted {
        let ratio = contrast(one.text, one.behind);
        if let Some((span, _)) = text.token() {
            sink.see(*span, Seen { behind: one.behind, needed, opaque: one.opaque });
        }
        if worst.is_none_or(|(known, _)| ratio < known) {
            worst = Some((ratio, one));
        }
    }
    let Some((ratio, painted)) = worst.filter(|(ratio, _)| *ratio < needed) else { return };
    let behind = background_origin(inspection, look, place, painted.surface);
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let figure = format!("{:.2}:1", floor(ratio));
    let message =
        format!("{} on {} is {figure} in {theme}, text needs {}:1", text.name(), behind.name(), number(needed));
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, text.span().or(behind.span()), message).label(format!(
        "{} on {}: {figure}",
        hex(painted.text),
        hex(painted.behind)
    ));
    let backdrop = behind.tokens.first().map(|(span, _)| *span).or(behind.declaration);
    if let Some(span) = backdrop.filter(|span| Some(*span) != diagnostic.span) {
        diagnostic = diagnostic.related(span, "the background");
    }
    if let Some(span) = text.declaration.filter(|span| Some(*span) != diagnostic.span) {
        diagnostic = diagnostic.related(span, "the text");
    }
    sink.fail(Failure {
        check: CHECK.id,
        cause: Cause {
            // States mix the background with more and more of something; that is one fault, not several.
            spans: text.tokens.iter().chain(behind.tokens.first()).map(|(span, _)| Some(*span)).collect(),
            words: String::new(),
        },
        case: inspection.case_name(states),
        cases: shown.stands_for,
        score: ratio / needed,
        figures: format!("{figure}, needs {}:1", number(needed)),
        diagnostic,
    });
}

/// Two decimals, rounded down: 4.496 must not read as 4.50.
fn floor(ratio: f64) -> f64 {
    (ratio * 100.0).floor() / 100.0
}

/// Where the backgrounds that show behind the text came from, the topmost first.
fn background_origin(inspection: &Inspection, look: &Look, place: &TextPlace, surface: usize) -> Origin {
    let mut origin = Origin::default();
    for node in place.chain.iter().rev() {
        let Some(style) = look.styles.element(*node) else { continue };
        let alpha = style.used_color(L::BackgroundColor).map_or(0.0, |color| color.alpha);
        if alpha > 0.0 {
            origin = origin.and(inspection.tracer.origin(style, L::BackgroundColor));
        }
        if alpha == 1.0 {
            return origin;
        }
    }
    let node = look.surfaces.get(surface).copied();
    let text = node.and_then(|n| look.document.element(n)).and_then(|e| e.attribute("style")).unwrap_or_default();
    match node.and_then(|node| look.styles.element(node)) {
        Some(_) if inspection.system.surfaces.is_empty() => origin.and(Origin::page()),
        Some(style) => origin.and(inspection.tracer.text_origin(style, text)),
        None => origin,
    }
}

/// The mend: another token that passes on every background this one was seen on, for an alias; for a colour of its
/// own, its hue at the nearest lightness that passes.
pub(super) fn mend(system: &System, token: Span, seen: &[Seen]) -> Option<String> {
    let tokens = &system.tokens;
    let (found, definition) =
        tokens.list.iter().flat_map(|t| t.definitions().map(move |d| (t, d))).find(|(_, d)| d.span == token)?;
    let places = match seen.len() {
        1 => "the background it is used on".to_owned(),
        n => format!("all {n} backgrounds it is used on"),
    };
    let theme = theme_of(tokens, found, token);
    let color = parse(&tokens.literal_expression(&definition.expression, &theme)?)?;
    if !seen.iter().all(|s| s.opaque) {
        return Some(format!(
            "give `{}` more contrast, or raise the alpha or opacity that it is painted with",
            found.path
        ));
    }
    // A browser paints whole 8-bit channels: what is written must pass as painted.
    let ratio = |pixel: Pixel| {
        let pixel = pixel.map(|c| (c * 255.0).round() / 255.0);
        seen.iter().map(|s| contrast(pixel, s.behind) / s.needed).fold(f64::INFINITY, f64::min)
    };
    if let TokenValue::Alias(_) = definition.value {
        let others =
            tokens.list.iter().filter(|t| matches!(t.base.as_ref().map(|d| &d.value), Some(TokenValue::Color { .. })));
        let passing = others.filter_map(|t| {
            let other = parse(&t.base.as_ref()?.expression.write(&mut |_| String::new(), &mut |l| l.to_owned()))?;
            (other.alpha == 1.0 && ratio(other.srgb()) >= 1.0).then(|| (distance(&color, &other), t))
        });
        if let Some((_, near)) = passing.min_by(|a, b| a.0.total_cmp(&b.0)) {
            return Some(format!("write `{{{}}}` for `{}`: it passes on {places}", near.path, found.path));
        }
    }
    let [lightness, chroma, hue] = color.to(Space::Oklch).components.map(|c| c.unwrap_or(0.0));
    // A thousandth is finer than an 8-bit channel.
    let lightness = (0..=1000)
        .flat_map(|step| [lightness + f64::from(step) / 1000.0, lightness - f64::from(step) / 1000.0])
        .find(|l| (0.0..=1.0).contains(l) && ratio(in_gamut(*l, chroma, hue)) >= 1.0);
    Some(match lightness {
        Some(l) => format!(
            "give `{}` a lightness of {} ({}): it passes on {places}",
            found.path,
            number((l * 1000.0).round() / 1000.0),
            hex(in_gamut(l, chroma, hue)),
        ),
        None => format!("no lightness of `{}` passes on {places}: change a background", found.path),
    })
}

/// A theme in which this definition holds.
fn theme_of(tokens: &Tokens, token: &Token, definition: Span) -> Theme {
    let mut theme = tokens.default_theme();
    for o in &token.overrides {
        if let Some(context) = o.contexts.iter().position(|d| d.as_ref().is_some_and(|d| d.span == definition)) {
            theme.contexts[o.modifier] = context;
        }
    }
    theme
}

/// Distance in OKLab.
fn distance(a: &Absolute, b: &Absolute) -> f64 {
    let (a, b) = (a.to(Space::Oklab).components, b.to(Space::Oklab).components);
    (0..3).map(|i| (a[i].unwrap_or(0.0) - b[i].unwrap_or(0.0)).powi(2)).sum::<f64>().sqrt()
}

fn parse(css: &str) -> Option<Absolute> {
    match crate::css::color::parse(&mut cssparser::Parser::new(css)).ok()? {
        crate::css::color::Color::Absolute(absolute) => Some(absolute),
        _ => None,
    }
}

/// The colour as sRGB, with as much of its chroma as fits into the gamut.
fn in_gamut(lightness: f64, chroma: f64, hue: f64) -> Pixel {
    let at = |chroma: f64| {
        let color = Absolute {
            space: Space::Oklch,
            components: [Some(lightness), Some(chroma), Some(hue)],
            alpha: 1.0,
            legacy: false,
        };
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

/// The text of a look that has the least contrast for what it needs, over all surfaces.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Worst {
    /// The text's pixel.
    pub text: Pixel,
    /// The pixel behind it.
    pub behind: Pixel,
    ratio: f64,
    needed: f64,
}

/// The worst text in a look; nothing where none is painted.
///
/// # Errors
/// The reason why it cannot be known.
pub fn worst_text(system: &System, look: &Look) -> Result<Option<Worst>, Unknown> {
    let mut worst: Option<Worst> = None;
    for place in paint::text_places(look) {
        let painted = paint::paint(look, &place)?;
        let Some(style) = look.styles.element(place.node) else { continue };
        let needed = needed(system.manifest.conformance, style);
        for one in painted {
            let ratio = contrast(one.text, one.behind);
            if worst.is_none_or(|known| ratio / needed < known.ratio / known.needed) {
                worst = Some(Worst { text: one.text, behind: one.behind, ratio, needed });
            }
        }
    }
    Ok(worst)
}

/// The figure of the worst text in a look, over all surfaces.
pub fn figure(system: &System, look: &Look, states: &StateSet) -> Figure {
    let worst = match worst_text(system, look) {
        Ok(Some(worst)) => worst,
        Ok(None) => return Figure::NoText,
        Err(reason) => return Figure::Unknown(reason.0),
    };
    let ratio = format!("{:.2}", floor(worst.ratio));
    let needed = number(worst.needed);
    if is_inactive(system, states) {
        Figure::Exempt { ratio }
    } else if worst.ratio < worst.needed {
        Figure::Fails { ratio, needed }
    } else {
        Figure::Passes { ratio, needed }
    }
}

/// WCAG 1.4.3 asks nothing of inactive controls.
fn is_inactive(system: &System, states: &StateSet) -> bool {
    states.ids().iter().any(|id| system.states.get(*id).name == "disabled")
}
