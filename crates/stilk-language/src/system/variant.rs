//! Axes, options and the variants they span.

use std::collections::BTreeSet;
use stilk_engine::dom::NodeId;
use stilk_text::source::{Name, Span};

/// One way in which a control varies.
#[derive(Debug)]
pub struct Axis {
    /// Its name.
    pub name: Name,
    /// Its options.
    pub options: Vec<Name>,
    /// The option that holds when none is chosen; `None` where none may.
    pub default: Option<usize>,
}

/// One option of one axis.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct OptionId {
    /// Index of the axis.
    pub axis: usize,
    /// Index of the option in it.
    pub option: usize,
}

/// One choice on every axis; `None` where an optional axis has none.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct Variant {
    /// A choice per axis.
    pub choices: Vec<Option<usize>>,
}

/// Variants that do not exist.
#[derive(Debug)]
pub struct Exclude {
    /// Any of these …
    pub options: Vec<OptionId>,
    /// … with any of these, when there are any …
    pub with: Vec<OptionId>,
    /// … without all of these, when there are any …
    pub without: Vec<OptionId>,
    /// … on these hosts, by index; `None` for all.
    pub hosts: Option<Vec<usize>>,
    /// Where it stands.
    pub span: Span,
}

impl Variant {
    /// On how many axes two variants differ.
    pub fn distance(&self, other: &Variant) -> usize {
        self.choices.iter().zip(&other.choices).filter(|(own, other)| own != other).count()
    }

    /// Whether an option is chosen.
    pub fn has(&self, id: OptionId) -> bool {
        self.choices[id.axis] == Some(id.option)
    }

    /// Whether all options of a combination are chosen.
    pub fn has_all(&self, options: &[OptionId]) -> bool {
        options.iter().all(|option| self.has(*option))
    }

    /// The chosen options.
    pub fn options(&self) -> impl Iterator<Item = OptionId> {
        self.choices.iter().enumerate().filter_map(|(axis, choice)| choice.map(|option| OptionId { axis, option }))
    }
}

impl Exclude {
    /// Whether a variant on a host is excluded.
    pub fn covers(&self, variant: &Variant, host: usize) -> bool {
        let any = |list: &[OptionId]| list.iter().any(|id| variant.has(*id));
        self.hosts.as_ref().is_none_or(|hosts| hosts.contains(&host))
            && any(&self.options)
            && (self.with.is_empty() || any(&self.with))
            && (self.without.is_empty() || !any(&self.without))
    }
}

impl super::Control {
    /// An option's name.
    pub fn option_name(&self, id: OptionId) -> &str {
        &self.axes[id.axis].options[id.option].value
    }

    /// The option with this name.
    pub fn find_option(&self, name: &str) -> Option<OptionId> {
        self.axes.iter().enumerate().find_map(|(axis, a)| {
            let option = a.options.iter().position(|o| o.value == name)?;
            Some(OptionId { axis, option })
        })
    }

    /// The options, any of which brings an element of the template; none where it is always there, or the page decides.
    pub fn options_that_bring(&self, node: NodeId) -> Vec<OptionId> {
        let list = self.template.document.element(node).and_then(|element| element.attribute("data-when"));
        list.unwrap_or_default().split_ascii_whitespace().filter_map(|name| self.find_option(name)).collect()
    }

    /// The variant of a host without option classes.
    pub fn default_variant(&self) -> Variant {
        Variant { choices: self.axes.iter().map(|axis| axis.default).collect() }
    }

    /// Every variant that exists on a host; the last axis varies fastest.
    pub fn variants(&self, host: usize) -> Vec<Variant> {
        let mut variants = Vec::new();
        self.each_variant(host, &mut |variant| variants.push(variant.clone()));
        variants
    }

    /// Of the variants of a host, by index: the default, each option alone, and the nearest of what a rule combines.
    pub fn with_one_option(&self, default: &Variant, variants: &[Variant]) -> Vec<usize> {
        let mut found: BTreeSet<usize> =
            variants.iter().enumerate().filter(|(_, v)| default.distance(v) <= 1).map(|(index, _)| index).collect();
        for rule in &self.rules {
            found.extend(variants.iter().position(|variant| variant.has_all(&rule.options)));
        }
        found.into_iter().collect()
    }

    /// How many variants exist on a host.
    pub fn variant_count(&self, host: usize) -> usize {
        let mut count = 0;
        self.each_variant(host, &mut |_| count += 1);
        count
    }

    fn each_variant(&self, host: usize, visit: &mut dyn FnMut(&Variant)) {
        // An exclusion is decided as soon as the last axis that it names has a choice: whole branches fall away.
        let last = |exclude: &Exclude| {
            exclude.options.iter().chain(&exclude.with).chain(&exclude.without).map(|id| id.axis).max().unwrap_or(0)
        };
        let mut decided: Vec<Vec<&Exclude>> = vec![Vec::new(); self.axes.len()];
        let of_host = |exclude: &&Exclude| exclude.hosts.as_ref().is_none_or(|hosts| hosts.contains(&host));
        for exclude in self.excludes.iter().filter(of_host) {
            if let Some(list) = decided.get_mut(last(exclude)) {
                list.push(exclude);
            }
        }
        let mut variant = Variant { choices: vec![None; self.axes.len()] };
        self.choose(0, host, &decided, &mut variant, visit);
    }

    fn choose(
        &self,
        axis: usize,
        host: usize,
        decided: &[Vec<&Exclude>],
        variant: &mut Variant,
        visit: &mut dyn FnMut(&Variant),
    ) {
        let Some(current) = self.axes.get(axis) else { return visit(variant) };
        let none = current.default.is_none().then_some(None);
        for choice in none.into_iter().chain((0..current.options.len()).map(Some)) {
            variant.choices[axis] = choice;
            if !decided[axis].iter().any(|exclude| exclude.covers(variant, host)) {
                self.choose(axis + 1, host, decided, variant, visit);
            }
        }
        variant.choices[axis] = None;
    }

    /// The options of a variant that need a class: those that are no default.
    pub fn spoken_options<'v>(&'v self, variant: &'v Variant) -> impl Iterator<Item = OptionId> + 'v {
        variant.options().filter(|id| self.axes[id.axis].default != Some(id.option))
    }

    /// A case's name: `button@a.alarm.small`.
    pub fn variant_name(&self, host: usize, variant: &Variant) -> String {
        let mut name = self.name.value.clone();
        if host > 0 {
            name.push('@');
            name.push_str(&self.template.hosts[host].name);
        }
        for id in self.spoken_options(variant) {
            name.push('.');
            name.push_str(self.option_name(id));
        }
        name
    }
}
