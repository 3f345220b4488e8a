//! Sizes and places.

pub mod anchored;
pub mod centered;
pub mod corner;
pub mod depth;
pub mod inline;
pub mod mirrored;
pub mod painted;
pub mod target;
pub mod travel;
pub mod variant_size;
pub mod wrap;

use stilk_engine::cascade::Style;
use stilk_engine::css::property::Longhand as L;

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
