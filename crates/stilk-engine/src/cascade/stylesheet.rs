//! CSS text as rules: layers, conditions, nesting, selectors, declarations, with the place of each in the text.

use super::container::{self, ContainerQuery};
use super::declaration::{self, Collected};
pub use super::declaration::{Declaration, DeclarationBody, Declarations};
pub use super::keyframes::Keyframes;
use super::keyframes::animated;
use super::layers::{LayerId, Layers};
use super::media::{self, MediaList};
pub use super::registered::Registered;
use super::registered::registered;
use super::scope::Scope;
use super::selector::{self, Beginning, Namespaces, One, PseudoName};
use super::supports::{Asked, SupportsTest};
use crate::css::parse::is_too_deep;
use cssparser::{
    AtRuleParser, CowRcStr, DeclarationParser, ParseError, Parser, ParserState, QualifiedRuleParser,
    RuleBodyItemParser, RuleBodyParser, StyleSheetParser,
};
use std::ops::Range;
use std::sync::{Arc, OnceLock};

/// Blocks nested deeper than this are dropped; nobody writes them, and the stack has an end.
const MAX_DEPTH: usize = 64;

/// Nested rules whose selectors, written out, would have more simple selectors than this are dropped: each `&` repeats all
/// that is above it.
const MAX_SELECTOR: usize = 10_000;

/// A parsed stylesheet.
#[derive(Debug, Default)]
pub struct Stylesheet {
    /// Its style rules, one entry per selector, in order.
    pub rules: Vec<StyleRule>,
    /// Its cascade layers.
    pub layers: Layers,
    /// The animations it defines.
    pub keyframes: Vec<Keyframes>,
    /// Custom properties with a type, in order.
    pub registered: Vec<(Registered, Arc<[Condition]>)>,
    /// Stylesheets that were imported into it: their addresses and texts.
    pub imported: Vec<(String, String)>,
    /// Addresses of imports that are for paper or speech alone and could not be had: no screen needs them.
    pub unneeded: Vec<String>,
    /// What was dropped, in the order of the text.
    pub dropped: Vec<Dropped>,
    /// The rules that ask for a state and for a place, once that was asked.
    of_states_in_place: OnceLock<Vec<u32>>,
}

/// One selector and its declarations.
#[derive(Debug)]
pub struct StyleRule {
    /// The selector, with what a nested one is nested in.
    pub selector: One,
    /// The pseudo-element it styles, if any.
    pub pseudo: Option<PseudoName>,
    /// The declarations, shared by the selectors of a list.
    pub declarations: Declarations,
    /// Byte offset of its selector list in the text.
    pub offset: u32,
    /// The layer; `None` outside of layers.
    pub layer: Option<LayerId>,
    /// Conditions that must all hold.
    pub conditions: Arc<[Condition]>,
    /// The scopes that it is in, the outermost first.
    pub scopes: Arc<[Arc<Scope>]>,
    /// The text it is in: 0 for the sheet itself, else one more than the index in `imported`.
    pub file: u16,
}

impl StyleRule {
    /// The selector as CSS, and the scopes that it is in.
    pub fn selector_text(&self) -> String {
        let own = selector::to_text(&self.selector).replace(":is()", ":scope");
        let own = if own.is_empty() { ":scope".to_owned() } else { without_needless_is(own.trim_start()) };
        let scopes = self.scopes.iter().rev().map(|scope| format!(" in {scope}"));
        std::iter::once(own).chain(scopes).collect()
    }
}

/// A selector without `:is()` around one compound: what `&` stands for in a nested rule, as a person would write it.
fn without_needless_is(text: &str) -> String {
    let mut written = String::with_capacity(text.len());
    let mut rest = text;
    while let Some(at) = rest.find(":is(") {
        let (before, from) = rest.split_at(at);
        written.push_str(before);
        let inner = &from[":is(".len()..];
        let end = inner.find(')').filter(|end| {
            let inner = &inner[..*end];
            let is_compound = !inner.is_empty() && !inner.contains([',', ' ', '>', '+', '~', '(', '"', '\'']);
            let begins = written.is_empty() || written.ends_with([' ', '>', '+', '~', '(']);
            is_compound && (begins || inner.starts_with(['.', '#', '[', ':']))
        });
        match end {
            Some(end) => {
                written.push_str(&inner[..end]);
                rest = &inner[end + 1..];
            }
            None => {
                written.push_str(":is(");
                rest = inner;
            }
        }
    }
    written + rest
}

/// Something that no browser takes, and that is passed over with everything in it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Dropped {
    /// Where it stands in the text, in bytes.
    pub place: Range<u32>,
    /// Whether it is a declaration in a rule; otherwise it is a rule with its block.
    pub is_declaration: bool,
    /// The text it is in, as of a rule.
    pub file: u16,
}

/// A condition of an enclosing at-rule.
#[derive(Debug, Clone)]
pub enum Condition {
    /// `@media`
    Media(MediaList),
    /// `@container`
    Container(Arc<ContainerQuery>),
    /// Of browser defaults: holds where an element has its native look, or where it has none.
    Native(bool),
    /// Of browser defaults: holds in documents in quirks mode.
    QuirksMode,
    /// Something that cannot be decided here.
    Unknown(&'static str),
}

/// Gives the text behind the address of an `@import`; `None` where it cannot be had.
pub type Importer<'i> = &'i mut dyn FnMut(&str) -> Option<String>;

impl Stylesheet {
    /// Rules that ask for a state of the pointer or the keyboard and for the place of their element: by these, two elements
    /// that look the same at rest may not do so in that state.
    pub fn rules_of_states_in_place(&self) -> impl Iterator<Item = &StyleRule> {
        const OF_PLACE: [&str; 10] = [" ", ">", "+", "~", ":nth", ":first", ":last", ":only", ":has(", ":not("];
        let asks = |rule: &StyleRule| {
            let text = selector::to_text(&rule.selector);
            let is_of_state = [":hover", ":focus", ":active"].iter().any(|state| text.contains(state));
            is_of_state && OF_PLACE.iter().any(|part| text.contains(part))
        };
        let indices = self.of_states_in_place.get_or_init(|| {
            let asking = self.rules.iter().enumerate().filter(|(_, rule)| asks(rule));
            asking.map(|(index, _)| index as u32).collect()
        });
        indices.iter().filter_map(|index| self.rules.get(*index as usize))
    }

    /// Parses a stylesheet. Like browsers, it drops what it cannot read and goes on. Imports are not followed.
    pub fn parse(text: &str) -> Stylesheet {
        Stylesheet::parse_importing(text, &mut |_| None)
    }

    /// Parses browser defaults, which may hold rules for elements whose native look the page takes away.
    pub fn parse_defaults(text: &str) -> Stylesheet {
        let mut sheet = Stylesheet::default();
        let context = Context { defaults: true, ..Context::default() };
        Reader { sheet: &mut sheet, importer: &mut |_| None, context, without: &[] }.read(text);
        sheet
    }

    /// Parses a stylesheet and what it imports.
    pub fn parse_importing(text: &str, importer: Importer) -> Stylesheet {
        let mut sheet = Stylesheet::default();
        Reader { sheet: &mut sheet, importer, context: Context::default(), without: &[] }.read(text);
        sheet
    }

    /// Parses a stylesheet as a browser would that lacks what some conditions ask for.
    pub fn parse_without(text: &str, without: &[SupportsTest]) -> Stylesheet {
        let mut sheet = Stylesheet::default();
        Reader { sheet: &mut sheet, importer: &mut |_| None, context: Context::default(), without }.read(text);
        sheet
    }
}

/// Parses the text of a `style` attribute.
pub fn parse_inline(text: &str) -> Declarations {
    let mut sheet = Stylesheet::default();
    let mut reader = Reader { sheet: &mut sheet, importer: &mut |_| None, context: Context::default(), without: &[] };
    let mut parser = Parser::new(text);
    let mut body = Body { reader: &mut reader, pending: Collected::default(), nests: false };
    body.read(&mut parser);
    body.pending.finish()
}

/// What surrounds the rule that is being read.
#[derive(Default, Clone)]
struct Context {
    layer: Option<LayerId>,
    conditions: Vec<Condition>,
    /// Inside a condition that never holds.
    dead: bool,
    /// The selectors that `&` stands for, and how large they are written out.
    parent: Option<(selector::List, usize)>,
    scopes: Vec<Arc<Scope>>,
    /// Right in a scope, and in no rule of it.
    is_scoped: bool,
    namespaces: Arc<Namespaces>,
    depth: usize,
    file: u16,
    /// Where the selectors of the rule stand that is being read.
    offset: u32,
    /// In browser defaults.
    defaults: bool,
    /// Something but `@import` and `@layer` was met: imports are over.
    begun: bool,
    /// Something but those and `@namespace` was met: these are over.
    has_rules: bool,
}

struct Reader<'s, 'f> {
    sheet: &'s mut Stylesheet,
    importer: &'s mut (dyn FnMut(&str) -> Option<String> + 'f),
    context: Context,
    /// What the browser that it is read for lacks.
    without: &'s [SupportsTest],
}

enum Prelude {
    Media(MediaList),
    Container(ContainerQuery),
    Native(bool),
    QuirksMode,
    /// `@supports`, decided at once.
    Supports(bool),
    Layer(Vec<String>),
    Import(Import),
    /// Holds at no moment that is computed here.
    Never,
    Keyframes(String),
    Property(String),
    Scope(Scope),
    /// `@scope` without a root of its own: that is an element of the page.
    ScopeOfPage,
    Namespace(Option<String>, String),
    Ignored,
}

/// `@import url layer(…) supports(…) media;`
struct Import {
    url: String,
    layer: Option<Option<String>>,
    supported: bool,
    media: MediaList,
}

impl Reader<'_, '_> {
    fn read(&mut self, text: &str) {
        self.rules(&mut Parser::new(text));
    }

    fn rules(&mut self, input: &mut Parser) {
        let mut rules = StyleSheetParser::new(input, self);
        while let Some(read) = rules.next() {
            if let Err((_, piece, _)) = read {
                let end = rules.input.position().byte_index();
                rules.parser.drop(piece, end, false);
            }
        }
    }

    /// A piece of the text, up to some place, is passed over.
    fn drop(&mut self, piece: &str, end: usize, is_declaration: bool) {
        if !self.context.dead && !piece.trim().is_empty() {
            let place = (end - piece.len()) as u32..end as u32;
            self.sheet.dropped.push(Dropped { place, is_declaration, file: self.context.file });
        }
    }

    fn mention(&mut self, layer: LayerId) {
        if !self.context.dead {
            self.sheet.layers.mention(layer, self.context.conditions.clone().into());
        }
    }

    fn import(&mut self, import: Import) {
        // Addresses that are read twice are read twice; a circle ends at the bound on depth.
        if self.context.begun || self.context.depth > 8 || self.sheet.imported.len() > 1000 {
            return;
        }
        let outer = self.context.clone();
        self.context.depth += 1;
        self.context.dead |= !import.supported;
        let is_needed = import.media.is_of_screens();
        self.context.conditions.push(Condition::Media(import.media));
        if let Some(name) = import.layer {
            self.enter(name.as_deref());
        }
        // Each text has its own.
        self.context.namespaces = Arc::default();
        if let Some(text) = (self.importer)(&import.url) {
            self.sheet.imported.push((import.url, text.clone()));
            self.context.file = self.sheet.imported.len() as u16;
            self.read(&text);
        } else if !is_needed {
            self.sheet.unneeded.push(import.url);
        }
        self.context = outer;
    }

    fn enter(&mut self, name: Option<&str>) {
        let layer = match name {
            Some(name) => self.sheet.layers.enter(self.context.layer, name),
            None => self.sheet.layers.anonymous(self.context.layer),
        };
        self.mention(layer);
        self.context.layer = Some(layer);
    }

    fn prelude(&mut self, name: &str, input: &mut Parser) -> Result<Prelude, ParseError<()>> {
        input.skip_whitespace();
        let start = input.position();
        let state = input.state();
        while input.next_including_whitespace_and_comments().is_ok() {}
        let text = input.slice_from(start).trim();
        if is_too_deep(text) {
            return Err(ParseError::unexpected_token());
        }
        let lower = name.to_ascii_lowercase();
        if !matches!(lower.as_str(), "import" | "layer" | "charset") {
            self.context.begun = true;
            self.context.has_rules |= lower != "namespace";
        }
        Ok(match lower.as_str() {
            "supports" | "import" => {
                input.reset(&state);
                let prelude = if lower == "import" {
                    Prelude::Import(import(input, self.without)?)
                } else {
                    Prelude::Supports(Asked { without: self.without, ..Asked::default() }.supports(input))
                };
                while input.next().is_ok() {}
                prelude
            }
            "media" => Prelude::Media(media::parse_list(text).ok_or_else(ParseError::unexpected_token)?),
            "layer" => {
                let names: Vec<String> = text.split(',').map(|name| name.trim().to_owned()).collect();
                match names.as_slice() {
                    [one] if one.is_empty() => Prelude::Layer(Vec::new()),
                    names if names.iter().any(|name| !is_layer_name(name)) => {
                        return Err(ParseError::unexpected_token());
                    }
                    _ => Prelude::Layer(names),
                }
            }
            "container" => Prelude::Container(container::parse(text).ok_or_else(ParseError::unexpected_token)?),
            "scope" => {
                input.reset(&state);
                self.scope(input)?
            }
            "namespace" => {
                input.reset(&state);
                let prefix = input.try_parse(|p| p.expect_ident_cloned()).ok().map(|prefix| prefix.to_string());
                Prelude::Namespace(prefix, input.expect_url_or_string()?.to_string())
            }
            "-stilk-bare" if self.context.defaults => Prelude::Native(false),
            "-stilk-quirks" if self.context.defaults => Prelude::QuirksMode,
            "-stilk-native" if self.context.defaults => Prelude::Native(true),
            "starting-style" => Prelude::Never,
            "keyframes" | "-webkit-keyframes" => Prelude::Keyframes(text.to_owned()),
            "property" if text.starts_with("--") => Prelude::Property(text.to_owned()),
            _ => Prelude::Ignored,
        })
    }

    /// `(start) to (end)`, both of them optional (CSS Cascade 6, section 2.5).
    fn scope(&self, input: &mut Parser) -> Result<Prelude, ParseError<()>> {
        let context = &self.context;
        let list = |input: &mut Parser, beginning: Beginning| -> Result<selector::List, ParseError<()>> {
            input.expect_parenthesis_block()?;
            let list = input.parse_nested_block(|p| selector::parse(p, beginning, &context.namespaces))?;
            match list.slice().iter().any(|one| one.has_pseudo_element()) {
                true => Err(ParseError::unexpected_token()),
                false => Ok(list),
            }
        };
        let start = match input.is_exhausted() || input.try_parse(|p| p.expect_ident_matching("to")).is_ok() {
            true => None,
            false => {
                let start = list(input, context.parent.as_ref().map_or(Beginning::Plain, |_| Beginning::Nested))?;
                Some(context.parent.as_ref().map_or(start.clone(), |(parent, _)| selector::nest(start, parent)))
            }
        };
        let has_end = start.is_none() || input.try_parse(|p| p.expect_ident_matching("to")).is_ok();
        let end = match has_end && !input.is_exhausted() {
            true => Some(selector::nest(list(input, Beginning::Scoped)?, &selector::List::implicit_scope())),
            false => None,
        };
        input.expect_exhausted()?;
        Ok(start.map_or(Prelude::ScopeOfPage, |start| Prelude::Scope(Scope { start, end })))
    }

    fn statement(&mut self, prelude: Prelude) {
        match prelude {
            Prelude::Namespace(prefix, url) if !self.context.has_rules && self.context.parent.is_none() => {
                Arc::make_mut(&mut self.context.namespaces).declare(prefix.as_deref(), &url);
            }
            Prelude::Layer(names) => {
                for name in names {
                    let layer = self.sheet.layers.enter(self.context.layer, &name);
                    self.mention(layer);
                }
            }
            Prelude::Import(import) => self.import(import),
            _ => {}
        }
    }

    /// The block of an at-rule; what is in it belongs to the same parent.
    fn at_block(&mut self, prelude: Prelude, input: &mut Parser) {
        let outer = self.context.clone();
        self.context.depth += 1;
        match prelude {
            Prelude::Media(list) => self.context.conditions.push(Condition::Media(list)),
            Prelude::Container(query) => self.context.conditions.push(Condition::Container(Arc::new(query))),
            Prelude::Native(is) => self.context.conditions.push(Condition::Native(is)),
            Prelude::QuirksMode => self.context.conditions.push(Condition::QuirksMode),
            Prelude::Supports(answer) => self.context.dead |= !answer,
            Prelude::Never => self.context.dead = true,
            Prelude::Layer(names) if names.len() <= 1 => self.enter(names.first().map(String::as_str)),
            Prelude::Scope(scope) => {
                self.context.scopes.push(Arc::new(scope));
                self.context.parent = Some((selector::List::implicit_scope(), 1));
                self.context.is_scoped = true;
            }
            Prelude::ScopeOfPage => {
                let reason = "`@scope` without a root of its own is not computed";
                self.context.conditions.push(Condition::Unknown(reason));
                if let Some(start) = selector::parse_list("*") {
                    self.context.scopes.push(Arc::new(Scope { start, end: None }));
                }
                self.context.parent = Some((selector::List::implicit_scope(), 1));
                self.context.is_scoped = true;
            }
            Prelude::Layer(_) | Prelude::Ignored | Prelude::Import(_) | Prelude::Namespace(..) => {
                return self.context = outer;
            }
            Prelude::Keyframes(name) => {
                let properties = animated(input);
                self.sheet.keyframes.push(Keyframes { name, properties });
                return self.context = outer;
            }
            Prelude::Property(name) => {
                if !self.context.dead {
                    let conditions: Arc<[Condition]> = self.context.conditions.clone().into();
                    self.sheet.registered.extend(registered(&name, input).map(|one| (one, conditions)));
                }
                return self.context = outer;
            }
        }
        if self.context.depth < MAX_DEPTH {
            if self.context.parent.is_some() {
                self.body(input);
            } else {
                self.rules(input);
            }
        }
        self.context = outer;
        self.context.begun = true;
        self.context.has_rules = true;
    }

    /// The content of a style rule or of an at-rule in one: each run of declarations is a rule of its own.
    fn body(&mut self, input: &mut Parser) {
        let mut body = Body { reader: self, pending: Collected::default(), nests: true };
        body.read(input);
        body.flush();
    }

    fn style_rule(&mut self, list: selector::List, start: &ParserState, input: &mut Parser) {
        (self.context.begun, self.context.has_rules) = (true, true);
        let is_unread = |one: &selector::One| {
            let text = selector::to_text(one);
            self.without.iter().any(|test| test.cannot_read(&text))
        };
        // One selector that cannot be read drops the rule (Selectors 4, section 4.1).
        if !self.without.is_empty() && list.slice().iter().any(is_unread) {
            return;
        }
        let outer = self.context.clone();
        let above = outer.parent.as_ref();
        let size: usize = list.slice().iter().map(|one| selector::size(one, above.map_or(1, |(_, size)| *size))).sum();
        let list = match above {
            Some((parent, _)) => selector::nest(list, parent),
            None => list,
        };
        self.context.depth += 1;
        if self.context.depth < MAX_DEPTH && size < MAX_SELECTOR {
            self.context.parent = Some((list, size));
            self.context.is_scoped = false;
            self.context.offset = start.position().byte_index() as u32;
            self.body(input);
        }
        self.context = outer;
    }
}

fn is_layer_name(name: &str) -> bool {
    name.split('.').all(|part| {
        let mut parser = Parser::new(part);
        let is_name = parser.expect_ident().is_ok() && parser.is_exhausted();
        let wide = ["inherit", "initial", "unset", "revert", "revert-layer", "default"];
        is_name && !wide.iter().any(|word| part.eq_ignore_ascii_case(word))
    })
}

fn import(input: &mut Parser, without: &[SupportsTest]) -> Result<Import, ParseError<()>> {
    let url = input.expect_url_or_string()?.to_string();
    let mut layer = None;
    if input.try_parse(|p| p.expect_ident_matching("layer")).is_ok() {
        layer = Some(None);
    } else if input.try_parse(|p| p.expect_function_matching("layer")).is_ok() {
        let name = input.parse_nested_block(|inner| {
            let start = inner.position();
            while inner.next().is_ok() {}
            Ok::<_, ParseError<()>>(inner.slice_from(start).trim().to_owned())
        })?;
        layer = Some(Some(name));
    }
    let mut supported = true;
    if input.try_parse(|p| p.expect_function_matching("supports")).is_ok() {
        supported = input.parse_nested_block(|inner| {
            let answer = Asked { without, ..Asked::default() }.supports_import(inner);
            while inner.next().is_ok() {}
            Ok::<_, ParseError<()>>(answer)
        })?;
    }
    input.skip_whitespace();
    let start = input.position();
    while input.next().is_ok() {}
    let media = media::parse_list(input.slice_from(start).trim()).ok_or_else(ParseError::unexpected_token)?;
    Ok(Import { url, layer, supported, media })
}

impl<'i> AtRuleParser<'i> for Reader<'_, '_> {
    type Prelude = Prelude;
    type AtRule = ();
    type Error = ();

    fn parse_prelude(&mut self, name: CowRcStr<'i>, input: &mut Parser<'i>) -> Result<Prelude, ParseError<()>> {
        self.prelude(&name, input)
    }

    fn rule_without_block(&mut self, prelude: Prelude, _start: &ParserState) -> Result<(), ()> {
        self.statement(prelude);
        Ok(())
    }

    fn parse_block(
        &mut self,
        prelude: Prelude,
        _start: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<()>> {
        self.at_block(prelude, input);
        Ok(())
    }
}

impl<'i> QualifiedRuleParser<'i> for Reader<'_, '_> {
    type Prelude = selector::List;
    type QualifiedRule = ();
    type Error = ();

    fn parse_prelude(&mut self, input: &mut Parser<'i>) -> Result<Self::Prelude, ParseError<()>> {
        (self.context.begun, self.context.has_rules) = (true, true);
        selector::parse(input, Beginning::Plain, &self.context.namespaces)
    }

    fn parse_block(
        &mut self,
        list: selector::List,
        start: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<()>> {
        self.style_rule(list, start, input);
        Ok(())
    }
}

/// Reads the content of a style rule.
struct Body<'b, 's, 'f> {
    reader: &'b mut Reader<'s, 'f>,
    pending: Collected,
    /// Whether rules may stand in it.
    nests: bool,
}

impl Body<'_, '_, '_> {
    fn read(&mut self, input: &mut Parser) {
        let mut items = RuleBodyParser::new(input, self);
        while let Some(read) = items.next() {
            if let Err((_, piece, _)) = read {
                let end = items.input.position().byte_index();
                items.parser.reader.drop(piece, end, !piece.contains('{'));
            }
        }
    }

    /// Makes a rule of the declarations since the last nested one.
    fn flush(&mut self) {
        let declarations = std::mem::take(&mut self.pending).finish();
        let context = &self.reader.context;
        let Some((list, _)) = &context.parent else { return };
        if declarations.are_none() || context.dead {
            return;
        }
        let conditions: Arc<[Condition]> = context.conditions.clone().into();
        let scopes: Arc<[Arc<Scope>]> = context.scopes.clone().into();
        for selector in list.slice() {
            self.reader.sheet.rules.push(StyleRule {
                pseudo: selector.pseudo_element().cloned(),
                selector: selector.clone(),
                declarations: declarations.clone(),
                offset: context.offset,
                layer: context.layer,
                conditions: Arc::clone(&conditions),
                scopes: Arc::clone(&scopes),
                file: context.file,
            });
        }
    }
}

impl<'i> DeclarationParser<'i> for Body<'_, '_, '_> {
    type Declaration = ();
    type Error = ();

    fn parse_value(
        &mut self,
        name: CowRcStr<'i>,
        input: &mut Parser<'i>,
        start: &ParserState,
    ) -> Result<(), ParseError<()>> {
        let begin = input.position();
        let taken = declaration::read(&name, input, start)?;
        let text = || input.slice_from(begin);
        if self.reader.without.iter().any(|test| test.drops(&name, text())) {
            return Err(ParseError::unexpected_token());
        }
        self.pending.take(taken);
        Ok(())
    }
}

impl<'i> AtRuleParser<'i> for Body<'_, '_, '_> {
    type Prelude = Prelude;
    type AtRule = ();
    type Error = ();

    fn parse_prelude(&mut self, name: CowRcStr<'i>, input: &mut Parser<'i>) -> Result<Prelude, ParseError<()>> {
        match self.nests {
            true => self.reader.prelude(&name, input),
            false => Err(ParseError::unexpected_token()),
        }
    }

    fn parse_block(
        &mut self,
        prelude: Prelude,
        _start: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<()>> {
        self.flush();
        // Animations and types of custom properties do not nest in style rules.
        if !matches!(prelude, Prelude::Keyframes(_) | Prelude::Property(_)) {
            self.reader.at_block(prelude, input);
        }
        Ok(())
    }
}

impl<'i> QualifiedRuleParser<'i> for Body<'_, '_, '_> {
    type Prelude = selector::List;
    type QualifiedRule = ();
    type Error = ();

    fn parse_prelude(&mut self, input: &mut Parser<'i>) -> Result<Self::Prelude, ParseError<()>> {
        let context = &self.reader.context;
        let beginning = if context.is_scoped { Beginning::Scoped } else { Beginning::Nested };
        selector::parse(input, beginning, &context.namespaces)
    }

    fn parse_block(
        &mut self,
        list: selector::List,
        start: &ParserState,
        input: &mut Parser<'i>,
    ) -> Result<(), ParseError<()>> {
        self.flush();
        self.reader.style_rule(list, start, input);
        Ok(())
    }
}

impl RuleBodyItemParser<'_, (), ()> for Body<'_, '_, '_> {
    fn parse_declarations(&self) -> bool {
        true
    }

    fn parse_qualified(&self) -> bool {
        self.nests
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

#[cfg(test)]
mod text_of_selectors {
    use super::*;

    #[test]
    fn nested_rules_are_named_as_a_person_would_write_them() {
        for (css, named) in [
            (".a { &:hover { top: 0 } }", ".a:hover"),
            (".a { .b:checked + & { top: 0 } }", ".b:checked + .a"),
            (".a { .b & .c { top: 0 } }", ".b .a .c"),
            (".a, .b { &:hover { top: 0 } }", ":is(.a, .b):hover"),
            (".a > .b { &:hover { top: 0 } }", ":is(.a > .b):hover"),
            ("li { .x& { top: 0 } }", ".x:is(li)"),
            (".a:is(.b):hover { top: 0 }", ".a.b:hover"),
            (":is([title=\"a)\"]) { top: 0 }", ":is([title=\"a)\"])"),
        ] {
            let sheet = Stylesheet::parse(css);
            assert_eq!(sheet.rules.last().map(StyleRule::selector_text).as_deref(), Some(named), "{css}");
        }
    }
}
