//! `geometry/painted`: nothing is painted over the label, and generated boxes are there.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::{Inspection, Shown};
use crate::painted::drawn::PAINTED;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{PseudoElement, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_engine::layout::Rect;
use stilk_language::case::Look;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/painted",
    summary: "nothing is painted over the label, and a generated part has `content`",
    why: "A placed box is painted over text in flow, be it written before it: the sheen that slides in covers the words. And a \
          `::before` without `content` is no box at all, however much is declared for it.",
    source: "CSS 2, appendix E (painting order); CSS Generated Content 3, `content`",
    level: Level::Error,
    mend: "Give the label `position: relative`, or the box over it `z-index: -1` in a control with `isolation: isolate`; give \
           a generated part `content: \"\"`.",
    fails: Example::sheet(
        "@control button {\n  position: relative; display: inline-block; line-height: 20px; color: {ink}; padding: {gap};\n  @part ::before { content: \"\"; position: absolute; inset: 0; background-color: {mist}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  position: relative; display: inline-block; line-height: 20px; color: {ink}; padding: {gap};\n  @part label { position: relative; }\n  @part ::before { content: \"\"; position: absolute; inset: 0; background-color: {mist}; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::boxes(PAINTED.and(&[L::BoxShadow])).covering(), run).by_option()),
};

/// What is covered less than this shows all of its text.
const COVERED: f32 = 0.1;

fn run(inspection: &Inspection, sink: &mut Sink) {
    let rest = inspection.looks.first();
    for shown in &inspection.looks {
        let look = shown.look;
        let mut unknown = None;
        let mut order = Order::default();
        order.collect(look, look.mounted.host);
        for place in paint::text_places(look) {
            let chain = paint::styles_of(look, &place.chain);
            if paint::is_visible(&chain) != Ok(true) {
                continue;
            }
            for at in order.boxes.iter().copied() {
                if at == place.at || place.chain.contains(&at.node) && at.pseudo.is_none() {
                    continue;
                }
                let Some(style) = look.styles.of(at).filter(|style| covers(look, at.node, style)) else {
                    continue;
                };
                if !order.is_over(look, at, &place.chain) {
                    continue;
                }
                match overlap(look, at, place.at) {
                    Ok(share) if share > COVERED => over(inspection, shown, at, style, place.at.node, sink),
                    Ok(_) => {}
                    Err(reason) => unknown = Some(reason),
                }
            }
        }
        if rest.is_some_and(|rest| std::ptr::eq(rest, shown)) {
            without_content(inspection, shown, sink);
        } else {
            losing_content(inspection, shown, sink);
        }
        sink.verdict(CHECK.id, shown.stands_for, unknown);
    }
}

/// Boxes that are placed, in the order of the document: of those on one level the later is painted later.
#[derive(Default)]
struct Order {
    boxes: Vec<Styled>,
}

impl Order {
    fn collect(&mut self, look: &Look, node: NodeId) {
        for node in look.document.descendants(node) {
            for pseudo in [Some(PseudoElement::Before), None, Some(PseudoElement::After)] {
                let at = Styled { node, pseudo };
                let is_placed = look.styles.of(at).is_some_and(|style| {
                    !style.is_empty_generated() && style.is(L::Position, "absolute") && !style.is(L::Display, "none")
                });
                if is_placed {
                    self.boxes.push(at);
                }
            }
        }
    }

    /// Whether a placed box is painted over text: its layer is higher, or it comes later in the same (CSS 2, appendix E).
    fn is_over(&self, look: &Look, at: Styled, chain: &[NodeId]) -> bool {
        let level = |style: &Style| style.get(L::ZIndex).ok().and_then(stilk_engine::css::Value::as_number);
        let Some(style) = look.styles.of(at) else { return false };
        let own = level(style).unwrap_or(0.0);
        // What of the text's own boxes is placed, in the box that both are in.
        let lifted = chain.iter().skip(1).find_map(|inner| {
            let style = look.styles.element(*inner)?;
            let holds = look.document.descendants(*inner).contains(&at.node);
            let makes_layer = !style.is(L::Position, "static")
                || [L::Transform, L::Translate, L::Scale, L::Rotate, L::Filter].iter().any(|l| !style.is(*l, "none"));
            (makes_layer && !holds).then(|| (*inner, level(style).unwrap_or(0.0)))
        });
        match lifted {
            None => own >= 0.0,
            Some((inner, other)) if own == other => match at.pseudo {
                Some(PseudoElement::Before) if look.document.descendants(at.node).contains(&inner) => false,
                Some(PseudoElement::After) if look.document.descendants(at.node).contains(&inner) => true,
                _ => at.node.index() > inner.index(),
            },
            Some((_, other)) => own > other,
        }
    }
}

/// Whether a box paints enough to hide what is under it.
fn covers(look: &Look, node: NodeId, style: &Style) -> bool {
    const OPAQUE: f64 = 0.5;
    let chain = paint::styles_of(look, &paint::chain(look, node));
    let opacity: f64 = chain
        .iter()
        .copied()
        .chain([style])
        .map(|style| style.get(L::Opacity).ok().and_then(stilk_engine::css::Value::as_number).unwrap_or(1.0))
        .product();
    let is_seen = paint::is_visible(&chain) == Ok(true) && paint::is_visible(&[style]) == Ok(true);
    let fill = style.used_color(L::BackgroundColor).map_or(0.0, |color| color.alpha);
    is_seen && (fill * opacity >= OPAQUE || opacity >= OPAQUE && paint::is_covered(style) == Ok(true))
}

/// How much of a text lies under a box, 0 to 1.
fn overlap(look: &Look, over: Styled, text: Styled) -> Result<f32, Unknown> {
    let layout = look.layout()?;
    let cover = look.drawn(over)?;
    let place = layout.text_of(text).ok_or(Unknown("where its text stands"))?.rect()?;
    let area = |rect: &Rect| rect.width * rect.height;
    Ok(cover.common(&place).map_or(0.0, |both| area(&both) / area(&place).max(0.01)))
}

fn over(inspection: &Inspection, shown: &Shown, at: Styled, style: &Style, text: NodeId, sink: &mut Sink) {
    let control = &inspection.unit.control.name;
    let (name, text) = (element_name(shown.look, at), element_name(shown.look, Styled::element(text)));
    let place = inspection.tracer.origin(style, L::Position).declaration;
    let text = if text == "the control" { "the text".to_owned() } else { text };
    let message = format!("{name} of `{}` is painted over {text}", control.value);
    let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
        .label("placed boxes are painted over text in flow")
        .mend(format!(
            "write `position: relative` for {text}, or `z-index: -1` here and `isolation: isolate` on the control"
        ));
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
    sink.fail(
        inspection,
        shown,
        Fault {
            cause,
            score: 0.0,
            figures: "covers the label".into(),
            diagnostic,
            mend: MendKind::AsSaid,
            choice: None,
        },
    );
}

/// Generated parts for which something is declared, and nothing generates them.
fn without_content(inspection: &Inspection, shown: &Shown, sink: &mut Sink) {
    let look = shown.look;
    let control = inspection.unit.control;
    for node in look.document.descendants(look.mounted.host) {
        // What another control generates is that control's matter.
        if look.mounted.placed.iter().any(|(placed, _)| look.document.descendants(*placed).contains(&node)) {
            continue;
        }
        for pseudo in PseudoElement::GENERATED {
            let at = Styled::pseudo(node, pseudo);
            if let Some(longhand) = declared_in_vain(inspection, shown, at) {
                fail_without(inspection, shown, at, (longhand, Lack::Place), sink);
                continue;
            }
            // In some variant or state it is there.
            let generates = |rule: &stilk_language::system::Rule| {
                rule.target.pseudo_element() == Some(pseudo)
                    && rule.declarations.iter().any(|d| d.name.value == "content")
            };
            if control.rules.iter().any(generates) {
                continue;
            }
            let Some(style) = look.styles.of(at) else { continue };
            let drawn = [L::BackgroundColor, L::BackgroundImage, L::BorderTopStyle, L::Width, L::Height, L::Position];
            let is_declared = |l: &L| style.winner(*l).is_some_and(|id| id.sheet != 0);
            // Nothing may be meant: `content: none` takes it away.
            if !style.is_empty_generated() || style.winner(L::Content).is_some_and(|id| id.sheet != 0) {
                continue;
            }
            let ever = inspection
                .looks
                .iter()
                .any(|other| other.look.styles.of(at).is_some_and(|style| !style.is_empty_generated()));
            let Some(first) = drawn.into_iter().find(is_declared).filter(|_| !ever) else { continue };
            fail_without(inspection, shown, at, (first, Lack::Content), sink);
        }
    }
}

/// Why there is no such box.
#[derive(Clone, Copy)]
enum Lack {
    /// Nothing says what is in it.
    Content,
    /// A state takes away what was in it.
    ContentInState,
    /// No browser paints one there.
    Place,
}

/// What is declared for a generated box that no browser paints, of a control on one host; of several, hosts are held against
/// each other by another check.
fn declared_in_vain(inspection: &Inspection, shown: &Shown, at: Styled) -> Option<L> {
    let style = shown.look.styles.of(at)?;
    let is_meant = !style.is(L::Content, "none") && !style.is(L::Content, "normal") && !style.is(L::Display, "none");
    let is_alone = inspection.unit.control.template.hosts.len() == 1;
    let is_declared = style.winner(L::Content).is_some_and(|id| id.sheet != 0);
    (style.is_never_generated() && is_meant && is_alone && is_declared).then_some(L::Content)
}

/// Generated boxes of which a state says how they are seen while it takes their content away.
fn losing_content(inspection: &Inspection, shown: &Shown, sink: &mut Sink) {
    let Some(rest) = inspection.rest() else { return };
    let is_of_state = |span| {
        let mut rules = inspection.unit.control.rules.iter().filter(|rule| !rule.states.is_rest());
        rules.any(|rule| rule.declarations.iter().any(|declaration| declaration.span == span))
    };
    for node in shown.look.document.descendants(shown.look.mounted.host) {
        for pseudo in PseudoElement::GENERATED {
            let at = Styled::pseudo(node, pseudo);
            let (Some(before), Some(style)) = (rest.look.styles.of(at), shown.look.styles.of(at)) else { continue };
            if before.is_empty_generated() || !style.is_empty_generated() {
                continue;
            }
            let said = SAID_OF_IT.into_iter().find(|longhand| {
                style.get(*longhand) != before.get(*longhand)
                    && inspection.tracer.origin(style, *longhand).declaration.is_some_and(is_of_state)
            });
            if let Some(longhand) = said {
                fail_without(inspection, shown, at, (longhand, Lack::ContentInState), sink);
            }
        }
    }
}

/// What a state says of a generated box that it wants to be seen.
const SAID_OF_IT: [L; 7] =
    [L::Visibility, L::Opacity, L::Scale, L::ClipPath, L::BackgroundColor, L::Translate, L::Transform];

fn fail_without(inspection: &Inspection, shown: &Shown, at: Styled, (longhand, lack): (L, Lack), sink: &mut Sink) {
    let Some(style) = shown.look.styles.of(at) else { return };
    let control = &inspection.unit.control.name;
    let name = element_name(shown.look, at);
    let place = inspection.tracer.origin(style, longhand).declaration;
    let state = inspection.system.states.set_name(shown.states).replace('+', " and ");
    let (message, label, mend) = match lack {
        Lack::Content => (
            format!("{name} of `{}` has no `content`, so there is no such box", control.value),
            "declared for a box that is not there",
            "write `content: \"\";` beside it",
        ),
        Lack::ContentInState => (
            format!("{name} of `{}` has no `content` in {state}, so there is no such box", control.value),
            "declared for a box that is not there in this state",
            "leave `content` as it is at rest",
        ),
        Lack::Place => (
            format!("no browser paints {name} of `{}`", control.value),
            "such an element has no generated boxes",
            "draw it on an element around it",
        ),
    };
    let diagnostic =
        Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message).label(label).mend(mend);
    let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
    let figures = "no box".to_owned();
    sink.fail(
        inspection,
        shown,
        Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
    );
}
