//! What two styles of one element may differ in, by what their values come from: whoever compares looks computes the
//! few values that can differ instead of all.

use super::asked;
use super::longhand_set::LonghandSet;
use super::order::{Block, Origin, Prepared};
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

/// Whether two texts are the same but for how numbers are written: `.5` and `0.5`.
fn is_same_text(one: &str, other: &str) -> bool {
    let without_zeros = |text: &str| {
        let bytes = text.as_bytes();
        let is_needless = |at: usize| {
            let before = at.checked_sub(1).map(|before| bytes[before]);
            let begins = before.is_none_or(|byte| !byte.is_ascii_alphanumeric() && !matches!(byte, b'.' | b'_' | b'#'));
            bytes[at] == b'0' && bytes.get(at + 1) == Some(&b'.') && begins
        };
        (0..bytes.len()).filter(|at| !is_needless(*at)).map(|at| bytes[at]).collect::<Vec<u8>>()
    };
    one == other || without_zeros(one) == without_zeros(other)
}

impl Style {
    /// Whether the same declarations of pages apply to two styles of one element, in the same order, be it from other
    /// stylesheets, and read the same custom properties: where what is around them is the same, they have the same values.
    pub fn says_the_same(&self, other: &Style) -> bool {
        let _answering = asked::unnoted();
        let (one, two) = (&self.matched, &other.matched);
        if one.nature != two.nature || one.has_floats != two.has_floats || one.beyond != two.beyond {
            return false;
        }
        let is_property = |declaration: &&Prepared| matches!(declaration.body(), DeclarationBody::Property(_));
        // What sets custom properties alone changes nothing but what reads them.
        let counts =
            |block: &&Block| block.origin == Origin::Author && block.declarations().iter().any(|d| is_property(&d));
        let mut own = self.sheets.blocks(one).filter(counts);
        let mut others = other.sheets.blocks(two).filter(counts);
        loop {
            match (own.next(), others.next()) {
                (None, None) => return true,
                (Some(a), Some(b)) => {
                    let mut theirs = b.declarations().iter().filter(is_property);
                    let is_same = a.layering.is_important() == b.layering.is_important()
                        && a.unknown == b.unknown
                        && a.containers.is_empty()
                        && b.containers.is_empty()
                        && a.declarations()
                            .iter()
                            .filter(is_property)
                            .all(|a| theirs.next().is_some_and(|b| self.is_one(other, a, b)))
                        && theirs.next().is_none();
                    if !is_same {
                        return false;
                    }
                }
                _ => return false,
            }
        }
    }

    /// Whether two declarations say the same, and nothing that depends on the layer they stand in.
    fn is_one(&self, other: &Style, one: &Prepared, two: &Prepared) -> bool {
        let (DeclarationBody::Property(a), DeclarationBody::Property(b)) = (one.body(), two.body()) else {
            return false;
        };
        let gives_way = matches!(a.declared, Declared::Wide(Wide::Revert | Wide::RevertLayer));
        let reads_the_same = |name: &CustomName| match (self.custom(name), other.custom(name)) {
            (None, None) => true,
            (Some(own), Some(others)) => {
                own.unknown == others.unknown
                    && match (&own.text, &others.text) {
                        (None, None) => true,
                        (Some(own), Some(others)) => is_same_text(own, others),
                        _ => false,
                    }
            }
            _ => false,
        };
        let text = one.text.as_ref();
        a == b
            && !gives_way
            && text.is_none_or(|text| !text.may_be_wide() && text.references().iter().all(reads_the_same))
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
                found.add_all(block.sets().get(flow));
                continue;
            }
            let differing = block.declarations().iter().filter(|d| self.reads_other(other, d, apart));
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::cascade::defaults::Browser;
    use crate::cascade::{Engine, Forced, Media, Stylesheet};
    use crate::dom::Document;
    use crate::page::Page;

    #[test]
    fn numbers_are_the_same_however_they_are_written() {
        for (one, other) in [("0 1px rgb(1 2 3 / .5)", "0 1px rgb(1 2 3 / 0.5)"), ("-.5em", "-0.5em"), ("0.1", ".1")] {
            assert!(is_same_text(one, other), "{one} and {other}");
        }
        for (one, other) in [("10.5px", "1.5px"), ("a0.5", "a.5"), ("#0.5", "#.5"), ("0", "")] {
            assert!(!is_same_text(one, other), "{one} and {other}");
        }
    }

    #[test]
    fn styles_of_other_stylesheets_say_the_same_where_their_declarations_do() {
        let says = |one: &str, other: &str| {
            let page = Page::parse("<!doctype html><body><p class=a>x");
            let style = |css: &str| {
                let sheet = Stylesheet::parse(css);
                let engine = Engine::new(Browser::Chromium.sheet(), &[&sheet], Media::default());
                let styles = engine.styles(&page.document, &Forced::default());
                let nodes = page.document.descendants(Document::ROOT);
                let node =
                    nodes.into_iter().find(|node| page.document.element(*node).is_some_and(|e| e.local() == "p"));
                Rc::clone(styles.element(node.expect("the paragraph")).expect("a style"))
            };
            style(one).says_the_same(&style(other))
        };
        assert!(says(
            "p { top: 0; left: 1px } .a { top: 1px }",
            "@layer k { p { top: 0; left: 1px } .a { top: 1px } }"
        ));
        assert!(!says("p { top: 0 } .a { top: 1px }", ".a { top: 1px }"), "one declaration less");
        assert!(!says("p { top: 0 } .a { top: 1px }", ".a.a { top: 0 } .a.a.a { top: 1px; left: 0 }"));
        assert!(says(":root { --x: .5px } .a { top: var(--x) }", ".a { top: var(--x) } html { --x: 0.5px }"));
        assert!(!says(":root { --x: 1px } .a { top: var(--x) }", ":root { --x: 2px } .a { top: var(--x) }"));
        assert!(!says(".a { top: revert-layer }", ".a { top: revert-layer }"), "it depends on the layer");
        assert!(!says(".a { top: 0 }", ".a { top: 0 !important }"));
    }
}
