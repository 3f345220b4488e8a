//! `state/slips`: a control that moves when pressed keeps the press.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style, Styled};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::css::transform::matrix;
use stilk_engine::css::value::Value;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/slips",
    summary: "a control that moves when pressed keeps the click at the edge that moves away",
    why: "Pressed at its upper edge, a button that goes down leaves the pointer: the press is over, the look flickers, and \
          the click is lost.",
    source: "UI Events, click: it takes both ends of the press on the same element",
    level: Level::Warning,
    mend: "Let a generated box reach out to where the edge was: `@state active { @part label::after { content: \"\"; \
           position: absolute; inset: -4px 0 0; } }`.",
    fails: Example::sheet(
        "@control button {\n  position: relative; background: {sea}; color: {paper};\n  @state active { translate: 0 4px; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  position: relative; background: {sea}; color: {paper};\n  @state active {\n    translate: 0 4px;\n    @part label::after { content: \"\"; position: absolute; inset: -4px 0 0; }\n  }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).in_states(StatesAsked::Each), run).by_option()),
};

const READS: LonghandSet = LonghandSet::of(&[
    L::Translate,
    L::Transform,
    L::Top,
    L::Right,
    L::Bottom,
    L::Left,
    L::BorderTopWidth,
    L::BorderRightWidth,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::Position,
    L::Content,
    L::Display,
]);

/// A press lost on a strip of so many px is one in many.
const LOST: f64 = 2.0;

/// By how much a box is drawn away from its place, in px to the right and down; `None` where it is not known.
pub(crate) fn offset(style: &Style) -> Option<(f64, f64)> {
    let (mut x, mut y) = match style.get(L::Translate).ok()? {
        Value::Words(words) => (words.first()?.as_px()?, words.get(1).map_or(Some(0.0), Value::as_px)?),
        Value::Keyword(_) => (0.0, 0.0),
        other => (other.as_px()?, 0.0),
    };
    let transform = style.get(L::Transform).ok()?;
    if !transform.is("none") {
        let matrix = matrix(transform, &|_| None)?;
        x += matrix[12];
        y += matrix[13];
    }
    if style.is(L::Position, "relative") {
        let side = |start: L, end: L| match (style.px(start), style.px(end)) {
            (Ok(px), _) => px,
            (_, Ok(px)) => -px,
            _ => 0.0,
        };
        x += side(L::Left, L::Right);
        y += side(L::Top, L::Bottom);
    }
    Some((x, y))
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    let (Some(rest), Some(active)) = (inspection.rest(), inspection.in_state(StateId::Active)) else { return };
    let host = rest.look.mounted.host;
    let (Some(before), Some(after)) = (rest.look.styles.element(host), active.look.styles.element(host)) else {
        return;
    };
    let (Some(from), Some(to)) = (offset(before), offset(after)) else {
        return sink.unknown(
            CHECK.id,
            active.stands_for,
            stilk_engine::css::Unknown("how far it moves takes a layout"),
        );
    };
    sink.decided(CHECK.id, active.stands_for);
    let (x, y) = (to.0 - from.0, to.1 - from.1);
    if x.hypot(y) <= LOST || keeps(active.look, x, y) {
        return;
    }
    let moved = [L::Translate, L::Transform, L::Top, L::Bottom, L::Left, L::Right];
    let longhand = moved.into_iter().find(|longhand| before.get(*longhand) != after.get(*longhand));
    let place = longhand.and_then(|longhand| inspection.tracer.origin(after, longhand).declaration);
    let control = &inspection.unit.control.name;
    let edge = match (x, y) {
        (_, y) if y > 0.01 => "upper",
        (_, y) if y < -0.01 => "lower",
        (x, _) if x > 0.0 => "left",
        _ => "right",
    };
    let far = number((x.hypot(y) * 100.0).round() / 100.0);
    let message =
        format!("pressed, `{}` moves {far}px away from its {edge} edge: a press there is lost", control.value);
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
        .label("moves the box that takes the press")
        .mend(format!(
            "{}, let a `::after` of a part reach {far}px out over that edge",
            inspection.within_state(StateId::Active)
        ));
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
    sink.fail(
        inspection,
        active,
        Fault {
            cause,
            score: -x.hypot(y),
            figures: format!("{far}px"),
            diagnostic,
            mend: MendKind::AsSaid,
            choice: None,
        },
    );
}

/// Whether a placed box within reaches out to where the edges were.
fn keeps(look: &Look, x: f64, y: f64) -> bool {
    // Insets are counted from within the border.
    let border = |side: L| {
        let host = look.styles.element(look.mounted.host);
        host.and_then(|style| style.px(side).ok()).unwrap_or(0.0)
    };
    let edges = [
        (L::Top, y, border(L::BorderTopWidth)),
        (L::Bottom, -y, border(L::BorderBottomWidth)),
        (L::Left, x, border(L::BorderLeftWidth)),
        (L::Right, -x, border(L::BorderRightWidth)),
    ];
    look.document.descendants(look.mounted.host).into_iter().any(|node| {
        Styled::with_generated(node).into_iter().any(|at| {
            let Some(style) = look.styles.of(at) else { return false };
            let there =
                style.is(L::Position, "absolute") && !style.is_empty_generated() && !style.is(L::Display, "none");
            let reaches = |(side, far, border): &(L, f64, f64)| {
                *far <= LOST || style.px(*side).is_ok_and(|px| px <= LOST - far - border + 0.01)
            };
            there && edges.iter().all(reaches)
        })
    })
}
