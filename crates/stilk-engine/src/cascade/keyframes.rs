//! Animations: their names, and what their steps set. The engine computes what holds before and after them.

use cssparser::{Delimiter, ParseError, Parser, Token};

/// An animation.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Keyframes {
    /// Its name.
    pub name: String,
    /// The properties that its steps set, in lower case, each once.
    pub properties: Vec<String>,
}

/// The properties that the steps of an animation set.
pub(super) fn animated(input: &mut Parser) -> Vec<String> {
    let mut properties = Vec::new();
    while let Ok(token) = input.next() {
        if !matches!(token, Token::CurlyBracketBlock) {
            continue;
        }
        let _ = input.parse_nested_block(|step| {
            while let Ok(token) = step.next() {
                if let Token::Ident(name) = token {
                    let name = name.to_ascii_lowercase();
                    if step.try_parse(|step| step.expect_colon()).is_ok() {
                        properties.push(name);
                    }
                }
                let _ = step.parse_until_after(Delimiter::Semicolon, |rest| {
                    while rest.next().is_ok() {}
                    Ok::<_, ParseError<()>>(())
                });
            }
            Ok::<_, ParseError<()>>(())
        });
    }
    properties.sort();
    properties.dedup();
    properties
}

#[cfg(test)]
mod tests {
    use crate::cascade::Stylesheet;

    #[test]
    fn animations_know_what_they_set() {
        let sheet = Stylesheet::parse(
            "@keyframes a { from { TOP: 0; rotate: 1turn } 50%, to { top: calc(1px + 2px); --x: {y: z}; color : red } } \
             @-webkit-keyframes \"b\" { to { opacity: 0 } } a { left: 0 }",
        );
        let known: Vec<(&str, String)> =
            sheet.keyframes.iter().map(|one| (one.name.as_str(), one.properties.join(" "))).collect();
        assert_eq!(known[0], ("a", "--x color rotate top".to_owned()));
        assert_eq!(known[1].1, "opacity");
        assert_eq!(sheet.rules.len(), 1);
    }
}
