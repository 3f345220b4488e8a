//! The parser of control sheets: CSS Syntax Level 3 with a few at-rules of its own. It recovers and goes on, so one
//! run reports every mistake.

mod plain;
mod rules;
#[cfg(test)]
mod tests;

use super::at_rule::{AtRule, Place};
use super::habits;
use super::value::{End, Reader, raw_block};
use super::*;
use cssparser::{ParseError, Parser, Token};
use stilk_engine::cascade::compound::compounds;
use stilk_engine::cascade::selector::{One, parse_list};
use stilk_text::diagnostic::{Diagnostic, Diagnostics, Level, list};
use stilk_text::source::Sources;

/// Blocks nested deeper than this are refused.
const MAX_DEPTH: usize = 16;

/// Parses a sheet. Mistakes go to `diagnostics`; what could be read is returned.
pub fn parse(file: FileId, sources: &Sources, diagnostics: &mut Diagnostics) -> Sheet {
    let source = &sources.file(file).text;
    let sheet = Sheet {
        file,
        controls: vec![],
        traits: vec![],
        derived: vec![],
        keyframes: vec![],
        font_faces: vec![],
        properties: vec![],
        attachments: vec![],
    };
    let mut reader = SheetReader { file, source, diagnostics, sheet };
    let mut parser = Parser::new(source);
    reader.top(&mut parser);
    reader.sheet
}

struct SheetReader<'d> {
    file: FileId,
    source: &'d str,
    diagnostics: &'d mut Diagnostics,
    sheet: Sheet,
}

/// What stands after an at-rule's name: a prelude, and whether a block follows.
struct Head {
    text: Name,
    has_block: bool,
}

impl SheetReader<'_> {
    fn span(&self, start: usize, parser: &Parser) -> Span {
        Span::new(self.file, start, parser.position().byte_index())
    }

    fn say(&mut self, id: &'static str, span: Span, message: impl Into<String>, mend: impl Into<String>) {
        self.diagnostics.push(Diagnostic::error(id, span, message).label("here").mend(mend));
    }

    fn value_reader(&mut self) -> Reader<'_> {
        Reader::new(self.file, self.source, self.diagnostics)
    }

    fn top(&mut self, parser: &mut Parser) {
        loop {
            parser.skip_whitespace();
            let start = parser.position().byte_index();
            let Ok(token) = parser.next().cloned() else { return };
            match token {
                Token::Semicolon => {}
                Token::AtKeyword(name) => {
                    let name = Name { value: name.to_ascii_lowercase(), span: self.span(start, parser) };
                    self.top_rule(&name, parser);
                }
                _ => {
                    self.skip_item(parser);
                    let end = self.source[start..parser.position().byte_index()].find(['{', '\n', ';']);
                    let length = end.unwrap_or(1).max(1);
                    let span = Span::new(self.file, start, start + length);
                    self.say(
                        "sheet/syntax",
                        span,
                        "only at-rules stand at the top of a sheet",
                        "write it inside `@control NAME { … }`",
                    );
                }
            }
        }
    }

    fn top_rule(&mut self, name: &Name, parser: &mut Parser) {
        let Some(rule) = AtRule::named(name.as_str()) else { return self.unknown_rule(name, Place::Top, parser) };
        match rule {
            AtRule::Control => {
                let mut head = self.head(parser);
                let mark = self.take_mark(&mut head.text);
                let mut words = self.words(&head.text);
                let at = words.iter().position(|word| word.value == "inside").unwrap_or(words.len());
                let inside = words.split_off(at);
                if let [word] = inside.as_slice() {
                    let mend = "write `@control NAME inside OTHER { … }`";
                    self.say("sheet/syntax", word.span, "`inside` names no control", mend);
                }
                let inside = inside.into_iter().skip(1).collect();
                let (control, from) = match words.as_slice() {
                    [] => (None, None),
                    [control] => (Some(control.clone()), None),
                    [control, from, base] if from.value == "from" => (Some(control.clone()), Some(base.clone())),
                    [control, extra, ..] => {
                        let mend = "write `@control NAME { … }` or `@control NAME from OTHER { … }`";
                        self.say("sheet/syntax", extra.span, "a control has one name", mend);
                        (Some(control.clone()), None)
                    }
                };
                let body = self.body(parser, &head, name, 1);
                match control {
                    Some(control) => self.sheet.controls.push(ControlNode { name: control, mark, from, inside, body }),
                    None => {
                        self.say("sheet/syntax", name.span, "the control has no name", "write `@control NAME { … }`")
                    }
                }
            }
            AtRule::Trait => {
                let head = self.head(parser);
                let words = self.words(&head.text);
                let body = self.body(parser, &head, name, 1);
                match words.into_iter().next() {
                    Some(name) => self.sheet.traits.push(TraitNode { name, body }),
                    None => self.say("sheet/syntax", name.span, "the trait has no name", "write `@trait NAME { … }`"),
                }
            }
            AtRule::Derive => {
                let head = self.head(parser);
                if self.expect_block(&head, name, parser) {
                    let _ = parser.parse_nested_block(|inner| {
                        self.derived(inner);
                        Ok::<_, ParseError<()>>(())
                    });
                }
            }
            AtRule::Keyframes => {
                let head = self.head(parser);
                let words = self.words(&head.text);
                if self.expect_block(&head, name, parser) {
                    let mut body = None;
                    let _ = parser.parse_nested_block(|inner| {
                        body = Some(self.value_reader().everything(inner, true));
                        Ok::<_, ParseError<()>>(())
                    });
                    if let (Some(name), Some(body)) = (words.into_iter().next(), body) {
                        self.sheet.keyframes.push(KeyframesNode { name, body });
                    }
                }
            }
            AtRule::FontFace => {
                let head = self.head(parser);
                let descriptors = self.descriptors(parser, &head, name);
                self.sheet.font_faces.push(DescriptorsNode { name: name.clone(), descriptors });
            }
            AtRule::Property => {
                if let Some(node) = self.property(name, parser) {
                    self.sheet.properties.push(node);
                }
            }
            AtRule::Attach => self.attach(name, parser),
            AtRule::Axis
            | AtRule::Combine
            | AtRule::Container
            | AtRule::Exclude
            | AtRule::Host
            | AtRule::Media
            | AtRule::Option
            | AtRule::Part
            | AtRule::StartingStyle
            | AtRule::State
            | AtRule::Supports
            | AtRule::Traits
            | AtRule::Waive => self.unknown_rule(name, Place::Top, parser),
        }
    }

    fn unknown_rule(&mut self, name: &Name, place: Place, parser: &mut Parser) {
        let known = AtRule::names_in(place);
        let message = format!("there is no rule `@{}` here", name.value);
        let diagnostic = Diagnostic::error("sheet/rule", name.span, message).label("not known");
        // What is merely spelled alike helps nobody who means something else.
        let after = self.source.get(name.span.end as usize..).unwrap_or_default();
        let mend = match after.trim_start().starts_with(':') {
            true => Some(habits::variable(&name.value)),
            false => habits::at_rule(&name.value).map(str::to_owned),
        };
        if let Some(mend) = mend {
            self.diagnostics.push(diagnostic.mend(mend));
            return self.skip_item(parser);
        }
        self.diagnostics.push(match stilk_text::diagnostic::nearest(&name.value, known.iter().copied()) {
            Some(near) => diagnostic.mend(format!("write `@{near}`")),
            None => diagnostic.mend(format!("write one of: @{}", list(&known).replace(", ", ", @"))),
        });
        self.skip_item(parser);
    }

    /// Skips to the end of what began here: a `;` or a block.
    fn skip_item(&mut self, parser: &mut Parser) {
        while let Ok(token) = parser.next_including_whitespace_and_comments().cloned() {
            match token {
                Token::Semicolon => return,
                Token::CurlyBracketBlock => {
                    raw_block(parser);
                    return;
                }
                _ => {}
            }
        }
    }

    /// Reads up to a block or `;`, which is not consumed.
    fn head(&mut self, parser: &mut Parser) -> Head {
        parser.skip_whitespace();
        let start = parser.position().byte_index();
        let mut end = start;
        let mut has_block = false;
        loop {
            let state = parser.state();
            let Ok(token) = parser.next_including_whitespace_and_comments().cloned() else { break };
            match token {
                Token::CurlyBracketBlock => {
                    has_block = true;
                    parser.reset(&state);
                    break;
                }
                Token::Semicolon => {
                    parser.reset(&state);
                    break;
                }
                _ => end = parser.position().byte_index(),
            }
        }
        let text = self.source[start..end].trim_end();
        Head { text: Name { value: text.to_owned(), span: Span::new(self.file, start, start + text.len()) }, has_block }
    }

    /// Consumes the opening of the block, or reports that there is none.
    fn expect_block(&mut self, head: &Head, rule: &Name, parser: &mut Parser) -> bool {
        if head.has_block {
            let _ = parser.next();
            return true;
        }
        self.say(
            "sheet/syntax",
            rule.span,
            format!("`@{}` has no block", rule.value),
            format!("write `@{} … {{ … }}`", rule.value),
        );
        let _ = parser.next();
        false
    }

    fn body(&mut self, parser: &mut Parser, head: &Head, rule: &Name, depth: usize) -> Vec<Item> {
        if !self.expect_block(head, rule, parser) {
            return Vec::new();
        }
        self.block_items(parser, rule.span, depth)
    }

    /// The items of the block that was just opened.
    fn block_items(&mut self, parser: &mut Parser, owner: Span, depth: usize) -> Vec<Item> {
        if depth > MAX_DEPTH {
            raw_block(parser);
            self.say("sheet/syntax", owner, format!("blocks are nested deeper than {MAX_DEPTH}"), "use fewer levels");
            return Vec::new();
        }
        let mut items = Vec::new();
        let _ = parser.parse_nested_block(|inner| {
            self.items(inner, depth, &mut items);
            Ok::<_, ParseError<()>>(())
        });
        let end = parser.position().byte_index();
        if !self.source[..end].ends_with('}') {
            self.say("sheet/syntax", owner, "this block is never closed", "write `}` where it ends");
        }
        items
    }

    fn items(&mut self, parser: &mut Parser, depth: usize, items: &mut Vec<Item>) {
        loop {
            parser.skip_whitespace();
            let state = parser.state();
            let start = parser.position().byte_index();
            let Ok(token) = parser.next().cloned() else { return };
            match token {
                Token::Semicolon => {}
                Token::AtKeyword(name) => {
                    let name = Name { value: name.to_ascii_lowercase(), span: self.span(start, parser) };
                    self.rule(&name, parser, depth, items);
                }
                Token::Delim('&') => {
                    let head = self.head(parser);
                    let rule = Name { value: "&".into(), span: self.span(start, parser) };
                    if let Some(message) = state_in(&head.text.value) {
                        self.say("sheet/state", head.text.span, message.0, message.1);
                    }
                    if head.has_block {
                        let _ = parser.next();
                        let body = self.block_items(parser, rule.span, depth + 1);
                        items.push(Item::Nested(head.text, body));
                    } else {
                        self.say("sheet/syntax", rule.span, "`&` begins a block", "write `&:dir(rtl) { … }`");
                        let _ = parser.next();
                    }
                }
                Token::Ident(name) => {
                    let name = Name { value: name.to_string(), span: self.span(start, parser) };
                    if matches!(parser.next(), Ok(Token::Colon)) {
                        self.declaration(name, parser, items);
                    } else {
                        parser.reset(&state);
                        self.stray(parser, start);
                    }
                }
                Token::Delim('*') if self.is_for_old_browsers(parser) => self.leave_out(parser, start),
                _ => {
                    parser.reset(&state);
                    self.stray(parser, start);
                }
            }
        }
    }

    /// Whether `name:` follows: `*zoom: 1`, which only Internet Explorer ever read.
    fn is_for_old_browsers(&self, parser: &mut Parser) -> bool {
        let state = parser.state();
        let is_name = matches!(parser.next(), Ok(Token::Ident(_)));
        let follows = is_name && matches!(parser.next(), Ok(Token::Colon));
        parser.reset(&state);
        follows
    }

    /// Passes over a declaration that no browser of today reads, and says so.
    fn leave_out(&mut self, parser: &mut Parser, start: usize) {
        while let Ok(token) = parser.next_including_whitespace_and_comments() {
            if *token == Token::Semicolon {
                break;
            }
        }
        let text = self.source[start..parser.position().byte_index()].trim_end();
        self.diagnostics.push(
            Diagnostic::new(
                Level::Note,
                "sheet/old",
                Span::new(self.file, start, start + text.len()),
                "no browser reads this any more: it is left out",
            )
            .label("here"),
        );
    }

    /// Something that is neither a declaration nor a rule of the language.
    fn stray(&mut self, parser: &mut Parser, start: usize) {
        if self.source[start..].starts_with("//") {
            let line = self.source[start..].find('\n').map_or(self.source.len(), |at| start + at);
            let shown = Span::new(self.file, start, line);
            self.say("sheet/syntax", shown, "`//` begins no comment", "write `/* … */`");
            // What follows on the next line is meant.
            while parser.position().byte_index() < line && parser.next_including_whitespace_and_comments().is_ok() {}
            return;
        }
        let head = self.head(parser);
        let shown = Span::new(self.file, start, (start + 1).max(head.text.span.end as usize));
        let text = &self.source[start..];
        if let Some(rest) = text.strip_prefix('$') {
            let end = rest.find(|c: char| !c.is_alphanumeric() && c != '-' && c != '_').unwrap_or(rest.len());
            let name = &rest[..end];
            self.say("sheet/syntax", shown, format!("`${name}` is no property"), habits::variable(name));
        } else if head.has_block {
            let mend = "write `@part NAME { … }` for a part, `@state NAME { … }` for a state, `&…` for a condition";
            self.say("sheet/syntax", shown, "a selector cannot stand here", mend);
        } else {
            self.say("sheet/syntax", shown, "this is no declaration", "write `property: value;`");
        }
        self.skip_item(parser);
    }

    fn declaration(&mut self, name: Name, parser: &mut Parser, items: &mut Vec<Item>) {
        let (value, end) = self.value_reader().declaration(parser);
        if end == End::Abrupt {
            let at = value.pieces.last().map_or(name.span, |piece| piece.outer_span());
            let trimmed = self.source[..at.end as usize].trim_end().len();
            let after = Span::new(self.file, trimmed.saturating_sub(1), trimmed);
            let declared = format!("a semicolon is missing after `{}`", name.value);
            self.diagnostics.push(
                Diagnostic::error("sheet/semicolon", after, declared)
                    .label("write `;` after this")
                    .mend("end every declaration with `;`"),
            );
        }
        let mut name = name;
        if !name.value.starts_with("--") {
            name.value.make_ascii_lowercase();
        }
        if value.pieces.is_empty() && !name.value.starts_with("--") {
            let message = format!("`{}` has no value", name.value);
            self.say("cascade/value", name.span, message, format!("write `{}: …;`", name.value));
            return;
        }
        let mut value = value;
        if let Some(ValuePiece::Text(text, span)) = value.pieces.last_mut()
            && let Some(at) = text.rfind('!')
            && text[at + 1..].trim().eq_ignore_ascii_case("important")
        {
            let span = Span::new(span.file, span.start as usize + at, span.end as usize);
            text.truncate(at);
            text.truncate(text.trim_end().len());
            self.diagnostics.push(
                Diagnostic::new(
                    Level::Warning,
                    "sheet/important",
                    span,
                    "importance is not for sheets, and is left out: state and place decide",
                )
                .label("here")
                .mend("take `!important` away; a stronger rule belongs into `@state`, `@option` or `@combine`"),
            );
        }
        let span = name.span.to(value.span);
        let old = value.pieces.first().is_some_and(
            |piece| matches!(piece, ValuePiece::Text(text, _) if text.trim_start().to_ascii_lowercase().starts_with("progid:")),
        );
        if old {
            let message = "no browser reads this any more: it is left out";
            self.diagnostics.push(Diagnostic::new(Level::Note, "sheet/old", span, message).label("here"));
            return;
        }
        items.push(Item::Declaration(Declaration { name, value, span }));
    }

    /// The words of a prelude with their places.
    fn words(&self, text: &Name) -> Vec<Name> {
        split(text, char::is_whitespace)
    }
}

/// Splits a text, trimming and keeping the place of each piece.
fn split(text: &Name, separator: impl Fn(char) -> bool) -> Vec<Name> {
    let mut pieces = Vec::new();
    let mut start = 0;
    for (i, c) in text.value.char_indices().chain([(text.value.len(), '\0')]) {
        if i == text.value.len() || separator(c) {
            let raw = &text.value[start..i];
            let trimmed = raw.trim();
            if !trimmed.is_empty() {
                let offset = text.span.start as usize + start + (raw.len() - raw.trim_start().len());
                let span = Span::new(text.span.file, offset, offset + trimmed.len());
                pieces.push(Name { value: trimmed.to_owned(), span });
            }
            start = i + c.len_utf8();
        }
    }
    pieces
}

/// A state written as a pseudo-class would not keep the order of states.
fn state_in(selector: &str) -> Option<(String, String)> {
    const STATES: [(&str, &str); 8] = [
        (":hover", "hover"),
        (":focus-visible", "focus"),
        (":focus-within", "focus-within"),
        (":focus", "focus"),
        (":active", "active"),
        (":checked", "checked"),
        (":disabled", "disabled"),
        (":user-invalid", "invalid"),
    ];
    // Of which of several natives in it that is true, the template has to say.
    if selector.trim_start().starts_with(":has(") {
        return None;
    }
    let asked = asked_of_host(selector);
    let (pseudo, state) = STATES.iter().find(|(pseudo, _)| asked.contains(pseudo))?;
    let not = if asked.contains(":not(") { "not " } else { "" };
    Some((
        format!("`{pseudo}` is a state: written as a condition it would not keep the order of states"),
        format!("write `@state {not}{state} {{ … }}`"),
    ))
}

/// What a condition asks of the host itself: `:is(.row:hover *)` asks for the state of what is around it, which is none of its own.
fn asked_of_host(condition: &str) -> String {
    let Some(list) = parse_list(condition) else { return condition.to_owned() };
    let of_one = |one: &One| -> String {
        let compounds = compounds(one);
        let subject = &compounds[0];
        let inner = |other: &String| {
            let inside = other.strip_prefix(":is(").or_else(|| other.strip_prefix(":where("));
            inside.and_then(|rest| rest.strip_suffix(')')).map_or_else(|| other.clone(), asked_of_host)
        };
        subject.others.iter().map(inner).chain(subject.states.iter().cloned()).collect()
    };
    list.slice().iter().map(of_one).collect()
}
