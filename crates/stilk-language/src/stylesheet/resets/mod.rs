//! Scoped resets: for each control, the properties whose browser default differs between its hosts or between engines
//! and that the control leaves unset, and no others. Never `* { … }`. What differs is looked up in what was measured;
//! only the value that all are brought to is chosen by hand.

mod chosen;
pub mod defaults;

use crate::system::{Control, Place, RuleTarget};
use crate::template::Host;
use crate::tokens::Piece;
use chosen::Purpose;
use defaults::{Brought, CONTEXTS, ENGINES, ElementKind, defaults};
use std::collections::BTreeMap;
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::dom::NodeId;

/// One declaration of a reset.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Reset {
    /// The part that it is for, where the control is drawn on a native element inside; `None` for the host.
    pub part: Option<String>,
    /// The property.
    pub property: &'static str,
    /// The value on which hosts and engines agree.
    pub value: String,
    /// The hosts that need it, as a type selector; empty for all.
    pub hosts: &'static str,
    /// Why it is needed.
    pub reason: &'static str,
    /// The longhand on which they do not agree; none where the platform draws the control.
    longhand: Option<Longhand>,
}

impl Reset {
    /// What it sets.
    pub fn longhands(&self) -> Vec<Longhand> {
        targets(self.property, &self.value)
    }
}

/// Elements that should look alike: the hosts of a control, or the native elements that stand in them as a part.
struct Group {
    part: Option<String>,
    /// Names of the hosts, and what they are.
    members: Vec<(String, ElementKind)>,
}

/// The resets a control needs.
pub fn resets(control: &Control) -> Vec<Reset> {
    groups(control).iter().flat_map(|group| of_group(control, group)).collect()
}

/// What was measured where a reset is needed: values, with who has them, in words.
pub fn measured(control: &Control, reset: &Reset) -> Vec<(String, Vec<String>)> {
    let group = groups(control).into_iter().find(|group| group.part == reset.part);
    group.zip(reset.longhand).map(|(group, longhand)| measured_in(&group, longhand)).unwrap_or_default()
}

fn groups(control: &Control) -> Vec<Group> {
    let kind = |node: NodeId| control.template.document.element(node).map_or(ElementKind::OTHER, ElementKind::of);
    let hosts = &control.template.hosts;
    let mut groups =
        vec![Group { part: None, members: hosts.iter().map(|host| (host.name.clone(), kind(host.node))).collect() }];
    // What is a control of its own is reset by that control.
    let is_placed = |host: &Host| host.placed.iter().any(|placed| placed.node == host.bearer);
    for host in hosts.iter().filter(|host| host.bearer != host.node && !is_placed(host)) {
        let name = host.parts.iter().find(|(_, node)| *node == host.bearer).map(|(name, _)| name.value.clone());
        let member = (host.name.clone(), kind(host.bearer));
        match groups.iter_mut().find(|group| group.part.is_some() && group.part == name) {
            Some(known) => known.members.push(member),
            None => groups.push(Group { part: name, members: vec![member] }),
        }
    }
    groups.retain(|group| group.members.iter().any(|(_, kind)| *kind != ElementKind::OTHER));
    groups
}

fn of_group(control: &Control, group: &Group) -> Vec<Reset> {
    let set = set_at_rest(control, group.part.as_deref());
    let mut resets = Vec::new();
    let is_drawn = |kind: &ElementKind| kind.is_native() && !set.contains(&Longhand::Appearance);
    if group.members.iter().any(|(_, kind)| is_drawn(kind)) {
        if group.members.iter().any(|(_, kind)| is_drawn(kind) && kind.has_a_look_to_lose()) {
            // Checkboxes, lists and the like stay as the platform draws them until the control takes that away.
            return resets;
        }
        let (property, value) = ("appearance", "none".to_owned());
        let reason = "native controls are drawn by the platform";
        resets.push(Reset { part: group.part.clone(), property, value, hosts: "", reason, longhand: None });
    }
    let purpose = Purpose::of(group.members.iter().map(|(_, kind)| *kind));
    for longhand in differences(group).into_iter().filter(|longhand| !set.contains(longhand)) {
        let chosen = chosen::value(longhand, purpose);
        let reference = || first_value(group, longhand).unwrap_or_else(|| longhand.initial().to_owned());
        let property = chosen.map_or(longhand.name(), |chosen| chosen.property);
        let value = chosen.map_or_else(reference, |chosen| chosen.value.to_owned());
        let computed = || chosen::computed(longhand, property, &value);
        let computed = chosen.map_or_else(computed, |chosen| chosen.computed.clone());
        let hosts = needed_by(group, longhand, computed.as_deref());
        let reason = chosen.map_or("browsers do not agree, and the control leaves it unset", |chosen| chosen.reason);
        let known: Option<&mut Reset> = resets.iter_mut().find(|reset| reset.property == property);
        match known {
            Some(known) if hosts.is_empty() => known.hosts = "",
            Some(_) => {}
            None => {
                let (part, longhand) = (group.part.clone(), Some(longhand));
                resets.push(Reset { part, property, value, hosts, reason, longhand });
            }
        }
    }
    // A border without a style has no width.
    if resets.iter().any(|reset| reset.property == "border-style") {
        resets.retain(|reset| reset.property != "border-width");
    }
    resets.sort_by_key(|reset| (chosen::order(reset.property), reset.property));
    resets
}

/// Longhands on which members or engines do not agree in one and the same place.
fn differences(group: &Group) -> Vec<Longhand> {
    let brought: Vec<&BTreeMap<Longhand, Brought>> = group.members.iter().map(|(_, kind)| defaults(*kind)).collect();
    let differs = |longhand: &Longhand, context: usize| {
        let mut here = brought
            .iter()
            .filter_map(|defaults| defaults.get(longhand))
            .flat_map(|brought| (0..ENGINES.len()).filter_map(move |engine| brought.value(engine, context)));
        let first = here.next();
        here.any(|value| Some(value) != first)
    };
    let longhands = brought.first().into_iter().flat_map(|first| first.keys().copied());
    longhands.filter(|longhand| (0..CONTEXTS.len()).any(|context| differs(longhand, context))).collect()
}

fn measured_in(group: &Group, longhand: Longhand) -> Vec<(String, Vec<String>)> {
    let mut measured: BTreeMap<&str, Vec<String>> = BTreeMap::new();
    for (context, place) in CONTEXTS.iter().enumerate() {
        for (name, kind) in &group.members {
            for (engine, browser) in ENGINES.iter().enumerate() {
                let brought = defaults(*kind).get(&longhand);
                let Some(value) = brought.and_then(|brought| brought.value(engine, context)) else { continue };
                measured.entry(value).or_default().push(format!("{} {name}{}", browser.name(), place.words));
            }
        }
    }
    measured.into_iter().map(|(value, who)| (value.to_owned(), who)).collect()
}

/// The reference host's value at rest in the first engine.
fn first_value(group: &Group, longhand: Longhand) -> Option<String> {
    let (_, kind) = group.members.first()?;
    Some(defaults(*kind).get(&longhand)?.value(0, 0)?.to_owned())
}

/// `a` where only the links among the hosts have another value than the chosen one.
fn needed_by(group: &Group, longhand: Longhand, computed: Option<&str>) -> &'static str {
    let needs = |kind: ElementKind| {
        let defaults = defaults(kind);
        let Some(default) = defaults.get(&longhand) else { return true };
        default.values().any(|value| Some(value) != computed)
    };
    let others_need_it = group.members.iter().any(|(_, kind)| !kind.is_link() && needs(*kind));
    let only_links = group.members.iter().all(|(_, kind)| kind.is_link());
    if others_need_it || only_links { "" } else { "a" }
}

fn targets(property: &str, value: &str) -> Vec<Longhand> {
    parse_declaration(property, value)
        .map(|parsed| parsed.targets().into_iter().map(|target| target.physical(Flow::LTR)).collect())
        .unwrap_or_default()
}

/// Longhands that the control sets at rest on every host, or on a part of it.
fn set_at_rest(control: &Control, part: Option<&str>) -> Vec<Longhand> {
    let target = RuleTarget { part: part.map(str::to_owned), ..RuleTarget::default() };
    let rules = control.rules.iter().filter(|rule| {
        matches!(rule.place, Place::Trait | Place::From | Place::Control)
            && rule.target == target
            && rule.options.is_empty()
            && rule.states.is_rest()
            && rule.hosts.is_empty()
            && rule.nested.is_empty()
            && rule.conditions.is_empty()
    });
    rules
        .flat_map(|rule| &rule.declarations)
        .flat_map(|declaration| {
            let has_reference = declaration.value.pieces.iter().any(|piece| !matches!(piece, Piece::Text(_)));
            let text = declaration.value.write(&mut |_| "var(--x)".into(), &mut |local| local.to_owned());
            // With a reference in it the value waits; what it sets is known all the same.
            targets(&declaration.name.value, if has_reference { "var(--x)" } else { &text })
        })
        .collect()
}
