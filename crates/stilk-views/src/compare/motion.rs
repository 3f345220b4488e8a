//! What moves otherwise and looks the same at rest: keyframes, and what boxes begin from. No case is ever at that moment, so that
//! what is written is compared.

use super::Version;
use std::collections::{BTreeMap, BTreeSet};
use stilk_language::system::{Control, Rule, System};
use stilk_language::tokens::{Expression, Theme};

/// Keyframes or beginnings that are others.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Motion {
    /// Which of the two.
    pub kind: MotionKind,
    /// What moves: ``keyframes `turn` ``, `` `error` of `radio-group` ``.
    pub what: String,
    /// What was written; nothing where it is new.
    pub old: Option<String>,
    /// What is written; nothing where it is gone.
    pub new: Option<String>,
}

/// What moves a box.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum MotionKind {
    /// `@starting-style`.
    Start,
    /// `@keyframes`.
    Keyframes,
}

/// What is written, and what that is in each theme.
#[derive(PartialEq, Eq)]
struct Written {
    text: String,
    in_themes: Vec<String>,
}

impl Motion {
    /// In a sentence.
    pub fn words(&self) -> String {
        let Motion { kind, what, .. } = self;
        match (kind, &self.old, &self.new) {
            (MotionKind::Keyframes, Some(_), Some(_)) => format!("{what} are others"),
            (MotionKind::Keyframes, Some(_), None) => format!("{what} are gone"),
            (MotionKind::Keyframes, None, _) => format!("{what} are new"),
            (MotionKind::Start, Some(old), Some(new)) => format!("{what} begins from {new}, no longer from {old}"),
            (MotionKind::Start, Some(old), None) => format!("{what} no longer begins from {old}"),
            (MotionKind::Start, None, new) => format!("{what} begins from {}", new.as_deref().unwrap_or_default()),
        }
    }
}

/// What moves otherwise, in order of its name.
pub fn compare(versions: [&Version; 2]) -> Vec<Motion> {
    let [old, new] = versions.map(|version| written(version.system));
    let names: BTreeSet<&(MotionKind, String)> = old.keys().chain(new.keys()).collect();
    let differing = names.into_iter().filter(|name| old.get(*name) != new.get(*name));
    let motion = |name: &(MotionKind, String)| {
        let (before, after) = (old.get(name), new.get(name));
        // The same text, and another token: what it is where it is another one.
        let other = before.zip(after).filter(|(before, after)| before.text == after.text);
        let place =
            other.and_then(|(before, after)| before.in_themes.iter().zip(&after.in_themes).position(|(a, b)| a != b));
        let shown = |one: Option<&Written>| one.map(|one| place.map_or(&one.text, |at| &one.in_themes[at]).clone());
        Motion { kind: name.0, what: name.1.clone(), old: shown(before), new: shown(after) }
    };
    differing.map(motion).collect()
}

fn written(system: &System) -> BTreeMap<(MotionKind, String), Written> {
    let themes = system.tokens.themes();
    let plain = |text: String| text.split_whitespace().collect::<Vec<_>>().join(" ");
    let text = |expression: &Expression| {
        let token = &mut |id| format!("{{{}}}", system.tokens.get(id).path);
        plain(expression.write(token, &mut |local| local.to_owned()))
    };
    let in_theme = |expression: &Expression, theme: &Theme| {
        let token = &mut |id| system.tokens.literal(id, theme).unwrap_or_default();
        plain(expression.write(token, &mut |local| local.to_owned()))
    };
    let keyframes = system.keyframes.iter().map(|one| {
        let in_themes = themes.iter().map(|theme| in_theme(&one.body, theme)).collect();
        let name = format!("keyframes `{}`", one.name.value);
        ((MotionKind::Keyframes, name), Written { text: text(&one.body), in_themes })
    });
    let mut all: BTreeMap<(MotionKind, String), Written> = keyframes.collect();
    for control in &system.controls {
        for rule in control.rules.iter().filter(|rule| rule.is_start()) {
            let known = all
                .entry((MotionKind::Start, name(system, control, rule)))
                .or_insert_with(|| Written { text: String::new(), in_themes: vec![String::new(); themes.len()] });
            for declaration in &rule.declarations {
                let add = |to: &mut String, value: String| {
                    let comma = if to.is_empty() { "" } else { ", " };
                    to.push_str(&format!("{comma}`{}: {value}`", declaration.name.value));
                };
                add(&mut known.text, text(&declaration.value));
                for (theme, to) in themes.iter().zip(&mut known.in_themes) {
                    add(to, in_theme(&declaration.value, theme));
                }
            }
        }
    }
    all
}

/// `` `error` of `radio-group` in invalid with inline ``
fn name(system: &System, control: &Control, rule: &Rule) -> String {
    let target = &rule.target;
    let part = target.part.as_deref().unwrap_or_default();
    let before = target.after.as_ref().map(|(other, combinator)| format!("{other} {combinator} ")).unwrap_or_default();
    let element = format!("{before}{part}{}{}", target.condition, target.pseudo);
    let mut name = match element.as_str() {
        "" => format!("`{}`", control.name.value),
        element => format!("`{element}` of `{}`", control.name.value),
    };
    if !rule.states.is_rest() {
        name.push_str(&format!(" in {}", system.states.set_name(&rule.states)));
    }
    let options: Vec<&str> = rule.options.iter().map(|id| control.option_name(*id)).collect();
    if !options.is_empty() {
        name.push_str(&format!(" with {}", options.join(" ")));
    }
    let selectors: Vec<&str> = rule.hosts.iter().chain(&rule.nested).map(String::as_str).collect();
    if !selectors.is_empty() {
        name.push_str(&format!(" on {}", selectors.join(" ")));
    }
    for condition in rule.conditions.iter().filter(|condition| !condition.is_start()) {
        name.push_str(&format!(" under @{} {}", condition.kind, condition.prelude));
    }
    name
}
