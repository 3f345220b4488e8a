//! The proof: every element of every page before and after, in every situation that rules ask for.

use crate::ground::Ground;
use crate::situation::{self, Dress, Situation};
use crate::{Engines, in_order};
use rustc_hash::FxHashMap;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::order::DeclarationId;
use stilk_engine::cascade::{Engine, Forced, Media, Style, Styled, Styles, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::css::serialize::to_css;
use stilk_engine::dom::{Document, NodeId};

/// What the pages have afterwards.
pub struct After {
    /// By stylesheet among the old ones: what stays of it.
    pub kept: Vec<Arc<Stylesheet>>,
    /// The system's stylesheet; none where nothing was adopted.
    pub system: Option<Arc<Stylesheet>>,
    /// Where declarations stand in its text, in order, each with the family whose sheet it comes from.
    pub origins: Vec<(u32, usize)>,
}

/// A value that is another one afterwards.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct Difference {
    /// The family whose control it is on, or inside of.
    pub family: Option<usize>,
    /// The family whose sheet gives the value afterwards.
    pub now_family: Option<usize>,
    /// The longhand.
    pub longhand: &'static str,
    /// The element, as a person points at it, with its pseudo-element.
    pub element: String,
    /// The states it is in, in words; empty at rest.
    pub states: String,
    /// Before; nothing where it is not known.
    pub before: Option<String>,
    /// Afterwards.
    pub after: Option<String>,
    /// The page, by its place.
    pub page: usize,
    /// The theme and the media, in words; empty on an ordinary screen.
    pub situation: String,
    /// What gave the value before.
    pub by: Option<String>,
    /// What gives it afterwards.
    pub now_by: Option<String>,
}

/// What was compared.
#[derive(Debug, Default)]
pub struct Proof {
    /// Values that were compared.
    pub compared: u64,
    /// Of these, not known before and after.
    pub unknown: u64,
    /// How many values differ.
    pub differing: u64,
    /// What differs, each kind once.
    pub differences: BTreeSet<Difference>,
    /// Of the differences, those that nothing around them explains.
    pub situations: usize,
}

/// So many kinds of differences are kept: more say no more.
const MOST: usize = 4_000;

/// Compares all pages.
pub fn prove(ground: &Ground, after: &After, medias: &[(Media, String)], threads: usize) -> Proof {
    let pages: Vec<usize> = (0..ground.site.pages.len()).collect();
    let situations = situation::all(ground, medias.len());
    let found = in_order(threads, &pages, |engines: &mut (Engines, Engines), page| {
        let mut proof = Proof::default();
        let list = ground.site.pages[page].list;
        for situation in &situations {
            let media = &medias[situation.media];
            let key = (list, situation.media);
            let before = engines.0.of(key, || crate::engine_of(ground.site, list, media.0.clone())).clone();
            let now = engines.1.of(key, || after.engine(ground, list, media.0.clone())).clone();
            Comparison { ground, page, situation, media, before: &before, now: &now, after }.run(&mut proof);
        }
        proof
    });
    let mut all = Proof { situations: situations.len(), ..Proof::default() };
    for proof in found {
        all.compared += proof.compared;
        all.unknown += proof.unknown;
        all.differing += proof.differing;
        all.differences.extend(proof.differences);
    }
    all
}

impl After {
    fn engine(&self, ground: &Ground, list: usize, media: Media) -> Engine {
        let kept = ground.old.lists[list].iter().map(|sheet| &*self.kept[*sheet]);
        let sheets: Vec<&Stylesheet> = kept.chain(self.system.as_deref()).collect();
        Engine::new(Browser::Chromium.sheet(), &sheets, media)
    }
}

/// Elements to which, and around which, the same declarations apply before and after, one for one: no value of theirs can
/// be another one.
struct Same<'s> {
    document: &'s Document,
    old: &'s Styles,
    new: &'s Styles,
    known: FxHashMap<NodeId, bool>,
}

impl Same<'_> {
    fn is(&mut self, at: Styled) -> bool {
        if !self.is_element(at.node) {
            return false;
        }
        match (at.pseudo, self.old.of(at), self.new.of(at)) {
            (None, ..) | (_, None, None) => true,
            (_, Some(one), Some(other)) => one.says_the_same(other),
            _ => false,
        }
    }

    fn is_element(&mut self, node: NodeId) -> bool {
        if let Some(known) = self.known.get(&node) {
            return *known;
        }
        let parent = self.document.node(node).parent.filter(|parent| self.document.element(*parent).is_some());
        let is_same = parent.is_none_or(|parent| self.is_element(parent))
            && match (self.old.element(node), self.new.element(node)) {
                (Some(one), Some(other)) => one.says_the_same(other),
                _ => false,
            };
        self.known.insert(node, is_same);
        is_same
    }
}

struct Comparison<'c> {
    ground: &'c Ground<'c>,
    page: usize,
    situation: &'c Situation,
    media: &'c (Media, String),
    before: &'c Engine,
    now: &'c Engine,
    after: &'c After,
}

impl Comparison<'_> {
    fn run(&self, proof: &mut Proof) {
        let plain = self.ground.site.document(self.page);
        if !self.situation.is_of(self.ground, &plain) {
            return;
        }
        let document = situation::dressed(self.ground, &plain, self.situation);
        let none = Forced::default();
        let (old, new) = (self.before.styles(&document, &none), self.now.styles(&document, &none));
        self.compare(&document, &document.descendants(Document::ROOT), (&old, &new), None, "", proof);
        for requirement in situation::requirements(self.ground, self.page, self.situation) {
            let (changed, forced) = situation::bring_about(&document, &requirement.states);
            let (around, inside) = situation::region(&changed, requirement);
            let styles = |engine: &Engine, rest: &Styles| {
                let nodes = around.iter().chain(&inside).copied();
                let matches = engine.matches_of(&changed, &forced, nodes);
                engine.styles_beside(&changed, &matches, rest)
            };
            let words: Vec<String> = requirement
                .states
                .iter()
                .map(|(node, state)| format!("{}{state}", stilk_survey::control::tag(&changed, *node)))
                .collect();
            let in_state = (&styles(self.before, &old), &styles(self.now, &new));
            self.compare(&changed, &inside, in_state, Some((&old, &new)), &words.join(" "), proof);
        }
    }

    fn compare(
        &self,
        document: &Document,
        nodes: &[NodeId],
        (old, new): (&Styles, &Styles),
        rest: Option<(&Styles, &Styles)>,
        states: &str,
        proof: &mut Proof,
    ) {
        let mut same = Same { document, old, new, known: FxHashMap::default() };
        for node in nodes {
            let pseudos: BTreeSet<_> = old.boxes(*node).chain(new.boxes(*node)).map(|at| at.pseudo).collect();
            for pseudo in pseudos {
                let at = Styled { node: *node, pseudo };
                // What is as at rest before and after was compared there.
                let is_at_rest = |styles: &Styles, rest: &Styles| match (styles.of(at), rest.of(at)) {
                    (Some(one), Some(other)) => std::rc::Rc::ptr_eq(one, other),
                    (None, None) => pseudo.is_none_or(|_| {
                        styles.element(*node).zip(rest.element(*node)).is_some_and(|(a, b)| std::rc::Rc::ptr_eq(a, b))
                    }),
                    _ => false,
                };
                if rest.is_some_and(|(old_rest, new_rest)| is_at_rest(old, old_rest) && is_at_rest(new, new_rest)) {
                    continue;
                }
                if same.is(at) {
                    proof.compared += Longhand::ALL.len() as u64;
                    continue;
                }
                let (one, other) = match (old.of(at), new.of(at), pseudo) {
                    (Some(one), Some(other), _) => (one.clone(), other.clone()),
                    (None, None, _) | (_, _, None) => continue,
                    // What no rule speaks of has a style all the same.
                    (one, other, Some(pseudo)) => {
                        let unstyled = |engine: &Engine, styles: &Styles| {
                            Some(std::rc::Rc::new(engine.unstyled(styles.element(*node)?, pseudo)))
                        };
                        let one = one.cloned().or_else(|| unstyled(self.before, old));
                        let other = other.cloned().or_else(|| unstyled(self.now, new));
                        match (one, other) {
                            (Some(one), Some(other)) => (one, other),
                            _ => continue,
                        }
                    }
                };
                self.compare_styles(document, at, (&one, &other), states, proof);
            }
        }
    }

    fn compare_styles(
        &self,
        document: &Document,
        at: Styled,
        (one, other): (&Style, &Style),
        states: &str,
        proof: &mut Proof,
    ) {
        for longhand in Longhand::ALL {
            proof.compared += 1;
            let (before, after) = (one.get(*longhand), other.get(*longhand));
            match (before, after) {
                (Ok(before), Ok(after)) if before == after => continue,
                (Err(_), Err(_)) => {
                    proof.unknown += 1;
                    // What gives it has to be the same text all the same.
                    continue;
                }
                _ => {}
            }
            proof.differing += 1;
            // What comes from around it is told there.
            let has_winner = |style: &Style| style.winner(*longhand).is_some_and(|id| id.sheet > 0);
            let is_inherited = longhand.inherited() && !has_winner(one) && !has_winner(other);
            if is_inherited && document.node(at.node).parent.is_some() || proof.differences.len() >= MOST {
                continue;
            }
            let pseudo = at.pseudo.map_or_else(String::new, |pseudo| format!("::{}", pseudo.name()));
            let mut surroundings = Vec::new();
            match self.situation.theme {
                Dress::AsWritten => {}
                Dress::Bare => surroundings.push("without its theme".to_owned()),
                Dress::In(theme) => surroundings.push(self.ground.themes[theme].name.clone()),
            }
            if self.situation.media > 0 {
                surroundings.push(self.media.1.clone());
            }
            if self.situation.turned {
                surroundings.push("from right to left".to_owned());
            }
            let text = |value: Result<&stilk_engine::css::Value, _>| value.ok().map(to_css);
            proof.differences.insert(Difference {
                family: self.family_of(document, at.node),
                now_family: other.winner(*longhand).and_then(|id| self.new_family(id)),
                longhand: longhand.name(),
                element: format!("{}{pseudo}", stilk_survey::control::tag(document, at.node)),
                states: states.to_owned(),
                before: text(before),
                after: text(after),
                page: self.page,
                situation: surroundings.join(", "),
                by: one.winner(*longhand).and_then(|id| self.old_rule(id)),
                now_by: other.winner(*longhand).and_then(|id| self.new_rule(id)),
            });
        }
    }

    /// The family of the control that an element is, or is in.
    fn family_of(&self, document: &Document, node: NodeId) -> Option<usize> {
        let around: BTreeMap<NodeId, usize> = self
            .ground
            .members
            .iter()
            .zip(&self.ground.of)
            .filter(|(member, _)| member.page == self.page)
            .flat_map(|(member, family)| [(member.found.host, *family), (member.found.bearer, *family)])
            .collect();
        document.around(node).find_map(|above| around.get(&above).copied())
    }

    fn old_rule(&self, id: DeclarationId) -> Option<String> {
        let sheet =
            self.ground.old.lists[self.ground.site.pages[self.page].list].get(usize::from(id.sheet).checked_sub(1)?)?;
        let sheet = &self.ground.old.all[*sheet];
        Some(format!("`{}` in {}", sheet.parsed.rules.get(id.rule as usize)?.selector_text(), sheet.path))
    }

    fn new_family(&self, id: DeclarationId) -> Option<usize> {
        let list = &self.ground.old.lists[self.ground.site.pages[self.page].list];
        if usize::from(id.sheet) != list.len() + 1 {
            return None;
        }
        let rule = self.after.system.as_ref()?.rules.get(id.rule as usize)?;
        let offset = rule.declarations.get(id.declaration)?.offset;
        let at = self.after.origins.binary_search_by_key(&offset, |(at, _)| *at).ok()?;
        Some(self.after.origins[at].1)
    }

    fn new_rule(&self, id: DeclarationId) -> Option<String> {
        let list = &self.ground.old.lists[self.ground.site.pages[self.page].list];
        match list.get(usize::from(id.sheet).checked_sub(1)?) {
            Some(sheet) => Some(format!("what stays of {}", self.ground.old.all[*sheet].path)),
            None => Some("the system".to_owned()),
        }
    }
}
