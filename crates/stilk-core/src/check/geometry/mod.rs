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

/// What sizes and places depend on.
pub(super) const SIZES: [L; 49] = [
    L::AlignContent,
    L::AlignItems,
    L::AlignSelf,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::BorderRightWidth,
    L::BorderTopWidth,
    L::Bottom,
    L::BoxSizing,
    L::ColumnGap,
    L::Content,
    L::Display,
    L::FlexBasis,
    L::FlexDirection,
    L::FlexGrow,
    L::FlexShrink,
    L::FlexWrap,
    L::FontSize,
    L::GridTemplateColumns,
    L::GridTemplateRows,
    L::Height,
    L::JustifyContent,
    L::JustifyItems,
    L::JustifySelf,
    L::Left,
    L::LineHeight,
    L::MarginBottom,
    L::MarginLeft,
    L::MarginRight,
    L::MarginTop,
    L::MaxWidth,
    L::MinHeight,
    L::MinWidth,
    L::Opacity,
    L::PaddingBottom,
    L::PaddingLeft,
    L::PaddingRight,
    L::PaddingTop,
    L::Position,
    L::Right,
    L::RowGap,
    L::Scale,
    L::Top,
    L::Transform,
    L::Translate,
    L::VerticalAlign,
    L::Visibility,
    L::Width,
    L::ZIndex,
];

/// The same, and what a box paints.
const PAINTED: [L; SIZES.len() + 2] = {
    let mut all = [L::BackgroundColor; SIZES.len() + 2];
    all[SIZES.len()] = L::BackgroundImage;
    let mut index = 0;
    while index < SIZES.len() {
        all[index] = SIZES[index];
        index += 1;
    }
    all
};
