//! The language's own at-rules inside a control.

use super::super::at_rule::{AtRule, Place};
use super::super::*;
use super::{Head, SheetReader, split};
use cssparser::{ParseError, Parser, Token};

impl SheetReader<'_> {
    pub(super) fn derived(&mut self, parser: &mut Parser) {
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

    pub(super) fn rule(&mut self, rule: &Name, parser: &mut Parser, depth: usize, items: &mut Vec<Item>) {
        let Some(known) = AtRule::named(rule.as_str()) else { return self.unknown_rule(rule, Place::Block, parser) };
        match known {
            AtRule::Media | AtRule::Supports | AtRule::Container | AtRule::StartingStyle => {
                parser.skip_whitespace();
                let prelude = self.value_reader().prelude(parser);
                if known == AtRule::StartingStyle && !prelude.pieces.is_empty() {
                    let mend = "write `@starting-style { … }` in the state that begins";
                    self.say("sheet/syntax", prelude.span, "`@starting-style` asks for nothing", mend);
                }
                let state = parser.state();
                let has_block = matches!(parser.next(), Ok(Token::CurlyBracketBlock));
                parser.reset(&state);
                let head = Head { text: Name { value: String::new(), span: prelude.span }, has_block };
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Condition(Condition { kind: rule.clone(), prelude }, body));
            }
            AtRule::Traits => {
                let head = self.head(parser);
                let names = self.words(&head.text);
                self.expect_end(&head, rule, parser);
                items.push(Item::Traits(names));
            }
            AtRule::Part => {
                let mut head = self.head(parser);
                let mark = self.take_mark(&mut head.text);
                let targets = self.part_targets(&head.text, rule);
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Part(targets, mark, body));
            }
            AtRule::State => {
                let head = self.head(parser);
                let alternatives = self.state_alternatives(&head.text, rule);
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::State(alternatives, body));
            }
            AtRule::Host => {
                let head = self.head(parser);
                if head.text.value.is_empty() {
                    self.say("sheet/syntax", rule.span, "`@host` names no host", "write `@host input { … }`");
                }
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Host(head.text, body));
            }
            AtRule::Axis => self.axis(rule, parser, depth, items),
            AtRule::Option => {
                let mut head = self.head(parser);
                let mark = self.take_mark(&mut head.text);
                let name = self.words(&head.text).into_iter().next();
                let body = self.body(parser, &head, rule, depth + 1);
                match name {
                    Some(name) => items.push(Item::Option(OptionNode { name, mark, body })),
                    None => self.say("sheet/syntax", rule.span, "the option has no name", "write `@option NAME { … }`"),
                }
            }
            AtRule::Combine => {
                let head = self.head(parser);
                let names = self.words(&head.text);
                if names.len() < 2 {
                    let mend = "write `@combine OPTION OPTION { … }`";
                    self.say("sheet/syntax", rule.span, "`@combine` takes two options or more", mend);
                }
                let body = self.body(parser, &head, rule, depth + 1);
                items.push(Item::Combine(names, body));
            }
            AtRule::Exclude => {
                let head = self.head(parser);
                self.exclude(&head, rule, items);
                self.expect_end(&head, rule, parser);
            }
            AtRule::Waive => {
                let head = self.head(parser);
                self.waive(&head, rule, items);
                self.expect_end(&head, rule, parser);
            }
            AtRule::Keyframes => {
                let mend = "write `@keyframes` outside of `@control`";
                self.say("sheet/rule", rule.span, "keyframes stand at the top of a sheet", mend);
                self.skip_item(parser);
            }
            AtRule::Property => items.extend(self.property(rule, parser).map(Item::Property)),
            AtRule::FontFace | AtRule::Attach | AtRule::Derive | AtRule::Trait | AtRule::Control => {
                let message = format!("`@{}` stands at the top of a sheet", rule.value);
                self.say("sheet/rule", rule.span, message, format!("write `@{}` outside of `@control`", rule.value));
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
                    let mut head = self.head(parser);
                    let mark = self.take_mark(&mut head.text);
                    if head.has_block && head.text.value.is_empty() {
                        let _ = parser.next();
                        let body = self.block_items(parser, name.span, depth + 1);
                        options.push(OptionNode { name, mark, body });
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

    /// Cuts `marked (SELECTOR)` off the end of a head.
    pub(super) fn take_mark(&mut self, head: &mut Name) -> Option<Name> {
        let start = head.value.find("marked").filter(|at| {
            let is_word = *at == 0 || head.value[..*at].ends_with(char::is_whitespace);
            is_word && head.value[*at + "marked".len()..].trim_start().starts_with('(')
        })?;
        let open = start + head.value[start..].find('(')?;
        let span = |from: usize, to: usize| {
            Span::new(self.file, head.span.start as usize + from, head.span.start as usize + to)
        };
        let mark = match head.value.strip_suffix(')') {
            Some(closed) => {
                let inner = &closed[open + 1..];
                let trimmed = inner.trim();
                let from = open + 1 + (inner.len() - inner.trim_start().len());
                Name { value: trimmed.to_owned(), span: span(from, from + trimmed.len()) }
            }
            None => Name { value: String::new(), span: span(start, head.value.len()) },
        };
        let left = head.value[..start].trim_end().len();
        *head = Name { value: head.value[..left].to_owned(), span: span(0, left) };
        Some(mark)
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
        let mut quote = head.text.value.len()..head.text.value.len();
        loop {
            parser.skip_whitespace();
            let at = parser.position().byte_index();
            match parser.next() {
                Ok(Token::QuotedString(text)) => {
                    reason = Some(text.to_string());
                    quote = at..parser.position().byte_index();
                }
                Ok(_) => {}
                Err(_) => break,
            }
        }
        let slice = |range: std::ops::Range<usize>| Name {
            value: head.text.value[range.clone()].trim_end().to_owned(),
            span: Span::new(
                self.file,
                head.text.span.start as usize + range.start,
                head.text.span.start as usize + range.end,
            ),
        };
        let (before, after) = (slice(0..quote.start), slice(quote.end..head.text.value.len()));
        let mut words = self.words(&before).into_iter();
        let check = words.next();
        let cases = words.next().filter(|word| word.value == "on").map(|word| {
            let offset = (word.span.end - before.span.start) as usize;
            let text = before.value[offset..].trim();
            let start = before.span.start as usize + before.value.len() - text.len();
            Name { value: text.to_owned(), span: Span::new(self.file, start, start + text.len()) }
        });
        let after = self.words(&after);
        let until = match after.as_slice() {
            [] => None,
            [until, date] if until.value == "until" && is_date(&date.value) => Some(date.clone()),
            [first, ..] => {
                let mend = "write `until 2027-06-30`: year, month and day";
                self.say("sheet/syntax", first.span, "this is no day that a waiver ends on", mend);
                None
            }
        };
        match (check, reason) {
            (Some(check), Some(reason)) => {
                let span = rule.span.to(head.text.span);
                items.push(Item::Waive(WaiveNode { check, cases, reason, until, span }));
            }
            _ => {
                let mend = "write `@waive group/name \"Why it is accepted.\";`";
                self.say("sheet/syntax", rule.span, "a waiver names a check and gives a reason", mend);
            }
        }
    }

    fn part_targets(&mut self, text: &Name, rule: &Name) -> Vec<PartTarget> {
        let targets: Vec<_> = split(text, |c| c == ',').iter().map(part_target).collect();
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
            let mut words = words.iter().peekable();
            while let Some(first) = words.next() {
                let is_negated = first.value == "not";
                let Some(name) = (if is_negated { words.next() } else { Some(first) }) else {
                    self.say("sheet/state", first.span, "`not` names no state", "write `@state not checked { … }`");
                    break;
                };
                let mut of = None;
                if words.next_if(|word| word.value == "of").is_some() {
                    of = words.next().cloned();
                    if of.is_none() {
                        self.say("sheet/state", name.span, "`of` names no part", "write `@state hover of PART`");
                    }
                }
                states.push(StateRef { name: name.clone(), is_negated, of });
                match words.next() {
                    None => break,
                    Some(word) if word.value == "and" => {}
                    Some(word) => {
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
        let span = Span::new(one.span.file, one.span.start as usize + range.start, one.span.start as usize + range.end);
        (!text.is_empty()).then(|| Name { value: text.to_owned(), span })
    };
    let length = one.value.len();
    let pseudo = one.value.find("::").unwrap_or(length);
    let condition = one.value[..pseudo].find(':').unwrap_or(pseudo);
    // The first of several combinators: what is left then has no name that a part could have.
    let combinator = one.value[..condition].find(['+', '~']);
    let after = combinator.and_then(|at| {
        let name = one.value[..at].trim_end();
        Some((cut(0..name.len())?, if one.value[at..].starts_with('+') { '+' } else { '~' }))
    });
    let start = match (&after, combinator) {
        (Some(_), Some(at)) => at + 1 + (one.value[at + 1..].len() - one.value[at + 1..].trim_start().len()),
        _ => 0,
    };
    PartTarget { after, part: cut(start..condition), condition: cut(condition..pseudo), pseudo: cut(pseudo..length) }
}

/// `YYYY-MM-DD` with a month and a day that can be.
fn is_date(text: &str) -> bool {
    let parts: Vec<&str> = text.split('-').collect();
    let number = |i: usize, digits: usize| {
        parts.get(i).filter(|p| p.len() == digits && p.bytes().all(|b| b.is_ascii_digit()))?.parse::<u32>().ok()
    };
    parts.len() == 3
        && number(0, 4).is_some()
        && number(1, 2).is_some_and(|month| (1..=12).contains(&month))
        && number(2, 2).is_some_and(|day| (1..=31).contains(&day))
}
