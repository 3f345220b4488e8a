//! What is painted where: text, and everything behind it.

use crate::case::Look;
use crate::css::Unknown;
use crate::css::color::Absolute;
use crate::css::property::Longhand as L;
use crate::css::value::Value;
use crate::dom::{Element, NodeId};
use crate::engine::Style;

/// Gamma-encoded sRGB, each channel 0 to 1, as browsers composite it.
pub type Pixel = [f64; 3];

/// The contrast ratio of two pixels, 1 to 21 (WCAG 2.2, "contrast ratio" and "relative luminance").
pub fn contrast(a: Pixel, b: Pixel) -> f64 {
    let (a, b) = (luminance(a), luminance(b));
    (a.max(b) + 0.05) / (a.min(b) + 0.05)
}

fn luminance(pixel: Pixel) -> f64 {
    let linear = pixel.map(|c| if c <= 0.04045 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) });
    0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
}

/// A colour over a backdrop.
pub fn over(color: &Absolute, backdrop: Pixel) -> Pixel {
    mix(backdrop, color.srgb(), color.alpha)
}

fn mix(from: Pixel, to: Pixel, share: f64) -> Pixel {
    std::array::from_fn(|i| from[i] * (1.0 - share) + to[i] * share)
}

/// A pixel as `#rrggbb`.
pub fn hex(pixel: Pixel) -> String {
    let [r, g, b] = pixel.map(|c| (c * 255.0).round() as u8);
    format!("#{r:02x}{g:02x}{b:02x}")
}

/// A place where text is painted.
#[derive(Debug, Clone)]
pub struct TextPlace {
    /// The element whose text it is.
    pub node: NodeId,
    /// The elements from the host down to it.
    pub chain: Vec<NodeId>,
}

/// The text and the pixel behind it, over one surface.
#[derive(Debug, Clone, Copy)]
pub struct Painted {
    /// The text.
    pub text: Pixel,
    /// What is behind it.
    pub behind: Pixel,
    /// Index of the surface.
    pub surface: usize,
    /// Whether neither alpha nor opacity changed the text's colour.
    pub opaque: bool,
}

/// Where a look paints text: elements with text of their own, and inputs with a value.
pub fn text_places(look: &Look) -> Vec<TextPlace> {
    let document = &look.document;
    let has_text =
        |node: NodeId| document.has_own_text(node) || document.element(node).is_some_and(|e| input_text(e).is_some());
    let places = document.descendants(look.mounted.host).into_iter().filter(|node| has_text(*node));
    places
        .map(|node| {
            let mut chain = vec![node];
            while let Some(parent) = document.node(chain[0]).parent.filter(|_| chain[0] != look.mounted.host) {
                chain.insert(0, parent);
            }
            TextPlace { node, chain }
        })
        .collect()
}

fn input_text(element: &Element) -> Option<&str> {
    let painted = !matches!(element.attribute("type"), Some("checkbox" | "radio" | "range" | "color" | "hidden"));
    if element.local() == "input" && painted { element.attribute("value").filter(|v| !v.is_empty()) } else { None }
}

/// Paints a text place over every surface. Nothing where it is not visible at all.
///
/// # Errors
/// The reason why the pixels cannot be known.
pub fn paint(look: &Look, place: &TextPlace) -> Result<Vec<Painted>, Unknown> {
    let styles: Vec<&Style> =
        place.chain.iter().filter_map(|node| look.styles.element(*node).map(std::convert::AsRef::as_ref)).collect();
    let Some(own) = styles.last() else { return Ok(Vec::new()) };
    if own.is(L::Visibility, "hidden") || own.is(L::Visibility, "collapse") {
        return Ok(Vec::new());
    }
    let text = own.used_color(L::Color)?;
    if text.alpha == 0.0 {
        return Ok(Vec::new());
    }
    let mut layers = Vec::new();
    for style in &styles {
        if style.is(L::Display, "none") {
            return Ok(Vec::new());
        }
        let opacity = style.get(L::Opacity)?.as_number().unwrap_or(1.0);
        if opacity == 0.0 {
            return Ok(Vec::new());
        }
        if !is_none(style, L::BackgroundImage)? {
            return Err(Unknown("a background image is painted behind the text"));
        }
        if !is_none(style, L::BackdropFilter)? || !is_none(style, L::Filter)? {
            return Err(Unknown("a filter changes the pixels"));
        }
        if !style.is(L::MixBlendMode, "normal") {
            return Err(Unknown("a blend mode changes the pixels"));
        }
        layers.push(Layer { background: style.used_color(L::BackgroundColor)?, opacity });
    }
    for node in &place.chain {
        for name in ["before", "after"] {
            if let Some(style) = look.styles.pseudo(*node, name)
                && may_cover(style)
            {
                return Err(Unknown("a ::before or ::after with a background may lie behind or over the text"));
            }
        }
    }
    if !own.is(L::TextShadow, "none") {
        return Err(Unknown("a text shadow is painted behind the text"));
    }
    let opaque = text.alpha == 1.0 && layers.iter().all(|layer| layer.opacity == 1.0);
    let mut painted = Vec::new();
    for (surface, node) in look.surfaces.iter().enumerate() {
        let style = look.styles.element(*node).ok_or(Unknown("the surface has no style"))?;
        // A page is white where nothing is painted.
        let backdrop = over(&style.used_color(L::BackgroundColor)?, [1.0; 3]);
        painted.push(Painted {
            text: pixel(backdrop, &layers, Some(&text)),
            behind: pixel(backdrop, &layers, None),
            surface,
            opaque,
        });
    }
    Ok(painted)
}

/// Whether a generated box is there and paints a background: where it lies takes a layout.
fn may_cover(style: &Style) -> bool {
    let there = !style.is(L::Content, "none") && !style.is(L::Display, "none");
    let plain = style.used_color(L::BackgroundColor).is_ok_and(|color| color.alpha == 0.0);
    there && !(plain && is_none(style, L::BackgroundImage) == Ok(true))
}

struct Layer {
    background: Absolute,
    opacity: f64,
}

/// The pixel that nested boxes give over a backdrop: opacity applies to a box with everything in it.
fn pixel(backdrop: Pixel, layers: &[Layer], text: Option<&Absolute>) -> Pixel {
    let Some((layer, inner)) = layers.split_first() else {
        return text.map_or(backdrop, |text| over(text, backdrop));
    };
    mix(backdrop, pixel(over(&layer.background, backdrop), inner, text), layer.opacity)
}

fn is_none(style: &Style, longhand: L) -> Result<bool, Unknown> {
    let all_none = |values: &[Value]| values.iter().all(|value| value.is("none"));
    Ok(match style.get(longhand) {
        Ok(Value::List(items)) => all_none(items),
        Ok(value) => value.is("none"),
        // Not modelled, so certainly not `none`.
        Err(_) => false,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn contrast_is_that_of_wcag() {
        assert!((contrast([0.0; 3], [1.0; 3]) - 21.0).abs() < 1e-9);
        // #777 on white is the well-known near miss.
        let grey = [f64::from(0x77) / 255.0; 3];
        assert!((contrast(grey, [1.0; 3]) - 4.478).abs() < 1e-3);
    }

    #[test]
    fn opacity_applies_to_a_box_with_its_content() {
        let white = Absolute::rgb8(0xffffff);
        let black = Absolute::rgb8(0x000000);
        let layers = [Layer { background: black, opacity: 0.5 }];
        assert_eq!(pixel([1.0; 3], &layers, None), [0.5; 3]);
        assert_eq!(pixel([1.0; 3], &layers, Some(&white)), [1.0; 3]);
        let half = Absolute { alpha: 0.5, ..white };
        assert_eq!(pixel([0.0; 3], &[], Some(&half)), [0.5; 3]);
    }
}
