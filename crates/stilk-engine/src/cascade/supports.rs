//! `@supports` conditions (CSS Conditional 4), in the browser that styles are computed for or in one that lacks something.

use super::selector::{self, Beginning, Namespaces};
use crate::css::parse::has_substitution;
use crate::css::{PropertyName, parse_declaration};
use cssparser::{ParseError, Parser, Token};

/// What a condition asks a browser for.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub enum SupportsTest {
    /// That a property takes a value: its name in lower case, and the value.
    Declaration(String, String),
    /// That a selector can be read.
    Selector(String),
}

/// What every browser reads that is in use: who asks for it has an answer, and no browser drops a rule for it.
const EVERYWHERE: [&str; 6] = ["focus-visible", "focus-within", "has", "is", "not", "where"];

/// What Chromium 156 answers yes to in `font-tech()`.
const FONT_TECHS: [&str; 8] = [
    "features-opentype",
    "features-aat",
    "color-colrv0",
    "color-colrv1",
    "color-sbix",
    "color-cbdt",
    "variations",
    "palettes",
];

/// The same in `font-format()`.
const FONT_FORMATS: [&str; 5] = ["woff2", "woff", "opentype", "truetype", "collection"];

/// The same in `at-rule()` (CSS Conditional 5).
const AT_RULES: [&str; 19] = [
    "@import",
    "@namespace",
    "@media",
    "@supports",
    "@layer",
    "@container",
    "@scope",
    "@starting-style",
    "@property",
    "@font-face",
    "@keyframes",
    "@-webkit-keyframes",
    "@page",
    "@counter-style",
    "@font-feature-values",
    "@font-palette-values",
    "@position-try",
    "@view-transition",
    "@function",
];

impl std::fmt::Display for SupportsTest {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            SupportsTest::Declaration(name, value) => write!(f, "`{name}: {value}`"),
            SupportsTest::Selector(text) => write!(f, "`{text}`"),
        }
    }
}

impl SupportsTest {
    /// Whether a browser that lacks this drops a declaration: one with the same function, of whatever property, or one of the
    /// property with the same word.
    pub(super) fn drops(&self, name: &str, value: &str) -> bool {
        let SupportsTest::Declaration(property, lacking) = self else { return false };
        let (functions, words) = parts(lacking);
        if !functions.is_empty() {
            let has = parts(value).0;
            return functions.iter().all(|function| has.contains(function));
        }
        let has = parts(value).1;
        name.eq_ignore_ascii_case(property) && (words.is_empty() || words.iter().any(|word| has.contains(word)))
    }

    /// Whether a browser that lacks this cannot read a selector: it has the pseudo-classes and pseudo-elements of the test.
    pub(super) fn cannot_read(&self, selector: &str) -> bool {
        let SupportsTest::Selector(lacking) = self else { return false };
        let mut names = pseudo_names(lacking);
        names.retain(|name| !EVERYWHERE.contains(&name.as_str()));
        let has = pseudo_names(selector);
        !names.is_empty() && names.iter().all(|name| has.contains(name))
    }
}

/// The names of functions in a value, and its other words; numbers have none.
fn parts(value: &str) -> (Vec<String>, Vec<String>) {
    let (mut functions, mut words) = (Vec::new(), Vec::new());
    collect(&mut Parser::new(value), &mut functions, &mut words);
    (functions, words)
}

fn collect(parser: &mut Parser, functions: &mut Vec<String>, words: &mut Vec<String>) {
    while let Ok(token) = parser.next().cloned() {
        match &token {
            Token::Ident(word) => words.push(word.to_ascii_lowercase()),
            // Every browser has had these for years, and none of them says what is tested.
            Token::Function(name) if !["var", "calc", "url"].iter().any(|known| name.eq_ignore_ascii_case(known)) => {
                functions.push(name.to_ascii_lowercase());
            }
            _ => {}
        }
        if matches!(token, Token::Function(_) | Token::ParenthesisBlock) {
            let _ = parser.parse_nested_block(|inner| {
                collect(inner, functions, words);
                Ok::<_, ParseError<()>>(())
            });
        }
    }
}

fn pseudo_names(selector: &str) -> Vec<String> {
    let is_name = |c: &char| c.is_alphanumeric() || *c == '-';
    let names = selector.split(':').skip(1).map(|after| after.chars().take_while(is_name).collect::<String>());
    names.filter(|name| !name.is_empty()).map(|name| name.to_ascii_lowercase()).collect()
}

/// A browser that conditions are asked of.
#[derive(Default)]
pub(super) struct Asked<'t> {
    /// What it lacks.
    pub without: &'t [SupportsTest],
    /// What was asked for, and is had.
    pub had: Vec<SupportsTest>,
}

impl Asked<'_> {
    fn answer(&mut self, test: SupportsTest, is_known: bool) -> bool {
        if self.without.contains(&test) {
            return false;
        }
        if is_known && !self.had.contains(&test) {
            self.had.push(test);
        }
        is_known
    }

    /// Whether a condition holds: a declaration is supported when the property takes the value.
    pub fn supports(&mut self, parser: &mut Parser) -> bool {
        if parser.try_parse(|p| p.expect_ident_matching("not")).is_ok() {
            return !self.in_parens(parser);
        }
        let mut answer = self.in_parens(parser);
        loop {
            if parser.try_parse(|p| p.expect_ident_matching("and")).is_ok() {
                answer &= self.in_parens(parser);
            } else if parser.try_parse(|p| p.expect_ident_matching("or")).is_ok() {
                answer |= self.in_parens(parser);
            } else {
                return answer;
            }
        }
    }

    fn in_parens(&mut self, parser: &mut Parser) -> bool {
        match parser.next().cloned() {
            Ok(Token::ParenthesisBlock) => {
                let answer = parser.parse_nested_block(|inner| {
                    let state = inner.state();
                    if let Ok(name) = inner.try_parse(|p| p.expect_ident_cloned())
                        && inner.try_parse(|p| p.expect_colon()).is_ok()
                    {
                        let text = rest(inner);
                        let custom = name.starts_with("--") || has_substitution(text);
                        // Properties of one vendor are read for all of them, and had by the browser that has them.
                        let is_had = custom || PropertyName::is_of_chromium(&name.to_ascii_lowercase());
                        let is_known = is_had && (custom || parse_declaration(&name, text).is_ok());
                        let test = SupportsTest::Declaration(name.to_ascii_lowercase(), text.to_owned());
                        return Ok::<_, ParseError<()>>(self.answer(test, is_known));
                    }
                    inner.reset(&state);
                    let answer = self.supports(inner);
                    while inner.next().is_ok() {}
                    Ok(answer)
                });
                answer.unwrap_or(false)
            }
            Ok(Token::Function(name)) => {
                let asks = |function: &str| name.eq_ignore_ascii_case(function);
                let named = [("font-tech", &FONT_TECHS[..]), ("font-format", &FONT_FORMATS), ("at-rule", &AT_RULES)];
                if let Some((_, known)) = named.into_iter().find(|(function, _)| asks(function)) {
                    let text = parser.parse_nested_block(|inner| Ok::<_, ParseError<()>>(rest(inner).to_owned()));
                    return text.is_ok_and(|text| known.iter().any(|known| text.eq_ignore_ascii_case(known)));
                }
                let is_selector = asks("selector");
                let answer = parser.parse_nested_block(|inner| {
                    let state = inner.state();
                    let is_known =
                        is_selector && selector::parse(inner, Beginning::Plain, &Namespaces::default()).is_ok();
                    inner.reset(&state);
                    let test = SupportsTest::Selector(rest(inner).to_owned());
                    Ok::<_, ParseError<()>>(self.answer(test, is_known))
                });
                answer.unwrap_or(false)
            }
            _ => false,
        }
    }

    /// The condition in `@import … supports(…)`, which may be a declaration alone.
    pub fn supports_import(&mut self, parser: &mut Parser) -> bool {
        let state = parser.state();
        let start = parser.position();
        while parser.next_including_whitespace_and_comments().is_ok() {}
        let text = format!("({})", parser.slice_from(start));
        parser.reset(&state);
        self.supports(&mut Parser::new(&text)) || self.supports(parser)
    }
}

/// Everything that is left, trimmed.
fn rest<'i>(parser: &mut Parser<'i>) -> &'i str {
    parser.skip_whitespace();
    let start = parser.position();
    while parser.next_including_whitespace_and_comments().is_ok() {}
    parser.slice_from(start).trim()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_browser_that_lacks_something_drops_what_has_it() {
        let lacks = |name: &str, value: &str| SupportsTest::Declaration(name.into(), value.into());
        for (test, name, value, is_dropped) in [
            (lacks("appearance", "base-select"), "appearance", "base-select", true),
            (lacks("appearance", "base-select"), "appearance", "none", false),
            (lacks("display", "grid"), "display", "inline-grid", false),
            (lacks("color", "oklch(0 0 0)"), "background", "linear-gradient(oklch(1 0 0), red)", true),
            (lacks("color", "oklch(0 0 0)"), "color", "red", false),
            (lacks("width", "calc(1px + 1px)"), "color", "red", false),
        ] {
            assert_eq!(test.drops(name, value), is_dropped, "{test}: {name}: {value}");
        }
        let test = SupportsTest::Selector("a::picker(select)".into());
        assert!(test.cannot_read("select::picker(select)"));
        assert!(!test.cannot_read("select::before"));
        assert!(!SupportsTest::Selector(":has(a)".into()).cannot_read("form:has(:invalid) b"));
    }
}
