//! Boxes that paint something of their own, and by what they can be told from what is around them.

use crate::painted::origin::background_origin;
use crate::painted::paint;
use crate::trace::{Tracer, ValueSource};
use stilk_engine::cascade::{LonghandSet, PseudoElement, Style, Styled};
use stilk_engine::css::Unknown;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::value::Value;
use stilk_language::case::Look;

/// An element or pseudo-element that can be seen and paints more than text.
pub struct PaintedBox<'l> {
    /// What it is the box of.
    pub at: Styled,
    /// The styles from the host down to this box itself.
    pub styles: Vec<&'l Style>,
    /// What marks it; nothing where a picture alone does.
    pub marks: Vec<Mark>,
    /// Whether pictures are painted in it: all over it, in a part, or nobody knows where.
    pub pictured: Pictured,
}

/// Where a box has pictures.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Pictured {
    /// Nowhere.
    Not,
    /// All over it.
    Whole,
    /// In a part of it, or it is not known where.
    Somewhere,
}

/// Something by which a box can be seen.
#[derive(Debug, Clone, Copy)]
pub struct Mark {
    /// What it is, for people.
    pub what: &'static str,
    /// The longhand that gives its colour.
    pub longhand: L,
    /// The colour.
    pub color: Absolute,
    /// How thick it is in px; as thick as the box for a fill.
    pub width: f64,
}

impl PaintedBox<'_> {
    /// Its own style.
    pub fn style(&self) -> &Style {
        self.styles[self.styles.len() - 1]
    }

    /// What is around it.
    pub fn around(&self) -> &[&Style] {
        &self.styles[..self.styles.len() - 1]
    }

    /// Where what is painted around it on a surface came from.
    pub fn origin_around(&self, tracer: &Tracer, look: &Look, surface: usize) -> ValueSource {
        let mut chain = paint::chain(look, self.at.node);
        if self.at.pseudo.is_none() {
            chain.pop();
        }
        background_origin(tracer, look, &chain, surface)
    }
}

/// Every box of a look that can be seen, the outermost first.
///
/// # Errors
/// The reason why one of them cannot be known.
pub fn boxes(look: &Look) -> Result<Vec<PaintedBox<'_>>, Unknown> {
    let mut found = Vec::new();
    for node in look.document.descendants(look.mounted.host) {
        if look.document.element(node).is_none() {
            continue;
        }
        // Most elements paint nothing, seen or not.
        let is_icon = look.document.element(node).is_some_and(|element| element.local() == "svg");
        let may_paint = |at| look.styles.of(at).is_some_and(|style| style.sets_any(&PAINT));
        if !is_icon && !look.styles.boxes(node).any(may_paint) {
            continue;
        }
        let around = paint::styles_of(look, &paint::chain(look, node));
        if !paint::is_visible(&around)? {
            continue;
        }
        for at in look.styles.boxes(node) {
            let mut styles = around.clone();
            if let Some(pseudo) = at.pseudo {
                let Some(style) = look.styles.of(at) else { continue };
                if pseudo == PseudoElement::Placeholder || style.is_empty_generated() {
                    continue;
                }
                styles.push(style);
                if !paint::is_visible(&styles)? {
                    continue;
                }
            }
            let is_icon = is_icon && at.pseudo.is_none();
            let own = styles[styles.len() - 1];
            let marks = marks(own, is_icon)?;
            let pictured = match paint::has_pictures(own) {
                Ok(true) => Pictured::Whole,
                Ok(false) => Pictured::Not,
                Err(_) => Pictured::Somewhere,
            };
            if !marks.is_empty() || pictured != Pictured::Not {
                found.push(PaintedBox { at, styles, marks, pictured });
            }
        }
    }
    Ok(found)
}

/// Of the boxes of a look those that are marks: without text, within another that paints something or over the native
/// control, or icons.
pub fn marks_among<'b, 'l>(look: &Look, all: &'b [PaintedBox<'l>]) -> Vec<&'b PaintedBox<'l>> {
    let document = &look.document;
    let holds_more = |node| {
        document.is_within(look.mounted.bearer, node)
            || document.descendants(node).iter().any(|inner| document.has_own_text(*inner))
    };
    let is_mark = |one: &&PaintedBox| {
        let is_icon = one.marks.iter().any(|mark| mark.what == "icon");
        let within = || {
            all.iter().any(|other| match other.at.node == one.at.node {
                true => other.at.pseudo.is_none() && one.at.pseudo.is_some(),
                false => document.is_within(one.at.node, other.at.node),
            })
        };
        let is_over_native = || {
            let bearer = look.mounted.bearer;
            one.at.is_generated()
                && one.at.node != bearer
                && document.is_within(bearer, one.at.node)
                && one.style().is(L::Position, "absolute")
                && all.iter().any(|other| other.at == Styled::element(bearer))
        };
        let is_pseudo_of_text = one.at.pseudo.is_some_and(|pseudo| !pseudo.is_generated());
        !is_pseudo_of_text
            && (is_icon || within() || is_over_native())
            && (one.at.pseudo.is_some() || !holds_more(one.at.node))
    };
    all.iter().filter(is_mark).collect()
}

/// What a box paints with, beside icons.
const PAINT: LonghandSet = LonghandSet::of(&[
    L::BackgroundColor,
    L::BackgroundImage,
    L::BorderTopStyle,
    L::BorderRightStyle,
    L::BorderBottomStyle,
    L::BorderLeftStyle,
    L::BoxShadow,
]);

const SIDES: [(L, L, L); 4] = [
    (L::BorderTopStyle, L::BorderTopWidth, L::BorderTopColor),
    (L::BorderRightStyle, L::BorderRightWidth, L::BorderRightColor),
    (L::BorderBottomStyle, L::BorderBottomWidth, L::BorderBottomColor),
    (L::BorderLeftStyle, L::BorderLeftWidth, L::BorderLeftColor),
];

fn marks(style: &Style, is_icon: bool) -> Result<Vec<Mark>, Unknown> {
    let mut marks: Vec<Mark> = Vec::new();
    let mut add = |mark: Mark| {
        if mark.color.alpha > 0.0 && !marks.iter().any(|known| known.what == mark.what && known.color == mark.color) {
            marks.push(mark);
        }
    };
    for (line, width, color) in SIDES {
        let width = style.px(width)?;
        if width > 0.0 && !style.is(line, "none") && !style.is(line, "hidden") {
            add(Mark { what: "border", longhand: color, color: style.used_color(color)?, width });
        }
    }
    let fill = style.used_color(L::BackgroundColor)?;
    add(Mark { what: "fill", longhand: L::BackgroundColor, color: fill, width: f64::INFINITY });
    for Ring { color, width, .. } in rings(style)? {
        add(Mark { what: "ring", longhand: L::BoxShadow, color, width });
    }
    if is_icon {
        add(Mark { what: "icon", longhand: L::Fill, color: style.used_color(L::Fill)?, width: f64::INFINITY });
    }
    Ok(marks)
}

/// A shadow without a blur that stands out on all sides.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ring {
    /// Its colour.
    pub color: Absolute,
    /// How far it reaches, in px.
    pub edge: f64,
    /// How much of it can be seen, in px.
    pub width: f64,
    /// The ring that it lies around, where there is one over it.
    pub around: Option<Absolute>,
}

/// The rings that can be seen, the topmost first.
///
/// # Errors
/// The reason why they cannot be known.
pub fn rings(style: &Style) -> Result<Vec<Ring>, Unknown> {
    let Value::List(shadows) = style.get(L::BoxShadow)? else { return Ok(Vec::new()) };
    let mut rings: Vec<Ring> = Vec::new();
    // How far the shadows over it reach, outside of the box and in it: the first is the topmost.
    let mut reach: [(f64, Option<Absolute>); 2] = [(0.0, None); 2];
    for shadow in shadows {
        let Value::Words(words) = shadow else { continue };
        let px: Vec<f64> = words.iter().filter_map(Value::as_px).collect();
        if let ([x, y, blur, spread], Some(Value::Color(color))) = (&px[..], words.first())
            && *blur == 0.0
            && *spread > x.abs().max(y.abs())
        {
            let color = color.resolve(style.surroundings()).ok_or(Unknown("a shadow's colour is not modelled yet"))?;
            let (far, around) = &mut reach[usize::from(words.iter().any(|word| word.is("inset")))];
            let edge = spread - x.abs().max(y.abs());
            if edge <= *far {
                continue;
            }
            rings.push(Ring { color, edge, width: edge - *far, around: *around });
            if color.alpha == 1.0 {
                (*far, *around) = (edge, Some(color));
            }
        }
    }
    Ok(rings)
}

/// The longhands that all of this depends on, besides those of text.
pub const READS: LonghandSet = LonghandSet::of(&[
    L::BorderTopColor,
    L::BorderRightColor,
    L::BorderBottomColor,
    L::BorderLeftColor,
    L::BorderTopStyle,
    L::BorderRightStyle,
    L::BorderBottomStyle,
    L::BorderLeftStyle,
    L::BorderTopWidth,
    L::BorderRightWidth,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::Fill,
    L::Appearance,
    L::BoxShadow,
    L::Color,
    L::ColorScheme,
    L::BackgroundColor,
    L::BackgroundImage,
    L::BackgroundSize,
    L::BackdropFilter,
    L::Filter,
    L::MixBlendMode,
    L::Opacity,
    L::Visibility,
    L::Display,
    L::Content,
    L::Scale,
    L::Transform,
    L::ClipPath,
]);
