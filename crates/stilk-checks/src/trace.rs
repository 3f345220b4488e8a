//! From a computed value back to its source: the winning declaration in the written stylesheet, the custom properties
//! it reads, the token that gave the value in this theme.

use rustc_hash::FxHashMap;
use std::collections::HashMap;
use std::sync::{Arc, PoisonError, RwLock};
use stilk_engine::cascade::Style;
use stilk_engine::cascade::order::DeclarationId;
use stilk_engine::cascade::stylesheet::{DeclarationBody, Stylesheet};
use stilk_engine::css::color::{self, Color};
use stilk_engine::css::parse::Declared;
use stilk_engine::css::property::Longhand;
use stilk_engine::css::substitute::Template;
use stilk_engine::css::value::Value;
use stilk_language::stylesheet::Written;
use stilk_language::system::System;
use stilk_language::tokens::{Theme, TokenType};
use stilk_text::source::{FileId, Sources, Span};

/// A stylesheet of a page whose declarations are followed to where they stand.
pub struct TracedSheet {
    /// What it says.
    pub parsed: Arc<Stylesheet>,
    /// Where its text stands, then those of what it imports: a file, and where in it the text begins, less than nothing where it
    /// was wrapped to be read.
    pub texts: Vec<(FileId, i64)>,
}

impl TracedSheet {
    /// Where a piece of one of its texts stands, from an offset to the end of the declaration there.
    pub fn span(&self, sources: &Sources, text: u16, offset: u32) -> Option<Span> {
        let (file, before) = *self.texts.get(usize::from(text))?;
        let start = usize::try_from(before + i64::from(offset)).ok()?;
        let rest = sources.file(file).text.get(start..)?;
        let end = rest.find([';', '}', '\n']).unwrap_or(rest.len());
        Some(Span::new(file, start, start + rest[..end].trim_end().len()))
    }
}

/// Whose declarations are followed.
#[derive(Clone, Copy)]
enum Followed<'t> {
    /// Those of a system: the stylesheet that was written, and the same parsed again.
    Written(&'t Stylesheet, &'t Written),
    /// Those of a page, in the order of the cascade.
    Page(&'t [TracedSheet]),
}

/// Follows values to their sources.
pub struct Tracer<'t> {
    followed: Followed<'t>,
    sources: &'t Sources,
    system: &'t System,
    tokens: Arc<HashMap<Span, (&'t str, Option<TokenType>)>>,
    /// The theme in which values are followed; where none is said, a token stands where it is written first.
    theme: Option<Theme>,
    /// Whether tokens of all types are followed; those that are no colours otherwise are not.
    every_type: bool,
    /// Whether the manifest names what controls may lie on.
    names_surfaces: bool,
    /// Texts with references, taken apart.
    templates: Arc<RwLock<FxHashMap<Box<str>, Arc<Template>>>>,
}

/// Where a value came from.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default)]
pub struct ValueSource {
    /// The declaration in a sheet that painted it: the local or the property in which the choice was made.
    pub declaration: Option<Span>,
    /// The declaration of the property itself.
    pub winner: Option<Span>,
    /// The tokens in it, in the order of the expression: each one's value in the file of the theme that gave it, and
    /// its path. Several where colours are mixed.
    pub tokens: Vec<(Span, String)>,
    /// Whether it is the browser's own, which no sheet replaced.
    pub browser: bool,
    /// Whether it is the browser's own page.
    pub page: bool,
    /// The colour as a page's own stylesheet writes it.
    pub written: Option<String>,
}

impl ValueSource {
    /// The browser's own page, where the manifest names no surface.
    pub fn page() -> ValueSource {
        ValueSource { page: true, ..ValueSource::default() }
    }

    /// The place at fault: the token where there is just one, else the declaration.
    pub fn span(&self) -> Option<Span> {
        match self.tokens.as_slice() {
            [(span, _)] => Some(*span),
            _ => self.declaration.or(self.tokens.first().map(|(span, _)| *span)),
        }
    }

    /// The token, where there is just one.
    pub fn token(&self) -> Option<&(Span, String)> {
        if let [token] = self.tokens.as_slice() { Some(token) } else { None }
    }

    /// `` `ink.strong` ``, `` `a` mixed with `b` ``, `the browser's own colour`, or `a colour`.
    pub fn name(&self) -> String {
        let names: Vec<String> = self.tokens.iter().map(|(_, path)| format!("`{path}`")).collect();
        match names.as_slice() {
            [] if self.page => "the browser's own page".to_owned(),
            [] if self.browser => "the browser's own colour".to_owned(),
            [] => self.written.as_ref().map_or_else(|| "a colour".to_owned(), |written| format!("`{written}`")),
            [one] => one.clone(),
            [first, rest @ ..] => format!("{first} mixed with {}", rest.join(" and ")),
        }
    }

    /// Adds what another origin holds: a translucent colour shows what is behind it.
    pub fn and(mut self, other: ValueSource) -> ValueSource {
        for token in other.tokens {
            if !self.tokens.contains(&token) {
                self.tokens.push(token);
            }
        }
        self.declaration = self.declaration.or(other.declaration);
        self.written = self.written.or(other.written);
        self.browser |= other.browser;
        self.page |= other.page;
        self
    }
}

impl<'t> Tracer<'t> {
    /// A tracer for a stylesheet as written and as parsed again.
    pub fn new(system: &'t System, sources: &'t Sources, written: &'t Written, parsed: &'t Stylesheet) -> Self {
        let mut tokens = HashMap::new();
        for token in &system.tokens.list {
            tokens.extend(token.definitions().map(|d| (d.span, (token.path.as_str(), token.kind))));
        }
        let names_surfaces = !system.surfaces.is_empty();
        let (tokens, templates) = (Arc::new(tokens), Arc::default());
        let every_type = false;
        let followed = Followed::Written(parsed, written);
        Tracer { followed, sources, system, tokens, theme: None, every_type, names_surfaces, templates }
    }

    /// A tracer for a page's own stylesheets: custom properties that hold a value stand for tokens.
    pub fn of_page(system: &'t System, sources: &'t Sources, sheets: &'t [TracedSheet]) -> Self {
        let (tokens, templates) = (Arc::default(), Arc::default());
        let followed = Followed::Page(sheets);
        Tracer { followed, sources, system, tokens, theme: None, every_type: false, names_surfaces: false, templates }
    }

    /// Whether it follows a page's own stylesheets.
    pub fn is_of_page(&self) -> bool {
        matches!(self.followed, Followed::Page(_))
    }

    /// The same in a theme: one declaration may stand for the values of several, and leads to that of this one.
    pub fn in_theme(&self, theme: &Theme) -> Tracer<'t> {
        Tracer {
            tokens: Arc::clone(&self.tokens),
            templates: Arc::clone(&self.templates),
            theme: Some(theme.clone()),
            ..*self
        }
    }

    /// Whether the manifest names what controls may lie on.
    pub fn names_surfaces(&self) -> bool {
        self.names_surfaces
    }

    /// Where a longhand's value came from.
    pub fn origin(&self, style: &Style, longhand: Longhand) -> ValueSource {
        let Some(id) = style.winner(longhand) else { return ValueSource::default() };
        let declaration = self.span(id);
        let mut origin =
            ValueSource { declaration, winner: declaration, browser: id.sheet == 0, ..ValueSource::default() };
        if self.is_of_page() {
            origin.written = declaration.and_then(|place| self.written_color(place));
        }
        if let Some(DeclarationBody::Property(parsed)) = self.body(id)
            && let Declared::Pending(text) = &parsed.declared
        {
            self.follow(style, text, &mut origin, 0);
        }
        origin
    }

    /// The properties that animations of a name set; nothing where there is none of that name.
    pub fn animated(&self, name: &str) -> Option<Vec<&'t str>> {
        let all: Vec<&'t Stylesheet> = match self.followed {
            Followed::Written(parsed, _) => vec![parsed],
            Followed::Page(sheets) => sheets.iter().map(|sheet| &*sheet.parsed).collect(),
        };
        let keyframes = all.into_iter().flat_map(|sheet| &sheet.keyframes);
        let own: Vec<_> = keyframes.filter(|one| one.name.trim_matches(['"', '\'']) == name).collect();
        let properties = own.iter().flat_map(|keyframes| &keyframes.properties).map(String::as_str);
        (!own.is_empty()).then(|| properties.collect())
    }

    /// Whether a longhand was declared by a keyword that every property takes, such as `inherit`.
    pub fn is_wide(&self, style: &Style, longhand: Longhand) -> bool {
        let body = style.winner(longhand).and_then(|id| self.body(id));
        matches!(body, Some(DeclarationBody::Property(parsed)) if matches!(parsed.declared, Declared::Wide(_)))
    }

    /// The same with tokens of every type, not colours alone.
    pub fn all_tokens(&self, style: &Style, longhand: Longhand) -> ValueSource {
        let every = Tracer {
            every_type: true,
            tokens: Arc::clone(&self.tokens),
            templates: Arc::clone(&self.templates),
            theme: self.theme.clone(),
            ..*self
        };
        every.color_origin(style, longhand)
    }

    /// What stands at a place.
    pub fn text(&self, span: Span) -> &'t str {
        self.sources.text(span)
    }

    /// `path:line` of a place.
    pub fn place_of(&self, span: Span) -> String {
        self.sources.place(span)
    }

    /// Where a colour came from that may be the element's own `color`, and that be inherited.
    pub fn color_origin(&self, style: &Style, longhand: Longhand) -> ValueSource {
        if longhand != Longhand::Color && !matches!(style.get(longhand), Ok(Value::Color(Color::Current))) {
            return self.origin(style, longhand);
        }
        let mut declared = style;
        while declared.winner(Longhand::Color).is_none() {
            let Some(parent) = declared.parent() else { break };
            declared = parent;
        }
        self.origin(declared, Longhand::Color)
    }

    /// Where the colours of a text come from: surfaces are painted by an inline style.
    pub fn text_origin(&self, style: &Style, text: &str) -> ValueSource {
        let mut origin = ValueSource::default();
        self.follow(style, text, &mut origin, 0);
        origin
    }

    fn body(&self, id: DeclarationId) -> Option<&'t DeclarationBody> {
        let (sheet, rule) = self.rule(id)?;
        Some(&sheet.rules.get(rule)?.declarations.get(id.declaration)?.body)
    }

    /// The stylesheet that a declaration is in, and its rule there. Sheet 0 is the browser's.
    fn rule(&self, id: DeclarationId) -> Option<(&'t Stylesheet, usize)> {
        if id.sheet == 0 || id.is_of_attributes() {
            return None;
        }
        let sheet = match self.followed {
            // The author's sheet is the one that was written.
            Followed::Written(parsed, _) => parsed,
            Followed::Page(sheets) => &sheets.get(usize::from(id.sheet) - 1)?.parsed,
        };
        Some((sheet, id.rule as usize))
    }

    /// Where a declaration came from: of a system the place in its sources, of a page its own.
    pub fn span(&self, id: DeclarationId) -> Option<Span> {
        let (sheet, rule) = self.rule(id)?;
        let rule = sheet.rules.get(rule)?;
        let declaration = rule.declarations.get(id.declaration)?;
        match self.followed {
            Followed::Written(_, written) => written.origin(declaration.offset),
            Followed::Page(sheets) => {
                sheets.get(usize::from(id.sheet) - 1)?.span(self.sources, rule.file, declaration.offset)
            }
        }
    }

    /// A text taken apart; the same texts are met in every case.
    fn template(&self, text: &str) -> Arc<Template> {
        // A thread that broke while it held the lock is told of when it is joined.
        if let Some(known) = self.templates.read().unwrap_or_else(PoisonError::into_inner).get(text) {
            return Arc::clone(known);
        }
        let template = Arc::new(Template::new(text));
        self.templates.write().unwrap_or_else(PoisonError::into_inner).insert(text.into(), Arc::clone(&template));
        template
    }

    /// Where a token has its value in the theme.
    fn in_this_theme(&self, path: &str) -> Option<Span> {
        let tokens = &self.system.tokens;
        Some(tokens.get(tokens.find(path)?).in_theme(self.theme.as_ref()?)?.span)
    }

    /// The colour that a declaration at a place holds and nothing else.
    fn written_color(&self, place: Span) -> Option<String> {
        let (_, value) = self.sources.text(place).split_once(':')?;
        let value = value.trim().trim_end_matches("!important").trim();
        if color::whole(value).is_some() {
            return Some(value.to_owned());
        }
        // As quirks mode takes it.
        if color::whole(&format!("#{value}")).is_some() {
            return Some(value.to_owned());
        }
        // One colour among other words, as in `1px solid #ccc`.
        let mut colors = value.split_ascii_whitespace().filter(|word| color::whole(word).is_some());
        colors.next().filter(|_| colors.next().is_none()).map(str::to_owned)
    }

    /// Walks every reference that has a value until a token's own declaration is met.
    fn follow(&self, style: &Style, text: &str, origin: &mut ValueSource, depth: usize) {
        // Chains of custom properties are short; the bound is against cycles.
        if depth > 32 {
            return;
        }
        for name in self.template(text).references() {
            let Some(custom) = style.custom(name).filter(|c| c.text.as_deref().is_some_and(|t| !t.is_empty())) else {
                continue;
            };
            let Some(span) = custom.winner.and_then(|id| self.span(id)) else { continue };
            if self.is_of_page() {
                let Some(DeclarationBody::Custom(name, next)) = custom.winner.and_then(|id| self.body(id)) else {
                    continue;
                };
                // What holds a value and no reference is where the value can be changed.
                if !self.template(next).references().is_empty() {
                    self.follow(style, next, origin, depth + 1);
                } else if self.every_type || color::whole(next).is_some() {
                    let token = (span, name.to_string());
                    if !origin.tokens.contains(&token) {
                        origin.tokens.push(token);
                    }
                }
                continue;
            }
            match self.tokens.get(&span) {
                Some((path, kind)) if self.sources.file(span.file).path.ends_with(".json") => {
                    let token = (self.in_this_theme(path).unwrap_or(span), (*path).to_owned());
                    let counts = self.every_type || matches!(kind, None | Some(TokenType::Color));
                    if counts && !origin.tokens.contains(&token) {
                        origin.tokens.push(token);
                    }
                    continue;
                }
                // A derived token goes on to what it is computed from.
                Some(_) => {}
                // The local that a sheet sets last is where the choice was made.
                None if depth == 0 || origin.tokens.is_empty() => origin.declaration = Some(span),
                None => {}
            }
            if let Some(DeclarationBody::Custom(_, next)) = custom.winner.and_then(|id| self.body(id)) {
                self.follow(style, next, origin, depth + 1);
            }
        }
    }
}
