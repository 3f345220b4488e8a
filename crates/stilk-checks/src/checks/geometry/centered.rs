//! `geometry/centered`: what is meant to stand in the middle does.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::{Inspection, Shown};
use crate::mend::length::Sum;
use crate::painted::drawn::PAINTED;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{Style, Styled};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_language::case::Look;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/centered",
    summary: "a mark stands in the middle of its box: a dot in its ring, a tick in its square, a spinner in its button",
    why: "A dot that is off by a pixel is seen at once and found late: each value looks right alone.",
    source: "CSS Box Alignment 3",
    level: Level::Warning,
    mend: "Let the layout centre it (`place-items: center`, or `inset: 0; margin: auto`) instead of a number.",
    fails: Example::drawn(
        RING,
        "@control radio {\n  display: inline-flex;\n  @part ring { position: relative; box-sizing: border-box; inline-size: 20px; block-size: 20px; border: 2px solid {ink}; }\n  @part dot { position: absolute; top: 5px; left: 4px; inline-size: 8px; block-size: 8px; background-color: {ink}; }\n}\n",
    ),
    passes: Example::drawn(
        RING,
        "@control radio {\n  display: inline-flex;\n  @part ring { position: relative; box-sizing: border-box; inline-size: 20px; block-size: 20px; border: 2px solid {ink}; }\n  @part dot { position: absolute; inset: 0; margin: auto; inline-size: 8px; block-size: 8px; background-color: {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::boxes(PAINTED).covering(), run).by_option()),
};

const RING: &str = "<label><span part=\"ring\"><input type=\"radio\" part=\"native\" style=\"position: absolute; opacity: 0; margin: 0\"><span part=\"dot\"></span></span></label>\n";

/// By more than this it is off, in px; browsers snap halves.
const OFF: f64 = 0.51;

/// By more than this it is meant to stand aside.
const MEANT: f64 = 3.0;

/// What is larger is no mark.
const MARK: f64 = 48.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let look = shown.look;
        let mut unknown = None;
        let mut any = false;
        for node in look.document.descendants(look.mounted.host) {
            for at in Styled::with_generated(node) {
                let Some(style) = look.styles.of(at) else { continue };
                let around = if at.pseudo.is_some() { Some(node) } else { look.document.node(node).parent };
                let Some(around) = around.filter(|_| node != look.mounted.host || at.pseudo.is_some()) else {
                    continue;
                };
                if !is_mark(look, at, style) || look.document.has_own_text(around) {
                    continue;
                }
                // What is larger is no mark; a box whose size is not known may be any.
                let is_small = |side: Result<f64, _>| side.is_ok_and(|px| px > 0.0 && px <= MARK);
                let outer = look.layout().ok().and_then(|layout| layout.of(Styled::element(around)));
                if !outer.is_some_and(|outer| is_small(outer.width()) && is_small(outer.height())) {
                    continue;
                }
                match look.gaps(at, Styled::element(around)) {
                    Ok(gaps) => {
                        any = true;
                        judge(inspection, shown, at, gaps, sink);
                    }
                    Err(reason) => unknown = Some(reason),
                }
            }
        }
        if any || unknown.is_some() {
            sink.verdict(CHECK.id, shown.stands_for, unknown);
        }
    }
}

/// Whether a box is a mark: painted, without text, of a size of its own.
fn is_mark(look: &Look, Styled { node, pseudo }: Styled, style: &Style) -> bool {
    let is_there = || !style.is_empty_generated() && !style.is(L::Display, "none") && !style.is(L::Display, "inline");
    let has_text = || match pseudo {
        Some(_) => matches!(style.get(L::Content), Ok(stilk_engine::css::Value::String(text)) if !text.is_empty()),
        None => look.document.descendants(node).iter().any(|inner| look.document.has_own_text(*inner)),
    };
    // The ink of what is turned, as ticks are, is not in the middle of its box.
    let is_turned = || !style.is(L::Rotate, "none") || !style.is(L::Transform, "none");
    let is_native = pseudo.is_none()
        && look.document.element(node).is_some_and(|e| ["input", "select", "textarea"].contains(&e.local()));
    let is_seen = || {
        let chain = paint::chain(look, node);
        paint::is_visible(&[paint::styles_of(look, &chain).as_slice(), &[style][..]].concat()) == Ok(true)
    };
    // What most boxes fail at is asked first.
    !is_native && is_there() && !has_text() && paint::paints_box(style) && !is_turned() && is_seen()
}

fn judge(inspection: &Inspection, shown: &Shown, at: Styled, [left, top, right, bottom]: [f32; 4], sink: &mut Sink) {
    let gaps = [("left", "right", left, right, L::Left), ("top", "bottom", top, bottom, L::Top)];
    for (start, end, before, after, longhand) in gaps {
        let off = f64::from(before - after).abs();
        // What reaches out on one side is a badge, not a mark.
        if off <= OFF || off > MEANT || before < 0.0 || after < 0.0 {
            continue;
        }
        let look = shown.look;
        let Some(style) = look.styles.of(at) else { continue };
        let control = &inspection.unit.control.name;
        let name = element_name(look, at);
        let places = [longhand, L::Translate, L::Width];
        let place = places.iter().find_map(|l| inspection.tracer.origin(style, *l).declaration);
        let edit = place.filter(|_| longhand_is_set(style, longhand)).and_then(|place| {
            let moved = f64::from(before - after) / 2.0;
            let start = style.px(longhand).ok()?;
            let middle = middle(inspection, look, at, longhand, place)?;
            inspection.rewrite(style, longhand, start, &middle.css(start - moved))
        });
        let px = |side: f32| number((f64::from(side) * 100.0).round() / 100.0);
        let message = format!(
            "{name} of `{}` stands {}px from the {start} and {}px from the {end} of its box",
            control.value,
            px(before),
            px(after)
        );
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label(format!("{}px out of the middle", px((before - after).abs() / 2.0)))
            .mend(match &edit {
                Some(edit) => format!("write `{}`, or let the layout do it: `inset: 0; margin: auto`", edit.text),
                None => "write `inset: 0; margin: auto`, or `place-items: center` on the box around it".to_owned(),
            })
            .edit(edit);
        let cause = Cause { spans: vec![place.or(Some(control.span))], words: format!("{name} {start}") };
        let figures = format!("{}px and {}px", px(before), px(after));
        sink.fail(
            inspection,
            shown,
            Fault { cause, score: -off, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}

/// Whether a box stands where a length says.
fn longhand_is_set(style: &Style, longhand: L) -> bool {
    style.is(L::Position, "absolute") && style.px(longhand).is_ok()
}

/// Half of what the box around leaves, as the sheet at this place calls it.
fn middle(inspection: &Inspection, look: &Look, at: Styled, start: L, place: Span) -> Option<Sum> {
    let style = look.styles.of(at)?;
    let around = if at.pseudo.is_some() { at.node } else { look.document.node(at.node).parent? };
    let around = look.styles.element(around)?;
    let (size, edges) = match start {
        L::Left => (L::Width, [L::BorderLeftWidth, L::BorderRightWidth]),
        _ => (L::Height, [L::BorderTopWidth, L::BorderBottomWidth]),
    };
    let paddings = [L::PaddingLeft, L::PaddingRight, L::PaddingTop, L::PaddingBottom];
    let is_plain =
        |style: &Style| style.is(L::BoxSizing, "border-box") || paddings.iter().all(|side| style.px(*side) == Ok(0.0));
    let is_border_box = |style: &Style| style.is(L::BoxSizing, "border-box");
    if !is_plain(style) || !is_plain(around) {
        return None;
    }
    let length = |style, longhand| inspection.length(style, longhand, place);
    let mut sum = Sum::default().and(0.5, length(around, size)?).and(-0.5, length(style, size)?);
    for edge in edges {
        if is_border_box(around) {
            sum = sum.and(-0.5, length(around, edge)?);
        }
        if !is_border_box(style) {
            sum = sum.and(-0.5, length(style, edge)?);
        }
    }
    Some(sum)
}
