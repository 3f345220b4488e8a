//! When a rule of a control holds, and what it styles.

use std::collections::BTreeSet;
use stilk_language::system::StateSet;

/// What a rule styles.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub struct Target {
    /// A part; the host where there is none.
    pub part: Option<String>,
    /// A pseudo-element with its colons, or nothing.
    pub pseudo: String,
}

/// When it holds. What is not named does not matter.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Default)]
pub struct When {
    /// Options, by their place among all of the control.
    pub options: BTreeSet<usize>,
    /// States that hold together.
    pub states: StateSet,
    /// Hosts on which it may hold, by their place; all where none is named.
    pub hosts: BTreeSet<usize>,
    /// Further conditions on the host, as selectors without the `&`.
    pub nested: BTreeSet<String>,
    /// Conditional rules around it, the outermost first: `media` and its prelude.
    pub groups: Vec<(String, String)>,
    /// Further conditions on the part that is styled, as pseudo-classes.
    pub own: BTreeSet<String>,
    /// Themes, by their place among those of the site.
    pub themes: BTreeSet<usize>,
}

/// What never holds together: options of one axis, themes of one modifier.
#[derive(Debug, Clone, Default)]
pub struct Exclusive {
    /// By option: its axis.
    pub axis_of: Vec<usize>,
    /// By theme: its modifier.
    pub modifier_of: Vec<usize>,
}

impl Exclusive {
    fn one_each(of: &[usize], chosen: &BTreeSet<usize>) -> bool {
        let groups: BTreeSet<usize> = chosen.iter().map(|one| of.get(*one).copied().unwrap_or(*one)).collect();
        groups.len() == chosen.len()
    }
}

impl When {
    /// Whether nothing is asked but what stands around it.
    pub fn is_plain(&self) -> bool {
        *self == When { groups: self.groups.clone(), ..When::default() }
    }

    /// Whether it holds wherever another does.
    pub fn covers(&self, other: &When) -> bool {
        let hosts = self.hosts.is_empty() || !other.hosts.is_empty() && other.hosts.is_subset(&self.hosts);
        hosts
            && self.options.is_subset(&other.options)
            && other.states.covers(&self.states)
            && self.nested.is_subset(&other.nested)
            && self.groups.iter().all(|group| other.groups.contains(group))
            && self.own.is_subset(&other.own)
            && self.themes.is_subset(&other.themes)
    }

    /// When both hold; nothing where they never do.
    pub fn and(&self, other: &When, exclusive: &Exclusive) -> Option<When> {
        let options: BTreeSet<usize> = self.options.union(&other.options).copied().collect();
        let themes: BTreeSet<usize> = self.themes.union(&other.themes).copied().collect();
        let hosts: BTreeSet<usize> = match (self.hosts.is_empty(), other.hosts.is_empty()) {
            (true, _) => other.hosts.clone(),
            (_, true) => self.hosts.clone(),
            _ => self.hosts.intersection(&other.hosts).copied().collect(),
        };
        let no_host = hosts.is_empty() && !(self.hosts.is_empty() && other.hosts.is_empty());
        let apart =
            !Exclusive::one_each(&exclusive.axis_of, &options) || !Exclusive::one_each(&exclusive.modifier_of, &themes);
        let states = self.states.union(&other.states);
        if apart || no_host || states.contradicts_itself() {
            return None;
        }
        let mut groups = self.groups.clone();
        groups.extend(other.groups.iter().filter(|group| !self.groups.contains(group)).cloned());
        Some(When {
            options,
            states,
            hosts,
            nested: self.nested.union(&other.nested).cloned().collect(),
            groups,
            own: self.own.union(&other.own).cloned().collect(),
            themes,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use stilk_language::system::StateId;

    fn when(options: &[usize], states: &[StateId], hosts: &[usize]) -> When {
        When {
            options: options.iter().copied().collect(),
            states: StateSet::of(states.iter().copied()),
            hosts: hosts.iter().copied().collect(),
            ..When::default()
        }
    }

    #[test]
    fn what_asks_for_less_covers_what_asks_for_more() {
        let (all, some) = (when(&[], &[], &[]), when(&[1], &[StateId::Hover], &[0]));
        assert!(all.covers(&some) && !some.covers(&all) && some.covers(&some));
        assert!(when(&[], &[], &[0, 1]).covers(&some) && !when(&[], &[], &[1]).covers(&some));
        assert!(!when(&[], &[], &[0]).covers(&all), "not on every host");
    }

    #[test]
    fn both_hold_together_or_never() {
        let exclusive = Exclusive { axis_of: vec![0, 0, 1], modifier_of: vec![0, 0, 1] };
        let both = when(&[0], &[StateId::Hover], &[]).and(&when(&[2], &[StateId::Focus], &[2]), &exclusive);
        assert_eq!(both, Some(when(&[0, 2], &[StateId::Hover, StateId::Focus], &[2])));
        assert_eq!(when(&[0], &[], &[]).and(&when(&[1], &[], &[]), &exclusive), None, "options of one axis");
        assert_eq!(when(&[], &[], &[0]).and(&when(&[], &[], &[1]), &exclusive), None, "on other hosts");
        let in_theme = |theme: usize| When { themes: BTreeSet::from([theme]), ..When::default() };
        assert_eq!(in_theme(0).and(&in_theme(1), &exclusive), None);
        assert!(in_theme(0).and(&in_theme(2), &exclusive).is_some(), "of two modifiers");
    }
}
