//! The parser of control sheets: CSS Syntax Level 3 with a few at-rules of its own. It recovers and goes on, so one
//! run reports every mistake.

use super::value::{End, Reader, raw_block};
use super::*;
use crate::diagnostic::{Diagnostic, Diagnostics, list};
use crate::source::Sources;
use cssparser::{ParseError, Parser, Token};

/// Blocks nested deeper than this are refused.
const MAX_DEPTH: usize = 16;

const TOP_RULES: [&str; 4] = ["control", "derive", "keyframes", "trait"];
const BLOCK_RULES: [&str; 13] = [
    "axis",
    "combine",
    "container",
    "exclude",
    "host",
    "media",
    "option",
    "part",
    "state",
    "supports",
    "traits",
    "waive",
    "keyframes",
];
/// Rules of the language that are not built yet.
const LATER: [&str; 3] = ["attach", "font-face", "property"];

/// Parses a sheet. Mistakes go to `diagnostics`; what could be read is returned.
pub fn parse(file: FileId, sources: &Sources, diagnostics: &mut Diagnostics) -> Sheet {
    let source = &sources.file(file).text;
    let sheet = Sheet { file, controls: vec![], traits: vec![], derived: vec![], keyframes: vec![] };
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
        match name.as_str() {
            "control" => {
                let head = self.head(parser);
                let mut words = self.words(&head.text).into_iter();
                let control = words.next();
                for extra in words {
                    let (message, mend) = if extra.value == "from" {
                        ("`from` is not available in this version", "write the control out")
                    } else {
                        ("a control has one name", "write `@control NAME { … }`")
                    };
                    self.say("sheet/syntax", extra.span, message, mend);
                }
                let body = self.body(parser, &head, name, 1);
                match control {
                    Some(control) => self.sheet.controls.push(ControlNode { name: control, body }),
                    None => self.say("sheet/syntax", name.span, "the control has no name", "write `@control NAME { … }`"),
                }
            }
            "trait" => {
                let head = self.head(parser);
                let words = self.words(&head.text);
                let body = self.body(parser, &head, name, 1);
                match words.into_iter().next() {
                    Some(name) => self.sheet.traits.push(TraitNode { name, body }),
                    None => self.say("sheet/syntax", name.span, "the trait has no name", "write `@trait NAME { … }`"),
                }
            }
            "derive" => {
                let head = self.head(parser);
                if self.expect_block(&head, name, parser) {
                    let _ = parser.parse_nested_block(|inner| {
                        self.derived(inner);
                        Ok::<_, ParseError<()>>(())
                    });
                }
            }
            "keyframes" => {
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
            other if LATER.contains(&other) => {
                self.say("sheet/rule", name.span, format!("`@{other}` is not available in this version"), "leave it out");
                self.skip_item(parser);
            }
            _ => {
                self.diagnostics.push(unknown_rule(name, &TOP_RULES));
                self.skip_item(parser);
            }
        }
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
                _ => {
                    parser.reset(&state);
                    self.stray(parser, start);
                }
            }
        }
    }

    /// Something that is neither a declaration nor a rule of the language.
    fn stray(&mut self, parser: &mut Parser, start: usize) {
        let head = self.head(parser);
        let shown = Span::new(self.file, start, (start + 1).max(head.text.span.end as usize));
        if head.has_block {
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
        if let Some(ValuePiece::Text(text, span)) = value.pieces.last()
            && let Some(at) = text.to_ascii_lowercase().find('!')
        {
            let span = Span::new(span.file, span.start as usize + at, span.end as usize);
            self.say(
                "sheet/important",
                span,
                "importance is not for sheets: state and place decide",
                "take `!important` away; a stronger rule belongs into `@state`, `@option` or `@combine`",
            );
        }
        let span = name.span.to(value.span);
        items.push(Item::Declaration(Declaration { name, value, span }));
    }

    fn derived(&mut self, parser: &mut Parser) {
        loop {
            parser.skip_whitespace();
            let start = parser.position().byte_index();
            // A path may hold what CSS would not call an identifier (`space.05`): the text up to the colon counts.
            let mut colon = None;
            while let Ok(token) = parser.next_including_whitespace_and_comments() {
                match token {
                    Token::Colon => {
                        colon = Some(parser.position().byte_index() - 1);
                        break;
                    }
                    Token::Semicolon => break,
                    _ => {}
                }
            }
            let Some(colon) = colon else {
                let rest = self.source[start..parser.position().byte_index()].trim_end();
                if !rest.trim_matches(';').is_empty() {
                    let span = Span::new(self.file, start, start + rest.len());
                    self.say("sheet/syntax", span, "this is no derived token", "write `path.of.token: value;`");
                    continue;
                }
                if parser.is_exhausted() {
                    return;
                }
                continue;
            };
            let text = self.source[start..colon].trim_end();
            let path = Name { value: text.to_owned(), span: Span::new(self.file, start, start + text.len()) };
            let (value, _) = self.value_reader().declaration(parser);
            self.sheet.derived.push(DerivedNode { path, value });
        }
    }

    fn rule(&mut self, rule: &Name, parser: &mut Parser, depth: usize, items: &mut Vec<Item>) {
        match rule.as_str() {
            "media" | "supports" | "container" => {
                parser.skip_whitespace();
                let prelude = self.value_reader().prelude(parser);
                let head = Head { text: Name { value: String::new(), span: prelude.span }, has_block: true };
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Condition(Condition { kind: rule.clone(), prelude }, body));
            }
            "traits" => {
                let head = self.head(parser);
                let names = self.words(&head.text);
                self.expect_end(&head, rule, parser);
                items.push(Item::Traits(names));
            }
            "part" => {
                let head = self.head(parser);
                let targets = self.part_targets(&head.text, rule);
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Part(targets, body));
            }
            "state" => {
                let head = self.head(parser);
                let alternatives = self.state_alternatives(&head.text, rule);
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::State(alternatives, body));
            }
            "host" => {
                let head = self.head(parser);
                if head.text.value.is_empty() {
                    self.say("sheet/syntax", rule.span, "`@host` names no host", "write `@host input { … }`");
                }
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Host(head.text, body));
            }
            "axis" => self.axis(rule, parser, depth, items),
            "option" => {
                let head = self.head(parser);
                let name = self.words(&head.text).into_iter().next();
                let body = self.body(parser, &head, rule, depth + 1);
                match name {
                    Some(name) => items.push(Item::Option(OptionNode { name, body })),
                    None => self.say("sheet/syntax", rule.span, "the option has no name", "write `@option NAME { … }`"),
                }
            }
            "combine" => {
                let head = self.head(parser);
                let names = self.words(&head.text);
                if names.len() < 2 {
                    let mend = "write `@combine OPTION OPTION { … }`";
                    self.say("sheet/syntax", rule.span, "`@combine` takes two options or more", mend);
                }
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Combine(names, body));
            }
            "exclude" => {
                let head = self.head(parser);
                self.exclude(&head, rule, items);
                self.expect_end(&head, rule, parser);
            }
            "waive" => {
                let head = self.head(parser);
                self.waive(&head, rule, items);
                self.expect_end(&head, rule, parser);
            }
            "keyframes" => {
                let mend = "write `@keyframes` outside of `@control`";
                self.say("sheet/rule", rule.span, "keyframes stand at the top of a sheet", mend);
                self.skip_item(parser);
            }
            _ => {
                self.diagnostics.push(unknown_rule(rule, &BLOCK_RULES));
                self.skip_item(parser);
            }
        }
    }

    fn expect_end(&mut self, head: &Head, rule: &Name, parser: &mut Parser) {
        if head.has_block {
            let mend = format!("end it with `;`: `@{} {};`", rule.value, head.text.value);
            self.say("sheet/syntax", rule.span, format!("`@{}` has no block", rule.value), mend);
            self.skip_item(parser);
        } else {
            let _ = parser.next();
        }
    }

    fn axis(&mut self, rule: &Name, parser: &mut Parser, depth: usize, items: &mut Vec<Item>) {
        let head = self.head(parser);
        let words = self.words(&head.text);
        let default = match words.iter().map(|w| w.as_str()).collect::<Vec<_>>().as_slice() {
            [_] | [] => AxisDefault::First,
            [_, "optional"] => AxisDefault::None,
            [_, "default", _] => AxisDefault::Named(words[2].clone()),
            _ => {
                let mend = "write `@axis NAME default OPTION { … }` or `@axis NAME optional { … }`";
                self.say("sheet/syntax", head.text.span, "this is no axis", mend);
                AxisDefault::First
            }
        };
        if !self.expect_block(&head, rule, parser) {
            return;
        }
        let mut options = Vec::new();
        let _ = parser.parse_nested_block(|inner| {
            self.options(inner, depth + 1, &mut options);
            Ok::<_, ParseError<()>>(())
        });
        match words.into_iter().next() {
            Some(name) => items.push(Item::Axis(AxisNode { name, default, options })),
            None => self.say("sheet/syntax", rule.span, "the axis has no name", "write `@axis NAME { … }`"),
        }
    }

    fn options(&mut self, parser: &mut Parser, depth: usize, options: &mut Vec<OptionNode>) {
        loop {
            parser.skip_whitespace();
            let start = parser.position().byte_index();
            let state = parser.state();
            let Ok(token) = parser.next().cloned() else { return };
            match token {
                Token::Semicolon => {}
                Token::Ident(name) => {
                    let name = Name { value: name.to_string(), span: self.span(start, parser) };
                    let head = self.head(parser);
                    if head.has_block && head.text.value.is_empty() {
                        let _ = parser.next();
                        let body = self.block_items(parser, name.span, depth + 1);
                        options.push(OptionNode { name, body });
                    } else {
                        let mend = format!("write `{} {{ … }}`", name.value);
                        self.say("sheet/syntax", name.span, "an axis holds options only", mend);
                        self.skip_item(parser);
                    }
                }
                _ => {
                    parser.reset(&state);
                    let head = self.head(parser);
                    let span = Span::new(self.file, start, (start + 1).max(head.text.span.end as usize));
                    self.say("sheet/syntax", span, "an axis holds options only", "write `OPTION { … }`");
                    self.skip_item(parser);
                }
            }
        }
    }

    fn exclude(&mut self, head: &Head, rule: &Name, items: &mut Vec<Item>) {
        let mut node = ExcludeNode {
            options: Vec::new(),
            with: Vec::new(),
            without: Vec::new(),
            on: None,
            span: rule.span.to(head.text.span),
        };
        let mut list = 0;
        for word in self.words(&head.text) {
            match word.as_str() {
                "with" => list = 1,
                "without" => list = 2,
                "on" => {
                    let start = word.span.end as usize;
                    let text = self.source[start..head.text.span.end as usize].trim();
                    let start = head.text.span.end as usize - text.len();
                    let span = Span::new(self.file, start, start + text.len());
                    node.on = Some(Name { value: text.to_owned(), span });
                    break;
                }
                _ => [&mut node.options, &mut node.with, &mut node.without][list].push(word),
            }
        }
        if node.options.is_empty() {
            let mend = "write `@exclude OPTION with OPTION;`";
            self.say("sheet/syntax", rule.span, "`@exclude` names no option", mend);
        } else {
            items.push(Item::Exclude(node));
        }
    }

    fn waive(&mut self, head: &Head, rule: &Name, items: &mut Vec<Item>) {
        let mut parser = Parser::new(&head.text.value);
        let mut reason = None;
        let mut quote = head.text.value.len();
        loop {
            parser.skip_whitespace();
            let at = parser.position().byte_index();
            match parser.next() {
                Ok(Token::QuotedString(text)) => {
                    reason = Some(text.to_string());
                    quote = at;
                }
                Ok(_) => {}
                Err(_) => break,
            }
        }
        let before = Name {
            value: head.text.value[..quote].trim_end().to_owned(),
            span: Span { end: head.text.span.start + quote as u32, ..head.text.span },
        };
        let mut words = self.words(&before).into_iter();
        let check = words.next();
        let cases = words.next().filter(|word| word.value == "on").map(|word| {
            let offset = (word.span.end - before.span.start) as usize;
            let text = before.value[offset..].trim();
            Name { value: text.to_owned(), span: word.span }
        });
        match (check, reason) {
            (Some(check), Some(reason)) => {
                items.push(Item::Waive(WaiveNode { check, cases, reason, span: rule.span.to(head.text.span) }));
            }
            _ => {
                let mend = "write `@waive group/name \"Why it is accepted.\";`";
                self.say("sheet/syntax", rule.span, "a waiver names a check and gives a reason", mend);
            }
        }
    }

    /// The words of a prelude with their places.
    fn words(&self, text: &Name) -> Vec<Name> {
        split(text, char::is_whitespace)
    }

    fn part_targets(&mut self, text: &Name, rule: &Name) -> Vec<PartTarget> {
        let targets: Vec<_> = split(text, |c| c == ',').iter().map(|one| part_target(one)).collect();
        if targets.is_empty() {
            self.say("sheet/syntax", rule.span, "`@part` names no part", "write `@part NAME { … }`");
        }
        targets
    }

    fn state_alternatives(&mut self, text: &Name, rule: &Name) -> Vec<StateAlternative> {
        let mut alternatives = Vec::new();
        for one in split(text, |c| c == ',') {
            let words = self.words(&one);
            let mut states = Vec::new();
            for (i, word) in words.iter().enumerate() {
                match (i % 2, word.as_str()) {
                    (0, _) => states.push(word.clone()),
                    (_, "and") => {}
                    (_, "of") => {
                        let mend = "write the state without `of PART`";
                        self.say("sheet/state", word.span, "`of` is not available in this version", mend);
                        break;
                    }
                    _ => {
                        let mend = "write `@state A and B`, or `@state A, B`";
                        self.say("sheet/state", word.span, "states are joined by `and` or by a comma", mend);
                        break;
                    }
                }
            }
            alternatives.push(StateAlternative { states });
        }
        if alternatives.is_empty() {
            self.say("sheet/state", rule.span, "`@state` names no state", "write `@state hover { … }`");
        }
        alternatives
    }
}

fn part_target(one: &Name) -> PartTarget {
    let cut = |range: std::ops::Range<usize>| {
        let text = &one.value[range.clone()];
        let span =
            Span::new(one.span.file, one.span.start as usize + range.start, one.span.start as usize + range.end);
        (!text.is_empty()).then(|| Name { value: text.to_owned(), span })
    };
    let length = one.value.len();
    let pseudo = one.value.find("::").unwrap_or(length);
    let condition = one.value[..pseudo].find(':').unwrap_or(pseudo);
    PartTarget { part: cut(0..condition), condition: cut(condition..pseudo), pseudo: cut(pseudo..length) }
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

fn unknown_rule(name: &Name, known: &[&str]) -> Diagnostic {
    let message = format!("there is no rule `@{}` here", name.value);
    let diagnostic = Diagnostic::error("sheet/rule", name.span, message).label("not known");
    if LATER.contains(&name.as_str()) {
        return diagnostic.mend("leave it out: it is not available in this version");
    }
    match crate::diagnostic::nearest(&name.value, known.iter().copied()) {
        Some(near) => diagnostic.mend(format!("write `@{near}`")),
        None => diagnostic.mend(format!("write one of: @{}", list(known).replace(", ", ", @"))),
    }
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
    let (pseudo, state) = STATES.iter().find(|(pseudo, _)| selector.contains(pseudo))?;
    Some((
        format!("`{pseudo}` is a state: written as a condition it would not keep the order of states"),
        format!("write `@state {state} {{ … }}`"),
    ))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: &str) -> (Sheet, Vec<String>) {
        let mut sources = Sources::default();
        let file = sources.add("x.stilk", text);
        let mut diagnostics = Diagnostics::default();
        let sheet = parse(file, &sources, &mut diagnostics);
        let said = diagnostics
            .into_sorted()
            .iter()
            .map(|d| {
                let at = sources.position(d.span.unwrap());
                format!("{}:{} {}", at.line, at.column, d.message)
            })
            .collect();
        (sheet, said)
    }

    #[test]
    fn a_missing_semicolon_is_named_where_it_belongs_and_reading_goes_on() {
        let (sheet, said) =
            read("@control x {\n  color: red\n  gap: 1px\n  @state hover { top: 0 }\n  left: 0 right: 0;\n}");
        assert_eq!(
            said,
            [
                "2:12 a semicolon is missing after `color`",
                "3:10 a semicolon is missing after `gap`",
                "5:9 a semicolon is missing after `left`"
            ]
        );
        assert_eq!(sheet.controls[0].body.len(), 5);
    }

    #[test]
    fn references_keep_names_that_css_would_not_read() {
        let (sheet, said) = read("@control x { gap: calc(2 * {space.05}) {a.1b}; }");
        assert!(said.is_empty(), "{said:?}");
        let Item::Declaration(declaration) = &sheet.controls[0].body[0] else { panic!() };
        let names: Vec<_> = declaration
            .value
            .pieces
            .iter()
            .filter_map(|p| if let ValuePiece::Reference(name) = p { Some(name.as_str()) } else { None })
            .collect();
        assert_eq!(names, ["space.05", "a.1b"]);
    }

    #[test]
    fn joined_references_are_refused() {
        for (value, words) in [
            ("{a.b}px", "a unit or word cannot be joined"),
            ("{a.b}{c.d}", "cannot be joined to what stands before"),
            ("-{a.b}", "cannot be joined to what stands before"),
            ("\"{a.b}\"", "a reference in a string"),
            ("url({a.b})", "a reference in `url()`"),
        ] {
            let (_, said) = read(&format!("@control x {{ gap: {value}; }}"));
            assert!(said.len() == 1 && said[0].contains(words), "{value}: {said:?}");
        }
    }

    #[test]
    fn states_parts_and_axes_are_read() {
        let (sheet, said) = read(
            "@control x { @state hover and checked, busy { @part a, b::before, ::after, c:first-child { top: 0; } }
             @axis tint default b { a { } b { } } @exclude a b with c without d on input; }",
        );
        assert!(said.is_empty(), "{said:?}");
        let body = &sheet.controls[0].body;
        let Item::State(alternatives, inner) = &body[0] else { panic!() };
        assert_eq!(alternatives.len(), 2);
        assert_eq!(alternatives[0].states.len(), 2);
        let Item::Part(targets, _) = &inner[0] else { panic!() };
        assert_eq!(targets[1].pseudo.as_ref().unwrap().value, "::before");
        assert!(targets[2].part.is_none());
        assert_eq!(targets[3].condition.as_ref().unwrap().value, ":first-child");
        let Item::Axis(axis) = &body[1] else { panic!() };
        assert!(matches!(&axis.default, AxisDefault::Named(name) if name.value == "b"));
        let Item::Exclude(exclude) = &body[2] else { panic!() };
        assert_eq!(exclude.on.as_ref().unwrap().value, "input");
        assert_eq!((exclude.options.len(), exclude.with.len(), exclude.without.len()), (2, 1, 1));
    }

    #[test]
    fn a_state_written_as_a_condition_gets_its_rule() {
        let (_, said) = read("@control x { &:hover { top: 0; } }");
        assert!(said[0].contains("`:hover` is a state"), "{said:?}");
    }

    #[test]
    fn depth_is_bounded() {
        let deep = format!("@control x {}{}", "{ @state hover ".repeat(40), "}".repeat(40));
        let (_, said) = read(&deep);
        assert!(said.iter().any(|s| s.contains("nested deeper")), "{said:?}");
        let brackets = format!("@control x {{ gap: {}1px; }}", "calc(".repeat(5000));
        assert!(!read(&brackets).1.is_empty());
    }
}
