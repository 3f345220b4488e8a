//! Rules that hold nothing but descriptors or a table: `@font-face`, `@property`, `@attach`.

use super::super::*;
use super::{Head, SheetReader, split};
use cssparser::{Parser, Token};

impl SheetReader<'_> {
    /// The descriptors in a rule's block; anything else there is reported.
    pub(super) fn descriptors(&mut self, parser: &mut Parser, head: &Head, rule: &Name) -> Vec<Declaration> {
        let mut descriptors = Vec::new();
        for item in self.body(parser, head, rule, 1) {
            match item {
                Item::Declaration(declaration) => descriptors.push(declaration),
                _ => {
                    let message = format!("`@{}` holds descriptors only", rule.value);
                    self.say("sheet/syntax", rule.span, message, "write `name: value;` in it and nothing else");
                }
            }
        }
        descriptors
    }

    /// `@property --name { … }`
    pub(super) fn property(&mut self, rule: &Name, parser: &mut Parser) -> Option<DescriptorsNode> {
        let head = self.head(parser);
        let descriptors = self.descriptors(parser, &head, rule);
        match self.words(&head.text).as_slice() {
            [name] if name.value.starts_with("--") => Some(DescriptorsNode { name: name.clone(), descriptors }),
            _ => {
                let mend = "write `@property --name { syntax: \"<number>\"; inherits: true; initial-value: 0; }`";
                self.say("sheet/syntax", rule.span, "`@property` names one custom property", mend);
                None
            }
        }
    }

    /// `@attach (SELECTOR) as CONTROL OPTION… { PART: SELECTOR; }`
    pub(super) fn attach(&mut self, rule: &Name, parser: &mut Parser) {
        const MEND: &str = "write `@attach (.list > a) as CONTROL OPTION { PART: span; }`";
        let head = self.head(parser);
        let text = &head.text;
        let close = closing_bracket(&text.value);
        let mut parts = Vec::new();
        if head.has_block {
            let _ = parser.next();
            let _ = parser.parse_nested_block(|inner| {
                self.attached_parts(inner, &mut parts);
                Ok::<_, cssparser::ParseError<()>>(())
            });
        } else {
            let _ = parser.next();
        }
        let Some(close) = close else {
            self.say("sheet/attach", rule.span, "`@attach` begins with a selector in brackets", MEND);
            return;
        };
        let cut = |range: std::ops::Range<usize>| {
            let start = text.span.start as usize + range.start;
            Name { value: text.value[range.clone()].to_owned(), span: Span::new(self.file, start, start + range.len()) }
        };
        let selector = split(&cut(1..close), |_| false).into_iter().next();
        let words = self.words(&cut(close + 1..text.value.len()));
        match (selector, words.as_slice()) {
            (Some(selector), [word, control, options @ ..]) if word.value == "as" => {
                let span = rule.span.to(text.span);
                let (control, options) = (control.clone(), options.to_vec());
                self.sheet.attachments.push(AttachNode { selector, control, options, parts, span });
            }
            _ => self.say("sheet/attach", rule.span, "this does not say what is attached to which control", MEND),
        }
    }

    /// `PART: SELECTOR;`
    fn attached_parts(&mut self, parser: &mut Parser, parts: &mut Vec<(Name, Name)>) {
        loop {
            parser.skip_whitespace();
            let start = parser.position().byte_index();
            while let Ok(token) = parser.next_including_whitespace_and_comments() {
                if *token == Token::Semicolon {
                    break;
                }
            }
            let end = parser.position().byte_index();
            let text = self.source[start..end].trim_end_matches(|c: char| c == ';' || c.is_whitespace());
            if text.is_empty() {
                if parser.is_exhausted() {
                    return;
                }
                continue;
            }
            let whole = Name { value: text.to_owned(), span: Span::new(self.file, start, start + text.len()) };
            let colon = text.find(':').unwrap_or(text.len());
            let left = split(&Name { value: text[..colon].to_owned(), ..whole.clone() }, |_| false);
            let right = Name {
                value: text.get(colon + 1..).unwrap_or_default().to_owned(),
                span: Span::new(self.file, (start + colon + 1).min(start + text.len()), start + text.len()),
            };
            match (left.into_iter().next(), split(&right, |_| false).into_iter().next()) {
                (Some(part), Some(selector)) => parts.push((part, selector)),
                _ => {
                    self.say("sheet/attach", whole.span, "this names no part and what it is", "write `PART: SELECTOR;`")
                }
            }
        }
    }
}

/// Where the bracket that the text begins with is closed.
fn closing_bracket(text: &str) -> Option<usize> {
    let mut depth = 0;
    let mut quote = None;
    for (i, c) in text.char_indices() {
        match (quote, c) {
            (Some(q), _) if c == q => quote = None,
            (Some(_), _) => {}
            (None, '"' | '\'') => quote = Some(c),
            (None, '(') => depth += 1,
            (None, ')') => {
                depth -= 1;
                if depth == 0 {
                    return Some(i);
                }
            }
            (None, _) if i == 0 => return None,
            _ => {}
        }
    }
    None
}
