//! Text on a gradient of which only a part has the contrast that it needs: what lies under the text decides, and with it how
//! large a control is. Sizes are told apart there and nowhere else, or every control with a gradient would be looked at in
//! every size.

use crate::painted::paint::{Sizes, TextPlace, is_split, text_places};
use crate::painted::text::{is_inactive, needed};
use crate::relevance::{Relevance, representatives};
use crate::settings::Variants;
use rustc_hash::{FxHashMap, FxHashSet};
use std::sync::Arc;
use stilk_engine::cascade::selector;
use stilk_language::case::{Look, Stage, Unit};
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

impl SplitLooks {
    /// Looks for them among some variants, by host: `whole` is what tells looks apart but for sizes, `sized` with sizes.
    pub fn new(
        system: &System,
        stage: &Stage,
        (control, among): (&Control, &Variants),
        (variants, sets): (&[Vec<Variant>], &[StateSet]),
        (whole, sized): (&Relevance, &Relevance),
    ) -> SplitLooks {
        let all = system.tokens.themes();
        let themes: Vec<(usize, &Theme)> = sized.themes.iter().map(|(theme, _)| (*theme, &all[*theme])).collect();
        let mut found: FxHashMap<Key, FxHashSet<(usize, usize)>> = FxHashMap::default();
        for (host, _) in &sized.hosts {
            let variants = &variants[*host];
            for one in representatives(variants, &whole.axes, |variant| among.have(variant)) {
                let variant = &variants[one.variant];
                if !may_be_drawn(control, *host, variant) {
                    continue;
                }
                let unit = Unit { control, host: *host, variant: variant.clone(), theme: all[0].clone() };
                for (set, _) in &sized.states {
                    let looks = stage.looks_in(&unit, &sets[*set], themes.iter().map(|(_, theme)| *theme));
                    let split = themes.iter().zip(looks).filter(|(_, look)| is_split_look(system, &sets[*set], look));
                    let split: Vec<(usize, usize)> = split.map(|((theme, _), _)| (*set, *theme)).collect();
                    if !split.is_empty() {
                        found.entry(key(&whole.axes, *host, variant)).or_default().extend(split);
                    }
                }
            }
        }
        SplitLooks { axes: whole.axes.clone(), found }
    }

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
        list.is_none_or(|list| selector::matches(&list, &template.document, template.hosts[host].node))
    };
    control.rules.iter().any(|rule| {
        draws(rule) && variant.has_all(&rule.options) && (rule.hosts.is_empty() || rule.hosts.iter().any(may_match))
    })
}

/// Whether some text of a control is split at rest, in a variant of one option at most.
pub fn has_split_gradient(system: &System, stage: &Stage, control: &Control) -> bool {
    if !control.rules.iter().any(draws) {
        return false;
    }
    let default = control.default_variant();
    let near = control.variants(0).into_iter().filter(|variant| default.distance(variant) <= 1);
    let (rest, themes) = (StateSet::default(), system.tokens.themes());
    near.into_iter().any(|variant| {
        let unit = Unit { control, host: 0, variant, theme: themes[0].clone() };
        stage.looks_in(&unit, &rest, &themes).any(|look| is_split_look(system, &rest, &look))
    })
}
