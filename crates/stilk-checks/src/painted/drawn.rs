//! What decides where boxes are drawn, beside what a layout asks for.

use stilk_engine::cascade::LonghandSet;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::layout;

/// What is drawn elsewhere than it is laid out, or not at all.
pub const DRAWN: LonghandSet = LonghandSet::of(&[
    L::Opacity,
    L::Rotate,
    L::Scale,
    L::Transform,
    L::ClipPath,
    L::TransformOrigin,
    L::Translate,
    L::Visibility,
    L::ZIndex,
]);

/// The same, and what a box paints.
pub const PAINTED: LonghandSet = DRAWN.and(&[L::BackgroundColor, L::BackgroundImage, L::BorderTopStyle]);

/// What sizes and places depend on.
pub const SIZES: LonghandSet = DRAWN.and(&layout::READS);
