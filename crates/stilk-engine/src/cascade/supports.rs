//! `@supports` conditions (CSS Conditional 4).

use super::selector;
use crate::css::parse::has_substitution;
use crate::css::parse_declaration;
use cssparser::{ParseError, Parser, Token};

/// Whether a condition holds: a declaration is supported when the property takes the value.
pub fn supports(parser: &mut Parser) -> bool {
    if parser.try_parse(|p| p.expect_ident_matching("not")).is_ok() {
        return !supports_in_parens(parser);
    }
    let mut answer = supports_in_parens(parser);
    loop {
        if parser.try_parse(|p| p.expect_ident_matching("and")).is_ok() {
            answer &= supports_in_parens(parser);
        } else if parser.try_parse(|p| p.expect_ident_matching("or")).is_ok() {
            answer |= supports_in_parens(parser);
        } else {
            return answer;
        }
    }
}

fn supports_in_parens(parser: &mut Parser) -> bool {
    match parser.next().cloned() {
        Ok(Token::ParenthesisBlock) => {
            let answer = parser.parse_nested_block(|inner| {
                let state = inner.state();
                if let Ok(name) = inner.try_parse(|p| p.expect_ident_cloned())
                    && inner.try_parse(|p| p.expect_colon()).is_ok()
                {
                    inner.skip_whitespace();
                    let start = inner.position();
                    while inner.next_including_whitespace_and_comments().is_ok() {}
                    let text = inner.slice_from(start).trim();
                    let custom = name.starts_with("--") || has_substitution(text);
                    return Ok::<_, ParseError<()>>(custom || parse_declaration(&name, text).is_ok());
                }
                inner.reset(&state);
                let answer = supports(inner);
                while inner.next().is_ok() {}
                Ok(answer)
            });
            answer.unwrap_or(false)
        }
        Ok(Token::Function(name)) => {
            let is_selector = name.eq_ignore_ascii_case("selector");
            let answer = parser.parse_nested_block(|inner| {
                let ok = is_selector && selector::parse(inner).is_ok();
                while inner.next().is_ok() {}
                Ok::<_, ParseError<()>>(ok)
            });
            answer.unwrap_or(false)
        }
        _ => false,
    }
}

/// The condition in `@import … supports(…)`, which may be a declaration alone.
pub fn supports_import(parser: &mut Parser) -> bool {
    let state = parser.state();
    let start = parser.position();
    while parser.next_including_whitespace_and_comments().is_ok() {}
    let text = format!("({})", parser.slice_from(start));
    parser.reset(&state);
    supports(&mut Parser::new(&text)) || supports(parser)
}
