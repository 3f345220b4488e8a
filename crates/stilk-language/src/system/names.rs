//! The names that are written: classes, or what else marks a control on pages, and custom properties.

use super::{Control, Mark, OptionId};
use crate::manifest::{Manifest, as_identifier};

/// Makes names by the manifest's patterns; what a sheet marks otherwise has its own.
#[derive(Debug, Clone, Copy)]
pub struct Names<'m> {
    manifest: &'m Manifest,
    controls: &'m [Control],
}

impl<'m> Names<'m> {
    /// Names of a system.
    pub fn new(manifest: &'m Manifest, controls: &'m [Control]) -> Self {
        Names { manifest, controls }
    }

    /// Names of tokens and locals, while no control is bound yet.
    pub fn of_properties(manifest: &'m Manifest) -> Self {
        Names { manifest, controls: &[] }
    }

    fn fill(&self, pattern: &str, control: &str, option: &str, part: &str) -> String {
        let mut name = String::with_capacity(pattern.len() + 16);
        let mut rest = pattern;
        while let Some((before, after)) = rest.split_once('{') {
            name.push_str(before);
            let known = [
                ("prefix", self.manifest.prefix.value.as_str()),
                ("control", control),
                ("option", option),
                ("part", part),
            ];
            let found =
                known.iter().find_map(|(key, value)| Some((value, after.strip_prefix(key)?.strip_prefix('}')?)));
            rest = match found {
                Some((value, after)) => {
                    name.push_str(value);
                    after
                }
                None => {
                    name.push('{');
                    after
                }
            };
        }
        name.push_str(rest);
        name
    }

    fn find(&self, control: &str) -> Option<&'m Control> {
        self.controls.iter().find(|known| known.name.value == control)
    }

    /// What marks a control.
    pub fn control(&self, control: &str) -> Mark {
        let own = self.find(control).and_then(|control| control.mark.clone());
        own.unwrap_or_else(|| Mark::Class(self.fill(&self.manifest.classes.control.value, control, "", "")))
    }

    /// What marks an option.
    pub fn option(&self, control: &Control, id: OptionId) -> Mark {
        let own = control.axes[id.axis].marks[id.option].clone();
        let pattern = &self.manifest.classes.option.value;
        own.unwrap_or_else(|| Mark::Class(self.fill(pattern, &control.name.value, control.option_name(id), "")))
    }

    /// What marks a part.
    pub fn part(&self, control: &str, part: &str) -> Mark {
        let own = self.find(control).and_then(|control| control.part_marks.iter().find(|(name, _)| name == part));
        let pattern = &self.manifest.classes.part.value;
        own.map_or_else(|| Mark::Class(self.fill(pattern, control, "", part)), |(_, mark)| mark.clone())
    }

    /// A token's custom property: `fill.sea` is `--tern-fill-sea`.
    pub fn token(&self, path: &str) -> String {
        let pattern = &self.manifest.stylesheet.property.value;
        let own = pattern.replace("{prefix}", &self.manifest.prefix.value);
        format!("--{}", own.replace("{token}", &css_path(path)))
    }

    /// The private name by which rules read a token that is declared on the hosts.
    pub fn private_token(&self, path: &str) -> String {
        format!("--_{}-{}", self.manifest.prefix.value, css_path(path))
    }

    /// The custom property of a token's constant under one of several modifiers that define it.
    pub fn constant(&self, path: &str, modifier: &str) -> String {
        format!("{}--{}", self.token(path), as_identifier(modifier))
    }

    /// The switch that is on in a context.
    pub fn switch(&self, modifier: &str, context: &str) -> String {
        format!("--{}-on-{}-{}", self.manifest.prefix.value, as_identifier(modifier), as_identifier(context))
    }

    /// A local property's custom property; `local` has its dashes.
    pub fn local(&self, control: &str, local: &str) -> String {
        format!("--{}-{control}-{}", self.manifest.prefix.value, local.trim_start_matches('-'))
    }

    /// An animation's name.
    pub fn keyframes(&self, name: &str) -> String {
        format!("{}-{name}", self.manifest.prefix.value)
    }
}

/// A token's path as CSS has it; a group's own token has the group's name.
fn css_path(path: &str) -> String {
    path.trim_end_matches(crate::tokens::document::ROOT).trim_end_matches('.').replace('.', "-")
}
