//! Themes: what changes many colours at once. An attribute or a class of the root or the body, or what a person's device says.

use crate::rules::Rules;
use crate::site::Site;
use rustc_hash::FxHashMap;
use std::collections::BTreeMap;
use stilk_engine::cascade::compound::Compound;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::{Document, NodeId};

/// What makes a theme.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Mark {
    /// An attribute of the root, or of the body, with its value: `[data-theme="dusk"]`.
    Attribute {
        /// Whether it is one of the body.
        of_body: bool,
        /// Its name.
        name: String,
        /// Its value.
        value: String,
    },
    /// A class of either.
    Class {
        /// Whether it is one of the body.
        of_body: bool,
        /// The class.
        name: String,
    },
}

/// A theme.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Theme {
    /// What makes it.
    pub mark: Mark,
    /// What people call it: the value, or the class.
    pub name: String,
    /// How many rules ask for it.
    pub rules: usize,
    /// The custom properties that it sets.
    pub customs: Vec<String>,
}

impl Theme {
    /// As a selector.
    pub fn selector(&self) -> String {
        match &self.mark {
            Mark::Attribute { of_body, name, value } => {
                format!("{}[{name}=\"{value}\"]", if *of_body { "body" } else { "" })
            }
            Mark::Class { of_body, name } => format!("{}.{name}", if *of_body { "body" } else { "" }),
        }
    }

    /// Puts it on a page. What is there of the same attribute goes.
    pub fn put_on(&self, document: &mut Document) {
        let (root, body) = root_and_body(document);
        let (Mark::Attribute { of_body, .. } | Mark::Class { of_body, .. }) = &self.mark;
        let Some(element) = (if *of_body { body } else { root }).and_then(|node| document.element_mut(node)) else {
            return;
        };
        match &self.mark {
            Mark::Attribute { name, value, .. } => element.set(name, value.clone()),
            Mark::Class { name, .. } => {
                let own = element.attribute("class").unwrap_or_default().to_owned();
                element.set("class", format!("{own} {name}").trim().to_owned());
            }
        }
    }

    /// Takes it off a page.
    pub fn take_off(&self, document: &mut Document) {
        let (root, body) = root_and_body(document);
        let (Mark::Attribute { of_body, .. } | Mark::Class { of_body, .. }) = &self.mark;
        let Some(element) = (if *of_body { body } else { root }).and_then(|node| document.element_mut(node)) else {
            return;
        };
        match &self.mark {
            Mark::Attribute { name, .. } => element.remove(name),
            Mark::Class { name, .. } => {
                let own = element.attribute("class").unwrap_or_default();
                let left: Vec<&str> = own.split_ascii_whitespace().filter(|class| class != name).collect();
                let left = left.join(" ");
                element.set("class", left);
            }
        }
    }

    /// Whether a page has it as it was written.
    pub fn is_on(&self, document: &Document) -> bool {
        let (root, body) = root_and_body(document);
        let (Mark::Attribute { of_body, .. } | Mark::Class { of_body, .. }) = &self.mark;
        let element = (if *of_body { body } else { root }).and_then(|node| document.element(node));
        element.is_some_and(|element| match &self.mark {
            Mark::Attribute { name, value, .. } => element.attribute(name) == Some(value),
            Mark::Class { name, .. } => element.classes.iter().any(|class| **class == **name),
        })
    }
}

fn root_and_body(document: &Document) -> (Option<NodeId>, Option<NodeId>) {
    let root = document.child_elements(Document::ROOT).next();
    let body = root.and_then(|root| {
        document.child_elements(root).find(|node| document.element(*node).is_some_and(|e| e.local() == "body"))
    });
    (root, body)
}

/// Words that name a theme when a class has one of them.
const WORDS: [&str; 12] =
    ["theme", "dark", "light", "night", "day", "dusk", "dawn", "mode", "contrast", "scheme", "skin", "evening"];

/// So many custom properties, or rules with colours, make a theme.
const MANY: usize = 2;

/// The themes that rules of a site ask for, in the order of their names.
pub fn themes(site: &Site, rules: &[Rules]) -> Vec<Theme> {
    // By mark: its rules, the custom properties that it sets, how many rules paint, and whether one paints the page itself.
    let mut found: BTreeMap<Mark, (usize, Vec<String>, usize, bool)> = BTreeMap::new();
    for rule in rules.iter().flat_map(|rules| &rules.all) {
        let Some(outermost) = rule.compounds.last() else { continue };
        let is_alone = rule.compounds.len() == 1;
        for mark in marks(outermost) {
            let paints = rule
                .sets
                .iter()
                .any(|longhand| longhand.is_color() || longhand == L::BoxShadow || longhand == L::BackgroundImage);
            let entry = found.entry(mark).or_default();
            if is_alone {
                entry.1.extend(rule.customs.iter().cloned());
            }
            entry.0 += 1;
            entry.2 += usize::from(paints);
            let is_of_page = is_alone || rule.subject().local.as_deref() == Some("body");
            entry.3 |= is_of_page && (rule.sets.has(L::BackgroundColor) || rule.sets.has(L::Color));
        }
    }
    // What tells kinds of pages apart stands on some of them as they were written, and no other of its like does.
    let mut on_pages: FxHashMap<Mark, usize> = FxHashMap::default();
    if found.values().any(|(_, customs, _, _)| customs.len() < MANY) {
        for page in 0..site.pages.len().min(200) {
            let document = site.document(page);
            for mark in found.keys() {
                let theme = Theme { mark: mark.clone(), name: String::new(), rules: 0, customs: Vec::new() };
                *on_pages.entry(mark.clone()).or_default() += usize::from(theme.is_on(&document));
            }
        }
    }
    let mut themes = Vec::new();
    for (mark, (rules, mut customs, painting, paints_page)) in found {
        customs.sort();
        customs.dedup();
        let name = match &mark {
            Mark::Attribute { value, .. } => value.clone(),
            Mark::Class { name, .. } => name.clone(),
        };
        let about = match &mark {
            Mark::Attribute { name: attribute, value, .. } => format!("{attribute} {value}"),
            Mark::Class { name, .. } => name.clone(),
        };
        let is_named = WORDS
            .iter()
            .any(|word| about.to_ascii_lowercase().split(|c: char| !c.is_alphanumeric()).any(|w| w == *word));
        let is_of_pages = on_pages.get(&mark).is_some_and(|count| *count > 0) && !is_named;
        // A theme that says nothing of the page itself is that of something else: what lies behind is not known there.
        let paints_theme = is_named && painting > 0 || painting > MANY && !is_of_pages;
        let many = customs.len() >= MANY || paints_page && paints_theme;
        if many && !name.is_empty() {
            themes.push(Theme { mark, name, rules, customs });
        }
    }
    themes
}

/// Whether a compound asks for one of some themes.
pub fn asks_for(themes: &[Theme], compound: &Compound) -> bool {
    marks(compound).iter().any(|mark| themes.iter().any(|theme| theme.mark == *mark))
}

/// What a compound asks for whatever the theme is.
pub fn without(themes: &[Theme], compound: &Compound) -> Compound {
    let mut left = compound.clone();
    for mark in marks(compound).iter().filter(|mark| themes.iter().any(|theme| theme.mark == **mark)) {
        match mark {
            Mark::Class { name, .. } => left.classes.retain(|class| class != name),
            Mark::Attribute { name, .. } => {
                left.attributes.retain(|text| !text.trim_start_matches('[').starts_with(&format!("{name}=")));
            }
        }
    }
    left
}

/// What a compound that names the root or the body asks of it.
fn marks(compound: &Compound) -> Vec<Mark> {
    let is_root = compound.others.iter().any(|other| other == ":root") || compound.local.as_deref() == Some("html");
    let of_body = compound.local.as_deref() == Some("body");
    let others = compound.others.iter().filter(|other| *other != ":root").count();
    // `.dark .cta` may be a section of a page; `[data-theme]` is on the root where nothing else is said.
    if others > 0 || !compound.ids.is_empty() || !compound.states.is_empty() {
        return Vec::new();
    }
    if compound.local.is_some() && !is_root && !of_body {
        return Vec::new();
    }
    let mut found = Vec::new();
    for attribute in &compound.attributes {
        let Some((name, value)) = attribute.trim_matches(['[', ']']).split_once('=') else { continue };
        if name.ends_with(['~', '|', '^', '$', '*'])
            || matches!(name, "type" | "lang" | "dir" | "href" | "role" | "class" | "id")
        {
            continue;
        }
        let value = value.trim_matches(['"', '\'']).to_owned();
        let about = name.to_ascii_lowercase();
        let names_theme = WORDS.iter().any(|word| about.split('-').any(|part| part == *word));
        if is_root || of_body || names_theme {
            found.push(Mark::Attribute { of_body, name: name.to_owned(), value });
        }
    }
    let is_plain = compound.local.is_none() && !is_root;
    for class in &compound.classes {
        let names_theme =
            WORDS.iter().any(|word| class.to_ascii_lowercase().split(['-', '_']).any(|part| part == *word));
        if is_root || of_body || is_plain && names_theme && class.to_ascii_lowercase().contains("theme") {
            found.push(Mark::Class { of_body: !is_root, name: class.clone() });
        }
    }
    found
}
