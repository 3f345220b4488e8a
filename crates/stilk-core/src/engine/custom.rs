//! Custom properties: winners, inheritance, references, cycles (CSS Variables 1), types (Properties and Values 1). They
//! are computed when something reads them: a page has hundreds, a control reads a few.

use super::cascade::{Block, DeclarationId, Layering, Origin, name_hash};
use super::style::Style;
use crate::css::parse::has_substitution;
use crate::css::substitute::{references, substitute};
use std::rc::Rc;
use std::sync::Arc;

/// A custom property's computed value and the declaration that won.
#[derive(Debug, Clone, PartialEq)]
pub struct Custom {
    /// The text, references replaced; `None` for the guaranteed-invalid value.
    pub text: Option<Rc<str>>,
    /// The declaration; `None` for the initial value of a registered property.
    pub winner: Option<DeclarationId>,
}

enum Declared {
    Text(Arc<str>, DeclarationId),
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
    open: Vec<String>,
    /// Members of a cycle that was found: all of them are invalid.
    cyclic: Vec<String>,
}

impl Style {
    /// A custom property of the element; `None` where it has no value at all.
    pub fn custom(&self, name: &str) -> Option<Custom> {
        self.custom_in(name, &mut Walk::default())
    }

    fn custom_in(&self, name: &str, walk: &mut Walk) -> Option<Custom> {
        if let Some(known) = self.customs.borrow().get(name) {
            return Some(known.clone());
        }
        let (text, winner) = match self.declared_custom(name) {
            Declared::Inherit => return self.inherited_custom(name),
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
        let resolved = if has_substitution(&text) {
            walk.open.push(name.to_owned());
            // A fallback counts as a reference too: what it names must be visited even where it is not used.
            for other in references(&text) {
                self.custom_in(&other, walk);
            }
            let resolved = substitute(&text, &mut |other| self.custom_in(other, walk)?.text.map(|t| t.to_string()));
            walk.open.pop();
            if walk.cyclic.iter().any(|member| member == name) { None } else { resolved }
        } else {
            Some(text.to_string())
        };
        let custom = Custom { text: resolved.map(Rc::from), winner: Some(winner) };
        if walk.open.is_empty() || !walk.cyclic.iter().any(|member| member == name) {
            self.customs.borrow_mut().insert(name.into(), custom.clone());
        }
        Some(custom)
    }

    fn inherited_custom(&self, name: &str) -> Option<Custom> {
        let registered = self.sheets.registered(name);
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

    fn declared_custom(&self, name: &str) -> Declared {
        let hash = name_hash(name);
        let mut skip = Skip::None;
        for block in self.sheets.blocks(&self.matched).filter(|block| block.may_set(hash)) {
            for declaration in block.declarations.iter().rev() {
                let Some(text) = declaration.custom(name, hash) else { continue };
                if skip.covers(block) {
                    continue;
                }
                match text.trim() {
                    "inherit" | "unset" => return Declared::Inherit,
                    "initial" => return Declared::Invalid(declaration.id),
                    "revert-layer" => skip = Skip::Layer(block.layering),
                    "revert" => skip = Skip::Origin(block.origin),
                    _ => return Declared::Text(Arc::clone(text), declaration.id),
                }
            }
        }
        Declared::Inherit
    }
}
