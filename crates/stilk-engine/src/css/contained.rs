//! Whether a text may stand anywhere in a stylesheet without changing what is around it.

use cssparser::{ParseError, Parser, Token};

/// Whether a text keeps to itself wherever a prelude or a value may stand (CSS Syntax 3, sections 5.4 and 9): what it opens it
/// closes, and it holds nothing that ends what it stands in: no `;`, no braces, no broken string or address, no comment marks
/// of HTML.
pub fn is_contained(text: &str) -> bool {
    // What is left open at the end, be it a string, a comment or an escape, swallows a word that follows.
    const END: &str = "stilk-end";
    let followed = format!("{text} {END}");
    let mut parser = Parser::new(&followed);
    let mut last_is_end = false;
    let is_plain =
        tokens(&mut parser, 0, &mut |token| last_is_end = matches!(token, Token::Ident(name) if **name == *END));
    is_plain && last_is_end
}

/// Nobody nests so deep.
const MAX_DEPTH: usize = 64;

fn tokens(parser: &mut Parser, depth: usize, last: &mut dyn FnMut(&Token)) -> bool {
    if depth > MAX_DEPTH {
        return false;
    }
    while let Ok(token) = parser.next_including_whitespace_and_comments() {
        let token = token.clone();
        match &token {
            Token::Semicolon
            | Token::CurlyBracketBlock
            | Token::BadUrl(_)
            | Token::BadString(_)
            | Token::CloseParenthesis
            | Token::CloseSquareBracket
            | Token::CloseCurlyBracket
            | Token::CDO
            | Token::CDC => return false,
            Token::Function(_) | Token::ParenthesisBlock | Token::SquareBracketBlock => {
                let inner = parser.parse_nested_block(|inner| -> Result<bool, ParseError<()>> {
                    Ok(tokens(inner, depth + 1, &mut |_| {}))
                });
                if inner != Ok(true) {
                    return false;
                }
            }
            _ => {}
        }
        if !matches!(token, Token::WhiteSpace(_) | Token::Comment(_)) {
            last(&token);
        }
    }
    true
}

/// Whether a text is a name as people write them: letters, digits, `-` and `_`, of a length that somebody would type.
pub fn is_plain_name(text: &str) -> bool {
    !text.is_empty()
        && text.chars().count() <= MAX_NAME
        && text.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_'))
}

/// Characters of a name.
pub const MAX_NAME: usize = 128;

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_ends_what_is_around_it_is_not_contained() {
        for text in [
            "(a: b)",
            "screen and (width < 40em)",
            "[x=\"}\"]",
            ":is(a, b) > c",
            "url(a.b)",
            "",
            "a /* b */ c",
            "\"\\\"\"",
        ] {
            assert!(is_contained(text), "{text}");
        }
        for text in [
            "(a",
            "a)",
            "a;",
            "a {} b",
            "(a {})",
            "\"a",
            "a /* b",
            "a\\",
            "url(a b",
            "url(a\"b)",
            "<!-- a",
            "a -->",
            "]",
            "}",
            "\"a\nb\"",
            "(a))(",
        ] {
            assert!(!is_contained(text), "{text}");
        }
    }
}
