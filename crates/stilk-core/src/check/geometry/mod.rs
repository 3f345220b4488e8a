//! Sizes and places, as far as values tell them without a layout.

pub mod anchored;
pub mod corner;
pub mod depth;
pub mod inline;
pub mod travel;
pub mod variant_size;

use crate::css::property::Longhand as L;
use crate::engine::Style;

/// The border box in px where width and height are given in px.
fn definite(style: &Style, horizontal: bool) -> Option<f64> {
    let (size, edges) = match horizontal {
        true => (L::Width, [L::PaddingLeft, L::PaddingRight, L::BorderLeftWidth, L::BorderRightWidth]),
        false => (L::Height, [L::PaddingTop, L::PaddingBottom, L::BorderTopWidth, L::BorderBottomWidth]),
    };
    let px = style.px(size).ok()?;
    let edges: f64 = edges.iter().map(|edge| style.px(*edge)).sum::<Result<f64, _>>().ok()?;
    Some(if style.is(L::BoxSizing, "border-box") { px.max(edges) } else { px + edges })
}
