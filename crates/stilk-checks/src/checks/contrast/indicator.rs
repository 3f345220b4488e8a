//! `contrast/indicator`: marks within a control can be seen.

use crate::check::{Check, Looks, Scope};
use crate::checks::contrast::caret;
use crate::choice::choice;
use crate::example::Example;
use crate::gather::Met;
use crate::inspection::{Inspection, Shown};
use crate::painted::boxes::{PaintedBox, Pictured, READS, marks_among};
use crate::painted::least::{Beside, Found, best, over_surfaces};
use crate::painted::paint::{self, Stack, floor, hex};
use crate::painted::text::is_inactive;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/indicator",
    summary: "a check mark, radio dot, thumb, icon or caret has a contrast of at least 3:1 with what it lies on",
    why: "The mark alone tells on from off: who does not see it does not know what is chosen.",
    source: "WCAG 2.2, 1.4.11 Non-text Contrast",
    level: Level::Error,
    mend: "Give the mark's token, or that of the fill below it, another lightness.",
    fails: Example::drawn(
        SWITCH,
        "@control switch {\n  @part native { opacity: 0; }\n  @part track { display: flex; background: {sea}; }\n  @part thumb { inline-size: 16px; block-size: 16px; background: {ink}; }\n}\n",
    ),
    passes: Example::drawn(
        SWITCH,
        "@control switch {\n  @part native { opacity: 0; }\n  @part track { display: flex; background: {sea}; }\n  @part thumb { inline-size: 16px; block-size: 16px; background: {paper}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(ALL_READS).on_generated(PLACE).with_icons(), run)),
};

const ALL_READS: LonghandSet = READS.and(&[L::CaretColor, L::Position]);

/// Where a generated box stands in the one that it is generated in.
const PLACE: LonghandSet = LonghandSet::of(&[L::Top, L::Right, L::Bottom, L::Left]);

const SWITCH: &str = "<label><span part=\"track\"><input type=\"checkbox\" role=\"switch\" part=\"native\"><span part=\"thumb\"></span></span><slot>Dogs</slot></label>\n";

pub(super) const NEEDED: f64 = 3.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    // Where focus changes nothing that is read here, rest stands for it.
    let is_focused = |shown: &Shown| shown.states.has(StateId::Focus);
    let any_focused = inspection.looks.iter().any(is_focused);
    for shown in &inspection.looks {
        if is_inactive(shown.states) {
            continue;
        }
        let caret = |shown: &Shown, sink: &mut Sink| match any_focused && !is_focused(shown) {
            true => Ok(false),
            false => caret::judge(inspection, shown, sink),
        };
        match (judge(inspection, shown, sink), caret(shown, sink)) {
            (Err(reason), _) | (_, Err(reason)) => sink.unknown(CHECK.id, shown.stands_for, reason),
            (Ok(false), Ok(false)) => {}
            _ => sink.decided(CHECK.id, shown.stands_for),
        }
    }
}

/// Judges every mark: a box without text, within another that paints something, or an icon. Says whether there is one.
fn judge<'i>(inspection: &Inspection<'i>, shown: &Shown<'i>, sink: &mut Sink) -> Result<bool, Unknown> {
    let look = shown.look;
    let all = inspection.boxes(look);
    let all = all.as_ref().as_ref().map_err(|reason| *reason)?;
    let is_active = |one: &&PaintedBox| !paint::is_switched_off(look, &paint::chain(look, one.at.node));
    let marks: Vec<&PaintedBox> = marks_among(look, all).into_iter().filter(is_active).collect();
    for one in &marks {
        // The bars of a menu sign are generated in each other, and lie beside each other.
        if one.at.is_generated() && lies_beside(one.style(), one.around()) {
            return Err(Unknown("a generated mark lies beside what it is generated in"));
        }
        // What lies over everything to keep a press has no colour; what has one and covers its host is no mark.
        let (inner, outer) = (Stack::of(&one.styles)?, Stack::of(one.around())?);
        let worst = over_surfaces(look, |index, surface| {
            let around = outer.behind(look, surface)?;
            let mut found = Vec::new();
            for (at, mark) in one.marks.iter().enumerate() {
                let pixels = match mark.what {
                    "fill" => inner.behind(look, surface)?,
                    _ => inner.painted(look, surface, &mark.color)?,
                };
                found.extend(Beside::least_of_all(&pixels, &around).map(|least| (least, at)));
            }
            let best = best(found);
            if let Some((Beside { pixel, beside, .. }, at)) = best.filter(|_| sink.gathers()) {
                let mark = inspection.tracer.color_origin(one.style(), one.marks[at].longhand);
                let behind = one.origin_around(inspection.tracer, look, index);
                sink.meet(inspection, shown, &Met { sides: [(pixel, &mark), (beside, &behind)], needed: NEEDED });
            }
            Ok(best)
        })?;
        if one.pictured != Pictured::Not && worst.is_none_or(|(worst, _)| worst.ratio < NEEDED) {
            return Err(Unknown("a picture draws the mark"));
        }
        if let Some((worst, at)) = worst.filter(|(worst, _)| worst.ratio < NEEDED) {
            fail(inspection, shown, sink, one, (worst, at));
        }
    }
    Ok(!marks.is_empty())
}

/// Whether a generated box is moved out of the one that it is generated in: before its edge, or anywhere where both have one
/// fill, as the bars and dots of a menu sign have. Who draws a mark in the colour of its ground sees that there is none.
fn lies_beside(style: &Style, around: &[&Style]) -> bool {
    if style.is(L::Position, "static") {
        return false;
    }
    let fill = |style: &Style| style.used_color(L::BackgroundColor).ok().filter(|color| color.alpha > 0.0);
    let has_one_fill = fill(style).is_some_and(|own| around.last().is_some_and(|outer| fill(outer) == Some(own)));
    let is_out = |side: L| style.px(side).is_ok_and(|px| px < 0.0 || has_one_fill && px > 0.0);
    [L::Top, L::Right, L::Bottom, L::Left].into_iter().any(is_out)
}

fn fail(
    inspection: &Inspection,
    shown: &Shown,
    sink: &mut Sink,
    one: &PaintedBox,
    (Beside { ratio, pixel, beside }, at): Found<usize>,
) {
    let mark = one.marks[at];
    let origin = inspection.tracer.color_origin(one.style(), mark.longhand);
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let figure = format!("{:.2}:1", floor(ratio));
    let name = element_name(shown.look, one.at);
    let control = &inspection.unit.control.name.value;
    let message = format!(
        "{name} of `{control}`, {}, is {figure} on what it lies on in {theme}, a mark needs 3:1",
        origin.name()
    );
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, origin.span(), message).label(format!(
        "{} on {}: {figure}",
        hex(pixel),
        hex(beside)
    ));
    if let Some(span) = origin.declaration.filter(|span| Some(*span) != diagnostic.span) {
        diagnostic = diagnostic.related(span, format!("the {}", mark.what));
    }
    let (words, mend) = match origin.token() {
        Some(_) => (String::new(), MendKind::AnotherColor),
        None => (name, MendKind::AsSaid),
    };
    let cause = Cause { spans: vec![origin.span()], words };
    let behind = one.origin_around(inspection.tracer, shown.look, 0);
    let choice = choice(inspection, [&origin, &behind], &one.styles);
    sink.fail(
        inspection,
        shown,
        Fault { cause, score: ratio / NEEDED, figures: format!("{figure}, needs 3:1"), diagnostic, mend, choice },
    );
}
