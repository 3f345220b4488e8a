//! `geometry/corner`: round stays round at every size.

use crate::check::relevance::Reads;
use crate::check::sink::{Cause, Fault, Sink};
use crate::check::visible::element_name;
use crate::check::{Check, Example, Inspection, Of, Scope};
use crate::css::Unknown;
use crate::css::property::Longhand as L;
use crate::css::serialize::number;
use crate::css::value::Value;
use crate::diagnostic::{Diagnostic, Level};
use crate::engine::Style;

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/corner",
    summary: "a pill or a circle stays one at every size",
    why: "`border-radius: 50px` is a pill until the text is enlarged or wraps: then the ends go flat.",
    source: "CSS Backgrounds and Borders 3, 4.5 (overlapping curves); WCAG 2.2, 1.4.4 Resize Text",
    level: Level::Warning,
    mend: "Write `calc(infinity * 1px)` for a pill, `50%` for a circle or an ellipse.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; padding: {gap}; border: 0; line-height: 20px;\n  border-radius: 50px;\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; padding: {gap}; border: 0; line-height: 20px;\n  border-radius: calc(infinity * 1px);\n}\n",
    ),
    scope: Scope::Options(Reads::Values(&READS, &[]), Of::Any, run),
};

const READS: [L; 10] = [
    L::BorderTopLeftRadius,
    L::Height,
    L::BoxSizing,
    L::LineHeight,
    L::FontSize,
    L::PaddingTop,
    L::PaddingBottom,
    L::BorderTopWidth,
    L::BorderBottomWidth,
    L::Display,
];

/// What no control is large enough for.
const ANY: f64 = 1000.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let mut unknown = None;
        for (_, node) in shown.look.mounted.elements() {
            let Some(style) = shown.look.styles.element(node) else { continue };
            let Some(radius) = radius(style).filter(|radius| *radius > 0.0 && *radius < ANY) else { continue };
            let is_text =
                shown.look.document.descendants(node).iter().any(|inner| shown.look.document.has_own_text(*inner));
            // A box of a fixed size stays as round as it is.
            let height = match line_box(style) {
                Ok(Some(height)) if is_text && radius * 2.0 >= height => height,
                Err(reason) if is_text => {
                    unknown = Some(reason);
                    continue;
                }
                _ => continue,
            };
            let place = inspection.tracer.origin(style, L::BorderTopLeftRadius);
            let control = &inspection.unit.control.name;
            let name = element_name(shown.look, node, None);
            let message = format!(
                "{name} of `{}` is a pill at {}px, but its corners of {}px end where the text grows to two lines",
                control.value,
                number(height),
                number(radius)
            );
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.declaration.unwrap_or(control.span), message)
                .label("round only as long as it is low")
                .mend("write `calc(infinity * 1px)`: a pill at every size");
            let cause = Cause { spans: vec![place.declaration], words: String::new() };
            let figures = format!("{}px corners on {}px", number(radius), number(height));
            sink.fail(inspection, shown, Fault { cause, score: radius, figures, diagnostic });
        }
        sink.verdict(CHECK.id, shown.stands_for, unknown);
    }
}

fn radius(style: &Style) -> Option<f64> {
    match style.get(L::BorderTopLeftRadius).ok()? {
        Value::Words(words) => words.first()?.as_px(),
        other => other.as_px(),
    }
}

/// The height of a box with one line of text, where it has no fixed one.
fn line_box(style: &Style) -> Result<Option<f64>, Unknown> {
    if !style.is(L::Height, "auto") {
        return Ok(None);
    }
    let line = match style.get(L::LineHeight)? {
        Value::Number(n) => n * style.px(L::FontSize)?,
        other => other.as_px().ok_or(Unknown("a normal line height needs the metrics of the font"))?,
    };
    let edges = [L::PaddingTop, L::PaddingBottom, L::BorderTopWidth, L::BorderBottomWidth];
    Ok(Some(line + edges.iter().map(|edge| style.px(*edge)).sum::<Result<f64, _>>()?))
}
