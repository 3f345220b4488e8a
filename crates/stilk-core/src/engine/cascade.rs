//! Which declarations apply to an element, in the order of the cascade (CSS Cascade 5, section 6).

use super::media::Media;
use super::selector::{ElementRef, PseudoElement};
use super::stylesheet::{Condition, Declaration, Stylesheet};
use html5ever::LocalName;
use selectors::context::SelectorCaches;
use selectors::parser::Component;
use std::collections::HashMap;

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

/// A declaration that applies.
#[derive(Debug, Clone)]
pub struct Candidate<'s> {
    /// The declaration.
    pub declaration: &'s Declaration,
    /// Its name.
    pub id: DeclarationId,
    /// Its origin.
    pub origin: Origin,
    /// Its weight in the cascade: larger wins.
    pub weight: Weight,
    /// Set when a condition around it could not be decided.
    pub unknown: Option<&'static str>,
}

/// Cascade order; compares as the cascade does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Weight {
    /// Origin and importance: browser, author, important author, important browser.
    level: u8,
    /// Whether it is in a `style` attribute.
    inline: bool,
    /// Layer rank; unlayered is highest, and lowest among important declarations.
    layer: i64,
    specificity: u32,
    order: (u16, u32, u32),
}

impl Weight {
    /// Whether two stand in the same cascade layer of the same origin.
    pub fn same_layer(&self, other: &Weight) -> bool {
        (self.level, self.inline, self.layer) == (other.level, other.inline, other.layer)
    }

    /// The specificity, packed as the selectors crate packs it.
    pub fn specificity(&self) -> u32 {
        self.specificity
    }
}

/// A stylesheet prepared for matching.
#[derive(Debug)]
pub struct IndexedSheet<'s> {
    sheet: &'s Stylesheet,
    origin: Origin,
    index: u16,
    ranks: Vec<u32>,
    by_class: HashMap<LocalName, Vec<u32>>,
    by_name: HashMap<LocalName, Vec<u32>>,
    other: Vec<u32>,
}

impl<'s> IndexedSheet<'s> {
    /// Indexes the rules by what their last compound selector asks for, and leaves out those whose media never match.
    pub fn new(sheet: &'s Stylesheet, origin: Origin, index: u16, media: &Media) -> Self {
        let mut indexed = IndexedSheet {
            sheet,
            origin,
            index,
            ranks: sheet.layers.ranks(),
            by_class: HashMap::new(),
            by_name: HashMap::new(),
            other: Vec::new(),
        };
        for (i, rule) in sheet.rules.iter().enumerate() {
            let matching = rule.conditions.iter().all(|condition| match condition {
                Condition::Media(list) => list.matches(media),
                Condition::Unknown(_) => true,
            });
            if !matching {
                continue;
            }
            let mut class = None;
            let mut name = None;
            for component in rule.selector.iter() {
                match component {
                    Component::Class(ident) => class = Some(ident.0.clone()),
                    Component::LocalName(local) => name = Some(local.lower_name.0.clone()),
                    _ => {}
                }
            }
            let list = match (class, name) {
                (Some(class), _) => indexed.by_class.entry(class).or_default(),
                (None, Some(name)) => indexed.by_name.entry(name).or_default(),
                (None, None) => &mut indexed.other,
            };
            list.push(i as u32);
        }
        indexed
    }

    /// Adds the declarations that apply to an element or one of its pseudo-elements.
    pub fn collect(
        &self,
        element: &ElementRef,
        pseudo: Option<&PseudoElement>,
        caches: &mut SelectorCaches,
        candidates: &mut Vec<Candidate<'s>>,
    ) {
        let Some(data) = element.document.element(element.node) else { return };
        let by_class = data.classes.iter().filter_map(|class| self.by_class.get(class));
        let by_name = self.by_name.get(&data.name.local);
        for list in by_class.chain(by_name).chain([&self.other]) {
            for index in list {
                let rule = &self.sheet.rules[*index as usize];
                if rule.pseudo.as_ref() != pseudo || !element.matches(&rule.selector, pseudo.is_some(), caches) {
                    continue;
                }
                let unknown = rule.conditions.iter().find_map(|condition| match condition {
                    Condition::Unknown(reason) => Some(*reason),
                    Condition::Media(_) => None,
                });
                let layer = rule.layer.map(|id| self.ranks[id.index()]);
                let specificity = rule.selector.specificity();
                for (i, declaration) in rule.declarations.iter().enumerate() {
                    let id = DeclarationId { sheet: self.index, rule: *index, declaration: i as u32 };
                    let weight = weigh(self.origin, declaration.important, false, layer, specificity, id);
                    candidates.push(Candidate { declaration, id, origin: self.origin, weight, unknown });
                }
            }
        }
    }
}

/// The candidates of a `style` attribute.
pub fn inline_candidates<'s>(declarations: &'s [Declaration], candidates: &mut Vec<Candidate<'s>>) {
    for (i, declaration) in declarations.iter().enumerate() {
        let id = DeclarationId { sheet: INLINE, rule: 0, declaration: i as u32 };
        let weight = weigh(Origin::Author, declaration.important, true, None, 0, id);
        candidates.push(Candidate { declaration, id, origin: Origin::Author, weight, unknown: None });
    }
}

fn weigh(
    origin: Origin,
    important: bool,
    inline: bool,
    layer: Option<u32>,
    specificity: u32,
    id: DeclarationId,
) -> Weight {
    let level = match (origin, important) {
        (Origin::Browser, false) => 0,
        (Origin::Author, false) => 1,
        (Origin::Author, true) => 2,
        (Origin::Browser, true) => 3,
    };
    let rank = layer.map_or(i64::from(u32::MAX), i64::from);
    let layer = if important { -rank } else { rank };
    Weight { level, inline, layer, specificity, order: (id.sheet, id.rule, id.declaration) }
}
