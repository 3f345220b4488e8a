//! Text on a gradient of which only a part has the contrast that it needs: what lies under the text decides, and with it how
//! large a control is. Sizes are told apart there and nowhere else, or every control with a gradient would be looked at in
//! every size.

use crate::painted::paint::{Sizes, TextPlace, is_split, text_places};
use crate::painted::text::{is_inactive, needed};
use crate::relevance::{Relevance, representatives};
use crate::settings::Variants;
use rustc_hash::{FxHashMap, FxHashSet};
use std::sync::Arc;
use stilk_engine::cascade::{matching, selector};
use stilk_language::case::{Look, LookEngine, Unit};
use stilk_language::system::{BoundDeclaration, Control, Rule, StateSet, System, Variant};
use stilk_language::tokens::Theme;

/// What is done with looks in which a part of a gradient decides.
pub enum Split {
    /// Nothing else than with others: where a check asks, it does not know.
    Unknown,
    /// They are left to those whose sizes are told apart.
    LeftOut,
    /// They alone are looked at, each for its own size: all there are, or those that are known to be.
    Only(Option<Arc<SplitLooks>>),
}

impl Split {
    /// Whether it may be asked where boxes stand.
    pub fn sizes(&self) -> Sizes {
        if matches!(self, Split::Only(_)) { Sizes::Known } else { Sizes::Any }
    }

    /// Whether a variant of a host has to be looked at.
    pub fn has(&self, host: usize, variant: &Variant) -> bool {
        match self {
            Split::Only(Some(known)) => known.of(host, variant).is_some(),
            _ => true,
        }
    }

    /// Whether a look has to be computed: of a variant of a host, by the index of the set of states and of the theme.
    pub fn asks_for(&self, host: usize, variant: &Variant, set: usize, theme: usize) -> bool {
        match self {
            Split::Only(Some(known)) => known.of(host, variant).is_some_and(|looks| looks.contains(&(set, theme))),
            _ => true,
        }
    }

    /// Whether a look that was computed is looked at.
    pub fn takes(&self, states: &StateSet, look: &Look, system: &System) -> bool {
        match self {
            Split::Unknown | Split::Only(Some(_)) => true,
            Split::LeftOut => !is_split_look(system, states, look),
            Split::Only(None) => is_split_look(system, states, look),
        }
    }
}

/// Where looks of a control are such, whatever its size.
pub struct SplitLooks {
    axes: Vec<usize>,
    found: FxHashMap<Key, FxHashSet<(usize, usize)>>,
}

/// A host, and what a variant chooses on some axes; found with it are sets of states and themes, by index.
type Key = (usize, Vec<Option<usize>>);

/// Where such looks are searched: some variants of a control, by host, in all its sets of states.
pub struct SplitSearch<'s> {
    pub system: &'s System,
    pub look_engine: &'s LookEngine<'s>,
    pub control: &'s Control,
    pub among: &'s Variants,
    pub variants: &'s [Vec<Variant>],
    pub sets: &'s [StateSet],
}

impl SplitSearch<'_> {
    /// Looks for them: `whole` is what tells looks apart but for sizes, `sized` with sizes.
    pub fn run(&self, whole: &Relevance, sized: &Relevance) -> SplitLooks {
        let mut found: FxHashMap<Key, FxHashSet<(usize, usize)>> = FxHashMap::default();
        for (host, _) in &sized.hosts {
            let variants = &self.variants[*host];
            for one in representatives(variants, &whole.axes, |variant| self.among.have(variant)) {
                let variant = &variants[one.variant];
                if may_be_drawn(self.control, *host, variant) {
                    let split = self.split_in(*host, variant, sized);
                    found.entry(key(&whole.axes, *host, variant)).or_default().extend(split);
                }
            }
        }
        found.retain(|_, split| !split.is_empty());
        SplitLooks { axes: whole.axes.clone(), found }
    }

    /// The sets of states and the themes, by index, in which a variant is split.
    fn split_in(&self, host: usize, variant: &Variant, sized: &Relevance) -> Vec<(usize, usize)> {
        let all = self.system.tokens.themes();
        let themes: Vec<(usize, &Theme)> = sized.themes.iter().map(|(theme, _)| (*theme, &all[*theme])).collect();
        let unit = Unit { control: self.control, host, variant: variant.clone(), theme: all[0].clone() };
        let mut split = Vec::new();
        for (set, _) in &sized.states {
            let states = &self.sets[*set];
            let looks = self.look_engine.looks_in(&unit, states, themes.iter().map(|(_, theme)| *theme));
            let of_set = themes.iter().zip(looks).filter(|(_, look)| is_split_look(self.system, states, look));
            split.extend(of_set.map(|((theme, _), _)| (*set, *theme)));
        }
        split
    }
}

impl SplitLooks {
    /// The sets of states and the themes of those of a variant.
    fn of(&self, host: usize, variant: &Variant) -> Option<&FxHashSet<(usize, usize)>> {
        self.found.get(&key(&self.axes, host, variant))
    }
}

fn key(axes: &[usize], host: usize, variant: &Variant) -> Key {
    (host, axes.iter().map(|axis| variant.choices[*axis]).collect())
}

/// Whether some text that needs contrast is split in a look.
fn is_split_look(system: &System, states: &StateSet, look: &Look) -> bool {
    let is_split = |place: &TextPlace| {
        let needed = place.style(look).map(|style| needed(system.manifest.conformance, style));
        needed.is_some_and(|needed| is_split(look, place, needed))
    };
    !is_inactive(states) && text_places(look).iter().any(is_split)
}

/// Whether a rule draws a gradient.
fn draws(rule: &Rule) -> bool {
    rule.declarations.iter().any(BoundDeclaration::draws_gradient)
}

/// Whether a variant may have a gradient in some state: only then it counts how large it is.
fn may_be_drawn(control: &Control, host: usize, variant: &Variant) -> bool {
    let template = &control.template;
    let may_match = |text: &String| {
        let list = selector::parse_list(text);
        list.is_none_or(|list| matching::matches(&list, &template.document, template.hosts[host].node))
    };
    control.rules.iter().any(|rule| {
        draws(rule) && variant.has_all(&rule.options) && (rule.hosts.is_empty() || rule.hosts.iter().any(may_match))
    })
}

/// Whether some text of a control is split at rest, in a variant of one option at most.
pub fn has_split_gradient(system: &System, look_engine: &LookEngine, control: &Control) -> bool {
    if !control.rules.iter().any(draws) {
        return false;
    }
    let near = control.variants_near(0);
    let (rest, themes) = (StateSet::default(), system.tokens.themes());
    near.into_iter().any(|variant| {
        let unit = Unit { control, host: 0, variant, theme: themes[0].clone() };
        look_engine.looks_in(&unit, &rest, &themes).any(|look| is_split_look(system, &rest, &look))
    })
}
