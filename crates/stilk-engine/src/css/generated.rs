//! Generated content: texts and quotes (CSS Generated Content 3).

use super::primitive::{ValueResult, keyword, skip, word_or, wrong};
use super::value::Value;
use cssparser::{Parser, Token};

/// `content`: strings, and what is not modelled; what is read out in their place after a slash.
pub(super) fn content(parser: &mut Parser) -> ValueResult {
    if let Ok(value) = parser.try_parse(|p| keyword(p, &["normal", "none"])) {
        return Ok(value);
    }
    let mut strings = Vec::new();
    loop {
        let state = parser.state();
        match parser.next().cloned() {
            Ok(Token::QuotedString(text)) => match strings.last_mut() {
                // Strings side by side are one.
                Some(Value::String(last)) => *last = format!("{last}{text}").into(),
                _ => strings.push(Value::String(text.to_string().into())),
            },
            Ok(Token::Function(_)) => {
                skip(parser)?;
                strings.push(Value::Unmodelled);
            }
            Ok(Token::Ident(word)) if word.to_ascii_lowercase().ends_with("-quote") => strings.push(Value::Unmodelled),
            Ok(Token::UnquotedUrl(_)) => strings.push(Value::Unmodelled),
            // What is read out in its place follows (CSS Generated Content 3, section 1.2).
            Ok(Token::Delim('/')) if !strings.is_empty() => strings.push(Value::Keyword("/")),
            _ => {
                parser.reset(&state);
                return if strings.is_empty() { wrong() } else { Ok(Value::Words(strings)) };
            }
        }
    }
}

/// Pairs of strings (CSS Generated Content 3, section 3.2.2).
pub(super) fn quotes(parser: &mut Parser) -> ValueResult {
    word_or(parser, &["auto", "none"], |p| {
        let mut strings = vec![p.expect_string_cloned()?];
        while let Ok(next) = p.try_parse(|p| p.expect_string_cloned()) {
            strings.push(next);
        }
        match strings.len().is_multiple_of(2) {
            true => Ok(Value::Words(strings.iter().map(|text| Value::String(text.to_string().into())).collect())),
            false => wrong(),
        }
    })
}
