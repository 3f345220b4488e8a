//! Which axes a check can tell apart. A check reads some properties; an axis that sets nothing on which they depend
//! gives the same verdict for each of its options, so one variant is computed for all of them, and counted for all.
//!
//! What depends on what is read from the sheets: a declaration depends on the locals it names, a local on those it
//! names in turn. Targets are not told apart, so dependence is only ever taken for larger than it is.

use crate::case::ControlKind;
use crate::css::parse::parse_declaration;
use crate::css::property::{Flow, Longhand};
use crate::system::{Control, OptionId, Rule, System, Variant};
use crate::tokens::Piece;
use std::collections::{BTreeSet, HashMap};

/// What a check looks at.
#[derive(Debug, Clone, Copy)]
pub enum Reads {
    /// Values of these longhands, on elements with text of their own and around them.
    Text(&'static [Longhand]),
    /// Whatever the states that the kind of control needs change, but for these longhands.
    Changes(&'static [Longhand]),
}

/// A property or a local of a control, by the control's name.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
enum Name {
    Longhand(Longhand),
    Local(String, String),
}

/// A declaration: what it sets, and the locals it names.
struct Edge<'s> {
    control: &'s Control,
    rule: &'s Rule,
    sets: Vec<Name>,
    reads: Vec<Name>,
}

/// Axes of a control that some of the checks can tell apart, by index.
pub fn relevant_axes(system: &System, control: &Control, reads: &[Reads]) -> Vec<usize> {
    let mut edges = Vec::new();
    collect(system, control, &mut edges);
    let mut wanted: BTreeSet<Name> = BTreeSet::new();
    for one in reads {
        match one {
            Reads::Text(longhands) => wanted.extend(longhands.iter().map(|l| Name::Longhand(*l))),
            Reads::Changes(unseen) => wanted.extend(changed(system, control, &edges, unseen)),
        }
    }
    // Everything that has an influence on what is wanted.
    loop {
        let before = wanted.len();
        for edge in &edges {
            if edge.sets.iter().any(|name| wanted.contains(name)) {
                wanted.extend(edge.reads.iter().cloned());
            }
        }
        if wanted.len() == before {
            break;
        }
    }
    (0..control.axes.len())
        .filter(|axis| {
            let of_axis = |id: &OptionId| id.axis == *axis;
            let sets = edges.iter().any(|edge| {
                std::ptr::eq(edge.control, control)
                    && edge.rule.options.iter().any(of_axis)
                    && edge.sets.iter().any(|name| wanted.contains(name))
            });
            let waived = control.waivers.iter().any(|waiver| waiver.option.as_ref().is_some_and(of_axis));
            sets || waived || adds_something(system, control, &edges, *axis, reads)
        })
        .collect()
}

/// A variant that stands for a number of them.
pub struct Representative {
    /// The variant.
    pub variant: Variant,
    /// How many look the same to the checks, itself included.
    pub stands_for: u64,
}

/// One variant of a host for each combination of the axes that are told apart, in order.
pub fn representatives(control: &Control, host: usize, axes: &[usize]) -> Vec<Representative> {
    let mut found: Vec<Representative> = Vec::new();
    let mut places: HashMap<Vec<Option<usize>>, usize> = HashMap::new();
    for variant in control.variants(host) {
        let key = axes.iter().map(|axis| variant.choices[*axis]).collect();
        let place = *places.entry(key).or_insert(found.len());
        match found.get_mut(place) {
            Some(known) => known.stands_for += 1,
            None => found.push(Representative { variant, stands_for: 1 }),
        }
    }
    found
}

fn collect<'s>(system: &'s System, control: &'s Control, edges: &mut Vec<Edge<'s>>) {
    for rule in &control.rules {
        for declaration in &rule.declarations {
            let local = |owner: &str, name: &str| Name::Local(owner.to_owned(), name.to_owned());
            let sets = if declaration.is_local() {
                let owner = declaration.owner.as_deref().unwrap_or(&control.name.value);
                vec![local(owner, &declaration.name.value)]
            } else {
                let parsed = parse_declaration(&declaration.name.value, "var(--x)");
                let targets = parsed.map(|parsed| parsed.targets()).unwrap_or_default();
                targets.iter().flat_map(|t| Flow::all().map(|flow| t.physical(flow))).map(Name::Longhand).collect()
            };
            let reads = declaration.value.pieces.iter().filter_map(|piece| match piece {
                Piece::Local(name) => Some(local(&control.name.value, name)),
                _ => None,
            });
            edges.push(Edge { control, rule, sets, reads: reads.collect() });
        }
    }
    let mut placed: Vec<&str> = control.placements.iter().map(|p| p.control.as_str()).collect();
    placed.sort_unstable();
    placed.dedup();
    for inner in placed.into_iter().filter_map(|name| system.control(name)) {
        collect(system, inner, edges);
    }
}

/// The longhands that the needed states may change.
fn changed(system: &System, control: &Control, edges: &[Edge], unseen: &[Longhand]) -> Vec<Name> {
    let needed = ControlKind::of(control).needed_states();
    let mut names: BTreeSet<Name> = BTreeSet::new();
    for edge in edges.iter().filter(|edge| names_state(system, edge.rule, needed)) {
        names.extend(edge.sets.iter().cloned());
    }
    loop {
        let before = names.len();
        for edge in edges {
            if edge.reads.iter().any(|name| names.contains(name)) {
                names.extend(edge.sets.iter().cloned());
            }
        }
        if names.len() == before {
            break;
        }
    }
    names.into_iter().filter(|name| !matches!(name, Name::Longhand(l) if unseen.contains(l))).collect()
}

fn names_state(system: &System, rule: &Rule, names: &[&str]) -> bool {
    let of = rule.states.of_parts().iter().map(|(id, _)| id);
    rule.states.ids().iter().chain(of).any(|id| names.contains(&system.states.get(*id).name.as_str()))
}

/// Whether an option of the axis brings an element that the checks would see: one with text, or a part that answers to
/// a state in a variant that can have both.
fn adds_something(system: &System, control: &Control, edges: &[Edge], axis: usize, reads: &[Reads]) -> bool {
    let needed = ControlKind::of(control).needed_states();
    let document = &control.template.document;
    control.template.hosts.iter().any(|host| {
        document.descendants(host.node).into_iter().any(|node| {
            let Some(list) = document.element(node).and_then(|e| e.attribute("data-when")) else { return false };
            let options: Vec<OptionId> =
                list.split_ascii_whitespace().filter_map(|name| control.find_option(name)).collect();
            let of_axis: Vec<&OptionId> = options.iter().filter(|id| id.axis == axis).collect();
            if of_axis.is_empty() {
                return false;
            }
            let inside = document.descendants(node);
            let has_text = inside.iter().any(|node| document.has_own_text(*node));
            let parts: Vec<&str> =
                host.parts.iter().filter(|(_, n)| inside.contains(n)).map(|(name, _)| name.as_str()).collect();
            let answers = reads.iter().any(|one| matches!(one, Reads::Changes(_)))
                && edges.iter().any(|edge| {
                    let meets = |option: &OptionId| edge.rule.options.iter().all(|o| can_meet(control, *option, *o));
                    names_state(system, edge.rule, needed)
                        && edge.rule.target.part.as_deref().is_some_and(|part| parts.contains(&part))
                        && of_axis.iter().any(|option| meets(option))
                });
            has_text || answers
        })
    })
}

fn can_meet(control: &Control, a: OptionId, b: OptionId) -> bool {
    if a.axis == b.axis {
        return a == b;
    }
    !control.excludes.iter().any(|exclude| {
        let pair = |x: &OptionId, y: &OptionId| exclude.options.contains(x) && exclude.with.contains(y);
        exclude.hosts.is_none() && exclude.without.is_empty() && (pair(&a, &b) || pair(&b, &a))
    })
}
