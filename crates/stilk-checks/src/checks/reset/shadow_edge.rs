//! `reset/shadow-edge`: shadows of no extent, whose smoothed edge one engine paints.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::{Inspection, Shown};
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::value::Value;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "reset/shadow-edge",
    summary: "a shadow of a rounded box has an extent, or no colour",
    why: "A shadow without offset, blur and spread lies exactly under its box, and is not to be seen. Firefox smooths its \
          edge all the same: four faint arcs stand at the corners.",
    source: "pixels measured in Chromium, Firefox and WebKitGTK (docs/painting.md); CSS Backgrounds 3, 6.1",
    level: Level::Warning,
    mend: "Write `none`, or a transparent colour, for as long as the shadow has no extent.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; border-radius: 8px;\n  box-shadow: 0 0 0 0 {ink};\n  @state hover { box-shadow: 0 2px 0 0 {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; border-radius: 8px;\n  box-shadow: 0 0 0 0 transparent;\n  @state hover { box-shadow: 0 2px 0 0 {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).on_generated(READS), run)),
};

const CORNERS: [L; 4] =
    [L::BorderTopLeftRadius, L::BorderTopRightRadius, L::BorderBottomRightRadius, L::BorderBottomLeftRadius];

const READS: LonghandSet = LonghandSet::of(&CORNERS).and(&[
    L::BoxShadow,
    L::Color,
    L::ColorScheme,
    L::Content,
    L::Display,
    L::Opacity,
    L::Visibility,
]);

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let mut unknown = None;
        for (_, node) in shown.look.mounted.elements() {
            for at in Styled::with_generated(node) {
                let Some(style) = shown.look.styles.of(at) else { continue };
                match ghost(style) {
                    Ok(Some(color)) => report(inspection, shown, at, color, sink),
                    Ok(None) => {}
                    Err(reason) => unknown = Some(reason),
                }
            }
        }
        match unknown {
            None => sink.decided(CHECK.id, shown.stands_for),
            Some(reason) => sink.unknown(CHECK.id, shown.stands_for, reason),
        }
    }
}

/// The colour of a shadow that has no extent, of a rounded box that is shown.
fn ghost(style: &Style) -> Result<Option<Absolute>, Unknown> {
    let Value::List(shadows) = style.get(L::BoxShadow)? else { return Ok(None) };
    let is_gone = |style: &Style| {
        style.is(L::Display, "none") || style.get(L::Opacity).is_ok_and(|opacity| opacity.as_number() == Some(0.0))
    };
    let mut around = std::iter::successors(Some(style), |style| style.parent().map(|parent| &**parent));
    let is_hidden = style.is(L::Visibility, "hidden") || style.is_empty_generated() || around.any(is_gone);
    if is_hidden || !is_round(style)? {
        return Ok(None);
    }
    for shadow in shadows {
        let Value::Words(words) = shadow else { continue };
        let [Value::Color(color), lengths @ ..] = words.as_slice() else { continue };
        let lengths = lengths.iter().filter(|word| !word.is("inset"));
        if lengths.into_iter().any(|length| length.as_px() != Some(0.0)) {
            continue;
        }
        let color = color.resolve(style.surroundings()).ok_or(Unknown("a colour is not modelled yet"))?;
        if color.alpha > 0.0 {
            return Ok(Some(color));
        }
    }
    Ok(None)
}

fn is_round(style: &Style) -> Result<bool, Unknown> {
    for corner in CORNERS {
        let is_square = match style.get(corner)? {
            Value::Words(words) => words.iter().any(|word| match word {
                Value::Length(length) => length.px == 0.0 && length.percent == 0.0,
                _ => false,
            }),
            _ => true,
        };
        if !is_square {
            return Ok(true);
        }
    }
    Ok(false)
}

fn report(inspection: &Inspection, shown: &Shown, at: Styled, color: Absolute, sink: &mut Sink) {
    let Some(style) = shown.look.styles.of(at) else { return };
    let control = &inspection.unit.control.name;
    let name = element_name(shown.look, at);
    let place = inspection.tracer.origin(style, L::BoxShadow).declaration;
    let message = format!("a shadow of {name} of `{}` has no extent: in Firefox its edge shows", control.value);
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
        .label("without offset, blur and spread")
        .mend("write `none` or a transparent colour where it has none");
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
    let figures = "an edge of no width".to_owned();
    sink.fail(
        inspection,
        shown,
        Fault { cause, score: -color.alpha, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
    );
}
