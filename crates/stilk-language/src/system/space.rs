//! All variants of a control on a host, without writing them down: axes that no exclusion ties together are independent, and
//! what is independent is multiplied by counting, never by listing.

use super::Control;
use super::variant::{Exclude, OptionId, Variant};
use crate::limits::MAX_TIED;

/// So many variants are listed; of more, those that say something.
const LISTED: u64 = 32_768;

/// So many combinations of options are looked at where all variants would be too many.
const TOGETHER: u64 = 4_096;

/// So many combinations are looked at where all of them would be too many.
const SAMPLED: usize = 20_000;

/// The variants of a host.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct VariantSpace {
    default: Variant,
    groups: Vec<Group>,
    /// The group of each axis.
    group_of: Vec<usize>,
}

/// Axes that exclusions tie together, and every choice on them that exists.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Group {
    axes: Vec<usize>,
    choices: Vec<Vec<Option<usize>>>,
}

/// A choice on some axes.
pub type Partial = [(usize, Option<usize>)];

/// The same as it is made.
pub type Choice = Vec<(usize, Option<usize>)>;

impl VariantSpace {
    /// The variants of a control on a host. Where exclusions tie too many together, which is refused when the control is read,
    /// nothing is excluded.
    pub fn new(control: &Control, host: usize) -> VariantSpace {
        let (mut groups, group_of) = Group::of_axes(control, host);
        let excludes: Vec<&Exclude> = of_host(control, host).collect();
        let default = control.default_variant();
        for (index, group) in groups.iter_mut().enumerate() {
            let own =
                excludes.iter().filter(|exclude| exclude.axes().next().is_some_and(|axis| group_of[axis] == index));
            group.choices = choices(control, host, &group.axes, &own.copied().collect::<Vec<_>>(), &default);
        }
        VariantSpace { default, groups, group_of }
    }

    /// Whether exclusions tie more combinations together than can be listed.
    pub fn is_too_tied(control: &Control, host: usize) -> bool {
        let tied =
            |group: &Group| group.axes.len() > 1 && product(control, group.axes.iter().copied()) > MAX_TIED as u64;
        Group::of_axes(control, host).0.iter().any(tied)
    }

    /// How many there are.
    pub fn count(&self) -> u64 {
        self.count_with(&[])
    }

    /// How many there are with a choice on some axes.
    pub fn count_with(&self, choice: &Partial) -> u64 {
        let counts = self.groups.iter().map(|group| group.with(choice).count() as u64);
        counts.fold(1, u64::saturating_mul)
    }

    /// The variant that is nearest to the default with a choice on some axes; nothing where none exists.
    pub fn nearest(&self, choice: &Partial) -> Option<Variant> {
        let mut variant = self.default.clone();
        for group in &self.groups {
            let far = |choices: &&Vec<Option<usize>>| {
                group
                    .axes
                    .iter()
                    .zip(choices.iter())
                    .filter(|(axis, own)| self.default.choices[**axis] != **own)
                    .count()
            };
            let nearest = group.with(choice).min_by_key(far)?;
            for (axis, own) in group.axes.iter().zip(nearest) {
                variant.choices[*axis] = *own;
            }
        }
        Some(variant)
    }

    /// Whether a variant exists.
    pub fn has(&self, variant: &Variant) -> bool {
        self.groups.iter().all(|group| group.has(variant))
    }

    /// Every variant, the last axis varying fastest; where there are too many, nothing.
    pub fn all(&self) -> Option<Vec<Variant>> {
        if self.count() > LISTED {
            return None;
        }
        let mut all = vec![self.default.clone()];
        for axis in 0..self.group_of.len() {
            let options = self.options(axis);
            all = all
                .into_iter()
                .flat_map(|before| {
                    options.iter().map(move |option| {
                        let mut variant = before.clone();
                        variant.choices[axis] = *option;
                        variant
                    })
                })
                // What exclusions tie together is decided where the last of its axes has a choice.
                .filter(|variant| {
                    let group = &self.groups[self.group_of[axis]];
                    group.axes.last() != Some(&axis) || group.axes.len() == 1 || group.has(variant)
                })
                .collect();
        }
        Some(all)
    }

    /// The choices on some axes that exist together with a choice on others, and whether these are all of them: of too many,
    /// those in which at most three axes differ from the default, or two where even those are too many.
    pub fn combinations(&self, axes: &[usize], with: &Partial) -> (Vec<Choice>, bool) {
        let free: Vec<usize> =
            axes.iter().copied().filter(|axis| !with.iter().any(|(known, _)| known == axis)).collect();
        let options: Vec<Vec<Option<usize>>> = free.iter().map(|axis| self.options(*axis)).collect();
        let all = options.iter().map(|options| options.len() as u64).fold(1, u64::saturating_mul);
        let exists = |choice: &Choice| self.count_with(choice) > 0;
        if all <= TOGETHER {
            let mut found = vec![with.to_vec()];
            for (axis, options) in free.iter().zip(&options) {
                found = found
                    .into_iter()
                    .flat_map(|before| options.iter().map(move |option| [&before[..], &[(*axis, *option)]].concat()))
                    .collect();
            }
            found.retain(exists);
            return (found, true);
        }
        let usual: Choice = free.iter().map(|axis| (*axis, self.default.choices[*axis])).collect();
        let mut found: Vec<Choice> = vec![[with, &usual[..]].concat()];
        let mut last: Vec<(usize, Choice)> = vec![(0, found[0].clone())];
        for _ in 0..3 {
            let mut next = Vec::new();
            for (from, choice) in &last {
                for (at, axis) in free.iter().enumerate().skip(*from) {
                    for option in options[at].iter().filter(|option| **option != self.default.choices[*axis]) {
                        let mut choice = choice.clone();
                        choice[with.len() + at].1 = *option;
                        next.push((at + 1, choice));
                    }
                }
                if next.len() > SAMPLED {
                    break;
                }
            }
            if found.len() + next.len() > SAMPLED {
                break;
            }
            found.extend(next.iter().map(|(_, choice)| choice.clone()));
            last = next;
        }
        found.retain(exists);
        (found, false)
    }

    fn options(&self, axis: usize) -> Vec<Option<usize>> {
        let group = &self.groups[self.group_of[axis]];
        let Some(place) = group.axes.iter().position(|own| *own == axis) else { return Vec::new() };
        let mut options: Vec<Option<usize>> = group.choices.iter().map(|choices| choices[place]).collect();
        options.sort_unstable();
        options.dedup();
        options
    }
}

impl Group {
    /// The groups of a host's axes, without their choices, and the group of each axis.
    fn of_axes(control: &Control, host: usize) -> (Vec<Group>, Vec<usize>) {
        let all = &control.axes;
        let mut group_of: Vec<usize> = (0..all.len()).collect();
        for exclude in of_host(control, host) {
            let tied: Vec<usize> = exclude.axes().map(|axis| group_of[axis]).collect();
            let first = tied.iter().copied().min().unwrap_or_default();
            group_of.iter_mut().filter(|group| tied.contains(group)).for_each(|group| *group = first);
        }
        let mut groups: Vec<Group> = Vec::new();
        let mut places = vec![usize::MAX; all.len()];
        for axis in 0..all.len() {
            if places[group_of[axis]] == usize::MAX {
                places[group_of[axis]] = groups.len();
                groups.push(Group { axes: Vec::new(), choices: Vec::new() });
            }
            groups[places[group_of[axis]]].axes.push(axis);
            group_of[axis] = places[group_of[axis]];
        }
        (groups, group_of)
    }

    fn has(&self, variant: &Variant) -> bool {
        let own: Vec<Option<usize>> = self.axes.iter().map(|axis| variant.choices[*axis]).collect();
        // They were listed in order.
        self.choices.binary_search(&own).is_ok()
    }

    /// Its choices that hold what is chosen.
    fn with<'g>(&'g self, choice: &'g Partial) -> impl Iterator<Item = &'g Vec<Option<usize>>> {
        let wanted: Vec<(usize, Option<usize>)> = choice
            .iter()
            .filter_map(|(axis, option)| Some((self.axes.iter().position(|own| own == axis)?, *option)))
            .collect();
        self.choices.iter().filter(move |choices| wanted.iter().all(|(place, option)| choices[*place] == *option))
    }
}

impl Exclude {
    /// The axes that it ties together.
    pub fn axes(&self) -> impl Iterator<Item = usize> {
        self.options.iter().chain(&self.with).chain(&self.without).map(|id| id.axis)
    }
}

/// The exclusions that count on a host.
fn of_host(control: &Control, host: usize) -> impl Iterator<Item = &Exclude> {
    control.excludes.iter().filter(move |exclude| exclude.hosts.as_ref().is_none_or(|hosts| hosts.contains(&host)))
}

/// How many combinations the options of some axes have.
fn product(control: &Control, axes: impl IntoIterator<Item = usize>) -> u64 {
    let options = axes.into_iter().map(|axis| {
        let axis = &control.axes[axis];
        axis.options.len() as u64 + u64::from(axis.default.is_none())
    });
    options.fold(1, u64::saturating_mul)
}

fn choices(
    control: &Control,
    host: usize,
    axes: &[usize],
    excludes: &[&Exclude],
    default: &Variant,
) -> Vec<Vec<Option<usize>>> {
    let all = product(control, axes.iter().copied());
    let too_many = all > MAX_TIED as u64;
    let options: Vec<Vec<Option<usize>>> = axes
        .iter()
        .map(|axis| {
            let axis = &control.axes[*axis];
            let none = axis.default.is_none().then_some(None);
            none.into_iter().chain((0..axis.options.len()).map(Some)).collect()
        })
        .collect();
    // In order, the last axis varying fastest; one variant is turned on as a counter is.
    let mut found = Vec::new();
    let mut places = vec![0; axes.len()];
    let mut variant = default.clone();
    for (axis, options) in axes.iter().zip(&options) {
        let Some(first) = options.first() else { return found };
        variant.choices[*axis] = *first;
    }
    for _ in 0..all.min(MAX_TIED as u64) {
        if too_many || !excludes.iter().any(|exclude| exclude.covers(&variant, host)) {
            found.push(axes.iter().map(|axis| variant.choices[*axis]).collect());
        }
        for (at, axis) in axes.iter().enumerate().rev() {
            places[at] = (places[at] + 1) % options[at].len();
            variant.choices[*axis] = options[at][places[at]];
            if places[at] > 0 {
                break;
            }
        }
    }
    found
}

/// An option as a choice on its axis.
pub fn chosen(option: &OptionId) -> (usize, Option<usize>) {
    (option.axis, Some(option.option))
}
