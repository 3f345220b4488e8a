//! Stylesheets prepared for the cascade (CSS Cascade 5, section 6): rules indexed by what they ask for, and their
//! declarations in blocks that are ranked once, so that sorting what matches an element is sorting numbers.

use super::attributed::{Attributed, AttributedByText, is_of_attributes};
use super::container::ContainerQuery;
use super::forms;
pub use super::layering::{DeclarationId, HINTS, INLINE, Layering, Origin};
use super::layers::{LayerId, Layers};
use super::longhand_set::{FlowSets, LonghandSet};
use super::matching::{ElementRef, MatchingCaches, PreparedSelector, attribute_asked, classes_asked};
use super::media::Media;
use super::nature::{Nature, is_of_drawings};
pub use super::prepared::Prepared;
use super::prepared::PreparedList;
use super::pseudo::PseudoElement;
use super::scope::{self, Scope};
use super::stylesheet::{Condition, Declaration, Registered, Stylesheet};
use crate::css::compute::{absolute, compute, initial_declared};
use crate::css::context::{Context, Unknown};
use crate::css::parse::Declared;
use crate::css::property::{Flow, Longhand, PropertyName};
use crate::css::substitute::{CustomName, Template, has_substitution};
use crate::css::syntax::Syntax;
use crate::css::value::Value;
use crate::dom::{Element, Schemes};
use html5ever::{LocalName, ns};
use rustc_hash::FxHashMap;
use selectors::parser::Component;
use std::cell::{OnceCell, RefCell};
use std::collections::HashSet;
use std::hash::{Hash, Hasher};
use std::rc::Rc;
use std::sync::Arc;

/// Declarations of one rule that share their place in the cascade.
#[derive(Debug)]
pub struct Block {
    list: Arc<PreparedList>,
    /// The index of its sheet in the engine, or [`INLINE`] or [`HINTS`].
    pub sheet: u16,
    /// The index of its rule there.
    pub rule: u32,
    /// Where they come from.
    pub origin: Origin,
    /// Their layer.
    pub layering: Layering,
    /// Set when a condition around them could not be decided.
    pub unknown: Option<&'static str>,
    /// Whether it is only for elements with their native look, or only for those without.
    pub native: Option<bool>,
    /// Container queries that must all hold, asked of what is around the element.
    pub containers: Vec<Arc<ContainerQuery>>,
    /// The packed specificity of their selector.
    specificity: u32,
}

impl Block {
    pub(super) fn new(
        list: Arc<PreparedList>,
        (sheet, rule): (u16, u32),
        origin: Origin,
        layering: Layering,
        unknown: Option<&'static str>,
    ) -> Block {
        Block { list, sheet, rule, origin, layering, unknown, native: None, containers: Vec::new(), specificity: 0 }
    }

    /// The declarations, in order.
    pub fn declarations(&self) -> &[Prepared] {
        &self.list.declarations
    }

    /// What they set.
    pub fn sets(&self) -> &FlowSets {
        &self.list.sets
    }

    /// The name of one of its declarations.
    pub fn id(&self, declaration: &Prepared) -> DeclarationId {
        DeclarationId { sheet: self.sheet, rule: self.rule, declaration: declaration.number }
    }

    /// Whether it may set a custom property.
    pub fn may_set(&self, name: &CustomName) -> bool {
        self.list.customs & name.bit() != 0
    }
}

/// The blocks that apply to an element, strongest first.
#[derive(Debug, Clone, Default)]
pub struct Matched {
    blocks: Vec<u32>,
    attributed: Option<Rc<Attributed>>,
    /// Attributes of the element that some `attr()` may ask for.
    attributes: Vec<(Box<str>, Rc<str>)>,
    /// What its box is by nature.
    pub nature: Nature,
    /// Whether something in its document may float.
    pub has_floats: bool,
    /// The colour schemes that the page is made for; told to its root.
    pub schemes: Schemes,
    /// Why no value of it is known, where that is so: it is of mathematics, or in a host of another tree.
    pub beyond: Option<&'static str>,
    /// Whether it is an element in which no browser paints a `::before` or `::after`.
    pub is_closed: bool,
    /// What the blocks set in text from left to right: most longhands are set by none.
    pub sets: LonghandSet,
    /// A Bloom filter of the custom properties that they set.
    pub customs: u64,
    /// By longhand, the first block that sets it in text from left to right, or one before that, and how many of its
    /// declarations there are up to the last that does, or `u8::MAX`; looked up in every theme.
    first: OnceCell<Box<[(u8, u8); Longhand::ALL.len()]>>,
    /// The custom properties that they set, by the hash of their name, in order.
    names: OnceCell<Box<[u64]>>,
}

impl Matched {
    /// Feeds what applies to a hasher: elements of one name for which that is the same, and around which it is, look the same.
    pub fn feed(&self, hasher: &mut impl Hasher) {
        self.blocks.hash(hasher);
        // What attributes say is the same where it is one.
        self.attributed.as_ref().map(Rc::as_ptr).hash(hasher);
        self.attributes.hash(hasher);
    }

    /// Whether the same applies to two elements.
    pub fn is_same(&self, other: &Matched) -> bool {
        self.says_the_same(other)
            && self.blocks == other.blocks
            && self.attributes == other.attributes
            && self.nature == other.nature
            && self.is_closed == other.is_closed
            && self.beyond == other.beyond
            && self.has_floats == other.has_floats
    }

    /// Whether attributes say the same of both.
    fn says_the_same(&self, other: &Matched) -> bool {
        match (&self.attributed, &other.attributed) {
            (None, None) => true,
            (Some(one), Some(other)) => Rc::ptr_eq(one, other),
            _ => false,
        }
    }

    /// What the element's attributes declare.
    pub(super) fn attributed(&self) -> Option<&Attributed> {
        self.attributed.as_deref()
    }

    /// Whether nothing applies.
    pub fn is_empty(&self) -> bool {
        self.blocks.is_empty()
    }

    /// An attribute of the element, if an `attr()` may ask for it.
    pub fn attribute(&self, name: &str) -> Option<Rc<str>> {
        self.attributes.iter().find(|(known, _)| **known == *name).map(|(_, value)| Rc::clone(value))
    }
}

/// A rule, ready to match.
#[derive(Debug)]
struct PreparedRule {
    selector: PreparedSelector,
    subject: Subject,
    /// Whether it is of a browser's sheet for HTML, which has no say in drawings and mathematics.
    of_html: bool,
    /// Classes without which it does not match.
    classes: Vec<LocalName>,
    /// The scopes that it is in, the outermost first.
    scopes: Arc<[Arc<Scope>]>,
    /// Ranks of its blocks.
    blocks: [Option<u32>; 2],
    /// The same in documents in quirks mode, where these take more.
    in_quirks_mode: Option<[Option<u32>; 2]>,
}

impl PreparedRule {
    fn blocks(&self, quirks: bool) -> impl Iterator<Item = &u32> {
        let blocks = if quirks { self.in_quirks_mode.as_ref() } else { None };
        blocks.unwrap_or(&self.blocks).iter().flatten()
    }
}

/// What of an element a rule styles.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Subject {
    /// The element itself.
    Element,
    /// The pseudo-element with this index.
    Pseudo(usize),
    /// A pseudo-element whose style nobody asks for.
    Nothing,
}

/// Values by property and text.
type DeclaredByText = FxHashMap<(PropertyName, Rc<str>), Rc<Option<Declared>>>;

/// What an element's candidates depend on: its name, its classes, its values of attributes that rules are filed under, and
/// whether its document is in quirks mode.
type Asked = (LocalName, Vec<LocalName>, Vec<(LocalName, Box<str>)>, bool);

/// A computed value, which many elements may have.
pub type Shared = Rc<Result<Value, Unknown>>;

/// All stylesheets of an engine, prepared for one set of media features.
#[derive(Debug)]
pub struct Sheets {
    rules: Vec<PreparedRule>,
    /// By rank, weakest first.
    blocks: Vec<Block>,
    /// Pseudo-elements that some sheet of the page styles.
    pseudos: Vec<PseudoElement>,
    by_class: FxHashMap<LocalName, Vec<u32>>,
    by_lower_class: OnceCell<FxHashMap<LocalName, Vec<u32>>>,
    by_name: FxHashMap<LocalName, Vec<u32>>,
    /// Rules that ask for a value of an attribute, as those of themes do.
    by_attribute: FxHashMap<LocalName, FxHashMap<Box<str>, Vec<u32>>>,
    other: Vec<u32>,
    /// What was looked up in these four, by what it depends on.
    candidates: RefCell<FxHashMap<Asked, Rc<[u32]>>>,
    /// Custom properties with a type, by the hash of their name.
    registered: FxHashMap<u64, TypedProperty>,
    /// Attributes that some `attr()` names.
    attributes: Vec<Box<str>>,
    /// The layers of the page's sheets, and the layer there of every layer in every sheet.
    layers: Layers,
    specificities: FxHashMap<(u16, u32), u32>,
    layer_ids: Vec<Vec<Option<LayerId>>>,
    /// Initial values, as declared.
    pub initial: Vec<Value>,
    /// Computed initial values of those that depend on nothing.
    constants: Vec<OnceCell<Option<Shared>>>,
    /// The media features.
    pub media: Media,
    /// Whether some rule lets something float.
    has_floats: bool,
    /// Whether the document is a piece of some page: what is around it is not known.
    pub is_fragment: bool,
    /// Values that were parsed after substitution.
    parsed: RefCell<DeclaredByText>,
    /// What attributes say.
    pub(super) attributed: RefCell<AttributedByText>,
}

impl Sheets {
    /// Prepares sheets in order; rules whose media never match are left out.
    pub fn new(sheets: &[(&Stylesheet, Origin)], media: Media) -> Sheets {
        // Of a browser's own pseudo-elements only those count that it generates, such as quotes.
        let counts = |origin: Origin, name: &str| origin == Origin::Author || matches!(name, "before" | "after");
        let named = sheets.iter().flat_map(|(sheet, origin)| {
            let names = sheet.rules.iter().filter_map(|rule| rule.pseudo.as_ref()).map(|pseudo| pseudo.0.as_str());
            names.filter(move |name| counts(*origin, name))
        });
        let styled: HashSet<&str> = named.collect();
        let mut all = Sheets {
            rules: Vec::new(),
            blocks: Vec::new(),
            pseudos: PseudoElement::ALL.iter().copied().filter(|pseudo| styled.contains(pseudo.name())).collect(),
            by_class: FxHashMap::default(),
            by_lower_class: OnceCell::new(),
            by_name: FxHashMap::default(),
            by_attribute: FxHashMap::default(),
            other: Vec::new(),
            candidates: RefCell::default(),
            registered: FxHashMap::default(),
            attributes: Vec::new(),
            layers: Layers::default(),
            specificities: FxHashMap::default(),
            layer_ids: Vec::new(),
            initial: Longhand::ALL.iter().map(|longhand| initial_declared(*longhand)).collect(),
            constants: Longhand::ALL.iter().map(|_| OnceCell::new()).collect(),
            media,
            has_floats: false,
            is_fragment: false,
            parsed: RefCell::default(),
            attributed: RefCell::default(),
        };
        let mut found: Vec<Found> = Vec::new();
        for (sheet, _) in sheets {
            let media = &all.media;
            let ids = all.layers.merge(&sheet.layers, |conditions| hold(conditions, media));
            all.layer_ids.push(ids);
        }
        let ranks = all.layers.ranks();
        for (index, (sheet, origin)) in sheets.iter().enumerate() {
            all.read(sheet, *origin, index as u16, &ranks, &mut found);
        }
        all.index();
        let floating = |found: &Found| found.block.sets().get(Flow::LTR).has(Longhand::Float);
        all.has_floats = found.iter().any(|found| found.block.origin == Origin::Author && floating(found));
        found.sort_by_key(|found| (found.block.layering, found.specificity, found.order));
        for found in found {
            let rule = &mut all.rules[found.rule];
            let slots = match &mut rule.in_quirks_mode {
                Some(slots) if found.in_quirks_mode => slots,
                _ => &mut rule.blocks,
            };
            if let Some(slot) = slots.iter_mut().find(|slot| slot.is_none()) {
                *slot = Some(all.blocks.len() as u32);
            }
            all.blocks.push(found.block);
        }
        all
    }

    fn read(&mut self, sheet: &Stylesheet, origin: Origin, index: u16, ranks: &[u32], found: &mut Vec<Found>) {
        for (one, conditions) in &sheet.registered {
            if hold(conditions, &self.media)
                && let Some(typed) = TypedProperty::new(one)
            {
                self.registered.insert(CustomName::new(&one.name).hash, typed);
            }
        }
        for (i, rule) in sheet.rules.iter().enumerate() {
            if !hold(&rule.conditions, &self.media) {
                continue;
            }
            let unknown = rule.conditions.iter().find_map(|condition| match condition {
                Condition::Unknown(reason) => Some(*reason),
                Condition::Media(_) | Condition::Container(_) | Condition::Native(_) | Condition::QuirksMode => None,
            });
            let containers = rule.conditions.iter().filter_map(|condition| match condition {
                Condition::Container(query) => Some(Arc::clone(query)),
                Condition::Media(_) | Condition::Native(_) | Condition::QuirksMode | Condition::Unknown(_) => None,
            });
            let containers: Vec<Arc<ContainerQuery>> = containers.collect();
            let layer = rule.layer.and_then(|id| self.layer_ids[usize::from(index)][id.index()]);
            let layer = layer.map(|id| ranks[id.index()]);
            self.specificities.insert((index, i as u32), rule.selector.specificity());
            let only_in_quirks_mode = rule.conditions.iter().any(|c| matches!(c, Condition::QuirksMode));
            let whole = || (Arc::clone(&rule.declarations.list), (0..).take(rule.declarations.list.len()).collect());
            let quirks: Option<(Arc<[Declaration]>, Vec<u32>)> =
                rule.declarations.in_quirks_mode().or_else(|| only_in_quirks_mode.then(whole));
            for (important, in_quirks_mode) in [(false, false), (true, false), (false, true), (true, true)] {
                let layering = Layering::new(origin, important, false, layer);
                let list = match (&quirks, in_quirks_mode) {
                    (_, false) if only_in_quirks_mode => continue,
                    (_, false) => rule.declarations.prepared(important),
                    (Some((all, numbers)), true) => PreparedList::new(all, important, |at| numbers[at]),
                    (None, true) => continue,
                };
                if let Some(list) = list {
                    let mut block = Block::new(list, (index, i as u32), origin, layering, unknown);
                    block.containers.clone_from(&containers);
                    block.specificity = rule.selector.specificity();
                    block.native = rule.conditions.iter().find_map(|condition| match condition {
                        Condition::Native(is) => Some(*is),
                        _ => None,
                    });
                    let names =
                        block.declarations().iter().filter_map(|d| d.text.as_ref()).flat_map(Template::attributes);
                    self.attributes.extend(names.cloned());
                    let (specificity, order) = (rule.selector.specificity(), (index, i as u32));
                    found.push(Found { block, rule: self.rules.len(), in_quirks_mode, specificity, order });
                }
            }
            let subject = rule.pseudo.as_ref().map_or(Subject::Element, |pseudo| {
                self.pseudos.iter().position(|known| known.name() == pseudo.0).map_or(Subject::Nothing, Subject::Pseudo)
            });
            let mut classes = Vec::new();
            classes_asked(&rule.selector, &mut classes);
            let names_a_drawing = rule
                .selector
                .iter_raw_match_order()
                .any(|component| matches!(component, Component::LocalName(local) if is_of_drawings(&local.name.0)));
            let of_html = origin == Origin::Browser && !names_a_drawing;
            let prepare = if rule.scopes.is_empty() { PreparedSelector::new } else { PreparedSelector::whole };
            let selector = prepare(rule.selector.clone(), self.rules.len());
            let scopes = Arc::clone(&rule.scopes);
            let (blocks, in_quirks_mode) = ([None; 2], quirks.map(|_| [None; 2]));
            self.rules.push(PreparedRule { selector, subject, of_html, classes, scopes, blocks, in_quirks_mode });
        }
    }

    /// Files every rule under what its last compound selector asks for: under the class that the fewest rules ask for,
    /// so that an element with many classes is not held against every option of its control.
    fn index(&mut self) {
        let mut counts: FxHashMap<LocalName, u32> = FxHashMap::default();
        for class in self.rules.iter().flat_map(|rule| &rule.classes) {
            *counts.entry(class.clone()).or_default() += 1;
        }
        for (index, rule) in self.rules.iter().enumerate() {
            let name = rule.selector.one().iter().find_map(|component| match component {
                Component::LocalName(local) => Some(local.lower_name.0.clone()),
                _ => None,
            });
            let list = match (rule.classes.iter().min_by_key(|class| counts[*class]), name) {
                (Some(class), _) => self.by_class.entry(class.clone()).or_default(),
                (None, Some(name)) => self.by_name.entry(name).or_default(),
                (None, None) => match attribute_asked(rule.selector.one()) {
                    Some((name, value)) => self.by_attribute.entry(name).or_default().entry(value).or_default(),
                    None => &mut self.other,
                },
            };
            list.push(index as u32);
        }
    }

    /// What applies to an element, and to those of its pseudo-elements that some rule styles.
    pub fn matched(
        &self,
        element: &ElementRef,
        attributed: Option<Rc<Attributed>>,
        caches: &mut MatchingCaches,
    ) -> (Matched, Vec<(PseudoElement, Matched)>) {
        let mut own = Vec::new();
        let mut of_pseudos: Vec<Vec<u32>> = vec![Vec::new(); self.pseudos.len()];
        let mut hops: Hops = Vec::new();
        let data = element.element();
        let quirks = element.document.quirks;
        let candidates = self.candidates(data, quirks);
        let is_html = data.name.ns == ns!(html);
        let speaks = |rule: &&PreparedRule| is_html || !rule.of_html;
        let mut matching = element.matching(false, caches);
        let mut any = false;
        for rule in candidates.iter().map(|index| &self.rules[*index as usize]).filter(speaks) {
            match rule.subject {
                Subject::Nothing => {}
                subject if !rule.scopes.is_empty() => {
                    let is_pseudo = subject != Subject::Element;
                    let near = scope::proximity(element, rule.selector.one(), is_pseudo, &rule.scopes);
                    let Some(near) = near else { continue };
                    hops.extend(rule.blocks(quirks).map(|rank| (*rank, near)));
                    match subject {
                        Subject::Pseudo(index) => of_pseudos[index].extend(rule.blocks(quirks)),
                        _ => own.extend(rule.blocks(quirks)),
                    }
                }
                Subject::Element if matching.matches(&rule.selector) => own.extend(rule.blocks(quirks)),
                Subject::Pseudo(index) if rule.selector.asks_earlier() => {
                    if matching.matches(&rule.selector) {
                        of_pseudos[index].extend(rule.blocks(quirks));
                    }
                }
                Subject::Pseudo(_) => any = true,
                Subject::Element => {}
            }
        }
        let mut matching = element.matching(true, caches);
        for rule in candidates.iter().filter(|_| any).map(|index| &self.rules[*index as usize]) {
            if let Subject::Pseudo(index) = rule.subject
                && rule.scopes.is_empty()
                && !rule.selector.asks_earlier()
                && matching.matches(&rule.selector)
            {
                of_pseudos[index].extend(rule.blocks(quirks));
            }
        }
        let is_there = |pseudo: &PseudoElement| *pseudo != PseudoElement::Placeholder || forms::shows_placeholder(data);
        let pseudos = self.pseudos.iter().zip(of_pseudos).filter(|(name, list)| !list.is_empty() && is_there(name));
        let pseudos = pseudos.map(|(name, list)| (*name, self.sorted(data, list, None, true, &hops))).collect();
        let has_floats = self.has_floats || element.document.floats_by_attributes();
        let sorted = self.sorted(data, own, attributed, false, &hops);
        let beyond = match element.document.is_of_shadow_host(element.node) {
            true => Some("what a shadow tree says of its host, and of what is put into it, is not modelled"),
            false if element.document.is_in_drawn(element.node) => {
                Some("what browsers make of it in an element that they draw by themselves is not modelled")
            }
            false => sorted.beyond,
        };
        (Matched { has_floats, schemes: element.document.schemes(), beyond, ..sorted }, pseudos)
    }

    /// The rules that elements with these very classes and this name may match: controls repeat, in all their states.
    fn candidates(&self, data: &Element, quirks: bool) -> Rc<[u32]> {
        // Bounded: a foreign page may have any number.
        const MOST: usize = 1 << 12;
        // Most elements have none of them.
        let values: Vec<(LocalName, Box<str>)> =
            self.by_attribute.keys().filter_map(|name| Some((name.clone(), data.attribute(name)?.into()))).collect();
        let key = (data.name.local.clone(), data.classes.clone(), values, quirks);
        if let Some(known) = self.candidates.borrow().get(&key) {
            return Rc::clone(known);
        }
        let files = if quirks { self.by_class_in_quirks_mode() } else { &self.by_class };
        let by_class = data.classes.iter().filter_map(|class| match quirks {
            true => files.get(&class.to_ascii_lowercase()),
            false => files.get(class),
        });
        let by_name = self.by_name.get(&data.name.local.to_ascii_lowercase());
        let by_attribute = key.2.iter().filter_map(|(name, value)| self.by_attribute.get(name)?.get(value));
        let all = by_class.chain(by_name).chain(by_attribute).chain([&self.other]).flatten().copied();
        let has = |class: &LocalName| match quirks {
            true => data.classes.iter().any(|own| own.eq_ignore_ascii_case(class)),
            false => data.classes.contains(class),
        };
        let has_classes = |rule: &PreparedRule| rule.classes.iter().all(has);
        let found: Rc<[u32]> = all.filter(|index| has_classes(&self.rules[*index as usize])).collect();
        let mut known = self.candidates.borrow_mut();
        if known.len() > MOST {
            known.clear();
        }
        known.insert(key, Rc::clone(&found));
        found
    }

    /// The same file for documents that do not tell cases of classes apart.
    fn by_class_in_quirks_mode(&self) -> &FxHashMap<LocalName, Vec<u32>> {
        self.by_lower_class.get_or_init(|| {
            let mut files: FxHashMap<LocalName, Vec<u32>> = FxHashMap::default();
            for (class, rules) in &self.by_class {
                files.entry(class.to_ascii_lowercase()).or_default().extend(rules);
            }
            files
        })
    }

    fn sorted(
        &self,
        data: &Element,
        mut blocks: Vec<u32>,
        attributed: Option<Rc<Attributed>>,
        is_pseudo: bool,
        hops: &Hops,
    ) -> Matched {
        // A rule may be filed under two classes of one element.
        blocks.sort_unstable_by_key(|rank| std::cmp::Reverse(*rank));
        blocks.dedup();
        if !hops.is_empty() {
            // The nearer root is stronger than the later rule, and any is nearer than none (CSS Cascade 6, section 2.1).
            let near = |rank: &u32| hops.iter().find(|(known, _)| known == rank).map_or(u32::MAX, |(_, hops)| *hops);
            blocks.sort_by_key(|rank| {
                let block = &self.blocks[*rank as usize];
                std::cmp::Reverse((block.layering, block.specificity, std::cmp::Reverse(near(rank))))
            });
        }
        for (rank, block) in attributed.iter().flat_map(|attributed| attributed.blocks()) {
            // The weaker first: it stands further back, so the other places stay what they were.
            let is_stronger =
                |known: &u32| self.blocks.get(*known as usize).is_some_and(|b| b.layering > block.layering);
            blocks.insert(blocks.partition_point(is_stronger), rank);
        }
        let inlined = attributed.iter().flat_map(|attributed| attributed.attributes());
        let names = self.attributes.iter().chain(inlined);
        let attributes = names.filter_map(|name| Some((name.clone(), data.attribute(name)?.into()))).collect();
        let nature = if is_pseudo { Nature::Plain } else { Nature::of(data) };
        let is_math = data.name.ns == ns!(mathml);
        let beyond = is_math.then_some("mathematics has rules that are not modelled");
        let is_closed = !is_pseudo && !forms::paints_generated(data);
        let matched = Matched { blocks, attributed, attributes, nature, beyond, is_closed, ..Matched::default() };
        let (mut sets, mut customs) = (LonghandSet::default(), 0);
        for block in self.blocks(&matched) {
            sets.add_all(block.sets().get(Flow::LTR));
            customs |= block.list.customs;
        }
        Matched { sets, customs, ..matched }
    }

    /// The packed specificity of a declaration's selector; nothing in a `style` attribute.
    pub fn specificity(&self, id: DeclarationId) -> Option<u32> {
        self.specificities.get(&(id.sheet, id.rule)).copied()
    }

    /// A layer's full name on the page; layers of several sheets may be one.
    pub fn layer_name(&self, sheet: u16, layer: LayerId) -> String {
        let id = self.layer_ids.get(usize::from(sheet)).and_then(|ids| ids[layer.index()]);
        id.map_or_else(String::new, |id| self.layers.name(id))
    }

    /// The blocks of a match, strongest first.
    pub fn blocks<'m>(&'m self, matched: &'m Matched) -> impl Iterator<Item = &'m Block> {
        matched.blocks.iter().filter_map(|rank| self.block(matched, *rank))
    }

    /// Feeds to a hasher which blocks of a match set one of these.
    pub(super) fn feed_setting(
        &self,
        matched: &Matched,
        longhands: &LonghandSet,
        flow: Flow,
        hasher: &mut impl Hasher,
    ) {
        let ranks = matched.blocks.iter().filter_map(|rank| Some((*rank, self.block(matched, *rank)?)));
        let setting = ranks.filter(|(_, block)| block.sets().get(flow).meets(longhands));
        setting.for_each(|(rank, _)| rank.hash(hasher));
    }

    /// The declarations of a match that set a longhand in some flow, strongest first, each with its block.
    pub fn setting<'m>(
        &'m self,
        matched: &'m Matched,
        longhand: Longhand,
        flow: Flow,
    ) -> impl Iterator<Item = (&'m Block, &'m Prepared)> {
        let (start, mut length) = match flow {
            Flow::LTR => matched.first.get_or_init(|| self.first_declarations(matched))[longhand as usize],
            _ => (0, u8::MAX),
        };
        let blocks = matched.blocks.iter().skip(usize::from(start)).filter_map(|rank| self.block(matched, *rank));
        blocks.flat_map(move |block| {
            // What stands later in the first of them sets something else.
            let known = usize::from(std::mem::replace(&mut length, u8::MAX));
            let count = if known == usize::from(u8::MAX) { block.declarations().len() } else { known };
            let any = block.sets().get(flow).has(longhand);
            let declarations = block.declarations()[..if any { count } else { 0 }].iter().rev();
            declarations.filter(move |d| d.sets.get(flow).has(longhand)).map(move |declaration| (block, declaration))
        })
    }

    /// Whether some block of a match may set a custom property.
    pub fn may_set(&self, matched: &Matched, name: &CustomName) -> bool {
        let names = || {
            let declarations = self.blocks(matched).flat_map(Block::declarations);
            let mut names: Vec<u64> = declarations.filter_map(|d| d.custom.as_ref()).map(|name| name.hash).collect();
            names.sort_unstable();
            names.dedup();
            names.into()
        };
        matched.customs & name.bit() != 0 && matched.names.get_or_init(names).binary_search(&name.hash).is_ok()
    }

    fn first_declarations(&self, matched: &Matched) -> Box<[(u8, u8); Longhand::ALL.len()]> {
        let mut first = Box::new([(u8::MAX, u8::MAX); Longhand::ALL.len()]);
        for (index, rank) in matched.blocks.iter().enumerate().rev() {
            let Some(block) = self.block(matched, *rank) else { continue };
            let index = u8::try_from(index).unwrap_or(u8::MAX);
            for (at, declaration) in block.declarations().iter().enumerate() {
                let length = if index == u8::MAX { u8::MAX } else { u8::try_from(at + 1).unwrap_or(u8::MAX) };
                let sets = declaration.sets.get(Flow::LTR).iter();
                sets.for_each(|longhand| first[longhand as usize] = (index, length));
            }
        }
        first
    }

    fn block<'m>(&'m self, matched: &'m Matched, rank: u32) -> Option<&'m Block> {
        match &matched.attributed {
            Some(attributed) if is_of_attributes(rank) => attributed.block(rank),
            _ => self.blocks.get(rank as usize),
        }
    }

    /// The blocks of two matches, each with whether both have it.
    pub fn compared<'m>(&'m self, one: &'m Matched, other: &'m Matched) -> impl Iterator<Item = (&'m Block, bool)> {
        let same_attributes = one.says_the_same(other);
        let has = move |matched: &Matched, rank: u32| {
            matched.blocks.contains(&rank) && (same_attributes || !is_of_attributes(rank))
        };
        let own = one.blocks.iter().map(move |rank| (self.block(one, *rank), has(other, *rank)));
        let others = other.blocks.iter().filter(move |rank| !has(one, **rank));
        own.chain(others.map(|rank| (self.block(other, *rank), false)))
            .filter_map(|(block, is_common)| Some((block?, is_common)))
    }

    /// A longhand's computed initial value, where that depends on nothing around it.
    pub fn constant(&self, longhand: Longhand) -> Option<&Shared> {
        let value = || compute(longhand, &self.initial[longhand as usize], &Context::constant()).ok();
        self.constants[longhand as usize].get_or_init(|| value().map(|value| Rc::new(Ok(value)))).as_ref()
    }

    /// The type of a custom property, if it has one.
    pub fn registered(&self, name: &CustomName) -> Option<&TypedProperty> {
        self.registered.get(&name.hash)
    }

    /// Parses a value after substitution; the same text is parsed once.
    pub fn parse(&self, name: PropertyName, text: Rc<str>) -> Rc<Option<Declared>> {
        // Bounded: a system has few texts, but foreign sheets may have any number.
        const MOST: usize = 1 << 16;
        let mut parsed = self.parsed.borrow_mut();
        if parsed.len() > MOST {
            parsed.clear();
        }
        let key = (name, text);
        if let Some(known) = parsed.get(&key) {
            return Rc::clone(known);
        }
        let value = Rc::new(crate::css::parse::parse_value(name, &key.1));
        parsed.insert(key, Rc::clone(&value));
        value
    }
}

/// Whether the conditions on media hold; those that are decided for each element count as holding.
fn hold(conditions: &[Condition], media: &Media) -> bool {
    conditions.iter().all(|condition| match condition {
        Condition::Media(list) => list.matches(media),
        Condition::Container(_) | Condition::Native(_) | Condition::QuirksMode | Condition::Unknown(_) => true,
    })
}

/// A custom property with a type that was understood.
#[derive(Debug)]
pub struct TypedProperty {
    /// What it takes.
    pub syntax: Syntax,
    /// Whether it inherits.
    pub inherits: bool,
    /// Its initial value.
    pub initial: Option<String>,
}

impl TypedProperty {
    /// `None` where the rule is not valid: a syntax that cannot be read, or an initial value that does not fit it or depends
    /// on an element.
    fn new(registered: &Registered) -> Option<TypedProperty> {
        let syntax = Syntax::parse(&registered.syntax)?;
        let initial = registered.initial.as_ref();
        if initial.is_some_and(|text| has_substitution(text)) {
            return None;
        }
        if syntax != Syntax::Any {
            let value = syntax.value(initial?)?;
            if value != Value::Unmodelled {
                absolute(&value, &Context::constant()).ok()?;
            }
        }
        Some(TypedProperty { syntax, inherits: registered.inherits, initial: registered.initial.clone() })
    }
}

/// How far blocks of rules in scopes are from their roots.
type Hops = Vec<(u32, u32)>;

struct Found {
    block: Block,
    rule: usize,
    in_quirks_mode: bool,
    specificity: u32,
    order: (u16, u32),
}
