//! Whether two looks of one control are laid out alike: whoever knows the boxes of one knows those of the other.

use crate::cascade::{LonghandSet, PseudoElement, Style, Styles};
use crate::css::calc::COMPARED;
use crate::css::property::Longhand as L;
use crate::dom::{Document, Element, NodeData, NodeId};
use rustc_hash::FxHasher;
use std::hash::{Hash, Hasher};

/// Everything that the layout asks of a style.
pub const READS: [L; 76] = [
    L::Zoom,
    L::AlignContent,
    L::AlignItems,
    L::AlignSelf,
    L::Appearance,
    L::AspectRatio,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::BorderRightWidth,
    L::BorderTopWidth,
    L::Bottom,
    L::BoxSizing,
    L::ColumnGap,
    L::Content,
    L::Direction,
    L::Display,
    L::Filter,
    L::FlexBasis,
    L::FlexDirection,
    L::FlexGrow,
    L::FlexShrink,
    L::FlexWrap,
    L::Float,
    L::FontFamily,
    L::FontSize,
    L::FontStyle,
    L::FontVariantCaps,
    L::FontWeight,
    L::GridAutoColumns,
    L::GridAutoFlow,
    L::GridAutoRows,
    L::GridColumnEnd,
    L::GridColumnStart,
    L::GridRowEnd,
    L::GridRowStart,
    L::GridTemplateAreas,
    L::GridTemplateColumns,
    L::GridTemplateRows,
    L::Height,
    L::JustifyContent,
    L::JustifyItems,
    L::JustifySelf,
    L::Left,
    L::LetterSpacing,
    L::LineHeight,
    L::MarginBottom,
    L::MarginLeft,
    L::MarginRight,
    L::MarginTop,
    L::MaxHeight,
    L::MaxWidth,
    L::MinHeight,
    L::MinWidth,
    L::Order,
    L::OverflowWrap,
    L::OverflowX,
    L::OverflowY,
    L::PaddingBottom,
    L::PaddingLeft,
    L::PaddingRight,
    L::PaddingTop,
    L::Position,
    L::Right,
    L::RowGap,
    L::TextAlign,
    L::TextIndent,
    L::TextTransform,
    L::TextWrapMode,
    L::Top,
    L::Transform,
    L::VerticalAlign,
    L::WhiteSpaceCollapse,
    L::Width,
    L::WordBreak,
    L::WordSpacing,
    L::WritingMode,
];

const READ: LonghandSet = LonghandSet::of(&READS);

/// A number that two looks seldom share which are not laid out alike: of the rules that set something of the layout. Most that
/// are share it.
pub fn key(document: &Document, styles: &Styles, host: NodeId) -> u64 {
    let mut hasher = FxHasher::default();
    document.len().hash(&mut hasher);
    for node in document.node(host).parent.into_iter().chain(document.descendants(host)) {
        for at in styles.boxes(node) {
            at.pseudo.is_some().hash(&mut hasher);
            if let Some(style) = styles.of(at) {
                style.feed_setting(&READ, &mut hasher);
            }
        }
    }
    hasher.finish()
}

/// Whether everything that a layout depends on is the same in a control on two pages that were made in the same way.
pub fn is_alike(one: (&Document, &Styles), other: (&Document, &Styles), host: NodeId) -> bool {
    let around = one.0.node(host).parent;
    one.0.len() == other.0.len()
        && around.is_none_or(|node| has_same_styles(one.1, other.1, node))
        && one.0.descendants(host).into_iter().all(|node| {
            let same = match (&one.0.node(node).data, &other.0.node(node).data) {
                (NodeData::Element(a), NodeData::Element(b)) => {
                    a.name == b.name && decisive(a).eq(decisive(b)) && has_same_styles(one.1, other.1, node)
                }
                (NodeData::Text(a), NodeData::Text(b)) => a == b,
                _ => false,
            };
            same && one.0.node(node).children == other.0.node(node).children
        })
}

/// Attributes that may say something of a size: those of states are seen in the styles.
fn decisive(element: &Element) -> impl Iterator<Item = (&str, &str)> {
    const OF_STATES: [&str; 6] = ["class", "checked", "disabled", "id", "readonly", "required"];
    let all = element.attributes.iter().map(|(name, value)| (&*name.local, value.as_str()));
    all.filter(|(name, _)| !name.starts_with("aria-") && !name.starts_with("data-") && !OF_STATES.contains(name))
}

fn has_same_styles(one: &Styles, other: &Styles, node: NodeId) -> bool {
    let same = |a: Option<&std::rc::Rc<Style>>, b: Option<&std::rc::Rc<Style>>| match (a, b) {
        (None, None) => true,
        (Some(a), Some(b)) => !differs(a, b),
        _ => false,
    };
    same(one.element(node), other.element(node))
        && PseudoElement::ALL.iter().all(|pseudo| same(one.pseudo(node, *pseudo), other.pseudo(node, *pseudo)))
}

fn differs(a: &Style, b: &Style) -> bool {
    let candidates = a.may_differ(b);
    // What is compared with shares of a width has no value of its own yet: what it comes to tells it apart.
    let compared = |longhand| [0.0, 1000.0].map(|whole| (a.with_whole(longhand, whole), b.with_whole(longhand, whole)));
    READS.iter().filter(|longhand| candidates.has(**longhand)).any(|longhand| {
        let value = a.get(*longhand);
        value != b.get(*longhand) || value == Err(COMPARED) && compared(*longhand).iter().any(|(a, b)| a != b)
    })
}
