//! What a rule asks of a control: its selector held against the control's elements, compound by compound.

use crate::holding::is_focusable;
use std::collections::BTreeSet;
use stilk_engine::cascade::compound::{Compound, without_states};
use stilk_engine::cascade::matching::matches;
use stilk_engine::cascade::selector::{self, One, parse_list};
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
    lists: Vec<Option<selector::List>>,
    themes: BTreeSet<usize>,
}

impl Asked {
    /// From a rule.
    pub fn of(rule: &Rule, themes: &[Theme]) -> Asked {
        let mut of_themes = BTreeSet::new();
        let (mut bare, mut state_classes) = (Vec::new(), Vec::new());
        for compound in &rule.compounds {
            let left = theme::without(themes, compound);
            if left != *compound {
                let asks = |theme: &Theme| theme::asks_for(std::slice::from_ref(theme), compound);
                of_themes.extend(themes.iter().enumerate().filter(|(_, theme)| asks(theme)).map(|(index, _)| index));
            }
            let (left, taken) = state_class::without(&left);
            bare.push(left);
            state_classes.push(taken);
        }
        let any = parse_list(&without_states(&bare)).and_then(|list| match list.slice() {
            [one] => Some(one.clone()),
            _ => None,
        });
        let lists = bare.iter().map(|compound| parse_list(&compound.without_states())).collect();
        Asked { any, bare, state_classes, lists, themes: of_themes }
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

    /// In which states which elements have to be so that it matches one, and all that it names; nothing where
    /// it asks for no state.
    pub fn requirement(&self, rule: &Rule, document: &Document, subject: NodeId) -> Option<(InStates, Vec<NodeId>)> {
        if !rule.asks_state() {
            return None;
        }
        let nodes = self.assigned(document, 0, subject)?;
        let mut states = Vec::new();
        for (at, node) in nodes.iter().enumerate() {
            states.extend(rule.compounds[at].states.iter().map(|state| (*node, state.clone())));
            states.extend(self.state_classes[at].iter().map(|class| (*node, format!(".{class}"))));
        }
        states.sort();
        states.dedup();
        (!states.is_empty()).then_some((states, nodes))
    }

    /// What it asks of a control, one of whose elements it styles; nothing where it can never hold there.
    ///
    /// # Errors
    /// Why that cannot be said in a sheet.
    pub fn read(
        &self,
        rule: &Rule,
        document: &Document,
        found: &Found,
        subject: NodeId,
    ) -> Result<Option<Reading>, &'static str> {
        let nodes = self.assigned(document, 0, subject).ok_or("its selector is not understood here")?;
        let mut reading = Reading { themes: self.themes.clone(), ..Reading::default() };
        if let Some(pseudo) = &rule.pseudo {
            reading.pseudo = format!("::{pseudo}");
        }
        let mut outside_from = None;
        for (at, node) in nodes.iter().enumerate() {
            let (bare, whole) = (&self.bare[at], &rule.compounds[at]);
            let states = whole.states.iter().cloned();
            let is_of_bearer = *node == found.bearer || found.bearer == found.host;
            let never = |state: &String| {
                let is_of_pointer = matches!(state.as_str(), ":hover" | ":active" | ":focus-within");
                let is_focus = matches!(state.as_str(), ":focus" | ":focus-visible");
                let focusable = document.element(*node).is_some_and(is_focusable);
                is_focus && !focusable
                    || *node == found.host && !is_of_bearer && !is_of_pointer && state.starts_with(':')
            };
            if whole.states.iter().any(never) {
                return Ok(None);
            }
            let is_inside = document.is_within(*node, found.host);
            if !is_inside {
                outside_from = Some(at);
                break;
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
                reading.states.extend(states);
                continue;
            }
            let id = part_id(document, *node, found);
            let own_class = id.class.clone();
            let classes: Vec<&String> =
                bare.classes.iter().filter(|class| Some(*class) != own_class.as_ref()).collect();
            if *node == found.bearer {
                reading.states.extend(states);
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
                reading.part_others.extend(attributes.chain(&bare.others).cloned());
                reading.part_others.extend(bare.ids.iter().map(|id| format!("#{id}")));
                reading.part = Some(id);
            } else if !classes.is_empty() || !bare.ids.is_empty() {
                return Err("it asks for a class of another part");
            }
        }
        if let Some(from) = outside_from {
            reading.outside = self.outside(rule, from, &nodes, found)?;
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
        let is_of_page = |compound: &Compound| {
            compound.classes.is_empty()
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
            if !is_of_page(&compound) {
                break;
            }
            until -= 1;
        }
        for at in (from..until).rev() {
            let mut compound = self.bare[at].clone();
            compound.states = rule.compounds[at].states.clone();
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
