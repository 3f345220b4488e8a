//! What an element's own attributes declare: presentational ones, and `style`.

use super::hints;
use super::matching::ElementRef;
use super::order::{Block, DeclarationId, HINTS, INLINE, Layering, Origin, Sheets};
use super::prepared::PreparedList;
use super::stylesheet::{Declarations, parse_inline};
use crate::css::substitute::Template;
use rustc_hash::FxHashMap;
use std::rc::Rc;

/// Declarations of attributes by their texts: those of presentational attributes, and of `style`.
pub(super) type AttributedByText = FxHashMap<(Box<str>, Box<str>, bool), Rc<Attributed>>;

/// The declarations that an element's attributes stand for.
#[derive(Debug)]
pub struct Attributed {
    hints: Option<Block>,
    normal: Option<Block>,
    important: Option<Block>,
    /// The two texts.
    texts: (Box<str>, Box<str>),
}

const OF_HINTS: u32 = u32::MAX - 2;
const NORMAL: u32 = u32::MAX - 1;
const IMPORTANT: u32 = u32::MAX;

/// Whether a rank is that of a block of attributes.
pub(super) fn is_of_attributes(rank: u32) -> bool {
    rank >= OF_HINTS
}

impl Attributed {
    fn new(hints: &str, style: &str, quirks: bool) -> Attributed {
        let block = |declarations: &Declarations, sheet: u16, important: bool, layering: Layering| {
            let list = match declarations.in_quirks_mode().filter(|_| quirks) {
                Some((all, numbers)) => PreparedList::new(&all, important, |at| numbers[at]),
                None => declarations.prepared(important),
            };
            Some(Block::new(list?, (sheet, 0), Origin::Author, layering, None))
        };
        let of_style = parse_inline(style);
        let inline = |important| Layering::new(Origin::Author, important, true, None);
        Attributed {
            hints: block(&parse_inline(hints), HINTS, false, Layering::HINTS),
            normal: block(&of_style, INLINE, false, inline(false)),
            important: block(&of_style, INLINE, true, inline(true)),
            texts: (hints.into(), style.into()),
        }
    }

    /// Its blocks by rank, weakest first.
    pub(super) fn blocks(&self) -> impl Iterator<Item = (u32, &Block)> {
        let blocks = [(OF_HINTS, &self.hints), (NORMAL, &self.normal), (IMPORTANT, &self.important)];
        blocks.into_iter().filter_map(|(rank, block)| Some((rank, block.as_ref()?)))
    }

    /// The block with a rank.
    pub(super) fn block(&self, rank: u32) -> Option<&Block> {
        match rank {
            OF_HINTS => self.hints.as_ref(),
            NORMAL => self.normal.as_ref(),
            _ => self.important.as_ref(),
        }
    }

    /// Attributes that some `attr()` in it names.
    pub(super) fn attributes(&self) -> impl Iterator<Item = &Box<str>> {
        let declarations = self.blocks().flat_map(|(_, block)| block.declarations());
        declarations.filter_map(|d| d.text.as_ref()).flat_map(Template::attributes)
    }

    /// The text that a declaration stands in, and where.
    pub(super) fn place(&self, id: DeclarationId) -> Option<(&str, u32)> {
        let text = if id.sheet == HINTS { &self.texts.0 } else { &self.texts.1 };
        let mut blocks = self.blocks();
        let found = blocks.find_map(|(_, block)| block.declarations().iter().find(|one| block.id(one) == id));
        found.map(|declaration| (&**text, declaration.offset()))
    }
}

impl Sheets {
    /// What the attributes of an element declare; the same texts are parsed once.
    pub(super) fn attributed(&self, element: &ElementRef) -> Option<Rc<Attributed>> {
        // Bounded: a page may have any number of `style` attributes.
        const MOST: usize = 1 << 14;
        let hints = hints::of(element);
        let style = element.element().attribute("style").unwrap_or_default();
        if hints.is_empty() && style.is_empty() {
            return None;
        }
        let mut known = self.attributed.borrow_mut();
        let key = (Box::from(hints), Box::from(style), element.document.quirks);
        if let Some(same) = known.get(&key) {
            return Some(Rc::clone(same));
        }
        if known.len() >= MOST {
            known.clear();
        }
        let attributed = Rc::new(Attributed::new(&key.0, &key.1, key.2));
        known.insert(key, Rc::clone(&attributed));
        Some(attributed)
    }
}
