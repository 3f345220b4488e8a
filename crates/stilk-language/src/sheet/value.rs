//! Values of declarations: CSS tokens with `{token.path}` and `var(--local)` in them, and the mistakes people make
//! while writing one.

use super::at_rule::AtRule;
use super::{Value, ValuePiece};
use cssparser::{ParseError, Parser, Token};
use stilk_engine::css::PropertyName;
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::source::{FileId, Name, Span};

/// Blocks nested deeper than this inside a value are refused.
const MAX_DEPTH: usize = 64;

/// How a value came to its end.
#[derive(Debug, PartialEq)]
pub enum End {
    /// `;`, or the end of the block.
    Proper,
    /// At something that can only begin the next item: a semicolon is missing before it.
    Abrupt,
}

/// Reads values; one per value.
pub struct Reader<'d> {
    file: FileId,
    /// The whole file: slices of it keep escapes and numbers as they were written.
    source: &'d str,
    diagnostics: &'d mut Diagnostics,
    pieces: Vec<ValuePiece>,
    /// Text not yet made a piece.
    text: String,
    text_span: Option<Span>,
    /// Whether the top level may hold a block that is no reference (`@keyframes`).
    plain_blocks: bool,
}

impl<'d> Reader<'d> {
    /// A reader for a value in `file`.
    pub fn new(file: FileId, source: &'d str, diagnostics: &'d mut Diagnostics) -> Self {
        let (pieces, text) = Default::default();
        Reader { file, source, diagnostics, pieces, text, text_span: None, plain_blocks: false }
    }

    /// Reads the value of a declaration up to its `;`, which is consumed.
    pub fn declaration(mut self, parser: &mut Parser) -> (Value, End) {
        let start = parser.position().byte_index();
        let end = self.top_level(parser);
        let value = self.finish(start, parser.position().byte_index());
        (value, end)
    }

    /// Reads everything there is: a prelude, or the body of `@keyframes`.
    pub fn everything(mut self, parser: &mut Parser, plain_blocks: bool) -> Value {
        self.plain_blocks = plain_blocks;
        let start = parser.position().byte_index();
        self.nested(parser, 0, None);
        self.finish(start, parser.position().byte_index())
    }

    /// Reads a prelude up to the block or semicolon that ends it, which is not consumed.
    pub fn prelude(mut self, parser: &mut Parser) -> Value {
        let start = parser.position().byte_index();
        loop {
            let state = parser.state();
            let at = parser.position().byte_index();
            let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else { break };
            match token {
                Token::Semicolon => {
                    parser.reset(&state);
                    break;
                }
                Token::CurlyBracketBlock => {
                    // A reference is followed by more prelude; the block that ends it looks like anything else.
                    let inner = raw_block(parser);
                    if !is_reference(&inner) {
                        parser.reset(&state);
                        break;
                    }
                    self.reference(&inner, at, parser.position().byte_index());
                }
                other => self.token(&other, parser, at, 0, None),
            }
        }
        self.finish(start, parser.position().byte_index())
    }

    fn top_level(&mut self, parser: &mut Parser) -> End {
        let mut after_line_break = false;
        loop {
            let state = parser.state();
            let at = parser.position().byte_index();
            let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else { return End::Proper };
            match &token {
                Token::Semicolon => return End::Proper,
                // What is no rule on the same line is a variable of another language.
                Token::AtKeyword(name) if !after_line_break && AtRule::named(&name.to_ascii_lowercase()).is_none() => {
                    self.push_text(parser, at)
                }
                Token::AtKeyword(_) => {
                    parser.reset(&state);
                    return End::Abrupt;
                }
                // `name:` on a new line begins the next declaration, whatever this one was; on the same line it must
                // be the name of a property.
                Token::Ident(name) => {
                    let known = PropertyName::read(&name.to_ascii_lowercase()) != PropertyName::Unknown;
                    let next_is_colon = matches!(parser.next_including_whitespace_and_comments(), Ok(Token::Colon));
                    parser.reset(&state);
                    if next_is_colon && (after_line_break || known) {
                        return End::Abrupt;
                    }
                    let _ = parser.next_including_whitespace_and_comments();
                    self.push_text(parser, at);
                }
                Token::CurlyBracketBlock => {
                    let inner = raw_block(parser);
                    self.reference(&inner, at, parser.position().byte_index());
                }
                other => self.token(other, parser, at, 0, None),
            }
            after_line_break = match &token {
                Token::WhiteSpace(space) => space.contains('\n') || after_line_break,
                Token::Comment(_) => after_line_break,
                _ => false,
            };
        }
    }

    /// Everything inside a function or bracket.
    fn nested(&mut self, parser: &mut Parser, depth: usize, function: Option<&str>) {
        let mut first = true;
        loop {
            let at = parser.position().byte_index();
            let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else { return };
            let is_space = matches!(token, Token::WhiteSpace(_) | Token::Comment(_));
            match &token {
                Token::CurlyBracketBlock => {
                    let state = parser.state();
                    let inner = raw_block(parser);
                    if self.plain_blocks && !is_reference(&inner) {
                        parser.reset(&state);
                        self.block(parser, at, depth, "}", None);
                    } else {
                        self.reference(&inner, at, parser.position().byte_index());
                    }
                }
                other => self.token(other, parser, at, depth, function.filter(|_| first)),
            }
            first = first && is_space;
        }
    }

    fn token(&mut self, token: &Token, parser: &mut Parser, at: usize, depth: usize, function: Option<&str>) {
        match token {
            Token::Comment(_) => self.add(" ", at, at),
            Token::Function(name) => {
                let name = name.to_string();
                self.block(parser, at, depth, ")", Some(&name));
            }
            Token::ParenthesisBlock => self.block(parser, at, depth, ")", None),
            Token::SquareBracketBlock => self.block(parser, at, depth, "]", None),
            Token::Ident(name) if name.starts_with("--") && function.is_some_and(|f| f.eq_ignore_ascii_case("var")) => {
                let span = Span::new(self.file, at, parser.position().byte_index());
                self.flush();
                self.pieces.push(ValuePiece::Local(Name { value: name.to_string(), span }));
            }
            Token::BadString(_) => {
                self.bad(at, parser, "the string is not closed on its line", "close it with a quote")
            }
            Token::BadUrl(_) => self.bad(at, parser, "this is no `url()`", "put the address in quotes"),
            Token::CloseParenthesis | Token::CloseSquareBracket | Token::CloseCurlyBracket => {
                self.bad(at, parser, "this closes nothing", "take it away, or open it first")
            }
            Token::QuotedString(text) if looks_like_reference(text) => {
                self.bad(at, parser, "a reference in a string stays text", "take the quotes away");
                self.push_text(parser, at);
            }
            Token::UnquotedUrl(text) if looks_like_reference(text) => {
                self.bad(at, parser, "a reference in `url()` stays text", "write the address out");
                self.push_text(parser, at);
            }
            _ => self.push_text(parser, at),
        }
    }

    fn block(&mut self, parser: &mut Parser, at: usize, depth: usize, close: &str, function: Option<&str>) {
        self.push_text(parser, at);
        if depth >= MAX_DEPTH {
            let span = Span::new(self.file, at, parser.position().byte_index());
            let message = format!("brackets are nested deeper than {MAX_DEPTH}");
            self.diagnostics.push(Diagnostic::error("sheet/syntax", span, message).mend("use a simpler value"));
            return;
        }
        let _ = parser.parse_nested_block(|inner| {
            self.nested(inner, depth + 1, function);
            Ok::<_, ParseError<()>>(())
        });
        let end = parser.position().byte_index();
        if !self.source[at..end].ends_with(close) {
            self.bad(at, parser, "this bracket is never closed", &format!("write `{close}` where it ends"));
        }
        self.add(close, end.saturating_sub(1), end);
    }

    fn reference(&mut self, inner: &RawBlock, at: usize, end: usize) {
        self.flush();
        let trimmed = inner.text.trim();
        let offset = inner.text.len() - inner.text.trim_start().len();
        let start = inner.start + offset;
        let span = Span::new(self.file, start, start + trimmed.len());
        if !is_reference(inner) {
            let whole = Span::new(self.file, at, end);
            self.diagnostics.push(
                Diagnostic::error("cascade/value", whole, "a block cannot stand inside a value")
                    .label("a `;` before it is missing, or it is no token's name")
                    .mend("end the value with `;`, or write a reference such as `{ink.strong}`"),
            );
            return;
        }
        // Two references, or a reference and a word, would run together into one CSS token.
        let joined = match self.pieces.last() {
            Some(ValuePiece::Reference(name)) => name.span.end as usize + 1 == at,
            Some(ValuePiece::Text(text, _)) => text.ends_with(|c: char| c.is_alphanumeric() || "-_%".contains(c)),
            _ => false,
        };
        if joined {
            self.diagnostics.push(
                Diagnostic::error("cascade/value", span, "a reference cannot be joined to what stands before it")
                    .label("this runs into the text before it")
                    .mend("leave a space, or compute with `calc()`: `calc(-1 * {space.near})`"),
            );
        }
        self.pieces.push(ValuePiece::Reference(Name { value: trimmed.to_owned(), span }));
    }

    fn push_text(&mut self, parser: &mut Parser, at: usize) {
        let end = parser.position().byte_index();
        let text = &self.source[at..end];
        if let Some(ValuePiece::Reference(name)) = self.pieces.last()
            && self.text.is_empty()
            && name.span.end as usize + 1 == at
            && text.starts_with(|c: char| c.is_alphanumeric() || c == '%' || c == '_')
        {
            let span = Span::new(self.file, at, end);
            self.diagnostics.push(
                Diagnostic::error("cascade/value", span, "a unit or word cannot be joined to a reference")
                    .label("this runs into the reference before it")
                    .mend(match alpha(text) {
                        Some(percent) => format!(
                            "write `color-mix(in srgb, {{{}}} {percent}%, transparent)` for an alpha, or leave a space",
                            name.value
                        ),
                        None => format!("write `calc({{{}}} * 1{text})`, or leave a space", name.value),
                    }),
            );
            // It is told once: what is left is read as if it were not there.
            return;
        }
        self.add(text, at, end);
    }

    fn add(&mut self, text: &str, start: usize, end: usize) {
        let span = Span::new(self.file, start, end);
        self.text.push_str(text);
        self.text_span = Some(self.text_span.map_or(span, |known| known.to(span)));
    }

    fn flush(&mut self) {
        if let Some(span) = self.text_span.take() {
            self.pieces.push(ValuePiece::Text(std::mem::take(&mut self.text), span));
        }
    }

    fn bad(&mut self, at: usize, parser: &Parser, message: &str, mend: &str) {
        let end = parser.position().byte_index();
        // A mark at a bracket's beginning says more than its whole length.
        let line = self.source[at..end].find('\n').map_or(end, |i| at + i);
        let span = Span::new(self.file, at, line);
        self.diagnostics.push(Diagnostic::error("sheet/syntax", span, message).label("here").mend(mend));
    }

    fn finish(mut self, start: usize, end: usize) -> Value {
        self.flush();
        let mut pieces = std::mem::take(&mut self.pieces);
        if let Some(ValuePiece::Text(text, span)) = pieces.first_mut() {
            // A text that was read anew may be longer than its place.
            span.start = (span.start + (text.len() - text.trim_start().len()) as u32).min(span.end);
            *text = text.trim_start().to_owned();
        }
        if let Some(ValuePiece::Text(text, span)) = pieces.last_mut() {
            span.end -= ((text.len() - text.trim_end().len()) as u32).min(span.end.saturating_sub(span.start));
            *text = text.trim_end().to_owned();
        }
        pieces.retain(|piece| !matches!(piece, ValuePiece::Text(text, _) if text.is_empty()));
        let span = match (pieces.first(), pieces.last()) {
            (Some(first), Some(last)) => first.outer_span().to(last.outer_span()),
            _ => Span::new(self.file, start, end),
        };
        Value { pieces, span }
    }
}

impl ValuePiece {
    /// The piece's place, braces of a reference included.
    pub fn outer_span(&self) -> Span {
        match self {
            ValuePiece::Text(_, span) => *span,
            ValuePiece::Local(name) => name.span,
            ValuePiece::Reference(name) => {
                Span { start: name.span.start.saturating_sub(1), end: name.span.end + 1, ..name.span }
            }
        }
    }
}

/// The raw text of a block and where it starts.
pub struct RawBlock {
    text: String,
    start: usize,
}

/// Consumes the block that was just opened.
pub fn raw_block(parser: &mut Parser) -> RawBlock {
    let mut block = RawBlock { text: String::new(), start: parser.position().byte_index() };
    let _ = parser.parse_nested_block(|inner| {
        let start = inner.position();
        while inner.next_including_whitespace_and_comments().is_ok() {}
        block.text = inner.slice_from(start).to_owned();
        Ok::<_, ParseError<()>>(())
    });
    block
}

/// A path: no white space, nothing that belongs to a declaration.
fn is_reference(block: &RawBlock) -> bool {
    let text = block.text.trim();
    !text.is_empty() && !text.contains(|c: char| c.is_whitespace() || ":;{}()@,".contains(c))
}

fn looks_like_reference(text: &str) -> bool {
    let Some((_, rest)) = text.split_once('{') else { return false };
    rest.split_once('}').is_some_and(|(path, _)| path.contains('.') && !path.contains(char::is_whitespace))
}

/// Two hexadecimal digits that follow a colour, as a share of its alpha in percent.
fn alpha(text: &str) -> Option<u32> {
    let is_hex = text.len() == 2 && text.bytes().all(|byte| byte.is_ascii_hexdigit());
    let value = u32::from_str_radix(text, 16).ok().filter(|_| is_hex)?;
    Some((value * 100 + 127) / 255)
}
