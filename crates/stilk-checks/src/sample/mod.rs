//! Which variants of which controls are computed for which checks: one for all that a check cannot tell from it.

pub mod split;

use crate::check::Task;
use crate::painted::text::LARGE_BOLD;
use crate::relevance::reads::{Colors, Reads};
use crate::relevance::{Dependence, Hosts, Relevance, distinct_themes, host_options, representatives};
use crate::report::SampledControl;
use crate::sample::split::{Split, SplitLooks, SplitSearch, has_split_gradient};
use crate::settings::{Settings, Variants, is_off};
use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};
use std::sync::Arc;
use stilk_engine::css::property::Longhand;
use stilk_language::case::{Look, LookEngine, Unit};
use stilk_language::system::space::{Choice, chosen};
use stilk_language::system::{Control, StateSet, System, Variant, VariantSpace};
use stilk_language::tokens::Token;

/// What is computed of a control.
#[derive(Default)]
pub struct Sample<'s> {
    /// How many cases there are.
    pub cases: u64,
    /// What is computed.
    pub units: Vec<Sampled<'s>>,
    /// Whether some variants were left out.
    pub left_out: Option<SampledControl>,
}

/// A control, and what checks look at in it.
pub struct Plan<'s> {
    /// The control.
    pub control: &'s Control,
    /// Its sets of states.
    pub sets: Vec<StateSet>,
    /// What each check looks at; a check may have several rows, for different looks.
    pub rows: Vec<Row>,
}

/// What one check looks at in a control.
pub struct Row {
    /// The check.
    pub check: Task,
    /// What it can tell apart.
    pub relevance: Relevance,
    /// What it does where a part of a gradient decides.
    pub split: Split,
}

/// A variant that stands, for some of the checks, for all that they cannot tell from it.
pub struct Sampled<'s> {
    /// Of this control.
    pub plan: Arc<Plan<'s>>,
    /// The host, by index.
    pub host: usize,
    /// The variant.
    pub variant: Variant,
    /// The rows of the plan, by index, and how many variants it stands for.
    pub checks: Vec<(usize, u64)>,
}

/// Whether no text of a control is large in any variant, state or theme.
fn is_never_large(system: &System, look_engine: &LookEngine, control: &Control, dependence: &Dependence) -> bool {
    let rest = StateSet::default();
    let is_small = |look: Look| {
        let nodes = look.document.descendants(look.mounted.host);
        nodes
            .into_iter()
            .filter_map(|node| look.styles.element(node))
            .all(|style| style.px(Longhand::FontSize).is_ok_and(|px| px < LARGE_BOLD))
    };
    if !dependence.shows_all_sizes() {
        return false;
    }
    let tokens: Vec<&Token> = system.tokens.list.iter().collect();
    let asks = !look_engine.serves_all_themes();
    let all = system.tokens.themes();
    let distinct = distinct_themes((system, asks), Colors::None, &tokens, all.iter().enumerate());
    (0..control.template.hosts.len()).all(|host| {
        control.variants_near(host).into_iter().all(|variant| {
            let unit = Unit { control, host, variant, theme: system.tokens.default_theme() };
            look_engine.looks_in(&unit, &rest, distinct.iter().map(|((_, theme), _)| *theme)).all(is_small)
        })
    })
}

/// Samples some variants of a control for some checks.
pub fn sample<'s>(
    system: &'s System,
    look_engine: &LookEngine,
    (control, among): (&'s Control, &Variants),
    settings: &Settings,
    checks: &[Task],
) -> Sample<'s> {
    let every_case = settings.every_case;
    let asked = settings.within.themes.clone().unwrap_or_else(|| (0..system.tokens.themes().len()).collect());
    let themes = asked.len() as u64;
    let mut sample = Sample::default();
    let sets = look_engine.state_sets(control);
    let checks = checks.iter().copied().filter(|check| !is_off(system, check.id));
    let dependence = Dependence::new(system, look_engine, control, asked.clone());
    let hosts = Hosts::new(system, look_engine, control, &sets);
    let is_never_large = !every_case && is_never_large(system, look_engine, control, &dependence);
    let is_split = has_split_gradient(system, look_engine, control);
    let relevance_of = |reads: &Reads| match every_case {
        true => Relevance::all(control, reads, &sets, &asked),
        false => dependence.relevance(reads, &sets, is_never_large, &hosts),
    };
    let mut rows: Vec<Row> = Vec::new();
    // Found once, for the first check that asks.
    let mut known: Option<Arc<SplitLooks>> = None;
    for check in checks {
        let Some(looks) = check.looks().filter(|looks| looks.is_for(control)) else { continue };
        let relevance = relevance_of(&looks.reads);
        let Some(reads_where_split) = looks.reads_where_split.as_ref().filter(|_| is_split) else {
            rows.push(Row { check, relevance, split: Split::Unknown });
            continue;
        };
        let sized = relevance_of(reads_where_split);
        let search = SplitSearch { system, look_engine, control, among, variants: &hosts.variants, sets: &sets };
        let looks = || Arc::new(search.run(&relevance, &sized));
        let only = (!every_case).then(|| Arc::clone(known.get_or_insert_with(looks)));
        rows.push(Row { check, relevance, split: Split::LeftOut });
        rows.push(Row { check, relevance: sized, split: Split::Only(only) });
    }
    let Hosts { variants, spaces, .. } = hosts;
    let plan = Arc::new(Plan { control, sets, rows });
    let mut not_looked_at = 0;
    let default = control.default_variant();
    for (host, (mut variants, space)) in variants.into_iter().zip(&spaces).enumerate() {
        // The variant nearest to the default stands for those that are like it: its name says most.
        variants.sort_by_cached_key(|variant| default.distance(variant));
        let count = space.count();
        sample.cases = sample.cases.saturating_add(count.saturating_mul(plan.sets.len() as u64 * themes));
        let is_listed = count == variants.len() as u64;
        let mut checks = checks_by_variant(&plan, host, &variants, &default, among, is_listed);
        if !is_listed {
            let mut known: HashMap<Variant, usize> =
                variants.iter().cloned().enumerate().map(|(index, variant)| (variant, index)).collect();
            for (index, row) in plan.rows.iter().enumerate() {
                let Some((_, hosts)) = row.relevance.hosts.iter().find(|(known, _)| *known == host) else { continue };
                if row.check.looks().is_some_and(|looks| looks.by_option) {
                    continue;
                }
                let looked_at = representatives_in(space, &row.relevance.axes, among);
                not_looked_at = not_looked_at.max(looked_at.left_out);
                for (variant, stands_for) in looked_at.found {
                    if !row.split.has(host, &variant) {
                        continue;
                    }
                    let at = *known.entry(variant).or_insert_with_key(|variant| {
                        variants.push(variant.clone());
                        variants.len() - 1
                    });
                    checks.entry(at).or_default().push((index, stands_for.saturating_mul(*hosts)));
                }
            }
        }
        sample.units.extend(checks.into_iter().map(|(variant, checks)| Sampled {
            plan: Arc::clone(&plan),
            host,
            variant: variants[variant].clone(),
            checks,
        }));
    }
    if not_looked_at > 0 {
        let variants = spaces.iter().map(VariantSpace::count).fold(0, u64::saturating_add);
        sample.left_out = Some(SampledControl { name: control.name.value.clone(), variants, not_looked_at });
    }
    sample
}

/// Which variants of a host are looked at, for which checks: by variant, the rows of the plan, each with how many cases it
/// stands for.
fn checks_by_variant(
    plan: &Plan,
    host: usize,
    variants: &[Variant],
    default: &Variant,
    among: &Variants,
    is_listed: bool,
) -> BTreeMap<usize, Vec<(usize, u64)>> {
    let control = plan.control;
    let is_asked = |index: &usize| among.have(&variants[*index]);
    let one_option: Vec<usize> = control.with_one_option(default, variants).into_iter().filter(is_asked).collect();
    let on_others: Vec<usize> = on_other_hosts(control, host, variants).into_iter().filter(is_asked).collect();
    let mut checks: BTreeMap<usize, Vec<(usize, u64)>> = BTreeMap::new();
    for (index, Row { check, relevance, split }) in plan.rows.iter().enumerate() {
        let Some((_, hosts)) = relevance.hosts.iter().find(|(known, _)| *known == host) else { continue };
        if check.looks().is_some_and(|looks| looks.by_option) {
            let is_first = relevance.hosts[0].0 == host;
            for variant in if is_first { &one_option } else { &on_others } {
                let stands_for = if on_others.contains(variant) { *hosts } else { 1 };
                checks.entry(*variant).or_default().push((index, stands_for));
            }
            continue;
        }
        if !is_listed {
            continue;
        }
        let is_meant = |variant: &Variant| among.have(variant) && split.has(host, variant);
        for one in representatives(variants, &relevance.axes, is_meant) {
            checks.entry(one.variant).or_default().push((index, one.stands_for * hosts));
        }
    }
    checks
}

/// Variants that stand for all that a check can tell apart, where these are too many to be listed.
struct LookedAt {
    found: Vec<(Variant, u64)>,
    /// How many variants none of them stands for.
    left_out: u64,
}

fn representatives_in(space: &VariantSpace, axes: &[usize], among: &Variants) -> LookedAt {
    let fixed: Vec<Choice> = match among {
        Variants::All => vec![Vec::new()],
        Variants::With(lists) => lists.iter().map(|options| options.iter().map(chosen).collect()).collect(),
    };
    let mut found: Vec<(Variant, u64)> = Vec::new();
    let mut is_known = HashSet::new();
    let mut left_out = 0;
    for with in &fixed {
        let (choices, is_all) = space.combinations(axes, with);
        let mut seen: u64 = 0;
        for choice in choices {
            let stands_for = space.count_with(&choice);
            seen = seen.saturating_add(stands_for);
            found.extend(space.nearest(&choice).filter(|v| is_known.insert(v.clone())).map(|v| (v, stands_for)));
        }
        if !is_all {
            left_out = left_out.max(space.count_with(with).saturating_sub(seen));
        }
    }
    LookedAt { found, left_out }
}

/// What is looked at on a host beside the first, of variants in the order of their distance to the default: the nearest to it,
/// and those in which options do something of their own there.
fn on_other_hosts(control: &Control, host: usize, variants: &[Variant]) -> Vec<usize> {
    let mut found: BTreeSet<usize> = (0..variants.len().min(1)).collect();
    for options in host_options::of_own(control, host) {
        found.extend(variants.iter().position(|variant| variant.has_all(&options)));
    }
    found.into_iter().collect()
}
