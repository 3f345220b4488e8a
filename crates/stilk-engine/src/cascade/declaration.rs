//! One declaration: what it sets, whether it is important, where it stands.

use super::prepared::PreparedList;
use crate::css::parse::{ParsedDeclaration, is_too_deep};
use crate::css::{parse_declaration, quirks};
use cssparser::{ParseError, Parser, ParserState, Token};
use std::sync::{Arc, OnceLock};

/// A declaration of a rule.
#[derive(Debug, Clone)]
pub struct Declaration {
    /// What it sets.
    pub body: DeclarationBody,
    /// Whether it is `!important`.
    pub important: bool,
    /// Byte offset of its name in the text.
    pub offset: u32,
}

/// What a declaration sets.
#[derive(Debug, Clone)]
pub enum DeclarationBody {
    /// A property.
    Property(ParsedDeclaration),
    /// A custom property and its text.
    Custom(Arc<str>, Arc<str>),
}

/// Who takes a declaration.
pub(super) enum Taken {
    /// Every document.
    Everywhere(Declaration),
    /// Documents in quirks mode only (Quirks Mode Standard, section 3).
    InQuirksMode(Declaration),
}

/// The declarations of one block.
#[derive(Debug, Clone, Default)]
pub struct Declarations {
    /// Those that every document takes, in order.
    pub list: Arc<[Declaration]>,
    /// Those that only documents in quirks mode take, each with how many of the others stand before it.
    pub quirks: Arc<[(u32, Declaration)]>,
    /// Those that are not important and those that are, as every engine takes them.
    prepared: [OnceLock<Option<Arc<PreparedList>>>; 2],
}

impl std::ops::Deref for Declarations {
    type Target = [Declaration];

    /// Those that every document takes.
    fn deref(&self) -> &[Declaration] {
        &self.list
    }
}

/// Takes the declarations of a block as they come.
#[derive(Default)]
pub(super) struct Collected {
    list: Vec<Declaration>,
    quirks: Vec<(u32, Declaration)>,
}

impl Collected {
    pub(super) fn take(&mut self, taken: Taken) {
        match taken {
            Taken::Everywhere(declaration) => self.list.push(declaration),
            Taken::InQuirksMode(declaration) => self.quirks.push((self.list.len() as u32, declaration)),
        }
    }

    pub(super) fn finish(self) -> Declarations {
        Declarations { list: self.list.into(), quirks: self.quirks.into(), prepared: Default::default() }
    }
}

impl Declarations {
    /// Whether no document takes any.
    pub(super) fn are_none(&self) -> bool {
        self.list.is_empty() && self.quirks.is_empty()
    }

    /// What documents that are not in quirks mode take; nothing where they take none that is so important.
    pub(super) fn prepared(&self, important: bool) -> Option<Arc<PreparedList>> {
        let prepare = || PreparedList::new(&self.list, important, |at| at as u32);
        self.prepared[usize::from(important)].get_or_init(prepare).clone()
    }

    /// The one with a number, as [`DeclarationId::declaration`](super::order::DeclarationId) gives it: those of quirks mode
    /// are counted after all others.
    pub fn get(&self, number: u32) -> Option<&Declaration> {
        let number = number as usize;
        match number.checked_sub(self.list.len()) {
            None => self.list.get(number),
            Some(at) => self.quirks.get(at).map(|(_, declaration)| declaration),
        }
    }

    /// What a document takes, in order, each with its number; nothing where quirks make no difference.
    pub(super) fn in_quirks_mode(&self) -> Option<(Arc<[Declaration]>, Vec<u32>)> {
        if self.quirks.is_empty() {
            return None;
        }
        let mut all: Vec<(u32, Declaration)> = Vec::new();
        let mut quirks = (self.list.len() as u32..).zip(self.quirks.iter()).peekable();
        for (number, declaration) in (0..).zip(self.list.iter()) {
            while let Some((quirk, (_, own))) = quirks.next_if(|(_, (before, _))| *before <= number) {
                all.push((quirk, own.clone()));
            }
            all.push((number, declaration.clone()));
        }
        all.extend(quirks.map(|(quirk, (_, own))| (quirk, own.clone())));
        let (numbers, declarations): (Vec<u32>, Vec<Declaration>) = all.into_iter().unzip();
        Some((declarations.into(), numbers))
    }
}

/// Reads a declaration after its name and colon.
///
/// # Errors
/// No browser takes it.
pub(super) fn read(name: &str, input: &mut Parser, start: &ParserState) -> Result<Taken, ParseError<()>> {
    input.skip_whitespace();
    let from = input.position();
    let mut bang = None;
    let is_custom = name.starts_with("--");
    loop {
        let at = input.position();
        match input.next_including_whitespace_and_comments() {
            Ok(Token::Delim('!')) => bang = Some(at),
            Ok(Token::BadString(_) | Token::BadUrl(_)) => return Err(ParseError::unexpected_token()),
            Ok(Token::CloseParenthesis | Token::CloseSquareBracket | Token::CloseCurlyBracket) => {
                return Err(ParseError::unexpected_token());
            }
            // A block in braces is the whole value of a custom property, and of no other (CSS Syntax 3, section 5.5.6).
            Ok(Token::CurlyBracketBlock) if !is_custom => return Err(ParseError::unexpected_token()),
            Ok(_) => {}
            Err(_) => break,
        }
    }
    let mut text = input.slice_from(from);
    let mut important = false;
    if let Some(bang) = bang {
        if !input.slice_from(bang)[1..].trim().eq_ignore_ascii_case("important") {
            return Err(ParseError::unexpected_token());
        }
        important = true;
        text = &text[..bang.byte_index() - from.byte_index()];
    }
    let offset = start.position().byte_index() as u32;
    let text = text.trim();
    if is_too_deep(text) {
        return Err(ParseError::unexpected_token());
    }
    if is_custom {
        let body = DeclarationBody::Custom(name.into(), text.into());
        return Ok(Taken::Everywhere(Declaration { body, important, offset }));
    }
    if let Ok(parsed) = parse_declaration(name, text) {
        let body = DeclarationBody::Property(parsed);
        return Ok(Taken::Everywhere(Declaration { body, important, offset }));
    }
    let parsed = quirks::in_quirks_mode(name, text).and_then(|text| parse_declaration(name, &text).ok());
    let body = DeclarationBody::Property(parsed.ok_or_else(ParseError::unexpected_token)?);
    Ok(Taken::InQuirksMode(Declaration { body, important, offset }))
}
