//! Custom properties of the page as tokens: those that are declared for the whole page and its themes, and nowhere in a control.

use crate::colors::{colors_in, design_token};
use crate::ground::Ground;
use crate::naming::unique;
use crate::old::RuleRef;
use crate::outline::declaration;
use crate::themes::{ContextDraft, ModifierDraft};
use serde_json::{Value as Json, json};
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::ranking::Rank;
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
    let mut definitions: BTreeMap<String, Vec<Definition>> = BTreeMap::new();
    let mut refused: BTreeSet<String> = BTreeSet::new();
    for (at, sheet) in ground.old.all.iter().enumerate() {
        refused.extend(sheet.parsed.registered.iter().map(|(registered, _)| registered.name.to_string()));
        for (index, style) in sheet.parsed.rules.iter().enumerate() {
            let rule = RuleRef { sheet: at, rule: index as u32 };
            for one in style.declarations.iter() {
                let DeclarationBody::Custom(name, _) = &one.body else { continue };
                let name = name.to_string();
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
    let mut properties = Properties::default();
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

fn where_of(ground: &Ground, rule: RuleRef, modifiers: &mut Vec<ModifierDraft>) -> Where {
    let Some(parts) = ground.rule(rule) else { return Where::Unclear };
    let subject = parts.subject();
    let left = theme::without(&ground.themes, subject);
    let asks = |index: &usize| theme::asks_for(std::slice::from_ref(&ground.themes[*index]), subject);
    let own: Vec<usize> = (0..ground.themes.len()).filter(asks).collect();
    let names_root = |other: &String| other == ":root" || other.starts_with(":not([");
    let is_root = left.classes.is_empty()
        && left.ids.is_empty()
        && left.attributes.is_empty()
        && left.states.is_empty()
        && left.others.iter().all(names_root)
        && (left.others.iter().any(|other| other == ":root") || left.local.as_deref() == Some("html"));
    let is_theme = own.len() == 1 && matches!(left.local.as_deref(), None | Some("body" | "html"));
    if parts.compounds.len() > 1 || parts.pseudo.is_some() || !is_root && !is_theme {
        return Where::Elsewhere;
    }
    let groups = match ground.old.groups(rule) {
        Ok(groups) => groups,
        Err(_) => return Where::Unclear,
    };
    let refused = left.others.iter().find(|other| other.starts_with(":not(["));
    match (own.as_slice(), groups.as_slice(), refused) {
        ([], [], None) => Where::Page(None),
        ([theme], [], None) => {
            let place = modifiers.iter().enumerate().find_map(|(m, modifier)| {
                let at = modifier.contexts.iter().position(|context| context.theme == Some(*theme))?;
                Some((m, at))
            });
            place.map_or(Where::Unclear, |place| Where::Page(Some(place)))
        }
        ([], [(kind, query)], refused) if kind == "media" => {
            let attribute = refused.map(|other| other.trim_start_matches(":not([").trim_end_matches("])").to_owned());
            following(modifiers, query, attribute.as_deref()).map_or(Where::Unclear, |at| Where::Page(Some(at)))
        }
        _ => Where::Unclear,
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
    derived(value)
}

/// What CSS computes: with its references in braces.
fn derived(value: &str) -> Option<TokenText> {
    // A list of words may be anything; `@derive` takes what is a value of some property.
    if value.is_empty() || value.contains(['{', '}', ';', '!', '"', '\'']) || value.contains("url(") {
        return None;
    }
    with_references(value, &|name| Some(name.trim_start_matches('-').to_owned())).map(TokenText::Derived)
}

/// A number and its unit.
fn measure(value: &str) -> Option<(f64, &str)> {
    let at = value.find(|c: char| c.is_ascii_alphabetic() || c == '%').unwrap_or(value.len());
    let (number, unit) = value.split_at(at);
    let is_number = number.chars().all(|c| c.is_ascii_digit() || matches!(c, '.' | '-' | '+'));
    let number = number.parse::<f64>().ok().filter(|number| is_number && number.is_finite())?;
    unit.chars().all(|c| c.is_ascii_alphabetic() || c == '%').then_some((number, unit))
}

/// A value with `var(--name)` as references to tokens, where `token` knows one; nothing where it does not.
pub fn with_references(value: &str, token: &dyn Fn(&str) -> Option<String>) -> Option<String> {
    let (mut written, mut rest) = (String::new(), value);
    while let Some(at) = rest.find("var(") {
        let inner = &rest[at + 4..];
        let end = inner.find([',', ')'])?;
        let name = inner[..end].trim();
        // What stands in its place where it is not there never counts: a token is.
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
        written.push_str(&format!("{{{}}}", token(name)?));
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
        assert_eq!(text_of("url(x.png)"), None);
        assert!(matches!(text_of("#123456"), Some(TokenText::Value("color", _))));
    }

    #[test]
    fn references_stand_in_braces() {
        let known = |name: &str| (name == "--sea").then(|| "sea".to_owned());
        assert_eq!(with_references("1px solid var(--sea)", &known).as_deref(), Some("1px solid {sea}"));
        assert_eq!(with_references("var(--sea, rgb(0 0 0))", &known).as_deref(), Some("{sea}"));
        assert_eq!(with_references("var(--other)", &known), None);
    }
}
