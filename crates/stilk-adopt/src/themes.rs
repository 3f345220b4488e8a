//! Themes as modifiers: what chooses each context, and what follows a person's device.

use crate::ground::Ground;
use crate::naming::{identifier, unique};
use std::collections::BTreeSet;
use stilk_survey::theme::Mark;

/// A context of a modifier.
#[derive(Debug, Clone)]
pub struct ContextDraft {
    /// Its name.
    pub name: String,
    /// The theme that it is, by its place among those of the site.
    pub theme: Option<usize>,
    /// The media query that it follows.
    pub follow: Option<String>,
    /// What chooses it on pages beside the attribute.
    pub mark: Option<String>,
}

/// A modifier.
#[derive(Debug, Clone)]
pub struct ModifierDraft {
    /// Its name.
    pub name: String,
    /// The attribute that chooses a context.
    pub attribute: String,
    /// Its contexts, the usual one first.
    pub contexts: Vec<ContextDraft>,
}

/// What the usual context is called.
pub const USUAL: &str = "usual";

impl ModifierDraft {
    /// One that has nothing but its usual context.
    pub fn new(name: String, attribute: String) -> ModifierDraft {
        let usual = ContextDraft { name: USUAL.to_owned(), theme: None, follow: None, mark: None };
        ModifierDraft { name, attribute, contexts: vec![usual] }
    }
}

/// The modifiers of a site's themes, and for each theme its modifier.
pub fn modifiers(ground: &Ground) -> (Vec<ModifierDraft>, Vec<usize>) {
    let mut modifiers: Vec<(String, ModifierDraft)> = Vec::new();
    let mut of = Vec::new();
    let mut names = BTreeSet::new();
    for (index, theme) in ground.themes.iter().enumerate() {
        let (key, wanted, attribute, mark) = match &theme.mark {
            Mark::Attribute { name, .. } => {
                let word = name.strip_prefix("data-").unwrap_or(name);
                (format!("[{name}]"), identifier(word), Some(name.clone()), None)
            }
            Mark::Class { name, .. } => {
                let stem = name.rsplit_once(['-', '_']).map_or("", |(stem, _)| stem);
                let wanted = if stem.is_empty() { "theme".to_owned() } else { identifier(stem) };
                (format!(".{stem}"), wanted, None, Some(format!(".{name}")))
            }
        };
        let at = modifiers.iter().position(|(known, _)| *known == key).unwrap_or_else(|| {
            let of_theme = identifier(theme.name.rsplit(['-', '_']).next().unwrap_or(&theme.name));
            let name = unique(if names.contains(&wanted) { &of_theme } else { &wanted }, &mut names);
            let attribute = attribute.unwrap_or_else(|| format!("data-{name}"));
            modifiers.push((key, ModifierDraft::new(name, attribute)));
            modifiers.len() - 1
        });
        let modifier = &mut modifiers[at].1;
        let mut known: BTreeSet<String> = modifier.contexts.iter().map(|context| context.name.clone()).collect();
        let wanted = match &theme.mark {
            // An attribute's value is the context.
            Mark::Attribute { value, .. } => value.clone(),
            Mark::Class { name, .. } => identifier(name.rsplit(['-', '_']).next().unwrap_or(name)),
        };
        let name = unique(&wanted, &mut known);
        modifier.contexts.push(ContextDraft { name, theme: Some(index), follow: None, mark });
        of.push(at);
    }
    (modifiers.into_iter().map(|(_, modifier)| modifier).collect(), of)
}
