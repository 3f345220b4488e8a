//! `contrast/boundary`: people see where a field is.

use crate::check::{Check, Looks, Scope};
use crate::choice::choice;
use crate::example::Example;
use crate::gather::Met;
use crate::inspection::{Inspection, Shown};
use crate::painted::boxes::{Mark, PaintedBox, Pictured, READS};
use crate::painted::least::{Beside, Found, best, over_surfaces};
use crate::painted::paint::{self, Stack, floor, hex};
use crate::painted::text::is_inactive;
use crate::painted::visible::is_shown;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style};
use stilk_engine::css::Unknown;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/boundary",
    summary: "what marks the edge of a field, checkbox, radio or switch has a contrast of at least 3:1 with the page",
    why: "Who does not see the box does not know that something can be entered or ticked there, nor where to press.",
    source: "WCAG 2.2, 1.4.11 Non-text Contrast",
    level: Level::Error,
    mend: "Darken the border's token, or let the fill stand out from every surface; one of them is enough.",
    fails: Example::drawn(
        FIELD,
        "@control field {\n  @part native { background: {paper}; border: 1px solid {mist}; color: {ink}; }\n}\n",
    ),
    passes: Example::drawn(
        FIELD,
        "@control field {\n  @part native { background: {paper}; border: 1px solid {sea}; color: {ink}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).on_generated(PLACE).with_icons(), run).of_fields()),
};

/// Where a generated box lies.
const PLACE: LonghandSet = LonghandSet::of(&[L::Position, L::ClipPath, L::Top, L::Right, L::Bottom, L::Left]);

const FIELD: &str =
    "<label><span part=\"label\"><slot>Vessel</slot></span><input part=\"native\" value=\"Kittiwake\"></label>\n";

const NEEDED: f64 = 3.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        if is_inactive(shown.states) || !is_shown(shown.look) {
            continue;
        }
        match judge(inspection, shown, sink) {
            Ok(()) => sink.decided(CHECK.id, shown.stands_for),
            Err(reason) => sink.unknown(CHECK.id, shown.stands_for, reason),
        }
    }
}

/// The boxes whose edge is the field's: the outermost that paint something around the native control; where that is drawn
/// over by others, the outermost without text.
fn edges<'b, 'l>(look: &Look, all: &'b [PaintedBox<'l>]) -> Vec<&'b PaintedBox<'l>> {
    let document = &look.document;
    let is_above = |above: NodeId, node: NodeId| above != node && document.descendants(above).contains(&node);
    let outermost = |found: Vec<&'b PaintedBox<'l>>| {
        let nodes: Vec<NodeId> = found.iter().map(|found| found.at.node).collect();
        found.into_iter().filter(|one| !nodes.iter().any(|node| is_above(*node, one.at.node))).collect::<Vec<_>>()
    };
    let bearer = look.mounted.bearer;
    let (around, others): (Vec<_>, Vec<_>) =
        all.iter().partition(|found| found.at.node == bearer || is_above(found.at.node, bearer));
    // What is generated in a box around it and does not lie all over it is a mark, but where nothing else is.
    let is_edge = |found: &&&PaintedBox| !found.at.is_generated() || lies_over(found.style());
    let around = match around.iter().any(|found| is_edge(&found)) {
        true => around.into_iter().filter(|found| is_edge(&found)).collect(),
        false => around,
    };
    if !around.is_empty() {
        return outermost(around);
    }
    let has_text = |node: NodeId| document.descendants(node).iter().any(|inner| document.has_own_text(*inner));
    let without_text: Vec<_> = others.iter().copied().filter(|found| !has_text(found.at.node)).collect();
    // Where the words themselves stand in a box, that is what is pressed.
    outermost(if without_text.is_empty() { others } else { without_text })
}

/// Whether a generated box lies all over the one that it is generated in.
fn lies_over(style: &Style) -> bool {
    style.is(L::Position, "absolute")
        && style.is(L::ClipPath, "none")
        && INSETS.iter().all(|inset| style.px(*inset).is_ok_and(|px| px <= 0.0))
}

const INSETS: [L; 4] = [L::Top, L::Right, L::Bottom, L::Left];

fn judge<'i>(inspection: &Inspection<'i>, shown: &Shown<'i>, sink: &mut Sink) -> Result<(), Unknown> {
    let look = shown.look;
    let all = inspection.boxes(look);
    let edges = edges(look, all.as_ref().as_ref().map_err(|reason| *reason)?);
    if is_drawn_by_browser(look, &edges) {
        return Err(Unknown("each browser draws this box by itself"));
    }
    let mut is_bare = false;
    let worst = over_surfaces(look, |index, surface| {
        if is_bare {
            return Ok(None);
        }
        let best = best(seen_edges(look, &edges, surface)?);
        let is_seen = best.is_some_and(|(best, _)| best.ratio >= NEEDED);
        if !is_seen && edges.iter().any(|edge| edge.pictured == Pictured::Whole) {
            return Err(Unknown("a picture marks the edge"));
        }
        is_bare = best.is_none();
        if let Some((Beside { pixel, beside, .. }, (edge, mark))) = best.filter(|_| sink.gathers()) {
            let mark = inspection.tracer.color_origin(edge.style(), mark.longhand);
            let behind = edge.origin_around(inspection.tracer, look, index);
            sink.meet(inspection, shown, &Met { sides: [(pixel, &mark), (beside, &behind)], needed: NEEDED });
        }
        Ok(best)
    })?;
    if is_bare {
        nothing(inspection, shown, sink);
        return Ok(());
    }
    let Some((Beside { ratio, pixel, beside }, (edge, mark))) = worst.filter(|(worst, _)| worst.ratio < NEEDED) else {
        return Ok(());
    };
    sink.fail(inspection, shown, fault(inspection, look, &Beside { ratio, pixel, beside }, edge, &mark));
    Ok(())
}

/// Whether the control is a native box that nothing styles: each browser draws it in its own way, with a border that can be
/// seen.
fn is_drawn_by_browser(look: &Look, edges: &[&PaintedBox]) -> bool {
    let bearer = look.mounted.bearer;
    let is_box = look.document.element(bearer).is_some_and(|element| {
        element.local() == "input"
            && matches!(element.attribute("type"), Some("checkbox" | "radio" | "range" | "color"))
    });
    is_box && edges.iter().all(|edge| edge.at.node == bearer) && paint::is_drawn_natively(look, bearer)
}

/// That an edge can hardly be seen.
fn fault(inspection: &Inspection, look: &Look, worst: &Beside, edge: &PaintedBox, mark: &Mark) -> Fault {
    let origin = inspection.tracer.color_origin(edge.style(), mark.longhand);
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let figure = format!("{:.2}:1", floor(worst.ratio));
    let control = &inspection.unit.control.name.value;
    let message = format!(
        "the {} of `{control}`, {}, is {figure} beside the page in {theme}, an edge needs 3:1",
        mark.what,
        origin.name()
    );
    let label = format!("{} beside {}: {figure}", hex(worst.pixel), hex(worst.beside));
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, origin.span(), message).label(label);
    if let Some(span) = origin.declaration.filter(|span| Some(*span) != diagnostic.span) {
        diagnostic = diagnostic.related(span, format!("the {}", mark.what));
    }
    let around = edge.origin_around(inspection.tracer, look, 0);
    Fault {
        cause: Cause { spans: vec![origin.span()], words: String::new() },
        score: worst.ratio / NEEDED,
        figures: format!("{figure}, needs 3:1"),
        diagnostic,
        mend: MendKind::AnotherColor,
        choice: choice(inspection, [&origin, &around], &edge.styles),
    }
}

/// Each mark of each edge as it looks on a surface, beside what is around it.
fn seen_edges<'b, 'l>(
    look: &Look,
    edges: &[&'b PaintedBox<'l>],
    surface: NodeId,
) -> Result<Vec<Found<(&'b PaintedBox<'l>, Mark)>>, Unknown> {
    let mut found = Vec::new();
    for edge in edges {
        let (inner, outer) = (Stack::of(&edge.styles), Stack::of(edge.around())?);
        let around = outer.behind(look, surface)?;
        for mark in &edge.marks {
            // A ring and a border lie over the box's own fill, the fill over what is around it.
            let opacity = edge.style().get(L::Opacity)?.as_number().unwrap_or(1.0);
            let color = Absolute { alpha: mark.color.alpha * opacity, ..mark.color };
            let pixels = match mark.what {
                "border" => inner.as_ref().map_err(|reason| *reason)?.painted(look, surface, &mark.color)?,
                _ => outer.painted(look, surface, &color)?,
            };
            found.extend(Beside::least_of_all(&pixels, &around).map(|least| (least, (*edge, *mark))));
        }
    }
    Ok(found)
}

/// Nothing is painted at all.
fn nothing(inspection: &Inspection, shown: &Shown, sink: &mut Sink) {
    let control = &inspection.unit.control.name;
    let message = format!("nothing marks the edge of `{}`: it has neither border nor fill", control.value);
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, control.span, message).label("no part paints a box").mend(
        "give the part that holds the entry a border of 3:1 with the page, or say with `@waive` what else marks it",
    );
    let cause = Cause { spans: vec![Some(control.span)], words: "nothing".into() };
    sink.fail(
        inspection,
        shown,
        Fault { cause, score: 0.0, figures: "no edge".into(), diagnostic, mend: MendKind::AsSaid, choice: None },
    );
}
