//! A page's controls in their places: what the checks say of each, in every theme and on each side of what media queries ask.

use crate::family::{Family, Matched, Member};
use crate::fault::never_wins::Fates;
use crate::fault::theme_gap::Ground;
use crate::fault::{self, Seen};
use crate::look::{LOOKS, value, values};
use crate::place::{Place, state_sets};
use crate::report::{By, InState, LookRecord};
use crate::rules::{Rule, Rules};
use crate::site::Site;
use crate::theme::{self, Theme};
use rustc_hash::FxHashMap;
use stilk_checks::in_place::{self, InPlace};
use stilk_checks::painted::paint;
use stilk_checks::painted::text::worst_text;
use stilk_checks::trace::Tracer;
use stilk_engine::cascade::compound::without_states;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::matching::{ElementRef, MatchingCaches};
use stilk_engine::cascade::stylesheet::{Condition, Stylesheet};
use stilk_engine::cascade::{Engine, Media, Styled, Surroundings};
use stilk_engine::css::property::Longhand as L;
use stilk_language::case::{ControlKind, Look, Unit};
use stilk_language::system::{StateId, StateSet, System, Variant};
use stilk_language::tokens;

/// What every page is judged by.
pub struct Court<'c> {
    /// The pages.
    pub site: &'c Site,
    /// The rules of each list of stylesheets.
    pub rules: &'c [Rules],
    /// The families as a system.
    pub system: &'c System,
    /// The families.
    pub families: &'c [Family],
    /// The themes.
    pub themes: &'c [Theme],
    /// What is looked at beside an ordinary screen.
    pub sides: &'c [Surroundings],
    /// By list of stylesheets: whether its pages are drawn in the dark where the device asks for that.
    pub follows_scheme: &'c [bool],
    /// These checks only; all where none is named.
    pub only: &'c [&'static str],
}

/// A control that stands for all that look the same in every state.
pub struct Representative {
    /// The control.
    pub member: Member,
    /// What rules match it.
    pub matched: Matched,
    /// Its family, by index.
    pub family: usize,
    /// For how many it stands.
    pub stands_for: u64,
}

/// What there is to say of a page.
pub struct Judged {
    /// What checks of looks said.
    pub said: in_place::Said,
    /// What only foreign stylesheets do wrong.
    pub foreign: Vec<fault::Said>,
    /// What became of rules.
    pub fates: Fates,
    /// The looks at rest.
    pub looks: Vec<LookRecord>,
    /// What each control is filled with, in each theme.
    pub grounds: Vec<Ground>,
}

/// Engines by list of stylesheets and side, made when they are asked for; each thread has its own.
#[derive(Default)]
pub struct Engines(FxHashMap<(usize, usize), Engine>);

impl Engines {
    /// The engine of a list under some media features; side 0 is the ordinary screen.
    pub fn of(&mut self, site: &Site, list: usize, side: usize, media: &Media) -> &Engine {
        // Bounded: pages with sheets of their own have lists of their own.
        const MOST: usize = 64;
        if self.0.len() > MOST && !self.0.contains_key(&(list, side)) {
            self.0.clear();
        }
        self.0.entry((list, side)).or_insert_with(|| {
            let sheets: Vec<&Stylesheet> = site.lists[list].sheets.iter().map(|sheet| &*sheet.parsed).collect();
            Engine::new(Browser::Chromium.sheet(), &sheets, media.clone())
        })
    }
}

impl Court<'_> {
    /// Judges the representatives on a page.
    pub fn judge(&self, page: usize, all: &[&Representative], engines: &mut Engines) -> Judged {
        let list = self.site.pages[page].list;
        let mut judged = Judged {
            said: InPlace::new(self.system, Vec::new()).said(),
            foreign: Vec::new(),
            fates: Fates::new(),
            looks: Vec::new(),
            grounds: Vec::new(),
        };
        let mut asker = InPlace::new(self.system, self.only.to_vec());
        let document = self.site.document(page);
        let usual = Surroundings::default();
        let engine = engines.of(self.site, list, 0, &usual.media).clone();
        let found: Vec<_> = all.iter().map(|one| &one.member.found).collect();
        let place = Place::new(self.system, &engine, document.clone(), usual, &found);
        for one in all {
            self.judge_one(&place, one, (page, 0), &mut asker, &mut judged);
        }
        for (index, theme) in self.themes.iter().enumerate() {
            if theme.is_on(&document)
                || !self.rules[list].all.iter().any(|rule| asks_for(std::slice::from_ref(theme), rule))
            {
                continue;
            }
            let mut themed = document.clone();
            theme.put_on(&mut themed);
            let place = Place::new(self.system, &engine, themed, Surroundings::default(), &found);
            for one in all {
                self.judge_one(&place, one, (page, index + 1), &mut asker, &mut judged);
            }
        }
        for (index, side) in self.sides.iter().enumerate() {
            let changed = self.changed(list, side);
            // Where colours follow the device, no rule need say so.
            let turns = side.media.dark && (self.follows_scheme[list] || self.site.pages[page].follows_scheme);
            let touches = |one: &&&Representative| {
                let rules = &self.rules[list];
                turns
                    || one.matched.host.iter().chain(&one.matched.inside).any(|rule| changed[*rule])
                    || rules.all.iter().zip(&changed).any(|(rule, changed)| *changed && !rule.customs.is_empty())
            };
            let touched: Vec<&&Representative> = all.iter().filter(touches).collect();
            if touched.is_empty() {
                continue;
            }
            let engine = engines.of(self.site, list, index + 1, &side.media).clone();
            let found: Vec<_> = touched.iter().map(|one| &one.member.found).collect();
            let place = Place::new(self.system, &engine, document.clone(), side.clone(), &found);
            for one in touched {
                self.judge_one(&place, one, (page, 0), &mut asker, &mut judged);
            }
        }
        judged.said = asker.said();
        judged
    }

    /// Which rules of a list hold on a side and not on an ordinary screen, or the other way round.
    fn changed(&self, list: usize, side: &Surroundings) -> Vec<bool> {
        let usual = Media::default();
        let holds = |rule: &Rule, media: &Media| {
            let style = crate::rules::style_rule(self.site, list, rule);
            style.conditions.iter().all(|condition| match condition {
                Condition::Media(list) => list.matches(media),
                _ => true,
            })
        };
        let rules = self.rules[list].all.iter();
        rules.map(|rule| rule.is_conditional && holds(rule, &usual) != holds(rule, &side.media)).collect()
    }

    fn judge_one(
        &self,
        place: &Place,
        one: &Representative,
        (page, theme): (usize, usize),
        asker: &mut InPlace,
        judged: &mut Judged,
    ) {
        let list = self.site.pages[page].list;
        let (rules, sheets) = (&self.rules[list], self.site.lists[list].sheets.as_slice());
        let control = &self.system.controls[one.family];
        let host = control.template.hosts.iter().position(|host| host.name == one.member.host).unwrap_or_default();
        let variant = variant_of(&self.families[one.family], &one.member);
        let contexts = if self.themes.is_empty() { Vec::new() } else { vec![theme] };
        let unit = Unit { control, host, variant, theme: tokens::Theme { contexts } };
        let kind = ControlKind::of(control);
        let asked = (kind.needed_states(), one.member.found.kind);
        let mut sets = state_sets(self.system, asked, rules, &[&one.matched.host, &one.matched.inside]);
        if !place.surroundings.media.hover {
            sets.retain(|set| !set.names(StateId::Hover));
        }
        let looks: Vec<(StateSet, Look)> = sets
            .into_iter()
            .map(|set| {
                let look = place.look(&one.member.found, &set);
                (set, look)
            })
            .filter(|(set, look)| self.is_its_own(set, look, one, rules, list))
            .collect();
        let mut at =
            one.member.span.map_or_else(|| self.site.path(page).to_owned(), |span| self.site.sources.place(span));
        let is_usual = place.surroundings == Surroundings::default();
        if !is_usual {
            at = format!("{at}, {}", place.surroundings.words());
        }
        let tracer = Tracer::of_page(self.system, &self.site.sources, sheets);
        asker.ask(&tracer, &unit, &looks, &at, one.stands_for);
        let seen = Seen {
            system: self.system,
            sources: &self.site.sources,
            sheets,
            rules,
            member: &one.member,
            family: &self.families[one.family],
            matched: &one.matched,
            looks: &looks,
            media: &place.surroundings.media,
            theme: theme.checked_sub(1).map(|index| self.themes[index].name.as_str()),
            place: &at,
            stands_for: one.stands_for,
        };
        fault::never_wins::look(&seen, list, &mut judged.fates);
        if is_usual {
            judged.grounds.extend(ground(&seen, one.family, theme));
        }
        if !is_usual || theme > 0 {
            return;
        }
        let mut say = |said| judged.foreign.push(said);
        fault::stray::look(&seen, &mut say);
        fault::leak::look(&seen, &mut say);
        fault::wiped::look(&seen, &mut say);
        if let Some((_, rest)) = looks.first() {
            judged.looks.push(self.record(&seen, rest, rules, &at));
        }
    }

    /// Whether the classes that say a state do so on this control: some rule that asks for one applies once it is there. What
    /// stands on something around it is no state of it.
    fn is_its_own(&self, set: &StateSet, look: &Look, one: &Representative, rules: &Rules, list: usize) -> bool {
        let own = set.ids().iter().filter(|id| matches!(id, StateId::Own(_)));
        let mut caches = MatchingCaches::default();
        let found = &one.member.found;
        let mut applies = |class: &str| {
            let indices = one.matched.host.iter().chain(&one.matched.inside);
            let asking = indices
                .map(|index| &rules.all[*index])
                .filter(|rule| rule.compounds.iter().any(|compound| compound.classes.iter().any(|own| own == class)));
            asking.into_iter().any(|rule| {
                let selector = &crate::rules::style_rule(self.site, list, rule).selector;
                let nodes = [found.host, found.bearer].into_iter().chain(found.parts.iter().map(|(_, node)| *node));
                nodes.into_iter().any(|node| {
                    let element = ElementRef { document: &look.document, node, forced: &look.forced };
                    element.matches(selector, rule.pseudo.is_some(), &mut caches)
                })
            })
        };
        own.into_iter().all(|id| applies(&self.system.states.get(*id).name))
    }

    fn record(&self, seen: &Seen, rest: &Look, rules: &Rules, at: &str) -> LookRecord {
        let style = rest.styles.element(rest.mounted.host);
        let own = style.map_or_else(Vec::new, |style| {
            let who = |longhand| match style.winner(longhand) {
                None => By::Nobody,
                Some(id) if id.sheet == 0 => By::Browser,
                Some(_) => By::Page,
            };
            LOOKS.iter().map(|longhand| (longhand, value(style, longhand), who(longhand))).collect()
        });
        let first = seen.family.name.split(", ").next().unwrap_or_default();
        let base = seen
            .matched
            .host
            .iter()
            .map(|index| &rules.all[*index])
            .find(|rule| !rule.is_conditional && !rule.asks_state() && without_states(&rule.compounds) == first);
        let alone = seen.looks.iter().filter(|(set, _)| set.len() <= 1);
        LookRecord {
            family: seen.family.name.clone(),
            name: seen.name(),
            host: seen.member.host.clone(),
            options: seen.member.options.clone(),
            values: values(rest),
            own,
            controls: seen.stands_for,
            tag: seen.member.span,
            place: at.to_owned(),
            page: seen.member.page,
            found: seen.member.found.clone(),
            states: alone
                .map(|(set, look)| InState { states: set.clone(), text: worst_text(seen.system, look) })
                .collect(),
            base: base.and_then(|rule| seen.span_of(rule)),
        }
    }
}

/// The fill of a control and what is behind it, where both are known and the fill covers.
fn ground(seen: &Seen, family: usize, theme: usize) -> Option<Ground> {
    let (_, rest) = seen.looks.first()?;
    let at = Styled::element(seen.member.found.host);
    let style = rest.styles.of(at)?;
    let fill = style.used_color(L::BackgroundColor).ok().filter(|color| color.alpha == 1.0)?;
    let behind = rest.behind?.ok()?;
    if paint::has_pictures(style).unwrap_or(true) {
        return None;
    }
    Some(Ground {
        page: seen.member.page,
        tag: seen.member.span,
        family,
        theme,
        fill: paint::over(&fill, behind),
        behind,
        at: seen.declaration(rest, at, L::BackgroundColor),
        place: seen.place.to_owned(),
        stands_for: seen.stands_for,
    })
}

/// Whether a rule asks for one of some themes.
fn asks_for(themes: &[Theme], rule: &Rule) -> bool {
    rule.compounds.last().is_some_and(|outermost| theme::asks_for(themes, outermost))
}

/// The variant of a member, by the axes of its family.
fn variant_of(family: &Family, member: &Member) -> Variant {
    let choice =
        |axis: &crate::family::Axis| axis.options.iter().position(|(option, _)| member.options.contains(option));
    Variant { choices: family.axes.iter().map(choice).collect() }
}
