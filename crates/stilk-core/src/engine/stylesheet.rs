//! CSS text as rules: layers, conditions, selectors, declarations, with the place of each declaration in the text.

use super::media::{self, MediaList};
use super::selector::{self, One, PseudoElement};
use crate::css::parse::{ParsedDeclaration, has_substitution};
use crate::css::parse_declaration;
use cssparser::{
    AtRuleParser, CowRcStr, DeclarationParser, ParseError, Parser, ParserState, QualifiedRuleParser,
    RuleBodyItemParser, RuleBodyParser, StyleSheetParser, Token,
};
use std::sync::Arc;

/// A parsed stylesheet.
#[derive(Debug, Default)]
pub struct Stylesheet {
    /// Its style rules, one entry per selector, in order.
    pub rules: Vec<StyleRule>,
    /// Its cascade layers.
    pub layers: Layers,
    /// Names of the animations it defines.
    pub keyframes: Vec<String>,
    /// Custom properties with a type, in order.
    pub registered: Vec<Registered>,
}

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

/// One selector and its declarations.
#[derive(Debug)]
pub struct StyleRule {
    /// The selector.
    pub selector: One,
    /// The pseudo-element it styles, if any.
    pub pseudo: Option<PseudoElement>,
    /// The declarations, shared by the selectors of a list.
    pub declarations: Arc<[Declaration]>,
    /// The layer; `None` outside of layers.
    pub layer: Option<LayerId>,
    /// Conditions that must all hold.
    pub conditions: Arc<[Condition]>,
}

/// A condition of an enclosing at-rule.
#[derive(Debug, Clone)]
pub enum Condition {
    /// `@media`
    Media(MediaList),
    /// Something that cannot be decided here.
    Unknown(&'static str),
}

/// A declaration of a rule.
#[derive(Debug, Clone)]
pub struct Declaration {
    /// What it sets.
    pub body: DeclarationBody,
    /// Whether it is `!important`.
    pub important: bool,
    /// Byte offset of its name in the text.
    pub offset: u32,
}

/// What a declaration sets.
#[derive(Debug, Clone)]
pub enum DeclarationBody {
    /// A property.
    Property(ParsedDeclaration),
    /// A custom property and its text.
    Custom(Arc<str>, Arc<str>),
}

/// Index of a layer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct LayerId(u32);

/// The tree of cascade layers (CSS Cascade 5, section 6.4).
#[derive(Debug, Default)]
pub struct Layers {
    list: Vec<Layer>,
}

#[derive(Debug)]
struct Layer {
    name: Option<String>,
    parent: Option<LayerId>,
}

impl Layers {
    /// The layer with a dotted name inside another, made if it is new.
    fn enter(&mut self, parent: Option<LayerId>, name: &str) -> LayerId {
        let mut at = parent;
        for part in name.split('.') {
            let found = self.list.iter().position(|l| l.parent == at && l.name.as_deref() == Some(part));
            let index = found.unwrap_or_else(|| {
                self.list.push(Layer { name: Some(part.to_owned()), parent: at });
                self.list.len() - 1
            });
            at = Some(LayerId(index as u32));
        }
        at.unwrap_or(LayerId(0))
    }

    fn anonymous(&mut self, parent: Option<LayerId>) -> LayerId {
        self.list.push(Layer { name: None, parent });
        LayerId(self.list.len() as u32 - 1)
    }

    /// The rank of every layer, lowest first: a layer's own rules come after those of the layers inside it.
    pub fn ranks(&self) -> Vec<u32> {
        let mut ranks = vec![0; self.list.len()];
        let mut next = 0;
        self.rank(None, &mut ranks, &mut next);
        ranks
    }

    fn rank(&self, parent: Option<LayerId>, ranks: &mut [u32], next: &mut u32) {
        for i in 0..self.list.len() {
            if self.list[i].parent == parent {
                let id = LayerId(i as u32);
                self.rank(Some(id), ranks, next);
                ranks[i] = *next;
                *next += 1;
            }
        }
    }

    /// A layer's full name; `?` for anonymous ones.
    pub fn name(&self, id: LayerId) -> String {
        let layer = &self.list[id.0 as usize];
        let own = layer.name.as_deref().unwrap_or("?");
        match layer.parent {
            Some(parent) => format!("{}.{own}", self.name(parent)),
            None => own.to_owned(),
        }
    }
}

impl LayerId {
    /// Index into [`Layers::ranks`].
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

impl Stylesheet {
    /// Parses a stylesheet. Like browsers, it drops what it cannot read and goes on.
    pub fn parse(text: &str) -> Stylesheet {
        let mut sheet = Stylesheet::default();
        let mut reader = Reader { sheet: &mut sheet, layer: None, conditions: Vec::new(), dead: false };
        let mut parser = Parser::new(text);
        for _ in StyleSheetParser::new(&mut parser, &mut reader) {}
        sheet
    }
}

/// Parses the text of a `style` attribute.
pub fn parse_inline(text: &str) -> Arc<[Declaration]> {
    let mut parser = Parser::new(text);
    declarations(&mut parser).into()
}

struct Reader<'s> {
    sheet: &'s mut Stylesheet,
    layer: Option<LayerId>,
    conditions: Vec<Condition>,
    /// Inside a condition that never holds.
    dead: bool,
}

enum Prelude {
    Media(MediaList),
    /// `@supports`, decided at once.
    Supports(bool),
    Layer(Vec<String>),
    Unknown(&'static str),
    Keyframes(String),
    Property(String),
    Ignored,
}

impl<'i> AtRuleParser<'i> for Reader<'_> {
    type Prelude = Prelude;
    type AtRule = ();
    type Error = ();

    fn parse_prelude(&mut self, name: CowRcStr<'i>, input: &mut Parser<'i>) -> Result<Prelude, ParseError<()>> {
        input.skip_whitespace();
        let start = input.position();
        if name.eq_ignore_ascii_case("supports") {
            let answer = supports(input);
            while input.next().is_ok() {}
            return Ok(Prelude::Supports(answer));
        }
        while input.next_including_whitespace_and_comments().is_ok() {}
        let text = input.slice_from(start).trim();
        Ok(match name.to_ascii_lowercase().as_str() {
            "media" => Prelude::Media(media::parse_list(text).ok_or_else(ParseError::unexpected_token)?),
            "layer" => {
                let names = text.split(',').map(|name| name.trim().to_owned()).filter(|name| !name.is_empty());
                Prelude::Layer(names.collect())
            }
            "container" => Prelude::Unknown("a container query needs a layout"),
            "scope" | "starting-style" => Prelude::Unknown("the at-rule around it is not computed yet"),
            "keyframes" | "-webkit-keyframes" => Prelude::Keyframes(text.to_owned()),
            "property" if text.starts_with("--") => Prelude::Property(text.to_owned()),
            _ => Prelude::Ignored,
        })
    }

    fn rule_without_block(&mut self, prelude: Prelude, _start: &ParserState) -> Result<(), ()> {
        if let Prelude::Layer(names) = prelude {
            for name in names {
                self.sheet.layers.enter(self.layer, &name);
            }
        }
        Ok(())
    }

    fn parse_block(
        &mut self,
        prelude: Prelude,
        _start: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<()>> {
        let (layer, depth, dead) = (self.layer, self.conditions.len(), self.dead);
        match prelude {
            Prelude::Media(list) => self.conditions.push(Condition::Media(list)),
            Prelude::Supports(answer) => self.dead |= !answer,
            Prelude::Unknown(reason) => self.conditions.push(Condition::Unknown(reason)),
            Prelude::Layer(names) => {
                self.layer = Some(match names.first() {
                    Some(name) => self.sheet.layers.enter(self.layer, name),
                    None => self.sheet.layers.anonymous(self.layer),
                });
            }
            Prelude::Keyframes(name) => {
                self.sheet.keyframes.push(name);
                return Ok(());
            }
            Prelude::Property(name) => {
                if !self.dead {
                    self.sheet.registered.extend(registered(&name, input));
                }
                return Ok(());
            }
            Prelude::Ignored => return Ok(()),
        }
        for _ in StyleSheetParser::new(input, self) {}
        self.layer = layer;
        self.conditions.truncate(depth);
        self.dead = dead;
        Ok(())
    }
}

impl<'i> QualifiedRuleParser<'i> for Reader<'_> {
    type Prelude = selector::List;
    type QualifiedRule = ();
    type Error = ();

    fn parse_prelude(&mut self, input: &mut Parser<'i>) -> Result<selector::List, ParseError<()>> {
        selector::parse(input)
    }

    fn parse_block(
        &mut self,
        list: selector::List,
        _start: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<()>> {
        let declarations: Arc<[Declaration]> = declarations(input).into();
        if self.dead {
            return Ok(());
        }
        let conditions: Arc<[Condition]> = self.conditions.clone().into();
        for selector in list.slice() {
            self.sheet.rules.push(StyleRule {
                pseudo: selector.pseudo_element().cloned(),
                selector: selector.clone(),
                declarations: Arc::clone(&declarations),
                layer: self.layer,
                conditions: Arc::clone(&conditions),
            });
        }
        Ok(())
    }
}

/// The descriptors of `@property`; nothing where one that is needed is missing.
fn registered(name: &str, input: &mut Parser) -> Option<Registered> {
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

fn declarations(input: &mut Parser) -> Vec<Declaration> {
    // A declaration that cannot be read is dropped alone.
    RuleBodyParser::new(input, &mut BodyReader).flatten().collect()
}

struct BodyReader;

impl<'i> DeclarationParser<'i> for BodyReader {
    type Declaration = Declaration;
    type Error = ();

    fn parse_value(
        &mut self,
        name: CowRcStr<'i>,
        input: &mut Parser<'i>,
        start: &ParserState,
    ) -> Result<Declaration, ParseError<()>> {
        input.skip_whitespace();
        let from = input.position();
        let mut bang = None;
        loop {
            let at = input.position();
            match input.next_including_whitespace_and_comments() {
                Ok(Token::Delim('!')) => bang = Some(at),
                Ok(Token::BadString(_) | Token::BadUrl(_)) => return Err(ParseError::unexpected_token()),
                Ok(_) => {}
                Err(_) => break,
            }
        }
        let mut text = input.slice_from(from);
        let mut important = false;
        if let Some(bang) = bang {
            if !input.slice_from(bang)[1..].trim().eq_ignore_ascii_case("important") {
                return Err(ParseError::unexpected_token());
            }
            important = true;
            text = &text[..bang.byte_index() - from.byte_index()];
        }
        let offset = start.position().byte_index() as u32;
        let text = text.trim();
        let body = if name.starts_with("--") {
            DeclarationBody::Custom((&*name).into(), text.into())
        } else {
            let parsed = parse_declaration(&name, text).map_err(|_| ParseError::unexpected_token())?;
            DeclarationBody::Property(parsed)
        };
        Ok(Declaration { body, important, offset })
    }
}

impl<'i> AtRuleParser<'i> for BodyReader {
    type Prelude = ();
    type AtRule = Declaration;
    type Error = ();
}

impl<'i> QualifiedRuleParser<'i> for BodyReader {
    type Prelude = ();
    type QualifiedRule = Declaration;
    type Error = ();
}

impl RuleBodyItemParser<'_, Declaration, ()> for BodyReader {
    fn parse_declarations(&self) -> bool {
        true
    }

    fn parse_qualified(&self) -> bool {
        false
    }
}

/// `@supports` conditions (CSS Conditional 4): a declaration is supported when the property takes the value.
fn supports(parser: &mut Parser) -> bool {
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn layers_rank_by_first_mention_and_outer_rules_come_last() {
        let sheet = Stylesheet::parse(
            "@layer b { @layer x { a { top: 0 } } a { top: 0 } } @layer a, b.y; @layer b.y { a { top: 0 } }",
        );
        let ranks = sheet.layers.ranks();
        let rank = |i: usize| ranks[sheet.rules[i].layer.unwrap().index()];
        // b.x < b.y < b itself
        assert!(rank(0) < rank(2) && rank(2) < rank(1));
        assert_eq!(sheet.layers.name(sheet.rules[2].layer.unwrap()), "b.y");
    }

    #[test]
    fn bad_declarations_are_dropped_alone() {
        let sheet =
            Stylesheet::parse("a { top: 0; nonsense; colour: red; left: 1px !important; right: 4 } :foo { top: 0 }");
        assert_eq!(sheet.rules.len(), 1);
        let declarations = &sheet.rules[0].declarations;
        assert_eq!(declarations.len(), 2);
        assert!(declarations[1].important);
        assert_eq!(declarations[0].offset, 4);
    }

    #[test]
    fn supports_is_decided_by_the_grammar() {
        let css = "@supports (display: grid) and (not (display: nonsense)) { a { top: 0 } }
                   @supports selector(:has(a)) { b { top: 0 } } @supports (color: 3px) { c { top: 0 } }";
        assert_eq!(Stylesheet::parse(css).rules.len(), 2);
    }
}
