//! Which variants of which controls are computed for which checks: one for all that a check cannot tell from it.

use super::contrast::text::{self, needed};
use super::paint::{Sizes, is_split, text_places};
use super::relevance::{Colors, Dependence, Hosts, Reads, Relevance, host_options, representatives, told_apart};
use super::run::{Settings, is_off};
use super::{Scope, Task};
use crate::case::{Look, Stage, Unit, state_sets};
use crate::css::property::Longhand;
use crate::engine::selector;
use crate::system::{Control, Rule, StateSet, System, Variant};
use crate::tokens::{Piece, Token};
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

/// What is computed of a control.
#[derive(Default)]
pub struct Sample<'s> {
    /// How many cases there are.
    pub cases: u64,
    /// What is computed.
    pub units: Vec<Sampled<'s>>,
}

/// A control, and what each check can tell apart in it.
pub struct Plan<'s> {
    /// The control.
    pub control: &'s Control,
    /// Its sets of states.
    pub sets: Vec<StateSet>,
    /// What each check can tell apart.
    pub relevance: Vec<(Task, Relevance)>,
}

/// A variant that stands, for some of the checks, for all that they cannot tell from it.
pub struct Sampled<'s> {
    /// Of this control.
    pub plan: Arc<Plan<'s>>,
    /// The host, by index.
    pub host: usize,
    /// The variant.
    pub variant: Variant,
    /// Whether it stands for others of another size where text is painted.
    pub sizes: Sizes,
    /// The checks, by index in the plan, and how many variants it stands for.
    pub checks: Vec<(usize, u64)>,
}

/// 14pt in px: no smaller text is large, be it bold.
const LARGE_BOLD: f64 = 14.0 * 96.0 / 72.0;

/// Whether no text of a control is large in any variant, state or theme.
fn is_never_large(system: &System, stage: &Stage, control: &Control, dependence: &Dependence) -> bool {
    let default = control.default_variant();
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
    let asks = !stage.scenes_serve_all_themes();
    let all = system.tokens.themes();
    let told = told_apart((system, asks), Colors::None, &tokens, all.iter().enumerate());
    (0..control.template.hosts.len()).all(|host| {
        let variants = control.variants(host);
        variants.into_iter().filter(|variant| default.distance(variant) <= 1).all(|variant| {
            let unit = Unit { control, host, variant, theme: system.tokens.default_theme() };
            stage.looks_in(&unit, &rest, told.iter().map(|((_, theme), _)| *theme)).all(is_small)
        })
    })
}

/// Whether a rule draws a gradient.
fn draws(rule: &Rule) -> bool {
    let pieces = rule.declarations.iter().flat_map(|declaration| &declaration.value.pieces);
    pieces.into_iter().any(|piece| matches!(piece, Piece::Text(text) if text.contains("gradient(")))
}

/// Whether a variant may have a gradient in some state: only then it counts how large it is.
fn may_be_drawn(control: &Control, host: usize, variant: &Variant) -> bool {
    let template = &control.template;
    let may_match = |text: &String| {
        let list = selector::parse_list(text);
        list.is_none_or(|list| selector::matches(&list, &template.document, template.hosts[host].node))
    };
    control.rules.iter().any(|rule| {
        draws(rule)
            && host_options::has_all(variant, &rule.options)
            && (rule.hosts.is_empty() || rule.hosts.iter().any(may_match))
    })
}

/// Whether some text of a control stands on a gradient of which only a part has the contrast that it needs: then it counts
/// how large the control is.
fn has_split_gradient(system: &System, stage: &Stage, control: &Control) -> bool {
    if !control.rules.iter().any(draws) {
        return false;
    }
    let default = control.default_variant();
    let near = control.variants(0).into_iter().filter(|variant| default.distance(variant) <= 1);
    let (rest, themes) = (StateSet::default(), system.tokens.themes());
    near.into_iter().any(|variant| {
        let unit = Unit { control, host: 0, variant, theme: themes[0].clone() };
        stage.looks_in(&unit, &rest, &themes).any(|look| {
            text_places(&look).iter().any(|place| {
                let needed = place.style(&look).map(|style| needed(system.manifest.conformance, style));
                needed.is_some_and(|needed| is_split(&look, place, needed))
            })
        })
    })
}

/// Samples a control for some checks.
pub fn sample<'s>(
    system: &'s System,
    stage: &Stage,
    control: &'s Control,
    settings: &Settings,
    checks: &[Task],
) -> Sample<'s> {
    let every_case = settings.every_case;
    let asked = settings.within.themes.clone().unwrap_or_else(|| (0..system.tokens.themes().len()).collect());
    let themes = asked.len() as u64;
    let mut sample = Sample { cases: 0, units: Vec::new() };
    let sets = state_sets(system, control);
    let checks = checks.iter().copied().filter(|check| !is_off(system, check.id));
    let dependence = Dependence::new(system, stage, control, asked.clone());
    let hosts = Hosts::new(system, stage, control, &sets);
    let is_never_large = !every_case && is_never_large(system, stage, control, &dependence);
    let is_split = has_split_gradient(system, stage, control);
    let told_apart = |reads: Reads| match every_case {
        true => Relevance::all(system, control, reads, &sets, &asked),
        false => dependence.relevance(reads, &sets, is_never_large, &hosts),
    };
    let mut relevance: Vec<(Task, Relevance)> = Vec::new();
    // The variants that a row is about, where it is not about all: those that draw gradients, or those that do not.
    let mut about: Vec<Option<bool>> = Vec::new();
    for check in checks {
        let Some(reads) = check.scope.reads(control) else { continue };
        let is_of_text = is_split && text::IDS.contains(&check.id);
        relevance.push((check, told_apart(reads)));
        about.push(is_of_text.then_some(false));
        if is_of_text {
            relevance.push((check, told_apart(text::READS_OF_SPLIT)));
            about.push(Some(true));
        }
    }
    let variants = hosts.variants;
    let plan = Arc::new(Plan { control, sets, relevance });
    let default = control.default_variant();
    for (host, mut variants) in variants.into_iter().enumerate() {
        // The variant nearest to the default stands for those that are like it: its name says most.
        variants.sort_by_cached_key(|variant| default.distance(variant));
        let alone = alone(control, &default, &variants);
        let on_others = on_other_hosts(control, host, &variants);
        sample.cases += variants.len() as u64 * plan.sets.len() as u64 * themes;
        let mut checks: BTreeMap<usize, Vec<(usize, u64)>> = BTreeMap::new();
        for (index, (check, relevance)) in plan.relevance.iter().enumerate() {
            let Some((_, hosts)) = relevance.hosts.iter().find(|(known, _)| *known == host) else { continue };
            if matches!(check.scope, Scope::Options(..)) {
                let is_first = relevance.hosts[0].0 == host;
                for variant in if is_first { &alone } else { &on_others } {
                    let stands_for = if on_others.contains(variant) { *hosts } else { 1 };
                    checks.entry(*variant).or_default().push((index, stands_for));
                }
                continue;
            }
            let is_meant =
                |variant: &Variant| about[index].is_none_or(|drawn| drawn == may_be_drawn(control, host, variant));
            for one in representatives(&variants, &relevance.axes, is_meant) {
                checks.entry(one.variant).or_default().push((index, one.stands_for * hosts));
            }
        }
        sample.units.extend(checks.into_iter().map(|(variant, checks)| Sampled {
            plan: Arc::clone(&plan),
            host,
            sizes: if is_split && may_be_drawn(control, host, &variants[variant]) { Sizes::Known } else { Sizes::Any },
            variant: variants[variant].clone(),
            checks,
        }));
    }
    sample
}

/// The default variant, each option alone, and the nearest variant of what a rule combines, by index.
pub(crate) fn alone(control: &Control, default: &Variant, variants: &[Variant]) -> Vec<usize> {
    let mut found: BTreeSet<usize> =
        variants.iter().enumerate().filter(|(_, v)| default.distance(v) <= 1).map(|(index, _)| index).collect();
    for rule in &control.rules {
        let has_all = |variant: &Variant| rule.options.iter().all(|option| variant.has(*option));
        found.extend(variants.iter().position(has_all));
    }
    found.into_iter().collect()
}

/// What is looked at on a host beside the first, of variants in the order of their distance to the default: the nearest to it,
/// and those in which options do something of their own there.
fn on_other_hosts(control: &Control, host: usize, variants: &[Variant]) -> Vec<usize> {
    let mut found: BTreeSet<usize> = (0..variants.len().min(1)).collect();
    for options in host_options::of_own(control, host) {
        found.extend(variants.iter().position(|variant| host_options::has_all(variant, &options)));
    }
    found.into_iter().collect()
}
