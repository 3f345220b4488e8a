//! The situations in which pages are looked at: themes, sides of media queries, and states of their elements.

use crate::ground::{Ground, Requirement};
use std::borrow::Cow;
use std::collections::BTreeSet;
use stilk_engine::cascade::stylesheet::Condition;
use stilk_engine::cascade::surroundings::{GroupCondition, sides};
use stilk_engine::cascade::{Forced, Media, PseudoClass};
use stilk_engine::dom::{Document, NodeId, is_disableable};

/// What is done about the themes of a page.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Dress {
    /// It stays as it was written.
    AsWritten,
    /// The themes that it has are taken off.
    Bare,
    /// A theme is put on, by its place among those of the site.
    In(usize),
}

/// A situation of a whole page.
#[derive(Debug, Clone)]
pub struct Situation {
    /// What is done about themes.
    pub theme: Dress,
    /// The media features, by their place among [`medias`].
    pub media: usize,
    /// Whether text runs the other way.
    pub turned: bool,
}

/// The media features to look at, the ordinary screen first, each in words, and how many more rules ask for.
pub fn medias(ground: &Ground) -> (Vec<(Media, String)>, usize) {
    let mut stacks: Vec<Vec<GroupCondition>> = Vec::new();
    let mut known = BTreeSet::new();
    for sheet in &ground.old.all {
        for rule in &sheet.parsed.rules {
            let stack: Vec<GroupCondition> = rule
                .conditions
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
    let follows = ground.site.lists.iter().zip(&ground.rules).any(|(list, rules)| rules.follow_scheme(list));
    if follows || ground.site.pages.iter().any(|page| page.follows_scheme) {
        stacks.extend(GroupCondition::parse("media", "(prefers-color-scheme: dark)").map(|condition| vec![condition]));
    }
    let (found, unseen) = sides(&stacks);
    (found.into_iter().map(|side| (side.media.clone(), side.words())).collect(), unseen)
}

/// All situations of pages.
pub fn all(ground: &Ground, medias: usize) -> Vec<Situation> {
    let mut found = Vec::new();
    let mut dresses = vec![Dress::AsWritten];
    if !ground.themes.is_empty() {
        dresses.push(Dress::Bare);
    }
    dresses.extend((0..ground.themes.len()).map(Dress::In));
    for theme in dresses {
        found.extend((0..medias).map(|media| Situation { theme, media, turned: false }));
    }
    let asks_direction = ground.old.all.iter().any(|sheet| {
        let rules = sheet.parsed.rules.iter();
        rules.map(|rule| rule.selector_text()).any(|text| text.contains(":dir(") || text.contains("[dir"))
    });
    let is_turned = |page: usize| {
        let document = ground.site.document(page);
        let nodes = document.descendants(Document::ROOT);
        nodes
            .into_iter()
            .filter_map(|node| document.element(node))
            .any(|element| element.attribute("dir") == Some("rtl"))
    };
    if asks_direction || (0..ground.site.pages.len().min(200)).any(is_turned) {
        found.push(Situation { theme: Dress::AsWritten, media: 0, turned: true });
    }
    found
}

impl Situation {
    /// Whether a page has it: one without a theme is bare as it was written.
    pub fn is_of(&self, ground: &Ground, document: &Document) -> bool {
        self.theme != Dress::Bare || ground.themes.iter().any(|theme| theme.is_on(document))
    }
}

/// A page's document in a situation.
pub fn dressed(ground: &Ground, document: &Document, situation: &Situation) -> Document {
    let mut dressed = document.clone();
    match situation.theme {
        Dress::AsWritten => {}
        Dress::Bare => {
            let worn: Vec<_> = ground.themes.iter().filter(|theme| theme.is_on(document)).collect();
            worn.into_iter().for_each(|theme| theme.take_off(&mut dressed));
        }
        Dress::In(theme) => ground.themes[theme].put_on(&mut dressed),
    }
    if situation.turned {
        let root = dressed.child_elements(Document::ROOT).next();
        if let Some(root) = root.and_then(|root| dressed.element_mut(root)) {
            root.set("dir", "rtl");
        }
    }
    dressed
}

/// What a page's rules ask its elements to be in: in every theme on an ordinary screen, there also two of these at once for each
/// control, and on every other side of a media query as the page was written.
pub fn requirements<'g>(
    ground: &'g Ground,
    page: usize,
    situation: &Situation,
) -> impl Iterator<Item = &'g Requirement> {
    let is_ordinary = situation.media == 0 && !situation.turned;
    let pairs = if is_ordinary { ground.pairs[page].as_slice() } else { &[] };
    let is_looked_at = is_ordinary || situation.theme == Dress::AsWritten;
    let single = if is_looked_at { ground.requirements[page].as_slice() } else { &[] };
    single.iter().chain(pairs)
}

/// Brings states about: those that attributes and classes say in a copy of the document, the others by force.
pub fn bring_about<'d>(document: &'d Document, states: &[(NodeId, String)]) -> (Cow<'d, Document>, Forced) {
    let (mut changed, mut forced) = (Cow::Borrowed(document), Forced::default());
    for (node, state) in states {
        bring(&mut changed, &mut forced, *node, state);
    }
    (changed, forced)
}

fn bring(document: &mut Cow<Document>, forced: &mut Forced, node: NodeId, state: &str) {
    let around: Vec<NodeId> = document.around(node).filter(|above| document.element(*above).is_some()).collect();
    let mut everywhere = |class: &PseudoClass| around.iter().for_each(|above| forced.add(*above, class.clone()));
    match state {
        ":hover" => everywhere(&PseudoClass::Hover),
        ":active" => {
            everywhere(&PseudoClass::Active);
            everywhere(&PseudoClass::Hover);
        }
        ":focus" | ":focus-visible" => {
            everywhere(&PseudoClass::FocusWithin);
            forced.add(node, PseudoClass::Focus);
            forced.add(node, PseudoClass::FocusVisible);
        }
        ":focus-within" => everywhere(&PseudoClass::FocusWithin),
        ":disabled" => {
            if document.element(node).is_some_and(is_disableable) {
                set(document, node, "disabled", "");
            }
        }
        ":checked" => match document.element(node).map(|element| element.local().to_owned()).as_deref() {
            Some("input") => set(document, node, "checked", ""),
            Some("option") => set(document, node, "selected", ""),
            _ => {}
        },
        ":required" => set(document, node, "required", ""),
        ":read-only" => set(document, node, "readonly", ""),
        ":placeholder-shown" => {
            set(document, node, "value", "");
            set(document, node, "placeholder", " ");
        }
        ":open" => set(document, node, "open", ""),
        state if state.starts_with("-[") => {
            if let Some(element) = document.to_mut().element_mut(node) {
                element.remove(state[2..].trim_end_matches(']'));
            }
        }
        state if state.starts_with("-.") => {
            let own = document.element(node).and_then(|element| element.attribute("class")).unwrap_or_default();
            let left: Vec<&str> = own.split_ascii_whitespace().filter(|class| *class != &state[2..]).collect();
            let left = left.join(" ");
            set(document, node, "class", &left);
        }
        state if state.starts_with('[') => {
            let inner = state.trim_matches(['[', ']']);
            let (name, value) = inner.split_once('=').unwrap_or((inner, ""));
            set(document, node, name.trim_end_matches(['~', '|', '^', '$', '*']), value.trim_matches(['"', '\'']));
        }
        state if state.starts_with('.') => {
            let own = document.element(node).and_then(|element| element.attribute("class")).unwrap_or_default();
            let classes = format!("{own} {}", &state[1..]);
            set(document, node, "class", classes.trim());
        }
        state => {
            if let Some(class) = state.strip_prefix(':').and_then(PseudoClass::find) {
                forced.add(node, class);
            }
        }
    }
}

fn set(document: &mut Cow<Document>, node: NodeId, name: &str, value: &str) {
    if let Some(element) = document.to_mut().element_mut(node) {
        element.set(name, value);
    }
}

/// The elements that a requirement may change, each after those around it.
pub fn region(document: &Document, requirement: &Requirement) -> (Vec<NodeId>, Vec<NodeId>) {
    let mut around: Vec<NodeId> = document.around(requirement.top).skip(1).collect();
    around.reverse();
    (around, document.descendants(requirement.top))
}
