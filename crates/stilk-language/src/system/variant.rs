//! Axes, options and the variants they span.

use super::space::{VariantSpace, chosen};
use crate::mark::Mark;
use std::collections::{BTreeSet, HashSet};
use stilk_engine::dom::NodeId;
use stilk_text::source::{Name, Span};

/// One way in which a control varies.
#[derive(Debug)]
pub struct Axis {
    /// Its name.
    pub name: Name,
    /// Its options.
    pub options: Vec<Name>,
    /// What marks each of them on pages, where that is not the class by the manifest's pattern.
    pub marks: Vec<Option<Mark>>,
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

    /// All variants of a host.
    pub fn space(&self, host: usize) -> VariantSpace {
        VariantSpace::new(self, host)
    }

    /// Every variant that exists on a host, the last axis varying fastest. Where there are more than anybody would list, the
    /// default, each option alone, each two together, and what rules combine.
    pub fn variants(&self, host: usize) -> Vec<Variant> {
        let space = self.space(host);
        space.all().unwrap_or_else(|| self.some_variants(&space))
    }

    /// Of those variants the default one and those that differ from it on one axis, in the same order.
    pub fn variants_near(&self, host: usize) -> Vec<Variant> {
        let (space, default) = (self.space(host), self.default_variant());
        let options = |axis: &Axis| (0..axis.options.len()).map(Some).chain(axis.default.is_none().then_some(None));
        let others = self.axes.iter().enumerate().flat_map(|(index, axis)| {
            let others = options(axis).filter(|choice| *choice != axis.default).collect::<Vec<_>>();
            others.into_iter().map(move |choice| (index, choice))
        });
        let others = others.map(|(axis, choice)| {
            let mut variant = default.clone();
            variant.choices[axis] = choice;
            variant
        });
        let mut found: Vec<Variant> = others.chain([default.clone()]).filter(|variant| space.has(variant)).collect();
        found.sort_by(|one, other| one.choices.cmp(&other.choices));
        found
    }

    fn some_variants(&self, space: &VariantSpace) -> Vec<Variant> {
        const MOST: usize = 2_000;
        let default = self.default_variant();
        let options: Vec<OptionId> = self
            .axes
            .iter()
            .enumerate()
            .flat_map(|(axis, a)| (0..a.options.len()).map(move |option| OptionId { axis, option }))
            .filter(|id| !default.has(*id))
            .collect();
        let mut wanted: Vec<Vec<OptionId>> = vec![Vec::new()];
        wanted.extend(options.iter().map(|option| vec![*option]));
        wanted.extend(self.rules.iter().map(|rule| rule.options.clone()));
        let pairs =
            options.iter().enumerate().flat_map(|(index, one)| options[..index].iter().map(|other| vec![*other, *one]));
        wanted.extend(pairs.take(MOST));
        let mut found: Vec<Variant> = Vec::new();
        let mut known = HashSet::new();
        for options in wanted {
            let choice: Vec<_> = options.iter().map(chosen).collect();
            found.extend(space.nearest(&choice).filter(|variant| known.insert(variant.clone())));
        }
        found
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
    pub fn variant_count(&self, host: usize) -> u64 {
        self.space(host).count()
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
