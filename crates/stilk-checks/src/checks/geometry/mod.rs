//! Sizes and places.

pub mod anchored;
pub mod centered;
pub mod corner;
pub mod depth;
pub mod inline;
pub mod painted;
pub mod target;
pub mod travel;
pub mod variant_size;
pub mod wrap;

use crate::relevance::joined;
use stilk_engine::cascade::Style;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::layout::READS;

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

/// What sizes and places depend on, and what is drawn elsewhere than it is laid out, or not at all.
pub(super) const SIZES: [L; READS.len() + 7] =
    joined(READS, [L::Opacity, L::Rotate, L::Scale, L::TransformOrigin, L::Translate, L::Visibility, L::ZIndex]);

/// The same, and what a box paints.
const PAINTED: [L; SIZES.len() + 3] = joined(SIZES, [L::BackgroundColor, L::BackgroundImage, L::BorderTopStyle]);
