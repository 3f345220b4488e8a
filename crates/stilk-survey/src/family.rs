//! Families: controls of one kind that share their base rules. What else rules ask of their hosts are options; options that
//! never stand together and set the same are an axis.

use crate::control::{Found, Kind, tag};
use crate::rules::{Rule, Rules};
use crate::state_class::says_state;
use rustc_hash::FxHashMap;
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::compound::{Compound, without_states};
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::cascade::{Forced, LonghandSet};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_text::source::Span;

/// What shapes a control: whoever sets some of these gives it a look.
pub const SHAPING: LonghandSet = LonghandSet::of(&[
    L::BackgroundColor,
    L::BackgroundImage,
    L::BorderBottomColor,
    L::BorderBottomStyle,
    L::BorderBottomWidth,
    L::BorderLeftWidth,
    L::BorderRightWidth,
    L::BorderTopColor,
    L::BorderTopLeftRadius,
    L::BorderTopStyle,
    L::BorderTopWidth,
    L::BoxShadow,
    L::Color,
    L::FontSize,
    L::FontWeight,
    L::Height,
    L::MinHeight,
    L::PaddingBottom,
    L::PaddingLeft,
    L::PaddingRight,
    L::PaddingTop,
    L::TextDecorationLine,
    L::TextTransform,
]);

/// So many of these in one block make it a base, not a reset.
const BASE: usize = 4;

/// What a stylesheet list says of which selectors belong together.
pub struct Grouping {
    /// By selector of one class or element: how much of a look it gives.
    weights: FxHashMap<String, u32>,
    /// By selector: the first of those that share a base block with it.
    roots: BTreeMap<String, String>,
    /// By that first one: all of them, in the order of the sheets.
    members: BTreeMap<String, Vec<String>>,
}

/// The selector by which a rule's subject may be a base: one class, or an element with what it is asked for, also in a place.
fn base_key(rule: &Rule, is_of_theme: &dyn Fn(&Compound) -> bool) -> Option<String> {
    let subject = rule.subject();
    let is_plain = rule.pseudo.is_none() && subject.ids.is_empty();
    if !is_plain || rule.is_conditional || subject.others.iter().any(|other| !other.starts_with(":not(")) {
        return None;
    }
    let own = match (subject.classes.as_slice(), &subject.local) {
        ([class], None) if subject.attributes.is_empty() => format!(".{class}"),
        ([], local) => {
            let attributes = subject.attributes.iter().filter(|text| text.starts_with("[type"));
            if attributes.clone().count() != subject.attributes.len()
                || local.is_none() && subject.attributes.is_empty()
            {
                return None;
            }
            format!("{}{}", local.clone().unwrap_or_default(), attributes.cloned().collect::<String>())
        }
        _ => return None,
    };
    match rule.around() {
        [] => Some(own),
        around
            if around
                .iter()
                .any(|around| is_of_theme(around) || around.classes.iter().any(|class| says_state(class))) =>
        {
            None
        }
        _ => Some(without_states(&rule.compounds)),
    }
}

impl Grouping {
    /// Of a list's rules.
    pub fn of(rules: &Rules, is_of_theme: &dyn Fn(&Compound) -> bool) -> Grouping {
        let mut weights: FxHashMap<String, u32> = FxHashMap::default();
        let mut blocks: BTreeMap<(u16, u32), Vec<String>> = BTreeMap::new();
        for rule in rules.all.iter().filter(|rule| !rule.asks_state()) {
            let Some(key) = base_key(rule, is_of_theme) else { continue };
            let shaping = rule.sets.within(&SHAPING).iter().count();
            *weights.entry(key.clone()).or_default() += shaping as u32;
            if shaping >= BASE {
                blocks.entry((rule.sheet, rule.block)).or_default().push(key);
            }
        }
        let mut roots: BTreeMap<String, String> = BTreeMap::new();
        for keys in blocks.values() {
            let known = keys.iter().find_map(|key| roots.get(key).cloned()).unwrap_or_else(|| keys[0].clone());
            for key in keys {
                let before = roots.insert(key.clone(), known.clone());
                if let Some(before) = before.filter(|before| *before != known) {
                    roots.values_mut().filter(|root| **root == before).for_each(|root| root.clone_from(&known));
                }
            }
        }
        let mut members: BTreeMap<String, Vec<String>> = BTreeMap::new();
        for keys in blocks.values() {
            for key in keys {
                let list = members.entry(roots[key].clone()).or_default();
                if !list.contains(key) {
                    list.push(key.clone());
                }
            }
        }
        Grouping { weights, roots, members }
    }

    fn root<'k>(&'k self, key: &'k str) -> &'k str {
        self.roots.get(key).map_or(key, String::as_str)
    }

    fn weight(&self, key: &str) -> u32 {
        self.weights.get(key).copied().unwrap_or_default()
    }
}

/// What chooses an option, as a person would write it.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum Chooser {
    /// A class of the host.
    Class(String),
    /// An attribute of it.
    Attribute(String),
    /// An id of it.
    Id(String),
    /// A place that it stands in.
    Place(String),
}

impl Family {
    /// Its name where there is little room: the first of its selectors.
    pub fn short(&self) -> String {
        match self.name.split_once(", ") {
            Some((first, _)) if self.name.len() > 40 => format!("{first}, …"),
            _ => self.name.clone(),
        }
    }
}

impl Chooser {
    /// As text: `.cta-ghost`, `[data-size="s"]`, `#send`, `in .masthead`.
    pub fn text(&self) -> String {
        match self {
            Chooser::Class(name) => format!(".{name}"),
            Chooser::Attribute(text) => text.clone(),
            Chooser::Id(name) => format!("#{name}"),
            Chooser::Place(text) => format!("in {text}"),
        }
    }
}

/// A control with what was found out of it on its page.
#[derive(Debug, Clone)]
pub struct Member {
    /// The page.
    pub page: usize,
    /// The control.
    pub found: Found,
    /// The name of its family: the selectors that share its base, or its element where nothing gives it a look.
    pub family: String,
    /// Whether rules of the site give it a base at all.
    pub is_styled: bool,
    /// Its host as people call it: `a`, `button`, `input[type=submit]`.
    pub host: String,
    /// Its options.
    pub options: BTreeSet<Chooser>,
    /// Classes of it that say a state.
    pub states: BTreeSet<String>,
    /// Its host.
    pub element: Element,
    /// The element whose state counts, where that is another one.
    pub bearer: Option<Element>,
    /// Where its tag stands.
    pub span: Option<Span>,
    /// How a person points at it.
    pub tag: String,
    /// How many controls it is that are the same in all of this.
    pub count: usize,
}

/// What rules say of a control, in whatever state.
#[derive(Default)]
pub struct Matched {
    /// Indices of rules that match its host in some state.
    pub host: Vec<usize>,
    /// Of rules that match its bearer or a part.
    pub inside: Vec<usize>,
}

/// Which rules match a control in some state.
pub fn matched(
    document: &Document,
    rules: &Rules,
    found: &Found,
    candidates: &Candidates,
    caches: &mut MatchingCaches,
) -> Matched {
    let forced = Forced::default();
    let mut matched = Matched::default();
    let ask = |node: NodeId, list: &mut Vec<usize>, caches: &mut MatchingCaches| {
        let element = ElementRef { document, node, forced: &forced };
        let Some(data) = document.element(node) else { return };
        for index in candidates.of(data) {
            let rule = &rules.all[index];
            let Some(selector) = rule.stateless.as_ref().filter(|_| rule.is_of_looks()) else { continue };
            // `input.has-error` is written for fields; whether a script gives that class to a button or a mark is not known.
            let subject = rule.subject();
            let is_of_any = subject.local.is_some()
                && subject.ids.is_empty()
                && subject.attributes.is_empty()
                && subject.classes.iter().all(|class| says_state(class));
            if is_of_any && !rule.state_classes.is_empty() && !found.kind.takes_text() {
                let has = |class: &String| data.classes.iter().any(|own| **own == **class);
                if !subject.classes.iter().all(has) {
                    continue;
                }
            }
            if element.matches(selector, false, caches) {
                list.push(index);
            }
        }
    };
    ask(found.host, &mut matched.host, caches);
    let mut inside = Vec::new();
    if found.bearer != found.host {
        ask(found.bearer, &mut inside, caches);
    }
    for (_, node) in &found.parts {
        ask(*node, &mut inside, caches);
    }
    inside.sort_unstable();
    inside.dedup();
    matched.inside = inside;
    matched
}

/// Rules by what they must find on an element: most match very few.
pub struct Candidates {
    by_class: FxHashMap<String, Vec<usize>>,
    by_name: FxHashMap<String, Vec<usize>>,
    others: Vec<usize>,
}

impl Candidates {
    /// Of a list's rules.
    pub fn of_rules(rules: &Rules) -> Candidates {
        let mut all = Candidates { by_class: FxHashMap::default(), by_name: FxHashMap::default(), others: Vec::new() };
        for (index, rule) in rules.all.iter().enumerate() {
            let subject = rule.subject();
            // A class that says a state may not be there yet.
            match (subject.classes.iter().find(|class| !says_state(class)), &subject.local) {
                (Some(class), _) => all.by_class.entry(class.to_ascii_lowercase()).or_default().push(index),
                (None, Some(name)) => all.by_name.entry(name.to_ascii_lowercase()).or_default().push(index),
                (None, None) => all.others.push(index),
            }
        }
        all
    }

    /// Gives each that an element may match to a function, some twice.
    pub fn each(&self, element: &Element, mut take: impl FnMut(usize)) {
        let of_classes =
            element.classes.iter().filter_map(|class| self.by_class.get(&class.to_ascii_lowercase().to_string()));
        let of_name = self.by_name.get(element.local());
        of_classes.chain(of_name).chain([&self.others]).flatten().for_each(|index| take(*index));
    }

    /// Those that an element may match, in the order of the sheets.
    pub fn of(&self, element: &Element) -> Vec<usize> {
        let of_classes =
            element.classes.iter().filter_map(|class| self.by_class.get(&class.to_ascii_lowercase().to_string()));
        let of_name = self.by_name.get(element.local());
        let mut found: Vec<usize> = of_classes.chain(of_name).chain([&self.others]).flatten().copied().collect();
        found.sort_unstable();
        found.dedup();
        found
    }
}

/// A host as people call it.
pub fn host_name(element: &Element) -> String {
    match element.local() {
        "input" => format!("input[type={}]", element.attribute("type").unwrap_or("text").to_ascii_lowercase()),
        local => local.to_owned(),
    }
}

/// What family a control is of, and what it is there.
pub fn member(
    page: usize,
    found: Found,
    document: &Document,
    (rules, grouping, matched): (&Rules, &Grouping, &Matched),
    is_of_theme: &dyn Fn(&Compound) -> bool,
) -> Member {
    let empty = Element::html("x");
    let element = document.element(found.host).unwrap_or(&empty);
    let host = host_name(document.element(found.bearer).filter(|_| found.bearer != found.host).unwrap_or(element));
    let keys: Vec<String> = {
        let mut keys: Vec<String> =
            matched.host.iter().filter_map(|index| base_key(&rules.all[*index], is_of_theme)).collect();
        keys.sort();
        keys.dedup();
        keys
    };
    let in_mode = |class: &str| if document.quirks { class.to_ascii_lowercase() } else { class.to_owned() };
    let classes: Vec<String> = element.classes.iter().map(|class| in_mode(class)).collect();
    let extends = |key: &&String| {
        let Some(own) = key.strip_prefix('.').filter(|own| is_one(own)) else { return false };
        classes.iter().any(|class| class.strip_prefix(own).is_some_and(|rest| rest.starts_with(['-', '_'])))
    };
    let is_class = |key: &&String| key.starts_with('.') && is_one(key);
    let is_class_in_place = |key: &&String| {
        !is_one(key) && key.rsplit([' ', '>', '+', '~']).next().is_some_and(|last| last.starts_with('.'))
    };
    let is_state = |key: &&String| {
        key.rsplit('.').next().is_some_and(|last| key.contains('.') && is_one(last) && says_state(last))
    };
    let heaviest = |keys: &mut dyn Iterator<Item = &String>| {
        keys.map(|key| {
            (
                grouping.weight(key),
                std::cmp::Reverse(classes.iter().position(|class| key.strip_prefix('.') == Some(class.as_str()))),
                key.clone(),
            )
        })
        .max()
    };
    // What is drawn for a hidden native control is shaped by its parts.
    let least: u32 = if found.bearer == found.host { 3 } else { 0 };
    let counts = |key: &&String| grouping.weight(key) >= least && grouping.weights.contains_key(*key);
    let all = || keys.iter().filter(|key| !is_state(key)).filter(counts);
    let base = heaviest(&mut all().filter(extends))
        .or_else(|| heaviest(&mut all().filter(is_class)))
        .or_else(|| heaviest(&mut all().filter(is_class_in_place)))
        .or_else(|| heaviest(&mut all().filter(|key| !is_class(key) && !is_class_in_place(key))));
    let base = base.map(|(_, _, key)| key);
    let root = base.as_ref().map(|base| grouping.root(base).to_owned());
    let of_base: Vec<&String> =
        root.iter().flat_map(|root| grouping.members.get(root).into_iter().flatten()).chain(&base).collect();
    let family = match &root {
        Some(root) => grouping.members.get(root).map_or_else(|| root.clone(), |members| members.join(", ")),
        None => host.clone(),
    };
    let mut options = BTreeSet::new();
    let mut states = BTreeSet::new();
    for rule in matched.host.iter().map(|index| &rules.all[*index]) {
        let subject = rule.subject();
        for class in &subject.classes {
            if of_base.iter().any(|key| last_of(key).strip_prefix('.') == Some(class)) {
                continue;
            }
            match says_state(class) {
                true => drop(states.insert(class.clone())),
                false => drop(options.insert(Chooser::Class(class.clone()))),
            }
        }
        let speaks_of_it = base.is_some() && subject_is_of(subject, &of_base);
        if speaks_of_it || !subject.classes.is_empty() {
            let own =
                subject.attributes.iter().filter(|text| !text.starts_with("[type") && !text.starts_with("[class"));
            options.extend(own.cloned().map(Chooser::Attribute));
        }
        options.extend(subject.ids.iter().cloned().map(Chooser::Id));
        let around: Vec<&Compound> = rule.around().iter().filter(|around| !is_of_theme(around)).collect();
        let names_place = around.iter().any(|around| !around.classes.is_empty() || !around.ids.is_empty());
        let says_state = around.iter().flat_map(|around| &around.classes).find(|class| says_state(class));
        if let Some(class) = says_state.filter(|_| speaks_of_it) {
            // A class around it that says a state: the state is the control's.
            states.insert(class.clone());
            continue;
        }
        let is_base = of_base.iter().any(|key| **key == without_states(&rule.compounds));
        if speaks_of_it && !is_base && names_place && rule.sets.within(&SHAPING).iter().next().is_some() {
            let words: Vec<String> = around.iter().rev().map(|around| around.without_states()).collect();
            let place = words.join(" ");
            // The place that its base is written for is no variant.
            let is_of_base = of_base.iter().any(|key| {
                key.strip_suffix(last_of(key))
                    .is_some_and(|before| before.trim_end_matches([' ', '>', '+', '~']) == place)
            });
            if !is_of_base {
                options.insert(Chooser::Place(place));
            }
        }
    }
    let bearer = document.element(found.bearer).filter(|_| found.bearer != found.host).cloned();
    let (span, tag) = (document.node(found.host).span, tag(document, found.host));
    let element = element.clone();
    Member {
        page,
        found,
        family,
        is_styled: base.is_some(),
        host,
        options,
        states,
        element,
        bearer,
        span,
        tag,
        count: 1,
    }
}

/// What the element is asked for that a selector styles.
fn last_of(key: &str) -> &str {
    key.rsplit([' ', '>', '+', '~']).next().unwrap_or(key)
}

/// Whether a selector is of one element.
fn is_one(key: &str) -> bool {
    !key.contains([' ', '>', '+', '~'])
}

/// Whether a compound speaks of a family by one of its base selectors.
fn subject_is_of(subject: &Compound, of_base: &[&String]) -> bool {
    let last = |key: &&&String| key.rsplit([' ', '>', '+', '~']).next().unwrap_or_default().to_owned();
    of_base.iter().map(|key| last(&key)).any(|key| match key.strip_prefix('.') {
        Some(class) => subject.classes.iter().any(|own| own == class),
        None => {
            subject.classes.is_empty() && {
                let local = key.split('[').next().unwrap_or_default();
                subject.local.as_deref().is_some_and(|own| local.is_empty() || own == local)
            }
        }
    })
}

/// A family.
#[derive(Debug, Clone)]
pub struct Family {
    /// The selectors that share its base, or its element where nothing gives it a look.
    pub name: String,
    /// What its controls are.
    pub kind: Kind,
    /// Whether rules of the site give it a base.
    pub is_styled: bool,
    /// Its hosts, with how many controls are on each, most first.
    pub hosts: Vec<(String, usize)>,
    /// Its options by axis.
    pub axes: Vec<Axis>,
    /// Classes that say a state, with how many controls have them as they were written.
    pub states: Vec<(String, usize)>,
    /// How many controls it has.
    pub count: usize,
}

/// Options that never stand together and set the same, or one alone.
#[derive(Debug, Clone)]
pub struct Axis {
    /// What they set, in a word: `colour`, `size`, `shape`, `place`.
    pub name: &'static str,
    /// Each with how many controls have it.
    pub options: Vec<(Chooser, usize)>,
    /// Why they are taken for one; where the evidence is thin, that it is.
    pub why: String,
}

/// What an option is about, by what it sets.
fn category(sets: &LonghandSet) -> &'static str {
    const COLORS: LonghandSet = LonghandSet::of(&[
        L::BackgroundColor,
        L::BackgroundImage,
        L::BorderTopColor,
        L::BoxShadow,
        L::Color,
        L::OutlineColor,
        L::TextFillColor,
    ]);
    const SIZES: LonghandSet = LonghandSet::of(&[
        L::FontSize,
        L::Height,
        L::MinHeight,
        L::MinWidth,
        L::PaddingLeft,
        L::PaddingTop,
        L::Width,
        L::LineHeight,
    ]);
    const SHAPES: LonghandSet = LonghandSet::of(&[
        L::BorderTopLeftRadius,
        L::BorderTopWidth,
        L::BorderTopStyle,
        L::Display,
        L::TextTransform,
        L::TextAlign,
    ]);
    let count = |of: &LonghandSet| sets.within(of).iter().count();
    let (colors, sizes, shapes) = (count(&COLORS), count(&SIZES), count(&SHAPES));
    match () {
        () if colors == 0 && sizes == 0 && shapes == 0 => "other",
        () if colors >= sizes && colors >= shapes => "colour",
        () if sizes >= shapes => "size",
        () => "shape",
    }
}

/// The families of all members, and for each member which it is of.
pub fn families(members: &[Member], sets: &BTreeMap<Chooser, LonghandSet>) -> (Vec<Family>, Vec<usize>) {
    let mut index: BTreeMap<(Kind, &str), usize> = BTreeMap::new();
    let mut of = Vec::new();
    let mut lists: Vec<Vec<&Member>> = Vec::new();
    for member in members {
        let at = *index.entry((member.found.kind, &member.family)).or_insert_with(|| {
            lists.push(Vec::new());
            lists.len() - 1
        });
        lists[at].push(member);
        of.push(at);
    }
    let families = lists.iter().map(|list| family(list, sets)).collect();
    (families, of)
}

fn family(list: &[&Member], sets: &BTreeMap<Chooser, LonghandSet>) -> Family {
    let counted = |names: &mut dyn Iterator<Item = (String, usize)>| {
        let mut counts: BTreeMap<String, usize> = BTreeMap::new();
        names.for_each(|(name, count)| *counts.entry(name).or_default() += count);
        let mut counts: Vec<(String, usize)> = counts.into_iter().collect();
        counts.sort_by(|a, b| b.1.cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
        counts
    };
    let mut counts: BTreeMap<&Chooser, usize> = BTreeMap::new();
    for member in list {
        member.options.iter().for_each(|option| *counts.entry(option).or_default() += member.count);
    }
    let nothing = LonghandSet::default();
    let category_of = |option: &Chooser| match option {
        Chooser::Place(_) => "place",
        option => category(sets.get(option).unwrap_or(&nothing)),
    };
    let mut axes: Vec<Axis> = Vec::new();
    let together =
        |a: &Chooser, b: &Chooser| list.iter().any(|member| member.options.contains(a) && member.options.contains(b));
    for (option, count) in &counts {
        let name = category_of(option);
        let fits = |axis: &&mut Axis| {
            axis.name == name && name != "other" && axis.options.iter().all(|(known, _)| !together(known, option))
        };
        match axes.iter_mut().find(fits) {
            Some(axis) => axis.options.push(((*option).clone(), *count)),
            None => axes.push(Axis { name, options: vec![((*option).clone(), *count)], why: String::new() }),
        }
    }
    for axis in &mut axes {
        axis.options.sort_by(|a, b| b.1.cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
        let places: usize = axis.options.iter().map(|(_, count)| count).sum();
        axis.why = match (axis.options.len(), places) {
            (1, 1) => "one place only".to_owned(),
            (1, places) => format!("{places} places"),
            (_, places) if places <= axis.options.len() => {
                format!("never together, but on {places} controls only: thin evidence")
            }
            (_, places) => format!("never together on {places} controls, all set its {}", axis.name),
        };
    }
    axes.sort_by_key(|axis| std::cmp::Reverse(axis.options.iter().map(|(_, count)| *count).sum::<usize>()));
    Family {
        name: list[0].family.clone(),
        kind: list[0].found.kind,
        is_styled: list[0].is_styled,
        hosts: counted(&mut list.iter().map(|member| (member.host.clone(), member.count))),
        axes,
        states: counted(
            &mut list.iter().flat_map(|member| member.states.iter().map(|state| (state.clone(), member.count))),
        ),
        count: list.iter().map(|member| member.count).sum(),
    }
}

/// What options of a site set, by what chooses them.
pub fn sets_of(rules: &[Rules]) -> BTreeMap<Chooser, LonghandSet> {
    let mut sets: BTreeMap<Chooser, LonghandSet> = BTreeMap::new();
    for rule in rules.iter().flat_map(|rules| &rules.all).filter(|rule| !rule.asks_state()) {
        let subject = rule.subject();
        let classes = subject.classes.iter().cloned().map(Chooser::Class);
        let attributes = subject.attributes.iter().cloned().map(Chooser::Attribute);
        let ids = subject.ids.iter().cloned().map(Chooser::Id);
        for chooser in classes.chain(attributes).chain(ids) {
            sets.entry(chooser).or_default().add_all(&rule.sets);
        }
    }
    sets
}
