//! `contrast/text`: text can be read on everything painted behind it.

use crate::check::{Check, Looks, Scope};
use crate::choice::choice;
use crate::example::Example;
use crate::gather::Met;
use crate::inspection::{Inspection, Shown};
use crate::painted::drawn::DRAWN;
use crate::painted::origin::background_origin;
use crate::painted::paint::{self, Painted, TextPlace, contrast, floor, hex};
use crate::painted::text::{is_inactive, needed};
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use std::cell::LazyCell;
use stilk_engine::cascade::{LonghandSet, Style};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

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
    scope: Scope::Looks(
        Looks::new(Reads::values(READS).on_generated(GENERATED).with_large_text(), run).where_split(WHERE_SPLIT),
    ),
};

/// Everything that [`paint`] and the sizes of WCAG ask for.
pub(super) const READS: LonghandSet = LonghandSet::of(&[
    L::Color,
    L::ColorScheme,
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackgroundSize,
    L::BackdropFilter,
    L::BoxShadow,
    L::Scale,
    L::Transform,
    L::ClipPath,
    L::Content,
    L::Display,
    L::Filter,
    L::FontSize,
    L::FontWeight,
    L::MixBlendMode,
    L::Opacity,
    L::Position,
    L::TextFillColor,
    L::TextShadow,
    L::Visibility,
]);

/// What is read where a part of a gradient lies under the text: sizes as well.
pub(super) const WHERE_SPLIT: Reads =
    Reads::boxes(READS.union(DRAWN).and(&[L::BackgroundOrigin])).on_generated(GENERATED);

/// Where a generated box lies decides whether it covers text.
pub(super) const GENERATED: LonghandSet =
    LonghandSet::of(&[L::Bottom, L::Left, L::Right, L::Top, L::Transform, L::ZIndex]);

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        if is_inactive(shown.states) {
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
    for place in places.iter().filter(|place| !place.is_inactive(shown.look)) {
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
    let declared = place.at.pseudo.map(|_| style).into_iter().chain(declared);
    let declared: Vec<&Style> = declared.map(|style| &**style).collect();
    let longhand = paint::text_color_longhand(declared.iter().copied());
    let declared = declared.into_iter().find(|style| style.winner(longhand).is_some()).unwrap_or(style);
    // Most texts pass, and nobody asks where their colour comes from.
    let text = LazyCell::new(|| inspection.tracer.origin(declared, longhand));
    let mut worst: Option<(f64, &Painted)> = None;
    for one in painted {
        let ratio = contrast(one.text, one.behind);
        if sink.gathers() {
            let behind = background_origin(inspection.tracer, look, &place.chain, one.surface);
            sink.meet(inspection, shown, &Met { sides: [(one.text, &text), (one.behind, &behind)], needed });
        }
        if worst.is_none_or(|(known, _)| ratio < known) {
            worst = Some((ratio, one));
        }
    }
    let Some((ratio, painted)) = worst.filter(|(ratio, _)| *ratio < needed) else { return };
    let behind = background_origin(inspection.tracer, look, &place.chain, painted.surface);
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
    // States mix the background with more and more of something; that is one fault, not several.
    let mut spans: Vec<Option<Span>> =
        text.tokens.iter().chain(behind.tokens.first()).map(|(span, _)| Some(*span)).collect();
    // On pages most colours are no tokens: they are told apart by where they are written.
    if inspection.tracer.is_of_page() {
        spans.extend([&text, &behind].into_iter().filter(|side| side.tokens.is_empty()).map(|side| side.declaration));
    }
    let cause = Cause { spans, words: String::new() };
    let figures = format!("{figure}, needs {}:1", number(needed));
    let choice = choice(inspection, [&text, &behind], &paint::styles_of(look, &place.chain));
    sink.fail(
        inspection,
        shown,
        Fault { cause, score: ratio / needed, figures, diagnostic, mend: MendKind::AnotherColor, choice },
    );
}
