//! Looks: what people see of a control at rest. Equal ones are one look; some nearly are.

use stilk_engine::cascade::{LonghandSet, PseudoElement, Style, Styled};
use stilk_engine::css::color::{Absolute, Color, Space};
use stilk_engine::css::compute::resolve_colors;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_language::case::Look;

/// What makes a look: what is seen of a box, wherever it stands.
pub const LOOKS: LonghandSet = LonghandSet::of(&[
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackgroundPositionX,
    L::BackgroundPositionY,
    L::BackgroundSize,
    L::BorderBottomColor,
    L::BorderBottomLeftRadius,
    L::BorderBottomRightRadius,
    L::BorderBottomStyle,
    L::BorderBottomWidth,
    L::BorderLeftColor,
    L::BorderLeftStyle,
    L::BorderLeftWidth,
    L::BorderRightColor,
    L::BorderRightStyle,
    L::BorderRightWidth,
    L::BorderTopColor,
    L::BorderTopLeftRadius,
    L::BorderTopRightRadius,
    L::BorderTopStyle,
    L::BorderTopWidth,
    L::BoxShadow,
    L::Color,
    L::ColumnGap,
    L::Display,
    L::Filter,
    L::FontFamily,
    L::FontSize,
    L::FontStyle,
    L::FontWeight,
    L::Height,
    L::LetterSpacing,
    L::LineHeight,
    L::MinHeight,
    L::MinWidth,
    L::Opacity,
    L::PaddingBottom,
    L::PaddingLeft,
    L::PaddingRight,
    L::PaddingTop,
    L::TextDecorationLine,
    L::TextShadow,
    L::TextTransform,
    L::Visibility,
    L::Width,
]);

/// One value of a look: of which box, which longhand, as CSS.
pub type Entry = (String, L, String);

/// The values of a look, in the order of its boxes.
pub fn values(look: &Look) -> Vec<Entry> {
    let mut found = Vec::new();
    for (part, node) in look.mounted.elements() {
        for at in [
            Styled::element(node),
            Styled::pseudo(node, PseudoElement::Before),
            Styled::pseudo(node, PseudoElement::After),
        ] {
            let Some(style) = look.styles.of(at) else { continue };
            if at.pseudo.is_some() && style.is_empty_generated() {
                continue;
            }
            let name = format!("{part}{}", at.pseudo.map_or_else(String::new, |pseudo| format!("::{}", pseudo.name())));
            for longhand in LOOKS.iter() {
                found.push((name.clone(), longhand, value(style, longhand)));
            }
        }
    }
    found
}

/// A value as a look counts it: colours resolved, what is not known by its reason.
pub fn value(style: &Style, longhand: L) -> String {
    match style.get(longhand) {
        Ok(value) => to_css(&resolve_colors(value, style.surroundings())),
        Err(reason) => format!("? {}", reason.0),
    }
}

/// How far apart two values are where that is near: a colour's distance in OKLab below 0.02, a length's of a pixel at most.
pub fn nearness(longhand: L, a: &str, b: &str) -> Option<f64> {
    if longhand.is_color() {
        let (a, b) = (color(a)?, color(b)?);
        let apart = distance(&a, &b);
        return (apart > 0.0 && apart < NEAR_COLOR && (a.alpha - b.alpha).abs() < 0.02).then_some(apart);
    }
    let (a, b) = (px(a)?, px(b)?);
    let apart = (a - b).abs();
    (apart > 0.0 && apart <= NEAR_LENGTH).then_some(apart)
}

/// Colours nearer than this in OKLab are hardly told apart (Ottosson 2020).
pub const NEAR_COLOR: f64 = 0.02;

/// Lengths no further apart than this, in px.
pub const NEAR_LENGTH: f64 = 1.0;

/// A colour as CSS, resolved.
pub fn color(text: &str) -> Option<Absolute> {
    match stilk_engine::css::color::whole(text)? {
        Color::Absolute(absolute) => Some(absolute),
        other => other.resolve(stilk_engine::css::color::Surroundings::default()),
    }
}

/// The distance of two colours in OKLab.
pub fn distance(a: &Absolute, b: &Absolute) -> f64 {
    let lab = |color: &Absolute| color.to(Space::Oklab).components.map(|c| c.unwrap_or(0.0));
    lab(a).iter().zip(lab(b)).map(|(a, b)| (a - b).powi(2)).sum::<f64>().sqrt()
}

/// A length in px.
pub fn px(text: &str) -> Option<f64> {
    text.strip_suffix("px")?.parse().ok()
}

/// What tells two looks apart, where they have the same boxes.
pub fn differences<'l>(a: &'l [Entry], b: &'l [Entry]) -> Option<Vec<(&'l Entry, &'l Entry)>> {
    let same_boxes = a.len() == b.len() && a.iter().zip(b).all(|(a, b)| a.1 == b.1);
    same_boxes.then(|| a.iter().zip(b).filter(|(a, b)| a.2 != b.2).collect())
}
