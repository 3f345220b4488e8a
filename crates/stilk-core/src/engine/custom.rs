//! Custom properties: winners, inheritance, references, cycles (CSS Variables 1).

use super::cascade::{Candidate, DeclarationId, Origin};
use super::stylesheet::DeclarationBody;
use crate::css::parse::has_substitution;
use crate::css::substitute::substitute;
use std::collections::HashMap;
use std::sync::Arc;

/// A custom property's computed value and the declaration that won.
#[derive(Debug, Clone, PartialEq)]
pub struct Custom {
    /// The text, references replaced; `None` for the guaranteed-invalid value.
    pub text: Option<Arc<str>>,
    /// The declaration.
    pub winner: DeclarationId,
}

/// All custom properties of an element.
pub type Customs = HashMap<Arc<str>, Custom>;

/// Computes the custom properties of an element from its candidates, highest first, and its parent's.
pub fn compute(candidates: &[Candidate], parent: &Arc<Customs>) -> Arc<Customs> {
    let mut declared: HashMap<&Arc<str>, Declared> = HashMap::new();
    for candidate in candidates {
        let DeclarationBody::Custom(name, text) = &candidate.declaration.body else { continue };
        let entry = declared.entry(name).or_insert(Declared::Open(Skip::None));
        let Declared::Open(skip) = entry else { continue };
        if skip.covers(candidate) {
            continue;
        }
        *entry = match text.trim() {
            "inherit" | "unset" => Declared::Inherit,
            "initial" => Declared::Invalid(candidate.id),
            "revert-layer" => Declared::Open(Skip::Layer(candidate.weight)),
            "revert" => Declared::Open(Skip::Origin(candidate.origin)),
            _ => Declared::Text(Arc::clone(text), candidate.id),
        };
    }
    declared.retain(|_, value| matches!(value, Declared::Text(..) | Declared::Invalid(_)));
    if declared.is_empty() {
        return Arc::clone(parent);
    }
    let mut resolver =
        Resolver { declared: &declared, parent, done: HashMap::new(), open: Vec::new(), cyclic: Vec::new() };
    let mut customs: Customs = (**parent).clone();
    for (name, value) in &declared {
        let winner = match value {
            Declared::Text(_, winner) | Declared::Invalid(winner) => *winner,
            _ => continue,
        };
        let text = resolver.resolve(name).map(Arc::from);
        customs.insert(Arc::clone(name), Custom { text, winner });
    }
    Arc::new(customs)
}

enum Declared {
    /// Nothing decided yet; what a rollback leaves out.
    Open(Skip),
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
    Layer(super::cascade::Weight),
    /// The rest of an origin.
    Origin(Origin),
}

impl Skip {
    /// Whether a candidate is left out.
    pub fn covers(&self, candidate: &Candidate) -> bool {
        match self {
            Skip::None => false,
            Skip::Layer(weight) => weight.same_layer(&candidate.weight),
            Skip::Origin(origin) => candidate.origin == *origin,
        }
    }
}

/// Longer chains are taken for invalid: no sheet of a person has them, and the stack is not without end.
const MAX_DEPTH: usize = 200;

struct Resolver<'r, 's> {
    declared: &'r HashMap<&'s Arc<str>, Declared>,
    parent: &'r Customs,
    done: HashMap<String, Option<String>>,
    open: Vec<String>,
    /// Members of a cycle that was found: all of them are invalid.
    cyclic: Vec<String>,
}

impl Resolver<'_, '_> {
    fn resolve(&mut self, name: &str) -> Option<String> {
        if let Some(done) = self.done.get(name) {
            return done.clone();
        }
        let key: Arc<str> = name.into();
        let text = match self.declared.get(&key) {
            None => return self.parent.get(name).and_then(|custom| custom.text.as_deref().map(str::to_owned)),
            Some(Declared::Text(text, _)) => Arc::clone(text),
            Some(_) => return None,
        };
        if let Some(at) = self.open.iter().position(|open| open == name) {
            self.cyclic.extend_from_slice(&self.open[at..]);
            return None;
        }
        if self.open.len() > MAX_DEPTH {
            return None;
        }
        let resolved = if has_substitution(&text) {
            self.open.push(name.to_owned());
            // A fallback counts as a reference too: what it names must be visited even where it is not used.
            for other in crate::css::substitute::references(&text) {
                self.resolve(&other);
            }
            let resolved = substitute(&text, &mut |other| self.resolve(other));
            self.open.pop();
            if self.cyclic.iter().any(|member| member == name) { None } else { resolved }
        } else {
            Some(text.to_string())
        };
        if self.open.is_empty() || !self.cyclic.iter().any(|member| member == name) {
            self.done.insert(name.to_owned(), resolved.clone());
        }
        resolved
    }
}
