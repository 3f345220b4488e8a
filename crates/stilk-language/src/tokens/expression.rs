//! CSS text with references to tokens in it.

use super::{MAX_ALIAS_DEPTH, MAX_EXPANSION, Theme, TokenId, Tokens};
use stilk_text::source::Span;

/// CSS text in pieces.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Expression {
    /// Text and references, in order.
    pub pieces: Vec<Piece>,
}

/// One piece of an [`Expression`].
#[derive(Debug, Clone, PartialEq)]
pub enum Piece {
    /// CSS, as it is.
    Text(String),
    /// A reference to a token, and where it is written.
    Token(TokenId, Span),
    /// A local property of a control, by its name without dashes; stands for the whole custom property name.
    Local(String),
}

impl Expression {
    /// Plain text.
    pub fn text(text: impl Into<String>) -> Self {
        Expression { pieces: vec![Piece::Text(text.into())] }
    }

    /// A single reference.
    pub fn reference(token: TokenId, span: Span) -> Self {
        Expression { pieces: vec![Piece::Token(token, span)] }
    }

    /// The pieces of CSS in it.
    pub fn texts(&self) -> impl Iterator<Item = &str> {
        self.pieces.iter().filter_map(|piece| if let Piece::Text(text) = piece { Some(text.as_str()) } else { None })
    }

    /// The tokens referred to, in order, with repeats.
    pub fn tokens(&self) -> impl Iterator<Item = TokenId> {
        self.pieces.iter().filter_map(|piece| if let Piece::Token(id, _) = piece { Some(*id) } else { None })
    }

    /// The text, with `token` writing references and `local` writing the names of local properties.
    pub fn write(&self, token: &mut dyn FnMut(TokenId) -> String, local: &mut dyn FnMut(&str) -> String) -> String {
        let mut text = String::new();
        for piece in &self.pieces {
            match piece {
                Piece::Text(css) => text.push_str(css),
                Piece::Token(id, _) => text.push_str(&token(*id)),
                Piece::Local(name) => text.push_str(&local(name)),
            }
        }
        text
    }
}

impl Tokens {
    /// A token's value in a theme as literal CSS, every reference replaced. `None` when the theme has no value for it
    /// or for something it refers to, and for what goes in a circle.
    pub fn literal(&self, id: TokenId, theme: &Theme) -> Option<String> {
        self.literal_expression(&self.get(id).in_theme(theme)?.expression, theme)
    }

    /// An expression as literal CSS in a theme.
    pub fn literal_expression(&self, expression: &Expression, theme: &Theme) -> Option<String> {
        self.literal_at(expression, theme, 0, &mut { MAX_EXPANSION })
    }

    fn literal_at(&self, expression: &Expression, theme: &Theme, depth: usize, budget: &mut usize) -> Option<String> {
        // What goes in a circle or grows without bound was reported; it has no text.
        *budget = budget.saturating_sub(1);
        if depth > MAX_ALIAS_DEPTH || *budget == 0 {
            return None;
        }
        let mut complete = true;
        let text = expression.write(
            &mut |id| {
                let definition = self.get(id).in_theme(theme);
                definition.and_then(|d| self.literal_at(&d.expression, theme, depth + 1, budget)).unwrap_or_else(|| {
                    complete = false;
                    String::new()
                })
            },
            &mut |local| format!("--{local}"),
        );
        complete.then_some(text)
    }
}
