//! Custom properties: winners, inheritance, references, cycles (CSS Variables 1), types (Properties and Values 1). They
//! are computed when something reads them: a page has hundreds, a control reads a few.

use super::order::{Block, DeclarationId, Layering, Origin};
use super::style::{Sizing, Style};
use crate::css::color::Surroundings;
use crate::css::compute::{absolute, resolve_colors};
use crate::css::context::{Context, Unknown};
use crate::css::property::Longhand;
use crate::css::serialize::to_css;
use crate::css::substitute::{CustomName, Template, Values};
use crate::css::syntax::Syntax;
use crate::css::value::Value;
use std::rc::Rc;

/// A custom property's computed value and the declaration that won.
#[derive(Debug, Clone, PartialEq)]
pub struct Custom {
    /// The text, references replaced; `None` for the guaranteed-invalid value.
    pub text: Option<Rc<str>>,
    /// The declaration; `None` for the initial value of a registered property.
    pub winner: Option<DeclarationId>,
    /// Set when it cannot be known; it has no text then.
    pub unknown: Option<Unknown>,
}

impl Custom {
    fn of(text: Option<Rc<str>>, winner: Option<DeclarationId>) -> Custom {
        Custom { text, winner, unknown: None }
    }

    fn unknown(reason: Unknown, winner: Option<DeclarationId>) -> Custom {
        Custom { text: None, winner, unknown: Some(reason) }
    }
}

/// Why a typed value is not computed.
enum Typing {
    Unknown(Unknown),
    Cyclic,
    Known(Option<Custom>),
}

enum Declared<'s> {
    Text(&'s Template, DeclarationId),
    Inherit,
    Initial(DeclarationId),
    Unset,
    Unknown(Unknown, DeclarationId),
}

/// What `revert` and `revert-layer` leave out.
#[derive(Debug, Clone, Copy)]
pub enum Skip {
    /// Nothing.
    None,
    /// The rest of a layer, and what is above it.
    Layer(Layering),
    /// The rest of an origin.
    Origin(Origin),
}

impl Skip {
    /// Whether a block is left out.
    pub fn covers(&self, block: &Block) -> bool {
        match self {
            Skip::None => false,
            Skip::Layer(layering) => layering.reverts(block.layering),
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
        // Most custom properties of a control are set far above it, and are known there.
        if !self.sheets.may_set(&self.matched, name) {
            return self.unset_custom(name);
        }
        if let Some(known) = self.customs.borrow().get(&name.hash) {
            return known.clone();
        }
        let value = match self.declared_custom(name) {
            Declared::Text(text, winner) => return self.resolved_custom(name, text, winner, walk),
            Declared::Inherit => self.inherited_custom(name),
            Declared::Unset => self.unset_custom(name),
            Declared::Initial(winner) => {
                Some(self.initial_custom(name).unwrap_or_else(|| Custom::of(None, Some(winner))))
            }
            Declared::Unknown(reason, winner) => Some(Custom::unknown(reason, Some(winner))),
        };
        self.customs.borrow_mut().insert(name.hash, value.clone());
        value
    }

    /// A custom property's declared text with what it refers to; what is in a circle has no value
    /// (Custom Properties 1, section 2.3).
    fn resolved_custom(
        &self,
        name: &CustomName,
        text: &Template,
        winner: DeclarationId,
        walk: &mut Walk,
    ) -> Option<Custom> {
        if let Some(at) = walk.open.iter().position(|open| open == name) {
            walk.cyclic.extend_from_slice(&walk.open[at..]);
            return Some(Custom::of(None, Some(winner)));
        }
        if walk.open.len() > MAX_DEPTH {
            return Some(Custom::of(None, Some(winner)));
        }
        if text.references().is_empty() {
            // What names nothing else is in no cycle.
            let custom = match text.substitute(&mut ReferenceValues { style: self, walk }) {
                Err(reason) => Some(Custom::unknown(reason, Some(winner))),
                Ok(text) => self.typed(name, text, winner),
            };
            if self.sizing.get() != Sizing::Flow {
                self.customs.borrow_mut().insert(name.hash, custom.clone());
            }
            return custom;
        }
        walk.open.push(name.clone());
        let resolved = text.substitute(&mut ReferenceValues { style: self, walk });
        walk.open.pop();
        let is_cyclic = walk.cyclic.contains(name);
        let custom = match resolved {
            _ if is_cyclic => Some(Custom::of(None, Some(winner))),
            Err(reason) => Some(Custom::unknown(reason, Some(winner))),
            Ok(text) => self.typed(name, text, winner),
        };
        // What the direction of the text asks for is asked again when that is known.
        if self.sizing.get() != Sizing::Flow {
            self.customs.borrow_mut().insert(name.hash, custom.clone());
        }
        custom
    }

    /// A value after substitution: a CSS-wide keyword that came in by a fallback counts, and a type is computed.
    fn typed(&self, name: &CustomName, text: Option<Rc<str>>, winner: DeclarationId) -> Option<Custom> {
        match text.as_deref().map(str::trim) {
            Some("inherit") => return self.inherited_custom(name),
            Some("unset") => return self.unset_custom(name),
            Some("initial") => return self.initial_custom(name).or(Some(Custom::of(None, Some(winner)))),
            _ => {}
        }
        let Some(registered) = self.sheets.registered(name) else {
            return Some(Custom::of(text, Some(winner)));
        };
        let Some(text) = text else { return self.unset_custom(name) };
        if registered.syntax == Syntax::Any {
            return Some(Custom::of(Some(text), Some(winner)));
        }
        match registered.syntax.value(&text) {
            // Invalid at computed-value time.
            None => self.unset_custom(name),
            Some(Value::Unmodelled) => Some(Custom::of(Some(text), Some(winner))),
            Some(value) => match self.absolute(name, &value) {
                // It took part in a cycle, which was found on the way.
                Err(Typing::Known(known)) => known,
                Err(Typing::Cyclic) => Some(Custom::of(None, Some(winner))),
                Err(Typing::Unknown(reason)) => Some(Custom::unknown(reason, Some(winner))),
                Ok(value) => Some(Custom::of(Some(to_css(&resolve_scheme(&value, self)).into()), Some(winner))),
            },
        }
    }

    /// The absolute value of a typed property. One in lengths of the font that the font's own size reads is in a cycle (CSS
    /// Properties and Values API 1, section 3.3).
    fn absolute(&self, name: &CustomName, value: &Value) -> Result<Value, Typing> {
        const CYCLE: Unknown = Unknown("it sets the size that it is relative to");
        let fontless = || Context { font_size: Err(CYCLE), line_height: Err(CYCLE), ..self.outer_context() };
        let found = match self.sizing.get() {
            Sizing::No => {
                // Most values have nothing to do with the font.
                if let Ok(value) = absolute(value, &fontless()) {
                    return Ok(value);
                }
                let context = self.context();
                if let Some(known) = self.customs.borrow().get(&name.hash) {
                    return Err(Typing::Known(known.clone()));
                }
                absolute(value, context)
            }
            Sizing::FontSize | Sizing::Flow => absolute(value, &fontless()),
            Sizing::LineHeight => {
                if let Ok(value) = absolute(value, &fontless()) {
                    return Ok(value);
                }
                let (font_size, line_height) = (self.px(Longhand::FontSize), Err(CYCLE));
                absolute(value, &Context { font_size, line_height, ..self.outer_context() })
            }
        };
        found.map_err(|reason| if reason == CYCLE { Typing::Cyclic } else { Typing::Unknown(reason) })
    }

    fn inherited_custom(&self, name: &CustomName) -> Option<Custom> {
        let mut above = self.parent.as_ref();
        // Elements that do not set it hand it on; what does not inherit is asked for where it is set only.
        if self.sheets.registered(name).is_none_or(|registered| registered.inherits) {
            while let Some(parent) = above.filter(|parent| !parent.sheets.may_set(&parent.matched, name)) {
                above = parent.parent.as_ref();
            }
        }
        let inherited = above.and_then(|parent| parent.custom(name));
        inherited.or_else(|| self.initial_custom(name))
    }

    fn unset_custom(&self, name: &CustomName) -> Option<Custom> {
        match self.sheets.registered(name) {
            Some(registered) if !registered.inherits => self.initial_custom(name),
            _ => self.inherited_custom(name),
        }
    }

    fn initial_custom(&self, name: &CustomName) -> Option<Custom> {
        let registered = self.sheets.registered(name)?;
        let initial = registered.initial.as_deref()?;
        let computed = registered.syntax.value(initial).filter(|value| *value != Value::Unmodelled);
        let text = computed.and_then(|value| absolute(&value, &Context::constant()).ok()).map(|value| to_css(&value));
        Some(Custom::of(Some(text.as_deref().unwrap_or(initial).into()), None))
    }

    fn declared_custom(&self, name: &CustomName) -> Declared<'_> {
        let mut skip = Skip::None;
        for block in self.sheets.blocks(&self.matched).filter(|block| block.may_set(name)) {
            for declaration in block.declarations().iter().rev().filter(|d| d.sets_custom(name)) {
                let Some(text) = &declaration.text else { continue };
                if skip.covers(block) {
                    continue;
                }
                match self.applies(block) {
                    Ok(true) => {}
                    Ok(false) => continue,
                    Err(reason) => return Declared::Unknown(reason, block.id(declaration)),
                }
                let word = text.plain().unwrap_or_default().trim();
                match word {
                    _ if word.eq_ignore_ascii_case("inherit") => return Declared::Inherit,
                    _ if word.eq_ignore_ascii_case("unset") => return Declared::Unset,
                    _ if word.eq_ignore_ascii_case("initial") => return Declared::Initial(block.id(declaration)),
                    _ if word.eq_ignore_ascii_case("revert-layer") => skip = Skip::Layer(block.layering),
                    _ if word.eq_ignore_ascii_case("revert") => skip = Skip::Origin(block.origin),
                    _ => return Declared::Text(text, block.id(declaration)),
                }
            }
        }
        Declared::Unset
    }
}

/// Colours that depend on the scheme are computed where they are declared.
fn resolve_scheme(value: &Value, style: &Style) -> Value {
    match value {
        Value::Color(color) if !color.uses_current() => {
            resolve_colors(value, Surroundings { current: None, ..style.surroundings() })
        }
        other => other.clone(),
    }
}

/// The values that references inside a custom property get.
struct ReferenceValues<'s, 'w> {
    style: &'s Style,
    walk: &'w mut Walk,
}

impl Values for ReferenceValues<'_, '_> {
    fn custom(&mut self, name: &CustomName) -> Result<Option<Rc<str>>, Unknown> {
        match self.style.custom_in(name, self.walk) {
            Some(Custom { unknown: Some(reason), .. }) => Err(reason),
            Some(custom) => Ok(custom.text),
            None => Ok(None),
        }
    }

    fn attribute(&mut self, name: &str) -> Option<Rc<str>> {
        self.style.matched.attribute(name)
    }

    fn is_settled(&self) -> bool {
        self.walk.open.last().is_some_and(|open| self.walk.cyclic.contains(open))
    }
}

/// The values that references in a property get.
pub struct Around<'s>(pub &'s Style);

impl Values for Around<'_> {
    fn custom(&mut self, name: &CustomName) -> Result<Option<Rc<str>>, Unknown> {
        match self.0.custom(name) {
            Some(Custom { unknown: Some(reason), .. }) => Err(reason),
            Some(custom) => Ok(custom.text),
            None => Ok(None),
        }
    }

    fn attribute(&mut self, name: &str) -> Option<Rc<str>> {
        self.0.matched.attribute(name)
    }
}
