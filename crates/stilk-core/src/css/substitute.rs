//! `var()` substitution (CSS Variables 1, section 3).

use cssparser::{ParseError, Parser, Token};

/// Substitution may not blow a value up without bound.
const MAX_LENGTH: usize = 1 << 20;

/// Replaces every `var()` in a text. `lookup` gives a custom property's value, `None` for the guaranteed-invalid value.
/// Returns `None` when a `var()` has neither a value nor a fallback: the declaration is then invalid at
/// computed-value time.
pub fn substitute(text: &str, lookup: &mut dyn FnMut(&str) -> Option<String>) -> Option<String> {
    if !super::parse::has_substitution(text) {
        return Some(text.to_owned());
    }
    let mut out = String::new();
    let mut parser = Parser::new(text);
    walk(&mut parser, &mut out, lookup)?;
    Some(out)
}

fn walk(parser: &mut Parser, out: &mut String, lookup: &mut dyn FnMut(&str) -> Option<String>) -> Option<()> {
    loop {
        let start = parser.position();
        let token = match parser.next_including_whitespace_and_comments() {
            Ok(token) => token.clone(),
            Err(_) => return Some(()),
        };
        let close = match &token {
            Token::Function(name) if name.eq_ignore_ascii_case("var") => {
                let value = parser
                    .parse_nested_block(|inner| variable(inner, lookup).ok_or_else(ParseError::<()>::unexpected_token));
                out.push_str(&value.ok()?);
                if out.len() > MAX_LENGTH {
                    return None;
                }
                continue;
            }
            Token::Function(_) | Token::ParenthesisBlock => ")",
            Token::SquareBracketBlock => "]",
            Token::CurlyBracketBlock => "}",
            _ => {
                out.push_str(parser.slice_from(start));
                continue;
            }
        };
        out.push_str(parser.slice_from(start));
        let inner =
            parser.parse_nested_block(|inner| walk(inner, out, lookup).ok_or_else(ParseError::<()>::unexpected_token));
        inner.ok()?;
        out.push_str(close);
    }
}

/// The arguments of a `var()`.
fn variable(parser: &mut Parser, lookup: &mut dyn FnMut(&str) -> Option<String>) -> Option<String> {
    let name = parser.expect_ident_cloned().ok()?;
    let has_fallback = parser.try_parse(|p| p.expect_comma()).is_ok();
    let start = parser.position();
    while parser.next_including_whitespace_and_comments().is_ok() {}
    let fallback = parser.slice_from(start).to_owned();
    match lookup(&name) {
        Some(value) => Some(value),
        None if has_fallback => substitute(fallback.trim(), lookup),
        None => None,
    }
}

/// The custom properties that a text refers to, those in fallbacks included, in order.
pub fn references(text: &str) -> Vec<String> {
    let mut names = Vec::new();
    if super::parse::has_substitution(text) {
        gather(&mut Parser::new(text), &mut names);
    }
    names
}

fn gather(parser: &mut Parser, names: &mut Vec<String>) {
    while let Ok(token) = parser.next() {
        let is_variable = match token {
            Token::Function(name) => name.eq_ignore_ascii_case("var"),
            Token::ParenthesisBlock | Token::SquareBracketBlock | Token::CurlyBracketBlock => false,
            _ => continue,
        };
        let _ = parser.parse_nested_block(|inner| {
            if is_variable && let Ok(name) = inner.expect_ident_cloned() {
                names.push(name.to_string());
            }
            gather(inner, names);
            Ok::<_, ParseError<()>>(())
        });
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn references_are_found_wherever_they_stand() {
        assert_eq!(references("f(var(--a), [var(--b, var(--c))]) var(--d)"), ["--a", "--b", "--c", "--d"]);
    }

    #[test]
    fn fallbacks_chain_and_an_empty_value_is_a_value() {
        let mut lookup = |name: &str| match name {
            "--a" => Some("red".to_owned()),
            "--empty" => Some(String::new()),
            _ => None,
        };
        for (text, expected) in [
            ("var(--a)", Some("red")),
            ("1px var(--b, var(--c, var(--a))) x", Some("1px red x")),
            ("[var(--empty,no)]", Some("[]")),
            ("calc(var(--b) * 2)", None),
            ("var(--b,)", Some("")),
        ] {
            assert_eq!(substitute(text, &mut lookup).as_deref(), expected, "{text}");
        }
    }
}
