//! Which longhands do anything at all in a style: the colour of a line that is not drawn may be any.

use stilk_engine::cascade::Style;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::value::Value;

/// Whether a longhand may do something in a style; where it is not known, it may.
pub fn may_do_something(style: &Style, longhand: L) -> bool {
    let is_line = |width: L| style.px(width).map_or(true, |px| px > 0.0);
    // A list of which every part is none draws nothing.
    let has_image = |image: L| match style.get(image) {
        Ok(Value::List(list)) => !list.iter().all(|one| one.is("none")),
        Ok(value) => !value.is("none"),
        Err(_) => true,
    };
    // A colour of the ground is clipped as pictures are.
    if let Some(pictures) = longhand.pictures().filter(|_| longhand != L::BackgroundClip) {
        return has_image(pictures);
    }
    match longhand {
        L::BorderTopColor | L::BorderTopStyle => is_line(L::BorderTopWidth),
        L::BorderRightColor | L::BorderRightStyle => is_line(L::BorderRightWidth),
        L::BorderBottomColor | L::BorderBottomStyle => is_line(L::BorderBottomWidth),
        L::BorderLeftColor | L::BorderLeftStyle => is_line(L::BorderLeftWidth),
        L::OutlineColor | L::OutlineOffset | L::OutlineWidth | L::OutlineStyle => {
            // How wide the browser's own outline is it says itself.
            style.is(L::OutlineStyle, "auto") || !style.is(L::OutlineStyle, "none") && is_line(L::OutlineWidth)
        }
        L::TextDecorationColor | L::TextDecorationStyle | L::TextDecorationThickness => {
            !style.is(L::TextDecorationLine, "none")
        }
        L::BorderImageSlice | L::BorderImageWidth | L::BorderImageOutset | L::BorderImageRepeat => {
            has_image(L::BorderImageSource)
        }
        L::TextStrokeColor => is_line(L::TextStrokeWidth),
        L::TextEmphasisColor | L::TextEmphasisPosition => !style.is(L::TextEmphasisStyle, "none"),
        L::PerspectiveOrigin => !style.is(L::Perspective, "none"),
        L::Top | L::Right | L::Bottom | L::Left => !style.is(L::Position, "static"),
        L::TransformOrigin => ![L::Transform, L::Rotate, L::Scale].iter().all(|turn| style.is(*turn, "none")),
        _ => true,
    }
}
