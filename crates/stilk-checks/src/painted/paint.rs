//! What is painted where: text, and everything behind it.

use crate::painted::gradient::{self, Part};
use std::rc::Rc;
use stilk_engine::cascade::{LonghandSet, PseudoElement, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::css::value::Value;
use stilk_engine::dom::{Element, NodeId, is_disableable};
use stilk_language::case::Look;

/// Gamma-encoded sRGB, each channel 0 to 1, as browsers composite it.
pub type Pixel = [f64; 3];

/// The contrast ratio of two pixels, 1 to 21 (WCAG 2.2, "contrast ratio" and "relative luminance").
pub fn contrast(a: Pixel, b: Pixel) -> f64 {
    let (a, b) = (luminance(a), luminance(b));
    (a.max(b) + 0.05) / (a.min(b) + 0.05)
}

/// The relative luminance of a pixel, 0 to 1 (WCAG 2.2, "relative luminance").
pub fn luminance(pixel: Pixel) -> f64 {
    let linear = pixel.map(|c| if c <= 0.04045 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) });
    0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
}

/// A ratio to two decimals, rounded down: 4.496 must not read as 4.50.
pub fn floor(ratio: f64) -> f64 {
    (ratio * 100.0).floor() / 100.0
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
    /// The element or pseudo-element whose text it is.
    pub at: Styled,
    /// The elements from the host down to it.
    pub chain: Vec<NodeId>,
}

impl TextPlace {
    /// Whether it stands in an element of the template that is switched off, of which WCAG 1.4.3 and 1.4.11 ask nothing.
    pub fn is_inactive(&self, look: &Look) -> bool {
        is_switched_off(look, &self.chain)
    }

    /// The style of the text.
    pub fn style<'l>(&self, look: &'l Look) -> Option<&'l Rc<Style>> {
        look.styles.of(self.at)
    }
}

/// The text and the pixel behind it, over one surface; where a gradient gives several, the worst.
#[derive(Debug, Clone, Copy)]
pub struct Painted {
    /// The text.
    pub text: Pixel,
    /// What is behind it.
    pub behind: Pixel,
    /// Index of the surface.
    pub surface: usize,
}

/// Whether a box paints a background or a border.
pub fn paints_box(style: &Style) -> bool {
    style.used_color(L::BackgroundColor).is_ok_and(|color| color.alpha > 0.0)
        || !is_none(style, L::BackgroundImage)
        || !style.is(L::BorderTopStyle, "none")
}

/// Whether one of these elements is disabled, and all that is in it with it.
pub fn is_switched_off(look: &Look, chain: &[NodeId]) -> bool {
    chain.iter().filter_map(|node| look.document.element(*node)).any(|element| {
        is_disableable(element) && element.attribute("disabled").is_some()
            || element.attribute("aria-disabled") == Some("true")
    })
}

/// The elements from the outermost that is mounted down to one of its descendants.
pub fn chain(look: &Look, node: NodeId) -> Vec<NodeId> {
    let mut chain = vec![node];
    while let Some(parent) = look.document.node(chain[0]).parent.filter(|_| chain[0] != look.mounted.root) {
        chain.insert(0, parent);
    }
    chain
}

/// Where a look paints text: elements with text of their own, inputs with a value, generated text.
pub fn text_places(look: &Look) -> Vec<TextPlace> {
    let document = &look.document;
    let mut places = Vec::new();
    for node in document.descendants(look.mounted.host) {
        let Some(element) = document.element(node) else { continue };
        if document.has_own_text(node) || input_text(element).is_some() {
            places.push(TextPlace { at: Styled::element(node), chain: chain(look, node) });
        }
        for at in PseudoElement::GENERATED.map(|pseudo| Styled::pseudo(node, pseudo)) {
            if look.styles.of(at).is_some_and(|style| has_generated_text(style)) {
                places.push(TextPlace { at, chain: chain(look, node) });
            }
        }
    }
    places
}

/// Where a look paints the placeholder of a field that holds nothing.
pub fn placeholder_places(look: &Look) -> Vec<TextPlace> {
    let is_shown = |node: &NodeId| {
        look.document.element(*node).is_some_and(|e| {
            matches!(e.local(), "input" | "textarea")
                && e.attribute("placeholder").is_some_and(|text| !text.trim().is_empty())
                && e.attribute("value").is_none_or(str::is_empty)
                && !look.document.has_own_text(*node)
        })
    };
    let nodes = look.document.descendants(look.mounted.host).into_iter().filter(is_shown);
    let place = |node| TextPlace { at: Styled::pseudo(node, PseudoElement::Placeholder), chain: chain(look, node) };
    nodes.map(place).collect()
}

/// Whether a pseudo-element has text of its own.
pub fn has_generated_text(style: &Style) -> bool {
    if style.is_empty_generated() {
        return false;
    }
    match style.get(L::Content) {
        Ok(Value::String(text)) => !text.trim().is_empty(),
        Ok(Value::Words(words) | Value::List(words)) => {
            // What is read out in its place is not painted.
            let mut painted = words.iter().take_while(|word| !word.is("/"));
            painted.any(|word| matches!(word, Value::String(text) if !text.trim().is_empty()))
        }
        _ => false,
    }
}

/// Whether a pseudo-element has a text, a counter or a picture.
pub fn has_generated_mark(style: &Style) -> bool {
    has_generated_text(style) || !style.is_empty_generated() && style.get(L::Content).is_err()
}

fn input_text(element: &Element) -> Option<&str> {
    let painted = !matches!(element.attribute("type"), Some("checkbox" | "radio" | "range" | "color" | "hidden"));
    if element.local() == "input" && painted { element.attribute("value").filter(|v| !v.is_empty()) } else { None }
}

/// Whether anything of an element can be seen: not where it, or what is around it, is hidden, and not where it is drawn
/// with no size.
///
/// # Errors
/// The reason why that cannot be known.
pub fn is_visible(styles: &[&Style]) -> Result<bool, Unknown> {
    let Some(own) = styles.last() else { return Ok(false) };
    if own.is(L::Visibility, "hidden") || own.is(L::Visibility, "collapse") {
        return Ok(false);
    }
    for style in styles {
        if style.is(L::Display, "none") || style.get(L::Opacity)?.as_number() == Some(0.0) {
            return Ok(false);
        }
        if is_scaled_away(style)? || is_clipped_away(style)? {
            return Ok(false);
        }
    }
    Ok(true)
}

/// Whether a box is drawn with no width or no height (CSS Transforms 2, sections 5 and 13).
fn is_scaled_away(style: &Style) -> Result<bool, Unknown> {
    let scale = style.get(L::Scale)?;
    if !scale.is("none") && to_css(scale).split(' ').take(2).any(|factor| factor == "0") {
        return Ok(true);
    }
    let transform = style.get(L::Transform)?;
    if transform.is("none") {
        return Ok(false);
    }
    let text = to_css(transform);
    let functions = text.split(')').filter_map(|function| function.trim().split_once('('));
    Ok(functions.into_iter().any(|(name, arguments)| {
        let numbers: Vec<f64> = arguments.split(',').map_while(|number| number.trim().parse().ok()).collect();
        match (name.to_ascii_lowercase().as_str(), numbers.as_slice()) {
            ("scale" | "scalex" | "scaley", numbers) => numbers.contains(&0.0),
            ("scale3d", [x, y, _]) => *x == 0.0 || *y == 0.0,
            ("matrix", [a, b, c, d, _, _]) => a * d == b * c,
            _ => false,
        }
    }))
}

/// Whether nothing is left of a box that is clipped (CSS Shapes 1, section 3).
fn is_clipped_away(style: &Style) -> Result<bool, Unknown> {
    let clip = style.get(L::ClipPath)?;
    if clip.is("none") {
        return Ok(false);
    }
    let text = to_css(clip);
    let Some((name, rest)) = text.split_once('(') else { return Ok(false) };
    let arguments = rest.split([')', ',']).next().unwrap_or_default();
    let percent = |text: &str| text.trim_end_matches('%').parse::<f64>().ok().filter(|_| text.ends_with('%'));
    Ok(match name {
        "inset" => {
            let sides: Vec<&str> = arguments.split(' ').take_while(|word| *word != "round").collect();
            let side = |at: usize| sides.get(at).or(sides.get(at % 2)).or(sides.first()).and_then(|side| percent(side));
            let is_all = |pair: Option<(f64, f64)>| pair.is_some_and(|(one, other)| one + other >= 100.0);
            is_all(side(0).zip(side(2))) || is_all(side(1).zip(side(3)))
        }
        "circle" | "ellipse" => arguments.split(' ').take(2).any(|radius| matches!(radius, "0" | "0px" | "0%")),
        _ => false,
    })
}

/// Whether the platform draws a native control, and it can be seen.
pub fn is_drawn_natively(look: &Look, node: NodeId) -> bool {
    look.styles.element(node).is_some_and(|style| !style.is(L::Appearance, "none"))
        && is_visible(&styles_of(look, &chain(look, node))) == Ok(true)
}

/// The styles of elements, from the host down.
pub fn styles_of<'l>(look: &'l Look, chain: &[NodeId]) -> Vec<&'l Style> {
    chain.iter().filter_map(|node| look.styles.element(*node).map(std::convert::AsRef::as_ref)).collect()
}

/// Whether text is painted on a gradient of which only a part has the contrast that it needs.
pub fn is_split(look: &Look, place: &TextPlace, needed: f64) -> bool {
    paint(look, place, needed, Sizes::Any).is_err_and(|reason| reason == DEPENDS)
}

/// Whether it may be asked where boxes stand. A case that stands for others of another size must not.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Sizes {
    /// It may.
    Known,
    /// The case stands for others.
    Any,
}

/// Which longhand a text in elements, the outermost first, gets its colour by: what it is filled with counts before what it is.
pub fn text_color_longhand<'s>(mut styles: impl Iterator<Item = &'s Style>) -> L {
    if styles.any(|style| style.winner(L::TextFillColor).is_some()) { L::TextFillColor } else { L::Color }
}

/// Paints a text place over every surface. Nothing where it is not visible at all. `needed` is the ratio that decides
/// whether a gradient passes as a whole; where it does not, what lies under the text decides.
///
/// # Errors
/// The reason why the pixels cannot be known.
pub fn paint(look: &Look, place: &TextPlace, needed: f64, sizes: Sizes) -> Result<Vec<Painted>, Unknown> {
    let mut styles = styles_of(look, &place.chain);
    if place.at.pseudo.is_some() {
        styles.extend(place.style(look).map(std::convert::AsRef::as_ref));
    }
    let Some(own) = styles.last().copied() else { return Ok(Vec::new()) };
    if !is_visible(&styles)? {
        return Ok(Vec::new());
    }
    // What text is filled with is its colour where nothing else is said (Compatibility, section 5.1).
    let text = own.used_color(L::TextFillColor)?;
    if text.alpha == 0.0 {
        return Ok(Vec::new());
    }
    if !own.is(L::TextShadow, "none") {
        return Err(Unknown("a text shadow is painted behind the text"));
    }
    let layers = layers(look, place, &styles, None)?;
    let mut under: Option<Result<Vec<Layer>, Unknown>> = None;
    let mut painted = Vec::new();
    for (surface, node) in look.surfaces.iter().enumerate() {
        let backdrop = surface_pixel(look, *node)?;
        let all = pixels(backdrop, &layers, Some(&text));
        let (text, behind) = match worst(&all, needed) {
            Err(DEPENDS) if sizes == Sizes::Known => {
                let under = under.get_or_insert_with(|| layers_under(look, place, &styles));
                let under = under.as_ref().map_err(|reason| *reason)?;
                let all = pixels(backdrop, under, Some(&text));
                least(&all).ok_or(DEPENDS)?
            }
            found => found?,
        };
        painted.push(Painted { text, behind, surface });
    }
    Ok(painted)
}

/// What the boxes from the host down to a text paint; of gradients all their stops, or what lies in a part of each box.
fn layers(
    look: &Look,
    place: &TextPlace,
    styles: &[&Style],
    parts: Option<&[Option<Part>]>,
) -> Result<Vec<Layer>, Unknown> {
    let mut layers = Vec::new();
    for (index, style) in styles.iter().enumerate() {
        let mut layer = Layer::of(style)?;
        if let Some(part) = parts.and_then(|parts| parts[index]) {
            layer.under = pictures(style, Some(part))?;
        }
        if let Some(node) = place.chain.get(index) {
            layer.generated(look, *node, place)?;
        }
        layers.push(layer);
    }
    Ok(layers)
}

/// The same with what lies under the box of the text.
fn layers_under(look: &Look, place: &TextPlace, styles: &[&Style]) -> Result<Vec<Layer>, Unknown> {
    let layout = look.layout()?;
    let text = layout.text_of(place.at).ok_or(DEPENDS)?.rect()?;
    let has_picture = |style: &&Style| !is_none(style, L::BackgroundImage);
    let is_moved = |style: &&Style| {
        [L::Translate, L::Scale, L::Rotate, L::Transform].iter().any(|longhand| !style.is(*longhand, "none"))
    };
    // Where the text is moved within a box, it lies over another part of it.
    let outermost = styles.iter().position(has_picture).unwrap_or(styles.len());
    if styles.iter().skip(outermost + 1).any(is_moved) {
        return Err(DEPENDS);
    }
    let mut parts = Vec::new();
    for (index, style) in styles.iter().enumerate() {
        if !has_picture(style) {
            parts.push(None);
            continue;
        }
        let at = place.chain.get(index).map_or(place.at, |node| Styled::element(*node));
        let outer = layout.of(at).ok_or(DEPENDS)?.rect()?;
        let is_of_border = is_all(style, L::BackgroundOrigin, "border-box");
        if !is_of_border && !is_all(style, L::BackgroundOrigin, "padding-box") {
            return Err(DEPENDS);
        }
        let line = |width: L| if is_of_border { Ok(0.0) } else { style.px(width) };
        let (left, top) = (line(L::BorderLeftWidth)?, line(L::BorderTopWidth)?);
        let (right, bottom) = (line(L::BorderRightWidth)?, line(L::BorderBottomWidth)?);
        let of = [f64::from(outer.width) - left - right, f64::from(outer.height) - top - bottom];
        let (x, y) = (f64::from(text.x - outer.x) - left, f64::from(text.y - outer.y) - top);
        let sides = [x, y, x + f64::from(text.width), y + f64::from(text.height)];
        parts.push(Some(Part { of, sides }));
    }
    layers(look, place, styles, Some(&parts))
}

/// Whether every item of a list is a keyword.
fn is_all(style: &Style, longhand: L, word: &str) -> bool {
    match style.get(longhand) {
        Ok(Value::List(items)) => items.iter().all(|item| item.is(word)),
        Ok(value) => value.is(word),
        Err(_) => false,
    }
}

/// What a surface paints: a page is white where nothing is painted.
///
/// # Errors
/// The reason why it cannot be known.
pub fn surface_pixel(look: &Look, node: NodeId) -> Result<Pixel, Unknown> {
    if let Some(behind) = look.behind {
        return behind;
    }
    let style = look.styles.element(node).ok_or(Unknown("the surface has no style"))?;
    Ok(over(&style.used_color(L::BackgroundColor)?, [1.0; 3]))
}

/// Nested boxes, and what they paint one over the other.
pub struct Stack(Vec<Layer>);

impl Stack {
    /// Of boxes from the outermost in.
    ///
    /// # Errors
    /// The reason why what one of them paints cannot be known.
    pub fn of(boxes: &[&Style]) -> Result<Stack, Unknown> {
        Ok(Stack(boxes.iter().map(|style| Layer::of(style)).collect::<Result<_, _>>()?))
    }

    /// The pixels that they give over a backdrop: several where there is a gradient.
    pub fn over(&self, backdrop: Pixel) -> Vec<Pixel> {
        pixels(backdrop, &self.0, None).into_iter().map(|(_, behind)| behind).collect()
    }

    /// The pixels that they give over one surface: several where there is a gradient.
    ///
    /// # Errors
    /// The surface is not known.
    pub fn behind(&self, look: &Look, surface: NodeId) -> Result<Vec<Pixel>, Unknown> {
        Ok(pixels(surface_pixel(look, surface)?, &self.0, None).into_iter().map(|(_, behind)| behind).collect())
    }

    /// A colour that the innermost of them paints, as it looks over one surface.
    ///
    /// # Errors
    /// The surface is not known.
    pub fn painted(&self, look: &Look, surface: NodeId, color: &Absolute) -> Result<Vec<Pixel>, Unknown> {
        Ok(pixels(surface_pixel(look, surface)?, &self.0, Some(color)).into_iter().map(|(pixel, _)| pixel).collect())
    }
}

/// The pair with the least contrast.
fn least(all: &[(Pixel, Pixel)]) -> Option<(Pixel, Pixel)> {
    let ratio = |pair: &(Pixel, Pixel)| contrast(pair.0, pair.1);
    all.iter().copied().min_by(|a, b| ratio(a).total_cmp(&ratio(b)))
}

const DEPENDS: Unknown = Unknown("a gradient passes at one end only: which end is under the text takes a layout");

/// Of all that a gradient gives, the pair with the least contrast; nothing is said where one end passes and the other
/// does not, or where the gradient goes through the lightness of the text: what lies under the text takes a layout.
fn worst(all: &[(Pixel, Pixel)], needed: f64) -> Result<(Pixel, Pixel), Unknown> {
    let ratio = |pair: &(Pixel, Pixel)| contrast(pair.0, pair.1);
    let worst = least(all).ok_or(Unknown("nothing is painted"))?;
    if all.len() > 1 {
        let passing = all.iter().filter(|pair| ratio(pair) >= needed).count();
        let lighter = all.iter().filter(|pair| luminance(pair.0) > luminance(pair.1)).count();
        if ![0, all.len()].contains(&passing) || ![0, all.len()].contains(&lighter) {
            return Err(DEPENDS);
        }
    }
    Ok(worst)
}

/// What one box paints.
#[derive(Debug)]
struct Layer {
    /// The background colour.
    color: Absolute,
    /// Pictures over it, the lowest first; each gives one of several colours.
    under: Vec<Vec<Absolute>>,
    /// Over what is in it.
    over: Vec<Vec<Absolute>>,
    opacity: f64,
}

impl Layer {
    fn of(style: &Style) -> Result<Layer, Unknown> {
        const READ: LonghandSet = LonghandSet::of(&[
            L::BackdropFilter,
            L::BackgroundColor,
            L::BackgroundImage,
            L::BoxShadow,
            L::Filter,
            L::MixBlendMode,
            L::Opacity,
        ]);
        // Most elements paint nothing themselves.
        if !style.sets_any(&READ) {
            let color = Absolute { alpha: 0.0, ..Absolute::rgb8(0) };
            return Ok(Layer { color, under: Vec::new(), over: Vec::new(), opacity: 1.0 });
        }
        if !is_none(style, L::BackdropFilter) || !is_none(style, L::Filter) {
            return Err(Unknown("a filter changes the pixels"));
        }
        if !style.is(L::MixBlendMode, "normal") {
            return Err(Unknown("a blend mode changes the pixels"));
        }
        let opacity = style.get(L::Opacity)?.as_number().unwrap_or(1.0);
        let color = style.used_color(L::BackgroundColor)?;
        Ok(Layer { color, under: pictures(style, None)?, over: Vec::new(), opacity })
    }

    /// Adds what `::before` and `::after` of an element paint over or behind its content.
    fn generated(&mut self, look: &Look, node: NodeId, place: &TextPlace) -> Result<(), Unknown> {
        let at = place.chain.iter().position(|known| *known == node).map_or(place.chain.len(), |at| at + 1);
        let within = &place.chain[at..];
        for at in PseudoElement::GENERATED.map(|pseudo| Styled::pseudo(node, pseudo)) {
            if place.at == at {
                continue;
            }
            let Some(style) = look.styles.of(at).filter(|style| may_cover(style)) else { continue };
            if !is_visible(&[style])? || style.get(L::Opacity)?.as_number() == Some(0.0) {
                continue;
            }
            const UNPLACED: Unknown =
                Unknown("a ::before or ::after with a background may lie behind or over the text");
            let is_placed = style.is(L::Position, "absolute");
            let covers = [L::Top, L::Right, L::Bottom, L::Left]
                .iter()
                .all(|side| style.get(*side).ok().and_then(Value::as_px).is_some_and(|px| px <= 0.0));
            if !is_placed || !covers || !is_none(style, L::Transform) {
                return Err(UNPLACED);
            }
            let opacity = style.get(L::Opacity)?.as_number().unwrap_or(1.0);
            let mut fills = vec![vec![style.used_color(L::BackgroundColor)?]];
            fills.extend(pictures(style, None)?);
            for color in fills.iter_mut().flatten() {
                color.alpha *= opacity;
            }
            match style.get(L::ZIndex)?.as_number() {
                Some(z) if z < 0.0 => self.under.extend(fills),
                // Placed boxes are painted over content in flow; a label that is placed itself may be over them.
                _ if styles_of(look, within).iter().any(|style| !style.is(L::Position, "static")) => {
                    return Err(UNPLACED);
                }
                _ => self.over.extend(fills),
            }
        }
        Ok(())
    }
}

/// What the pictures of a box paint, the lowest first; of linear gradients what they paint in a part of it, if one is asked
/// for.
fn pictures(style: &Style, part: Option<Part>) -> Result<Vec<Vec<Absolute>>, Unknown> {
    let mut pictures = Vec::new();
    if !is_none(style, L::BackgroundImage) {
        let images = items(style.get(L::BackgroundImage)?);
        let sizes = items(style.get(L::BackgroundSize)?);
        for (index, image) in images.iter().enumerate().rev() {
            if image.is("none") {
                continue;
            }
            match covers(sizes.get(index % sizes.len().max(1)).map_or("auto".into(), to_css).as_str()) {
                Some(true) => {
                    let in_part = part.and_then(|part| gradient::colors(image, part, style.surroundings()));
                    let all = || match stops(style, image)? {
                        all if part.is_some() && all.len() > 1 => Err(DEPENDS),
                        all => Ok(all),
                    };
                    pictures.push(in_part.map_or_else(all, Ok)?);
                }
                Some(false) => {}
                None => return Err(Unknown("a background image covers a part of the box")),
            }
        }
    }
    if !style.is(L::BoxShadow, "none") {
        inset_shadows(style)?;
    }
    Ok(pictures)
}

/// Whether the pictures of a box leave nothing to be seen of its background colour, which has one.
///
/// # Errors
/// The reason why that cannot be known.
pub fn hides_color(style: &Style) -> Result<bool, Unknown> {
    Ok(!is_none(style, L::BackgroundImage) && style.used_color(L::BackgroundColor)?.alpha > 0.0 && is_covered(style)?)
}

/// Whether pictures cover a box without leaving anything to be seen behind it.
///
/// # Errors
/// The reason why that cannot be known.
pub fn is_covered(style: &Style) -> Result<bool, Unknown> {
    Ok(pictures(style, None)?.iter().any(|stops| stops.iter().all(|color| color.alpha == 1.0)))
}

/// Whether pictures paint anything in a box, so that its marks are not its colours alone.
///
/// # Errors
/// The reason why that cannot be known.
pub fn has_pictures(style: &Style) -> Result<bool, Unknown> {
    Ok(!pictures(style, None)?.is_empty())
}

fn items(value: &Value) -> Vec<Value> {
    match value {
        Value::List(items) => items.clone(),
        other => vec![other.clone()],
    }
}

/// Whether a picture without a size of its own covers the box at a `background-size`; `None` where it covers a part.
fn covers(size: &str) -> Option<bool> {
    match size {
        "auto" | "auto auto" | "cover" | "contain" | "100%" | "100% 100%" | "100% auto" | "auto 100%" => Some(true),
        size if size.split(' ').any(|side| ["0%", "0px"].contains(&side)) => Some(false),
        _ => None,
    }
}

/// The colours of a gradient's stops: between two of them every channel lies between theirs.
fn stops(style: &Style, image: &Value) -> Result<Vec<Absolute>, Unknown> {
    let Value::Function(_, arguments) = image else {
        return Err(Unknown("a background image is painted behind the text"));
    };
    let mut colors = Vec::new();
    for argument in arguments {
        let Value::Words(words) = argument else { continue };
        if words.iter().any(|word| ["oklch", "lch", "hsl", "hwb"].iter().any(|space| word.is(space))) {
            return Err(Unknown("a gradient turns through hues"));
        }
        for word in words {
            if let Value::Color(color) = word {
                colors.push(
                    color.resolve(style.surroundings()).ok_or(Unknown("a gradient's colour is not modelled yet"))?,
                );
            }
        }
    }
    if colors.is_empty() { Err(Unknown("a gradient without colours")) } else { Ok(colors) }
}

/// What an inset shadow may reach into the box without reaching text: no padding is smaller.
const THIN: f64 = 3.0;

/// Inset shadows are painted over the background; thin ones reach no text.
fn inset_shadows(style: &Style) -> Result<(), Unknown> {
    for shadow in items(style.get(L::BoxShadow)?) {
        let Value::Words(words) = shadow else { continue };
        if !words.iter().any(|word| word.is("inset")) {
            continue;
        }
        let px: Vec<f64> = words.iter().filter_map(Value::as_px).collect();
        let [x, y, blur, spread] = px[..] else { return Err(Unknown("an inset shadow is not modelled yet")) };
        if x.abs().max(y.abs()) + blur + spread > THIN {
            return Err(Unknown("an inset shadow may reach the text"));
        }
    }
    Ok(())
}

/// Whether a generated box is there and paints a background.
fn may_cover(style: &Style) -> bool {
    let there = !style.is_empty_generated() && !style.is(L::Display, "none");
    let plain = style.used_color(L::BackgroundColor).is_ok_and(|color| color.alpha == 0.0);
    there && !(plain && is_none(style, L::BackgroundImage))
}

/// The pixels that nested boxes give over a backdrop, as text and what is behind it: opacity applies to a box with
/// everything in it.
fn pixels(backdrop: Pixel, layers: &[Layer], text: Option<&Absolute>) -> Vec<(Pixel, Pixel)> {
    // Most boxes have no picture: one pixel each.
    if layers.iter().all(|layer| layer.under.is_empty() && layer.over.is_empty()) {
        return vec![flat(backdrop, layers, text)];
    }
    let Some((layer, inner)) = layers.split_first() else {
        return vec![(text.map_or(backdrop, |text| over(text, backdrop)), backdrop)];
    };
    let mut all = Vec::new();
    for ground in covered(vec![over(&layer.color, backdrop)], &layer.under) {
        for (text, behind) in pixels(ground, inner, text) {
            let (text, behind) = (covered(vec![text], &layer.over), covered(vec![behind], &layer.over));
            // Both went through the same colours.
            all.extend(
                text.into_iter()
                    .zip(behind)
                    .map(|(text, behind)| (mix(backdrop, text, layer.opacity), mix(backdrop, behind, layer.opacity))),
            );
        }
    }
    all
}

/// The same where each box paints one colour.
fn flat(backdrop: Pixel, layers: &[Layer], text: Option<&Absolute>) -> (Pixel, Pixel) {
    let Some((layer, inner)) = layers.split_first() else {
        return (text.map_or(backdrop, |text| over(text, backdrop)), backdrop);
    };
    let (text, behind) = flat(over(&layer.color, backdrop), inner, text);
    (mix(backdrop, text, layer.opacity), mix(backdrop, behind, layer.opacity))
}

fn covered(mut pixels: Vec<Pixel>, fills: &[Vec<Absolute>]) -> Vec<Pixel> {
    for fill in fills {
        pixels = pixels.iter().flat_map(|pixel| fill.iter().map(|color| over(color, *pixel))).collect();
    }
    pixels
}

/// Whether a property of pictures or filters is `none` throughout; what is not modelled is certainly not.
pub fn is_none(style: &Style, longhand: L) -> bool {
    match style.get(longhand) {
        Ok(Value::List(items)) => items.iter().all(|value| value.is("none")),
        Ok(value) => value.is("none"),
        Err(_) => false,
    }
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
        let layers = [Layer { color: black, under: Vec::new(), over: Vec::new(), opacity: 0.5 }];
        assert_eq!(pixels([1.0; 3], &layers, None), [([0.5; 3], [0.5; 3])]);
        assert_eq!(pixels([1.0; 3], &layers, Some(&white)), [([1.0; 3], [0.5; 3])]);
        let half = Absolute { alpha: 0.5, ..white };
        assert_eq!(pixels([0.0; 3], &[], Some(&half)), [([0.5; 3], [0.0; 3])]);
    }
}
