//! What an edit of a token would reach: tokens that build on it, declarations that use them, cases that show them.

use crate::case::{case_states, state_sets, units};
use crate::source::Span;
use crate::system::{Control, Rule, System};
use crate::tokens::TokenId;

/// What depends on a token.
#[derive(Debug, Default)]
pub struct Reach<'s> {
    /// Tokens that refer to it, through others too; without the token itself.
    pub tokens: Vec<TokenId>,
    /// Declarations that use it or one of those.
    pub uses: Vec<Use<'s>>,
    /// How many cases a declaration of `uses` applies to.
    pub cases: u64,
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
pub fn reach(system: &System, token: TokenId) -> Reach<'_> {
    let mut reach = uses(system, token);
    reach.cases = count_cases(system, &reach.uses);
    reach
}

/// The same without the cases, which take long to count.
pub fn uses(system: &System, token: TokenId) -> Reach<'_> {
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
    Reach { tokens: all, uses, cases: 0 }
}

fn count_cases(system: &System, uses: &[Use]) -> u64 {
    let mut cases = 0;
    for unit in units(system) {
        let rules: Vec<&Rule> = uses.iter().filter(|u| std::ptr::eq(u.control, unit.control)).map(|u| u.rule).collect();
        if rules.is_empty() {
            continue;
        }
        for set in state_sets(system, unit.control) {
            let applies =
                |rule: &&Rule| rule.options.iter().all(|id| unit.variant.has(*id)) && set.covers(&case_states(rule));
            cases += u64::from(rules.iter().any(applies));
        }
    }
    cases
}
