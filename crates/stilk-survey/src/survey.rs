//! The whole of it: controls are found, families made of them, each look is judged once, and what was said is put together.

use crate::control::{Kind, controls};
use crate::family::{Candidates, Chooser, Family, Grouping, Member, families, matched, member, sets_of};
use crate::fault::lacks_class::{Classed, classed};
use crate::fault::{self, Gathered, never_wins};
use crate::judge::{Court, Engines, Judged, Representative};
use crate::place::{likeness, written};
use crate::report::{FamilyReport, LookRecord, NearLooks, Survey};
use crate::rules::{Rules, style_rule};
use crate::site::Site;
use crate::theme::{self, Theme};
use crate::unused::{self, UsedRules, unused};
use crate::value::values;
use rustc_hash::FxHashMap;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};
use stilk_checks::in_place;
use stilk_engine::cascade::matching::{MatchingCaches, matches};
use stilk_engine::cascade::selector::{List, parse_list};
use stilk_engine::cascade::stylesheet::Condition;
use stilk_engine::cascade::surroundings::{GroupCondition, sides};
use stilk_engine::cascade::{Forced, Media, Surroundings};
use stilk_engine::dom::{Document, Element};
use stilk_language::case::ControlKind;
use stilk_language::manifest::OwnState;
use stilk_language::system::{Axis, Control, StateId, System};
use stilk_language::template::{Host, Template};
use stilk_language::tokens::Modifier;
use stilk_text::source::{Name, Span};

/// What is asked.
#[derive(Default)]
pub struct Request {
    /// Controls of these kinds, or that these selectors match; all where none is named.
    pub only: Vec<Only>,
    /// These checks only, by their ids; all where none is named.
    pub checks: Vec<&'static str>,
    /// On so many threads; what is found does not depend on it.
    pub threads: usize,
}

/// What a survey is limited to.
pub enum Only {
    /// Controls of a kind.
    Kind(Kind),
    /// Controls that a selector matches.
    Selector(String),
}

impl Only {
    /// From a word, or a selector.
    pub fn read(text: &str) -> Option<Only> {
        match Kind::find(text) {
            Some(kind) => Some(Only::Kind(kind)),
            None => parse_list(text).map(|_| Only::Selector(text.to_owned())),
        }
    }
}

/// What is known of a list of stylesheets.
struct ListFacts {
    grouping: Grouping,
    candidates: Candidates,
    /// By rule that asks for a theme: what it matches in any.
    in_any_theme: unused::InAnyTheme,
}

/// What was found on a page.
struct PageFacts {
    members: Vec<Met>,
    used: UsedRules,
    /// Classes of elements that are no controls and no parts of one.
    elsewhere: BTreeSet<String>,
    /// Elements with a class of several words that are no controls, or no whole ones.
    others: Vec<Classed>,
}

/// So many sides of media queries are looked at; where rules ask for more it is told.
const MOST_SIDES: usize = 24;

/// Surveys pages.
pub fn survey(site: &mut Site, request: &Request) -> Survey {
    let rules: Vec<Rules> =
        site.lists.iter().enumerate().map(|(at, list)| Rules::of(list, site.has_quirks(at))).collect();
    let themes = theme::themes(site, &rules);
    let is_of_theme = |compound: &_| theme::asks_for(&themes, compound);
    let facts: Vec<ListFacts> = rules
        .iter()
        .map(|rules| ListFacts {
            grouping: Grouping::of(rules, &is_of_theme),
            candidates: Candidates::of_rules(rules),
            in_any_theme: unused::in_any_theme(rules, &themes),
        })
        .collect();
    let pages: Vec<usize> = (0..site.pages.len()).collect();
    let found = in_order(request.threads, &pages, |engines: &mut Engines, page| {
        look_at(site, page, &rules, &facts, &themes, &request.only, engines)
    });
    let mut used: Vec<UsedRules> = rules.iter().map(|rules| UsedRules::of_themes(rules, &themes)).collect();
    let (mut all, mut others, mut elsewhere) = (Vec::new(), Vec::new(), BTreeSet::new());
    let mut known = FxHashMap::default();
    let mut with_controls = 0;
    for (page, facts) in found.into_iter().enumerate() {
        used[site.pages[page].list].absorb(&facts.used);
        with_controls += usize::from(!facts.members.is_empty());
        facts.members.into_iter().for_each(|one| put(site, &mut known, &mut all, one));
        others.extend(facts.others);
        elsewhere.extend(facts.elsewhere);
    }
    let members: Vec<Member> = all.iter().map(|(member, _, _)| member.clone()).collect();
    let (families, of) = families(&members, &sets_of(&rules));
    let system = system_of(site, &members, &of, &families, &themes);
    let follows_scheme: Vec<bool> =
        site.lists.iter().zip(&rules).map(|(list, rules)| rules.follow_scheme(list)).collect();
    let turns = follows_scheme.contains(&true) || site.pages.iter().any(|page| page.follows_scheme);
    let (mut sides, unseen_sides) = sides_of(site, &rules, &all, turns);
    let unseen_sides = (unseen_sides + sides.split_off(sides.len().min(MOST_SIDES)).len()) as u64;
    let mut of_controls: BTreeSet<(usize, usize)> = BTreeSet::new();
    for (member, matched, _) in &all {
        let list = site.pages[member.page].list;
        of_controls.extend(matched.host.iter().chain(&matched.inside).map(|index| (list, *index)));
    }
    let (values, customs) = values(site, &rules, &|list, rule| of_controls.contains(&(list, rule)));
    let mut gathered = Gathered::default();
    for one in &others {
        let place = one.span.map_or_else(String::new, |span| site.sources.place(span));
        fault::lacks_class::look(one, &families, &place).into_iter().for_each(|said| gathered.add(said));
    }
    let mut written_of: Vec<BTreeSet<StateId>> = vec![BTreeSet::new(); families.len()];
    for ((member, matched, _), family) in all.iter().zip(&of) {
        let list = site.pages[member.page].list;
        written_of[*family].extend(written(
            &system,
            member.found.kind,
            &rules[list],
            &[&matched.host, &matched.inside],
        ));
    }
    let representatives = representatives(site, all, &of);
    site.keep(representatives.iter().map(|one| one.member.page).collect::<BTreeSet<usize>>());
    let mut by_page: BTreeMap<usize, Vec<&Representative>> = BTreeMap::new();
    let mut unseen = 0;
    for one in &representatives {
        // What a stylesheet that is not there says may change every look.
        match site.pages[one.member.page].is_whole {
            true => by_page.entry(one.member.page).or_default().push(one),
            false => unseen += one.stands_for,
        }
    }
    let court = Court {
        site,
        rules: &rules,
        system: &system,
        families: &families,
        themes: &themes,
        sides: &sides,
        follows_scheme: &follows_scheme,
        only: &request.checks,
    };
    let judged_pages: Vec<usize> = by_page.keys().copied().collect();
    let judged: Vec<Judged> = in_order(request.threads, &judged_pages, |engines: &mut Engines, page| {
        court.judge(page, &by_page[&page], engines)
    });
    let (mut said, mut fates, mut looks, mut grounds) = (Vec::new(), never_wins::Fates::new(), Vec::new(), Vec::new());
    for one in judged {
        said.push(one.said);
        one.foreign.into_iter().for_each(|said| gathered.add(said));
        never_wins::absorb(&mut fates, one.fates);
        looks.extend(one.looks);
        grounds.extend(one.grounds);
    }
    never_wins::tell(fates, &elsewhere, request.only.is_empty(), &mut |said| gathered.add(said));
    fault::dropped::tell(site, &mut |said| gathered.add(said));
    let is_of_controls = |list, rule| of_controls.contains(&(list, rule));
    fault::theme_gap::tell(site, &rules, &themes, &mut |said| gathered.add(said));
    fault::theme_gap::tell_literals(site, &rules, &themes, &is_of_controls, &mut |said| gathered.add(said));
    fault::theme_gap::tell_grounds(&grounds, &themes, &families, &mut |said| gathered.add(said));
    let (reports, near) = family_reports(families, looks, &written_of, &system, &members, &of, &mut gathered);
    let mut report = in_place::findings(&system, &site.sources, said);
    report.cases = members.iter().map(|member| member.count as u64).sum();
    if unseen > 0 {
        report.unknown += unseen;
        report.reasons.insert("every check: a stylesheet that the page links cannot be had".to_owned(), unseen);
    }
    if unseen_sides > 0 {
        report.unknown += unseen_sides;
        report.reasons.insert("every check: more widths and devices than are looked at".to_owned(), unseen_sides);
    }
    report.findings.extend(gathered.into_findings(&request.checks));
    report.findings.sort_by(|a, b| {
        let weight = |d: &stilk_text::diagnostic::Diagnostic| d.evidence.as_ref().map_or(0, |e| e.cases);
        b.level.cmp(&a.level).then_with(|| a.id.cmp(b.id)).then_with(|| weight(b).cmp(&weight(a)))
    });
    let (unused, rule_count) = unused(site, &rules, &used);
    let said_of = report
        .findings
        .iter()
        .flat_map(|finding| finding.span.into_iter().chain(finding.related.iter().map(|r| r.span)));
    let said_of = site.pages_of(said_of);
    site.keep(said_of);
    let sides = sides.iter().map(Surroundings::words).collect();
    Survey {
        pages: site.pages.len(),
        with_controls,
        families: reports,
        near,
        themes,
        sides,
        values,
        customs,
        unused,
        rules: rule_count,
        report,
        system,
    }
}

/// Does something for each item on several threads; the results stand in the order of the items.
pub fn in_order<W: Default, R: Send>(
    threads: usize,
    items: &[usize],
    work: impl Fn(&mut W, usize) -> R + Sync,
) -> Vec<R> {
    let threads = threads.clamp(1, items.len().max(1));
    let (next, results) = (AtomicUsize::new(0), Mutex::new(Vec::new()));
    let run = || {
        let mut own = W::default();
        let mut done = Vec::new();
        loop {
            let at = next.fetch_add(1, Ordering::Relaxed);
            let Some(item) = items.get(at) else { break };
            done.push((at, work(&mut own, *item)));
        }
        results.lock().unwrap_or_else(std::sync::PoisonError::into_inner).extend(done);
    };
    std::thread::scope(|scope| {
        let others: Vec<_> = (1..threads).map(|_| scope.spawn(run)).collect();
        run();
        for other in others {
            // What broke must not pass for what found nothing.
            if let Err(panic) = other.join() {
                std::panic::resume_unwind(panic);
            }
        }
    });
    let mut results = results.into_inner().unwrap_or_else(std::sync::PoisonError::into_inner);
    results.sort_by_key(|(at, _)| *at);
    results.into_iter().map(|(_, result)| result).collect()
}

/// Looks for the controls of a page.
fn look_at(
    site: &Site,
    page: usize,
    rules: &[Rules],
    facts: &[ListFacts],
    themes: &[Theme],
    only: &[Only],
    engines: &mut Engines,
) -> PageFacts {
    let list = site.pages[page].list;
    let (rules, facts) = (&rules[list], &facts[list]);
    let document = site.document(page);
    let mut used = UsedRules::none(rules);
    used.note(&document, rules, &facts.candidates, &facts.in_any_theme);
    let engine = engines.of(site, list, 0, &Media::default());
    let styles = engine.styles(&document, &Forced::default());
    let selectors: Vec<Result<Kind, List>> = only
        .iter()
        .filter_map(|one| match one {
            Only::Kind(kind) => Some(Ok(*kind)),
            Only::Selector(text) => parse_list(text).map(Err),
        })
        .collect();
    let mut caches = MatchingCaches::default();
    let (mut members, mut known, mut found_here) = (Vec::new(), FxHashMap::default(), Vec::new());
    for found in controls(&document, &styles) {
        let is_asked = |one: &Result<Kind, List>| match one {
            Ok(kind) => *kind == found.kind,
            Err(list) => matches(list, &document, found.host) || matches(list, &document, found.bearer),
        };
        if !selectors.is_empty() && !selectors.iter().any(is_asked) {
            continue;
        }
        let matched = matched(&document, rules, &found, &facts.candidates, &mut caches);
        let likeness = likeness(&document, &styles, &found, [&matched.host, &matched.inside]);
        let is_of_theme = |compound: &_| theme::asks_for(themes, compound);
        let member = member(page, found, &document, (rules, &facts.grouping, &matched), &is_of_theme);
        found_here.push(member.found.host);
        put(site, &mut known, &mut members, (member, matched, likeness));
    }
    let mut inside: Vec<bool> = vec![false; document.len()];
    for host in found_here {
        document.descendants(host).into_iter().for_each(|node| inside[node.index()] = true);
    }
    let outside = document.descendants(Document::ROOT).into_iter().filter(|node| !inside[node.index()]);
    let elsewhere = outside
        .filter_map(|node| document.element(node))
        .flat_map(|element| element.classes.iter().map(ToString::to_string))
        .collect();
    PageFacts { members, used, elsewhere, others: classed(page, &document) }
}

/// A control with the rules that match it, and a figure of how it looks.
type Met = (Member, crate::family::Matched, u64);

/// What controls have to have in common to be one to all that follows.
type Likeness = (usize, bool, u64, Kind, String, String, BTreeSet<Chooser>);

/// Puts a control to those that were met: one that is the same in all that counts is counted only.
fn put(site: &Site, known: &mut FxHashMap<Likeness, usize>, all: &mut Vec<Met>, one: Met) {
    let (member, _, likeness) = &one;
    let page = &site.pages[member.page];
    let key = (
        page.list,
        page.is_whole,
        *likeness,
        member.found.kind,
        member.family.clone(),
        member.host.clone(),
        member.options.clone(),
    );
    match known.get(&key) {
        Some(at) => all[*at].0.count += member.count,
        None => {
            known.insert(key, all.len());
            all.push(one);
        }
    }
}

/// One of all that look the same in every state, the first.
fn representatives(site: &Site, all: Vec<(Member, crate::family::Matched, u64)>, of: &[usize]) -> Vec<Representative> {
    let mut known: FxHashMap<(usize, bool, u64, usize, String), usize> = FxHashMap::default();
    let mut found: Vec<Representative> = Vec::new();
    for ((member, matched, likeness), family) in all.into_iter().zip(of) {
        let key =
            (site.pages[member.page].list, site.pages[member.page].is_whole, likeness, *family, member.host.clone());
        match known.get(&key) {
            Some(at) => found[*at].stands_for += member.count as u64,
            None => {
                known.insert(key, found.len());
                let stands_for = member.count as u64;
                found.push(Representative { member, matched, family: *family, stands_for });
            }
        }
    }
    found
}

/// The families as a system, so that checks can be asked of them.
fn system_of(site: &Site, members: &[Member], of: &[usize], families: &[Family], themes: &[Theme]) -> System {
    let place = members
        .iter()
        .find_map(|member| member.span)
        .or_else(|| site.pages.first().map(|page| Span::new(page.file, 0, 0)));
    let Some(place) = place else {
        // Without a page there is nothing to stand anywhere; no check is asked.
        let mut sources = stilk_text::source::Sources::default();
        let file = sources.add("", "");
        return System::found("survey", Vec::new(), Vec::new(), Span::new(file, 0, 0));
    };
    let named = |value: &str| Name { value: value.to_owned(), span: place };
    let modifiers = match themes.is_empty() {
        true => Vec::new(),
        false => {
            let contexts = std::iter::once(named(in_place::USUAL)).chain(themes.iter().map(|theme| named(&theme.name)));
            vec![Modifier { name: named("theme"), contexts: contexts.collect(), default: 0 }]
        }
    };
    let mut own: BTreeSet<&str> = BTreeSet::new();
    for member in members {
        own.extend(member.states.iter().map(String::as_str));
    }
    let own = own.into_iter().take(stilk_language::system::states::MAX_OWN_STATES);
    let states = own.map(|name| OwnState { name: named(name), selector: named(&format!(".{name}")) }).collect();
    let mut system = System::found("survey", modifiers, states, place);
    for (index, family) in families.iter().enumerate() {
        let own: Vec<&Member> =
            members.iter().zip(of).filter(|(_, of)| **of == index).map(|(member, _)| member).collect();
        let span = own.iter().find_map(|member| member.span).unwrap_or(place);
        let mut document = Document::new();
        let mut hosts = Vec::new();
        for (name, _) in &family.hosts {
            let Some(member) = own.iter().find(|member| member.host == *name) else { continue };
            let node = document.append_element(Document::ROOT, bare(&member.element));
            let bearer = member.bearer.as_ref().map_or(node, |bearer| document.append_element(node, bare(bearer)));
            hosts.push(Host { name: name.clone(), node, bearer, parts: Vec::new(), placed: Vec::new() });
        }
        let template = Template { control: family.name.clone(), file: span.file, document, hosts };
        let axis = |axis: &crate::family::Axis| Axis {
            marks: vec![None; axis.options.len()],
            name: named(axis.name),
            options: axis.options.iter().map(|(option, _)| named(option.text().trim_start_matches('.'))).collect(),
            default: None,
        };
        let name = Name { value: family.short(), span };
        system.controls.push(Control::found(name, template, family.axes.iter().map(axis).collect()));
    }
    system
}

/// An element without what only its page knows.
fn bare(element: &Element) -> Element {
    let kept = element.attributes.iter().filter(|(name, _)| matches!(&*name.local, "type" | "role" | "href"));
    Element::new(element.name.clone(), kept.cloned().collect())
}

/// The other sides of the media queries that reach controls.
fn sides_of(site: &Site, rules: &[Rules], all: &[Met], turns: bool) -> (Vec<Surroundings>, usize) {
    let mut wanted: BTreeSet<(usize, usize)> = BTreeSet::new();
    for (member, matched, _) in all {
        let list = site.pages[member.page].list;
        wanted.extend(matched.host.iter().chain(&matched.inside).map(|index| (list, *index)));
    }
    let mut stacks: Vec<Vec<GroupCondition>> = Vec::new();
    let mut known: BTreeSet<String> = BTreeSet::new();
    for (list, rules) in rules.iter().enumerate() {
        for (index, rule) in rules.all.iter().enumerate().filter(|(_, rule)| rule.is_conditional) {
            if !wanted.contains(&(list, index)) && rule.customs.is_empty() {
                continue;
            }
            let conditions = &style_rule(site, list, rule).conditions;
            let stack: Vec<GroupCondition> = conditions
                .iter()
                .filter_map(|condition| match condition {
                    Condition::Media(list) => Some(GroupCondition::Media(list.clone())),
                    _ => None,
                })
                .collect();
            if !stack.is_empty() && known.insert(format!("{stack:?}")) {
                stacks.push(stack);
            }
        }
    }
    if turns {
        stacks.extend(GroupCondition::parse("media", "(prefers-color-scheme: dark)").map(|condition| vec![condition]));
    }
    let usual = Surroundings::default();
    // Whoever asks for less motion sees the same, without it.
    let is_asked = |side: &Surroundings| *side != usual && !side.media.reduced_motion && side.media.scripting;
    let (sides, unseen) = sides(&stacks);
    (sides.into_iter().filter(is_asked).collect(), unseen)
}

/// Families with their looks, equal ones put together; what only several looks tell is said here.
fn family_reports(
    families: Vec<Family>,
    looks: Vec<LookRecord>,
    written: &[BTreeSet<StateId>],
    system: &System,
    members: &[Member],
    of: &[usize],
    gathered: &mut Gathered,
) -> (Vec<FamilyReport>, Vec<NearLooks>) {
    let (mut reports, mut near) = (Vec::new(), Vec::new());
    for (index, family) in families.into_iter().enumerate() {
        let kind_hosts: BTreeSet<&str> = family.hosts.iter().map(|(host, _)| host.as_str()).collect();
        let own: Vec<&LookRecord> =
            looks.iter().filter(|look| look.family == family.name && kind_hosts.contains(look.host.as_str())).collect();
        if family.is_styled {
            fault::hosts_differ::tell(&family.short(), &own, &mut |said| gathered.add(said));
        }
        let mut merged: Vec<LookRecord> = Vec::new();
        for look in own {
            match merged.iter_mut().find(|known| known.values == look.values) {
                Some(known) => known.controls += look.controls,
                None => merged.push(look.clone()),
            }
        }
        merged.sort_by(|a, b| b.controls.cmp(&a.controls).then_with(|| a.name.cmp(&b.name)));
        let parts = members.iter().zip(of).filter(|(_, of)| **of == index).flat_map(|(member, _)| {
            member.found.parts.iter().map(|(name, _)| name.split('#').next().unwrap_or(name).to_owned())
        });
        let needed = system.controls.get(index).map_or(&[][..], |control| ControlKind::of(control).needed_states());
        // Over text the pointer is another one by itself.
        let is_shown = |id: &StateId| *id == StateId::Hover && matches!(family.kind, Kind::Field | Kind::Select);
        let missing = needed.iter().copied().filter(|id| !written[index].contains(id) && !is_shown(id)).collect();
        let names = written[index].iter().map(|id| system.states.get(*id).name.clone()).collect();
        let base = merged.iter().find_map(|look| look.base);
        reports.push(FamilyReport { parts: parts.collect(), looks: merged, written: names, missing, base, family });
    }
    let of_kinds: BTreeSet<Kind> = reports.iter().map(|report| report.family.kind).collect();
    for kind in of_kinds {
        let all: Vec<&LookRecord> =
            reports.iter().filter(|report| report.family.kind == kind).flat_map(|report| &report.looks).collect();
        near.extend(fault::near_looks::tell(&all, &mut |said| gathered.add(said)));
    }
    reports.sort_by(|a, b| b.family.count.cmp(&a.family.count).then_with(|| a.family.name.cmp(&b.family.name)));
    (reports, near)
}
