//! Changed looks, by what caused them.

use super::alike::is_alike;
use super::{Comparison, Version};
use std::collections::{BTreeMap, BTreeSet};
use stilk_checks::painted::paint::floor as contrast_floor;
use stilk_checks::painted::pressed::target;
use stilk_checks::painted::text::worst_text;
use stilk_checks::trace::Tracer;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{LonghandSet, Media, PseudoElement, Style, Styled, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::NodeId;
use stilk_language::case::{Look, LookEngine, Unit, case_name, state_sets};
use stilk_language::stylesheet::Written;
use stilk_language::system::{Control, StateId, StateSet, System, Variant};
use stilk_language::tokens::Theme;

/// One cause with everything that looks different because of it.
#[derive(Debug, Clone)]
pub struct Change {
    /// The token or declaration that is another one, in words: `fill.sea`, `controls/button.stilk:12`.
    pub cause: String,
    /// Its value before and after, per theme where they differ; nothing for declarations.
    pub values: Vec<(String, String, String)>,
    /// How many cases look different because of it.
    pub cases: u64,
    /// The controls that these are of.
    pub controls: BTreeSet<String>,
    /// Properties that changed, each with the values of the first case, before and after.
    pub properties: BTreeMap<&'static str, (String, String)>,
    /// The first case, as findings name it.
    pub example: String,
    /// The same without its theme, in the notation of cases.
    pub case: String,
    /// The contexts of its theme, by modifier.
    pub contexts: Vec<(String, String)>,
}

/// A text whose contrast passes in one version only.
#[derive(Debug, Clone)]
pub struct Contrast {
    /// The first case.
    pub example: String,
    /// How many cases are like it.
    pub cases: u64,
    /// The ratio before.
    pub old: f64,
    /// The ratio after.
    pub new: f64,
    /// What is needed.
    pub needed: f64,
}

impl Change {
    /// Values of the token before and after, each with the themes in which it has them.
    pub fn values_by_theme(&self) -> Vec<((&str, &str), Vec<&str>)> {
        let mut grouped: Vec<((&str, &str), Vec<&str>)> = Vec::new();
        for (theme, old, new) in &self.values {
            match grouped.iter_mut().find(|(values, _)| *values == (old, new)) {
                Some((_, themes)) => themes.push(theme),
                None => grouped.push(((old, new), vec![theme])),
            }
        }
        grouped
    }

    /// Properties with the same values before and after, together.
    pub fn properties_by_value(&self) -> Vec<(Vec<&'static str>, (&str, &str))> {
        let mut grouped: Vec<(Vec<&'static str>, (&str, &str))> = Vec::new();
        for (name, (old, new)) in &self.properties {
            match grouped.iter_mut().find(|(_, values)| *values == (old, new)) {
                Some((names, _)) => names.push(name),
                None => grouped.push((vec![*name], (old, new))),
            }
        }
        grouped
    }
}

impl Contrast {
    /// Whether it passed and no longer does.
    pub fn is_lost(&self) -> bool {
        self.new < self.needed
    }
}

/// A target that is large enough in one version only.
#[derive(Debug, Clone)]
pub struct Target {
    /// The first case.
    pub example: String,
    /// How many variants are like it.
    pub cases: u64,
    /// Width and height in px before.
    pub old: (f64, f64),
    /// The same after.
    pub new: (f64, f64),
    /// What is needed in px.
    pub needed: f64,
}

/// The same unit and states in two versions.
struct Pair<'p> {
    units: [Unit<'p>; 2],
    states: [StateSet; 2],
}

struct VersionLooks<'s> {
    system: &'s System,
    look_engine: LookEngine<'s>,
    tracer: Tracer<'s>,
}

impl<'s> VersionLooks<'s> {
    fn new(version: &'s Version, written: &'s Written, parsed: &'s Stylesheet, media: &Media) -> VersionLooks<'s> {
        VersionLooks {
            system: version.system,
            look_engine: LookEngine::new(version.system, written, parsed, media.clone()),
            tracer: Tracer::new(version.system, version.sources, written, parsed),
        }
    }
}

/// Compares the looks of everything that both versions have.
pub fn compare(versions: [&Version; 2], parsed: &[Stylesheet; 2], media: &Media, comparison: &mut Comparison) {
    let sides = [0, 1].map(|i| VersionLooks::new(versions[i], versions[i].written, &parsed[i], media));
    let mut found: BTreeMap<String, Change> = BTreeMap::new();
    let mut contrast: BTreeMap<(String, bool), Contrast> = BTreeMap::new();
    let mut targets: BTreeMap<(String, bool), Target> = BTreeMap::new();
    for old in &versions[0].system.controls {
        let name = comparison.names.control(&old.name.value);
        let Some(new) = versions[1].system.control(name) else { continue };
        // What comes from the same text looks the same.
        if is_untouched(versions, [old, new]) {
            comparison.cases += cases_of(versions[0].system, old);
            continue;
        }
        for pair in pairs([versions[0].system, versions[1].system], [old, new]) {
            comparison.cases += 1;
            let looks = [0, 1].map(|i| sides[i].look_engine.look(&pair.units[i], &pair.states[i]));
            let name = case_name(versions[1].system, &pair.units[1], &pair.states[1]);
            let causes = differences(&sides, &looks, &pair, &mut comparison.unknown);
            comparison.changed += u64::from(!causes.is_empty());
            for (cause, (properties, values)) in causes {
                let change = found.entry(cause.clone()).or_insert_with(|| Change {
                    cause,
                    values: Vec::new(),
                    cases: 0,
                    controls: BTreeSet::new(),
                    properties: BTreeMap::new(),
                    example: name.clone(),
                    case: name.split(" in ").next().unwrap_or_default().to_owned(),
                    contexts: contexts(versions[1].system, &pair.units[1]),
                });
                change.cases += 1;
                change.controls.insert(new.name.value.clone());
                for (property, values) in properties {
                    change.properties.entry(property).or_insert(values);
                }
                for value in values {
                    let theme = versions[1].system.tokens.theme_name(&pair.units[1].theme);
                    let entry = (theme, value.0, value.1);
                    if !change.values.contains(&entry) {
                        change.values.push(entry);
                    }
                }
            }
            compare_contrast(&sides, &looks, &name, &pair, &mut contrast);
            if pair.states[1].is_rest() {
                compare_targets(versions[1].system, &looks, &name, &pair, &mut targets);
            }
        }
    }
    comparison.changes = found.into_values().collect();
    comparison.changes.sort_by(|a, b| b.cases.cmp(&a.cases).then(a.cause.cmp(&b.cause)));
    comparison.contrast = contrast.into_values().collect();
    comparison
        .contrast
        .sort_by(|a, b| b.is_lost().cmp(&a.is_lost()).then((a.new / a.needed).total_cmp(&(b.new / b.needed))));
    comparison.targets = targets.into_values().collect();
}

/// Whether neither the files of a control, nor what all share, nor any token differ.
fn is_untouched(versions: [&Version; 2], controls: [&Control; 2]) -> bool {
    let text = |i: usize| {
        let sources = versions[i].sources;
        let span = controls[i].name.span;
        let sheet = &sources.file(span.file).text;
        let template = &sources.file(controls[i].template.file).text;
        let shared: String = sources
            .all()
            .filter(|source| {
                source.path.ends_with(stilk_language::sheet::SHARED_SHEET)
                    || !source.path.ends_with(".html") && !source.path.ends_with(".stilk")
            })
            .map(|source| source.text.as_str())
            .collect();
        (sheet.clone(), template.clone(), shared)
    };
    // A control that places others looks as they do.
    controls[0].placements.is_empty() && text(0) == text(1)
}

fn cases_of(system: &System, control: &Control) -> u64 {
    let sets = state_sets(system, control).len() as u64;
    let themes = system.tokens.themes().len() as u64;
    chosen(control, 0).len() as u64 * sets * themes * control.template.hosts.len() as u64
}

/// The variants that are compared: the default, each option alone, and what a rule combines.
fn chosen(control: &Control, host: usize) -> Vec<Variant> {
    let default = control.default_variant();
    let mut variants = control.variants(host);
    variants.sort_by_key(|variant| default.distance(variant));
    control.with_one_option(&default, &variants).into_iter().map(|index| variants[index].clone()).collect()
}

fn pairs<'p>(systems: [&'p System; 2], controls: [&'p Control; 2]) -> Vec<Pair<'p>> {
    let mut pairs = Vec::new();
    let themes: Vec<[Theme; 2]> = systems[1]
        .tokens
        .themes()
        .into_iter()
        .filter_map(|theme| Some([theme_like(systems, &theme)?, theme]))
        .collect();
    let sets: Vec<[StateSet; 2]> = state_sets(systems[1], controls[1])
        .into_iter()
        .filter_map(|set| Some([states_like(systems, &set)?, set]))
        .collect();
    for (host, template) in controls[1].template.hosts.iter().enumerate() {
        let Some(before) = controls[0].template.hosts.iter().position(|h| h.name == template.name) else { continue };
        for variant in chosen(controls[1], host) {
            let Some(like) = variant_like(controls, &variant) else { continue };
            if controls[0].excludes.iter().any(|exclude| exclude.covers(&like, before)) {
                continue;
            }
            for theme in &themes {
                for states in &sets {
                    let units = [(0, before, &like), (1, host, &variant)].map(|(i, host, variant)| Unit {
                        control: controls[i],
                        host,
                        variant: variant.clone(),
                        theme: theme[i].clone(),
                    });
                    pairs.push(Pair { units, states: states.clone() });
                }
            }
        }
    }
    pairs
}

/// The theme of the old system with the same contexts; where it does not know a modifier, its own is left out.
fn theme_like(systems: [&System; 2], theme: &Theme) -> Option<Theme> {
    let mut like = systems[0].tokens.default_theme();
    for (index, modifier) in systems[1].tokens.modifiers.iter().enumerate() {
        let context = &modifier.contexts[theme.contexts[index]].value;
        let Some(place) = systems[0].tokens.modifiers.iter().position(|m| m.name.value == modifier.name.value) else {
            // A modifier that is new: its default is what was there before.
            if theme.contexts[index] == modifier.default {
                continue;
            }
            return None;
        };
        like.contexts[place] = systems[0].tokens.modifiers[place].contexts.iter().position(|c| c.value == *context)?;
    }
    Some(like)
}

fn states_like(systems: [&System; 2], set: &StateSet) -> Option<StateSet> {
    // A state of the manifest's own is known by its name.
    let find = |id| match id {
        StateId::Own(_) => systems[0].states.find(&systems[1].states.get(id).name),
        standard => Some(standard),
    };
    let ids = set.ids().iter().map(|id| find(*id)).collect::<Option<Vec<_>>>()?;
    let mut like = StateSet::of(ids);
    for (id, part) in set.of_parts() {
        like = like.with_part(find(*id)?, part.clone());
    }
    Some(like)
}

fn variant_like(controls: [&Control; 2], variant: &Variant) -> Option<Variant> {
    let mut like = controls[0].default_variant();
    for id in variant.options() {
        let Some(found) = controls[0].find_option(controls[1].option_name(id)) else {
            // An option that is new cannot be compared; one that is the default is what was there before.
            if controls[1].axes[id.axis].default == Some(id.option) {
                continue;
            }
            return None;
        };
        like.choices[found.axis] = Some(found.option);
    }
    Some(like)
}

/// Values before and after.
type Values = (String, String);

/// What differs between two looks, by cause.
fn differences(
    sides: &[VersionLooks; 2],
    looks: &[Look; 2],
    pair: &Pair,
    unknown: &mut u64,
) -> BTreeMap<String, (BTreeMap<&'static str, Values>, Vec<Values>)> {
    let mut causes: BTreeMap<String, (BTreeMap<&'static str, Values>, Vec<Values>)> = BTreeMap::new();
    let elements = |look: &Look| -> Vec<(String, NodeId)> {
        look.mounted.elements().map(|(name, node)| (name.to_owned(), node)).collect()
    };
    let [before, after] = [elements(&looks[0]), elements(&looks[1])];
    let mut used: Vec<NodeId> = Vec::new();
    for (name, node) in &after {
        let Some((_, old)) = before.iter().find(|(known, old)| known == name && !used.contains(old)) else { continue };
        used.push(*old);
        for pseudo in std::iter::once(None).chain(PseudoElement::ALL.iter().copied().map(Some)) {
            let style = |look: &Look, node: NodeId| look.styles.of(Styled { node, pseudo }).cloned();
            let (was, is) = (style(&looks[0], *old), style(&looks[1], *node));
            let (Some(was), Some(is)) = (was, is) else { continue };
            for longhand in set_by_either(&was, &is).iter() {
                if was.get(longhand).ok() == is.get(longhand).ok()
                    && was.get(longhand).is_ok_and(|v| !v.has_unresolved_color())
                {
                    continue;
                }
                let values = (resolved(&was, longhand), resolved(&is, longhand));
                let (Ok(old_css), Ok(new_css)) = values else {
                    *unknown += u64::from(values.0.is_ok() != values.1.is_ok());
                    continue;
                };
                if old_css == new_css || is_alike(longhand, [&was, &is], [&old_css, &new_css]) {
                    continue;
                }
                let (cause, token) = cause(sides, pair, [&was, &is], longhand);
                let entry = causes.entry(cause).or_default();
                entry.0.entry(longhand.name()).or_insert((old_css, new_css));
                if let Some(values) = token
                    && !entry.1.contains(&values)
                {
                    entry.1.push(values);
                }
            }
        }
    }
    causes
}

fn set_by_either(was: &Style, is: &Style) -> LonghandSet {
    let mut set = is.set_by_author();
    set.add_all(&was.set_by_author());
    set
}

/// What made a value another one: a token whose value differs, else the declaration that won, where it stands now; with the
/// token's values before and after.
fn cause(sides: &[VersionLooks; 2], pair: &Pair, styles: [&Style; 2], longhand: Longhand) -> (String, Option<Values>) {
    let origins = [0, 1].map(|i| sides[i].tracer.all_tokens(styles[i], longhand));
    let mut paths: Vec<&str> =
        origins.iter().flat_map(|origin| &origin.tokens).map(|(_, path)| path.as_str()).collect();
    paths.sort_unstable();
    let tokens = Tokens { systems: [sides[0].system, sides[1].system], themes: [0, 1].map(|i| &pair.units[i].theme) };
    if let Some((path, values)) = paths.into_iter().find_map(|path| tokens.root(path, 0)) {
        return (format!("token {path}"), Some(values));
    }
    let place = |i: usize| origins[i].declaration.map(|span| sides[i].tracer.place_of(span));
    match (place(1), place(0)) {
        (Some(place), _) => (place, None),
        (None, Some(place)) => (format!("{place} (before)"), None),
        (None, None) => (format!("{} of the defaults or of what it inherits", longhand.name()), None),
    }
}

/// The tokens of two versions, in one theme.
struct Tokens<'t> {
    systems: [&'t System; 2],
    themes: [&'t Theme; 2],
}

impl Tokens<'_> {
    /// The token that was changed, where the value of one differs: itself, or one that it refers to.
    fn root(&self, path: &str, depth: usize) -> Option<(String, Values)> {
        let ids = self.systems.map(|system| system.tokens.find(path));
        let [Some(old), Some(new)] = ids else { return None };
        let literal = |i: usize, id| self.systems[i].tokens.literal(id, self.themes[i]);
        let values = (literal(0, old)?, literal(1, new)?);
        if values.0 == values.1 {
            return None;
        }
        // Chains of aliases end; the bound is against what is broken.
        const DEEPEST: usize = 32;
        let tokens = &self.systems[1].tokens;
        let definition = tokens.get(new).in_theme(self.themes[1]).filter(|_| depth < DEEPEST);
        let mut refers = definition.into_iter().flat_map(|definition| definition.expression.tokens());
        let deeper = refers.find_map(|id| self.root(&tokens.get(id).path, depth + 1));
        Some(deeper.unwrap_or_else(|| (path.to_owned(), values)))
    }
}

fn contexts(system: &System, unit: &Unit) -> Vec<(String, String)> {
    let contexts = system.tokens.modifiers.iter().zip(&unit.theme.contexts);
    contexts.map(|(m, c)| (m.name.value.clone(), m.contexts[*c].value.clone())).collect()
}

fn compare_contrast(
    sides: &[VersionLooks; 2],
    looks: &[Look; 2],
    name: &str,
    pair: &Pair,
    found: &mut BTreeMap<(String, bool), Contrast>,
) {
    let is_disabled = pair.states[1].has(StateId::Disabled);
    if is_disabled {
        return;
    }
    let worst = [0, 1].map(|i| worst_text(sides[i].system, &looks[i]).ok().flatten());
    let (Some(old), Some(new)) = (worst[0], worst[1]) else { return };
    let (passed, passes) = (old.passes(), new.passes());
    if passed == passes {
        return;
    }
    let key = (pair.units[1].control.name.value.clone(), passes);
    let (was, is) = (contrast_floor(old.ratio()), contrast_floor(new.ratio()));
    let entry = found.entry(key).or_insert_with(|| Contrast {
        example: name.to_owned(),
        cases: 0,
        old: was,
        new: is,
        needed: new.needed(),
    });
    entry.cases += 1;
    if is / new.needed() < entry.new / entry.needed {
        (entry.example, entry.old, entry.new, entry.needed) = (name.to_owned(), was, is, new.needed());
    }
}

fn compare_targets(
    system: &System,
    looks: &[Look; 2],
    name: &str,
    pair: &Pair,
    found: &mut BTreeMap<(String, bool), Target>,
) {
    let needed = match system.manifest.conformance {
        stilk_language::manifest::Conformance::Aa => 24.0,
        stilk_language::manifest::Conformance::Aaa => 44.0,
    };
    let size = |look: &Look| {
        let node = target(look)?;
        let placed = look.layout().ok()?.of(Styled::element(node)).copied()?;
        Some((placed.width().ok()?, placed.height().ok()?))
    };
    let (Some(old), Some(new)) = (size(&looks[0]), size(&looks[1])) else { return };
    let is_enough = |size: (f64, f64)| size.0.min(size.1) >= needed - 0.02;
    if is_enough(old) == is_enough(new) {
        return;
    }
    let key = (pair.units[1].control.name.value.clone(), is_enough(new));
    let entry = found.entry(key).or_insert_with(|| Target { example: name.to_owned(), cases: 0, old, new, needed });
    entry.cases += 1;
}
