//! Where what is behind a text or a mark came from.

use crate::painted::paint::is_covered;
use crate::trace::{Tracer, ValueSource};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;

/// Where the backgrounds that show behind the text came from, the topmost first.
pub fn background_origin(tracer: &Tracer, look: &Look, chain: &[NodeId], surface: usize) -> ValueSource {
    let mut origin = ValueSource::default();
    let host = look.mounted.host;
    // In its place on a page, what is around it is behind it.
    let around = look.document.around(host).skip(1).filter(|_| look.behind.is_some());
    for node in chain.iter().rev().copied().chain(around) {
        let Some(style) = look.styles.element(node) else { continue };
        if is_covered(style) == Ok(true) {
            return origin.and(tracer.origin(style, L::BackgroundImage));
        }
        let alpha = style.used_color(L::BackgroundColor).map_or(0.0, |color| color.alpha);
        if alpha > 0.0 {
            origin = origin.and(tracer.origin(style, L::BackgroundColor));
        }
        if alpha == 1.0 {
            return origin;
        }
    }
    let node = look.surfaces.get(surface).copied();
    let text = node.and_then(|n| look.document.element(n)).and_then(|e| e.attribute("style")).unwrap_or_default();
    match node.and_then(|node| look.styles.element(node)) {
        Some(_) if !tracer.names_surfaces() => origin.and(ValueSource::page()),
        Some(style) => origin.and(tracer.text_origin(style, text)),
        None => origin,
    }
}
