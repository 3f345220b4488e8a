//! A theme: one choice of context for every modifier.

use super::Tokens;

/// One choice of context for every modifier, by index.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Theme {
    /// A context index per modifier.
    pub contexts: Vec<usize>,
}

impl Tokens {
    /// Every theme, the default of all modifiers among them; the last modifier varies fastest.
    pub fn themes(&self) -> Vec<Theme> {
        let mut themes = vec![Theme { contexts: Vec::new() }];
        for modifier in &self.modifiers {
            themes = themes
                .iter()
                .flat_map(|theme| {
                    (0..modifier.contexts.len()).map(|context| {
                        let mut contexts = theme.contexts.clone();
                        contexts.push(context);
                        Theme { contexts }
                    })
                })
                .collect();
        }
        themes
    }

    /// The theme of all defaults.
    pub fn default_theme(&self) -> Theme {
        Theme { contexts: self.modifiers.iter().map(|m| m.default).collect() }
    }

    /// A theme's name: its contexts, `night` or `night tight`.
    pub fn theme_name(&self, theme: &Theme) -> String {
        let names: Vec<&str> =
            self.modifiers.iter().zip(&theme.contexts).map(|(m, c)| m.contexts[*c].as_str()).collect();
        if names.is_empty() { "default".into() } else { names.join(" ") }
    }
}
