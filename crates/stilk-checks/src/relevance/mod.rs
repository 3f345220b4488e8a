//! What a check can tell apart. A check reads some properties; an axis that sets nothing on which they depend gives the same
//! verdict for each of its options, so one variant is computed for all of them, and counted for all. A state that sets
//! nothing on which they depend gives the verdict of the case without it, and of hosts that give all of them the same values
//! one is looked at.

mod axes;
pub mod dependence;
pub mod host_options;
mod hosts;
mod option_reach;
pub mod reads;
pub mod states;
mod themes;

use crate::relevance::dependence::{Properties, Setting, influences, settings};
use crate::relevance::reads::{Colors, Reads, StatesAsked};
use crate::relevance::states::Weighted;
pub use hosts::Hosts;
pub use option_reach::OptionReach;
use std::collections::{BTreeSet, HashMap};
use stilk_engine::cascade::LonghandSet;
use stilk_engine::css::property::Longhand;
use stilk_language::case::LookEngine;
use stilk_language::system::{Control, StateSet, System, Variant};
pub use themes::distinct_themes;

/// What one check can tell apart in a control.
pub struct Relevance {
    /// Axes, by index.
    pub axes: Vec<usize>,
    /// The sets of states to look at, with the number of sets that each stands for.
    pub states: Weighted,
    /// The themes to look in, with the number of themes that each stands for.
    pub themes: Weighted,
    /// The hosts to look at, with the number of hosts that each stands for.
    pub hosts: Weighted,
}

/// What depends on what in a control and in those placed in it.
pub struct Dependence<'s> {
    system: &'s System,
    control: &'s Control,
    settings: Vec<Setting<'s>>,
    /// The themes that are asked for, by index.
    themes: Vec<usize>,
    /// Whether rules ask for the theme around a control.
    asks_for_theme: bool,
}

/// What makes text large, or not (WCAG 2.2, "large scale").
const OF_SIZE: LonghandSet = LonghandSet::of(&[Longhand::FontSize, Longhand::FontWeight]);

impl<'s> Dependence<'s> {
    /// Of a control, in some themes.
    pub fn new(
        system: &'s System,
        look_engine: &LookEngine,
        control: &'s Control,
        themes: Vec<usize>,
    ) -> Dependence<'s> {
        let asks_for_theme = !look_engine.serves_all_themes();
        Dependence { system, control, settings: settings(system, control), themes, asks_for_theme }
    }

    /// What a check can tell apart.
    pub fn relevance(&self, reads: &Reads, sets: &[StateSet], is_never_large: bool, hosts: &Hosts) -> Relevance {
        let unread = if is_never_large && reads.large_text_only { OF_SIZE } else { LonghandSet::default() };
        let read = influences(self.control, reads, &self.settings, unread);
        Relevance {
            axes: axes::relevant_axes(self.control, reads, &self.settings, &read),
            states: states::by_sheets(self.control, reads.states, sets, &self.settings, &read),
            themes: self.relevant_themes(reads.colors, &read),
            hosts: hosts.distinct(&self.settings, &read, reads.laid_out),
        }
    }

    /// The themes to look in, with the number of themes that each stands for, where this of colours counts.
    pub fn themes(&self, reads: &Reads, colors: Colors) -> Weighted {
        self.relevant_themes(colors, &influences(self.control, reads, &self.settings, LonghandSet::default()))
    }

    fn relevant_themes(&self, colors: Colors, read: &Properties) -> Weighted {
        let asks = (self.system, self.asks_for_theme);
        themes::relevant_themes(asks, colors, &self.themes, &self.settings, read)
    }

    /// Whether the default variant and each option alone, at rest, show every size of text that a control has: where one axis
    /// at most sets it, and no state does.
    pub fn shows_all_sizes(&self) -> bool {
        let reads = Reads::values(LonghandSet::of(&[Longhand::FontSize])).in_states(StatesAsked::Each);
        let read = influences(self.control, &reads, &self.settings, LonghandSet::default());
        let setting: Vec<&Setting> = self.settings.iter().filter(|setting| setting.sets_any(&read)).collect();
        let of_own = setting.iter().filter(|setting| std::ptr::eq(setting.control, self.control));
        let axes: BTreeSet<usize> =
            of_own.flat_map(|setting| setting.rule.options.iter().map(|option| option.axis)).collect();
        let is_plain = |setting: &&Setting| setting.rule.states.is_rest() && !setting.asks_more_than_states();
        axes.len() <= 1 && setting.iter().all(is_plain)
    }
}

impl Relevance {
    /// Everything is told apart.
    pub fn all(control: &Control, reads: &Reads, sets: &[StateSet], themes: &[usize]) -> Relevance {
        let states = states::without_sheets(reads.states, sets);
        let each = |count: usize| (0..count).map(|index| (index, 1)).collect();
        let hosts = each(control.template.hosts.len());
        let themes = themes.iter().map(|index| (*index, 1)).collect();
        Relevance { axes: (0..control.axes.len()).collect(), states, themes, hosts }
    }
}

/// A variant that stands for a number of them.
pub struct Representative {
    /// The variant, by index.
    pub variant: usize,
    /// How many look the same to the checks, itself included.
    pub stands_for: u64,
}

/// One variant for each combination of the axes that are told apart, in order, of those that are meant.
pub fn representatives(
    variants: &[Variant],
    axes: &[usize],
    is_meant: impl Fn(&Variant) -> bool,
) -> Vec<Representative> {
    let mut found: Vec<Representative> = Vec::new();
    let mut places: HashMap<Vec<Option<usize>>, usize> = HashMap::new();
    for (index, variant) in variants.iter().enumerate().filter(|(_, variant)| is_meant(variant)) {
        let key = axes.iter().map(|axis| variant.choices[*axis]).collect();
        let place = *places.entry(key).or_insert(found.len());
        match found.get_mut(place) {
            Some(known) => known.stands_for += 1,
            None => found.push(Representative { variant: index, stands_for: 1 }),
        }
    }
    found
}
