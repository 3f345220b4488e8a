//! Rules that no page of the survey uses.

use crate::family::Candidates;
use crate::rules::{Rule, Rules};
use crate::site::Site;
use crate::state_class;
use crate::theme::{self, Theme};
use rustc_hash::FxHashMap;
use std::collections::BTreeMap;
use stilk_engine::cascade::Forced;
use stilk_engine::cascade::compound::{Compound, without_states};
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::cascade::selector::{self, One};
use stilk_engine::dom::{Document, NodeId};
use stilk_text::source::Span;

/// By rule that asks for a theme: what it matches in any.
pub type InAnyTheme = FxHashMap<usize, Option<One>>;

/// What the rules of a list that ask for a theme match in any.
pub fn in_any_theme(rules: &Rules, themes: &[Theme]) -> InAnyTheme {
    let of_theme = rules
        .all
        .iter()
        .enumerate()
        .filter(|(_, rule)| rule.around().iter().any(|around| theme::asks_for(themes, around)));
    of_theme.map(|(index, rule)| (index, in_one_theme_or_another(rule, themes))).collect()
}

/// What a rule matches whatever the states and the theme are.
fn in_one_theme_or_another(rule: &Rule, themes: &[Theme]) -> Option<One> {
    let bare: Vec<Compound> =
        rule.compounds.iter().map(|compound| state_class::without(&theme::without(themes, compound)).0).collect();
    match selector::parse_list(&without_states(&bare))?.slice() {
        [one] => Some(one.clone()),
        _ => None,
    }
}

/// Which rules of a list some page uses, in whatever state.
pub struct UsedRules(Vec<bool>);

impl UsedRules {
    /// None yet.
    pub fn none(rules: &Rules) -> UsedRules {
        UsedRules(vec![false; rules.all.len()])
    }

    /// Those that set something of a theme itself: each page may be in it.
    pub fn of_themes(rules: &Rules, themes: &[Theme]) -> UsedRules {
        UsedRules(rules.all.iter().map(|rule| theme::asks_for(themes, rule.subject())).collect())
    }

    /// Notes what a page uses, in whatever theme.
    pub fn note(&mut self, document: &Document, rules: &Rules, candidates: &Candidates, in_any_theme: &InAnyTheme) {
        let forced = Forced::default();
        let mut caches = MatchingCaches::default();
        for node in document.descendants(Document::ROOT) {
            self.note_element(document, node, (rules, in_any_theme), candidates, &forced, &mut caches);
        }
    }

    fn note_element(
        &mut self,
        document: &Document,
        node: NodeId,
        (rules, in_any_theme): (&Rules, &InAnyTheme),
        candidates: &Candidates,
        forced: &Forced,
        caches: &mut MatchingCaches,
    ) {
        let Some(data) = document.element(node) else { return };
        let element = ElementRef { document, node, forced };
        candidates.each(data, |index| {
            if self.0[index] {
                return;
            }
            // What cannot be asked without its states may be used.
            let selector = in_any_theme.get(&index).unwrap_or(&rules.all[index].stateless);
            self.0[index] = selector.as_ref().is_none_or(|one| element.matches(one, false, caches));
        });
    }

    /// Takes in what another one noted.
    pub fn absorb(&mut self, other: &UsedRules) {
        self.0.iter_mut().zip(&other.0).for_each(|(own, other)| *own |= *other);
    }
}

/// A rule that no page uses.
#[derive(Debug, Clone)]
pub struct Unused {
    /// Its selector.
    pub selector: String,
    /// Where it stands.
    pub span: Span,
}

/// The rules that no page uses, in the order of the sheets; a class that a script may set is not known from here.
pub fn unused(site: &Site, rules: &[Rules], used: &[UsedRules]) -> (Vec<Unused>, usize) {
    let mut found: BTreeMap<Span, (String, bool)> = BTreeMap::new();
    for (list, rules) in rules.iter().enumerate() {
        for (index, rule) in rules.all.iter().enumerate() {
            let Some(span) = crate::rules::span_of(&site.sources, &site.lists[list].sheets, rule) else { continue };
            let style = &site.lists[list].sheets[usize::from(rule.sheet)].parsed.rules[rule.index as usize];
            let entry = found.entry(span).or_insert_with(|| (style.selector_text(), false));
            entry.1 |= used[list].0[index];
        }
    }
    let all = found.len();
    let unused = found.into_iter().filter(|(_, (_, is_used))| !is_used);
    (unused.map(|(span, (selector, _))| Unused { selector, span }).collect(), all)
}
