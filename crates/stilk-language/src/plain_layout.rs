//! The plain layout of a sheet: two spaces a block, one space between what stands on a line, at most one blank line.
//!
//! Only the white space between tokens is written anew, and the last semicolon of a block; so a sheet means what it
//! meant. Where a person broke a line, put several declarations on one, or a whole block, it stays so.

use cssparser::{ParseError, Parser, Token};
use std::ops::Range;
use stilk_text::diagnostic::Diagnostics;
use stilk_text::source::Sources;

/// One step of indentation.
const STEP: &str = "  ";

/// Blocks and brackets nested deeper than this are left as they are.
const MAX_DEPTH: usize = 96;

/// What is written between tokens instead of what is there, in order; nothing where the sheet is in the plain layout.
///
/// The text must be one that the parser takes without an error of syntax: of another one nothing is promised but that
/// its tokens stay.
pub fn edits(text: &str) -> Vec<(Range<usize>, String)> {
    let mut pieces = Vec::new();
    flatten(&mut Parser::new(text), text, 0, &mut pieces);
    let line_end = if text.contains("\r\n") { "\r\n" } else { "\n" };
    let mut writer = Writer { text, line_end, pieces, edits: Vec::new(), at: 0, end: 0 };
    writer.block(0, true);
    writer.finish();
    writer.edits
}

/// The sheet in the plain layout.
pub fn formatted(text: &str) -> String {
    let mut written = String::with_capacity(text.len() + text.len() / 16);
    let mut from = 0;
    for (range, new) in edits(text) {
        written.push_str(&text[from..range.start]);
        written.push_str(&new);
        from = range.end;
    }
    written.push_str(&text[from..]);
    written
}

/// Whether two texts are the same sheet: the same tree, wherever things stand in it.
pub fn means_the_same(one: &str, other: &str) -> bool {
    let tree = |text: &str| {
        let mut sources = Sources::default();
        let file = sources.add("sheet", text);
        let mut sheet = crate::sheet::parse(file, &sources, &mut Diagnostics::default());
        // What stands in keyframes is text: there the space around signs says nothing either.
        let keyframes = std::mem::take(&mut sheet.keyframes);
        let keyframes = without_places(&format!("{keyframes:?}"), "(,[{:;", ",)]};:{").replace(";}", "}");
        (keyframes, without_places(&format!("{sheet:?}"), "(,[", ",)]"))
    };
    tree(one) == tree(other)
}

/// A tree in words, without places and without white space that says nothing: that behind some signs and before others.
fn without_places(tree: &str, behind: &str, before: &str) -> String {
    let mut said = String::with_capacity(tree.len());
    let mut rest = tree;
    while let Some(at) = rest.find("Span { ") {
        said.push_str(&rest[..at]);
        rest = rest[at..].find('}').map_or("", |end| &rest[at + end + 1..]);
    }
    said.push_str(rest);
    let said = ["\\n", "\\r", "\\t"].iter().fold(said, |said, escaped| said.replace(escaped, " "));
    let mut words = String::with_capacity(said.len());
    for c in said.chars() {
        if (before.contains(c) || c == '"') && words.ends_with(' ') {
            words.pop();
        }
        let says_nothing = c == ' ' && words.ends_with(|last| last == ' ' || last == '"' || behind.contains(last));
        if !says_nothing {
            words.push(c);
        }
    }
    words
}

/// What matters of a token here.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Kind {
    /// `{` of a block.
    Open,
    /// `}` of a block.
    Close,
    /// `(`, `[`, a function's name with its bracket.
    OpenBracket,
    /// `)`, `]`.
    CloseBracket,
    Comma,
    Colon,
    Semicolon,
    Comment,
    /// `@name` or `&`: begins a rule.
    Rule,
    /// Anything else, references as one.
    Other,
}

#[derive(Debug, Clone)]
struct Piece {
    kind: Kind,
    range: Range<usize>,
}

/// The tokens in a row, white space left out.
fn flatten(parser: &mut Parser, text: &str, depth: usize, pieces: &mut Vec<Piece>) {
    loop {
        let start = parser.position().byte_index();
        let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else { return };
        let end = parser.position().byte_index();
        let mut push = |kind, range| pieces.push(Piece { kind, range });
        match token {
            Token::WhiteSpace(_) => {}
            Token::Comment(_) => push(Kind::Comment, start..end),
            Token::Comma => push(Kind::Comma, start..end),
            Token::Colon => push(Kind::Colon, start..end),
            Token::Semicolon => push(Kind::Semicolon, start..end),
            Token::AtKeyword(_) | Token::Delim('&') => push(Kind::Rule, start..end),
            Token::CurlyBracketBlock if reference_end(&text[end..]).is_some() || depth >= MAX_DEPTH => {
                skip(parser);
                pieces.push(Piece { kind: Kind::Other, range: start..parser.position().byte_index() });
            }
            Token::CurlyBracketBlock => {
                push(Kind::Open, start..end);
                inside(parser, text, depth, pieces, Kind::Close, b'}');
            }
            Token::Function(_) | Token::ParenthesisBlock | Token::SquareBracketBlock if depth >= MAX_DEPTH => {
                skip(parser);
                pieces.push(Piece { kind: Kind::Other, range: start..parser.position().byte_index() });
            }
            Token::Function(_) | Token::ParenthesisBlock | Token::SquareBracketBlock => {
                push(Kind::OpenBracket, start..end);
                let close = if token == Token::SquareBracketBlock { b']' } else { b')' };
                inside(parser, text, depth, pieces, Kind::CloseBracket, close);
            }
            _ => push(Kind::Other, start..end),
        }
    }
}

fn inside(parser: &mut Parser, text: &str, depth: usize, pieces: &mut Vec<Piece>, kind: Kind, close: u8) {
    let _ = parser.parse_nested_block(|inner| {
        flatten(inner, text, depth + 1, pieces);
        Ok::<_, ParseError<()>>(())
    });
    let end = parser.position().byte_index();
    // At the end of the text a bracket may be missing.
    if text.as_bytes()[..end].last() == Some(&close) && pieces.last().is_none_or(|last| last.range.end < end) {
        pieces.push(Piece { kind, range: end - 1..end });
    }
}

fn skip(parser: &mut Parser) {
    let _ = parser.parse_nested_block(|inner| {
        while inner.next_including_whitespace_and_comments().is_ok() {}
        Ok::<_, ParseError<()>>(())
    });
}

/// Where a reference ends whose brace was just opened; nothing where a block was.
fn reference_end(after: &str) -> Option<usize> {
    let end = after.find('}')?;
    let path = after[..end].trim();
    let is_path = !path.is_empty() && !path.contains(|c: char| c.is_whitespace() || ":;{()@,".contains(c));
    is_path.then_some(end + 1)
}

struct Writer<'t> {
    text: &'t str,
    line_end: &'static str,
    pieces: Vec<Piece>,
    edits: Vec<(Range<usize>, String)>,
    /// The piece that is next.
    at: usize,
    /// Where the last piece ended.
    end: usize,
}

/// What was passed, where it decides on the space behind it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Before {
    Comma,
    /// The colon between a declaration's name and its value.
    OwnColon,
    OpenBracket,
}

/// What stands between two pieces.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Gap {
    None,
    Space,
    /// A line break, and perhaps a blank line.
    Lines(usize),
}

impl Writer<'_> {
    fn kind(&self) -> Option<Kind> {
        self.pieces.get(self.at).map(|piece| piece.kind)
    }

    /// What stands before the next piece.
    fn found(&self) -> Gap {
        let Some(piece) = self.pieces.get(self.at) else { return Gap::None };
        let gap = &self.text[self.end..piece.range.start];
        match gap.matches('\n').count() {
            0 if gap.is_empty() => Gap::None,
            0 => Gap::Space,
            lines => Gap::Lines(lines.min(2)),
        }
    }

    /// Writes a gap and passes over the next piece.
    fn take(&mut self, gap: Gap, depth: usize) {
        let piece = self.pieces[self.at].clone();
        let before = match gap {
            Gap::None => String::new(),
            Gap::Space => " ".to_owned(),
            Gap::Lines(lines) => format!("{}{}", self.line_end.repeat(lines), STEP.repeat(depth)),
        };
        let begins_line = matches!(gap, Gap::Lines(_)) || self.end == 0;
        self.edit(self.end..piece.range.start, before);
        match piece.kind {
            Kind::Comment if begins_line => self.comment(piece.range.clone(), depth),
            Kind::Other if self.text[piece.range.clone()].starts_with('{') => self.reference(piece.range.clone()),
            _ => {}
        }
        self.end = piece.range.end;
        self.at += 1;
    }

    fn edit(&mut self, range: Range<usize>, new: String) {
        if self.text[range.clone()] != new {
            self.edits.push((range, new));
        }
    }

    /// `{ink.strong}`, without space in it.
    fn reference(&mut self, range: Range<usize>) {
        let inner = range.start + 1..range.end.saturating_sub(1);
        if let Some(text) = self.text.get(inner.clone()) {
            let left = text.len() - text.trim_start().len();
            let right = text.len() - text.trim_end().len();
            if left + right < text.len() {
                self.edit(inner.start..inner.start + left, String::new());
                self.edit(inner.end - right..inner.end, String::new());
            }
        }
    }

    /// The lines of a comment that begins one move with its first.
    fn comment(&mut self, range: Range<usize>, depth: usize) {
        let line_start = self.text[..range.start].rfind('\n').map_or(0, |at| at + 1);
        let before = &self.text[line_start..range.start];
        if !before.trim().is_empty() {
            // It stood behind something: where its lines were meant to be is not known.
            return;
        }
        let (old, new) = (before.len(), depth * STEP.len());
        let breaks: Vec<usize> =
            self.text[range.clone()].match_indices('\n').map(|(at, _)| range.start + at + 1).collect();
        for start in breaks {
            let line = &self.text[start..range.end];
            let own = line.len() - line.trim_start_matches([' ', '\t']).len();
            let is_blank = line[own..].starts_with(['\r', '\n']);
            let wanted = if is_blank { 0 } else { (own + new).saturating_sub(old) };
            if own != wanted {
                self.edits.push((start..start + own, " ".repeat(wanted)));
            }
        }
    }

    /// Whether the block that begins at the next piece, its `{`, is on one line.
    fn is_on_one_line(&self) -> bool {
        let close = self.close_of(self.at);
        let start = self.pieces[self.at].range.start;
        let end = self.pieces.get(close).map_or(self.text.len(), |piece| piece.range.end);
        !self.text[start..end].contains('\n')
    }

    /// Which piece closes the block that a piece opens.
    fn close_of(&self, open: usize) -> usize {
        let mut depth = 0;
        for (at, piece) in self.pieces.iter().enumerate().skip(open) {
            match piece.kind {
                Kind::Open => depth += 1,
                Kind::Close => {
                    depth -= 1;
                    if depth == 0 {
                        return at;
                    }
                }
                _ => {}
            }
        }
        self.pieces.len()
    }

    /// Whether the item that is next is on one line as a whole.
    fn is_item_on_one_line(&self) -> bool {
        for (at, piece) in self.pieces.iter().enumerate().skip(self.at) {
            match piece.kind {
                Kind::Open => {
                    let end = self.pieces.get(self.close_of(at)).map_or(self.text.len(), |close| close.range.end);
                    return !self.text[piece.range.start..end].contains('\n');
                }
                Kind::Semicolon | Kind::Close => break,
                _ => {}
            }
        }
        true
    }

    /// The items of a block; its `}` is next when they are written.
    fn block(&mut self, depth: usize, breaks: bool) {
        let mut is_first = true;
        // After what fills lines of its own, nothing stands on its last one but a comment.
        let mut must_break = false;
        while let Some(kind) = self.kind() {
            if kind == Kind::Close {
                if depth > 0 {
                    return;
                }
                // It closes nothing, and was told to be so.
                self.take(self.found(), depth);
                continue;
            }
            let is_comment = kind == Kind::Comment;
            let is_multi = !is_comment && !self.is_item_on_one_line();
            let gap = match self.found() {
                _ if is_first && depth == 0 => Gap::None,
                // Behind the opening brace stands at most a comment.
                Gap::None | Gap::Space if is_first => {
                    if breaks && !is_comment {
                        Gap::Lines(1)
                    } else {
                        Gap::Space
                    }
                }
                Gap::Lines(_) if is_first && breaks => Gap::Lines(1),
                Gap::Lines(lines) if breaks => Gap::Lines(lines),
                Gap::None | Gap::Space if breaks && !is_comment && (must_break || is_multi || depth == 0) => {
                    Gap::Lines(1)
                }
                _ => Gap::Space,
            };
            let was_opened = is_first;
            is_first = false;
            if is_comment {
                let has_lines = self.text[self.pieces[self.at].range.clone()].contains('\n');
                let trails = !matches!(gap, Gap::Lines(_));
                self.take(gap, depth);
                must_break = has_lines || (must_break && trails) || (was_opened && trails && breaks);
            } else if kind == Kind::Semicolon {
                // What is empty ends where it stands.
                self.take(Gap::None, depth);
            } else {
                must_break = self.item(gap, depth);
            }
        }
    }

    /// A declaration or a rule; whether it fills more than one line.
    fn item(&mut self, gap: Gap, depth: usize) -> bool {
        let is_declaration = self.kind() != Some(Kind::Rule) && !self.has_block();
        let start = self.at;
        let mut brackets = 0;
        let mut before = None;
        let mut had_colon = false;
        let mut has_lines = false;
        while let Some(kind) = self.kind() {
            let is_own_colon = is_declaration && kind == Kind::Colon && brackets == 0 && !had_colon;
            match kind {
                Kind::Close => break,
                Kind::Open => return self.item_block(depth) || has_lines,
                Kind::Semicolon if brackets == 0 => {
                    // A value may be empty.
                    let is_empty = before == Some(Before::OwnColon);
                    self.take(if is_empty { Gap::Space } else { Gap::None }, depth);
                    return has_lines;
                }
                Kind::CloseBracket => brackets = usize::saturating_sub(brackets, 1),
                _ => {}
            }
            if self.at == start {
                self.take(gap, depth);
            } else {
                let found = match self.found() {
                    Gap::Lines(_) => Gap::Lines(1),
                    found => found,
                };
                let gap = match (before, kind) {
                    (_, Kind::Comma) => Gap::None,
                    (_, Kind::Colon) if is_own_colon => Gap::None,
                    (Some(Before::Comma | Before::OwnColon), _) if found == Gap::None => Gap::Space,
                    (Some(Before::OpenBracket), _) | (_, Kind::CloseBracket) if found == Gap::Space => Gap::None,
                    _ => found,
                };
                has_lines |= matches!(gap, Gap::Lines(_));
                self.take(gap, depth + 1 + brackets);
            }
            had_colon |= is_own_colon;
            before = match kind {
                Kind::Comma => Some(Before::Comma),
                Kind::Colon if is_own_colon => Some(Before::OwnColon),
                Kind::OpenBracket => Some(Before::OpenBracket),
                _ => None,
            };
            if kind == Kind::OpenBracket {
                brackets += 1;
            }
        }
        // The last declaration of a block.
        if depth > 0 && self.kind() == Some(Kind::Close) {
            let last = self.pieces[start..self.at].iter().rev().find(|piece| piece.kind != Kind::Comment);
            if let Some(end) = last.map(|piece| piece.range.end) {
                self.insert(end, ";");
            }
        }
        has_lines
    }

    /// The block of an item, its `{` next; whether it fills more than one line.
    fn item_block(&mut self, depth: usize) -> bool {
        let breaks = !self.is_on_one_line();
        self.take(Gap::Space, depth);
        self.block(depth + 1, breaks);
        if self.kind() == Some(Kind::Close) {
            let is_empty = self.pieces[self.at - 1].kind == Kind::Open;
            self.take(if breaks && !is_empty { Gap::Lines(1) } else { Gap::Space }, depth);
        }
        breaks
    }

    /// Puts a text between what was written already.
    fn insert(&mut self, at: usize, text: &str) {
        let before = self.edits.partition_point(|(range, _)| range.end <= at && range.start < at);
        self.edits.insert(before, (at..at, text.to_owned()));
    }

    /// Whether the item that is next has a block before it ends.
    fn has_block(&self) -> bool {
        let mut rest = self.pieces[self.at..].iter().map(|piece| piece.kind);
        rest.find(|kind| matches!(kind, Kind::Open | Kind::Semicolon | Kind::Close)) == Some(Kind::Open)
    }

    /// The file ends with one line break.
    fn finish(&mut self) {
        let end = if self.pieces.is_empty() { String::new() } else { self.line_end.to_owned() };
        self.edit(self.end..self.text.len(), end);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What a text is with the plain layout, which is the same the second time.
    fn plain(text: &str) -> String {
        let once = formatted(text);
        assert_eq!(formatted(&once), once, "the second time something else is written");
        assert!(means_the_same(text, &once), "{once} means something else");
        once
    }

    #[test]
    fn lines_that_a_person_made_stay() {
        let written = "@control  a{\n   --x : 1px;--y:2px ;\n\n\n\n color:red}\n";
        assert_eq!(plain(written), "@control a {\n  --x: 1px; --y: 2px;\n\n  color: red;\n}\n");
        let one = "@control a { @state hover{--x:1px} @part b ,c{ } }";
        assert_eq!(plain(one), "@control a { @state hover { --x: 1px; } @part b, c { } }\n");
        let value = "@control a {\ntransition:color 1s ,\n translate calc( 1s + 2s );\n}";
        assert_eq!(plain(value), "@control a {\n  transition: color 1s,\n    translate calc(1s + 2s);\n}\n");
    }

    #[test]
    fn comments_stay_where_they_were() {
        let written =
            "/* a */\n@control a {    /* b */\n      /* c\n         d */\n  color: red;     /* e */\n  /* f */ }\n";
        let wanted = "/* a */\n@control a { /* b */\n  /* c\n     d */\n  color: red; /* e */\n  /* f */\n}\n";
        assert_eq!(plain(written), wanted);
        assert_eq!(plain("@control a { color: red /* x */ }"), "@control a { color: red; /* x */ }\n");
    }

    #[test]
    fn space_that_means_something_stays() {
        let same = "@control a {\n  &:is(.b *) { }\n  @host a:not(.x, .y) { }\n  width: calc(1px + -2px); --e: ;\n  color: {ink.strong};\n}\n";
        assert_eq!(plain(same), same);
        assert_eq!(plain("@derive{a.05:{ b.c };}"), "@derive { a.05: {b.c}; }\n");
        assert_eq!(plain("@keyframes k{to{rotate:1turn}}"), "@keyframes k { to { rotate: 1turn; } }\n");
        assert!(!means_the_same("@control a { &.b .c { } }", "@control a { &.b.c { } }"));
        assert_eq!(plain("@control a {\r\ncolor:red\r\n}"), "@control a {\r\n  color: red;\r\n}\r\n");
    }
}
