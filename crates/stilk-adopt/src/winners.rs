//! Who wins on the controls of pages as they are: which declarations, in any situation that rules ask for.

use crate::ground::Ground;
use crate::old::RuleRef;
use crate::situation::{self, Situation};
use crate::{Engines, in_order};
use std::collections::{BTreeMap, BTreeSet};
use std::rc::Rc;
use stilk_engine::cascade::order::DeclarationId;
use stilk_engine::cascade::{Engine, Forced, LonghandSet, Media, Style, Styles};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::{Document, NodeId};

/// Declarations that won, by rule and family.
#[derive(Debug, Default)]
pub struct Winners {
    won: BTreeMap<(RuleRef, usize), BTreeMap<u32, LonghandSet>>,
}

impl Winners {
    /// Looks at the controls of all pages.
    pub fn of(ground: &Ground, medias: &[(Media, String)], threads: usize) -> Winners {
        let pages: Vec<usize> = (0..ground.site.pages.len()).collect();
        let situations = situation::all(ground, medias.len());
        let found = in_order(threads, &pages, |engines: &mut Engines, page| {
            let mut winners = Winners::default();
            for situation in &situations {
                let list = ground.site.pages[page].list;
                let media = &medias[situation.media].0;
                let engine = engines.of((list, situation.media), || crate::engine_of(ground.site, list, media.clone()));
                winners.look(ground, page, situation, engine);
            }
            winners
        });
        let mut all = Winners::default();
        for one in found {
            for (key, declarations) in one.won {
                let known = all.won.entry(key).or_default();
                for (declaration, longhands) in declarations {
                    known.entry(declaration).or_default().add_all(&longhands);
                }
            }
        }
        all
    }

    /// Whether a declaration won anything on controls of a family.
    pub fn won(&self, rule: RuleRef, declaration: u32, family: usize) -> bool {
        self.won.get(&(rule, family)).is_some_and(|declarations| declarations.contains_key(&declaration))
    }

    /// What a declaration won there.
    pub fn what(&self, rule: RuleRef, family: usize) -> LonghandSet {
        let mut sets = LonghandSet::default();
        let declarations = self.won.get(&(rule, family)).into_iter().flatten();
        declarations.for_each(|(_, longhands)| sets.add_all(longhands));
        sets
    }

    /// Whether a rule won anything there.
    pub fn wins(&self, rule: RuleRef, family: usize) -> bool {
        self.won.contains_key(&(rule, family))
    }

    fn look(&mut self, ground: &Ground, page: usize, situation: &Situation, engine: &Engine) {
        let plain = ground.site.document(page);
        if !situation.is_of(ground, &plain) {
            return;
        }
        let document: Document = situation::dressed(ground, &plain, situation);
        let mut of_family: BTreeMap<NodeId, usize> = BTreeMap::new();
        for (member, family) in ground.members.iter().zip(&ground.of).filter(|(member, _)| member.page == page) {
            let parts = member.found.parts.iter().map(|(_, node)| *node);
            for node in parts.chain([member.found.host, member.found.bearer]) {
                of_family.insert(node, *family);
            }
        }
        if of_family.is_empty() {
            return;
        }
        let styles = engine.styles(&document, &Forced::default());
        let mut note = |styles: &Styles, beside: Option<&Styles>, nodes: &mut dyn Iterator<Item = NodeId>| {
            for node in nodes {
                let Some(family) = of_family.get(&node) else { continue };
                for at in styles.boxes(node) {
                    let known = beside.and_then(|rest| rest.of(at));
                    if let Some(style) = styles.of(at).filter(|style| known.is_none_or(|rest| !Rc::ptr_eq(style, rest)))
                    {
                        self.note(ground, ground.site.pages[page].list, *family, style);
                    }
                }
            }
        };
        note(&styles, None, &mut of_family.keys().copied());
        for requirement in situation::requirements(ground, page, situation) {
            let (changed, forced) = situation::bring_about(&document, &requirement.states);
            let (around, inside) = situation::region(&changed, requirement);
            if !inside.iter().any(|node| of_family.contains_key(node)) {
                continue;
            }
            let matches = engine.matches_of(&changed, &forced, around.into_iter().chain(inside.iter().copied()));
            let in_state = engine.styles_beside(&changed, &matches, &styles);
            note(&in_state, Some(&styles), &mut inside.iter().copied());
        }
    }

    fn note(&mut self, ground: &Ground, list: usize, family: usize, style: &Style) {
        let mut noted = |longhand: Longhand, id: DeclarationId| {
            if id.sheet == 0 || id.is_of_attributes() {
                return;
            }
            let Some(sheet) = ground.old.lists[list].get(usize::from(id.sheet) - 1) else { return };
            let rule = RuleRef { sheet: *sheet, rule: id.rule };
            let declarations = self.won.entry((rule, family)).or_default();
            declarations.entry(id.declaration).or_default().add(longhand);
        };
        for longhand in style.set_by_author().iter() {
            match style.get(longhand) {
                Ok(_) => drop(style.winner(longhand).map(|id| noted(longhand, id))),
                // Whichever it is, it may be any.
                Err(_) => style.candidates(longhand).into_iter().for_each(|one| noted(longhand, one.id)),
            }
        }
    }

    /// The rules that won something on controls of a family.
    pub fn rules_of(&self, family: usize) -> BTreeSet<RuleRef> {
        self.won.keys().filter(|(_, of)| *of == family).map(|(rule, _)| *rule).collect()
    }
}
