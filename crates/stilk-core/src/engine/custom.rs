//! Custom properties: winners, inheritance, references, cycles (CSS Variables 1), types (Properties and Values 1). They
//! are computed when something reads them: a page has hundreds, a control reads a few.

use super::cascade::{Block, DeclarationId, Layering, Origin};
use super::style::Style;
use crate::css::substitute::{CustomName, Template};
use std::rc::Rc;

/// A custom property's computed value and the declaration that won.
#[derive(Debug, Clone, PartialEq)]
pub struct Custom {
    /// The text, references replaced; `None` for the guaranteed-invalid value.
    pub text: Option<Rc<str>>,
    /// The declaration; `None` for the initial value of a registered property.
    pub winner: Option<DeclarationId>,
}

enum Declared<'s> {
    Text(&'s Template, DeclarationId),
    Invalid(DeclarationId),
    Inherit,
}

/// What `revert` and `revert-layer` leave out.
#[derive(Debug, Clone, Copy)]
pub enum Skip {
    /// Nothing.
    None,
    /// The rest of a layer.
    Layer(Layering),
    /// The rest of an origin.
    Origin(Origin),
}

impl Skip {
    /// Whether a block is left out.
    pub fn covers(&self, block: &Block) -> bool {
        match self {
            Skip::None => false,
            Skip::Layer(layering) => *layering == block.layering,
            Skip::Origin(origin) => block.origin == *origin,
        }
    }
}

/// Longer chains are taken for invalid: no sheet of a person has them, and the stack is not without end.
const MAX_DEPTH: usize = 200;

/// References that are being followed.
#[derive(Default)]
pub struct Walk {
    open: Vec<CustomName>,
    /// Members of a cycle that was found: all of them are invalid.
    cyclic: Vec<CustomName>,
}

impl Style {
    /// A custom property of the element; `None` where it has no value at all.
    pub fn custom(&self, name: &CustomName) -> Option<Custom> {
        self.custom_in(name, &mut Walk::default())
    }

    fn custom_in(&self, name: &CustomName, walk: &mut Walk) -> Option<Custom> {
        if let Some(known) = self.customs.borrow().get(&name.hash) {
            return known.clone();
        }
        let (text, winner) = match self.declared_custom(name) {
            Declared::Inherit => {
                let inherited = self.inherited_custom(name);
                self.customs.borrow_mut().insert(name.hash, inherited.clone());
                return inherited;
            }
            Declared::Invalid(winner) => return Some(Custom { text: None, winner: Some(winner) }),
            Declared::Text(text, winner) => (text, winner),
        };
        if let Some(at) = walk.open.iter().position(|open| open == name) {
            walk.cyclic.extend_from_slice(&walk.open[at..]);
            return Some(Custom { text: None, winner: Some(winner) });
        }
        if walk.open.len() > MAX_DEPTH {
            return Some(Custom { text: None, winner: Some(winner) });
        }
        walk.open.push(name.clone());
        // A fallback counts as a reference too: what it names must be visited even where it is not used.
        for other in text.references() {
            self.custom_in(other, walk);
        }
        let resolved = text.substitute(&mut |other| self.custom_in(other, walk)?.text);
        walk.open.pop();
        let is_cyclic = walk.cyclic.contains(name);
        let custom = Custom { text: resolved.filter(|_| !is_cyclic), winner: Some(winner) };
        if walk.open.is_empty() || !is_cyclic {
            self.customs.borrow_mut().insert(name.hash, Some(custom.clone()));
        }
        Some(custom)
    }

    fn inherited_custom(&self, name: &CustomName) -> Option<Custom> {
        let registered = self.sheets.registered(&name.text);
        let from_parent = match (&self.parent, registered) {
            (_, Some(registered)) if !registered.inherits => None,
            (Some(parent), _) => parent.custom(name),
            (None, _) => None,
        };
        from_parent.filter(|custom| custom.text.is_some() || registered.is_none()).or_else(|| {
            let initial = registered?.initial.as_deref()?;
            Some(Custom { text: Some(initial.into()), winner: None })
        })
    }

    fn declared_custom(&self, name: &CustomName) -> Declared<'_> {
        let mut skip = Skip::None;
        for block in self.sheets.blocks(&self.matched).filter(|block| block.may_set(name)) {
            for declaration in block.declarations.iter().rev().filter(|d| d.sets_custom(name)) {
                let Some(text) = &declaration.text else { continue };
                if skip.covers(block) {
                    continue;
                }
                match text.plain().unwrap_or_default().trim() {
                    "inherit" | "unset" => return Declared::Inherit,
                    "initial" => return Declared::Invalid(declaration.id),
                    "revert-layer" => skip = Skip::Layer(block.layering),
                    "revert" => skip = Skip::Origin(block.origin),
                    _ => return Declared::Text(text, declaration.id),
                }
            }
        }
        Declared::Inherit
    }
}
