//! Which axes and states a check can tell apart. A check reads some properties; an axis that sets nothing on which they
//! depend gives the same verdict for each of its options, so one variant is computed for all of them, and counted for
//! all. A state that sets nothing on which they depend gives the verdict of the case without it, and of hosts that give
//! all of them the same values one is looked at.
//!
//! What depends on what is read from the sheets: a declaration depends on the locals it names, a local on those it
//! names in turn. Targets are not told apart, so dependence is only ever taken for larger than it is.

pub mod host_options;
mod hosts;
mod option_reach;
mod themes;

pub use crate::relevance::hosts::Hosts;
pub use crate::relevance::option_reach::OptionReach;
pub use crate::relevance::themes::{Colors, told_apart};
use rustc_hash::{FxHashMap, FxHashSet};
use std::collections::{BTreeSet, HashMap};
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::{Flow, Longhand};
use stilk_language::case::{ControlKind, Stage};
use stilk_language::system::states::StateId;
use stilk_language::system::{BoundDeclaration, Control, OptionId, Rule, StateSet, System, Variant};
use stilk_language::tokens::{Piece, TokenId};

/// What a check looks at.
#[derive(Debug, Clone, Copy)]
pub enum Reads {
    /// Values of the first longhands in every state, of the second on `::before` and `::after` only, and which elements
    /// are there.
    Values(&'static [Longhand], &'static [Longhand]),
    /// Values of these longhands in every state, and which elements are there; of colours, whether they cover what is behind.
    Boxes(&'static [Longhand]),
    /// Whatever the states that the kind of control needs change, each alone, but for these longhands.
    Needed(&'static [Longhand]),
    /// Values of these longhands in every set of states, none taken for another.
    Each(&'static [Longhand]),
    /// Values of these longhands at rest.
    Rest(&'static [Longhand]),
    /// Values of these longhands at rest and in each of these states alone.
    Alone(&'static [Longhand], &'static [&'static str]),
    /// Whatever states change, alone and together, but for these longhands; no set of states is taken for another.
    Changes(&'static [Longhand]),
}

/// A property, or a local of a control by its number.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Name {
    Longhand(Longhand),
    /// Of `::before` or `::after`.
    Generated(Longhand),
    Local(usize),
}

/// Names that something depends on.
type Names = FxHashSet<Name>;

/// A declaration: what it sets, and the locals it names.
struct Edge<'s> {
    control: &'s Control,
    rule: &'s Rule,
    declaration: &'s BoundDeclaration,
    sets: Vec<Name>,
    reads: Vec<Name>,
    tokens: Vec<TokenId>,
}

/// Two lists of longhands in one.
pub const fn joined<const A: usize, const B: usize, const N: usize>(
    a: [Longhand; A],
    b: [Longhand; B],
) -> [Longhand; N] {
    assert!(A + B == N);
    let mut all = [Longhand::Color; N];
    let mut index = 0;
    while index < N {
        all[index] = if index < A { a[index] } else { b[index - A] };
        index += 1;
    }
    all
}

/// What one check can tell apart in a control.
pub struct Relevance {
    /// Axes, by index.
    pub axes: Vec<usize>,
    /// The sets of states to look at, by index, with the number of sets that each stands for.
    pub states: Vec<(usize, u64)>,
    /// The themes to look in, by index, with the number of themes that each stands for.
    pub themes: Vec<(usize, u64)>,
    /// The hosts to look at, by index, with the number of hosts that each stands for.
    pub hosts: Vec<(usize, u64)>,
}

/// What depends on what in a control and in those placed in it.
pub struct Dependence<'s> {
    system: &'s System,
    control: &'s Control,
    edges: Vec<Edge<'s>>,
    /// The themes that are asked for, by index.
    themes: Vec<usize>,
    /// Whether rules ask for the theme around a control.
    asks_for_theme: bool,
}

impl<'s> Dependence<'s> {
    /// Of a control, in some themes.
    pub fn new(system: &'s System, stage: &Stage, control: &'s Control, themes: Vec<usize>) -> Dependence<'s> {
        let asks_for_theme = !stage.scenes_serve_all_themes();
        let mut edges = Vec::new();
        collect(system, control, &mut edges, &mut FxHashMap::default());
        Dependence { system, control, edges, themes, asks_for_theme }
    }

    /// What a check can tell apart.
    pub fn relevance(&self, reads: Reads, sets: &[StateSet], is_never_large: bool, hosts: &Hosts) -> Relevance {
        let Dependence { system, control, edges, themes, asks_for_theme } = self;
        // The size of text decides one thing only: whether it is large.
        let unread: &[Longhand] = if is_never_large { &OF_SIZE } else { &[] };
        let wanted = wanted(system, control, reads, edges, unread);
        Relevance {
            axes: relevant_axes(system, control, reads, edges, &wanted),
            states: relevant_states((system, control), reads, sets, edges, &wanted),
            themes: themes::relevant_themes((system, *asks_for_theme), Colors::of(reads), themes, edges, &wanted),
            hosts: hosts.told_apart(edges, &wanted),
        }
    }

    /// The themes to look in, by index, with the number of themes that each stands for, where this of colours counts.
    pub fn themes(&self, reads: Reads, colors: Colors) -> Vec<(usize, u64)> {
        let Dependence { system, control, edges, themes, asks_for_theme } = self;
        let wanted = wanted(system, control, reads, edges, &[]);
        themes::relevant_themes((system, *asks_for_theme), colors, themes, edges, &wanted)
    }
}

impl Relevance {
    /// Everything is told apart.
    pub fn all(system: &System, control: &Control, reads: Reads, sets: &[StateSet], themes: &[usize]) -> Relevance {
        let states = match reads {
            Reads::Values(..) | Reads::Boxes(_) | Reads::Each(_) | Reads::Changes(_) => {
                (0..sets.len()).map(|index| (index, 1)).collect()
            }
            Reads::Needed(_) | Reads::Rest(_) | Reads::Alone(..) => {
                relevant_states((system, control), reads, sets, &[], &Names::default())
            }
        };
        let each = |count: usize| (0..count).map(|index| (index, 1)).collect();
        let hosts = each(control.template.hosts.len());
        let themes = themes.iter().map(|index| (*index, 1)).collect();
        Relevance { axes: (0..control.axes.len()).collect(), states, themes, hosts }
    }
}

/// What none but those ask for who ask where boxes stand.
const OF_LAYOUT: Longhand = Longhand::AlignItems;

/// What makes text large, or not (WCAG 2.2, "large scale").
const OF_SIZE: [Longhand; 2] = [Longhand::FontSize, Longhand::FontWeight];

impl Dependence<'_> {
    /// Whether the default variant and each option alone, at rest, show every size of text that a control has: where one axis
    /// at most sets it, and no state does.
    pub fn shows_all_sizes(&self) -> bool {
        let Dependence { system, control, edges, .. } = self;
        let reads = Reads::Each(&OF_SIZE[..1]);
        let wanted = wanted(system, control, reads, edges, &[]);
        let setting: Vec<&Edge> = edges.iter().filter(|edge| edge.sets_any(&wanted)).collect();
        let of_own = setting.iter().filter(|edge| std::ptr::eq(edge.control, *control));
        let axes: BTreeSet<usize> =
            of_own.flat_map(|edge| edge.rule.options.iter().map(|option| option.axis)).collect();
        axes.len() <= 1 && setting.iter().all(|edge| edge.rule.states.is_rest() && !edge.asks_more_than_states())
    }
}

/// Everything that has an influence on what a check reads.
fn wanted(system: &System, control: &Control, reads: Reads, edges: &[Edge], unread: &[Longhand]) -> Names {
    let mut wanted: Names = match reads {
        Reads::Values(longhands, generated) => {
            let generated = generated.iter().map(|l| Name::Generated(*l));
            let longhands = longhands.iter().filter(|l| !unread.contains(l));
            longhands.map(|l| Name::Longhand(*l)).chain(generated).collect()
        }
        Reads::Boxes(longhands) | Reads::Each(longhands) | Reads::Rest(longhands) | Reads::Alone(longhands, _) => {
            longhands.iter().map(|l| Name::Longhand(*l)).collect()
        }
        Reads::Needed(unseen) => {
            let needed = ControlKind::of(control).needed_states();
            changed(edges, &|rule| names_state(system, rule, needed), unseen).into_iter().collect()
        }
        Reads::Changes(unseen) => changed(edges, &|rule| !rule.states.is_rest(), unseen).into_iter().collect(),
    };
    loop {
        let before = wanted.len();
        for edge in edges {
            if edge.sets.iter().any(|name| wanted.contains(name)) {
                wanted.extend(edge.reads.iter().copied());
            }
        }
        if wanted.len() == before {
            return wanted;
        }
    }
}

fn relevant_axes(system: &System, control: &Control, reads: Reads, edges: &[Edge], wanted: &Names) -> Vec<usize> {
    let asks_a_container =
        edges.iter().any(|edge| edge.sets_any(wanted) && edge.rule.conditions.iter().any(|c| c.kind == "container"));
    (0..control.axes.len())
        .filter(|axis| {
            let of_axis = |id: &OptionId| id.axis == *axis;
            let sets = edges.iter().any(|edge| {
                std::ptr::eq(edge.control, control) && edge.rule.options.iter().any(of_axis) && edge.sets_any(wanted)
            });
            let waived = control.waivers.iter().any(|waiver| waiver.cases.options.iter().any(of_axis));
            asks_a_container || sets || waived || adds_something(system, control, edges, *axis, reads)
        })
        .collect()
}

/// The sets of states that a check looks at, each with the number of sets it stands for. Of those that it cannot tell
/// apart the first is taken.
fn relevant_states(
    (system, control): (&System, &Control),
    reads: Reads,
    sets: &[StateSet],
    edges: &[Edge],
    wanted: &Names,
) -> Vec<(usize, u64)> {
    if matches!(reads, Reads::Each(_) | Reads::Changes(_)) {
        return (0..sets.len()).map(|index| (index, 1)).collect();
    }
    if matches!(reads, Reads::Rest(_)) {
        return (0..sets.len()).filter(|index| sets[*index].is_rest()).map(|index| (index, 1)).collect();
    }
    if let Reads::Alone(_, names) = reads {
        let is_named = |set: &StateSet| {
            set.of_parts().is_empty()
                && set.ids().iter().all(|id| names.contains(&system.states.get(*id).name.as_str()))
        };
        return (0..sets.len())
            .filter(|index| sets[*index].len() <= 1 && is_named(&sets[*index]))
            .map(|index| (index, 1))
            .collect();
    }
    if matches!(reads, Reads::Needed(_)) {
        return (0..sets.len()).filter(|index| sets[*index].len() <= 1).map(|index| (index, 1)).collect();
    }
    let edges: Vec<&Edge> = edges.iter().filter(|edge| edge.sets_any(wanted)).collect();
    if edges.iter().any(|edge| edge.asks_more_than_states()) {
        return (0..sets.len()).map(|index| (index, 1)).collect();
    }
    let counts = |id: StateId| {
        let named = |edge: &&Edge| {
            let states = &edge.rule.states;
            states.ids().contains(&id) || states.of_parts().iter().any(|(of, _)| *of == id)
        };
        let name = system.states.get(id).name.as_str();
        // Every browser draws an outline of its own where the focus is.
        let is_outlined =
            ["focus", "focus-within"].contains(&name) && wanted.contains(&Name::Longhand(Longhand::OutlineStyle));
        let is_waived = control.waivers.iter().any(|waiver| waiver.cases.states.ids().contains(&id));
        is_waived || is_outlined || !PAINTED_BY_SHEETS_ALONE.contains(&name) || edges.iter().any(named)
    };
    let mut found: Vec<(StateSet, usize, u64)> = Vec::new();
    for (index, set) in sets.iter().enumerate() {
        let own = StateSet::of(set.ids().iter().copied().filter(|id| counts(*id)));
        let of_parts = set.of_parts().iter().filter(|(id, _)| counts(*id));
        let key = of_parts.fold(own, |key, (id, part)| key.with_part(*id, part.clone()));
        match found.iter_mut().find(|(known, ..)| *known == key) {
            Some((_, _, stands_for)) => *stands_for += 1,
            None => found.push((key, index, 1)),
        }
    }
    found.into_iter().map(|(_, index, stands_for)| (index, stands_for)).collect()
}

/// States in which no browser paints anything else than at rest, but for an outline, and in which the markup holds the
/// same text: all that changes is what sheets say.
const PAINTED_BY_SHEETS_ALONE: [&str; 8] =
    ["hover", "focus-within", "focus", "selected", "required", "readonly", "invalid", "busy"];

impl Edge<'_> {
    fn sets_any(&self, names: &Names) -> bool {
        self.sets.iter().any(|name| names.contains(name))
    }

    /// Whether its rule has a condition beside its states that a state may decide.
    fn asks_more_than_states(&self) -> bool {
        const OF_STRUCTURE: [&str; 10] =
            ["dir", "lang", "root", "is", "where", "not", "first-child", "last-child", "only-child", "nth-child"];
        let rule = self.rule;
        let selectors = rule.nested.iter().chain(&rule.hosts).chain(std::iter::once(&rule.target.condition));
        let may_be_of_state = |text: &String| {
            let word = |after: &str| after.chars().take_while(|c| c.is_alphanumeric() || *c == '-').collect::<String>();
            text.contains('[') || text.split(':').skip(1).any(|after| !OF_STRUCTURE.contains(&word(after).as_str()))
        };
        rule.conditions.iter().any(|c| c.kind == "container") || selectors.into_iter().any(may_be_of_state)
    }
}

/// A variant that stands for a number of them.
pub struct Representative {
    /// The variant, by index.
    pub variant: usize,
    /// How many look the same to the checks, itself included.
    pub stands_for: u64,
}

/// One variant for each combination of the axes that are told apart, in order, of those that are meant.
pub fn representatives(
    variants: &[Variant],
    axes: &[usize],
    is_meant: impl Fn(&Variant) -> bool,
) -> Vec<Representative> {
    let mut found: Vec<Representative> = Vec::new();
    let mut places: HashMap<Vec<Option<usize>>, usize> = HashMap::new();
    for (index, variant) in variants.iter().enumerate().filter(|(_, variant)| is_meant(variant)) {
        let key = axes.iter().map(|axis| variant.choices[*axis]).collect();
        let place = *places.entry(key).or_insert(found.len());
        match found.get_mut(place) {
            Some(known) => known.stands_for += 1,
            None => found.push(Representative { variant: index, stands_for: 1 }),
        }
    }
    found
}

/// The longhands that a declaration of this property sets, whichever way text flows.
pub fn longhands_of(property: &str) -> Vec<Longhand> {
    let targets = parse_declaration(property, "var(--x)").map(|parsed| parsed.targets()).unwrap_or_default();
    targets.iter().flat_map(|target| Flow::all().map(|flow| target.physical(flow))).collect()
}

fn collect<'s>(
    system: &'s System,
    control: &'s Control,
    edges: &mut Vec<Edge<'s>>,
    locals: &mut FxHashMap<(String, String), usize>,
) {
    for rule in &control.rules {
        for declaration in &rule.declarations {
            let mut local = |owner: &str, name: &str| {
                let next = locals.len();
                Name::Local(*locals.entry((owner.to_owned(), name.to_owned())).or_insert(next))
            };
            let sets = if declaration.is_local() {
                let owner = declaration.owner.as_deref().unwrap_or(&control.name.value);
                vec![local(owner, &declaration.name.value)]
            } else {
                let longhands = longhands_of(&declaration.name.value);
                let is_generated = ["::before", "::after"].contains(&rule.target.pseudo.as_str());
                let generated = |longhand| is_generated.then_some(Name::Generated(longhand));
                longhands.into_iter().flat_map(|l| std::iter::once(Name::Longhand(l)).chain(generated(l))).collect()
            };
            let reads = declaration.value.pieces.iter().filter_map(|piece| match piece {
                Piece::Local(name) => Some(local(&control.name.value, name)),
                _ => None,
            });
            let reads = reads.collect();
            let tokens = declaration.value.tokens().collect();
            edges.push(Edge { control, rule, declaration, sets, reads, tokens });
        }
    }
    let mut placed: Vec<&str> = control.placements.iter().map(|p| p.control.as_str()).collect();
    placed.sort_unstable();
    placed.dedup();
    for inner in placed.into_iter().filter_map(|name| system.control(name)) {
        collect(system, inner, edges, locals);
    }
}

/// The longhands that rules of states may change.
fn changed(edges: &[Edge], is_of_state: &dyn Fn(&Rule) -> bool, unseen: &[Longhand]) -> Vec<Name> {
    let mut names: Names = Names::default();
    for edge in edges.iter().filter(|edge| is_of_state(edge.rule)) {
        names.extend(edge.sets.iter().copied());
    }
    loop {
        let before = names.len();
        for edge in edges {
            if edge.reads.iter().any(|name| names.contains(name)) {
                names.extend(edge.sets.iter().copied());
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
fn adds_something(system: &System, control: &Control, edges: &[Edge], axis: usize, reads: Reads) -> bool {
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
            let is_of_state = |rule: &Rule| match reads {
                Reads::Values(..) | Reads::Boxes(_) | Reads::Each(_) | Reads::Rest(_) | Reads::Alone(..) => false,
                Reads::Needed(_) => names_state(system, rule, needed),
                Reads::Changes(_) => !rule.states.is_rest(),
            };
            let answers = edges.iter().any(|edge| {
                let meets = |option: &OptionId| edge.rule.options.iter().all(|o| can_meet(control, *option, *o));
                is_of_state(edge.rule)
                    && edge.rule.target.part.as_deref().is_some_and(|part| parts.contains(&part))
                    && of_axis.iter().any(|option| meets(option))
            });
            // Whoever looks at icons looks at every element.
            let drawn = matches!(reads, Reads::Values(longhands, _) if longhands.contains(&Longhand::Fill));
            has_text || answers || drawn
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
