//! A family as a control: what chooses it is found, its rules are read, and placed where states and options have them.

use crate::conflict;
use crate::draft::{Draft, DraftRule, Head, HostDraft, OptionDraft, Origin, PartDraft, Piece, Themed, Workshop};
use crate::naming;
use crate::old::RuleRef;
use crate::outline::declaration;
use crate::reading::{PartId, Reading, class_selector};
use crate::when::{Target, When};
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::LonghandSet;
use stilk_engine::cascade::matching::matches;
use stilk_engine::cascade::selector::{parse_list, split_list};
use stilk_engine::cascade::stylesheet::DeclarationBody;
use stilk_engine::css::property::Flow;
use stilk_engine::dom::{Document, Element, NodeId, is_disableable};
use stilk_language::mark::Mark;
use stilk_language::system::{StateId, StateSet};
use stilk_survey::family::{Chooser, Member};
use stilk_survey::state_class::says_state;

impl Workshop<'_> {
    /// A family as a control.
    ///
    /// # Errors
    /// Why it can be none.
    pub fn draft(&self, family: usize, names: &mut BTreeSet<String>) -> Result<Draft, String> {
        let of = &self.ground.families[family];
        let members: Vec<(usize, &Member)> =
            self.ground.members.iter().enumerate().filter(|(at, _)| self.ground.of[*at] == family).collect();
        let head = self.head(family, &of.name)?;
        let mut axes = Vec::new();
        let mut options = Vec::new();
        let mut option_names = BTreeSet::new();
        for axis in &of.axes {
            let own: Vec<&Chooser> =
                axis.options.iter().map(|(chooser, _)| chooser).filter(|c| Mark::read(&c.text()).is_some()).collect();
            if own.is_empty() {
                continue;
            }
            for chooser in &own {
                let name = naming::unique(&naming::option(chooser, &of.name), &mut option_names);
                options.push(OptionDraft { name, chooser: (*chooser).clone(), axis: axes.len() });
            }
            axes.push(if own.len() > 1 { axis.name.to_owned() } else { String::new() });
        }
        naming::axes(&mut axes, &option_names);
        let mut draft = Draft {
            name: naming::unique(&naming::control(&of.name, of.kind), names),
            family,
            kind: of.kind,
            head,
            hosts: hosts(&members),
            axes,
            options,
            parts: Vec::new(),
            rules: Vec::new(),
            unreadable: Vec::new(),
            lost: Vec::new(),
        };
        self.parts(family, &mut draft);
        self.rules(family, &members, &mut draft);
        crate::merge::hosts(&mut draft);
        let exclusive = draft.exclusive(self.modifier_of);
        let mut seen = crate::seen::Seen::of(&draft, self, &members);
        crate::palette::collapse(&mut draft, &exclusive, &mut seen);
        crate::merge::tidy(&mut draft);
        conflict::settle(&mut draft, self, &mut seen)?;
        crate::prune::repeated(&mut draft, self, &mut seen);
        crate::merge::hosts(&mut draft);
        crate::merge::tidy(&mut draft);
        Ok(draft)
    }

    /// What chooses the controls of a family, and no other element.
    fn head(&self, family: usize, name: &str) -> Result<Head, String> {
        let selectors: Vec<String> = split_list(name).into_iter().map(|one| one.trim().to_owned()).collect();
        let list = parse_list(name).ok_or("its selectors are not understood")?;
        let (mut own, mut others): (Vec<Beside>, Vec<Beside>) = (Vec::new(), Vec::new());
        for page in 0..self.ground.site.pages.len() {
            let document = self.documents.get(page);
            let hosts: BTreeSet<NodeId> = self
                .ground
                .members_of(family)
                .filter(|member| member.page == page)
                .map(|member| member.found.host)
                .collect();
            for node in document.descendants(Document::ROOT) {
                if document.element(node).is_some() && matches(&list, &document, node) {
                    let beside = Beside::of(&document, node);
                    if hosts.contains(&node) { own.push(beside) } else { others.push(beside) }
                }
            }
        }
        if let ([one], Some(mark)) = (selectors.as_slice(), Mark::read(name))
            && *one == mark.text()
        {
            // What bears the class and is no control had the rules as well.
            if !self.strict.contains(&family) {
                return Ok(Head::Marked(mark));
            }
            let names = |list: &[Beside]| -> BTreeSet<String> { list.iter().map(|one| one.local.clone()).collect() };
            let (of_own, of_others) = (names(&own), names(&others));
            if of_own.is_disjoint(&of_others) {
                return Ok(Head::Attached(of_own.into_iter().map(|local| format!("{local}{one}")).collect()));
            }
        }
        if others.is_empty() {
            return Ok(Head::Attached(selectors));
        }
        let around = own.iter().map(|one| one.around.clone()).reduce(|a, b| a.intersection(&b).cloned().collect());
        let guard =
            around.unwrap_or_default().into_iter().find(|one| others.iter().all(|other| !other.around.contains(one)));
        if let Some(guard) = guard {
            return Ok(Head::Attached(selectors.iter().map(|one| format!("{guard} {one}")).collect()));
        }
        // What the others have, and none of these.
        let mut left: Vec<&Beside> = others.iter().collect();
        let mut nots = BTreeSet::new();
        while let Some(first) = left.first() {
            let mark = first
                .own
                .iter()
                .find(|mark| own.iter().all(|one| !one.own.contains(*mark)))
                .cloned()
                .ok_or("its selectors also match elements that look different, and nothing tells these apart")?;
            left.retain(|other| !other.own.contains(&mark));
            nots.insert(mark);
        }
        let nots = format!(":not({})", nots.into_iter().collect::<Vec<_>>().join(", "));
        Ok(Head::Attached(selectors.iter().map(|one| format!("{one}{nots}")).collect()))
    }

    /// The parts that rules of a family name.
    fn parts(&self, family: usize, draft: &mut Draft) {
        let mut ids: BTreeSet<PartId> = BTreeSet::new();
        for ((rule, of), readings) in &self.ground.readings {
            if *of != family {
                continue;
            }
            for reading in readings.iter().flatten() {
                // What stays and wins nothing there needs no part.
                let counts = self.is_taken(*rule) || self.winners.wins(*rule, family);
                ids.extend(reading.part.iter().filter(|_| counts).cloned());
                ids.extend(reading.part_states.iter().map(|(id, _)| id.clone()));
            }
        }
        let inside = self.ground.members_of(family).find(|member| member.found.host != member.found.bearer);
        if let Some(member) = inside {
            let document = self.documents.get(member.page);
            ids.insert(crate::reading::part_id(&document, member.found.bearer, &member.found));
        }
        let mut names = BTreeSet::new();
        for id in ids {
            let wanted = match id.is_bearer {
                true => "native".to_owned(),
                false => naming::part(&id, &self.ground.families[family].name),
            };
            let mark = id.class.as_deref().and_then(|class| Mark::read(&format!(".{class}")));
            let mark = mark.unwrap_or_else(|| Mark::Element(id.local.clone()));
            draft.parts.push(PartDraft { name: naming::unique(&wanted, &mut names), id, mark });
        }
    }

    /// Whether a rule is taken over: all that it matches is of controls that are adopted.
    pub fn is_taken(&self, rule: RuleRef) -> bool {
        self.ground
            .facts
            .get(&rule)
            .is_some_and(|facts| !facts.others && !facts.families.is_empty() && facts.families.is_subset(self.adopted))
    }

    /// The rules of the same list of selectors.
    fn block_of(&self, rule: RuleRef) -> Vec<RuleRef> {
        let rules = &self.ground.old.all[rule.sheet].parsed.rules;
        let own = &rules[rule.rule as usize].declarations.list;
        let same = |at: &usize| std::sync::Arc::ptr_eq(&rules[*at].declarations.list, own);
        (0..rules.len()).filter(same).map(|at| RuleRef { sheet: rule.sheet, rule: at as u32 }).collect()
    }

    fn rules(&self, family: usize, members: &[(usize, &Member)], draft: &mut Draft) {
        for ((name, of), readings) in &self.ground.readings {
            if *of != family {
                continue;
            }
            let sheet = &self.ground.old.all[name.sheet];
            let Some(style) = sheet.parsed.rules.get(name.rule as usize) else { continue };
            let groups = match self.ground.old.groups(*name) {
                Ok(groups) => groups,
                Err(why) => {
                    draft.unreadable.push((*name, why));
                    continue;
                }
            };
            let mut found: Vec<(Target, When)> = Vec::new();
            // What asks for a class or an id of the host was written for it, or for its like.
            let is_named = |reading: &Reading| {
                !reading.classes.is_empty() || reading.others.iter().any(|other| other.starts_with('#'))
            };
            let names_it = readings.iter().flatten().any(is_named);
            for reading in readings {
                let one = reading.clone().and_then(|reading| self.placed(&reading, *name, members, draft));
                match one {
                    Ok(some) => found.extend(some),
                    Err(why) => draft.unreadable.push((*name, why)),
                }
            }
            found.sort();
            found.dedup();
            // Selectors of one list share their declarations.
            let block: Vec<RuleRef> = self.block_of(*name);
            let origin = if self.is_taken(*name) { Origin::Own } else { Origin::Kept };
            let Some((text, _)) = self.ground.old.block(*name) else { continue };
            let ranks = self.ground.old.ranks(*name);
            for (target, when) in found {
                let when = When { groups: groups.clone(), ..when };
                for important in [false, true] {
                    let mut pieces = Vec::new();
                    let of_quirks =
                        style.declarations.quirks.iter().map(|(_, one)| one).filter(|_| self.has_quirks(*name));
                    let all = style.declarations.iter().chain(of_quirks).enumerate();
                    for (at, one) in all.filter(|(_, one)| one.important == important) {
                        let Some(offset) = text.offset(one.offset) else { continue };
                        let Some((property, value, _)) = declaration(&text.text, offset) else { continue };
                        // What only pages in quirks mode understand is written as all do.
                        let understood = match at < style.declarations.len() {
                            true => None,
                            false => stilk_engine::css::quirks::in_quirks_mode(property, value),
                        };
                        let value = understood.as_deref().unwrap_or(value);
                        let mut sets = LonghandSet::default();
                        if let DeclarationBody::Property(parsed) = &one.body {
                            parsed.targets().into_iter().for_each(|target| sets.add(target.physical(Flow::LTR)));
                            if sets.iter().next().is_some()
                                && !block.iter().any(|one| self.winners.won(*one, at as u32, family))
                            {
                                if origin == Origin::Own {
                                    draft.lost.push((*name, format!("{property}: {value}")));
                                }
                                continue;
                            }
                            if sets.iter().next().is_none() && origin == Origin::Kept {
                                continue;
                            }
                        }
                        pieces.push(Piece {
                            name: property.to_owned(),
                            value: value.to_owned(),
                            sets,
                            themed: Themed::new(),
                        });
                    }
                    if !pieces.is_empty() {
                        let rank = ranks[usize::from(important)];
                        let target = target.clone();
                        let is_marked = matches!(draft.head, Head::Marked(_)) && target.part.is_none();
                        let is_foreign = (origin == Origin::Kept || is_marked) && !names_it;
                        let when = when.clone();
                        draft.rules.push(DraftRule { target, when, rank, pieces, from: *name, origin, is_foreign });
                    }
                }
            }
        }
        // What stays sets custom properties where it stands, unless the sheet sets them at rest.
        let at_rest: BTreeSet<(Target, String)> = draft
            .rules
            .iter()
            .filter(|rule| rule.when.is_plain())
            .flat_map(|rule| rule.pieces.iter().map(|piece| (rule.target.clone(), piece.name.clone())))
            .collect();
        for rule in draft.rules.iter_mut().filter(|rule| rule.origin == Origin::Kept && !rule.when.is_plain()) {
            let is_said = |piece: &Piece| at_rest.contains(&(rule.target.clone(), piece.name.clone()));
            rule.pieces.retain(|piece| !piece.name.starts_with("--") || is_said(piece));
        }
        draft.rules.retain(|rule| !rule.pieces.is_empty());
        draft.lost.sort();
        draft.lost.dedup();
    }

    /// What a reading comes to in a sheet; one for each way in which it may hold.
    fn placed(
        &self,
        reading: &Reading,
        rule: RuleRef,
        members: &[(usize, &Member)],
        draft: &Draft,
    ) -> Result<Vec<(Target, When)>, &'static str> {
        let mut when = When::default();
        if !reading.element.is_empty() {
            let text = reading.element.concat();
            let list = parse_list(&text).ok_or("what it asks of the element is not understood")?;
            let is_host = |host: &HostDraft| {
                let mut document = Document::new();
                let node = document.append_element(Document::ROOT, host.sample.clone());
                matches(&list, &document, node)
            };
            let on: BTreeSet<usize> = (0..draft.hosts.len()).filter(|at| is_host(&draft.hosts[*at])).collect();
            if on.is_empty() {
                return Err("what it asks of the element is not understood");
            }
            if on.len() < draft.hosts.len() {
                when.hosts = on;
            }
        }
        let all_have = |class: &str| members.iter().all(|(_, m)| m.element.classes.iter().any(|own| **own == *class));
        for class in &reading.classes {
            if says_state(class) {
                let id = self.own_state(&format!(".{class}")).ok_or("its state has no name")?;
                when.states = when.states.union(&StateSet::of([id]));
            } else if let Some(option) = draft.option(&Chooser::Class(class.clone())) {
                when.options.insert(option);
            } else if !all_have(class) {
                when.nested.insert(class_selector(class));
            }
        }
        for other in &reading.others {
            let chooser = match other.strip_prefix('#') {
                Some(id) => Chooser::Id(id.to_owned()),
                None => Chooser::Attribute(other.clone()),
            };
            match draft.option(&chooser) {
                Some(option) => drop(when.options.insert(option)),
                None => drop(when.nested.insert(other.clone())),
            }
        }
        when.themes = reading.themes.clone();
        if let Some(outside) = &reading.outside
            && !is_in_head(&draft.head, outside)
        {
            when.nested.insert(format!(":is({outside})"));
        }
        if let Some(guard) = self.guard(rule)?
            && !is_in_head(&draft.head, &format!("{guard} *"))
        {
            when.nested.insert(format!(":is({guard} *)"));
        }
        let takes_text = members.iter().all(|(_, member)| takes_text(member));
        let asked = |text: &str, takes_text: bool| self.state(text, takes_text, (rule, draft.family));
        for state in &reading.states {
            // Of a link the attribute says what browsers do not take for a state.
            if state == "[disabled]" && is_on_link(members.iter().map(|(_, member)| *member)) {
                let id = self.own_state(state).ok_or("it asks for a state that has no name")?;
                when.states = when.states.union(&StateSet::of([id]));
                continue;
            }
            let id = asked(state, takes_text).ok_or("it asks for a state that has no name")?;
            when.states = when.states.union(&StateSet::of([id]));
        }
        for state in &reading.absent {
            let id = asked(state, takes_text).ok_or("it asks that a state does not hold which has no name")?;
            when.states = when.states.without(id);
        }
        if when.states.contradicts_itself() {
            return Ok(Vec::new());
        }
        // What holds for every control of the family tells none of them from another.
        when.nested.retain(|condition| !self.holds_for_all(condition, members));
        let part_name = |id: &PartId| draft.parts.iter().find(|part| part.id == *id).map(|part| part.name.clone());
        for (id, state) in &reading.part_states {
            if Some(id) == reading.part.as_ref() {
                when.own.insert(format!(":is({state})"));
                continue;
            }
            let name = part_name(id).ok_or("its part has no name")?;
            let known = asked(state, false).ok_or("a part is in a state that has no name")?;
            when.states = when.states.union(&StateSet::default().with_part(known, name));
        }
        when.own.extend(reading.part_others.iter().map(|other| match other.starts_with(':') {
            true => other.clone(),
            false => format!(":is({other})"),
        }));
        let part = match &reading.part {
            Some(id) => Some(match part_name(id) {
                Some(name) => name,
                // Nothing of it wins there.
                None => return Ok(Vec::new()),
            }),
            None => None,
        };
        Ok(vec![(Target { part, pseudo: reading.pseudo.clone() }, when)])
    }

    fn holds_for_all(&self, condition: &str, members: &[(usize, &Member)]) -> bool {
        // What a state may bring about holds for all today, and not tomorrow.
        const LASTING: [&str; 5] = [":is(", ":where(", ":not(", ":has(", ":root"];
        let comes_and_goes =
            condition.match_indices(':').any(|(at, _)| !LASTING.iter().any(|one| condition[at..].starts_with(one)));
        let Some(list) = parse_list(condition).filter(|_| !comes_and_goes) else { return false };
        members.iter().all(|(_, member)| matches(&list, &self.documents.get(member.page), member.found.host))
    }

    fn own_state(&self, selector: &str) -> Option<StateId> {
        let (name, _) = self.own.list.iter().find(|(_, known)| known == selector)?;
        self.own.states.find(name)
    }

    /// Whether all pages that have a rule are in quirks mode.
    fn has_quirks(&self, rule: RuleRef) -> bool {
        let lists = self.ground.old.lists.iter().enumerate().filter(|(_, list)| list.contains(&rule.sheet));
        lists.into_iter().all(|(list, _)| self.ground.site.has_quirks(list))
    }

    /// What keeps a rule of a stylesheet that not all pages have from what it would match on the others.
    fn guard(&self, rule: RuleRef) -> Result<Option<String>, &'static str> {
        let Some(facts) = self.ground.facts.get(&rule) else { return Ok(None) };
        let Some(strays) = &facts.strays else { return Ok(None) };
        let around = facts.around.iter().flatten();
        let guard = around.into_iter().find(|one| !strays.contains(*one)).cloned();
        guard.map(Some).ok_or("it would reach pages that do not have its stylesheet")
    }

    /// A state of an old selector, by its name in sheets.
    fn state(&self, text: &str, takes_text: bool, (rule, family): (RuleRef, usize)) -> Option<StateId> {
        match text {
            ":focus" if takes_text || self.own.plain_focus => Some(StateId::Focus),
            _ if standard(text).is_some_and(|id| self.narrow.contains(&(rule, family, id))) => self.own_state(text),
            _ => standard(text).or_else(|| self.own_state(text)),
        }
    }
}

/// The state that every system has for what an old selector asks for.
pub fn standard(text: &str) -> Option<StateId> {
    Some(match text {
        ":hover" => StateId::Hover,
        ":active" => StateId::Active,
        ":focus-within" => StateId::FocusWithin,
        ":focus-visible" => StateId::Focus,
        ":checked" | "[aria-checked=\"true\"]" | "[checked]" => StateId::Checked,
        "[aria-checked=\"mixed\"]" => StateId::Mixed,
        ":disabled" | "[disabled]" | "[aria-disabled=\"true\"]" => StateId::Disabled,
        ":placeholder-shown" => StateId::Empty,
        ":required" | "[required]" | "[aria-required=\"true\"]" => StateId::Required,
        "[readonly]" | "[aria-readonly=\"true\"]" => StateId::Readonly,
        ":user-invalid" | "[aria-invalid=\"true\"]" => StateId::Invalid,
        "[aria-busy=\"true\"]" => StateId::Busy,
        "[aria-pressed=\"true\"]" | "[aria-selected=\"true\"]" | "[aria-current]" | "[aria-current=\"page\"]" => {
            StateId::Selected
        }
        "[aria-expanded=\"true\"]" | "[open]" | ":open" => StateId::Open,
        _ => return None,
    })
}

/// Whether pages have the attribute `disabled` on what cannot be disabled, such as a link.
pub fn is_on_link<'m>(mut members: impl Iterator<Item = &'m Member>) -> bool {
    members.any(|member| {
        let bearer = member.bearer.as_ref().unwrap_or(&member.element);
        !is_disableable(bearer) && bearer.attribute("disabled").is_some()
    })
}

/// Whether text goes into a control: then a focus on it always shows.
pub fn takes_text(member: &Member) -> bool {
    let bearer = member.bearer.as_ref().unwrap_or(&member.element);
    match bearer.local() {
        "textarea" => true,
        "input" => !matches!(
            bearer.attribute("type").map(str::to_ascii_lowercase).as_deref(),
            Some("submit" | "reset" | "button" | "image" | "checkbox" | "radio" | "range" | "color" | "file")
        ),
        _ => false,
    }
}

/// What an element has, and what is around it.
struct Beside {
    local: String,
    own: BTreeSet<String>,
    around: BTreeSet<String>,
}

impl Beside {
    fn of(document: &Document, node: NodeId) -> Beside {
        let mut own = BTreeSet::new();
        if let Some(element) = document.element(node) {
            let classes = element.classes.iter().filter(|class| !says_state(class));
            own.extend(classes.map(|class| match document.quirks {
                true => format!(".{}", class.to_ascii_lowercase()),
                false => format!(".{class}"),
            }));
            if element.local() == "input" {
                own.extend(element.attribute("type").map(|kind| format!("[type=\"{kind}\"]")));
            }
        }
        let local = document.element(node).map_or_else(String::new, |element| element.local().to_owned());
        Beside { local, own, around: around(document, node) }
    }
}

/// The classes and ids around an element.
fn around(document: &Document, node: NodeId) -> BTreeSet<String> {
    let mut around = BTreeSet::new();
    for element in document.around(node).skip(1).filter_map(|above| document.element(above)) {
        around.extend(element.classes.iter().map(|class| class_selector(class)));
        around.extend(element.attribute("id").map(|id| format!("#{id}")));
    }
    around
}

/// Whether what chooses the control asks for a place already.
fn is_in_head(head: &Head, outside: &str) -> bool {
    let Head::Attached(selectors) = head else { return false };
    let place = outside.trim_end_matches('*').trim_end();
    selectors.iter().all(|selector| {
        selector.strip_prefix(place).is_some_and(|rest| rest.starts_with(' ') && !rest.trim().is_empty())
    })
}

fn hosts(members: &[(usize, &Member)]) -> Vec<HostDraft> {
    let mut by_name: BTreeMap<String, (usize, usize, usize, Element)> = BTreeMap::new();
    for (at, member) in members {
        let name = host_selector(&member.element);
        let parts = member.found.parts.len();
        let entry = by_name.entry(name).or_insert((0, *at, parts, member.element.clone()));
        entry.0 += 1;
        if parts > entry.2 {
            (entry.1, entry.2) = (*at, parts);
        }
    }
    let mut hosts: Vec<(usize, HostDraft)> = by_name
        .into_iter()
        .map(|(selector, (count, member, _, sample))| (count, HostDraft { selector, sample, member }))
        .collect();
    hosts.sort_by(|a, b| b.0.cmp(&a.0).then_with(|| a.1.selector.cmp(&b.1.selector)));
    hosts.into_iter().map(|(_, host)| host).collect()
}

/// A host as sheets name it.
fn host_selector(element: &Element) -> String {
    match (element.local(), element.attribute("type")) {
        ("input", Some(kind)) => format!("input[type=\"{}\"]", kind.to_ascii_lowercase()),
        ("input", None) => "input:not([type])".to_owned(),
        (local, _) => local.to_owned(),
    }
}
