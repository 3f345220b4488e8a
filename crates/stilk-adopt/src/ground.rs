//! What there is before anything is written: controls of all pages by family, and for each rule whose elements it styles.

use crate::holding::{is_focusable, may_hold};
use crate::old::{OldSheets, RuleRef};
use crate::reading::{Asked, Reading};
use rustc_hash::FxHashMap;
use std::collections::{BTreeMap, BTreeSet};
use std::hash::{Hash, Hasher};
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::cascade::{Engine, Forced, LonghandSet, Media};
use stilk_engine::dom::{Document, NodeId, is_disableable};
use stilk_survey::control::{Kind, controls};
use stilk_survey::family::{Candidates, Family, Grouping, Member, families, matched, member, sets_of};
use stilk_survey::rules::{Rule, Rules};
use stilk_survey::site::Site;
use stilk_survey::state_class::says_state;
use stilk_survey::theme::{self, Theme};

/// What was found.
pub struct Ground<'s> {
    /// The pages.
    pub site: &'s Site,
    /// Their stylesheets.
    pub old: OldSheets,
    /// By list of the site: its rules taken apart.
    pub rules: Vec<Rules>,
    /// The themes.
    pub themes: Vec<Theme>,
    /// Every control of every page.
    pub members: Vec<Member>,
    /// For each, the rules that match its host and what is in it, by their place in its page's list.
    pub matched: Vec<[Vec<usize>; 2]>,
    /// The families.
    pub families: Vec<Family>,
    /// For each control, its family.
    pub of: Vec<usize>,
    /// What is known of each rule.
    pub facts: BTreeMap<RuleRef, Facts>,
    /// By class that says a state: the elements that have it on pages, by their names.
    pub bearers: BTreeMap<String, BTreeSet<String>>,
    /// By page: what rules ask of its elements to be in; what is the same on several pages, once.
    pub requirements: Vec<Vec<Requirement>>,
    /// By page: two of these at once, of one control.
    pub pairs: Vec<Vec<Requirement>>,
    /// What rules ask of controls, by rule and family.
    pub readings: BTreeMap<(RuleRef, usize), BTreeSet<Result<Reading, &'static str>>>,
}

/// What is known of a rule.
#[derive(Debug, Default, Clone)]
pub struct Facts {
    /// Families whose elements it matches, in some state and theme.
    pub families: BTreeSet<usize>,
    /// Whether it matches elements of no control.
    pub others: bool,
    /// What is around what it matches, on pages that have it: what all have.
    pub around: Option<BTreeSet<String>>,
    /// What is around what it would match on pages that have it not: what any has.
    pub strays: Option<BTreeSet<String>>,
}

/// States in which elements of a page have to be so that some rule matches.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct Requirement {
    /// Each element with a state, as CSS.
    pub states: Vec<(NodeId, String)>,
    /// The outermost element that something changes in.
    pub top: NodeId,
    /// The control that it is about, by its place on the page.
    pub member: Option<usize>,
    /// A figure that is the same where the same is asked of elements that cannot be told apart, on whichever page.
    pub likeness: u64,
}

/// What was found on one page.
struct PageGround {
    members: Vec<(Member, [Vec<usize>; 2])>,
    readings: Vec<(RuleRef, usize, Result<Reading, &'static str>)>,
    requirements: BTreeSet<Requirement>,
    outside: BTreeSet<RuleRef>,
    around: BTreeMap<RuleRef, BTreeSet<String>>,
    strays: BTreeMap<RuleRef, BTreeSet<String>>,
}

impl<'s> Ground<'s> {
    /// Looks at all pages.
    ///
    /// # Errors
    /// Why nothing can be made of them.
    pub fn of(site: &'s Site) -> Result<Ground<'s>, String> {
        let old = OldSheets::of(site)?;
        let rules: Vec<Rules> =
            site.lists.iter().enumerate().map(|(at, list)| Rules::of(list, site.has_quirks(at))).collect();
        let themes = theme::themes(site, &rules);
        let asked = asked(&old, &rules, &themes);
        let candidates: Vec<Candidates> = rules.iter().map(Candidates::of_rules).collect();
        let is_of_theme = |compound: &_| theme::asks_for(&themes, compound);
        let groupings: Vec<Grouping> = rules.iter().map(|rules| Grouping::of(rules, &is_of_theme)).collect();
        let mut engines: FxHashMap<usize, Engine> = FxHashMap::default();
        let (mut members, mut matches, mut readings): (Vec<Member>, Vec<[Vec<usize>; 2]>, Vec<_>) =
            (Vec::new(), Vec::new(), Vec::new());
        let (mut requirements, mut pairs, mut known_requirements) = (Vec::new(), Vec::new(), BTreeSet::new());
        let ignored = ignored(&old);
        let bearers = bearers(site);
        let mut facts: BTreeMap<RuleRef, Facts> = BTreeMap::new();
        for page in 0..site.pages.len() {
            let list = site.pages[page].list;
            let engine = engines.entry(list).or_insert_with(|| crate::engine_of(site, list, Media::default()));
            let looker = Looker {
                site,
                old: &old,
                rules: &rules[list],
                asked: &asked,
                themes: &themes,
                candidates: &candidates[list],
                ignored: &ignored,
                bearers: &bearers,
                grouping: &groupings[list],
            };
            let found = looker.page(page, engine);
            let first: usize = members.len();
            let quirks = site.pages[page].quirks;
            let single: Vec<Requirement> = found.requirements.into_iter().collect();
            let both = two_at_once(&single, &site.document(page), &ignored);
            let mut once = |all: Vec<Requirement>| -> Vec<Requirement> {
                all.into_iter().filter(|one| known_requirements.insert((list, quirks, one.likeness))).collect()
            };
            pairs.push(once(both));
            requirements.push(once(single));
            for (member, matched) in found.members {
                members.push(member);
                matches.push(matched);
            }
            readings.extend(found.readings.into_iter().map(|(rule, member, reading)| (rule, first + member, reading)));
            for rule in found.outside {
                facts.entry(rule).or_default().others = true;
            }
            for (rule, around) in found.around {
                let facts = facts.entry(rule).or_default();
                facts.around = Some(match facts.around.take() {
                    None => around,
                    Some(known) => known.intersection(&around).cloned().collect(),
                });
            }
            for (rule, around) in found.strays {
                facts.entry(rule).or_default().strays.get_or_insert_default().extend(around);
            }
        }
        // What shares its base is one control, be it a field here and a list there.
        let mut kinds: BTreeMap<String, Kind> = BTreeMap::new();
        for member in members.iter_mut().filter(|member| member.is_styled) {
            member.found.kind = *kinds.entry(member.family.clone()).or_insert(member.found.kind);
        }
        let (families, of) = families(&members, &sets_of(&rules));
        let mut by_family: BTreeMap<(RuleRef, usize), BTreeSet<Result<Reading, &'static str>>> = BTreeMap::new();
        for (rule, member, reading) in readings {
            facts.entry(rule).or_default().families.insert(of[member]);
            by_family.entry((rule, of[member])).or_default().insert(reading);
        }
        Ok(Ground {
            site,
            old,
            rules,
            themes,
            members,
            matched: matches,
            families,
            of,
            facts,
            bearers,
            requirements,
            pairs,
            readings: by_family,
        })
    }

    /// The controls of a family, with their places.
    pub fn members_of(&self, family: usize) -> impl Iterator<Item = &Member> {
        self.members.iter().zip(&self.of).filter(move |(_, of)| **of == family).map(|(member, _)| member)
    }

    /// A rule taken apart.
    pub fn rule(&self, rule: RuleRef) -> Option<&Rule> {
        self.old.lists.iter().zip(&self.rules).find_map(|(list, rules)| {
            let sheet = list.iter().position(|sheet| *sheet == rule.sheet)?;
            rules.all.iter().find(|one| usize::from(one.sheet) == sheet && one.index == rule.rule)
        })
    }

    /// What a rule sets.
    pub fn sets(&self, rule: RuleRef) -> LonghandSet {
        self.rule(rule).map(|rule| rule.sets).unwrap_or_default()
    }
}

/// Every rule, ready to be read.
fn asked(old: &OldSheets, rules: &[Rules], themes: &[Theme]) -> FxHashMap<RuleRef, Asked> {
    let mut asked = FxHashMap::default();
    for (list, rules) in old.lists.iter().zip(rules) {
        for rule in &rules.all {
            let Some(sheet) = list.get(usize::from(rule.sheet)) else { continue };
            asked.entry(RuleRef { sheet: *sheet, rule: rule.index }).or_insert_with(|| Asked::of(rule, themes));
        }
    }
    asked
}

struct Looker<'l> {
    site: &'l Site,
    old: &'l OldSheets,
    rules: &'l Rules,
    asked: &'l FxHashMap<RuleRef, Asked>,
    themes: &'l [Theme],
    candidates: &'l Candidates,
    ignored: &'l [&'static str],
    bearers: &'l BTreeMap<String, BTreeSet<String>>,
    grouping: &'l Grouping,
}

impl Looker<'_> {
    fn page(&self, page: usize, engine: &Engine) -> PageGround {
        let document = self.site.document(page);
        let styles = engine.styles(&document, &Forced::default());
        let mut caches = MatchingCaches::default();
        let mut members = Vec::new();
        // By element: the control that it is of.
        let mut of_member: FxHashMap<NodeId, usize> = FxHashMap::default();
        for found in controls(&document, &styles) {
            let matched = matched(&document, self.rules, &found, self.candidates, &mut caches);
            let is_of_theme = |compound: &_| theme::asks_for(self.themes, compound);
            let nodes: Vec<NodeId> =
                [found.host, found.bearer].into_iter().chain(found.parts.iter().map(|(_, node)| *node)).collect();
            let one = member(page, found, &document, (self.rules, self.grouping, &matched), &is_of_theme);
            for node in nodes {
                of_member.entry(node).or_insert(members.len());
            }
            members.push((one, [matched.host, matched.inside]));
        }
        let mut ground = PageGround {
            members,
            readings: Vec::new(),
            requirements: BTreeSet::new(),
            outside: BTreeSet::new(),
            around: BTreeMap::new(),
            strays: BTreeMap::new(),
        };
        // What pages show in a state is not always in it.
        for (at, (member, _)) in ground.members.iter().enumerate() {
            for node in BTreeSet::from([member.found.host, member.found.bearer]) {
                let Some(element) = document.element(node) else { continue };
                for state in worn(element) {
                    let states = vec![(node, state)];
                    let likeness = likeness(&document, member.found.host, &states, self.ignored);
                    let (top, member) = (top_of(&document, &[member.found.host, node]), Some(at));
                    ground.requirements.insert(Requirement { states, top, member, likeness });
                }
            }
        }
        let list = &self.old.lists[self.site.pages[page].list];
        let forced = Forced::default();
        let absent: Vec<(&RuleRef, &Asked)> =
            self.asked.iter().filter(|(rule, _)| !list.contains(&rule.sheet)).collect();
        for node in document.descendants(Document::ROOT) {
            let Some(element) = document.element(node) else { continue };
            let at = ElementRef { document: &document, node, forced: &forced };
            for index in self.candidates.of(element) {
                let rule = &self.rules.all[index];
                let Some(sheet) = list.get(usize::from(rule.sheet)) else { continue };
                let name = RuleRef { sheet: *sheet, rule: rule.index };
                let Some(asked) = self.asked.get(&name) else { continue };
                if !asked.any.as_ref().is_some_and(|any| at.matches(any, false, &mut caches)) {
                    continue;
                }
                note_around(&mut ground.around, name, &document, node, true);
                // `input.has-error` is written for fields; whether a script gives that class to a mark is not known.
                let kind = of_member.get(&node).map(|member| ground.members[*member].0.found.kind);
                if kind.is_some_and(|kind| !kind.takes_text()) && is_of_any(rule, element) {
                    continue;
                }
                let can_be = |states: &[(NodeId, String)]| {
                    states.iter().all(|(node, state)| {
                        let Some(element) = document.element(*node) else { return false };
                        match state.as_str() {
                            ":focus" | ":focus-visible" => is_focusable(element),
                            "[disabled]" => is_disableable(element) || element.attribute("disabled").is_some(),
                            // What pages give to buttons a script does not give to links.
                            class if class.starts_with('.') => {
                                let known = self.bearers.get(&class[1..]);
                                known.is_none_or(|names| names.contains(element.local()))
                            }
                            _ => true,
                        }
                    })
                };
                if let Some((ways, nodes)) = asked.requirements(rule, &document, node) {
                    let member = of_member.get(&node).copied();
                    let top = top_of(&document, &nodes);
                    for states in ways.into_iter().filter(|states| can_be(states)) {
                        let likeness = likeness(&document, top, &states, self.ignored);
                        ground.requirements.insert(Requirement { states, top, member, likeness });
                    }
                }
                match of_member.get(&node) {
                    None => drop(ground.outside.insert(name)),
                    Some(member) => {
                        let found = &ground.members[*member].0.found;
                        match asked.read(rule, &document, found, node) {
                            Ok(ways) => {
                                ground.readings.extend(ways.into_iter().map(|reading| (name, *member, Ok(reading))));
                            }
                            Err(why) => ground.readings.push((name, *member, Err(why))),
                        }
                    }
                }
            }
            for (name, asked) in &absent {
                if asked.any.as_ref().is_some_and(|any| at.matches(any, false, &mut caches)) {
                    note_around(&mut ground.strays, **name, &document, node, false);
                }
            }
        }
        ground
    }
}

/// The states that an element has by its attributes and classes, each as what takes it off.
fn worn(element: &stilk_engine::dom::Element) -> Vec<String> {
    let attributes =
        stilk_engine::cascade::compound::STATE_ATTRIBUTES.iter().filter(|name| element.attribute(name).is_some());
    let classes = element.classes.iter().filter(|class| says_state(class));
    let worn = attributes.map(|name| format!("-[{name}]")).chain(classes.map(|class| format!("-.{class}")));
    // What is empty is filled in at some time: then it shows no placeholder, and is valid.
    let is_empty = element.local() == "input" && element.attribute("value").is_none_or(str::is_empty);
    let sample = match element.attribute("type").map(str::to_ascii_lowercase).as_deref() {
        None | Some("text" | "search" | "password" | "tel") => Some("1"),
        Some("email") => Some("a@example.org"),
        Some("url") => Some("https://example.org"),
        Some("number") => Some("1"),
        Some("date") => Some("2026-12-01"),
        _ => None,
    };
    let filled = sample.filter(|_| is_empty).map(|sample| format!("[value=\"{sample}\"]"));
    worn.chain(filled).collect()
}

/// Classes that say a state, with the names of the elements that have them on pages.
fn bearers(site: &Site) -> BTreeMap<String, BTreeSet<String>> {
    let mut bearers: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
    for page in 0..site.pages.len() {
        let document = site.document(page);
        for element in document.descendants(Document::ROOT).into_iter().filter_map(|node| document.element(node)) {
            for class in element.classes.iter().filter(|class| says_state(class)) {
                bearers.entry(class.to_string()).or_default().insert(element.local().to_owned());
            }
        }
    }
    bearers
}

/// Two requirements of one control at once.
fn two_at_once(single: &[Requirement], document: &Document, ignored: &[&str]) -> Vec<Requirement> {
    let mut all = BTreeSet::new();
    for (at, one) in single.iter().enumerate() {
        for other in &single[at + 1..] {
            if one.member.is_none() || one.member != other.member {
                continue;
            }
            let mut states: Vec<(NodeId, String)> = one.states.iter().chain(&other.states).cloned().collect();
            states.sort();
            states.dedup();
            let is_new = states.len() > one.states.len() && states.len() > other.states.len();
            if !is_new || !may_hold(&states) {
                continue;
            }
            let top = top_of(document, &[one.top, other.top]);
            let likeness = likeness(document, top, &states, ignored);
            all.insert(Requirement { states, top, member: one.member, likeness });
        }
    }
    all.into_iter().collect()
}

/// Attributes that no selector asks for and that change nothing about how an element looks.
fn ignored(old: &OldSheets) -> Vec<&'static str> {
    const PLAIN: [&str; 12] = [
        "href",
        "src",
        "alt",
        "title",
        "name",
        "for",
        "action",
        "aria-label",
        "aria-labelledby",
        "aria-describedby",
        "aria-controls",
        "tabindex",
    ];
    let is_asked = |name: &&str| {
        let asked = format!("[{name}");
        old.all.iter().flat_map(|sheet| &sheet.texts).any(|text| {
            text.text.contains(&asked) || text.text.contains(&format!("attr({name}")) || text.text.contains(":empty")
        })
    };
    PLAIN.into_iter().filter(|name| !is_asked(name)).collect()
}

/// The outermost of some elements, where the others are in it; else what is around that.
fn top_of(document: &Document, nodes: &[NodeId]) -> NodeId {
    let Some(mut top) = nodes.iter().copied().min() else { return Document::ROOT };
    while !nodes.iter().all(|node| document.is_within(*node, top)) {
        let Some(parent) = document.node(top).parent else { break };
        top = parent;
    }
    top
}

/// A figure of an element, what is in it and what is around it, as far as selectors can tell, with states.
fn likeness(document: &Document, top: NodeId, states: &[(NodeId, String)], ignored: &[&str]) -> u64 {
    let mut hasher = rustc_hash::FxHasher::default();
    let feed = |node: NodeId, hasher: &mut rustc_hash::FxHasher| {
        let Some(element) = document.element(node) else { return };
        element.local().hash(hasher);
        for (name, value) in element.attributes.iter().filter(|(name, _)| !ignored.contains(&&*name.local)) {
            (&*name.local, value).hash(hasher);
        }
        document.has_own_text(node).hash(hasher);
    };
    let around: Vec<NodeId> = document.around(top).skip(1).collect();
    for node in std::iter::once(top).chain(around.iter().copied()) {
        feed(node, &mut hasher);
        // What stands beside it may decide as well.
        let mut before = document.element_before(node);
        while let Some(sibling) = before {
            feed(sibling, &mut hasher);
            before = document.element_before(sibling);
        }
        document.element_after(node).is_some().hash(&mut hasher);
    }
    let inside = document.descendants(top);
    inside.iter().for_each(|node| feed(*node, &mut hasher));
    for (node, state) in states {
        let place = inside
            .iter()
            .position(|one| one == node)
            .map_or_else(|| around.iter().position(|one| one == node).map_or(-1, |at| -2 - at as i64), |at| at as i64);
        (place, state).hash(&mut hasher);
    }
    hasher.finish()
}

/// Whether a rule asks for a state by a class that may be any element's of that name, and that this one has not.
fn is_of_any(rule: &Rule, element: &stilk_engine::dom::Element) -> bool {
    let subject = rule.subject();
    let is_bare = subject.local.is_some() && subject.ids.is_empty() && subject.attributes.is_empty();
    let has = |class: &String| element.classes.iter().any(|own| **own == **class);
    is_bare
        && !rule.state_classes.is_empty()
        && subject.classes.iter().all(|class| says_state(class))
        && !subject.classes.iter().all(has)
}

/// Notes the classes and ids around an element that a rule matches: those that are around all of them, or around any.
fn note_around(
    noted: &mut BTreeMap<RuleRef, BTreeSet<String>>,
    rule: RuleRef,
    document: &Document,
    node: NodeId,
    of_all: bool,
) {
    let mut around = BTreeSet::new();
    for element in document.around(node).skip(1).filter_map(|above| document.element(above)) {
        around.extend(element.classes.iter().map(|class| format!(".{class}")));
        around.extend(element.attribute("id").map(|id| format!("#{id}")));
    }
    match noted.get_mut(&rule) {
        Some(known) if of_all => known.retain(|one| around.contains(one)),
        Some(known) => known.extend(around),
        None => drop(noted.insert(rule, around)),
    }
}
