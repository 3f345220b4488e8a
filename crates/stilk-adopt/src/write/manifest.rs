//! The manifest.

use crate::draft::OwnStates;
use crate::themes::ModifierDraft;

/// What the manifest says.
pub struct Asked<'m> {
    /// The system's name.
    pub name: &'m str,
    /// What classes of its own begin with.
    pub prefix: &'m str,
    /// The modifiers.
    pub modifiers: &'m [ModifierDraft],
    /// The states.
    pub own: &'m OwnStates,
    /// The token of what pages are filled with.
    pub surface: Option<&'m str>,
    /// Whether custom properties of the page became tokens.
    pub keeps_properties: bool,
    /// Whether rules stand in layers.
    pub layers: bool,
}

/// Its text.
pub fn write(asked: &Asked) -> String {
    let tokens = match asked.modifiers.is_empty() {
        true => super::tokens::BASE.to_owned(),
        false => super::tokens::resolver_path(asked.name),
    };
    let mut text =
        format!("[system]\nname = {}\nprefix = \"{}\"\ntokens = \"{tokens}\"\n", quoted(asked.name), asked.prefix);
    for modifier in asked.modifiers {
        text.push_str(&format!("\n[modifiers.{}]\nattribute = {}\n", key(&modifier.name), quoted(&modifier.attribute)));
        let marked: Vec<String> = modifier
            .contexts
            .iter()
            .filter_map(|context| Some(format!("{} = {}", key(&context.name), quoted(context.mark.as_deref()?))))
            .collect();
        if !marked.is_empty() {
            text.push_str(&format!("marked = {{ {} }}\n", marked.join(", ")));
        }
        let follow: Vec<String> = modifier
            .contexts
            .iter()
            .filter_map(|context| Some(format!("[{}, {}]", quoted(&context.name), quoted(context.follow.as_deref()?))))
            .collect();
        if !follow.is_empty() {
            text.push_str(&format!("follow = [{}]\n", follow.join(", ")));
        }
    }
    if let Some(surface) = asked.surface {
        text.push_str(&format!("\n[surfaces]\npage = \"{{{surface}}}\"\n"));
    }
    text.push_str("\n[stylesheet]\n");
    text.push_str(&format!("layers = {}\n", asked.layers));
    if asked.keeps_properties {
        text.push_str("property = \"{token}\"                 # custom properties keep the names that pages know\n");
        text.push_str("tokens = \"all\"\n");
    }
    text.push_str("# What Stilk adds everywhere else, and would change how the pages look: take a word away when you want what it stands for.\n");
    let mut words = vec!["reset", "motion", "hover"];
    if asked.own.plain_focus {
        words.push("focus");
    }
    words.push("blocked");
    let words: Vec<String> = words.into_iter().map(quoted).collect();
    text.push_str(&format!("as_written = [{}]\n", words.join(", ")));
    if !asked.own.list.is_empty() {
        text.push_str("\n[states]\n");
        for (name, selector) in &asked.own.list {
            text.push_str(&format!("{} = {}\n", key(name), quoted(selector)));
        }
    }
    text
}

fn key(name: &str) -> String {
    let is_bare = !name.is_empty() && name.chars().all(|c| c.is_ascii_alphanumeric() || c == '-' || c == '_');
    if is_bare { name.to_owned() } else { quoted(name) }
}

fn quoted(text: &str) -> String {
    format!("\"{}\"", text.replace('\\', "\\\\").replace('"', "\\\""))
}
