//! Custom properties with a type: `@property` (CSS Properties and Values API 1, section 2).

use cssparser::{Parser, Token};
use std::sync::Arc;

/// A custom property with a type: `@property` (CSS Properties and Values API 1, section 2).
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Registered {
    /// Its name, with dashes.
    pub name: Arc<str>,
    /// What its value may be, without quotes.
    pub syntax: String,
    /// Whether it inherits.
    pub inherits: bool,
    /// Its initial value.
    pub initial: Option<String>,
}

/// The descriptors of `@property`; nothing where one that is needed is missing.
pub(super) fn registered(name: &str, input: &mut Parser) -> Option<Registered> {
    let mut found: [Option<String>; 3] = [None, None, None];
    while let Ok(descriptor) = input.try_parse(|p| p.expect_ident_cloned()) {
        input.expect_colon().ok()?;
        input.skip_whitespace();
        let start = input.position();
        let mut end = start;
        while let Ok(token) = input.next_including_whitespace_and_comments() {
            if *token == Token::Semicolon {
                break;
            }
            end = input.position();
        }
        let text = input.slice(start..end).trim().to_owned();
        let index =
            ["syntax", "inherits", "initial-value"].iter().position(|known| descriptor.eq_ignore_ascii_case(known));
        if let Some(index) = index {
            found[index] = Some(text);
        }
    }
    let [syntax, inherits, initial] = found;
    let syntax = syntax?.trim_matches(['"', '\'']).to_owned();
    let inherits = inherits? == "true";
    (initial.is_some() || syntax == "*").then(|| Registered { name: name.into(), syntax, inherits, initial })
}
