//! `state/edge-split`: a border that is one with its fill stays so.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::{Inspection, Shown};
use crate::painted::visible::element_name;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_language::system::states::StateKind;
use stilk_language::system::{StateId, StateSet};
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/edge-split",
    summary: "a border of the colour of its fill, at rest or in a state that lasts, still has it in every state on top, or is given another one there",
    why: "A border keeps the old colour when a state changes the fill: an edge comes up that nobody drew.",
    source: "the system's own: a border in the colour of its fill is meant as none",
    level: Level::Warning,
    mend: "Give border and fill one local, and let states set that: `border-color: var(--paint)`.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; border: 2px solid {sea}; color: {paper};\n  @state hover { background: {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  --paint: {sea};\n  background: var(--paint); border: 2px solid var(--paint); color: {paper};\n  @state hover { --paint: {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).in_states(StatesAsked::Each), run).by_option()),
};

const READS: LonghandSet = LonghandSet::of(&[
    L::BackgroundColor,
    L::Color,
    L::ColorScheme,
    L::BorderTopColor,
    L::BorderTopStyle,
    L::BorderTopWidth,
    L::BorderRightColor,
    L::BorderRightStyle,
    L::BorderRightWidth,
    L::BorderBottomColor,
    L::BorderBottomStyle,
    L::BorderBottomWidth,
    L::BorderLeftColor,
    L::BorderLeftStyle,
    L::BorderLeftWidth,
]);

const SIDES: [(L, L); 4] = [
    (L::BorderTopWidth, L::BorderTopColor),
    (L::BorderRightWidth, L::BorderRightColor),
    (L::BorderBottomWidth, L::BorderBottomColor),
    (L::BorderLeftWidth, L::BorderLeftColor),
];

/// Whether the border of a side is one with the fill.
fn is_one(style: &Style, (width, color): (L, L)) -> Result<Option<bool>, Unknown> {
    if style.px(width)? == 0.0 {
        return Ok(None);
    }
    let (fill, edge) = (style.used_color(L::BackgroundColor)?, style.used_color(color)?);
    let opaque = fill.alpha == 1.0 && edge.alpha == 1.0;
    Ok(opaque.then(|| fill.srgb() == edge.srgb()))
}

/// The first side whose border was one with the fill, keeps its colour and is so no more: its colour's longhand.
fn split(before: &Style, after: &Style) -> Result<Option<L>, Unknown> {
    for side in SIDES {
        let same_edge = || after.used_color(side.1).ok() == before.used_color(side.1).ok();
        if is_one(before, side)? == Some(true) && is_one(after, side)? == Some(false) && same_edge() {
            return Ok(Some(side.1));
        }
    }
    Ok(None)
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    let Some(rest) = inspection.rest() else { return };
    for shown in inspection.looks.iter().filter(|shown| !shown.states.is_rest()) {
        let mut unknown = None;
        for before in std::iter::once(rest).chain(lasting_alone(inspection, shown)) {
            match judge(inspection, before, shown, sink) {
                Err(reason) => unknown = Some(reason),
                // What comes apart from rest is told once.
                Ok(true) => break,
                Ok(false) => {}
            }
        }
        sink.verdict(CHECK.id, shown.stands_for, unknown);
    }
}

/// What lasts without the pointer, the keyboard or the press on top of it.
fn lasting_alone<'a, 'i>(inspection: &'a Inspection<'i>, shown: &Shown) -> Option<&'a Shown<'i>> {
    let is_lasting = |id: &StateId| inspection.system.states.get(*id).kind == StateKind::Lasting;
    let lasting = StateSet::of(shown.states.ids().iter().copied().filter(is_lasting));
    let is_other = !lasting.is_rest() && lasting != *shown.states;
    inspection.looks.iter().find(|other| is_other && *other.states == lasting)
}

/// Whether the border of a look has the colour that it has at rest, over another fill.
fn is_drawn_at_rest(inspection: &Inspection, node: NodeId, look: &Style, color: L) -> bool {
    let Some(rest) = inspection.rest().and_then(|rest| rest.look.styles.element(node)) else { return false };
    let Some(side) = SIDES.into_iter().find(|side| side.1 == color) else { return false };
    rest.used_color(color).ok() == look.used_color(color).ok() && is_one(rest, side) == Ok(Some(false))
}

/// Tells of borders that come apart from their fill between two looks, and whether there are any.
fn judge(inspection: &Inspection, before: &Shown, shown: &Shown, sink: &mut Sink) -> Result<bool, Unknown> {
    let mut is_split = false;
    let mut unknown = None;
    for (_, node) in shown.look.mounted.elements() {
        let (Some(was), Some(is)) = (before.look.styles.element(node), shown.look.styles.element(node)) else {
            continue;
        };
        let color = match split(was, is) {
            // An edge that is the same at rest, where it is no part of the fill, is one that was drawn.
            Ok(Some(color)) if is_drawn_at_rest(inspection, node, was, color) => continue,
            Ok(Some(color)) => color,
            Ok(None) => continue,
            Err(reason) => {
                unknown = Some(reason);
                continue;
            }
        };
        is_split = true;
        let fill = inspection.tracer.origin(is, L::BackgroundColor);
        let edge = inspection.tracer.origin(is, color);
        let words = |states: &StateSet| inspection.system.states.set_name(states).replace('+', " and ");
        let state = words(shown.states);
        let usual = if before.states.is_rest() { "at rest".to_owned() } else { format!("in {}", words(before.states)) };
        let control = &inspection.unit.control.name;
        let name = element_name(shown.look, Styled::element(node));
        let message = format!(
            "the border of {name} in `{}` is one with its fill {usual}, but keeps its colour in {state}",
            control.value
        );
        let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, edge.declaration.unwrap_or(control.span), message)
            .label("stays as it is")
            .mend("let a local give both their colour, and the state set that local");
        if let Some(span) = fill.declaration {
            diagnostic = diagnostic.related(span, "the fill changes");
        }
        let cause = Cause { spans: vec![edge.declaration, fill.declaration], words: name };
        let figures = format!("split in {state}");
        sink.fail(
            inspection,
            shown,
            Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
    unknown.map_or(Ok(is_split), Err)
}
