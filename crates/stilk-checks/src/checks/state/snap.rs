//! `state/snap`: a change moves as a whole.

use crate::check::{Check, Looks, Scope};
use crate::checks::state::motion::moved;
use crate::checks::state::{Step, is_first, steps};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::visible::{UNSEEN, element_name};
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use std::collections::BTreeMap;
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::color::Color;
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::{Flow, Longhand, Longhand as L};
use stilk_engine::css::value::Value;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level, list};

/// The check.
pub const CHECK: Check = Check {
    id: "state/snap",
    summary: "where one part of a change moves, the other parts of the same change do too",
    why: "The fill fades while the border jumps: it looks broken, and only in motion.",
    source: "the system's own; CSS Transitions 1, section 2: only the properties that are named move",
    level: Level::Warning,
    mend: "Add what jumps to `transition`, or take out what moves.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; border: 2px solid {sea}; color: {paper};\n  transition: background-color 120ms;\n  @state hover { background: {ink}; border-color: {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; border: 2px solid {sea}; color: {paper};\n  transition: background-color 120ms, border-color 120ms;\n  @state hover { background: {ink}; border-color: {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::changes(NOT_READ), run).by_option()),
};

/// What nobody sees, but for the transitions themselves.
const NOT_READ: LonghandSet = LonghandSet::of(&[
    L::Cursor,
    L::PointerEvents,
    L::UserSelect,
    L::TouchAction,
    L::WillChange,
    L::CaretColor,
    L::ForcedColorAdjust,
]);

/// What moves by itself from one value to another. A focus ring should be there at once, and is left out.
const MOVING: [L; 25] = [
    L::Color,
    L::TextFillColor,
    L::BackgroundColor,
    L::BorderTopColor,
    L::BorderRightColor,
    L::BorderBottomColor,
    L::BorderLeftColor,
    L::Fill,
    L::Opacity,
    L::Translate,
    L::Scale,
    L::Rotate,
    L::Transform,
    L::BoxShadow,
    L::BackgroundSize,
    L::BackgroundPositionX,
    L::BackgroundPositionY,
    L::BorderTopWidth,
    L::BorderRightWidth,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::Width,
    L::Height,
    L::TextDecorationThickness,
    L::BorderTopLeftRadius,
];

/// The parts of one box's change.
#[derive(Default)]
struct Parts {
    smooth: Vec<Longhand>,
    jumps: Vec<Longhand>,
}

/// The states whose changes may be animated.
const STATES: [StateId; 5] = [StateId::Hover, StateId::Active, StateId::Selected, StateId::Checked, StateId::Mixed];

fn run(inspection: &Inspection, sink: &mut Sink) {
    let steps = steps(inspection, &STATES);
    for (index, Step { state, before, after }) in steps.iter().enumerate() {
        let name = state.name();
        if is_first(&steps, index) {
            sink.decided(CHECK.id, after.stands_for);
        }
        let mut by_box: BTreeMap<Styled, Parts> = BTreeMap::new();
        let found = inspection.changes(before.look, after.look);
        for change in found.iter() {
            if UNSEEN.has(change.longhand) || !MOVING.contains(&change.longhand) {
                continue;
            }
            let is_there = |look: &Look| {
                let mut styles = paint::styles_of(look, &paint::chain(look, change.at.node));
                styles.extend(change.at.pseudo.and_then(|_| change.style(look)).map(std::convert::AsRef::as_ref));
                paint::is_visible(&styles) != Ok(false)
            };
            // What cannot be seen before or after jumps unseen.
            if !is_there(before.look) || !is_there(after.look) {
                continue;
            }
            let Some(style) = change.style(after.look) else { continue };
            // What follows `color` moves with it.
            if matches!(style.get(change.longhand), Ok(Value::Color(Color::Current))) {
                continue;
            }
            let moved = moved(style);
            let covers = |name: &str| {
                name == "all"
                    || name == change.longhand.name()
                    || parse_declaration(name, "inherit").is_ok_and(|parsed| {
                        parsed.targets().iter().any(|target| target.physical(Flow::LTR) == change.longhand)
                    })
            };
            let parts = by_box.entry(change.at).or_default();
            match moved.iter().any(|(name, _)| covers(name)) {
                true => parts.smooth.push(change.longhand),
                false => parts.jumps.push(change.longhand),
            }
        }
        for change in found.iter() {
            let Some(Parts { smooth, jumps }) = by_box.remove(&change.at) else { continue };
            if smooth.is_empty() || jumps.is_empty() {
                continue;
            }
            let Some(style) = change.style(after.look) else { continue };
            let place = inspection.tracer.origin(style, L::TransitionProperty).declaration;
            let jump = inspection.tracer.origin(style, jumps[0]).declaration;
            let control = &inspection.unit.control.name;
            let names: Vec<&str> = jumps.iter().map(|longhand| longhand.name()).collect();
            let element = element_name(after.look, change.at);
            let message = format!(
                "in {name}, {element} of `{}` moves its `{}` but jumps in {}",
                control.value,
                smooth[0].name(),
                list(&names)
            );
            let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                .label("moves a part of the change")
                .mend(format!("add {} to `transition`", list(&names)));
            if let Some(span) = jump {
                diagnostic = diagnostic.related(span, "jumps");
            }
            let cause = Cause { spans: vec![place, jump], words: String::new() };
            let figures = format!("{} of {} jump", jumps.len(), jumps.len() + smooth.len());
            sink.fail(
                inspection,
                after,
                Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
            );
        }
    }
}
