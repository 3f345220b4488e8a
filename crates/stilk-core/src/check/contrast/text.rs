//! `contrast/text`: text can be read on everything painted behind it.

use crate::case::Look;
use crate::check::geometry::SIZES;
use crate::check::paint::{self, Painted, Pixel, TextPlace, contrast, hex};
use crate::check::relevance::{Reads, joined};
use crate::check::sink::{Cause, Fault, Sink};
use crate::check::trace::Origin;
use crate::check::{Check, Example, Inspection, Of, Scope, Shown, has_state};
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::serialize::number;
use crate::diagnostic::{Diagnostic, Level};
use crate::dom::NodeId;
use crate::engine::Style;
use crate::manifest::Conformance;
use crate::system::{StateSet, System};
use std::cell::LazyCell;

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/text",
    summary: "text on everything painted behind it has a contrast of at least 4.5:1, large text 3:1",
    why: "Text with too little contrast cannot be read by people with low vision, by anybody in the sun, or on a bad \
          screen. One theme, one state or one variant is enough to lose them.",
    source: "WCAG 2.2, 1.4.3 Contrast (Minimum) and 1.4.6 Contrast (Enhanced)",
    level: Level::Error,
    mend: "Give the text's token, or the background's, another lightness. Stilk computes the nearest one that passes on \
           every background that the token is used on.",
    fails: Example::sheet("@control button {\n  background: {mist}; color: {paper};\n}\n"),
    passes: Example::sheet("@control button {\n  background: {mist}; color: {ink};\n}\n"),
    scope: Scope::Looks(Reads::Values(&READS, &GENERATED), Of::Any, run),
};

/// Everything that [`paint`] and the sizes of WCAG ask for.
pub(super) const READS: [L; 18] = [
    L::Color,
    L::ColorScheme,
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackgroundSize,
    L::BackdropFilter,
    L::BoxShadow,
    L::Scale,
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

/// The checks that read these.
pub(in crate::check) const IDS: [&str; 2] = [CHECK.id, "contrast/pairs"];

/// What they read where a part of a gradient lies under the text: sizes as well.
pub(in crate::check) const READS_OF_SPLIT: Reads = Reads::Values(&WITH_SIZES, &GENERATED);

const WITH_SIZES: [L; READS.len() + SIZES.len() + 1] =
    joined(joined::<18, { SIZES.len() }, { READS.len() + SIZES.len() }>(READS, SIZES), [L::BackgroundOrigin]);

/// Where a generated box lies decides whether it covers text.
pub(super) const GENERATED: [L; 6] = [L::Bottom, L::Left, L::Right, L::Top, L::Transform, L::ZIndex];

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        if is_inactive(inspection.system, shown.states) {
            sink.decided(CHECK.id, shown.stands_for);
            continue;
        }
        judge_all(&CHECK, inspection, shown, &paint::text_places(shown.look), sink);
    }
}

/// Judges the texts of a look.
pub(super) fn judge_all(
    check: &'static Check,
    inspection: &Inspection,
    shown: &Shown,
    places: &[TextPlace],
    sink: &mut Sink,
) {
    let mut unknown = None;
    for place in places {
        let Some(style) = place.style(shown.look) else {
            unknown = unknown.or(Some(Unknown("each browser has a colour of its own for placeholders")));
            continue;
        };
        let needed = needed(inspection.system.manifest.conformance, style);
        match paint::paint(shown.look, place, needed, inspection.sizes) {
            Ok(painted) => judge(check, inspection, shown, place, (&painted, needed), sink),
            Err(reason) => unknown = unknown.or(Some(reason)),
        }
    }
    match unknown {
        None => sink.decided(check.id, shown.stands_for),
        Some(reason) => sink.unknown(check.id, shown.stands_for, reason),
    }
}

/// The ratio that text of a size and weight needs: large is 18pt, or 14pt and bold (WCAG 2.2, "large scale").
pub(crate) fn needed(conformance: Conformance, style: &Style) -> f64 {
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

fn judge(
    check: &'static Check,
    inspection: &Inspection,
    shown: &Shown,
    place: &TextPlace,
    (painted, needed): (&[Painted], f64),
    sink: &mut Sink,
) {
    let look = shown.look;
    let Some(style) = place.style(look) else { return };
    // An inherited colour was declared further out.
    let declared = place.chain.iter().rev().filter_map(|node| look.styles.element(*node));
    let declared = place.pseudo.map(|_| style).into_iter().chain(declared);
    let declared = declared.into_iter().find(|style| style.winner(L::Color).is_some()).unwrap_or(style);
    // Most texts pass, and nobody asks where their colour comes from.
    let text = LazyCell::new(|| inspection.tracer.origin(declared, L::Color));
    let mut worst: Option<(f64, &Painted)> = None;
    for one in painted {
        let ratio = contrast(one.text, one.behind);
        if sink.gathers() {
            let behind = background_origin(inspection, look, &place.chain, one.surface);
            sink.meet(inspection, shown, [(one.text, &text), (one.behind, &behind)], needed);
        }
        if worst.is_none_or(|(known, _)| ratio < known) {
            worst = Some((ratio, one));
        }
    }
    let Some((ratio, painted)) = worst.filter(|(ratio, _)| *ratio < needed) else { return };
    let behind = background_origin(inspection, look, &place.chain, painted.surface);
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let figure = format!("{:.2}:1", floor(ratio));
    let message =
        format!("{} on {} is {figure} in {theme}, text needs {}:1", text.name(), behind.name(), number(needed));
    let mut diagnostic = Diagnostic::new(check.level, check.id, text.span().or(behind.span()), message).label(format!(
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
    let cause = Cause {
        // States mix the background with more and more of something; that is one fault, not several.
        spans: text.tokens.iter().chain(behind.tokens.first()).map(|(span, _)| Some(*span)).collect(),
        words: String::new(),
    };
    let figures = format!("{figure}, needs {}:1", number(needed));
    sink.fail(inspection, shown, Fault { cause, score: ratio / needed, figures, diagnostic });
}

/// A ratio to two decimals, rounded down: 4.496 must not read as 4.50.
pub fn floor(ratio: f64) -> f64 {
    (ratio * 100.0).floor() / 100.0
}

/// Where the backgrounds that show behind the text came from, the topmost first.
pub(super) fn background_origin(inspection: &Inspection, look: &Look, chain: &[NodeId], surface: usize) -> Origin {
    let mut origin = Origin::default();
    for node in chain.iter().rev() {
        let Some(style) = look.styles.element(*node) else { continue };
        if paint::is_covered(style) == Ok(true) {
            return origin.and(inspection.tracer.origin(style, L::BackgroundImage));
        }
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

impl Worst {
    /// The ratio, 1 to 21.
    pub fn ratio(&self) -> f64 {
        self.ratio
    }

    /// The ratio that it needs.
    pub fn needed(&self) -> f64 {
        self.needed
    }

    /// Whether it has what it needs.
    pub fn passes(&self) -> bool {
        self.ratio >= self.needed
    }
}

/// The worst text in a look; nothing where none is painted.
///
/// # Errors
/// The reason why it cannot be known.
pub fn worst_text(system: &System, look: &Look) -> Result<Option<Worst>, Unknown> {
    let mut worst: Option<Worst> = None;
    for place in paint::text_places(look) {
        let Some(style) = place.style(look) else { continue };
        let needed = needed(system.manifest.conformance, style);
        let painted = paint::paint(look, &place, needed, paint::Sizes::Known)?;
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
pub(crate) fn is_inactive(system: &System, states: &StateSet) -> bool {
    has_state(system, states, "disabled")
}
