//! What of a system is used on pages.

use crate::visit::instance::Instance;
use std::collections::BTreeMap;
use stilk_engine::cascade::{matching, selector};
use stilk_engine::dom::Document;
use stilk_language::dependents::Use;
use stilk_language::system::System;

/// Counts by control, by index.
#[derive(Debug, Default, Clone)]
pub struct Usage {
    /// How often each control occurs.
    pub by_control: BTreeMap<usize, u64>,
    /// How often each option occurs, by control, axis and option; a default counts where it is in force.
    pub options: BTreeMap<(usize, usize, usize), u64>,
    /// How often each variant occurs, by its name.
    pub variants: BTreeMap<String, u64>,
    /// Lasting states in the markup, by control and name.
    pub states: BTreeMap<(usize, String), u64>,
}

/// States that markup says.
const STATES: [(&str, &str, &str); 10] = [
    ("selected", "aria-pressed", "true"),
    ("selected", "aria-selected", "true"),
    ("selected", "aria-current", ""),
    ("checked", "checked", ""),
    ("checked", "aria-checked", "true"),
    ("open", "aria-expanded", "true"),
    ("invalid", "aria-invalid", "true"),
    ("required", "required", ""),
    ("busy", "aria-busy", "true"),
    ("disabled", "disabled", ""),
];

impl Usage {
    /// What the controls of one page use.
    pub fn of(system: &System, document: &Document, instances: &[Instance]) -> Usage {
        let mut usage = Usage::default();
        let of_own: Vec<(&str, selector::List)> = system
            .states
            .own()
            .flat_map(|state| state.selectors.iter().map(|text| (state.name.as_str(), text)))
            .filter_map(|(name, text)| Some((name, selector::parse_list(text)?)))
            .collect();
        for instance in instances {
            *usage.by_control.entry(instance.control).or_default() += 1;
            *usage.variants.entry(instance.name(system)).or_default() += 1;
            for id in instance.variant.options() {
                *usage.options.entry((instance.control, id.axis, id.option)).or_default() += 1;
            }
            for (state, attribute, value) in STATES {
                let has = |node| {
                    let element = document.element(node);
                    let found = element.and_then(|element| element.attribute(attribute));
                    found.is_some_and(|found| value.is_empty() && found != "false" || found == value)
                };
                if has(instance.node) || instance.bearer != instance.node && has(instance.bearer) {
                    *usage.states.entry((instance.control, state.to_owned())).or_default() += 1;
                }
            }
            for (name, list) in &of_own {
                let has = |node| matching::matches(list, document, node);
                if has(instance.node) || has(instance.bearer) {
                    *usage.states.entry((instance.control, (*name).to_owned())).or_default() += 1;
                }
            }
        }
        usage
    }

    /// Adds another page's.
    pub fn add(&mut self, other: &Usage) {
        for (key, count) in &other.by_control {
            *self.by_control.entry(*key).or_default() += count;
        }
        for (key, count) in &other.options {
            *self.options.entry(*key).or_default() += count;
        }
        for (key, count) in &other.variants {
            *self.variants.entry(key.clone()).or_default() += count;
        }
        for (key, count) in &other.states {
            *self.states.entry(key.clone()).or_default() += count;
        }
    }

    /// How many controls there are.
    pub fn controls(&self) -> u64 {
        self.by_control.values().sum()
    }

    /// Options that no page uses, as `button.outline`; controls that none uses, by their name alone.
    pub fn unused(&self, system: &System) -> Vec<String> {
        let mut unused = Vec::new();
        for (index, control) in system.controls.iter().enumerate() {
            if !self.by_control.contains_key(&index) {
                unused.push(control.name.value.clone());
                continue;
            }
            for (axis, options) in control.axes.iter().enumerate() {
                for (option, name) in options.options.iter().enumerate() {
                    if !self.options.contains_key(&(index, axis, option)) {
                        unused.push(format!("{}.{}", control.name.value, name.value));
                    }
                }
            }
        }
        unused
    }
}

/// Whether a control on a page shows a declaration that uses the token, in some state.
pub fn touches(system: &System, uses: &[Use], instance: &Instance) -> bool {
    let control = &system.controls[instance.control];
    uses.iter().any(|u| std::ptr::eq(u.control, control) && u.rule.options.iter().all(|id| instance.variant.has(*id)))
}
