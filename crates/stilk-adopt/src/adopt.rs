//! All of it: from pages to a project, with its proof.

use crate::account::{Adopted, Became, KeptFile, Left};
use crate::documents::Documents;
use crate::draft::{Draft, Narrow, OwnStates, Workshop};
use crate::ground::Ground;
use crate::naming;
use crate::old::RuleRef;
use crate::palette::Palette;
use crate::proof::{After, Difference, Proof, prove};
use crate::properties::{Properties, TokenDraft};
use crate::situation;
use crate::themes::{self, ModifierDraft};
use crate::winners::Winners;
use crate::workshop::{is_on_link, standard, takes_text};
use crate::write::kept::{self, AllCuts};
use crate::write::sheet::{self, Line, Written};
use crate::write::{manifest, report, template, tokens};
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use stilk_engine::cascade::Stylesheet;
use stilk_engine::cascade::matching::matches;
use stilk_engine::cascade::selector::parse_list;
use stilk_engine::page::{Page, PageSheet, SheetSource, in_media};
use stilk_language::manifest::{AsWritten, OwnState};
use stilk_language::project;
use stilk_language::stylesheet;
use stilk_language::system::{StateId, States};
use stilk_survey::site::Site;
use stilk_survey::survey::Only;
use stilk_text::source::{FileError, FileId, FileText, Files, Name, Span};

/// What is asked.
pub struct Request {
    /// What the system is called.
    pub name: String,
    /// Controls that are adopted; all where none is named.
    pub only: Vec<Only>,
    /// Families that were adopted before, by their selectors and in their order: they are adopted again, and keep their names.
    pub earlier: Vec<String>,
    /// Whether these alone are adopted.
    pub only_earlier: bool,
    /// Whether rules of the system stand in layers.
    pub layers: bool,
    /// Whether a family is adopted whose look would change.
    pub force: bool,
    /// Whether colours that are almost one become one; then they look different, and each is told.
    pub merge: bool,
    /// The ids of all checks, which waivers may name.
    pub checks: Vec<&'static str>,
    /// On so many threads; what comes out does not depend on it.
    pub threads: usize,
    /// An address in a stylesheet, as it has to be written in the system's; given the path of the old one.
    pub rebase: Rebase,
}

/// Gives an address for another place: of a stylesheet or page by its path, and as it is written there.
pub type Rebase = Box<dyn Fn(&str, &str) -> Option<String>>;

/// A project that is nowhere yet.
struct Memory<'m>(&'m BTreeMap<String, String>);

impl Files for Memory<'_> {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.as_bytes())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let before = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&before)).map(str::to_owned).collect())
    }
}

/// One attempt: drafts, files and what pages have then.
struct Attempt {
    drafts: Vec<Draft>,
    files: BTreeMap<String, String>,
    after: After,
    kept: Vec<String>,
    tokens: usize,
    literals: (usize, usize),
    merged: Vec<(String, String, f64)>,
    modifiers: Vec<ModifierDraft>,
}

/// What is told apart more carefully than elsewhere, by family.
#[derive(Default)]
struct Care {
    /// What has the class of a control and is none.
    strict: BTreeSet<usize>,
    /// What is one state elsewhere.
    exact: BTreeSet<usize>,
}

/// Why an attempt failed: families that cannot be adopted, each with the reason.
type Refused = Vec<(usize, String)>;

/// Adopts pages.
///
/// # Errors
/// Why nothing can be made of them.
pub fn adopt(site: &Site, request: &Request) -> Result<Adopted, String> {
    let ground = Ground::of(site)?;
    let (medias, unseen) = situation::medias(&ground);
    let winners = Winners::of(&ground, &medias, request.threads);
    let documents = Documents::of(site);
    let mut wanted = wanted(&ground, &documents, request);
    let (mut left, mut care): (Vec<Left>, Care) = (Vec::new(), Care::default());
    let leave = |family: usize, why: String, differences: Vec<Difference>, left: &mut Vec<Left>| {
        let of = &ground.families[family];
        left.push(Left { family: of.name.clone(), controls: of.count, why, differences });
    };
    // What a stylesheet that is not there says may change every look.
    let is_whole = |family: &usize| ground.members_of(*family).all(|member| site.pages[member.page].is_whole);
    for family in wanted.clone().into_iter().filter(|family| !is_whole(family)) {
        wanted.remove(&family);
        leave(family, "a stylesheet that its pages link cannot be had".to_owned(), Vec::new(), &mut left);
    }
    loop {
        let attempt = match attempt((&ground, &documents), &winners, (&wanted, &care), request, false) {
            Ok(attempt) => attempt,
            Err(refused) => {
                // What is refused without a family would be refused again.
                if refused.is_empty() {
                    return Err("the project that was made cannot be read again".to_owned());
                }
                for (family, why) in refused {
                    wanted.remove(&family);
                    leave(family, why, Vec::new(), &mut left);
                }
                continue;
            }
        };
        let proof = prove(&ground, &attempt.after, &medias, request.threads);
        // Whose it is: of a control that is adopted, or of one whose sheet reaches further than it.
        let is_wanted = |family: &usize| wanted.contains(family);
        let blamed =
            |difference: &Difference| difference.family.filter(is_wanted).or(difference.now_family.filter(is_wanted));
        let differing: BTreeSet<usize> = proof.differences.iter().filter_map(blamed).collect();
        if proof.differing == 0 || request.force || request.merge && !attempt.merged.is_empty() {
            // The proof compares addresses as they were written; the files have them for their new place.
            let files = self::attempt((&ground, &documents), &winners, (&wanted, &care), request, true)
                .map(|attempt| attempt.files);
            let attempt = Attempt { files: files.unwrap_or_default(), ..attempt };
            return Ok(finish(&ground, attempt, proof, left, request, unseen));
        }
        // What has the class of a control and is none is told from it by its element, if that will do.
        let beside: BTreeSet<usize> = proof
            .differences
            .iter()
            .filter(|difference| difference.family.filter(is_wanted).is_none())
            .filter_map(|difference| difference.now_family)
            .filter(|family| !care.strict.contains(family))
            .collect();
        if !beside.is_empty() {
            care.strict.extend(beside);
            continue;
        }
        let of_family = |family: usize| -> Vec<Difference> {
            proof.differences.iter().filter(|one| blamed(one) == Some(family)).cloned().collect()
        };
        let differing: Vec<(usize, Vec<Difference>)> = match differing.is_empty() {
            false => differing.into_iter().map(|family| (family, of_family(family))).collect(),
            // Nobody is to blame: then nothing is changed.
            true => wanted.iter().map(|family| (*family, proof.differences.iter().cloned().collect())).collect(),
        };
        // Where rules tell apart what is one state elsewhere, their states are told apart.
        let told: BTreeSet<usize> = differing.iter().map(|(family, _)| *family).collect();
        let told: BTreeSet<usize> = narrow(&ground, &told).into_iter().map(|(_, family, _)| family).collect();
        let before = care.exact.len();
        care.exact.extend(told);
        if care.exact.len() > before {
            continue;
        }
        for (family, own) in differing {
            wanted.remove(&family);
            leave(family, "it would look different".to_owned(), own, &mut left);
        }
    }
}

/// The families that are to be adopted: those that rules give a look.
fn wanted(ground: &Ground, documents: &Documents, request: &Request) -> BTreeSet<usize> {
    let is_asked = |family: usize| {
        if request.earlier.contains(&ground.families[family].name) {
            return true;
        }
        let only = &request.only;
        !request.only_earlier
            && (only.is_empty()
                || only.iter().any(|one| match one {
                    Only::Kind(kind) => ground.families[family].kind == *kind,
                    Only::Selector(text) => {
                        let Some(list) = parse_list(text) else { return false };
                        ground.members_of(family).any(|member| {
                            let document = documents.get(member.page);
                            matches(&list, &document, member.found.host)
                                || matches(&list, &document, member.found.bearer)
                        })
                    }
                }))
    };
    let styled = |family: &usize| ground.families[*family].is_styled;
    (0..ground.families.len()).filter(styled).filter(|family| is_asked(*family)).collect()
}

fn attempt(
    (ground, documents): (&Ground, &Documents),
    winners: &Winners,
    (wanted, care): (&BTreeSet<usize>, &Care),
    request: &Request,
    rebased: bool,
) -> Result<Attempt, Refused> {
    let narrow = narrow(ground, &care.exact);
    let own = own_states(ground, winners, wanted, &narrow);
    let (mut modifiers, modifier_of) = themes::modifiers(ground);
    // Without a control there is no system that could say them.
    let properties = match wanted.is_empty() {
        true => Properties::default(),
        false => crate::properties::read(ground, &mut modifiers, wanted),
    };
    let (strict, narrow) = (&care.strict, &narrow);
    let shop =
        Workshop { ground, documents, winners, adopted: wanted, own: &own, modifier_of: &modifier_of, strict, narrow };
    let (mut drafts, mut refused, mut names) = (Vec::new(), Refused::new(), BTreeSet::new());
    let place = |family: usize| {
        let earlier = request.earlier.iter().position(|name| *name == ground.families[family].name);
        (earlier.unwrap_or(usize::MAX), std::cmp::Reverse(ground.families[family].count))
    };
    let mut in_order: Vec<usize> = wanted.iter().copied().collect();
    in_order.sort_by_key(|family| place(*family));
    for family in &in_order {
        match shop.draft(*family, &mut names) {
            Ok(draft) => drafts.push(draft),
            Err(why) => refused.push((*family, why)),
        }
    }
    if !refused.is_empty() {
        return Err(refused);
    }
    // The control that most pages have gets the plain names.
    drafts.sort_by_key(|draft| place(draft.family));
    let mut palette = Palette::beside(&properties, request.merge);
    let mut files = BTreeMap::new();
    let prefix = naming::identifier(&request.name);
    for draft in &drafts {
        let mut written = Vec::new();
        for rule in &draft.rules {
            let mut lines = Vec::new();
            for piece in &rule.pieces {
                let value = palette.value(draft, &own.states, rule, piece, &properties, &modifiers);
                match value {
                    Ok(value) if rebased && value.contains("url(") => {
                        let path = &ground.old.all[rule.from.sheet].path;
                        let value = kept::relocated(&value, &|address| (request.rebase)(path, address));
                        lines.push(Line { name: piece.name.clone(), value });
                    }
                    Ok(value) => lines.push(Line { name: piece.name.clone(), value }),
                    Err(property) => {
                        refused.push((
                            draft.family,
                            format!("it reads `{property}`, which is neither one of the whole page nor its own"),
                        ));
                        break;
                    }
                }
            }
            written.push(Written { rule, lines });
        }
        files.insert(format!("controls/{}.html", draft.name), template::write(ground, documents, draft));
        files.insert(format!("controls/{}.stilk", draft.name), sheet::write(ground, draft, &own.states, &written));
    }
    if !refused.is_empty() {
        return Err(refused);
    }
    let surface = palette.surface(ground, &properties, &modifiers);
    let mut all: Vec<TokenDraft> = properties.tokens.clone();
    all.extend(palette.tokens.iter().cloned());
    // Contexts in which nothing is another value are none.
    let said: BTreeSet<usize> = all.iter().flat_map(|token| token.contexts.keys().map(|(m, _)| *m)).collect();
    let (all, modifiers) = without_idle(all, modifiers, &said);
    if let Some(derived) = tokens::derived(&all) {
        files.insert("controls/shared.stilk".to_owned(), derived);
    }
    files.extend(tokens::write(&request.name, &all, &modifiers));
    let asked = manifest::Asked {
        name: &request.name,
        prefix: &prefix,
        modifiers: &modifiers,
        own: &own,
        surface: surface.as_deref(),
        keeps_properties: !properties.tokens.is_empty(),
        layers: request.layers,
    };
    files.insert("stilk.toml".to_owned(), manifest::write(&asked));
    let (system, origins) = match drafts.is_empty() {
        true => (None, Vec::new()),
        false => {
            let (text, origins) = built(&files, &drafts, &request.checks)?;
            (Some(Arc::new(Stylesheet::parse(&text))), origins)
        }
    };
    let cuts = all_cuts(ground, &shop, wanted, &properties);
    let first = match request.layers {
        true => format!("@layer {}, {prefix};\n", kept::LAYER),
        false => String::new(),
    };
    let kept: Vec<String> =
        ground.old.all.iter().enumerate().map(|(at, sheet)| kept::write(sheet, at, &cuts, &first)).collect();
    let parsed = kept.iter().zip(&ground.old.all).map(|(text, sheet)| {
        let mut importer = |address: &str| {
            let known = sheet.parsed.imported.iter().find(|(known, _)| known == address);
            known.map(|(_, text)| text.clone())
        };
        Arc::new(Stylesheet::parse_importing(&in_media(text, &sheet.media).0, &mut importer))
    });
    let after = After { kept: parsed.collect(), system, origins };
    Ok(Attempt {
        drafts,
        files,
        after,
        kept,
        tokens: all.len(),
        literals: palette.literals,
        merged: palette.merged,
        modifiers,
    })
}

/// Tokens and modifiers without those that change nothing.
fn without_idle(
    mut tokens: Vec<TokenDraft>,
    modifiers: Vec<ModifierDraft>,
    said: &BTreeSet<usize>,
) -> (Vec<TokenDraft>, Vec<ModifierDraft>) {
    let places: BTreeMap<usize, usize> = said.iter().enumerate().map(|(new, old)| (*old, new)).collect();
    for token in &mut tokens {
        let contexts = std::mem::take(&mut token.contexts);
        token.contexts = contexts.into_iter().map(|((m, c), text)| ((places[&m], c), text)).collect();
    }
    let kept = modifiers.into_iter().enumerate().filter(|(at, _)| said.contains(at)).map(|(_, modifier)| modifier);
    (tokens, kept.collect())
}

/// A stylesheet's text, and where declarations stand in it with the family whose sheet each comes from.
type Built = (String, Vec<(u32, usize)>);

/// The stylesheet of the project.
fn built(files: &BTreeMap<String, String>, drafts: &[Draft], checks: &[&str]) -> Result<Built, Refused> {
    let project = project::load(&Memory(files), checks);
    let of_path = |path: &str| {
        let name = path.strip_prefix("controls/")?.rsplit_once('.')?.0;
        drafts.iter().find(|draft| draft.name == name)
    };
    if let Some(system) = &project.system {
        let written = stylesheet::write(system, &project.sources, stylesheet::Purpose::Page);
        let origins = written
            .origins()
            .filter_map(|(offset, span)| Some((offset, of_path(&project.sources.file(span.file).path)?.family)));
        return Ok((written.text.clone(), origins.collect()));
    }
    let mut refused: BTreeMap<usize, String> = BTreeMap::new();
    for diagnostic in project.diagnostics.iter().filter(|d| d.level == stilk_text::diagnostic::Level::Error) {
        let path = diagnostic.span.map(|span| project.sources.file(span.file).path.clone()).unwrap_or_default();
        if let Some(draft) = of_path(&path) {
            let text = diagnostic.span.map(|span| project.sources.text(span).to_owned()).unwrap_or_default();
            refused.entry(draft.family).or_insert_with(|| match text.is_empty() {
                true => diagnostic.message.clone(),
                false => format!("{} (`{}`)", diagnostic.message, text.lines().next().unwrap_or_default()),
            });
        }
    }
    // What stands in no control's file is what all of them brought about.
    if refused.is_empty() {
        let first = project.diagnostics.first().map_or_else(String::new, |d| d.message.clone());
        refused.extend(drafts.iter().map(|draft| (draft.family, first.clone())));
    }
    Err(refused.into_iter().collect())
}

fn all_cuts(ground: &Ground, shop: &Workshop, wanted: &BTreeSet<usize>, properties: &Properties) -> AllCuts {
    let is_read = |rule: RuleRef| {
        // What some family could not read has to stay.
        wanted.iter().all(|family| {
            ground.readings.get(&(rule, *family)).is_none_or(|readings| readings.iter().all(Result::is_ok))
        })
    };
    let is_of_file = |rule: RuleRef| ground.old.all[rule.sheet].parsed.rules[rule.rule as usize].file == 0;
    let is_taken =
        |rule: RuleRef| shop.is_taken(rule) && is_of_file(rule) && is_read(rule) && ground.old.groups(rule).is_ok();
    kept::cuts(&ground.old, &is_taken, &properties.taken)
}

/// Declarations that several selectors share: their sheet, and where they stand in memory.
type Block = (usize, usize);

/// The rules of some families that ask for a part of what they ask for elsewhere as the same state.
fn narrow(ground: &Ground, families: &BTreeSet<usize>) -> Narrow {
    let mut asked: BTreeMap<(usize, StateId), BTreeMap<Block, BTreeSet<&str>>> = BTreeMap::new();
    let mut rules: Vec<(RuleRef, usize, StateId, Block)> = Vec::new();
    for ((rule, family), readings) in ground.readings.iter().filter(|((_, family), _)| families.contains(family)) {
        // Selectors of one list share their declarations.
        let declarations = &ground.old.all[rule.sheet].parsed.rules[rule.rule as usize].declarations.list;
        let block = (rule.sheet, Arc::as_ptr(declarations) as *const () as usize);
        for reading in readings.iter().flatten() {
            let of_parts = reading.part_states.iter().map(|(_, state)| state);
            for text in reading.states.iter().chain(&reading.absent).chain(of_parts) {
                if let Some(id) = standard(text) {
                    asked.entry((*family, id)).or_default().entry(block).or_default().insert(text);
                    rules.push((*rule, *family, id, block));
                }
            }
        }
    }
    let is_narrow = |(_, family, id, block): &(RuleRef, usize, StateId, Block)| {
        let blocks = &asked[&(*family, *id)];
        blocks.values().any(|other| !other.is_subset(&blocks[block]))
    };
    rules.into_iter().filter(is_narrow).map(|(rule, family, id, _)| (rule, family, id)).collect()
}

/// The states of the system's own: classes that say a state, of controls that are adopted.
fn own_states(ground: &Ground, winners: &Winners, wanted: &BTreeSet<usize>, narrow: &Narrow) -> OwnStates {
    let (mut selectors, mut plain, mut visible) = (BTreeSet::new(), false, false);
    for ((rule, family), readings) in &ground.readings {
        if !wanted.contains(family) || !winners.wins(*rule, *family) {
            continue;
        }
        let takes_text = ground.members_of(*family).all(takes_text);
        let on_link = is_on_link(ground.members_of(*family));
        for reading in readings.iter().flatten() {
            let classes = reading.classes.iter().filter(|class| stilk_survey::state_class::says_state(class));
            selectors.extend(classes.map(|class| format!(".{class}")));
            let of_others = reading.part_states.iter().filter(|(id, _)| Some(id) != reading.part.as_ref());
            for state in reading.states.iter().chain(&reading.absent).chain(of_others.map(|(_, state)| state)) {
                plain |= state == ":focus" && !takes_text;
                visible |= state == ":focus-visible";
                let of_link = state == "[disabled]" && on_link;
                let is_narrow = standard(state).is_some_and(|id| narrow.contains(&(*rule, *family, id)));
                if (standard(state).is_none() || of_link || is_narrow) && state != ":focus" {
                    selectors.insert(state.clone());
                }
            }
        }
    }
    // Where both are asked for, each has a name of its own.
    let plain_focus = plain && !visible;
    if plain && visible {
        selectors.insert(":focus".to_owned());
    }
    let known = States::new(&[]);
    let mut names: BTreeSet<String> = known.names().map(str::to_owned).collect();
    let list: Vec<(String, String)> = selectors
        .into_iter()
        .map(|selector| {
            let wanted = match selector.strip_prefix('.') {
                Some(class) => naming::state(class, wanted.iter().map(|family| ground.families[*family].name.as_str())),
                None if selector == ":focus" => "focused".to_owned(),
                None => naming::identifier(&selector),
            };
            let wanted = if names.contains(&wanted) { format!("as-{wanted}") } else { wanted };
            (naming::unique(&wanted, &mut names), selector)
        })
        .collect();
    let place = Span::new(ground.site.pages.first().map_or_else(nowhere, |page| page.file), 0, 0);
    let named = |value: &str| Name { value: value.to_owned(), span: place };
    let own: Vec<OwnState> =
        list.iter().map(|(name, selector)| OwnState { name: named(name), selector: named(selector) }).collect();
    let as_written = AsWritten { reset: true, motion: true, hover: true, focus: plain_focus, blocked: true };
    OwnStates { list, states: States::new(&own).as_written(as_written), plain_focus }
}

/// A file of no page.
fn nowhere() -> FileId {
    stilk_text::source::Sources::default().add("", "")
}

fn finish(
    ground: &Ground,
    attempt: Attempt,
    proof: Proof,
    left: Vec<Left>,
    request: &Request,
    unseen: usize,
) -> Adopted {
    let rule_text = |rule: RuleRef| ground.old.all[rule.sheet].parsed.rules[rule.rule as usize].selector_text();
    let became = attempt
        .drafts
        .iter()
        .map(|draft| {
            let of = &ground.families[draft.family];
            let options = draft.options.iter().map(|option| (option.name.clone(), option.chooser.text()));
            let parts = draft.parts.iter().map(|part| (format!("part {}", part.name), part.mark.text()));
            let count = |is_it: &dyn Fn(&crate::draft::DraftRule) -> bool| {
                draft.rules.iter().filter(|rule| is_it(rule)).map(|rule| rule.pieces.len()).sum()
            };
            let mut unreadable: Vec<(String, &'static str)> =
                draft.unreadable.iter().map(|(rule, why)| (rule_text(*rule), *why)).collect();
            unreadable.dedup();
            Became {
                family: of.name.clone(),
                control: draft.name.clone(),
                controls: of.count,
                declarations: count(&|_| true),
                meetings: count(&|rule| rule.origin == crate::draft::Origin::Meeting),
                names: options.chain(parts).collect(),
                lost: draft.lost.iter().map(|(rule, text)| (rule_text(*rule), text.clone())).collect(),
                unreadable,
            }
        })
        .collect();
    let names = kept::names(&ground.old);
    let kept = attempt.kept.into_iter().zip(&ground.old.all).zip(names).map(|((text, sheet), path)| KeptFile {
        old: sheet.path.clone(),
        is_inline: sheet.is_inline,
        path,
        text,
    });
    let mut adopted = Adopted {
        files: attempt.files,
        kept: kept.collect(),
        pages: (0..ground.site.pages.len())
            .map(|page| (ground.site.path(page).to_owned(), links(ground, page)))
            .collect(),
        stylesheet: format!("dist/{}.css", naming::identifier(&request.name)),
        became,
        left,
        tokens: attempt.tokens,
        literals: attempt.literals,
        merged: attempt.merged,
        modifiers: attempt.modifiers,
        proof,
        unseen,
    };
    let text = report::write(&adopted, ground);
    adopted.files.insert("ADOPTED.md".to_owned(), text);
    adopted
}

/// For each stylesheet of a page, in order, which of the old ones it is; nothing for one that could not be had.
fn links(ground: &Ground, page: usize) -> Vec<Option<usize>> {
    let site = ground.site;
    let list = &ground.old.lists[site.pages[page].list];
    let text = &site.sources.file(site.pages[page].file).text;
    let parsed = Page::parse_in(site.pages[page].file, text);
    let mut left = list.iter();
    let mut next = left.next();
    let is_it = |sheet: &PageSheet, old: usize| match &sheet.source {
        SheetSource::Inline(_) => ground.old.all[old].is_inline,
        SheetSource::Linked(address) => {
            let name =
                |path: &str| path.split(['?', '#']).next().and_then(|path| path.rsplit('/').next()).map(str::to_owned);
            !ground.old.all[old].is_inline && name(address) == name(&ground.old.all[old].path)
        }
    };
    let found = parsed.sheets.iter().map(|sheet| {
        let old = *next.filter(|old| is_it(sheet, **old))?;
        next = left.next();
        Some(old)
    });
    found.collect()
}
