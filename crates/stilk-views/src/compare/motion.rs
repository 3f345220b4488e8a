//! What moves otherwise and looks the same at rest: keyframes, and what boxes begin from. No case is ever at that moment, so that
//! what is written is compared.

use super::Version;
use std::collections::BTreeMap;
use stilk_language::system::{Control, Rule, System};
use stilk_language::tokens::Expression;

/// Keyframes or beginnings that are others.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Motion {
    /// What moves: ``keyframes `turn` ``, `` `error` of `radio-group` ``.
    pub what: String,
    /// What was written; nothing where it is new.
    pub old: Option<String>,
    /// What is written; nothing where it is gone.
    pub new: Option<String>,
}

impl Motion {
    /// In a sentence.
    pub fn words(&self) -> String {
        let is_begun = !self.what.starts_with("keyframes");
        match (&self.old, &self.new) {
            (Some(_), Some(_)) if !is_begun => format!("{} are others", self.what),
            (Some(_), None) if !is_begun => format!("{} are gone", self.what),
            (None, Some(_)) if !is_begun => format!("{} are new", self.what),
            (Some(old), Some(new)) => format!("{} begins from {new}, no longer from {old}", self.what),
            (Some(old), None) => format!("{} no longer begins from {old}", self.what),
            (None, Some(new)) => format!("{} begins from {new}", self.what),
            (None, None) => self.what.clone(),
        }
    }
}

/// What moves otherwise, in order of its name.
pub fn compare(versions: [&Version; 2]) -> Vec<Motion> {
    let [old, new] = versions.map(|version| written(version.system));
    let names: std::collections::BTreeSet<&String> = old.keys().chain(new.keys()).collect();
    let differing = names.into_iter().filter(|name| old.get(*name) != new.get(*name));
    differing
        .map(|name| Motion { what: name.clone(), old: old.get(name).cloned(), new: new.get(name).cloned() })
        .collect()
}

fn written(system: &System) -> BTreeMap<String, String> {
    let text = |expression: &Expression| {
        let token = &mut |id| format!("{{{}}}", system.tokens.get(id).path);
        let text = expression.write(token, &mut |local| local.to_owned());
        text.split_whitespace().collect::<Vec<_>>().join(" ")
    };
    let keyframes = system.keyframes.iter();
    let mut all: BTreeMap<String, String> =
        keyframes.map(|one| (format!("keyframes `{}`", one.name.value), text(&one.body))).collect();
    for control in &system.controls {
        for rule in control.rules.iter().filter(|rule| rule.is_start()) {
            let declarations = rule.declarations.iter();
            let declared: Vec<String> =
                declarations.map(|one| format!("`{}: {}`", one.name.value, text(&one.value))).collect();
            let known = all.entry(name(system, control, rule)).or_default();
            if !known.is_empty() {
                known.push_str(", ");
            }
            known.push_str(&declared.join(", "));
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
