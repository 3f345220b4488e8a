//! What depends on what in a control and in those placed in it, read from the sheets: a declaration depends on the locals it
//! names, a local on those it names in turn. Targets are not told apart, so dependence is only ever taken for larger than it
//! is.

use crate::relevance::reads::{Longhands, Reads};
use rustc_hash::{FxHashMap, FxHashSet};
use stilk_engine::cascade::{LonghandSet, PseudoElement};
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::layout::READS;
use stilk_language::case::ControlKind;
use stilk_language::markup::around;
use stilk_language::system::{BoundDeclaration, Control, Rule, StateId, System};
use stilk_language::tokens::{Piece, TokenId};

/// A property that a verdict may depend on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Property {
    /// A longhand.
    Longhand(Longhand),
    /// A longhand of `::before` or `::after`.
    Generated(Longhand),
    /// A local of a control, by its number.
    Local(usize),
}

/// Properties that something depends on.
pub type Properties = FxHashSet<Property>;

/// A declaration: what it sets, and what it reads.
pub struct Setting<'s> {
    /// The control that it is of: the one that is looked at, or one placed in it.
    pub control: &'s Control,
    /// Its rule.
    pub rule: &'s Rule,
    /// Itself.
    pub declaration: &'s BoundDeclaration,
    sets: Vec<Property>,
    reads: Vec<Property>,
    /// The tokens that it names.
    pub tokens: Vec<TokenId>,
    /// Whether it asks for a state of the manifest's own that other states bring about: `focused = ":focus"`.
    asks_for_pseudo_class: bool,
}

impl Setting<'_> {
    /// Whether it sets one of these.
    pub fn sets_any(&self, properties: &Properties) -> bool {
        self.sets.iter().any(|property| properties.contains(property))
    }

    /// Whether its rule has a condition beside its states that a state may decide.
    pub fn asks_more_than_states(&self) -> bool {
        const OF_STRUCTURE: [&str; 10] =
            ["dir", "lang", "root", "is", "where", "not", "first-child", "last-child", "only-child", "nth-child"];
        let may_be_of_state = |text: &str| {
            let word = |after: &str| after.chars().take_while(|c| c.is_alphanumeric() || *c == '-').collect::<String>();
            text.contains('[') || text.split(':').skip(1).any(|after| !OF_STRUCTURE.contains(&word(after).as_str()))
        };
        self.asks_for_pseudo_class
            || self.rule.asks_for_container()
            || self.rule.conditions_of_selectors().any(may_be_of_state)
    }
}

/// Every declaration of a control, and of those placed in it.
pub fn settings<'s>(system: &'s System, control: &'s Control) -> Vec<Setting<'s>> {
    let mut settings = Vec::new();
    // Where it stands only inside of another, that one's rules reach it.
    let outermost = around(system, control).unwrap_or(control);
    collect(system, outermost, &mut settings, &mut FxHashMap::default());
    settings
}

fn collect<'s>(
    system: &'s System,
    control: &'s Control,
    settings: &mut Vec<Setting<'s>>,
    locals: &mut FxHashMap<(String, String), usize>,
) {
    for rule in &control.rules {
        let all = rule.states.ids().iter().chain(rule.states.of_parts().iter().map(|(id, _)| id));
        let all = all.chain(rule.states.absent());
        let asks_for_pseudo_class = all.filter(|id| matches!(id, StateId::Own(_))).any(|id| {
            let selectors = &system.states.get(*id).selectors;
            selectors.iter().any(|selector| selector.contains(':'))
        });
        let is_generated = rule.target.pseudo_element().is_some_and(PseudoElement::is_generated);
        for declaration in &rule.declarations {
            let mut local = |owner: &str, name: &str| {
                let next = locals.len();
                Property::Local(*locals.entry((owner.to_owned(), name.to_owned())).or_insert(next))
            };
            let sets = if declaration.is_local() {
                let owner = declaration.owner.as_deref().unwrap_or(&control.name.value);
                vec![local(owner, &declaration.name.value)]
            } else {
                let generated = |longhand| is_generated.then_some(Property::Generated(longhand));
                let both = |longhand| std::iter::once(Property::Longhand(longhand)).chain(generated(longhand));
                longhands_of(&declaration.name.value).into_iter().flat_map(both).collect()
            };
            let reads = declaration.value.pieces.iter().filter_map(|piece| match piece {
                Piece::Local(name) => Some(local(&control.name.value, name)),
                _ => None,
            });
            let reads = reads.collect();
            let tokens = declaration.value.tokens().collect();
            settings.push(Setting { control, rule, declaration, sets, reads, tokens, asks_for_pseudo_class });
        }
    }
    let mut placed: Vec<&str> = control.placements.iter().map(|p| p.control.as_str()).collect();
    placed.sort_unstable();
    placed.dedup();
    for inner in placed.into_iter().filter_map(|name| system.control(name)) {
        collect(system, inner, settings, locals);
    }
}

/// What decides whether a container query holds, beside the locals that it may ask for.
const CONTAINERS: LonghandSet = LonghandSet::of(&READS).and(&[Longhand::ContainerName, Longhand::ContainerType]);

/// The longhands that a declaration of this property sets, whichever way text flows.
pub fn longhands_of(property: &str) -> Vec<Longhand> {
    let targets = parse_declaration(property, "var(--x)").map(|parsed| parsed.targets()).unwrap_or_default();
    targets.iter().flat_map(|target| Flow::all().map(|flow| target.physical(flow))).collect()
}

/// Everything that has an influence on what a check reads, but for some longhands by themselves.
pub fn influences(control: &Control, reads: &Reads, settings: &[Setting], unread: LonghandSet) -> Properties {
    let mut all: Properties = match reads.longhands {
        Longhands::These(longhands) => longhands.without(unread).iter().map(Property::Longhand).collect(),
        Longhands::ChangedByNeeded { unseen } => {
            let needed = ControlKind::of(control).needed_states();
            changed(settings, &|rule| names_any(rule, needed), unseen)
        }
        Longhands::ChangedByStates { unseen } => changed(settings, &|rule| !rule.states.is_rest(), unseen),
    };
    all.extend(reads.generated.iter().map(Property::Generated));
    loop {
        let before = all.len();
        for setting in settings {
            if setting.sets_any(&all) {
                all.extend(setting.reads.iter().copied());
                if setting.rule.asks_for_container() {
                    all.extend(CONTAINERS.iter().map(Property::Longhand));
                    all.extend(
                        settings.iter().flat_map(|other| &other.sets).filter(|p| matches!(p, Property::Local(_))),
                    );
                }
            }
        }
        if all.len() == before {
            return all;
        }
    }
}

/// What rules of states may change: what they set, and what reads that.
fn changed(settings: &[Setting], is_of_state: &dyn Fn(&Rule) -> bool, unseen: LonghandSet) -> Properties {
    let mut all = Properties::default();
    for setting in settings.iter().filter(|setting| is_of_state(setting.rule)) {
        all.extend(setting.sets.iter().copied());
    }
    loop {
        let before = all.len();
        for setting in settings {
            if setting.reads.iter().any(|property| all.contains(property)) {
                all.extend(setting.sets.iter().copied());
            }
        }
        if all.len() == before {
            break;
        }
    }
    all.retain(|property| !matches!(property, Property::Longhand(longhand) if unseen.has(*longhand)));
    all
}

/// Whether a rule speaks of one of these states, of the control or of a part.
pub fn names_any(rule: &Rule, states: &[StateId]) -> bool {
    states.iter().any(|state| rule.states.speaks_of(*state))
}
