//! What an edit of a token would reach: tokens that build on it, declarations that use them, cases that show them.

use crate::case::{applies_in, state_sets};
use crate::system::space::chosen;
use crate::system::{Control, OptionId, Rule, System};

use crate::tokens::TokenId;
use std::collections::BTreeSet;
use stilk_text::source::Span;

/// What depends on a token.
#[derive(Debug, Default)]
pub struct Dependents<'s> {
    /// Tokens that refer to it, through others too; without the token itself.
    pub tokens: Vec<TokenId>,
    /// Declarations that use it or one of those.
    pub uses: Vec<Use<'s>>,
    /// How many cases a declaration of `uses` applies to.
    pub cases: u64,
    /// Whether it is not more.
    pub is_exact: bool,
}

/// A declaration that uses a token.
#[derive(Debug)]
pub struct Use<'s> {
    /// The control.
    pub control: &'s Control,
    /// The rule it is in.
    pub rule: &'s Rule,
    /// The property, a local with its dashes.
    pub property: &'s str,
    /// Where it stands.
    pub span: Span,
}

/// Everything that depends on a token.
pub fn dependents(system: &System, token: TokenId) -> Dependents<'_> {
    let mut found = uses(system, token);
    (found.cases, found.is_exact) = cases_of(system, &found.uses);
    found
}

/// The same without the cases, which take long to count.
pub fn uses(system: &System, token: TokenId) -> Dependents<'_> {
    let tokens = &system.tokens;
    let mut all = vec![token];
    let mut done = 0;
    while let Some(id) = all.get(done).copied() {
        done += 1;
        for (index, other) in tokens.list.iter().enumerate() {
            let refers = other.definitions().any(|d| d.expression.tokens().any(|t| t == id));
            // A member is part of its composite, which is listed already.
            let member = other.is_member && other.path.starts_with(&format!("{}.", tokens.get(id).path));
            if (refers || member) && !all.contains(&TokenId(index)) {
                all.push(TokenId(index));
            }
        }
    }
    let mut uses = Vec::new();
    for control in &system.controls {
        for rule in &control.rules {
            for declaration in &rule.declarations {
                if declaration.value.tokens().any(|id| all.contains(&id)) {
                    uses.push(Use { control, rule, property: &declaration.name.value, span: declaration.span });
                }
            }
        }
    }
    all.remove(0);
    all.retain(|id| !tokens.get(*id).is_member);
    Dependents { tokens: all, uses, cases: 0, is_exact: true }
}

/// How many cases some declarations apply to, and whether that is all: of too many combinations of options some are counted.
pub fn cases_of(system: &System, uses: &[Use]) -> (u64, bool) {
    let themes = system.tokens.themes().len() as u64;
    let mut cases: u64 = 0;
    let mut is_exact = true;
    for control in &system.controls {
        let rules: Vec<&Rule> = uses.iter().filter(|u| std::ptr::eq(u.control, control)).map(|u| u.rule).collect();
        if rules.is_empty() {
            continue;
        }
        // Which rules a set of states brings into force does not depend on the variant.
        let in_force: Vec<Vec<bool>> = state_sets(system, control)
            .iter()
            .map(|set| rules.iter().map(|rule| applies_in(rule, set)).collect())
            .collect();
        for host in 0..control.template.hosts.len() {
            // Only axes that the rules name decide: the others multiply.
            let space = control.space(host);
            let axes: BTreeSet<usize> = rules.iter().flat_map(|rule| &rule.options).map(|id| id.axis).collect();
            let axes: Vec<usize> = axes.into_iter().collect();
            let (choices, is_all) = space.combinations(&axes, &[]);
            is_exact &= is_all;
            for choice in choices {
                let has = |id: &OptionId| choice.contains(&chosen(id));
                let fits: Vec<bool> = rules.iter().map(|rule| rule.options.iter().all(has)).collect();
                let applies = |in_force: &&Vec<bool>| in_force.iter().zip(&fits).any(|(state, fits)| *state && *fits);
                let sets = in_force.iter().filter(applies).count() as u64;
                cases = cases.saturating_add(space.count_with(&choice).saturating_mul(sets * themes));
            }
        }
    }
    (cases, is_exact)
}
