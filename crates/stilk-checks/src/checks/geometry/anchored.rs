//! `geometry/anchored`: placed parts belong to their control.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::paint;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style, Styled};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "geometry/anchored",
    summary: "an absolutely placed part has the control as containing block, and is placed on both axes once",
    why: "Without `position: relative` around it, a placed part belongs to whatever is placed further out on the page, and \
          turns up somewhere else. A part without an inset stands wherever the text left off.",
    source: "CSS Positioned Layout 3, sections 2.1 and 4",
    level: Level::Error,
    mend: "Write `position: relative` on the control, or on the part around it, and an inset for each axis.",
    fails: Example::drawn(
        BADGE,
        "@control button {\n  background: {sea}; color: {paper};\n  @part badge { position: absolute; top: 0; right: 0; }\n}\n",
    ),
    passes: Example::drawn(
        BADGE,
        "@control button {\n  position: relative; background: {sea}; color: {paper};\n  @part badge { position: absolute; top: 0; right: 0; }\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS), run).by_option()),
};

const BADGE: &str =
    "<button type=\"button\"><span part=\"label\"><slot>Book</slot></span><span part=\"badge\">2</span></button>\n";

const READS: LonghandSet = LonghandSet::of(&[
    L::ClipPath,
    L::Filter,
    L::MarginBottom,
    L::MarginLeft,
    L::MarginRight,
    L::MarginTop,
    L::Opacity,
    L::Visibility,
    L::Position,
    L::Top,
    L::Right,
    L::Bottom,
    L::Left,
    L::Width,
    L::Height,
    L::Transform,
    L::Translate,
    L::Rotate,
    L::Scale,
    L::Display,
    L::Content,
]);

/// Whether a box is the containing block of placed boxes within it.
fn contains(style: &Style) -> bool {
    !style.is(L::Position, "static")
        || [L::Transform, L::Translate, L::Rotate, L::Scale, L::Filter].iter().any(|l| !style.is(*l, "none"))
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        let look = shown.look;
        let (mut any, mut unknown) = (false, None);
        for node in look.document.descendants(look.mounted.host) {
            for at in Styled::with_generated(node) {
                let Some(style) = look.styles.of(at) else { continue };
                let is_there = !style.is_empty_generated() && !style.is(L::Display, "none");
                if !style.is(L::Position, "absolute") || !is_there || (node == look.mounted.host && at.pseudo.is_none())
                {
                    continue;
                }
                any = true;
                let chain = paint::chain(look, node);
                let mut around = paint::styles_of(look, &chain);
                if at.pseudo.is_none() {
                    around.pop();
                }
                let name = element_name(look, at);
                let control = &inspection.unit.control.name;
                let said = if !around.iter().any(|style| contains(style)) {
                    Some((
                        format!("{name} of `{}` is placed, but nothing of the control around it is", control.value),
                        "placed against whatever is further out on the page".to_owned(),
                        "write `position: relative` on the control or on a part around it",
                        L::Position,
                    ))
                } else if let Some((axis, longhand)) = twice(style) {
                    Some((
                        format!("{name} of `{}` is placed twice {axis}: two insets and a size", control.value),
                        "one of the three is not used".to_owned(),
                        "take one out, or write `margin: auto` to centre it between the insets",
                        longhand,
                    ))
                } else {
                    around.push(style);
                    let is_seen = |_: &&str| {
                        paint::is_visible(&around).unwrap_or_else(|reason| {
                            unknown = Some(reason);
                            false
                        })
                    };
                    nowhere(style).filter(is_seen).map(|axis| {
                        (
                            format!("{name} of `{}` is placed, but nowhere {axis}", control.value),
                            "stands wherever the text left off".to_owned(),
                            "write an inset for that axis",
                            L::Position,
                        )
                    })
                };
                let Some((message, label, mend, longhand)) = said else { continue };
                let place = inspection.tracer.origin(style, longhand).declaration;
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                    .label(label)
                    .mend(mend);
                let cause = Cause { spans: vec![place.or(Some(control.span))], words: name };
                sink.fail(
                    inspection,
                    shown,
                    Fault {
                        cause,
                        score: 0.0,
                        figures: "not anchored".into(),
                        diagnostic,
                        mend: MendKind::AsSaid,
                        choice: None,
                    },
                );
            }
        }
        if any {
            sink.verdict(CHECK.id, shown.stands_for, unknown);
        }
    }
}

/// The axis on which a box has two insets and a size that do not agree.
fn twice(style: &Style) -> Option<(&'static str, L)> {
    let axes = [
        ("across", L::Left, L::Right, L::Width, L::MarginLeft, L::MarginRight),
        ("downwards", L::Top, L::Bottom, L::Height, L::MarginTop, L::MarginBottom),
    ];
    for (name, start, end, size, before, after) in axes {
        let is_auto = |longhand: L| style.is(longhand, "auto");
        let size_css = style.get(size).map(to_css).unwrap_or_default();
        if !is_auto(start)
            && !is_auto(end)
            && !is_auto(size)
            && size_css != "100%"
            && !is_auto(before)
            && !is_auto(after)
        {
            return Some((name, size));
        }
    }
    None
}

/// The axis on which a box has no inset; what is there for screen readers only stands where it likes.
fn nowhere(style: &Style) -> Option<&'static str> {
    let is_unseen = !style.is(L::ClipPath, "none")
        || [L::Width, L::Height].iter().all(|side| style.px(*side).is_ok_and(|px| px <= 1.0));
    let axes = [("across", L::Left, L::Right), ("downwards", L::Top, L::Bottom)];
    let is_auto = |longhand: L| style.is(longhand, "auto");
    axes.into_iter().find(|(_, start, end)| !is_unseen && is_auto(*start) && is_auto(*end)).map(|(axis, ..)| axis)
}
