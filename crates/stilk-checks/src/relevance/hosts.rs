//! Hosts that a check cannot tell apart: the same elements in them, the same variants, rules that ask for neither of them,
//! and the same values of all that the check depends on, for the default variant. An option adds the same rules to both, and
//! what browsers and resets say of them does not depend on options: what holds for the default variant holds for all.

use crate::relevance::dependence::{Properties, Property, Setting};
use crate::relevance::states::Weighted;
use rustc_hash::FxHashMap;
use std::cell::{OnceCell, RefCell};
use stilk_engine::cascade::{PseudoElement, Style, matching, selector};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, NodeData, NodeId};
use stilk_language::case::{Look, LookEngine, Unit};
use stilk_language::system::{Control, StateSet, System, Variant, VariantSpace};
use stilk_language::tokens::Theme;

/// The hosts of a control, as they are held against each other.
pub struct Hosts<'s> {
    control: &'s Control,
    look_engine: &'s LookEngine<'s>,
    sets: &'s [StateSet],
    unit: Unit<'s>,
    themes: Vec<Theme>,
    /// The variants of each host: all, or where they are too many those that say something.
    pub variants: Vec<Vec<Variant>>,
    /// The same without being listed.
    pub spaces: Vec<VariantSpace>,
    /// The default variant of each host in every state, and at rest in every theme, once it is asked for.
    looks: Vec<OnceCell<Vec<Look>>>,
    /// Whether two hosts give a longhand the same value, on elements or on pseudo-elements only.
    alike: RefCell<FxHashMap<([usize; 2], Property), bool>>,
}

impl<'s> Hosts<'s> {
    /// Of a control.
    pub fn new(
        system: &'s System,
        look_engine: &'s LookEngine<'s>,
        control: &'s Control,
        sets: &'s [StateSet],
    ) -> Hosts<'s> {
        let count = control.template.hosts.len();
        let themes = system.tokens.themes();
        Hosts {
            control,
            look_engine,
            sets,
            unit: Unit { control, host: 0, variant: control.default_variant(), theme: themes[0].clone() },
            themes,
            variants: (0..count).map(|host| control.variants(host)).collect(),
            spaces: (0..count).map(|host| control.space(host)).collect(),
            looks: (0..count).map(|_| OnceCell::new()).collect(),
            alike: RefCell::default(),
        }
    }

    /// The hosts to look at, each with the number of hosts it stands for: for a check that depends on these names.
    /// Where boxes are laid out, the text and the kind of box matter as well.
    pub(super) fn distinct(&self, settings: &[Setting], read: &Properties, laid_out: bool) -> Weighted {
        let mut found: Weighted = Vec::new();
        for host in 0..self.looks.len() {
            match found.iter_mut().find(|(known, _)| self.are_alike([*known, host], settings, read, laid_out)) {
                Some((_, stands_for)) => *stands_for += 1,
                None => found.push((host, 1)),
            }
        }
        found
    }

    fn are_alike(&self, hosts: [usize; 2], settings: &[Setting], read: &Properties, laid_out: bool) -> bool {
        if self.control.waivers.iter().any(|waiver| waiver.cases.host.is_some()) {
            return false;
        }
        let document = &self.control.template.document;
        let [first, second] = hosts.map(|host| self.control.template.hosts[host].node);
        self.spaces[hosts[0]] == self.spaces[hosts[1]]
            && self.variants[hosts[0]].contains(&self.unit.variant)
            && is_like_host(document, first, second, laid_out)
            && children(document, first).len() == children(document, second).len()
            && children(document, first)
                .into_iter()
                .zip(children(document, second))
                .all(|(one, other)| is_like(document, one, other, laid_out))
            && settings.iter().filter(|one| one.sets_any(read)).all(|one| self.asks_alike(one, first, second))
            && read.iter().all(|property| self.gives_alike(hosts, property))
    }

    /// Whether a rule asks for nothing that one host has and the other has not.
    fn asks_alike(&self, setting: &Setting, first: NodeId, second: NodeId) -> bool {
        let rule = setting.rule;
        let reverts = setting.declaration.reverts();
        let document = &self.control.template.document;
        let is_alike = |text: &String| {
            // What asks for more than an element's name may be decided by its attributes or its states.
            let is_plain = !text.contains([':', '[', ' ', '>', '+', '~', '.', '#']);
            is_plain
                && selector::parse_list(text).is_some_and(|list| {
                    matching::matches(&list, document, first) == matching::matches(&list, document, second)
                })
        };
        let is_of_direction = |text: &String| text.starts_with(":dir(");
        !reverts && rule.hosts.iter().all(is_alike) && rule.nested.iter().all(is_of_direction) && rule.target.is_plain()
    }

    /// Whether two hosts have the same value of one property in every one of these looks.
    fn gives_alike(&self, [a, b]: [usize; 2], property: &Property) -> bool {
        let (longhand, is_generated) = match property {
            Property::Longhand(longhand) => (*longhand, false),
            Property::Generated(longhand) => (*longhand, true),
            // What a local comes to is seen in what reads it.
            Property::Local(_) => return true,
        };
        let key = ([a, b], *property);
        if let Some(known) = self.alike.borrow().get(&key) {
            return *known;
        }
        let pairs = self.looks(a).iter().zip(self.looks(b));
        let found = pairs.into_iter().all(|(one, other)| is_same(one, other, longhand, is_generated));
        self.alike.borrow_mut().insert(key, found);
        found
    }

    fn looks(&self, host: usize) -> &[Look] {
        self.looks[host].get_or_init(|| {
            let unit = Unit { host, ..self.unit.clone() };
            let in_states = self.sets.iter().map(|set| self.look_engine.look(&unit, set));
            // What a browser's sheet says of colours depends on the colour scheme.
            let rest = StateSet::default();
            let at_rest = self.look_engine.looks_in(&unit, &rest, self.themes.iter().skip(1));
            in_states.chain(at_rest).collect()
        })
    }
}

fn is_same(one: &Look, other: &Look, longhand: Longhand, is_generated: bool) -> bool {
    let nodes = |look: &Look| {
        let all = look.document.descendants(look.mounted.host).into_iter();
        all.filter(|node| look.document.element(*node).is_some()).collect::<Vec<NodeId>>()
    };
    let (first, second) = (nodes(one), nodes(other));
    let same = |a: Option<&std::rc::Rc<Style>>, b: Option<&std::rc::Rc<Style>>| match (a, b) {
        (None, None) => true,
        (Some(a), Some(b)) => a.get(longhand) == b.get(longhand),
        _ => false,
    };
    first.len() == second.len()
        && first.into_iter().zip(second).all(|(a, b)| {
            let own = is_generated || same(one.styles.element(a), other.styles.element(b));
            own && PseudoElement::ALL.iter().all(|p| same(one.styles.pseudo(a, *p), other.styles.pseudo(b, *p)))
        })
}

/// Whether two hosts are elements of a kind: links and buttons that hold what the template says, or buttons with a text
/// of their own.
fn is_like_host(document: &Document, one: NodeId, other: NodeId, laid_out: bool) -> bool {
    let kind = |node: NodeId| {
        let element = document.element(node)?;
        let is_labelled = element.attribute("value").is_some_and(|text| !text.is_empty());
        match (element.local(), element.attribute("type")) {
            (name @ ("button" | "a"), _) => Some((if laid_out { name } else { "" }, None)),
            ("input", Some("submit" | "reset" | "button")) if is_labelled => {
                Some(("input", element.attribute("value").filter(|_| laid_out)))
            }
            _ => None,
        }
    };
    kind(one).is_some_and(|one| Some(one) == kind(other))
}

fn children(document: &Document, node: NodeId) -> Vec<NodeId> {
    document.node(node).children.clone()
}

/// Whether two nodes of a template say the same.
fn is_like(document: &Document, one: NodeId, other: NodeId, laid_out: bool) -> bool {
    let (nodes, inner) =
        ([one, other].map(|node| document.node(node)), [one, other].map(|node| children(document, node)));
    let same = match (&nodes[0].data, &nodes[1].data) {
        (NodeData::Element(a), NodeData::Element(b)) => a.name == b.name && a.attributes == b.attributes,
        (NodeData::Text(a), NodeData::Text(b)) => a == b || (!laid_out && !a.trim().is_empty() && !b.trim().is_empty()),
        _ => false,
    };
    let [a, b] = inner;
    same && a.len() == b.len() && a.into_iter().zip(b).all(|(a, b)| is_like(document, a, b, laid_out))
}
