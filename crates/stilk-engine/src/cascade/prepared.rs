//! Declarations prepared for the cascade: what each of them sets, and what its text refers to. That depends on nothing but the
//! rule, so it is found once, and every engine that reads a stylesheet has the same.

use super::declaration::{Declaration, DeclarationBody};
use super::longhand_set::FlowSets;
use crate::css::parse::Declared;
use crate::css::substitute::{CustomName, Template};
use std::sync::Arc;

/// A declaration and what it sets.
#[derive(Debug)]
pub struct Prepared {
    rule: Arc<[Declaration]>,
    index: usize,
    /// Its number in the rule, as [`DeclarationId::declaration`](super::order::DeclarationId) has it.
    pub(super) number: u32,
    /// What it sets.
    pub sets: FlowSets,
    /// The custom property it sets.
    pub(super) custom: Option<CustomName>,
    /// Its text, where that may hold references.
    pub text: Option<Template>,
}

impl Prepared {
    fn new(rule: &Arc<[Declaration]>, index: usize, number: u32) -> Prepared {
        let mut sets = FlowSets::default();
        let mut custom = None;
        let mut text = None;
        match &rule[index].body {
            DeclarationBody::Property(parsed) => {
                sets = FlowSets::of(&parsed.targets());
                if let Declared::Pending(pending) = &parsed.declared {
                    text = Some(Template::new(pending));
                }
            }
            DeclarationBody::Custom(name, value) => {
                custom = Some(CustomName::new(name));
                text = Some(Template::new(value));
            }
        }
        Prepared { rule: Arc::clone(rule), index, number, sets, custom, text }
    }

    /// What it sets.
    pub fn body(&self) -> &DeclarationBody {
        &self.rule[self.index].body
    }

    /// Where it stands in its sheet, in bytes.
    pub(super) fn offset(&self) -> u32 {
        self.rule[self.index].offset
    }

    /// Whether it sets a custom property.
    pub fn sets_custom(&self, name: &CustomName) -> bool {
        self.custom.as_ref().is_some_and(|own| own == name)
    }
}

/// The declarations of a rule that are important, or those that are not.
#[derive(Debug)]
pub(super) struct PreparedList {
    /// In order; one at least.
    pub(super) declarations: Box<[Prepared]>,
    /// What they set.
    pub(super) sets: FlowSets,
    /// A Bloom filter of the custom properties they set: one bit of 64 each.
    pub(super) customs: u64,
}

impl PreparedList {
    /// Those of a rule; `number` is that of the one with an index. `None` where there are none.
    pub(super) fn new(
        rule: &Arc<[Declaration]>,
        important: bool,
        number: impl Fn(usize) -> u32,
    ) -> Option<Arc<PreparedList>> {
        let of_kind = (0..rule.len()).filter(|i| rule[*i].important == important);
        let declarations: Box<[Prepared]> = of_kind.map(|i| Prepared::new(rule, i, number(i))).collect();
        if declarations.is_empty() {
            return None;
        }
        let mut sets = FlowSets::default();
        let mut customs = 0;
        for declaration in &declarations {
            sets.add_all(&declaration.sets);
            customs |= declaration.custom.as_ref().map_or(0, CustomName::bit);
        }
        Some(Arc::new(PreparedList { declarations, sets, customs }))
    }
}
