//! Stylesheets prepared for the cascade (CSS Cascade 5, section 6): rules indexed by what they ask for, and their
//! declarations in blocks that are ranked once, so that sorting what matches an element is sorting numbers.

use super::media::Media;
use super::selector::{ElementRef, One, PseudoElement};
use super::stylesheet::{Condition, Declaration, DeclarationBody, Registered, Stylesheet};
use crate::css::compute::initial_declared;
use crate::css::parse::Declared;
use crate::css::property::{Longhand, PropertyName};
use crate::css::substitute::{CustomName, Template};
use crate::css::value::Value;
use html5ever::LocalName;
use rustc_hash::FxHashMap;
use selectors::context::SelectorCaches;
use selectors::parser::Component;
use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;
use std::sync::Arc;

/// Where a stylesheet comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Origin {
    /// The browser's own.
    Browser,
    /// The page's.
    Author,
}

/// Names a declaration: which sheet, rule and declaration in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct DeclarationId {
    /// Index of the sheet in the engine; `u16::MAX` for the `style` attribute.
    pub sheet: u16,
    /// Index of the rule.
    pub rule: u32,
    /// Index of the declaration in the rule.
    pub declaration: u32,
}

/// The sheet index of declarations in a `style` attribute.
pub const INLINE: u16 = u16::MAX;

/// Cascade order without the place of a rule; compares as the cascade does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Layering {
    /// Origin and importance: browser, author, important author, important browser.
    level: u8,
    /// Whether it is in a `style` attribute.
    inline: bool,
    /// Layer rank; unlayered is highest, and lowest among important declarations.
    layer: i64,
}

impl Layering {
    fn new(origin: Origin, important: bool, inline: bool, layer: Option<u32>) -> Layering {
        let level = match (origin, important) {
            (Origin::Browser, false) => 0,
            (Origin::Author, false) => 1,
            (Origin::Author, true) => 2,
            (Origin::Browser, true) => 3,
        };
        let rank = layer.map_or(i64::from(u32::MAX), i64::from);
        Layering { level, inline, layer: if important { -rank } else { rank } }
    }
}

/// A set of longhands.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct LonghandSet([u64; 4]);

impl LonghandSet {
    fn add(&mut self, longhand: Longhand) {
        self.0[longhand as usize / 64] |= 1 << (longhand as usize % 64);
    }

    fn add_all(&mut self, other: &LonghandSet) {
        self.0.iter_mut().zip(other.0).for_each(|(a, b)| *a |= b);
    }

    /// Whether it holds a longhand.
    pub fn has(&self, longhand: Longhand) -> bool {
        self.0[longhand as usize / 64] & (1 << (longhand as usize % 64)) != 0
    }
}

/// Declarations of one rule that share their place in the cascade.
#[derive(Debug)]
pub struct Block {
    /// The declarations, in order.
    pub declarations: Vec<Prepared>,
    /// Where they come from.
    pub origin: Origin,
    /// Their layer.
    pub layering: Layering,
    /// Set when a condition around them could not be decided.
    pub unknown: Option<&'static str>,
    /// What they set where the direction is left to right, and where it is right to left.
    pub sets: [LonghandSet; 2],
    /// A Bloom filter of the custom properties they set: one bit of 64 each.
    customs: u64,
}

/// A declaration and what it sets.
#[derive(Debug)]
pub struct Prepared {
    rule: Arc<[Declaration]>,
    index: usize,
    /// Its name.
    pub id: DeclarationId,
    /// What it sets where the direction is left to right, and where it is right to left.
    pub sets: [LonghandSet; 2],
    /// The custom property it sets.
    custom: Option<CustomName>,
    /// Its text, where that may hold references.
    pub text: Option<Template>,
}

impl Prepared {
    fn new(rule: &Arc<[Declaration]>, index: usize, id: DeclarationId) -> Prepared {
        let mut sets = [LonghandSet::default(); 2];
        let mut custom = None;
        let mut text = None;
        match &rule[index].body {
            DeclarationBody::Property(parsed) => {
                for target in parsed.targets() {
                    sets[0].add(target.physical(false));
                    sets[1].add(target.physical(true));
                }
                if let Declared::Pending(pending) = &parsed.declared {
                    text = Some(Template::new(pending));
                }
            }
            DeclarationBody::Custom(name, value) => {
                custom = Some(CustomName::new(name));
                text = Some(Template::new(value));
            }
        }
        Prepared { rule: Arc::clone(rule), index, id, sets, custom, text }
    }

    /// What it sets.
    pub fn body(&self) -> &DeclarationBody {
        &self.rule[self.index].body
    }

    /// Whether it sets a custom property.
    pub fn sets_custom(&self, name: &CustomName) -> bool {
        self.custom.as_ref().is_some_and(|own| own == name)
    }
}

impl Block {
    fn new(
        rule: &Arc<[Declaration]>,
        important: bool,
        origin: Origin,
        layering: Layering,
        unknown: Option<&'static str>,
        id: impl Fn(u32) -> DeclarationId,
    ) -> Option<Block> {
        let of_kind = (0..rule.len()).filter(|i| rule[*i].important == important);
        let declarations: Vec<Prepared> = of_kind.map(|i| Prepared::new(rule, i, id(i as u32))).collect();
        if declarations.is_empty() {
            return None;
        }
        let mut sets = [LonghandSet::default(); 2];
        let mut customs = 0;
        for declaration in &declarations {
            sets[0].add_all(&declaration.sets[0]);
            sets[1].add_all(&declaration.sets[1]);
            if let Some(name) = &declaration.custom {
                customs |= 1 << (name.hash % 64);
            }
        }
        Some(Block { declarations, origin, layering, unknown, sets, customs })
    }

    /// Whether it may set a custom property.
    pub fn may_set(&self, name: &CustomName) -> bool {
        self.customs & (1 << (name.hash % 64)) != 0
    }
}

/// The declarations of a `style` attribute.
#[derive(Debug)]
pub struct Inline {
    normal: Option<Block>,
    important: Option<Block>,
}

impl Inline {
    /// Prepares the declarations of a `style` attribute.
    pub fn new(declarations: &Arc<[Declaration]>) -> Inline {
        let id = |declaration| DeclarationId { sheet: INLINE, rule: 0, declaration };
        let block = |important| {
            let layering = Layering::new(Origin::Author, important, true, None);
            Block::new(declarations, important, Origin::Author, layering, None, id)
        };
        Inline { normal: block(false), important: block(true) }
    }
}

/// The blocks that apply to an element, strongest first.
#[derive(Debug, Clone, Default)]
pub struct Matched {
    blocks: Vec<u32>,
    inline: Option<Rc<Inline>>,
}

const INLINE_NORMAL: u32 = u32::MAX - 1;
const INLINE_IMPORTANT: u32 = u32::MAX;

impl Matched {
    /// Whether nothing applies.
    pub fn is_empty(&self) -> bool {
        self.blocks.is_empty()
    }
}

/// A rule, ready to match.
#[derive(Debug)]
struct PreparedRule {
    selector: One,
    pseudo: Option<PseudoElement>,
    /// Ranks of its blocks.
    blocks: [Option<u32>; 2],
}

/// Values by property and text.
type Parsed = FxHashMap<(PropertyName, Rc<str>), Rc<Option<Declared>>>;

/// All stylesheets of an engine, prepared for one set of media features.
#[derive(Debug)]
pub struct Sheets {
    rules: Vec<PreparedRule>,
    /// By rank, weakest first.
    blocks: Vec<Block>,
    by_class: FxHashMap<LocalName, Vec<u32>>,
    by_name: FxHashMap<LocalName, Vec<u32>>,
    other: Vec<u32>,
    /// Custom properties with a type.
    registered: HashMap<Arc<str>, Registered>,
    /// Initial values, as declared.
    pub initial: Vec<Value>,
    /// The media features.
    pub media: Media,
    /// Values that were parsed after substitution.
    parsed: RefCell<Parsed>,
}

impl Sheets {
    /// Prepares sheets in order; rules whose media never match are left out.
    pub fn new(sheets: &[(&Stylesheet, Origin)], media: Media) -> Sheets {
        let mut all = Sheets {
            rules: Vec::new(),
            blocks: Vec::new(),
            by_class: FxHashMap::default(),
            by_name: FxHashMap::default(),
            other: Vec::new(),
            registered: HashMap::new(),
            initial: Longhand::ALL.iter().map(|longhand| initial_declared(*longhand)).collect(),
            media,
            parsed: RefCell::default(),
        };
        let mut found: Vec<Found> = Vec::new();
        for (index, (sheet, origin)) in sheets.iter().enumerate() {
            all.read(sheet, *origin, index as u16, &mut found);
        }
        found.sort_by_key(|found| (found.block.layering, found.specificity, found.order));
        for found in found {
            let slot = all.rules[found.rule].blocks.iter_mut().find(|slot| slot.is_none());
            if let Some(slot) = slot {
                *slot = Some(all.blocks.len() as u32);
            }
            all.blocks.push(found.block);
        }
        all
    }

    fn read(&mut self, sheet: &Stylesheet, origin: Origin, index: u16, found: &mut Vec<Found>) {
        let ranks = sheet.layers.ranks();
        self.registered.extend(sheet.registered.iter().map(|one| (Arc::clone(&one.name), one.clone())));
        for (i, rule) in sheet.rules.iter().enumerate() {
            let holds = rule.conditions.iter().all(|condition| match condition {
                Condition::Media(list) => list.matches(&self.media),
                Condition::Unknown(_) => true,
            });
            if !holds {
                continue;
            }
            let unknown = rule.conditions.iter().find_map(|condition| match condition {
                Condition::Unknown(reason) => Some(*reason),
                Condition::Media(_) => None,
            });
            let layer = rule.layer.map(|id| ranks[id.index()]);
            let id = |declaration| DeclarationId { sheet: index, rule: i as u32, declaration };
            for important in [false, true] {
                let layering = Layering::new(origin, important, false, layer);
                if let Some(block) = Block::new(&rule.declarations, important, origin, layering, unknown, id) {
                    let (specificity, order) = (rule.selector.specificity(), (index, i as u32));
                    found.push(Found { block, rule: self.rules.len(), specificity, order });
                }
            }
            self.index(&rule.selector);
            let (selector, pseudo) = (rule.selector.clone(), rule.pseudo.clone());
            self.rules.push(PreparedRule { selector, pseudo, blocks: [None; 2] });
        }
    }

    /// Files the next rule under what its last compound selector asks for.
    fn index(&mut self, selector: &One) {
        let mut class = None;
        let mut name = None;
        for component in selector.iter() {
            match component {
                Component::Class(ident) => class = Some(ident.0.clone()),
                Component::LocalName(local) => name = Some(local.lower_name.0.clone()),
                _ => {}
            }
        }
        let list = match (class, name) {
            (Some(class), _) => self.by_class.entry(class).or_default(),
            (None, Some(name)) => self.by_name.entry(name).or_default(),
            (None, None) => &mut self.other,
        };
        list.push(self.rules.len() as u32);
    }

    /// What applies to an element or one of its pseudo-elements.
    pub fn matched(
        &self,
        element: &ElementRef,
        pseudo: Option<&PseudoElement>,
        inline: Option<Rc<Inline>>,
        caches: &mut SelectorCaches,
    ) -> Matched {
        let mut blocks = Vec::new();
        if let Some(data) = element.document.element(element.node) {
            let by_class = data.classes.iter().filter_map(|class| self.by_class.get(class));
            let by_name = self.by_name.get(&data.name.local);
            for index in by_class.chain(by_name).chain([&self.other]).flatten() {
                let rule = &self.rules[*index as usize];
                if rule.pseudo.as_ref() == pseudo && element.matches(&rule.selector, pseudo.is_some(), caches) {
                    blocks.extend(rule.blocks.iter().flatten());
                }
            }
        }
        // A rule may be filed under two classes of one element.
        blocks.sort_unstable_by_key(|rank| std::cmp::Reverse(*rank));
        blocks.dedup();
        if let Some(inline) = &inline {
            let place = |block: &Option<Block>| {
                let layering = block.as_ref()?.layering;
                Some(blocks.partition_point(|rank| self.blocks[*rank as usize].layering > layering))
            };
            let (normal, important) = (place(&inline.normal), place(&inline.important));
            // The weaker first: it stands further back, so the other place stays what it was.
            for (place, rank) in [(normal, INLINE_NORMAL), (important, INLINE_IMPORTANT)] {
                if let Some(at) = place {
                    blocks.insert(at, rank);
                }
            }
        }
        Matched { blocks, inline }
    }

    /// The blocks of a match, strongest first.
    pub fn blocks<'m>(&'m self, matched: &'m Matched) -> impl Iterator<Item = &'m Block> {
        matched.blocks.iter().filter_map(|rank| match (*rank, &matched.inline) {
            (INLINE_NORMAL, Some(inline)) => inline.normal.as_ref(),
            (INLINE_IMPORTANT, Some(inline)) => inline.important.as_ref(),
            (rank, _) => self.blocks.get(rank as usize),
        })
    }

    /// The type of a custom property, if it has one.
    pub fn registered(&self, name: &str) -> Option<&Registered> {
        self.registered.get(name)
    }

    /// Parses a value after substitution; the same text is parsed once.
    pub fn parse(&self, name: PropertyName, text: Rc<str>) -> Rc<Option<Declared>> {
        // Bounded: a system has few texts, but foreign sheets may have any number.
        const MOST: usize = 1 << 16;
        let mut parsed = self.parsed.borrow_mut();
        if parsed.len() > MOST {
            parsed.clear();
        }
        let key = (name, text);
        if let Some(known) = parsed.get(&key) {
            return Rc::clone(known);
        }
        let value = Rc::new(crate::css::parse::parse_value(name, &key.1));
        parsed.insert(key, Rc::clone(&value));
        value
    }
}

struct Found {
    block: Block,
    rule: usize,
    specificity: u32,
    order: (u16, u32),
}
