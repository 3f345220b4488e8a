//! `geometry/wrap`: a row of controls wraps before it is cut off, and then stacks with the gap that it has.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::drawn::DRAWN;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::surroundings::surroundings;
use stilk_engine::cascade::Styled;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::dom::NodeId;
use stilk_engine::layout::Rect;
use stilk_language::case::Look;
use stilk_language::system::Control;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/wrap",
    summary: "a row of controls wraps where it no longer fits, and stacks with the same gap",
    why: "At 400% a window of 1280px is 320px wide: a row that does not wrap is cut off, or makes people scroll both ways. And \
          rows that wrap without a gap between lines stick together.",
    source: "WCAG 2.2, 1.4.10 Reflow; CSS Flexible Box Layout 1, flex-wrap",
    level: Level::Warning,
    mend: "Write `flex-wrap: wrap` and `gap` instead of margins between the controls.",
    fails: Example::drawn(
        ROW,
        "@control row {\n  display: flex; flex-wrap: wrap; column-gap: {gap};\n  @part one { flex: none; inline-size: 120px; block-size: 30px; }\n}\n",
    ),
    passes: Example::drawn(
        ROW,
        "@control row {\n  display: flex; flex-wrap: wrap; gap: {gap};\n  @part one { flex: none; inline-size: 120px; block-size: 30px; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::boxes(DRAWN).in_states(StatesAsked::Rest), run).by_option()),
};

const ROW: &str = "<div role=\"group\"><button type=\"button\" part=\"one\">Book</button><button type=\"button\" part=\"one\">Change</button><button type=\"button\" part=\"one\">Cancel</button></div>\n";

/// The narrowest page that is asked for, in CSS px.
const NARROW: f64 = 320.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    let Some(shown) = inspection.rest() else { return };
    let look = shown.look;
    let Some((row, items)) = row(look) else { return };
    let Some(style) = look.styles.element(row) else { return };
    let control = &inspection.unit.control.name;
    match judge(look, row, &items, narrowest(inspection.unit.control, look.room)) {
        Err(reason) => sink.unknown(CHECK.id, shown.stands_for, reason),
        Ok(verdict) => {
            sink.decided(CHECK.id, shown.stands_for);
            let (message, label, mend, longhand, figures) = match verdict {
                Verdict::Fits => return,
                Verdict::CutOff { width, page } => (
                    format!(
                        "the row in `{}` is {}px wide and does not wrap at {}px",
                        control.value,
                        px(width),
                        px(page)
                    ),
                    "stays on one line".to_owned(),
                    "write `flex-wrap: wrap`".to_owned(),
                    L::Display,
                    format!("{}px of {}px", px(width), px(page)),
                ),
                Verdict::Uneven { beside, below, width } => (
                    format!(
                        "below {}px `{}` stacks with {}px between its lines, side by side it has {}px",
                        px(width),
                        control.value,
                        px(below),
                        px(beside)
                    ),
                    format!("wraps below {}px", px(width)),
                    format!("write `gap: {}px`, or the token that the row uses", px(beside)),
                    L::RowGap,
                    format!("{}px and {}px", px(beside), px(below)),
                ),
            };
            let places = [longhand, L::ColumnGap, L::Display];
            let place = places.iter().find_map(|l| inspection.tracer.origin(style, *l).declaration);
            let diagnostic =
                Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message).label(label).mend(mend);
            let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
            sink.fail(
                inspection,
                shown,
                Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
            );
        }
    }
}

fn px(value: f64) -> String {
    number((value * 10.0).round() / 10.0)
}

/// The first box in which several controls stand side by side, with them.
fn row(look: &Look) -> Option<(NodeId, Vec<NodeId>)> {
    const CONTROLS: [&str; 5] = ["button", "a", "input", "select", "label"];
    look.document.descendants(look.mounted.host).into_iter().find_map(|node| {
        let style = look.styles.element(node)?;
        let is_row = (style.is(L::Display, "flex") || style.is(L::Display, "inline-flex"))
            && ["row", "row-reverse"].iter().any(|direction| style.is(L::FlexDirection, direction));
        let is_control = |node: NodeId| {
            look.mounted.placed.iter().any(|(placed, _)| *placed == node)
                || look.document.element(node).is_some_and(|e| CONTROLS.contains(&e.local()))
        };
        // The item of a list is as wide as the control in it.
        let has_control = |child: &NodeId| look.document.descendants(*child).into_iter().any(is_control);
        let in_flow = |child: &NodeId| {
            look.styles.element(*child).is_some_and(|s| !s.is(L::Display, "none") && !s.is(L::Position, "absolute"))
        };
        let items: Vec<NodeId> = look.document.child_elements(node).filter(in_flow).filter(has_control).collect();
        (is_row && items.len() > 1).then_some((node, items))
    })
}

enum Verdict {
    Fits,
    /// It is wider than the narrowest page, and stays so.
    CutOff {
        width: f64,
        page: f64,
    },
    /// It wraps below a width, with another gap.
    Uneven {
        beside: f64,
        below: f64,
        width: f64,
    },
}

/// The narrowest page in which a control looks as in one with so much room: where a narrower one meets another condition of
/// its sheet, it ends there.
fn narrowest(control: &Control, room: f64) -> f64 {
    let rooms = surroundings(control).into_iter().map(|other| other.room()).filter(|other| *other < room);
    rooms.fold(NARROW, |widest, other| widest.max(other + 1.0))
}

fn judge(look: &Look, row: NodeId, items: &[NodeId], narrowest: f64) -> Result<Verdict, Unknown> {
    let rects = |width: f64| {
        let own;
        let layout = if width == look.room {
            look.layout()?
        } else {
            own = look.layout_in(width)?;
            &own
        };
        let of = |node: NodeId| layout.of(Styled::element(node)).ok_or(Unknown("it has no box"))?.rect();
        let items = items.iter().map(|item| of(*item)).collect::<Result<Vec<Rect>, _>>()?;
        Ok::<_, Unknown>((of(row)?, items))
    };
    let is_stacked = |items: &[Rect]| items.iter().any(|item| item.y >= items[0].bottom() - 0.5);
    let extent = |items: &[Rect]| {
        let right = items.iter().map(|item| item.right()).fold(f32::MIN, f32::max);
        f64::from(right - items.iter().map(|item| item.x).fold(f32::MAX, f32::min))
    };
    let (around, wide) = rects(look.room)?;
    // What stacks in any window is no row.
    if is_stacked(&wide) || wide.len() < 2 {
        return Ok(Verdict::Fits);
    }
    let (_, narrow) = rects(narrowest)?;
    let least = if is_stacked(&narrow) || narrowest > NARROW { narrowest } else { 80.0 };
    if !is_stacked(&rects(least)?.1) {
        let width = extent(&narrow);
        return Ok(if width > narrowest + 0.5 { Verdict::CutOff { width, page: narrowest } } else { Verdict::Fits });
    }
    // Two gaps that are both given are meant.
    let is_meant = look.styles.element(row).is_some_and(|style| {
        let given = |longhand| style.px(longhand).is_ok_and(|px| px > 0.0);
        given(L::RowGap) && given(L::ColumnGap)
    });
    if is_meant {
        return Ok(Verdict::Fits);
    }
    // The width at which it wraps, to a px: where its items just fill it, if nothing in them gives way.
    let (mut stacks, mut fits) = (least, look.room);
    let width = f64::from(around.width);
    let (filled, shrunk) = ((extent(&wide) + look.room - width).ceil(), width.ceil());
    for guess in [filled, filled - 1.0, shrunk, shrunk - 1.0] {
        if guess > stacks && guess < fits {
            if is_stacked(&rects(guess)?.1) { stacks = guess } else { fits = guess }
        }
    }
    while fits - stacks > 1.0 {
        let middle = ((stacks + fits) / 2.0).round();
        if is_stacked(&rects(middle)?.1) { stacks = middle } else { fits = middle }
    }
    // Where it just fits, no room is left that could be shared out between them.
    let (beside, below) = (gap_between(&rects(fits)?.1, false), gap_between(&rects(stacks)?.1, true));
    let Some((beside, below)) = beside.zip(below) else { return Ok(Verdict::Fits) };
    Ok(if (beside - below).abs() > 0.5 { Verdict::Uneven { beside, below, width: fits } } else { Verdict::Fits })
}

/// The gap between the first two items that stand beside or below each other.
fn gap_between(items: &[Rect], stacked: bool) -> Option<f64> {
    items.windows(2).find_map(|pair| {
        let gap = match stacked {
            true if pair[1].y >= pair[0].bottom() - 0.5 => pair[1].y - pair[0].bottom(),
            false if pair[1].x >= pair[0].right() - 0.5 => pair[1].x - pair[0].right(),
            false if pair[0].x >= pair[1].right() - 0.5 => pair[0].x - pair[1].right(),
            _ => return None,
        };
        Some(f64::from(gap))
    })
}
