//! `state/shift`: no state moves what is around the control.

use crate::check::{Check, Looks, Scope};
use crate::checks::state::{Step, is_first, steps};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::visible::{changes_among, element_name};
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::{Longhand, Longhand as L};
use stilk_engine::css::serialize::{number, to_css};
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/shift",
    summary: "no state changes the size of the box or moves its neighbours",
    why: "A border that comes with hover pushes the row aside; bold text in the chosen tab makes all the others jump.",
    source: "CSS 2, chapter 8 (box model)",
    level: Level::Warning,
    mend: "Keep the room at rest (a transparent border, a shadow instead of a border), or use `translate`, `scale` and \
           `outline`, which take none.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; border: 0; padding: {gap};\n  @state hover { border: 2px solid {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; border: 2px solid transparent; padding: {gap};\n  @state hover { border: 2px solid {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).in_states(StatesAsked::Each), run).by_option()),
};

const READS: LonghandSet = LonghandSet::of(&[
    L::BorderTopWidth,
    L::BorderRightWidth,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::BorderTopStyle,
    L::BorderRightStyle,
    L::BorderBottomStyle,
    L::BorderLeftStyle,
    L::PaddingTop,
    L::PaddingRight,
    L::PaddingBottom,
    L::PaddingLeft,
    L::MarginTop,
    L::MarginRight,
    L::MarginBottom,
    L::MarginLeft,
    L::Width,
    L::Height,
    L::MinWidth,
    L::MinHeight,
    L::MaxWidth,
    L::MaxHeight,
    L::FontSize,
    L::FontWeight,
    L::FontFamily,
    L::LetterSpacing,
    L::WordSpacing,
    L::LineHeight,
    L::Content,
    L::Display,
    L::Position,
    L::FlexBasis,
    L::ColumnGap,
    L::RowGap,
    L::BoxSizing,
    L::Visibility,
    L::Opacity,
    L::Scale,
    L::TextIndent,
]);

/// States that come and go while people look; what stays until they change it may take its room.
const PASSING: [StateId; 6] =
    [StateId::Hover, StateId::Focus, StateId::Active, StateId::Selected, StateId::Checked, StateId::Busy];

/// What changes the room a box takes by itself.
const SIZES: [L; 14] = [
    L::Width,
    L::Height,
    L::MinWidth,
    L::MinHeight,
    L::MaxWidth,
    L::MaxHeight,
    L::FontSize,
    L::LineHeight,
    L::FontWeight,
    L::LetterSpacing,
    L::WordSpacing,
    L::FontFamily,
    L::ColumnGap,
    L::RowGap,
];

const SIDES: [(&str, [L; 3]); 4] = [
    ("top", [L::BorderTopWidth, L::PaddingTop, L::MarginTop]),
    ("right", [L::BorderRightWidth, L::PaddingRight, L::MarginRight]),
    ("bottom", [L::BorderBottomWidth, L::PaddingBottom, L::MarginBottom]),
    ("left", [L::BorderLeftWidth, L::PaddingLeft, L::MarginLeft]),
];

fn run(inspection: &Inspection, sink: &mut Sink) {
    let steps = steps(inspection, &PASSING);
    for (index, Step { state, before, after }) in steps.iter().enumerate() {
        let name = state.name();
        let found = shift(before.look, after.look);
        if is_first(&steps, index) {
            sink.verdict(CHECK.id, after.stands_for, found.as_ref().err().copied());
        }
        let Ok(Some((node, longhand, words))) = found else { continue };
        let place =
            after.look.styles.element(node).and_then(|style| inspection.tracer.origin(style, longhand).declaration);
        let control = &inspection.unit.control.name;
        let element = element_name(after.look, Styled::element(node));
        let message = format!("in {name}, {element} of `{}` {words}: what is around it moves", control.value);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label(format!("changes the room it takes in {name}"))
            .mend(
                "keep the same room at rest, or draw it with `outline`, `box-shadow` or `translate`, which take none",
            );
        let cause = Cause { spans: vec![place.or(Some(control.span))], words: longhand.name().to_owned() };
        sink.fail(
            inspection,
            after,
            Fault { cause, score: 0.0, figures: words, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}

/// The first thing that changes the room an element in flow takes.
fn shift(before: &Look, after: &Look) -> Result<Option<(NodeId, Longhand, String)>, Unknown> {
    let changed = changes_among(before, after, Some(&READS));
    let mut nodes: Vec<NodeId> =
        changed.iter().filter(|change| change.at.pseudo.is_none()).map(|change| change.at.node).collect();
    nodes.dedup();
    for node in nodes {
        let chain = paint::chain(after, node);
        let is_placed = |look: &Look| {
            paint::styles_of(look, &chain)
                .iter()
                .any(|style| style.is(L::Position, "absolute") || style.is(L::Position, "fixed"))
        };
        let (Some(old), Some(new)) = (before.styles.element(node), after.styles.element(node)) else { continue };
        if is_placed(before) && is_placed(after) {
            continue;
        }
        let leaves = |style: &Style| {
            style.is(L::Display, "none") || style.is(L::Position, "absolute") || style.is(L::Position, "fixed")
        };
        if is_enclosed(before, node) && is_enclosed(after, node) {
            continue;
        }
        if leaves(old) != leaves(new) {
            let longhand =
                if old.is(L::Display, "none") || new.is(L::Display, "none") { L::Display } else { L::Position };
            let words = if leaves(new) { "leaves the flow" } else { "comes into the flow" };
            return Ok(Some((node, longhand, words.into())));
        }
        if leaves(old) {
            continue;
        }
        let same = |longhand: L| old.get(longhand) == new.get(longhand);
        for longhand in SIZES {
            let is_set = changed
                .iter()
                .any(|change| change.at.node == node && change.at.pseudo.is_none() && change.longhand == longhand);
            if is_set && !same(longhand) && !is_no_space(longhand, old, new) {
                let css = |style: &Style| style.get(longhand).map_or_else(|_| "another".into(), to_css);
                let words = format!("takes `{}: {}` for `{}`", longhand.name(), css(new), css(old));
                return Ok(Some((node, longhand, words)));
            }
        }
        let is_fixed = |size: L| same(size) && new.px(size).is_ok() && new.is(L::BoxSizing, "border-box");
        for (side, longhands) in SIDES {
            let across = if ["top", "bottom"].contains(&side) { L::Height } else { L::Width };
            let own = if is_fixed(across) { &longhands[2..] } else { &longhands[..] };
            let Some(longhand) = own.iter().copied().find(|longhand| !same(*longhand)) else { continue };
            let sum = |style: &Style| own.iter().map(|longhand| style.px(*longhand)).sum::<Result<f64, _>>();
            let more = sum(new)? - sum(old)?;
            if more.abs() > 1e-6 {
                let verb = if more > 0.0 { "grows" } else { "shrinks" };
                return Ok(Some((node, longhand, format!("{verb} by {}px at the {side}", number(more.abs())))));
            }
        }
    }
    Ok(None)
}

/// Whether an element stands alone in a box of a fixed size: then nothing around it can move.
fn is_enclosed(look: &Look, node: NodeId) -> bool {
    let document = &look.document;
    let mut at = node;
    while at != look.mounted.host {
        let Some(parent) = document.node(at).parent else { return false };
        let Some(style) = look.styles.element(parent) else { return false };
        let is_in_flow = |other: NodeId| {
            look.styles.element(other).is_some_and(|style| {
                !style.is(L::Display, "none") && !style.is(L::Position, "absolute") && !style.is(L::Position, "fixed")
            })
        };
        let generates = |at: Styled| {
            at.is_generated()
                && look.styles.of(at).is_some_and(|style| {
                    !style.is_empty_generated() && !style.is(L::Display, "none") && !style.is(L::Position, "absolute")
                })
        };
        if document.has_own_text(parent)
            || document.child_elements(parent).any(|other| other != at && is_in_flow(other))
            || look.styles.boxes(parent).any(generates)
        {
            return false;
        }
        if style.px(L::Width).is_ok() && style.px(L::Height).is_ok() && !style.is(L::Display, "inline") {
            return true;
        }
        at = parent;
    }
    false
}

/// Whether nothing is added between letters or words in either: `normal` comes to none (CSS Text 4, section 9).
fn is_no_space(longhand: Longhand, old: &Style, new: &Style) -> bool {
    let is_none = |style: &Style| style.is(longhand, "normal") || style.px(longhand) == Ok(0.0);
    matches!(longhand, L::LetterSpacing | L::WordSpacing) && is_none(old) && is_none(new)
}
