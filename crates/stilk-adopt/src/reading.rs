//! What a rule asks of a control: its selector held against the control's elements, compound by compound.

use crate::holding::{can_be, is_focusable};
use std::collections::BTreeSet;
use stilk_engine::cascade::compound::{self, Compound, StateWay, compounds, without_states};
use stilk_engine::cascade::matching::matches;
use stilk_engine::cascade::selector::{self, One, parse_list, split_list};
use stilk_engine::dom::{Document, NodeId};
use stilk_language::mark::Mark;
use stilk_survey::control::Found;
use stilk_survey::rules::Rule;
use stilk_survey::state_class;
use stilk_survey::theme::{self, Theme};

/// An element in a control, by what tells it from others there.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct PartId {
    /// Whether it is the native element inside, whose state counts.
    pub is_bearer: bool,
    /// Its first class that says no state.
    pub class: Option<String>,
    /// Its name, where it has no such class.
    pub local: String,
}

/// What a rule asks of a control that it styles.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Default)]
pub struct Reading {
    /// The part that it styles; the host where there is none.
    pub part: Option<PartId>,
    /// Its pseudo-element, with its colons.
    pub pseudo: String,
    /// What the host's element is asked for: its name and its type.
    pub element: Vec<String>,
    /// Classes of the host, states among them.
    pub classes: BTreeSet<String>,
    /// Attributes and ids of the host, and what else is asked of it, as CSS.
    pub others: BTreeSet<String>,
    /// States of the host and of its bearer, as CSS.
    pub states: BTreeSet<String>,
    /// States that the host and its bearer must not be in, as CSS.
    pub absent: BTreeSet<String>,
    /// States of parts, as CSS; those of the part that is styled among them.
    pub part_states: BTreeSet<(PartId, String)>,
    /// What else the part is asked for that is styled, as CSS.
    pub part_others: BTreeSet<String>,
    /// What stands around the host, as a selector of it: `.masthead *`.
    pub outside: Option<String>,
    /// Themes that it asks for, by their place among those of the site.
    pub themes: BTreeSet<usize>,
}

/// Elements, each with a state that it has to be in.
pub type InStates = Vec<(NodeId, String)>;

/// A rule, ready to be read.
pub struct Asked {
    /// What it matches in some state and theme.
    pub any: Option<One>,
    /// Its compounds without states and themes.
    bare: Vec<Compound>,
    /// For each, what it asks for beside: classes that say a state.
    state_classes: Vec<Vec<String>>,
    /// For each, what it asks of the direction of text, which pages are looked at in both of.
    directions: Vec<Vec<String>>,
    lists: Vec<Option<selector::List>>,
    themes: BTreeSet<usize>,
}

impl Asked {
    /// From a rule.
    pub fn of(rule: &Rule, themes: &[Theme]) -> Asked {
        let mut of_themes = BTreeSet::new();
        let (mut bare, mut state_classes, mut directions) = (Vec::new(), Vec::new(), Vec::new());
        for compound in &rule.compounds {
            let left = theme::without(themes, compound);
            if left != *compound {
                let asks = |theme: &Theme| theme::asks_for(std::slice::from_ref(theme), compound);
                of_themes.extend(themes.iter().enumerate().filter(|(_, theme)| asks(theme)).map(|(index, _)| index));
            }
            let (mut left, taken) = state_class::without(&left);
            let of_direction = |text: &String| text.starts_with(":dir(") || text.starts_with("[dir");
            let (others, attributes) = (std::mem::take(&mut left.others), std::mem::take(&mut left.attributes));
            let (asked, others): (Vec<String>, Vec<String>) = others.into_iter().partition(of_direction);
            let (asked_more, attributes): (Vec<String>, Vec<String>) = attributes.into_iter().partition(of_direction);
            (left.others, left.attributes) = (others, attributes);
            directions.push([asked, asked_more].concat());
            bare.push(left);
            state_classes.push(taken);
        }
        let any = parse_list(&without_states(&bare)).and_then(|list| match list.slice() {
            [one] => Some(one.clone()),
            _ => None,
        });
        let lists = bare.iter().map(|compound| parse_list(&compound.without_states())).collect();
        Asked { any, bare, state_classes, directions, lists, themes: of_themes }
    }

    /// The elements that its compounds match, where its subject is this one.
    fn assigned(&self, document: &Document, at: usize, node: NodeId) -> Option<Vec<NodeId>> {
        document.element(node)?;
        if !self.lists[at].as_ref().is_some_and(|list| matches(list, document, node)) {
            return None;
        }
        if at + 1 == self.bare.len() {
            return Some(vec![node]);
        }
        let with = |next: NodeId| {
            let mut rest = self.assigned(document, at + 1, next)?;
            rest.insert(0, node);
            Some(rest)
        };
        match self.bare[at].before.unwrap_or(' ') {
            '>' => with(document.node(node).parent?),
            '+' => with(document.element_before(node)?),
            '~' => {
                let mut sibling = document.element_before(node);
                while let Some(next) = sibling {
                    if let Some(found) = with(next) {
                        return Some(found);
                    }
                    sibling = document.element_before(next);
                }
                None
            }
            _ => document.around(node).skip(1).find_map(with),
        }
    }

    /// In which states which elements have to be so that it matches one, in each way in which it may, and what must not hold
    /// in one of its own; with all elements that it names. Nothing where it asks for no state.
    pub fn requirements(
        &self,
        rule: &Rule,
        document: &Document,
        subject: NodeId,
    ) -> Option<(Vec<InStates>, Vec<NodeId>)> {
        if !rule.asks_state() {
            return None;
        }
        let mut nodes = self.assigned(document, 0, subject)?;
        let (mut ways, mut absent) = (vec![InStates::new()], BTreeSet::new());
        for (at, node) in nodes.clone().into_iter().enumerate() {
            let classes = self.state_classes[at].iter().map(|class| (node, format!(".{class}")));
            ways.iter_mut().for_each(|way| way.extend(classes.clone()));
            let mut next = Vec::new();
            for of_node in StateWay::all_of(&rule.compounds[at].states) {
                let held = of_node.held.iter().flat_map(|state| in_states(document, node, state));
                let held: InStates = held.collect();
                absent.extend(of_node.absent.iter().flat_map(|state| in_states(document, node, state)));
                nodes.extend(held.iter().map(|(inside, _)| *inside));
                next.extend(ways.iter().map(|way| [way.as_slice(), &held].concat()));
            }
            next.truncate(MOST_LOOKED_AT);
            ways = next;
        }
        nodes.extend(absent.iter().map(|(inside, _)| *inside));
        ways.extend(absent.into_iter().map(|one| vec![one]));
        for way in &mut ways {
            way.sort();
            way.dedup();
        }
        ways.retain(|way| !way.is_empty());
        ways.sort();
        ways.dedup();
        (!ways.is_empty()).then_some((ways, nodes))
    }

    /// What it asks of a control, one of whose elements it styles, in each way in which it may hold there.
    ///
    /// # Errors
    /// Why that cannot be said in a sheet.
    pub fn read(
        &self,
        rule: &Rule,
        document: &Document,
        found: &Found,
        subject: NodeId,
    ) -> Result<Vec<Reading>, &'static str> {
        let nodes = self.assigned(document, 0, subject).ok_or("its selector is not understood here")?;
        // What is asked of elements around the control stays as it is written.
        let mut ways = vec![Vec::new()];
        for (at, node) in nodes.iter().enumerate() {
            let of_node = match document.is_within(*node, found.host) {
                true => StateWay::all_of(&rule.compounds[at].states),
                false => vec![StateWay { held: rule.compounds[at].states.clone(), absent: Vec::new() }],
            };
            let with = |way: &Vec<StateWay>| -> Vec<Vec<StateWay>> {
                of_node.iter().map(|of_node| [way.as_slice(), std::slice::from_ref(of_node)].concat()).collect()
            };
            ways = ways.iter().flat_map(with).collect();
            if ways.len() > MOST_WAYS {
                return Err("it asks for too many states at once");
            }
        }
        ways.iter().filter_map(|way| self.read_way(rule, document, found, (&nodes, way)).transpose()).collect()
    }

    /// The same in one way, said for each compound; nothing where it can never hold there.
    fn read_way(
        &self,
        rule: &Rule,
        document: &Document,
        found: &Found,
        (nodes, way): (&[NodeId], &[StateWay]),
    ) -> Result<Option<Reading>, &'static str> {
        let mut reading = Reading { themes: self.themes.clone(), ..Reading::default() };
        if let Some(pseudo) = &rule.pseudo {
            reading.pseudo = format!("::{pseudo}");
        }
        let mut outside_from = None;
        for (at, node) in nodes.iter().enumerate() {
            let (bare, way_of_node) = (&self.bare[at], &way[at]);
            let (has, plain): (Vec<&String>, Vec<&String>) =
                way_of_node.held.iter().partition(|state| state.starts_with(":has("));
            let states = plain.iter().copied().cloned();
            let is_of_bearer = *node == found.bearer || found.bearer == found.host;
            let never = |state: &String| {
                let is_of_pointer = matches!(state.as_str(), ":hover" | ":active" | ":focus-within");
                let is_focus = matches!(state.as_str(), ":focus" | ":focus-visible");
                let focusable = document.element(*node).is_some_and(is_focusable);
                is_focus && !focusable
                    || *node == found.host && !is_of_bearer && !is_of_pointer && state.starts_with(':')
            };
            if plain.iter().copied().any(never) {
                return Ok(None);
            }
            let is_inside = document.is_within(*node, found.host);
            if !is_inside {
                outside_from = Some(at);
                break;
            }
            for has in has {
                reading.take_inside(document, *node, found, has)?;
            }
            for state in &way_of_node.absent {
                reading.take_absent(document, (*node, at == 0), found, state)?;
            }
            let taken = self.state_classes[at].iter();
            if *node == found.host {
                let is_input = document.element(*node).is_some_and(|element| element.local() == "input");
                reading.element.extend(bare.local.clone());
                let (of_type, attributes): (Vec<String>, Vec<String>) =
                    bare.attributes.iter().cloned().partition(|text| is_input && text.starts_with("[type"));
                reading.element.extend(of_type);
                reading.classes.extend(bare.classes.iter().chain(taken).cloned());
                reading.others.extend(bare.ids.iter().map(|id| format!("#{id}")));
                // A class that says a state was written with what it is a state of.
                let others = bare.others.iter().filter(|_| self.state_classes[at].is_empty());
                reading.others.extend(attributes.into_iter().chain(others.cloned()));
                reading.others.extend(self.directions[at].iter().cloned());
                reading.states.extend(states);
                continue;
            }
            let id = part_id(document, *node, found);
            let own_class = id.class.clone();
            let classes: Vec<&String> =
                bare.classes.iter().filter(|class| Some(*class) != own_class.as_ref()).collect();
            if *node == found.bearer {
                let (of_part, of_control): (Vec<String>, Vec<String>) =
                    states.partition(|state| is_of_pointer_inside(found, state));
                reading.states.extend(of_control);
                reading.part_states.extend(of_part.into_iter().map(|state| (id.clone(), state)));
                if let Some(class) = taken.clone().next() {
                    reading.part_states.insert((id.clone(), format!(".{class}")));
                }
                if at > 0 && !classes.is_empty() {
                    return Err("it asks for a class of the native element inside");
                }
            } else {
                let own = states.chain(taken.map(|class| format!(".{class}")));
                reading.part_states.extend(own.map(|state| (id.clone(), state)));
            }
            if at == 0 {
                reading.part_others.extend(classes.iter().map(|class| class_selector(class)));
                let attributes =
                    bare.attributes.iter().filter(|text| *node != found.bearer || !text.starts_with("[type"));
                reading.part_others.extend(attributes.chain(&bare.others).chain(&self.directions[at]).cloned());
                reading.part_others.extend(bare.ids.iter().map(|id| format!("#{id}")));
                reading.part = Some(id);
            } else if !classes.is_empty() || !bare.ids.is_empty() {
                return Err("it asks for a class of another part");
            }
        }
        if let Some(from) = outside_from {
            reading.outside = self.outside(rule, from, nodes, found)?;
        }
        Ok(Some(reading))
    }

    /// What stands around the host, from one compound on, as a selector of the host; nothing where only the page does.
    fn outside(
        &self,
        rule: &Rule,
        from: usize,
        nodes: &[NodeId],
        found: &Found,
    ) -> Result<Option<String>, &'static str> {
        let is_of_page = |(compound, directions): (&Compound, &Vec<String>)| {
            directions.is_empty()
                && compound.classes.is_empty()
                && compound.ids.is_empty()
                && compound.attributes.is_empty()
                && compound.states.is_empty()
                && compound.others.iter().all(|other| other == ":root")
                && matches!(compound.local.as_deref(), None | Some("body" | "html"))
        };
        let (mut chain, mut until) = (Vec::new(), self.bare.len());
        // Behind the theme there may be nothing left but the page, which is around everything.
        while until > from && self.bare[until - 2].before == Some(' ') {
            let compound =
                Compound { states: rule.compounds[until - 1].states.clone(), ..self.bare[until - 1].clone() };
            if !is_of_page((&compound, &self.directions[until - 1])) {
                break;
            }
            until -= 1;
        }
        for at in (from..until).rev() {
            let mut compound = self.bare[at].clone();
            compound.states = rule.compounds[at].states.clone();
            compound.others.extend(self.directions[at].iter().cloned());
            compound.classes.extend(self.state_classes[at].iter().cloned());
            if at + 1 < until {
                let before = self.bare[at].before.unwrap_or(' ');
                chain.push(if before == ' ' { " ".to_owned() } else { format!(" {before} ") });
            }
            chain.push(compound.text());
        }
        if chain.is_empty() {
            return Ok(None);
        }
        // What leads from there into the control.
        let before = self.bare[from - 1].before.unwrap_or(' ');
        let is_host = nodes[from - 1] == found.host;
        match (is_host, before) {
            (true, ' ') | (false, ' ') => chain.push(" *".to_owned()),
            (true, other) => chain.push(format!(" {other} *")),
            (false, _) => return Err("it reaches into the control from beside it"),
        }
        Ok(Some(chain.concat()))
    }
}

/// In so many ways a rule may hold that is read; one that may in more stays.
const MOST_WAYS: usize = 16;

/// In so many it is looked at whether it is read or not.
const MOST_LOOKED_AT: usize = 256;

/// The elements that a state is asked of: the element itself, or those inside that a `:has()` names.
fn in_states(document: &Document, node: NodeId, state: &str) -> InStates {
    match state.strip_prefix(":has(").and_then(|rest| rest.strip_suffix(')')) {
        None => vec![(node, state.to_owned())],
        Some(inner) => split_list(inner).into_iter().flat_map(|one| inside(document, node, one)).collect(),
    }
}

/// The elements in another that a relative selector leads to whatever its states, each with the states it asks of it.
fn inside(document: &Document, node: NodeId, relative: &str) -> InStates {
    let (relation, rest) = compound::relative(relative);
    let Some(list) = parse_list(rest) else { return Vec::new() };
    let Some(all) = list.slice().first().map(compounds) else { return Vec::new() };
    let Ok([StateWay { held: states, absent }]) = <[StateWay; 1]>::try_from(StateWay::all_of(&all[0].states)) else {
        return Vec::new();
    };
    if !absent.is_empty() {
        return Vec::new();
    }
    // States further out are asked of other elements than the last one.
    if all[1..].iter().any(|compound| !compound.states.is_empty()) || relation.starts_with(['+', '~']) {
        return Vec::new();
    }
    let Some(bare) = parse_list(&without_states(&all)) else { return Vec::new() };
    let is_near = |one: &NodeId| all.len() > 1 || relation.is_empty() || document.node(*one).parent == Some(node);
    let found = document.descendants(node).into_iter().skip(1);
    let found = found.filter(|one| document.element(*one).is_some() && matches(&bare, document, *one) && is_near(one));
    let can_be =
        |one: &NodeId| document.element(*one).is_some_and(|element| states.iter().all(|state| can_be(element, state)));
    found.filter(can_be).flat_map(|one| states.iter().map(move |state| (one, state.clone()))).collect()
}

/// Whether a state of a bearer inside is that of a part: the pointer may be over the control and not over it.
fn is_of_pointer_inside(found: &Found, state: &str) -> bool {
    found.bearer != found.host && matches!(state, ":hover" | ":active" | ":focus-within")
}

impl Reading {
    /// Takes in a state of something inside that a `:has()` asks for.
    fn take_inside(
        &mut self,
        document: &Document,
        node: NodeId,
        found: &Found,
        state: &str,
    ) -> Result<(), &'static str> {
        let all = in_states(document, node, state);
        if all.is_empty() || all.iter().any(|(one, _)| *one != all[0].0) {
            return Err("it asks for the state of several elements inside");
        }
        for (inside, state) in all {
            match inside == found.bearer && !is_of_pointer_inside(found, &state) {
                true => drop(self.states.insert(state)),
                false => drop(self.part_states.insert((part_id(document, inside, found), state))),
            }
        }
        Ok(())
    }

    /// Takes in a state that must not hold, of an element that is the one that is styled or another.
    fn take_absent(
        &mut self,
        document: &Document,
        (node, is_styled): (NodeId, bool),
        found: &Found,
        state: &str,
    ) -> Result<(), &'static str> {
        let all = in_states(document, node, state);
        if all.is_empty() && state.starts_with(":has(") {
            return Err("what it asks for inside is not understood");
        }
        for (inside, state) in all {
            let is_of_host = inside == found.host || inside == found.bearer;
            if !is_of_host && inside == node && is_styled {
                // Of the very part that is styled: a condition of it.
                self.part_others.insert(format!(":not({state})"));
                continue;
            }
            if !is_of_host {
                return Err("it asks that a part is not in a state");
            }
            // Native states are those of the bearer: of the host they never hold.
            let never = inside == found.host && inside != found.bearer && state.starts_with(':');
            let is_of_pointer = matches!(state.as_str(), ":hover" | ":active" | ":focus-within");
            if !never || is_of_pointer {
                self.absent.insert(state);
            }
        }
        Ok(())
    }
}

/// What tells an element in a control from others there.
pub fn part_id(document: &Document, node: NodeId, found: &Found) -> PartId {
    let element = document.element(node);
    let class = element.and_then(|element| {
        let own = element.classes.iter().map(ToString::to_string);
        // One that needs no escapes: it marks the part.
        let is_plain = |class: &String| Mark::read(&format!(".{class}")).is_some();
        own.into_iter().filter(is_plain).find(|class| !state_class::says_state(class))
    });
    // A class tells it; without one its name has to.
    let local = element.filter(|_| class.is_none()).map_or_else(String::new, |element| element.local().to_owned());
    PartId { is_bearer: node == found.bearer && node != found.host, class, local }
}

/// A class as a selector, with what has to be escaped.
pub fn class_selector(class: &str) -> String {
    Compound { classes: vec![class.to_owned()], ..Compound::default() }.without_states()
}
