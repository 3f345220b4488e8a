//! `geometry/corner`: round stays round at every size, and round boxes fit into each other.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::{Inspection, Shown};
use crate::mend::length::Sum;
use crate::painted::drawn::PAINTED;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, PseudoElement, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::css::value::{LengthPercentage, Value};
use stilk_engine::dom::NodeId;
use stilk_engine::layout::Known;
use stilk_language::case::Look;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/corner",
    summary: "a pill or a circle stays one at every size, and corners within corners share a centre",
    why: "`border-radius: 20px` is a pill until the text is enlarged or wraps: then the ends go flat. And a box \
          within a box looks crooked where both have the same corners.",
    source: "CSS Backgrounds and Borders 3, 4.5 (overlapping curves); WCAG 2.2, 1.4.4 Resize Text",
    level: Level::Warning,
    mend: "Write `calc(infinity * 1px)` for a pill, `50%` for a circle or an ellipse; give an inner corner the outer one less the gap.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; padding: {gap}; border: 0; line-height: 20px;\n  border-radius: 50px;\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; padding: {gap}; border: 0; line-height: 20px;\n  border-radius: calc(infinity * 1px);\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::boxes(READS).covering(), run).by_option()),
};

const READS: LonghandSet = PAINTED.and(&[L::BorderTopLeftRadius, L::LineHeight]);

/// What corners have to follow: text enlarged so many times (WCAG 2.2, 1.4.4), on so many lines.
const ENLARGED: f64 = 2.0;
const LINES: u32 = 3;

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let mut unknown = None;
        for (_, node) in shown.look.mounted.elements() {
            let Some(style) = shown.look.styles.element(node) else { continue };
            let Some(radius) = radius(style).filter(|radius| *radius > 0.0) else { continue };
            let is_text = grows_with_text(shown.look, node);
            // A box of a fixed size stays as round as it is.
            let (height, lines) = match growing_height(shown.look, node, radius) {
                Ok(Some((height, lines))) if is_text && radius * 2.0 >= height => (height, lines),
                Err(reason) if is_text => {
                    unknown = Some(reason);
                    continue;
                }
                _ => continue,
            };
            let place = inspection.tracer.origin(style, L::BorderTopLeftRadius);
            let control = &inspection.unit.control.name;
            let name = element_name(shown.look, Styled::element(node));
            let message = format!(
                "{name} of `{}` is a pill at {}px, but its corners of {}px end where text of twice the size takes {lines} lines",
                control.value,
                px(height),
                number(radius)
            );
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.declaration.unwrap_or(control.span), message)
                .label("round only as long as it is low")
                .mend("write `calc(infinity * 1px)`: a pill at every size")
                .edit(inspection.rewrite(style, L::BorderTopLeftRadius, radius, "calc(infinity * 1px)"));
            let cause = Cause { spans: vec![place.declaration], words: String::new() };
            let figures = format!("{}px corners on {}px", number(radius), px(height));
            sink.fail(
                inspection,
                shown,
                Fault { cause, score: radius, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
            );
        }
        if shown.states.is_rest()
            && let Err(reason) = nested(inspection, shown, sink)
        {
            unknown = unknown.or(Some(reason));
        }
        sink.verdict(CHECK.id, shown.stands_for, unknown);
    }
}

/// To a tenth of a pixel.
fn px(value: f64) -> String {
    number((value * 10.0).round() / 10.0)
}

/// By more than this the centres of two corners are apart, in px.
const APART: f64 = 1.0;

/// Corners one within the other share a centre where the inner one is less round by the gap between them.
fn nested(inspection: &Inspection, shown: &Shown, sink: &mut Sink) -> Result<(), Unknown> {
    let look = shown.look;
    for node in look.document.descendants(look.mounted.host) {
        for at in look.styles.boxes(node).filter(|at| at.pseudo.is_none_or(PseudoElement::is_generated)) {
            let Some((style, length)) = rounded(look, at)? else { continue };
            let above = std::iter::successors(Some(node), |at| {
                look.document.node(*at).parent.filter(|_| *at != look.mounted.host)
            });
            let mut around = None;
            for above in above.skip(usize::from(at.pseudo.is_none())) {
                around = rounded(look, Styled::element(above))?.map(|(_, length)| (above, length));
                if around.is_some() {
                    break;
                }
            }
            let Some((outer_node, outer)) = around else { continue };
            let (written, inner) = ((!length.has_percent).then_some(length.px), drawn(look, at, length)?);
            let outer = drawn(look, Styled::element(outer_node), outer)?;
            let [left, top, ..] = look.gaps(at, Styled::element(outer_node))?;
            let (left, top) = (f64::from(left), f64::from(top));
            let wanted = outer - left;
            // What stands further in than the corner reaches, or not in it at all, has corners of its own.
            if left < 0.0 || (left - top).abs() > 0.5 || wanted <= APART || (inner - wanted).abs() <= APART {
                continue;
            }
            let place = inspection.tracer.origin(style, L::BorderTopLeftRadius).declaration;
            let control = &inspection.unit.control.name;
            let name = element_name(look, at);
            let message = format!(
                "{name} of `{}` has corners of {}px, {}px within corners of {}px: they do not share a centre",
                control.value,
                px(inner),
                px(left),
                px(outer)
            );
            let css = place
                .and_then(|place| less_gap(inspection, look, (node, outer_node), place))
                .map(|sum| sum.css(wanted));
            let edit = written
                .zip(css.as_ref())
                .and_then(|(written, css)| inspection.rewrite(style, L::BorderTopLeftRadius, written, css));
            let css = css.unwrap_or_else(|| format!("{}px", px(wanted)));
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                .edit(edit)
                .label(if inner > wanted { "too round for its gap" } else { "not round enough for its gap" })
                .mend(format!("write `{css}`: the outer corner less the gap"));
            let cause = Cause { spans: vec![place.or(Some(control.span))], words: format!("nested {name}") };
            let figures = format!("{}px in {}px", px(inner), px(outer));
            sink.fail(
                inspection,
                shown,
                Fault {
                    cause,
                    score: -(inner - wanted).abs(),
                    figures,
                    diagnostic,
                    mend: MendKind::AsSaid,
                    choice: None,
                },
            );
        }
    }
    Ok(())
}

/// The outer corner less all paddings and borders between the boxes on the left, as the sheet at this place calls them.
fn less_gap(inspection: &Inspection, look: &Look, (inner, outer): (NodeId, NodeId), place: Span) -> Option<Sum> {
    let style = look.styles.element(outer)?;
    let radius = radius(style)?;
    let mut sum = Sum::default().and(1.0, inspection.length_in(style, L::BorderTopLeftRadius, radius));
    let mut at = inner;
    while at != outer {
        at = look.document.node(at).parent?;
        let style = look.styles.element(at)?;
        for side in [L::PaddingLeft, L::BorderLeftWidth] {
            sum = sum.and(-1.0, inspection.length(style, side, place)?);
        }
    }
    Some(sum)
}

/// A box that can be seen and has round corners.
fn rounded(look: &Look, at: Styled) -> Result<Option<(&Style, LengthPercentage)>, Unknown> {
    let Some(style) = look.styles.of(at) else { return Ok(None) };
    let length = match style.get(L::BorderTopLeftRadius)? {
        Value::Words(words) => words.first(),
        other => Some(other),
    };
    let Some(Value::Length(length)) = length.filter(|length| length.as_px() != Some(0.0)) else { return Ok(None) };
    let paints = paint::paints_box(style);
    let chain = paint::styles_of(look, &paint::chain(look, at.node));
    if !paints || style.is_empty_generated() || !paint::is_visible(&[chain.as_slice(), &[style.as_ref()][..]].concat())?
    {
        return Ok(None);
    }
    Ok(Some((style, *length)))
}

/// The radius that is drawn: no more than half of a side.
fn drawn(look: &Look, at: Styled, length: LengthPercentage) -> Result<f64, Unknown> {
    let rect = look.drawn(at)?;
    let (width, height) = (f64::from(rect.width), f64::from(rect.height));
    Ok((length.px + length.percent / 100.0 * width).min(width / 2.0).min(height / 2.0))
}

fn radius(style: &Style) -> Option<f64> {
    match style.get(L::BorderTopLeftRadius).ok()? {
        Value::Words(words) => words.first()?.as_px(),
        other => other.as_px(),
    }
}

/// Whether a box grows where a text in it does: nothing between them has a height of its own or is out of the flow.
fn grows_with_text(look: &Look, node: NodeId) -> bool {
    let grows = |node: NodeId| {
        look.styles.element(node).is_some_and(|style| style.is(L::Height, "auto") && !style.is(L::Position, "absolute"))
    };
    let mut open = vec![node];
    while let Some(at) = open.pop() {
        if look.document.has_own_text(at) {
            return true;
        }
        open.extend(look.document.child_elements(at).filter(|child| grows(*child)));
    }
    false
}

/// The height of a box that grows with its text, with all that makes it as high as it is; and on how many enlarged lines its
/// corners would end. Nothing where no text does that.
fn growing_height(look: &Look, node: NodeId, radius: f64) -> Result<Option<(f64, &'static str)>, Unknown> {
    let Some(style) = look.styles.element(node).filter(|style| style.is(L::Height, "auto")) else { return Ok(None) };
    if style.is(L::Display, "inline") || style.is(L::Display, "none") {
        return Ok(None);
    }
    // As high as its edges and a line of its smallest text it is in any case: most corners are far from round.
    let edges = [L::PaddingTop, L::PaddingBottom, L::BorderTopWidth, L::BorderBottomWidth];
    let edges = edges.iter().map(|edge| style.px(*edge)).sum::<Result<f64, _>>()?;
    let inner = look.document.descendants(node).into_iter().filter(|inner| look.document.has_own_text(*inner));
    let styles: Vec<&Style> = inner.filter_map(|inner| look.styles.element(inner)).map(|style| &**style).collect();
    let letters = styles.iter().filter_map(|style| style.px(L::FontSize).ok());
    if radius * 2.0 < edges + letters.reduce(f64::min).unwrap_or(0.0) {
        return Ok(None);
    }
    let line = styles.iter().map(|style| line_of(style)).try_fold(0.0_f64, |most, line| Ok(most.max(line?)))?;
    let ends = |lines: u32| radius * 2.0 < edges + f64::from(lines) * line * ENLARGED;
    let Some(lines) = (2..=LINES).find(|lines| ends(*lines)) else { return Ok(None) };
    let Some(placed) = look.layout()?.of(Styled::element(node)) else { return Ok(None) };
    let height = placed.height()?;
    // Another font is higher or lower than the reference.
    const OF_FONT: f64 = 0.15;
    let is_close = (radius * 2.0 - height).abs() <= OF_FONT * height;
    if is_close && placed.known()[3] == Known::Font {
        return Err(Unknown("the metrics of the font decide how high it is"));
    }
    Ok(Some((height, if lines == 2 { "two" } else { "three" })))
}

/// How high a line of text is at least, in px.
fn line_of(style: &Style) -> Result<f64, Unknown> {
    let size = style.px(L::FontSize)?;
    Ok(match style.get(L::LineHeight)? {
        Value::Number(factor) => factor * size,
        other => other.as_px().unwrap_or(size),
    })
}
