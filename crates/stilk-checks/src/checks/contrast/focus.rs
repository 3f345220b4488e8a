//! `contrast/focus`: people see where the keyboard is.

use crate::check::{Check, Looks, Scope};
use crate::choice::choice;
use crate::example::Example;
use crate::gather::Met;
use crate::inspection::{Inspection, Shown};
use crate::mend::length::Sum;
use crate::painted::boxes::{self, Mark, Ring, rings};
use crate::painted::least::{Beside, over_surfaces};
use crate::painted::origin::background_origin;
use crate::painted::paint::{self, Pixel, Stack, floor, hex};
use crate::painted::text::is_inactive;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use crate::trace::ValueSource;
use stilk_engine::cascade::{LonghandSet, Style};
use stilk_engine::css::Unknown;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Edit, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "contrast/focus",
    summary: "what focus adds has a contrast of at least 3:1 with the page, and with the control where it touches it, and is at least 2px wide",
    why: "Who works with the keyboard finds their place by the focus ring alone.",
    source: "WCAG 2.2, 2.4.7 Focus Visible, 1.4.11 Non-text Contrast, and 2.4.13 Focus Appearance for its size",
    level: Level::Error,
    mend: "Write `outline: 2px solid` in a colour of 3:1 with every surface, and a positive `outline-offset`, so that the \
           page shows between ring and control.",
    fails: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state focus { outline: 2px solid {mist}; outline-offset: 2px; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  @state focus { outline: 2px solid {rust}; outline-offset: 2px; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS).with_icons(), run)),
};

/// Boxes, and the outlines around them.
const READS: LonghandSet = boxes::READS.and(&[L::OutlineStyle, L::OutlineColor, L::OutlineOffset, L::OutlineWidth]);

const NEEDED: f64 = 3.0;
const WIDTH: f64 = 2.0;

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        if is_inactive(shown.states) || !shown.states.has(StateId::Focus) {
            continue;
        }
        let Some(without) = without_focus(inspection, shown) else { continue };
        match judge(inspection, without.look, shown, sink) {
            Ok(true) => sink.decided(CHECK.id, shown.stands_for),
            Ok(false) => {}
            Err(reason) => sink.unknown(CHECK.id, shown.stands_for, reason),
        }
    }
}

/// The look that focus is added to: what other states bring is none of its doing. Of sets that look alike the smallest is
/// there.
fn without_focus<'a, 'i>(inspection: &'a Inspection<'i>, shown: &Shown) -> Option<&'a Shown<'i>> {
    let is_less = |other: &&Shown| !other.states.has(StateId::Focus) && shown.states.covers(other.states);
    inspection.looks.iter().filter(is_less).max_by_key(|other| other.states.len())
}

/// Something that focus adds or changes.
struct Sign {
    what: &'static str,
    ratio: f64,
    width: f64,
    pixel: Pixel,
    beside: Pixel,
    origin: ValueSource,
    /// What makes it wide enough, where that can be written.
    wider: Option<Edit>,
}

fn judge<'i>(inspection: &Inspection<'i>, rest: &'i Look, shown: &Shown<'i>, sink: &mut Sink) -> Result<bool, Unknown> {
    let signs = signs(inspection, rest, shown.look)?;
    // One sign that is good enough serves; no sign at all is for `state/missing` to say.
    let good = |sign: &Sign| sign.ratio >= NEEDED && sign.width >= WIDTH;
    if signs.is_empty() {
        return Ok(false);
    }
    let rank = |sign: &Sign| (sign.ratio / NEEDED).min(sign.width / WIDTH);
    let Some(best) = signs.iter().max_by(|a, b| rank(a).total_cmp(&rank(b))) else { return Ok(false) };
    if sink.gathers() {
        sink.meet(
            inspection,
            shown,
            &Met { sides: [(best.pixel, &best.origin), (best.beside, &ValueSource::default())], needed: NEEDED },
        );
    }
    if good(best) {
        return Ok(true);
    }
    let theme = inspection.system.tokens.theme_name(&inspection.unit.theme);
    let control = &inspection.unit.control.name.value;
    let figure = format!("{:.2}:1", floor(best.ratio));
    let (message, figures) = if best.ratio < NEEDED {
        let beside = if best.what == "ring" { "beside it" } else { "before" };
        (
            format!(
                "the focus {} of `{control}`, {}, is {figure} with what is {beside} in {theme}, it needs 3:1",
                best.what,
                best.origin.name()
            ),
            format!("{figure}, needs 3:1"),
        )
    } else {
        let width = number(best.width);
        (
            format!("the focus {} of `{control}` is {width}px wide, it needs 2px to be found", best.what),
            format!("{width}px, needs 2px"),
        )
    };
    // A width is no matter of colours: where the line is drawn is what a person would edit.
    let is_of_color = best.ratio < NEEDED;
    let place = if is_of_color { best.origin.span() } else { best.origin.declaration.or(best.origin.span()) };
    let mut diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place, message).label(format!(
        "{} with {}: {figure}",
        hex(best.pixel),
        hex(best.beside)
    ));
    if let Some(span) = best.origin.declaration.filter(|span| Some(*span) != diagnostic.span) {
        diagnostic = diagnostic.related(span, format!("the {}", best.what));
    }
    if best.ratio >= NEEDED
        && let Some(edit) = &best.wider
    {
        diagnostic = diagnostic.mend(format!("write `{}` for its width", edit.text)).edit(Some(edit.clone()));
    }
    let (words, mend) = match best.ratio < NEEDED {
        true => ("", MendKind::AnotherColor),
        false => ("width", MendKind::AsSaid),
    };
    let cause = Cause { spans: vec![place], words: words.into() };
    let around = background_origin(inspection.tracer, shown.look, &[], 0);
    let choice = if is_of_color { choice(inspection, [&best.origin, &around], &[]) } else { None };
    sink.fail(inspection, shown, Fault { cause, score: rank(best), figures, diagnostic, mend, choice });
    Ok(true)
}

/// Everything that focus adds to the look without it.
fn signs<'i>(inspection: &Inspection<'i>, rest: &'i Look, look: &'i Look) -> Result<Vec<Sign>, Unknown> {
    let mut signs = Vec::new();
    for node in look.document.descendants(look.mounted.host) {
        let around = paint::styles_of(look, &paint::chain(look, node));
        if around.is_empty() || look.document.element(node).is_none() || !paint::is_visible(&around)? {
            continue;
        }
        for at in look.styles.boxes(node) {
            let mut styles = around.clone();
            if at.pseudo.is_some() {
                let Some(style) = look.styles.of(at) else { continue };
                styles.push(style);
            }
            let before = rest.styles.of(at);
            let style = styles[styles.len() - 1];
            let outline = |style: &Style| {
                let there = !style.is(L::OutlineStyle, "none") && style.px(L::OutlineWidth).unwrap_or(0.0) > 0.0;
                there.then(|| style.used_color(L::OutlineColor).ok()).flatten()
            };
            if style.is(L::OutlineStyle, "auto") {
                return Err(Unknown("each browser draws its own focus ring"));
            }
            if let Some(color) = outline(style)
                && before.is_none_or(|before| outline(before) != Some(color))
            {
                let offset = style.px(L::OutlineOffset)?;
                let width = style.px(L::OutlineWidth)?;
                let origin = inspection.tracer.color_origin(style, L::OutlineColor);
                let within = if offset > 0.0 { RingNeighbour::Page } else { RingNeighbour::Control };
                let sign = ring(look, &styles, &color, (width, within), origin)?;
                signs.push(Sign { wider: wider(inspection, style, width), ..sign });
            }
            let known = before.map_or(Ok(Vec::new()), |before| rings(before))?;
            // A ring that was there before is none of focus, be it that less of it is left.
            let is_new = |ring: &Ring| !known.iter().any(|old| (old.color, old.edge) == (ring.color, ring.edge));
            for Ring { color, width, around, .. } in rings(style)?.into_iter().filter(is_new) {
                let origin = inspection.tracer.origin(style, L::BoxShadow);
                let within = around.map_or(RingNeighbour::Control, RingNeighbour::Ring);
                signs.push(ring(look, &styles, &color, (width, within), origin)?);
            }
        }
    }
    if signs.is_empty() {
        changed(inspection, rest, look, &mut signs)?;
    }
    Ok(signs)
}

/// The edit that makes an outline as wide as it must be: a name that others build on stays, as the least it may be.
fn wider(inspection: &Inspection, style: &Style, width: f64) -> Option<Edit> {
    if width >= WIDTH {
        return None;
    }
    let own = Sum::default().and(1.0, inspection.length_in(style, L::OutlineWidth, width)).css(width);
    let is_name = own.contains(['{', '(']);
    let css = if is_name { format!("max({own}, {}px)", number(WIDTH)) } else { format!("{}px", number(WIDTH)) };
    inspection.rewrite(style, L::OutlineWidth, width, &css)
}

/// What a ring touches on its inner side.
enum RingNeighbour {
    /// The page shows through a gap.
    Page,
    /// The control itself.
    Control,
    /// Another ring.
    Ring(Absolute),
}

/// A ring beside the page, and beside what it lies around.
fn ring(
    look: &Look,
    styles: &[&Style],
    color: &Absolute,
    (width, within): (f64, RingNeighbour),
    origin: ValueSource,
) -> Result<Sign, Unknown> {
    let outer = Stack::of(&styles[..styles.len() - 1])?;
    let control = if matches!(within, RingNeighbour::Control) { Some(Stack::of(styles)?) } else { None };
    let worst = over_surfaces(look, |_, surface| {
        let mut beside = outer.behind(look, surface)?;
        if let Some(control) = &control {
            beside.extend(control.behind(look, surface)?);
        }
        if let RingNeighbour::Ring(inner) = &within {
            beside.extend(outer.painted(look, surface, inner)?);
        }
        let pixels = outer.painted(look, surface, color)?;
        Ok(Beside::least_of_all(&pixels, &beside).map(|least| (least, ())))
    })?;
    let (Beside { ratio, pixel, beside }, ()) = worst.ok_or(Unknown("there is no surface"))?;
    Ok(Sign { what: "ring", ratio, width, pixel, beside, origin, wider: None })
}

/// Where there is no ring: borders and fills that become others.
fn changed<'i>(
    inspection: &Inspection<'i>,
    rest: &'i Look,
    look: &'i Look,
    signs: &mut Vec<Sign>,
) -> Result<(), Unknown> {
    let (before, after) = (inspection.boxes(rest), inspection.boxes(look));
    let before = before.as_ref().as_ref().map_err(|reason| *reason)?;
    for after in after.as_ref().as_ref().map_err(|reason| *reason)? {
        let Some(before) = before.iter().find(|before| before.at == after.at) else { continue };
        for mark in &after.marks {
            // Sides may have colours of their own.
            let same = |old: &&Mark| (old.what, old.longhand) == (mark.what, mark.longhand);
            let Some(old) = before.marks.iter().find(same) else { continue };
            if old.color == mark.color {
                continue;
            }
            let (is, was) = (Stack::of(after.around())?, Stack::of(before.around())?);
            let worst = over_surfaces(look, |_, surface| {
                let new = is.painted(look, surface, &mark.color)?;
                let old = was.painted(rest, surface, &old.color)?;
                Ok(Beside::least(new.into_iter().zip(old)).map(|least| (least, ())))
            })?;
            let Some((Beside { ratio, pixel, beside }, ())) = worst else { continue };
            let origin = inspection.tracer.color_origin(after.style(), mark.longhand);
            signs.push(Sign { what: mark.what, ratio, width: mark.width, pixel, beside, origin, wider: None });
        }
    }
    Ok(())
}
