//! Numbers in all their digits: the tokenizer keeps 32 bits of them.

use cssparser::{ParseError, Parser, Token};

/// The next token as a number with its unit, `%` for percentages. The tokenizer keeps 32 bits; the text has all.
pub fn next_number<'i>(parser: &mut Parser<'i>) -> Result<(f64, Option<&'i str>), ParseError<()>> {
    parser.skip_whitespace();
    let start = parser.position();
    let is_number = matches!(parser.next()?, Token::Number { .. } | Token::Percentage { .. } | Token::Dimension { .. });
    if !is_number {
        return Err(ParseError::unexpected_token());
    }
    let text = parser.slice_from(start);
    let end = number_end(text);
    let number = text[..end].parse().map_err(|_| ParseError::unexpected_token())?;
    Ok((number, Some(&text[end..]).filter(|unit| !unit.is_empty())))
}

/// Where the number ends in a numeric token (CSS Syntax 3, section 4.3.12).
fn number_end(text: &str) -> usize {
    let bytes = text.as_bytes();
    let digits = |mut i: usize| {
        while bytes.get(i).is_some_and(u8::is_ascii_digit) {
            i += 1;
        }
        i
    };
    let mut end = digits(usize::from(text.starts_with(['+', '-'])));
    if bytes.get(end) == Some(&b'.') && bytes.get(end + 1).is_some_and(u8::is_ascii_digit) {
        end = digits(end + 1);
    }
    if matches!(bytes.get(end), Some(b'e' | b'E')) {
        let sign = usize::from(matches!(bytes.get(end + 1), Some(b'+' | b'-')));
        if bytes.get(end + 1 + sign).is_some_and(u8::is_ascii_digit) {
            end = digits(end + 1 + sign);
        }
    }
    end
}
