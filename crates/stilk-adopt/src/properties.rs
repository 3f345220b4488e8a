//! Custom properties of the page as tokens: those that are declared for the whole page and its themes, and nowhere in a control.

use crate::colors::{colors_in, design_token};
use crate::ground::Ground;
use crate::naming::unique;
use crate::old::RuleRef;
use crate::outline::declaration;
use crate::themes::{ContextDraft, ModifierDraft};
use serde_json::{Value as Json, json};
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::compound::{Compound, compounds};
use stilk_engine::cascade::ranking::Rank;
use stilk_engine::cascade::selector::{parse_list, split_list};
use stilk_engine::cascade::stylesheet::DeclarationBody;
use stilk_survey::theme;

/// A value of a token.
#[derive(Debug, Clone, PartialEq)]
pub enum TokenText {
    /// In the Design Tokens Format: its type and value.
    Value(&'static str, Json),
    /// Another token.
    Alias(String),
    /// Computed by CSS from tokens, as `@derive` has it.
    Derived(String),
}

/// A token.
#[derive(Debug, Clone)]
pub struct TokenDraft {
    /// Its path.
    pub path: String,
    /// Its value in the usual contexts.
    pub base: TokenText,
    /// Its values in contexts, by modifier and context.
    pub contexts: BTreeMap<(usize, usize), TokenText>,
}

/// Custom properties that became tokens.
#[derive(Debug, Default)]
pub struct Properties {
    /// The tokens.
    pub tokens: Vec<TokenDraft>,
    /// Where their declarations stand: rule, and offset in its text.
    pub taken: Vec<(RuleRef, usize)>,
    /// Every custom property that some stylesheet declares.
    pub declared: BTreeSet<String>,
}

impl Properties {
    /// Whether a custom property, with its dashes, is a token.
    pub fn token(&self, property: &str) -> Option<&TokenDraft> {
        let path = property.strip_prefix("--")?;
        self.tokens.iter().find(|token| token.path == path)
    }
}

/// One declaration of a custom property.
struct Definition {
    rule: RuleRef,
    offset: usize,
    value: String,
    rank: Rank,
    /// Modifier and context; the usual one where there is none.
    context: Option<(usize, usize)>,
}

/// Reads the custom properties of a site. Media queries that change them become contexts of the modifiers.
pub fn read(ground: &Ground, modifiers: &mut Vec<ModifierDraft>, adopted: &BTreeSet<usize>) -> Properties {
    name_usual(ground, modifiers);
    let mut definitions: BTreeMap<String, Vec<Definition>> = BTreeMap::new();
    let (mut refused, mut declared): (BTreeSet<String>, BTreeSet<String>) = (BTreeSet::new(), BTreeSet::new());
    for (at, sheet) in ground.old.all.iter().enumerate() {
        refused.extend(sheet.parsed.registered.iter().map(|(registered, _)| registered.name.to_string()));
        for (index, style) in sheet.parsed.rules.iter().enumerate() {
            let rule = RuleRef { sheet: at, rule: index as u32 };
            for one in style.declarations.iter() {
                let DeclarationBody::Custom(name, _) = &one.body else { continue };
                let name = name.to_string();
                declared.insert(name.clone());
                match where_of(ground, rule, modifiers) {
                    _ if one.important => drop(refused.insert(name)),
                    Where::Elsewhere => {
                        // What a control sets on itself is its own.
                        let of = ground.facts.get(&rule).map(|facts| &facts.families);
                        if of.is_some_and(|families| families.iter().any(|family| adopted.contains(family))) {
                            refused.insert(name);
                        }
                    }
                    Where::Unclear => drop(refused.insert(name)),
                    Where::Page(context) => {
                        let text = ground.old.block(rule).and_then(|(text, _)| {
                            let offset = text.offset(one.offset)?;
                            declaration(&text.text, offset).map(|(_, value, _)| (offset, value.to_owned()))
                        });
                        let Some((offset, value)) = text else {
                            refused.insert(name);
                            continue;
                        };
                        let rank = ground.old.ranks(rule)[0];
                        definitions.entry(name).or_default().push(Definition { rule, offset, value, rank, context });
                    }
                }
            }
        }
    }
    let mut tokens: BTreeMap<String, TokenDraft> = BTreeMap::new();
    for (name, list) in &mut definitions {
        list.sort_by_key(|definition| definition.rank);
        let token = (!refused.contains(name)).then(|| token(ground, name, list)).flatten();
        if let Some(token) = token {
            tokens.insert(name.clone(), token);
        }
    }
    // What refers to something that is no token is none.
    loop {
        let is_known = |text: &TokenText| match text {
            TokenText::Value(..) => true,
            TokenText::Alias(path) => tokens.contains_key(&format!("--{path}")),
            TokenText::Derived(text) => references(text).iter().all(|path| tokens.contains_key(&format!("--{path}"))),
        };
        let lost: Vec<String> = tokens
            .iter()
            .filter(|(_, token)| !std::iter::once(&token.base).chain(token.contexts.values()).all(is_known))
            .map(|(name, _)| name.clone())
            .collect();
        if lost.is_empty() {
            break;
        }
        lost.iter().for_each(|name| drop(tokens.remove(name)));
    }
    declared.extend(refused.iter().cloned());
    let mut properties = Properties { declared, ..Properties::default() };
    for (name, token) in tokens {
        let all = definitions.remove(&name).into_iter().flatten();
        properties.taken.extend(all.map(|definition| (definition.rule, definition.offset)));
        properties.tokens.push(token);
    }
    // Literal colours of what CSS computes are tokens of their own.
    let mut paths: BTreeSet<String> = properties.tokens.iter().map(|token| token.path.clone()).collect();
    let mut more = Vec::new();
    for token in &mut properties.tokens {
        let path = token.path.clone();
        if let TokenText::Derived(text) = &mut token.base {
            *text = named_colors(text, &path, &mut paths, &mut more);
        }
    }
    properties.tokens.extend(more);
    properties
}

/// A text with its literal colours as references to tokens that are made for them.
fn named_colors(text: &str, path: &str, paths: &mut BTreeSet<String>, more: &mut Vec<TokenDraft>) -> String {
    let ranges = colors_in(text);
    let is_pair = text.starts_with("light-dark(") && ranges.len() == 2;
    let (mut written, mut at) = (String::new(), 0);
    for (index, range) in ranges.iter().enumerate() {
        let literal = &text[range.clone()];
        let Some(value) = design_token(literal) else { continue };
        let suffix = match (is_pair, index) {
            (true, 0) => "light".to_owned(),
            (true, _) => "dark".to_owned(),
            (false, 0) if ranges.len() == 1 => "plain".to_owned(),
            (false, index) => format!("{}", index + 1),
        };
        let name = unique(&format!("{path}-{suffix}"), paths);
        written.push_str(&text[at..range.start]);
        written.push_str(&format!("{{{name}}}"));
        at = range.end;
        more.push(TokenDraft { path: name, base: TokenText::Value("color", value), contexts: BTreeMap::new() });
    }
    written.push_str(&text[at..]);
    written
}

/// Where a rule declares custom properties.
enum Where {
    /// On the root, or for a theme: for the whole page.
    Page(Option<(usize, usize)>),
    /// On some elements.
    Elsewhere,
    /// Under a condition that no context has.
    Unclear,
}

/// Attributes that stand beside the root, or that the root must not have, choose contexts as well.
fn name_usual(ground: &Ground, modifiers: &mut Vec<ModifierDraft>) {
    for (at, sheet) in ground.old.all.iter().enumerate() {
        for (index, style) in sheet.parsed.rules.iter().enumerate() {
            let sets_any = style.declarations.iter().any(|one| matches!(one.body, DeclarationBody::Custom(..)));
            let rule = RuleRef { sheet: at, rule: index as u32 };
            let Some(parts) = ground.rule(rule).filter(|parts| sets_any && parts.compounds.len() == 1) else {
                continue;
            };
            let Some(scopes) = scopes(ground, parts.subject()) else { continue };
            let has_root = scopes.iter().any(|scope| matches!(scope, Scope::Root));
            for scope in scopes {
                let (attribute, usual) = match scope {
                    Scope::Usual(attribute, value) if has_root => (attribute, Some(value)),
                    Scope::RootWithout(attribute) => (attribute, None),
                    _ => continue,
                };
                let known = modifiers.iter().position(|modifier| modifier.attribute == attribute);
                let known = known.unwrap_or_else(|| {
                    let word = attribute.strip_prefix("data-").unwrap_or(&attribute);
                    let mut names = modifiers.iter().map(|modifier| modifier.name.clone()).collect();
                    let name = unique(&crate::naming::identifier(word), &mut names);
                    modifiers.push(ModifierDraft::new(name, attribute));
                    modifiers.len() - 1
                });
                if let Some(usual) = usual {
                    modifiers[known].contexts[0].name = usual;
                }
            }
        }
    }
}

/// What a selector of the whole page asks for.
enum Scope {
    Root,
    /// The root where no attribute chooses, by the attribute's name.
    RootWithout(String),
    Theme(usize),
    /// An attribute that stands for what holds anyway, with its value.
    Usual(String, String),
}

fn where_of(ground: &Ground, rule: RuleRef, modifiers: &mut Vec<ModifierDraft>) -> Where {
    let Some(parts) = ground.rule(rule) else { return Where::Unclear };
    if parts.compounds.len() > 1 || parts.pseudo.is_some() {
        return Where::Elsewhere;
    }
    let Some(scopes) = scopes(ground, parts.subject()) else { return Where::Elsewhere };
    let groups = match ground.old.groups(rule) {
        Ok(groups) => groups,
        Err(_) => return Where::Unclear,
    };
    let has_root = scopes.iter().any(|scope| matches!(scope, Scope::Root));
    let counted: Vec<&Scope> = scopes.iter().filter(|scope| !has_root || !matches!(scope, Scope::Usual(..))).collect();
    match (counted.as_slice(), groups.as_slice()) {
        ([Scope::Root], []) => Where::Page(None),
        ([Scope::Theme(theme)], []) => {
            let place = modifiers.iter().enumerate().find_map(|(m, modifier)| {
                let at = modifier.contexts.iter().position(|context| context.theme == Some(*theme))?;
                Some((m, at))
            });
            place.map_or(Where::Unclear, |place| Where::Page(Some(place)))
        }
        ([Scope::Root], [(kind, query)]) if kind == "media" => {
            following(modifiers, query, None).map_or(Where::Unclear, |at| Where::Page(Some(at)))
        }
        ([Scope::RootWithout(attribute)], [(kind, query)]) if kind == "media" => {
            following(modifiers, query, Some(attribute)).map_or(Where::Unclear, |at| Where::Page(Some(at)))
        }
        ([Scope::Usual(attribute, value)], []) => {
            let Some(m) = modifiers.iter().position(|modifier| modifier.attribute == *attribute) else {
                return Where::Elsewhere;
            };
            let contexts = &mut modifiers[m].contexts;
            let at = contexts.iter().position(|context| context.name == *value).unwrap_or_else(|| {
                contexts.push(ContextDraft { name: value.clone(), theme: None, follow: None, mark: None });
                contexts.len() - 1
            });
            Where::Page(if at == 0 { None } else { Some((m, at)) })
        }
        ([Scope::Usual(..)], _) => Where::Elsewhere,
        _ => Where::Unclear,
    }
}

/// The scopes of the whole page that a compound asks for; nothing where it asks for some element of it.
fn scopes(ground: &Ground, subject: &Compound) -> Option<Vec<Scope>> {
    let is_list = |text: &&String| text.starts_with(":where(") || text.starts_with(":is(");
    if let ([list], true) = (subject.others.as_slice(), subject.text() == subject.others.concat())
        && is_list(&list)
    {
        let inner = list.split_once('(')?.1.strip_suffix(')')?;
        let one = |text: &str| -> Option<Scope> {
            let parsed = parse_list(text.trim())?;
            match compounds(parsed.slice().first()?).as_slice() {
                [one] => scope(ground, one),
                _ => None,
            }
        };
        return split_list(inner).into_iter().map(one).collect();
    }
    scope(ground, subject).map(|scope| vec![scope])
}

fn scope(ground: &Ground, subject: &Compound) -> Option<Scope> {
    let left = theme::without(&ground.themes, subject);
    let asks = |index: &usize| theme::asks_for(std::slice::from_ref(&ground.themes[*index]), subject);
    let own: Vec<usize> = (0..ground.themes.len()).filter(asks).collect();
    if !left.classes.is_empty() || !left.ids.is_empty() || !left.states.is_empty() {
        return None;
    }
    let is_root = left.others.iter().any(|other| other == ":root") || left.local.as_deref() == Some("html");
    let others: Vec<&String> = left.others.iter().filter(|other| *other != ":root").collect();
    match (own.as_slice(), left.attributes.as_slice(), others.as_slice()) {
        ([], [], []) if is_root => Some(Scope::Root),
        ([], [], [not]) if is_root => {
            let inner = not.strip_prefix(":not(")?.strip_suffix(')')?;
            let name = |one: &str| -> Option<String> {
                let inner = one.trim().strip_prefix('[')?;
                Some(inner.split(['=', ']']).next()?.to_owned())
            };
            let names: BTreeSet<String> = split_list(inner).into_iter().map(name).collect::<Option<_>>()?;
            let mut names = names.into_iter();
            names.next().filter(|_| names.next().is_none()).map(Scope::RootWithout)
        }
        ([theme], [], []) if matches!(left.local.as_deref(), None | Some("body" | "html")) => {
            Some(Scope::Theme(*theme))
        }
        ([], [attribute], []) if left.local.is_none() => {
            let (name, value) = attribute.trim_matches(['[', ']']).split_once('=')?;
            Some(Scope::Usual(name.to_owned(), value.trim_matches(['"', '\'']).to_owned()))
        }
        _ => None,
    }
}

/// The context that follows a media query, made where it is new.
fn following(modifiers: &mut Vec<ModifierDraft>, query: &str, attribute: Option<&str>) -> Option<(usize, usize)> {
    let at = match attribute {
        Some(attribute) => modifiers.iter().position(|modifier| modifier.attribute == attribute)?,
        // A choice on the page would win over the device: that is another order.
        None if modifiers.iter().any(|modifier| modifier.contexts.iter().any(|context| context.theme.is_some())) => {
            return None;
        }
        None => modifiers.iter().position(|modifier| modifier.name == "device").unwrap_or_else(|| {
            let usual = ContextDraft { name: crate::themes::USUAL.to_owned(), theme: None, follow: None, mark: None };
            modifiers.push(ModifierDraft {
                name: "device".to_owned(),
                attribute: "data-device".to_owned(),
                contexts: vec![usual],
            });
            modifiers.len() - 1
        }),
    };
    let modifier = &mut modifiers[at];
    if let Some(known) = modifier.contexts.iter().position(|context| context.follow.as_deref() == Some(query)) {
        return Some((at, known));
    }
    let wanted = match query {
        query if query.contains("prefers-color-scheme: dark") || query.contains("prefers-color-scheme:dark") => "dark",
        query if query.contains("prefers-contrast") => "contrast",
        _ => "screen",
    };
    let mut names: BTreeSet<String> = modifier.contexts.iter().map(|context| context.name.clone()).collect();
    let name = unique(wanted, &mut names);
    modifier.contexts.push(ContextDraft { name, theme: None, follow: Some(query.to_owned()), mark: None });
    Some((at, modifier.contexts.len() - 1))
}

/// A custom property as a token, by its declarations from the weakest to the strongest.
fn token(ground: &Ground, name: &str, list: &[Definition]) -> Option<TokenDraft> {
    let path = name.strip_prefix("--")?;
    let is_path = !path.is_empty() && path.chars().all(|c| c.is_ascii_alphanumeric() || c == '-' || c == '_');
    if !is_path {
        return None;
    }
    // On pages without the stylesheet it would be there all of a sudden.
    let sheets: BTreeSet<usize> = list.iter().map(|definition| definition.rule.sheet).collect();
    let reads = |sheet: usize| ground.old.all[sheet].texts.iter().any(|text| text.text.contains(name));
    let is_missed = ground
        .old
        .lists
        .iter()
        .any(|list| !sheets.iter().any(|s| list.contains(s)) && list.iter().any(|sheet| reads(*sheet)));
    if is_missed || sheets.len() > 1 {
        return None;
    }
    let base = list.iter().rev().find(|definition| definition.context.is_none())?;
    let mut token = TokenDraft { path: path.to_owned(), base: text_of(&base.value)?, contexts: BTreeMap::new() };
    for definition in list {
        let Some(context) = definition.context else { continue };
        if definition.rank < base.rank {
            return None;
        }
        let text = text_of(&definition.value).filter(|text| !matches!(text, TokenText::Derived(_)))?;
        token.contexts.insert(context, text);
    }
    // A token that CSS computes has one text in all themes.
    if matches!(token.base, TokenText::Derived(_)) && !token.contexts.is_empty() {
        return None;
    }
    // All values are of one type.
    let kind = |text: &TokenText| match text {
        TokenText::Value(kind, _) => Some(*kind),
        _ => None,
    };
    let kinds: BTreeSet<&str> = std::iter::once(&token.base).chain(token.contexts.values()).filter_map(kind).collect();
    (kinds.len() <= 1).then_some(token)
}

/// A value as a token's.
fn text_of(value: &str) -> Option<TokenText> {
    let value = value.trim();
    if let Some(path) = value.strip_prefix("var(--").and_then(|rest| rest.strip_suffix(')'))
        && path.chars().all(|c| c.is_ascii_alphanumeric() || c == '-' || c == '_')
    {
        return Some(TokenText::Alias(path.to_owned()));
    }
    if crate::colors::color(value).is_some() {
        return design_token(value).map(|color| TokenText::Value("color", color)).or_else(|| derived(value));
    }
    if let Some((number, unit)) = measure(value) {
        return match unit {
            "px" | "rem" => Some(TokenText::Value("dimension", json!({ "value": number, "unit": unit }))),
            "ms" | "s" => Some(TokenText::Value("duration", json!({ "value": number, "unit": unit }))),
            "" => Some(TokenText::Value("number", json!(number))),
            _ => derived(value),
        };
    }
    if let Some(families) = families(value) {
        return Some(TokenText::Value("fontFamily", json!(families)));
    }
    derived(value)
}

/// A list of font families, told from other lists by a name in quotes or one that every browser knows (CSS Fonts 4, section 2.1).
fn families(value: &str) -> Option<Vec<String>> {
    let mut is_told = false;
    let name = |text: &str| -> Option<String> {
        let text = text.trim();
        let quoted = ['"', '\''].iter().find_map(|quote| text.strip_prefix(*quote)?.strip_suffix(*quote));
        is_told |= quoted.is_some() || stilk_engine::css::font::GENERIC_FAMILIES.contains(&text);
        let is_plain = |text: &str| text.chars().all(|c| c.is_alphanumeric() || c == '-' || c == '_' || c == ' ');
        let name = quoted.unwrap_or(text);
        (!name.is_empty() && is_plain(name)).then(|| name.to_owned())
    };
    let names: Vec<String> = value.split(',').map(name).collect::<Option<_>>()?;
    is_told.then_some(names)
}

/// What CSS computes: with its references in braces.
fn derived(value: &str) -> Option<TokenText> {
    // A list of words may be anything; `@derive` takes what is a value of some property.
    if value.is_empty() || value.contains(['{', '}', ';', '!', '"', '\'']) || value.contains("url(") {
        return None;
    }
    with_references(value, &|name| Some(Read::Token(name.strip_prefix("--")?.to_owned()))).map(TokenText::Derived)
}

/// A number and its unit.
fn measure(value: &str) -> Option<(f64, &str)> {
    let at = value.find(|c: char| c.is_ascii_alphabetic() || c == '%').unwrap_or(value.len());
    let (number, unit) = value.split_at(at);
    let is_number = number.chars().all(|c| c.is_ascii_digit() || matches!(c, '.' | '-' | '+'));
    let number = number.parse::<f64>().ok().filter(|number| is_number && number.is_finite())?;
    unit.chars().all(|c| c.is_ascii_alphabetic() || c == '%').then_some((number, unit))
}

/// What a custom property is where a value reads it.
pub enum Read {
    /// A token, by its path.
    Token(String),
    /// One of the control's own.
    Local,
    /// Declared nowhere: what stands in its place counts.
    Nowhere,
}

/// A value with `var(--name)` as references to tokens, by what `read` knows of it; nothing where it does not know one, or nothing
/// stands in its place.
pub fn with_references(value: &str, read: &dyn Fn(&str) -> Option<Read>) -> Option<String> {
    let (mut written, mut rest) = (String::new(), value);
    while let Some(at) = rest.find("var(") {
        let inner = &rest[at + 4..];
        let end = inner.find([',', ')'])?;
        let name = inner[..end].trim();
        let mut depth = 1_usize;
        let close = inner.char_indices().find_map(|(i, c)| {
            depth = match c {
                '(' => depth + 1,
                ')' => depth - 1,
                _ => depth,
            };
            (depth == 0).then_some(i)
        })?;
        written.push_str(&rest[..at]);
        match read(name)? {
            // What stands in its place where it is not there never counts: a token is.
            Read::Token(path) => written.push_str(&format!("{{{path}}}")),
            Read::Local => written.push_str(&format!("var({name})")),
            Read::Nowhere => {
                let instead = inner[end..close].strip_prefix(',')?.trim();
                written.push_str(&with_references(instead, read)?);
            }
        }
        rest = &inner[close + 1..];
    }
    written.push_str(rest);
    Some(written)
}

fn references(text: &str) -> Vec<String> {
    text.split('{').skip(1).filter_map(|piece| piece.split_once('}')).map(|(path, _)| path.to_owned()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn values_are_said_in_the_format_or_computed() {
        assert_eq!(text_of("var(--sea)"), Some(TokenText::Alias("sea".into())));
        assert_eq!(text_of(".75rem"), Some(TokenText::Value("dimension", json!({ "value": 0.75, "unit": "rem" }))));
        assert_eq!(text_of("150ms"), Some(TokenText::Value("duration", json!({ "value": 150.0, "unit": "ms" }))));
        assert_eq!(text_of("calc(var(--a) * 2)"), Some(TokenText::Derived("calc({a} * 2)".into())));
        assert_eq!(text_of("2em"), Some(TokenText::Derived("2em".into())));
        assert_eq!(
            text_of("\"Deck Sans\", system-ui, serif"),
            Some(TokenText::Value("fontFamily", json!(["Deck Sans", "system-ui", "serif"])))
        );
        assert_eq!(text_of("url(x.png)"), None);
        assert!(matches!(text_of("#123456"), Some(TokenText::Value("color", _))));
    }

    #[test]
    fn references_stand_in_braces() {
        let known = |name: &str| match name {
            "--sea" => Some(Read::Token("sea".to_owned())),
            "--own" => Some(Read::Local),
            "--gone" => Some(Read::Nowhere),
            _ => None,
        };
        assert_eq!(with_references("1px solid var(--sea)", &known).as_deref(), Some("1px solid {sea}"));
        assert_eq!(with_references("var(--sea, rgb(0 0 0))", &known).as_deref(), Some("{sea}"));
        assert_eq!(
            with_references("var(--own) var(--gone, 1px var(--sea))", &known).as_deref(),
            Some("var(--own) 1px {sea}")
        );
        assert_eq!(with_references("var(--other)", &known), None);
        assert_eq!(with_references("var(--gone)", &known), None);
    }
}
