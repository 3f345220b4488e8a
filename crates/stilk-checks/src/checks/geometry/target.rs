//! `geometry/target`: what is pressed is large enough to be hit.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::mend::length::Sum;
use crate::painted::drawn::DRAWN;
use crate::painted::pressed::target;
use crate::painted::visible::element_name;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_language::case::ControlKind;
use stilk_language::manifest::Conformance;
use stilk_text::diagnostic::{Diagnostic, Edit, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/target",
    summary: "what is pressed is at least 24×24 CSS px, 44×44 for AAA",
    why: "People whose hands shake, and everybody on a moving deck, hit the neighbour of a small target or nothing at all.",
    source: "WCAG 2.2, 2.5.8 Target Size (Minimum) and 2.5.5 Target Size (Enhanced)",
    level: Level::Error,
    mend: "Write `min-block-size` and `min-inline-size`, or more padding. WCAG lets a smaller target be where 24px around its \
           middle meet no other target: waive it with that reason where the page sees to it.",
    fails: Example::sheet(
        "@control button {\n  display: inline-block; background: {sea}; color: {paper}; border: 0; padding: 0; font-size: 12px; line-height: 16px;\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  display: inline-block; background: {sea}; color: {paper}; border: 0; padding: 4px; font-size: 12px; line-height: 16px;\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::boxes(DRAWN).in_states(StatesAsked::Rest), run).by_option()),
};

/// What a page makes a control larger or smaller by.
const SIZING: LonghandSet = LonghandSet::of(&[
    L::BorderBottomWidth,
    L::BorderTopWidth,
    L::FontSize,
    L::Height,
    L::LineHeight,
    L::MaxHeight,
    L::MinHeight,
    L::PaddingBottom,
    L::PaddingTop,
    L::Width,
]);

fn run(inspection: &Inspection, sink: &mut Sink) {
    // What neither acts nor takes an entry is no target.
    if ControlKind::of(inspection.unit.control) == ControlKind::Other {
        return;
    }
    let least = match inspection.system.manifest.conformance {
        Conformance::Aa => 24.0,
        Conformance::Aaa => 44.0,
    };
    let Some(shown) = inspection.rest() else { return };
    let look = shown.look;
    let Some(node) = target(look) else { return };
    // A native control that is hidden is pressed by way of its label.
    let size = |side: fn(&stilk_engine::layout::LaidOutBox) -> Result<f64, Unknown>| match look
        .layout()?
        .of(Styled::element(node))
    {
        Some(placed) => side(placed),
        None => Ok(0.0),
    };
    let is_entry = look.document.element(node).is_some_and(|e| ["input", "select", "textarea"].contains(&e.local()));
    let (width, height) =
        match (size(stilk_engine::layout::LaidOutBox::width), size(stilk_engine::layout::LaidOutBox::height)) {
            (Ok(width), Ok(height)) => (width, height),
            // Browsers make fields wider than any target where nobody says how wide.
            (Err(_), Ok(height)) if is_entry => (least, height),
            (Err(reason), _) | (_, Err(reason)) => return sink.unknown(CHECK.id, shown.stands_for, reason),
        };
    sink.decided(CHECK.id, shown.stands_for);
    const HAIR: f64 = 0.02;
    if width >= least - HAIR && height >= least - HAIR || width == 0.0 || height == 0.0 {
        return;
    }
    // What is as large as the browser makes it is the browser's (WCAG 2.5.8, exception "user agent control").
    if inspection.tracer.is_of_page()
        && look.styles.element(node).is_some_and(|style| style.set_by_author().within(&SIZING).iter().next().is_none())
    {
        return;
    }
    let control = &inspection.unit.control.name;
    let (side, longhand) = if height < least - HAIR { ("high", L::Height) } else { ("wide", L::Width) };
    let style = look.styles.element(node);
    let mended = [longhand, L::PaddingTop, L::FontSize];
    let place = mended.iter().find_map(|l| style.and_then(|style| inspection.tracer.origin(style, *l).declaration));
    // What resets say stands nowhere but at the control's name.
    let place = place.filter(|place| *place != control.span);
    let size = if side == "high" { height } else { width };
    // A size of its own grows; where there is none, it gets a least one: on every side that is too small.
    let short =
        [(L::Height, "min-block-size", height < least - HAIR), (L::Width, "min-inline-size", width < least - HAIR)];
    let mut edits: Vec<Edit> = Vec::new();
    let mut added = String::new();
    let mut written: Vec<String> = Vec::new();
    for (longhand, property, _) in short.into_iter().filter(|(_, _, is_short)| *is_short) {
        written.push(format!("`{property}: {}px`", number(least)));
        let Some(style) = style else { continue };
        let declared = style.px(longhand).ok().filter(|px| *px < least).and_then(|px| {
            let own = inspection.length_in(style, longhand, px);
            let grown = format!("max({}, {}px)", Sum::default().and(1.0, own).css(px), number(least));
            inspection.rewrite(style, longhand, px, &grown)
        });
        match declared {
            Some(edit) if !edits.contains(&edit) => edits.push(edit),
            // One token may be both.
            Some(_) => {}
            None => added.push_str(&format!("; {property}: {}px", number(least))),
        }
    }
    if let Some(place) = place.filter(|_| !added.is_empty()) {
        edits.push(Edit { span: place.end(), text: added });
    }
    let message = format!(
        "{} of `{}` is {}px {side}, a target needs {}px",
        element_name(look, Styled::element(node)),
        control.value,
        number((size * 100.0).round() / 100.0),
        number(least)
    );
    let of_font = look
        .layout()
        .ok()
        .and_then(|layout| layout.of(Styled::element(node)))
        .is_some_and(|placed| placed.is_of_font());
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
        .label(format!("{}×{}px", number((width * 10.0).round() / 10.0), number((height * 10.0).round() / 10.0)))
        .mend(format!("write {}", written.join(" and ")));
    diagnostic.edits = edits;
    if of_font {
        diagnostic =
            diagnostic.note("text is measured in Liberation Sans, whose widths are those of Arial and Helvetica");
    }
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: side.to_owned() };
    let figures = format!("{}px of {}px", number((size * 100.0).round() / 100.0), number(least));
    sink.fail(
        inspection,
        shown,
        Fault { cause, score: size / least, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
    );
}
