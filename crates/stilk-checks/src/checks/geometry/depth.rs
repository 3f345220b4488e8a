//! `geometry/depth`: a pressed layer goes down by as much as stands out below it: of its own shadow, or of a box behind it.

use crate::check::{Check, Looks, Scope};
use crate::checks::state::slips::offset;
use crate::example::Example;
use crate::inspection::{Inspection, Shown};
use crate::mend::length::Sum;
use crate::painted::drawn::PAINTED;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, PseudoElement, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::css::value::Value;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/depth",
    summary: "a pressed layer moves by as much as the layer behind it stands out",
    why: "A button with an edge below it that goes down by less seems to float, by more to sink through the page.",
    source: "CSS Backgrounds and Borders 3, box-shadow",
    level: Level::Warning,
    mend: "Let one local say how far it stands out, and the state move by it and take it off the shadow.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; box-shadow: 0 6px 0 {ink};\n  @state active { translate: 0 4px; box-shadow: 0 0 0 {ink}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper}; box-shadow: 0 6px 0 {ink};\n  @state active { translate: 0 6px; box-shadow: 0 0 0 {ink}; }\n}\n",
    ),
    scope: Scope::Looks(
        Looks::new(Reads::boxes(READS).in_states(StatesAsked::Alone(&[StateId::Active])), run).by_option(),
    ),
};

const READS: LonghandSet = PAINTED.and(&[L::BoxShadow]);

/// What stands out by more is no layer of the same thing.
const DEEP: f32 = 24.0;

/// Sides this near to each other are the same, in px; browsers snap halves.
const NEAR: f32 = 0.5;

/// How far the layer behind stands out below, in px: a shadow without a blur.
fn depth(style: &Style) -> Option<f64> {
    let Ok(Value::List(shadows)) = style.get(L::BoxShadow) else { return Some(0.0) };
    let mut depth: f64 = 0.0;
    for shadow in shadows {
        let Value::Words(words) = shadow else { continue };
        let px: Vec<f64> = words.iter().filter_map(Value::as_px).collect();
        let [x, y, blur, spread] = px[..] else { return None };
        if blur == 0.0 && spread == 0.0 && x == 0.0 && !words.iter().any(|word| word.is("inset")) {
            depth = depth.max(y);
        }
    }
    Some(depth)
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    let (Some(rest), Some(active)) = (inspection.rest(), inspection.in_state(StateId::Active)) else { return };
    let shadow = of_shadow(inspection, rest.look, active.look);
    let boxes = of_boxes(rest.look, active.look);
    let mut unknown = None;
    let mut any = false;
    for found in [shadow, boxes] {
        match found {
            Err(reason) => unknown = unknown.or(Some(reason)),
            Ok(presses) => {
                any |= !presses.is_empty();
                for press in presses.into_iter().filter(Press::is_off) {
                    fail(inspection, active, &press, sink);
                }
            }
        }
    }
    if any || unknown.is_some() {
        sink.verdict(CHECK.id, active.stands_for, unknown);
    }
}

/// What goes down when it is pressed, and what stands out below it.
struct Press<'l> {
    name: String,
    style: &'l Style,
    /// How far it goes down, in px.
    moved: f64,
    /// How far the other stands out at rest.
    out: f64,
    /// How far it still does when pressed.
    left: f64,
    /// What the sheet calls the way that it should go.
    sum: Sum,
}

impl Press<'_> {
    /// Whether the lower layer does not stay where it is, or the upper one sinks through it.
    fn is_off(&self) -> bool {
        (self.out - self.left - self.moved).abs() > f64::from(NEAR) || self.left < -f64::from(NEAR)
    }
}

/// The host over its own shadow.
fn of_shadow<'l>(inspection: &Inspection, rest: &Look, active: &'l Look) -> Result<Vec<Press<'l>>, Unknown> {
    let host = rest.mounted.host;
    let (Some(before), Some(after)) = (rest.styles.element(host), active.styles.element(host)) else {
        return Ok(Vec::new());
    };
    if depth(before) == Some(0.0) {
        return Ok(Vec::new());
    }
    let (Some(out), Some(left), Some(from), Some(to)) = (depth(before), depth(after), offset(before), offset(after))
    else {
        return Err(Unknown("how far it moves takes a layout"));
    };
    let moved = to.1 - from.1;
    if out <= 0.0 || moved <= 0.0 {
        return Ok(Vec::new());
    }
    let sum = Sum::default().and(1.0, inspection.length_in(before, L::BoxShadow, out));
    let sum = sum.and(-1.0, inspection.length_in(after, L::BoxShadow, left));
    Ok(vec![Press { name: String::new(), style: after, moved, out, left, sum }])
}

/// Boxes over boxes behind them that stand out below.
fn of_boxes<'l>(rest: &Look, active: &'l Look) -> Result<Vec<Press<'l>>, Unknown> {
    let document = &rest.document;
    let nodes = document.descendants(rest.mounted.host);
    let mut found = Vec::new();
    for node in nodes.iter().copied() {
        let (Some(before), Some(after)) = (rest.styles.element(node), active.styles.element(node)) else { continue };
        if before.get(L::Translate) == after.get(L::Translate)
            && before.get(L::Transform) == after.get(L::Transform)
            && [L::Top, L::Bottom].iter().all(|side| before.get(*side) == after.get(*side))
            || !paint::paints_box(before)
        {
            continue;
        }
        let inside = document.descendants(node);
        let behind = nodes.iter().copied().flat_map(Styled::with_generated);
        for layer in behind.filter(|layer| *layer != Styled::element(node)) {
            let Some(style) = rest.styles.of(layer) else { continue };
            // What lies on it, or in it, is no layer behind it.
            let is_behind = match inside.contains(&layer.node) {
                true => style.get(L::ZIndex)?.as_number().is_some_and(|index| index < 0.0),
                false => {
                    let is_before = layer.pseudo == Some(PseudoElement::Before);
                    layer.node == node || layer.node.index() < node.index() || is_before
                }
            };
            if !is_behind || style.is_empty_generated() || style.is(L::Display, "none") || !paint::paints_box(style) {
                continue;
            }
            if !is_seen(rest, layer, style)? {
                continue;
            }
            let [x, y, right, bottom] = rest.gaps(layer, Styled::element(node))?;
            if x.abs() > 1.0 || right.abs() > 1.0 || !(-NEAR..=DEEP).contains(&y) || !(NEAR..=DEEP).contains(&-bottom) {
                continue;
            }
            let (from, to) = (offset(before), offset(after));
            let (Some(from), Some(to)) = (from, to) else { return Err(Unknown("how far it moves takes a layout")) };
            let pressed = active.gaps(layer, Styled::element(node))?[3];
            let (moved, out, left) = (to.1 - from.1, f64::from(-bottom), f64::from(-pressed));
            if moved > 0.0 {
                let sum = Sum::default();
                let name = format!("{} of ", element_name(active, Styled::element(node)));
                let name = if node == active.mounted.host { String::new() } else { name };
                found.push(Press { name, style: after, moved, out, left, sum });
            }
        }
    }
    Ok(found)
}

/// Whether anybody sees a layer: one that is there for the pointer only stands out nowhere.
fn is_seen(look: &Look, at: Styled, style: &Style) -> Result<bool, Unknown> {
    let mut styles = paint::styles_of(look, &paint::chain(look, at.node));
    styles.extend(at.pseudo.map(|_| style));
    paint::is_visible(&styles)
}

fn fail(inspection: &Inspection, active: &Shown, press: &Press, sink: &mut Sink) {
    let Press { name, style, moved, out, left, sum } = press;
    let longhand = [L::Translate, L::Transform, L::Top]
        .into_iter()
        .find(|longhand| inspection.tracer.origin(style, *longhand).declaration.is_some());
    let place = longhand.and_then(|longhand| inspection.tracer.origin(style, longhand).declaration);
    let control = &inspection.unit.control.name;
    let px = |value: f64| number((value * 100.0).round() / 100.0);
    let wanted = if *left < 0.0 { *out } else { out - left };
    let goes_along = *left >= 0.0 && wanted.abs() <= f64::from(NEAR);
    let message = match *left < 0.0 {
        _ if goes_along => {
            format!("pressed, {name}`{}` goes down by {}px and its lower layer goes along", control.value, px(*moved))
        }
        true => format!(
            "pressed, {name}`{}` goes down by {}px, through the layer that stands out by {}px",
            control.value,
            px(*moved),
            px(*out)
        ),
        false => format!(
            "pressed, {name}`{}` goes down by {}px while its lower layer goes in by {}px",
            control.value,
            px(*moved),
            px(wanted)
        ),
    };
    let css = sum.css(wanted);
    let edit = longhand.filter(|_| !goes_along);
    let edit = edit.and_then(|longhand| inspection.rewrite(style, longhand, *moved, &css));
    let mend = match goes_along {
        true => format!(
            "{}, move the lower layer up by {}px: it stays where it is",
            inspection.within_state(StateId::Active),
            px(*moved)
        ),
        false => format!("move by `{css}`, or let a local give both"),
    };
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
        .label(format!("moves by {}px", px(*moved)))
        .mend(mend)
        .edit(edit);
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: name.clone() };
    let figures = format!("{}px of {}px", px(*moved), px(wanted));
    sink.fail(
        inspection,
        active,
        Fault { cause, score: -(out - left - moved).abs(), figures, diagnostic, mend: MendKind::AsSaid, choice: None },
    );
}
