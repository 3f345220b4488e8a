//! What two styles of one element may differ in, by what their values come from: whoever compares looks computes the
//! few values that can differ instead of all.

use super::asked;
use super::longhand_set::LonghandSet;
use super::order::{Origin, Prepared};
use super::style::Style;
use super::stylesheet::DeclarationBody;
use crate::css::parse::{Declared, Wide};
use crate::css::property::Longhand as L;
use crate::css::substitute::CustomName;
use std::rc::Rc;

/// What other values of the element, or of what is around it, have a say in: always compared.
const DEPENDENT: [L; 11] = [
    L::Color,
    L::Content,
    L::Display,
    L::Float,
    L::FontFamily,
    L::FontSize,
    L::FontWeight,
    L::LineHeight,
    L::OverflowX,
    L::OverflowY,
    L::TextAlign,
];

/// A line's width is none where its style is none.
const LINES: [(L, L); 4] = [
    (L::BorderTopStyle, L::BorderTopWidth),
    (L::BorderRightStyle, L::BorderRightWidth),
    (L::BorderBottomStyle, L::BorderBottomWidth),
    (L::BorderLeftStyle, L::BorderLeftWidth),
];

/// Whether two declarations say the same, and nothing that depends on the layer they stand in.
fn is_one(one: &Prepared, other: &Prepared) -> bool {
    match (one.body(), other.body()) {
        (DeclarationBody::Property(one), DeclarationBody::Property(other)) => {
            one == other && !matches!(one.declared, Declared::Wide(Wide::Revert | Wide::RevertLayer))
        }
        (DeclarationBody::Custom(name, text), DeclarationBody::Custom(other, of_other)) => {
            name == other && text == of_other
        }
        _ => false,
    }
}

impl Style {
    /// Whether the same declarations of pages apply to two styles of one element, in the same order, be it from other
    /// stylesheets: where what is around them is the same, they have the same values.
    pub fn says_the_same(&self, other: &Style) -> bool {
        let _answering = asked::unnoted();
        let (one, two) = (&self.matched, &other.matched);
        if one.nature != two.nature || one.has_floats != two.has_floats || one.beyond != two.beyond {
            return false;
        }
        let mut own = self.sheets.blocks(one).filter(|block| block.origin == Origin::Author);
        let mut others = other.sheets.blocks(two).filter(|block| block.origin == Origin::Author);
        loop {
            match (own.next(), others.next()) {
                (None, None) => return true,
                (Some(a), Some(b)) => {
                    let is_same = a.layering.is_important() == b.layering.is_important()
                        && a.unknown == b.unknown
                        && a.containers.is_empty()
                        && b.containers.is_empty()
                        && a.declarations.len() == b.declarations.len()
                        && a.declarations.iter().zip(&b.declarations).all(|(a, b)| is_one(a, b));
                    if !is_same {
                        return false;
                    }
                }
                _ => return false,
            }
        }
    }

    /// Longhands whose value may be another in a style of the same element in another state or theme: all that is left out
    /// has the same value in both, colours resolved, where the two have the same around them.
    pub fn may_differ(&self, other: &Style) -> LonghandSet {
        let _answering = asked::unnoted();
        if std::ptr::eq(self, other) {
            return LonghandSet::default();
        }
        let flow = self.flow();
        let (own, others) = (self.context(), other.context());
        if flow != other.flow() || own != others || !Rc::ptr_eq(&self.sheets, &other.sheets) {
            return LonghandSet::all();
        }
        let mut found = LonghandSet::default();
        DEPENDENT.iter().for_each(|longhand| found.add(*longhand));
        let apart = self.customs_apart(other);
        for (block, is_common) in self.sheets.compared(&self.matched, &other.matched) {
            // Beside the match, what is around the element and how it is drawn may decide whether a block applies.
            let is_turned = block.native.is_some() && self.keeps_native_look() != other.keeps_native_look();
            if !is_common || !block.containers.is_empty() || is_turned {
                found.add_all(block.sets.get(flow));
                continue;
            }
            let differing = block.declarations.iter().filter(|d| self.reads_other(other, d, apart));
            differing.for_each(|declaration| found.add_all(declaration.sets.get(flow)));
        }
        for (style, width) in LINES {
            if found.has(style) {
                found.add(width);
            }
        }
        if self.surroundings() != other.surroundings() {
            let is_color = |longhand: &L| self.get(*longhand).is_ok_and(|value| value.has_unresolved_color());
            self.set_by_author().iter().filter(is_color).for_each(|longhand| found.add(longhand));
        }
        found
    }

    /// Whether the value of a declaration that both have comes from elsewhere; `apart` has a bit for each custom property that
    /// may have another value.
    fn reads_other(&self, other: &Style, declaration: &Prepared, apart: u64) -> bool {
        let DeclarationBody::Property(parsed) = declaration.body() else { return false };
        match &parsed.declared {
            Declared::Values(_) => false,
            Declared::Wide(_) => true,
            Declared::Pending(_) => declaration.text.as_ref().is_none_or(|text| {
                let custom =
                    |style: &Style, name: &CustomName| style.custom(name).map(|custom| (custom.text, custom.unknown));
                let differs = |name: &CustomName| apart & name.bit() != 0 && custom(self, name) != custom(other, name);
                let attribute = |style: &Style, name: &str| style.matched.attribute(name);
                text.may_be_wide()
                    || text.references().iter().any(differs)
                    || text.attributes().iter().any(|name| attribute(self, name) != attribute(other, name))
            }),
        }
    }

    /// A Bloom filter of the custom properties that are set below what both stand in: all others have the same values.
    fn customs_apart(&self, other: &Style) -> u64 {
        let mut bits = 0;
        let (mut a, mut b) = (Some(self), Some(other));
        while let (Some(one), Some(another)) = (a, b)
            && !std::ptr::eq(one, another)
        {
            bits |= one.matched.customs | another.matched.customs;
            (a, b) = (one.parent().map(Rc::as_ref), another.parent().map(Rc::as_ref));
        }
        bits
    }
}
