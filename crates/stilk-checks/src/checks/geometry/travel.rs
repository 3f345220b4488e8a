//! `geometry/travel`: a thumb stands as far from one end as from the other.

use crate::check::{Check, Looks, Scope};
use crate::checks::geometry::definite;
use crate::checks::state::slips::offset;
use crate::example::Example;
use crate::inspection::Inspection;
use crate::mend::length::Sum;
use crate::painted::drawn::DRAWN;
use crate::painted::visible::element_name;
use crate::relevance::reads::{Reads, StatesAsked};
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::Styled;
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;
use stilk_language::system::StateId;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/travel",
    summary: "a thumb's gap to its track is the same at both ends",
    why: "A thumb that travels a px too far touches the edge when it is on: people nudge the number until it looks right, in \
          one size.",
    source: "CSS 2, chapter 8 (box model); CSS Transforms 2, translate",
    level: Level::Error,
    mend: "Let the thumb travel by what the track leaves it: the track's width less the thumb's and both gaps.",
    fails: Example::drawn(
        SWITCH,
        "@control switch {\n  @part native { position: absolute; opacity: 0; }\n  @part track { position: relative; display: block; box-sizing: border-box; inline-size: 40px; block-size: 24px; padding: 4px; background: {ink}; }\n  @part thumb { display: block; inline-size: 16px; block-size: 16px; background: {paper}; }\n  @state checked { @part thumb { translate: 20px 0; } }\n}\n",
    ),
    passes: Example::drawn(
        SWITCH,
        "@control switch {\n  @part native { position: absolute; opacity: 0; }\n  @part track { position: relative; display: block; box-sizing: border-box; inline-size: 40px; block-size: 24px; padding: 4px; background: {ink}; }\n  @part thumb { display: block; inline-size: 16px; block-size: 16px; background: {paper}; }\n  @state checked { @part thumb { translate: 16px 0; } }\n}\n",
    ),
    scope: Scope::Looks(
        Looks::new(Reads::boxes(DRAWN).in_states(StatesAsked::Alone(&[StateId::Checked])), run).by_option(),
    ),
};

const SWITCH: &str = "<label><span part=\"track\"><input type=\"checkbox\" role=\"switch\" part=\"native\"><span part=\"thumb\"></span></span><slot>Dogs</slot></label>\n";

fn run(inspection: &Inspection, sink: &mut Sink) {
    let (Some(rest), Some(on)) = (inspection.rest(), inspection.in_state(StateId::Checked)) else { return };
    for (at, parent) in thumbs(on.look) {
        // The layout knows more than values do, but not of every control.
        let laid_out = |look: &Look| {
            let [left, _, right, _] = look.gaps(at, Styled::element(parent)).ok()?;
            Some((f64::from(left), f64::from(right)))
        };
        let by_values = |look: &Look| if at.pseudo.is_some() { None } else { gaps(look, at.node, parent) };
        let ends = laid_out(rest.look).zip(laid_out(on.look));
        let Some((start, end)) = ends.or_else(|| by_values(rest.look).zip(by_values(on.look))) else {
            let moves = |look: &Look| {
                let style = look.styles.of(at)?;
                Some(MOVING.map(|longhand| style.get(longhand).cloned()))
            };
            if moves(rest.look) != moves(on.look) {
                sink.unknown(CHECK.id, on.stands_for, Unknown("how far a thumb is from its ends takes a layout"));
            }
            continue;
        };
        let (from, to) = (start.0, end.0);
        // What grows on the spot travels nowhere.
        let grows = (start.0 + start.1 - end.0 - end.1).abs() > 0.5;
        if (from - to).abs() < 0.01 || grows {
            continue;
        }
        sink.decided(CHECK.id, on.stands_for);
        let (left, right) = (start.0.min(end.0), start.1.min(end.1));
        if (left - right).abs() <= 0.5 {
            continue;
        }
        let Some(style) = on.look.styles.of(at) else { continue };
        let moved = rest
            .look
            .styles
            .of(at)
            .and_then(|before| MOVING.into_iter().find(|longhand| before.get(*longhand) != style.get(*longhand)));
        let place = inspection.tracer.origin(style, moved.unwrap_or(L::Translate)).declaration;
        let control = &inspection.unit.control.name;
        let name = element_name(on.look, at);
        let message = format!(
            "{name} of `{}` stands {}px from one end of its track and {}px from the other",
            control.value,
            number(left),
            number(right)
        );
        let travel = to - from + (right - left);
        let sum = place
            .filter(|_| at.pseudo.is_none())
            .and_then(|place| leaves(inspection, rest.look, (at.node, parent), place));
        let css = sum.map_or_else(|| Sum::default().css(travel), |sum| sum.css(travel));
        let edit = inspection.rewrite(style, L::Translate, to - from, &css);
        let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
            .label(format!("travels {}px", number(to - from)))
            .mend(format!("let it travel `{css}`: the track less the thumb and both gaps"))
            .edit(edit);
        let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
        let figures = format!("{}px and {}px", number(left), number(right));
        sink.fail(
            inspection,
            on,
            Fault { cause, score: -(left - right).abs(), figures, diagnostic, mend: MendKind::AsSaid, choice: None },
        );
    }
}

/// What moves a thumb.
const MOVING: [L; 6] = [L::Translate, L::Transform, L::Left, L::Right, L::MarginLeft, L::MarginRight];

/// What may travel: parts in the elements around them, and what is generated in a native control that is drawn anew.
fn thumbs(look: &Look) -> Vec<(Styled, NodeId)> {
    let parts = look.mounted.elements().filter(|(_, node)| *node != look.mounted.host);
    let parts = parts.filter_map(|(_, node)| Some((Styled::element(node), look.document.node(node).parent?)));
    let generated = look.document.descendants(look.mounted.host).into_iter().flat_map(|node| {
        let [_, before, after] = Styled::with_generated(node);
        [before, after]
    });
    let generated = generated.filter(|at| {
        look.styles.of(*at).is_some_and(|style| !style.is_empty_generated() && !style.is(L::Display, "none"))
    });
    parts.chain(generated.map(|at| (at, at.node))).collect()
}

/// What a track leaves its thumb to travel, as the sheet at this place calls it.
fn leaves(inspection: &Inspection, look: &Look, (thumb, track): (NodeId, NodeId), place: Span) -> Option<Sum> {
    let (thumb, track) = (look.styles.element(thumb)?, look.styles.element(track)?);
    let length = |style, longhand| inspection.length(style, longhand, place);
    let own = [L::PaddingLeft, L::PaddingRight, L::BorderLeftWidth, L::BorderRightWidth];
    let mut sum = Sum::default();
    for (factor, style) in [(1.0, track), (-1.0, thumb)] {
        sum = sum.and(factor, length(style, L::Width)?);
        if !style.is(L::BoxSizing, "border-box") {
            for side in own {
                sum = sum.and(factor, length(style, side)?);
            }
        }
    }
    let inset = if thumb.is(L::Position, "absolute") { length(thumb, L::Left) } else { length(track, L::PaddingLeft) };
    let border = length(track, L::BorderLeftWidth)?;
    Some(sum.and(-2.0, inset?).and(-2.0, border))
}

/// The gaps of a box to the inner edges of its parent, left and right, in px.
fn gaps(look: &Look, node: NodeId, parent: NodeId) -> Option<(f64, f64)> {
    let (style, track) = (look.styles.element(node)?, look.styles.element(parent)?);
    let (width, whole) = (definite(style, true)?, definite(track, true)?);
    let borders = (track.px(L::BorderLeftWidth).ok()?, track.px(L::BorderRightWidth).ok()?);
    let inner = whole - borders.0 - borders.1;
    let (moved, _) = offset(style)?;
    let is_absolute = style.is(L::Position, "absolute");
    let starts = ["normal", "start", "flex-start", "left"].iter().any(|word| track.is(L::JustifyContent, word));
    let is_ltr = !track.is(L::Direction, "rtl");
    let left = match is_absolute {
        true => match (style.px(L::Left), style.px(L::Right)) {
            (Ok(left), _) => left,
            (_, Ok(right)) => inner - right - width,
            _ => return None,
        },
        // In flow it stands at the start; whatever is before it in the track is out of the flow.
        false if starts && is_ltr => track.px(L::PaddingLeft).ok()? + style.px(L::MarginLeft).ok()?,
        false => return None,
    };
    let alone = look.document.child_elements(parent).all(|other| {
        other == node
            || look
                .styles
                .element(other)
                .is_some_and(|style| style.is(L::Position, "absolute") || style.is(L::Display, "none"))
    });
    if !is_absolute && !alone {
        return None;
    }
    let left = left + moved;
    Some((left, inner - left - width))
}
