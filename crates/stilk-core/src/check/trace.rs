//! From a computed value back to its source: the winning declaration in the written stylesheet, the custom properties
//! it reads, the token that gave the value in this theme.

use crate::css::parse::Declared;
use crate::css::property::Longhand;
use crate::css::substitute::references;
use crate::engine::Style;
use crate::engine::cascade::{DeclarationId, INLINE};
use crate::engine::stylesheet::{DeclarationBody, Stylesheet};
use crate::source::{Sources, Span};
use crate::stylesheet::Written;
use crate::system::System;
use std::collections::HashMap;

/// Follows values to their sources.
pub struct Tracer<'t> {
    parsed: &'t Stylesheet,
    written: &'t Written,
    sources: &'t Sources,
    tokens: HashMap<Span, &'t str>,
}

/// Where a value came from.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Origin {
    /// The declaration in a sheet that painted it.
    pub declaration: Option<Span>,
    /// The token's value, in the file of the theme that gave it.
    pub token: Option<(Span, String)>,
}

impl Origin {
    /// The place at fault: the token, else the declaration.
    pub fn span(&self) -> Option<Span> {
        self.token.as_ref().map(|(span, _)| *span).or(self.declaration)
    }

    /// The token's path in backticks, or `a colour`.
    pub fn name(&self) -> String {
        self.token.as_ref().map_or_else(|| "a colour".to_owned(), |(_, path)| format!("`{path}`"))
    }
}

impl<'t> Tracer<'t> {
    /// A tracer for a stylesheet as written and as parsed again.
    pub fn new(system: &'t System, sources: &'t Sources, written: &'t Written, parsed: &'t Stylesheet) -> Self {
        let mut tokens = HashMap::new();
        for token in &system.tokens.list {
            tokens.extend(token.definitions().map(|definition| (definition.span, token.path.as_str())));
        }
        Tracer { parsed, written, sources, tokens }
    }

    /// Where a longhand's value came from.
    pub fn origin(&self, style: &Style, longhand: Longhand) -> Origin {
        match style.winner(longhand) {
            Some(id) => self.follow(style, self.body(id), self.span(id)),
            None => Origin { declaration: None, token: None },
        }
    }

    /// Where the value of an inline declaration's first reference came from: surfaces are painted so.
    pub fn reference_origin(&self, style: &Style, text: &str) -> Origin {
        self.follow_text(style, text, None)
    }

    fn body(&self, id: DeclarationId) -> Option<&'t DeclarationBody> {
        // Sheet 0 is the browser's; the author's sheet is the one that was written.
        if id.sheet == 0 || id.sheet == INLINE {
            return None;
        }
        let rule = self.parsed.rules.get(id.rule as usize)?;
        Some(&rule.declarations.get(id.declaration as usize)?.body)
    }

    fn span(&self, id: DeclarationId) -> Option<Span> {
        if id.sheet == 0 || id.sheet == INLINE {
            return None;
        }
        let declaration = self.parsed.rules.get(id.rule as usize)?.declarations.get(id.declaration as usize)?;
        self.written.origin(declaration.offset)
    }

    fn follow(&self, style: &Style, body: Option<&DeclarationBody>, declaration: Option<Span>) -> Origin {
        match body {
            Some(DeclarationBody::Property(parsed)) => match &parsed.declared {
                Declared::Pending(text) => self.follow_text(style, text, declaration),
                _ => Origin { declaration, token: None },
            },
            _ => Origin { declaration, token: None },
        }
    }

    /// Walks the first reference that has a value, again and again, until a token's own declaration is met.
    fn follow_text(&self, style: &Style, text: &str, declaration: Option<Span>) -> Origin {
        let mut declaration = declaration;
        let mut text = text.to_owned();
        // Chains of custom properties are short; the bound is against cycles.
        for _ in 0..64 {
            let names = references(&text);
            let Some(custom) = names.iter().find_map(|name| {
                style.customs.get(name.as_str()).filter(|custom| custom.text.as_deref().is_some_and(|t| !t.is_empty()))
            }) else {
                break;
            };
            let Some(span) = self.span(custom.winner) else { break };
            if let Some(path) = self.tokens.get(&span)
                && self.sources.file(span.file).path.ends_with(".json")
            {
                return Origin { declaration, token: Some((span, (*path).to_owned())) };
            }
            if self.tokens.contains_key(&span) {
                // A derived token: its first reference goes on.
            } else {
                declaration = Some(span);
            }
            match self.body(custom.winner) {
                Some(DeclarationBody::Custom(_, next)) => text = next.to_string(),
                _ => break,
            }
        }
        Origin { declaration, token: None }
    }
}
