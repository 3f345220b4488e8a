//! Matching: elements of our own document held against selectors, one after another, so that long pages stay cheap.

use super::selector::{AttrValue, Ident, List, One, PseudoClass, PseudoName, Selectors, parse_list};
use crate::dom::{Document, Element as DomElement, NodeData, NodeId, is_disableable};
use cssparser::ToCss;
use html5ever::{LocalName, Namespace, local_name, ns};
use precomputed_hash::PrecomputedHash;
use rustc_hash::FxHashMap;
use selectors::OpaqueElement;
use selectors::attr::{
    AttrSelectorOperation, AttrSelectorOperator, CaseSensitivity, NamespaceConstraint, ParsedCaseSensitivity,
};
use selectors::bloom::{BLOOM_HASH_MASK, BloomFilter};
use selectors::context::{
    MatchingContext, MatchingForInvalidation, MatchingMode, NeedsSelectorFlags, QuirksMode, SelectorCaches,
};
use selectors::matching::{
    CompoundSelectorMatchingResult, ElementSelectorFlags, matches_compound_selector_from, matches_selector,
};
use selectors::parser::{AncestorHashes, Combinator, Component};
use std::fmt;

/// Whether an element at rest matches.
pub fn matches(list: &List, document: &Document, node: NodeId) -> bool {
    matches_in(list, document, node, &Forced::default())
}

/// Whether an element matches while states are forced.
pub fn matches_in(list: &List, document: &Document, node: NodeId, forced: &Forced) -> bool {
    let element = ElementRef { document, node, forced };
    let mut caches = MatchingCaches::default();
    list.slice().iter().any(|one| element.matches(one, false, &mut caches))
}

/// States that a case forces on elements, as a browser's inspector does.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Forced {
    list: Vec<(NodeId, PseudoClass)>,
    /// The same by node: a page may have any number.
    of: FxHashMap<NodeId, Vec<PseudoClass>>,
}

impl Forced {
    /// Forces a pseudo-class.
    pub fn add(&mut self, node: NodeId, class: PseudoClass) {
        if !self.has(node, &class) {
            self.of.entry(node).or_default().push(class.clone());
            self.list.push((node, class));
        }
    }

    /// What is forced, in order.
    pub fn iter(&self) -> impl Iterator<Item = (NodeId, &PseudoClass)> {
        self.list.iter().map(|(node, class)| (*node, class))
    }

    fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    fn has(&self, node: NodeId, class: &PseudoClass) -> bool {
        self.of.get(&node).is_some_and(|classes| classes.contains(class))
    }
}

/// An element to match against.
#[derive(Clone, Copy)]
pub struct ElementRef<'d> {
    /// Its document.
    pub document: &'d Document,
    /// Its node.
    pub node: NodeId,
    /// What is forced.
    pub forced: &'d Forced,
}

impl fmt::Debug for ElementRef<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:?}", self.node)
    }
}

/// A selector, ready to be asked of many elements.
#[derive(Debug)]
pub struct PreparedSelector {
    selector: One,
    key: usize,
    /// What must stand around an element that matches.
    ancestors: AncestorHashes,
    /// Where it asks for an earlier sibling of the element itself.
    earlier: Option<Earlier>,
    /// What some later sibling must match: no longer asked by the selector.
    later: Option<One>,
}

/// `earlier ~ subject`, by where the parts stand in the selector.
#[derive(Debug, Clone, Copy)]
struct Earlier {
    /// Where the subject begins, from the left.
    subject: usize,
    /// Where the rest begins, from the right.
    rest: usize,
}

impl PreparedSelector {
    /// Prepares a selector; its key is its own among all that use the same caches.
    pub fn new(selector: One, key: usize) -> PreparedSelector {
        let selector = without_star(selector);
        let (selector, later) = match without_later(&selector) {
            Some((rest, later)) => (rest, Some(later)),
            None => (selector, None),
        };
        let ancestors = AncestorHashes::new(&selector, QuirksMode::NoQuirks);
        let earlier = Earlier::of(&selector);
        PreparedSelector { selector, key, ancestors, earlier, later }
    }

    /// The same of a rule in a scope, whose selector is asked as it is.
    pub fn whole(selector: One, key: usize) -> PreparedSelector {
        let selector = without_star(selector);
        let ancestors = AncestorHashes::new(&selector, QuirksMode::NoQuirks);
        PreparedSelector { selector, key, ancestors, earlier: None, later: None }
    }

    /// The selector.
    pub fn one(&self) -> &One {
        &self.selector
    }

    /// Whether it asks for an earlier sibling of the element itself; such a one of a pseudo-element is asked of its element.
    pub fn asks_earlier(&self) -> bool {
        self.earlier.is_some()
    }
}

impl Earlier {
    fn of(selector: &One) -> Option<Earlier> {
        let is_pseudo = selector.has_pseudo_element();
        let components: Vec<&Component<Selectors>> = selector.iter_raw_match_order().collect();
        let start = match (is_pseudo, components.as_slice()) {
            (false, _) => 0,
            (true, [Component::PseudoElement(_), Component::Combinator(Combinator::PseudoElement), ..]) => 2,
            // States of a pseudo-element are asked as they come.
            (true, _) => return None,
        };
        let at = start + components[start..].iter().position(|component| component.is_combinator())?;
        let is_earlier = matches!(components[at], Component::Combinator(Combinator::LaterSibling));
        is_earlier.then(|| Earlier { subject: components.len() - at, rest: at + 1 })
    }
}

/// The same selector without the `*` of `*:hover` and its like, which is one with `:hover` where quirks count (Quirks Mode
/// Standard, section 3.5): as CSSOM writes it, where that `*` is left out.
fn without_star(selector: One) -> One {
    let is_star = |component: &Component<Selectors>| matches!(component, Component::ExplicitUniversalType);
    let acts = |component: &Component<Selectors>| {
        matches!(component, Component::NonTSPseudoClass(PseudoClass::Hover | PseudoClass::Active))
    };
    let has = |asked: &dyn Fn(&Component<Selectors>) -> bool| selector.iter_raw_match_order().any(asked);
    if names_namespaces(&selector) || !has(&is_star) || !has(&acts) {
        return selector;
    }
    match parse_list(&selector.to_css_string()) {
        Some(list) if list.slice().len() == 1 => list.slice()[0].clone(),
        _ => selector,
    }
}

fn names_namespaces(selector: &One) -> bool {
    selector.iter_raw_match_order().any(|component| {
        matches!(
            component,
            Component::DefaultNamespace(_)
                | Component::Namespace(..)
                | Component::ExplicitNoNamespace
                | Component::ExplicitAnyNamespace
        )
    })
}

/// A selector `rest:has(~ later)` in its two parts.
fn without_later(selector: &One) -> Option<(One, One)> {
    if selector.has_pseudo_element() {
        return None;
    }
    let has = selector.iter().find(|component| matches!(component, Component::Has(_)))?;
    let Component::Has(list) = has else { return None };
    let [relative] = list.as_ref() else { return None };
    let mut components = relative.selector.iter_raw_match_order().rev();
    let starts = (components.next(), components.next());
    let (Some(Component::RelativeSelectorAnchor), Some(Component::Combinator(Combinator::LaterSibling))) = starts
    else {
        return None;
    };
    if components.any(Component::is_combinator) {
        return None;
    }
    let text = has.to_css_string();
    let later = text.strip_prefix(":has(~ ")?.strip_suffix(')')?;
    // What is read again must be what it was.
    if names_namespaces(selector) {
        return None;
    }
    let whole = selector.to_css_string();
    if whole.matches(&text).count() != 1 {
        return None;
    }
    let rest = whole.replacen(&text, "", 1);
    let rest = match rest.is_empty() || rest.ends_with([' ', '>', '+', '~']) {
        true => format!("{rest}*"),
        false => rest,
    };
    let only = |text: &str| match parse_list(text)?.slice() {
        [one] => Some(one.clone()),
        _ => None,
    };
    Some((only(&rest)?, only(later)?))
}

/// The classes that an element must have to match the last compound of a selector, those in `:where()` and `:is()` of one
/// selector included.
pub(super) fn classes_asked(selector: &One, classes: &mut Vec<LocalName>) {
    for component in selector.iter() {
        match component {
            Component::Class(ident) => classes.push(ident.0.clone()),
            Component::Where(list) | Component::Is(list) => {
                // The last compound of a selector in it is asked of this very element, whatever stands before.
                if let [only] = list.slice() {
                    classes_asked(only, classes);
                }
            }
            _ => {}
        }
    }
}

/// An attribute and the very value of it that an element must have to match the last compound of a selector.
pub(super) fn attribute_asked(selector: &One) -> Option<(LocalName, Box<str>)> {
    selector.iter().find_map(|component| match component {
        Component::AttributeInNoNamespace {
            local_name,
            operator: AttrSelectorOperator::Equal,
            value,
            case_sensitivity: ParsedCaseSensitivity::CaseSensitive | ParsedCaseSensitivity::ExplicitCaseSensitive,
        } => Some((local_name.0.clone(), value.as_ref().into())),
        Component::Where(list) | Component::Is(list) => match list.slice() {
            [only] => attribute_asked(only),
            _ => None,
        },
        _ => None,
    })
}

/// What is kept between the elements of one document, under the same forced states.
#[derive(Default)]
pub struct MatchingCaches {
    selectors: SelectorCaches,
    ancestors: AncestorFilter,
    /// How far the siblings in a node were asked, by selector and node.
    earlier: FxHashMap<(usize, Option<NodeId>), Asked>,
    /// The place of the last sibling in a node that matches, by selector and node.
    later: FxHashMap<(usize, Option<NodeId>), Option<u32>>,
}

impl fmt::Debug for MatchingCaches {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("MatchingCaches").finish_non_exhaustive()
    }
}

/// Siblings that were asked, from the first one on.
#[derive(Debug, Clone, Copy, Default)]
struct Asked {
    /// How many.
    count: u32,
    /// The first that matches, counted from 1.
    found: Option<u32>,
}

/// The names, classes, ids and attributes around an element: what asks for others cannot match.
#[derive(Default)]
struct AncestorFilter {
    filter: BloomFilter,
    /// The elements in it from the root on, each with what it put in.
    stack: Vec<(NodeId, Vec<u32>)>,
}

impl AncestorFilter {
    /// Makes it that of an element and of all around it: what an element is itself does no harm.
    fn enter(&mut self, document: &Document, node: NodeId) {
        let parent = document.node(node).parent;
        while let Some((_, hashes)) = self.stack.pop_if(|(top, _)| Some(*top) != parent) {
            hashes.iter().for_each(|hash| self.filter.remove_hash(*hash));
        }
        let first = self.stack.len();
        let known = self.stack.last().map(|(top, _)| *top);
        let mut at = Some(node);
        while let Some(node) = at.filter(|node| Some(*node) != known) {
            if let Some(element) = document.element(node) {
                let mut hashes = vec![element.name.local.precomputed_hash(), element.name.ns.precomputed_hash()];
                hashes.extend(element.classes.iter().map(PrecomputedHash::precomputed_hash));
                hashes.extend(element.attributes.iter().map(|(name, _)| name.local.precomputed_hash()));
                hashes.extend(element.attribute("id").map(|id| LocalName::from(id).precomputed_hash()));
                hashes.iter_mut().for_each(|hash| *hash &= BLOOM_HASH_MASK);
                hashes.iter().for_each(|hash| self.filter.insert_hash(*hash));
                self.stack.push((node, hashes));
            }
            at = document.node(node).parent;
        }
        self.stack[first..].reverse();
    }
}

/// An element that selectors are held against.
pub struct Matching<'c, 'd> {
    element: ElementRef<'d>,
    context: MatchingContext<'c, Selectors>,
    earlier: &'c mut FxHashMap<(usize, Option<NodeId>), Asked>,
    later: &'c mut FxHashMap<(usize, Option<NodeId>), Option<u32>>,
}

impl Matching<'_, '_> {
    /// Whether the element, or a pseudo-element of it, matches.
    pub fn matches(&mut self, selector: &PreparedSelector) -> bool {
        let matches = match selector.earlier {
            Some(earlier) => self.matches_after(selector, earlier),
            // The filter tells cases apart.
            _ => {
                let ancestors = Some(&selector.ancestors).filter(|_| !self.element.document.quirks);
                matches_selector(&selector.selector, 0, ancestors, self.element, &mut self.context)
            }
        };
        matches && selector.later.as_ref().is_none_or(|later| self.is_before(selector.key, later))
    }

    /// Whether a sibling that matches comes after the element.
    fn is_before(&mut self, key: usize, later: &One) -> bool {
        let ElementRef { document, node, .. } = self.element;
        let parent = document.node(node).parent;
        let (element, context) = (self.element, &mut self.context);
        let last = self.later.entry((key, parent)).or_insert_with(|| {
            let mut siblings = parent.into_iter().flat_map(|parent| document.child_elements(parent).rev());
            let last = siblings.find(|sibling| matches_selector(later, 0, None, element.at(*sibling), context));
            last.map(|last| document.place_among_elements(last))
        });
        last.is_some_and(|last| last > document.place_among_elements(node))
    }

    /// Whether the element matches, and something before it: each sibling is asked once, not once by all that follow.
    fn matches_after(&mut self, selector: &PreparedSelector, earlier: Earlier) -> bool {
        let subject =
            matches_compound_selector_from(&selector.selector, earlier.subject, &mut self.context, self.element);
        if matches!(subject, CompoundSelectorMatchingResult::NotMatched) {
            return false;
        }
        let ElementRef { document, node, .. } = self.element;
        let place = document.place_among_elements(node);
        let known = self.earlier.entry((selector.key, document.node(node).parent)).or_default();
        // From the first that was not asked, to the one before the element.
        let mut ask = Vec::new();
        let mut at = document.element_before(node);
        while let Some(sibling) = at.filter(|_| known.found.is_none() && ask.len() as u32 + known.count < place) {
            ask.push(sibling);
            at = document.element_before(sibling);
        }
        for sibling in ask.into_iter().rev() {
            known.count += 1;
            let sibling = self.element.at(sibling);
            if matches_selector(&selector.selector, earlier.rest, None, sibling, &mut self.context) {
                known.found = Some(known.count);
                break;
            }
        }
        known.found.is_some_and(|found| found <= place)
    }
}

fn context<'c>(
    document: &Document,
    pseudo: bool,
    ancestors: Option<&'c BloomFilter>,
    caches: &'c mut SelectorCaches,
) -> MatchingContext<'c, Selectors> {
    MatchingContext::new(
        if pseudo { MatchingMode::ForStatelessPseudoElement } else { MatchingMode::Normal },
        ancestors,
        caches,
        if document.quirks { QuirksMode::Quirks } else { QuirksMode::NoQuirks },
        NeedsSelectorFlags::No,
        MatchingForInvalidation::No,
    )
}

impl<'d> ElementRef<'d> {
    pub(super) fn element(&self) -> &'d DomElement {
        match &self.document.node(self.node).data {
            NodeData::Element(element) => element,
            _ => unreachable!("only elements are matched"),
        }
    }

    pub(super) fn at(&self, node: NodeId) -> Self {
        ElementRef { node, ..*self }
    }

    /// Whether the element, or a pseudo-element of it, matches.
    pub fn matches(&self, selector: &One, pseudo: bool, caches: &mut MatchingCaches) -> bool {
        let mut context = context(self.document, pseudo, None, &mut caches.selectors);
        matches_selector(selector, 0, None, *self, &mut context)
    }

    /// Whether the element, or a pseudo-element of it, matches while a root is the `:scope`.
    pub fn matches_under(&self, selector: &One, pseudo: bool, root: Option<NodeId>) -> bool {
        let mut caches = SelectorCaches::default();
        let mut context = context(self.document, pseudo, None, &mut caches);
        context.scope_element = root.map(|root| selectors::Element::opaque(&self.at(root)));
        matches_selector(selector, 0, None, *self, &mut context)
    }

    /// Asks one selector after another.
    pub fn matching<'c>(&self, pseudo: bool, caches: &'c mut MatchingCaches) -> Matching<'c, 'd> {
        caches.ancestors.enter(self.document, self.node);
        let context = context(self.document, pseudo, Some(&caches.ancestors.filter), &mut caches.selectors);
        Matching { element: *self, context, earlier: &mut caches.earlier, later: &mut caches.later }
    }

    fn is_rtl(&self) -> bool {
        for node in self.document.around(self.node) {
            let Some(element) = self.document.element(node) else { continue };
            match element.attribute("dir").map(str::to_ascii_lowercase).as_deref() {
                Some("rtl") => return true,
                Some("ltr") => return false,
                Some("auto") => return self.document.runs_right_to_left(node),
                None if element.local() == "bdi" => return self.document.runs_right_to_left(node),
                _ => {}
            }
        }
        false
    }

    fn has_language(&self, wanted: &str) -> bool {
        let mut at = Some(self.node);
        while let Some(node) = at {
            if let Some(lang) = self.document.element(node).and_then(|e| e.attribute("lang")) {
                let lang = lang.to_ascii_lowercase();
                return lang == wanted || lang.starts_with(&format!("{wanted}-"));
            }
            at = self.document.node(node).parent;
        }
        false
    }

    pub(super) fn pseudo_class(&self, class: &PseudoClass) -> bool {
        // What is forced holds whatever the element says, as in a browser's inspector.
        if !self.forced.is_empty() && self.forced.has(self.node, class) {
            return true;
        }
        let element = self.element();
        let local = element.local();
        match class {
            PseudoClass::Checked => self.is_checked(),
            PseudoClass::Disabled => self.is_disabled(),
            PseudoClass::Enabled => is_disableable(element) && !self.is_disabled(),
            PseudoClass::Indeterminate => self.is_indeterminate(),
            PseudoClass::AnyLink | PseudoClass::Link => self.is_hyperlink(),
            PseudoClass::Visited => false,
            PseudoClass::Required => self.is_required(),
            // Buttons too, though nobody can require them.
            PseudoClass::Optional => matches!(local, "button" | "input" | "select" | "textarea") && !self.is_required(),
            PseudoClass::ReadWrite => self.is_read_write(),
            PseudoClass::ReadOnly => !self.is_read_write(),
            PseudoClass::PlaceholderShown => {
                element.attribute("placeholder").is_some_and(|p| !p.is_empty())
                    && match local {
                        "input" => element.attribute("value").is_none_or(str::is_empty),
                        "textarea" => !self.document.has_own_text(self.node),
                        _ => false,
                    }
            }
            PseudoClass::Open => matches!(local, "details" | "dialog") && element.attribute("open").is_some(),
            PseudoClass::Defined => !local.contains('-'),
            PseudoClass::Valid => self.validity() == Some(true),
            PseudoClass::Invalid => self.validity() == Some(false),
            PseudoClass::InRange => self.is_in_range() == Some(true),
            PseudoClass::OutOfRange => self.is_in_range() == Some(false),
            PseudoClass::Dir(rtl) => self.is_rtl() == *rtl,
            PseudoClass::Lang(wanted) => self.has_language(wanted),
            PseudoClass::Default => self.is_default(),
            // What only a user, or a script, brings about.
            _ => false,
        }
    }

    fn is_hyperlink(&self) -> bool {
        let element = self.element();
        matches!(element.name.local, local_name!("a") | local_name!("area")) && element.attribute("href").is_some()
    }
}

impl selectors::Element for ElementRef<'_> {
    type Impl = Selectors;

    fn opaque(&self) -> OpaqueElement {
        OpaqueElement::new(self.document.node(self.node))
    }

    fn parent_element(&self) -> Option<Self> {
        let parent = self.document.node(self.node).parent?;
        self.document.element(parent).map(|_| self.at(parent))
    }

    fn parent_node_is_shadow_root(&self) -> bool {
        false
    }

    fn containing_shadow_host(&self) -> Option<Self> {
        None
    }

    fn is_pseudo_element(&self) -> bool {
        false
    }

    fn prev_sibling_element(&self) -> Option<Self> {
        self.document.element_before(self.node).map(|node| self.at(node))
    }

    fn next_sibling_element(&self) -> Option<Self> {
        self.document.element_after(self.node).map(|node| self.at(node))
    }

    fn first_element_child(&self) -> Option<Self> {
        self.document.child_elements(self.node).next().map(|node| self.at(node))
    }

    fn is_html_element_in_html_document(&self) -> bool {
        self.element().name.ns == ns!(html)
    }

    fn has_local_name(&self, local_name: &LocalName) -> bool {
        self.element().name.local == *local_name
    }

    fn has_namespace(&self, ns: &Namespace) -> bool {
        self.element().name.ns == *ns
    }

    fn is_same_type(&self, other: &Self) -> bool {
        self.element().name.expanded() == other.element().name.expanded()
    }

    fn attr_matches(
        &self,
        ns: &NamespaceConstraint<&Namespace>,
        local_name: &Ident,
        operation: &AttrSelectorOperation<&AttrValue>,
    ) -> bool {
        let attributes = self.element().attributes.iter().filter(|(name, _)| match ns {
            NamespaceConstraint::Any => true,
            NamespaceConstraint::Specific(url) => name.ns == **url,
        });
        let mut named = attributes.filter(|(name, _)| name.local == local_name.0);
        named.any(|(_, value)| operation.eval_str(value))
    }

    fn match_non_ts_pseudo_class(&self, pc: &PseudoClass, _context: &mut MatchingContext<Selectors>) -> bool {
        self.pseudo_class(pc)
    }

    fn match_pseudo_element(&self, _pe: &PseudoName, _context: &mut MatchingContext<Selectors>) -> bool {
        false
    }

    fn apply_selector_flags(&self, _flags: ElementSelectorFlags) {}

    fn is_link(&self) -> bool {
        self.is_hyperlink()
    }

    fn is_html_slot_element(&self) -> bool {
        false
    }

    fn has_id(&self, id: &Ident, case_sensitivity: CaseSensitivity) -> bool {
        self.element().attribute("id").is_some_and(|value| case_sensitivity.eq(value.as_bytes(), id.0.as_bytes()))
    }

    fn has_class(&self, name: &Ident, case_sensitivity: CaseSensitivity) -> bool {
        self.element().classes.iter().any(|class| case_sensitivity.eq(class.as_bytes(), name.0.as_bytes()))
    }

    fn has_custom_state(&self, _name: &Ident) -> bool {
        false
    }

    fn imported_part(&self, _name: &Ident) -> Option<Ident> {
        None
    }

    fn is_part(&self, _name: &Ident) -> bool {
        false
    }

    fn is_empty(&self) -> bool {
        self.document.node(self.node).children.iter().all(|child| match &self.document.node(*child).data {
            NodeData::Text(text) => text.is_empty(),
            _ => false,
        })
    }

    fn is_root(&self) -> bool {
        self.document.node(self.node).parent == Some(Document::ROOT)
    }

    fn add_element_unique_hashes(&self, _filter: &mut BloomFilter) -> bool {
        false
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::dom::Element;

    /// A document of a few levels whose elements have some of three classes, and all its elements in order.
    fn random_document(random: &mut fastrand::Rng) -> (Document, Vec<NodeId>) {
        let mut document = Document::new();
        let root = document.append_element(Document::ROOT, Element::html("main"));
        let mut places = vec![root];
        for n in 0..random.usize(4..24) {
            let mut element = Element::html(["p", "b"][random.usize(0..2)]);
            let classes: Vec<&str> = ["a", "c", "z"].into_iter().filter(|_| random.u8(0..3) == 0).collect();
            element.set("class", classes.join(" "));
            element.set("id", format!("e{n}"));
            let parent = places[random.usize(0..places.len())];
            places.push(document.append_element(parent, element));
        }
        let all = document.descendants(root);
        (document, all)
    }

    #[test]
    fn what_is_kept_between_elements_changes_no_answer() {
        const SELECTORS: [&str; 14] = [
            ".a ~ b",
            ".a ~ .c ~ b",
            ".z > .a ~ b",
            ".a + p ~ b",
            "p:has(~ .z)",
            ":has(~ .z)",
            ".a ~ b:has(~ p.z)",
            ".c > :has(~ .z):not(.a)",
            ".c .z b",
            "#e3 b",
            ":is(.a .c) > p",
            ".a ~ b:hover",
            ".a:hover ~ b",
            "p:has(~ .z, ~ .c)",
        ];
        let mut random = fastrand::Rng::with_seed(11);
        let prepared = SELECTORS.map(|text| parse_list(text).expect(text).slice()[0].clone());
        let prepared: Vec<PreparedSelector> =
            prepared.into_iter().enumerate().map(|(key, one)| PreparedSelector::new(one, key)).collect();
        let (mut yes, mut no) = (0, 0);
        for _ in 0..400 {
            let (document, nodes) = random_document(&mut random);
            let mut forced = Forced::default();
            forced.add(nodes[random.usize(0..nodes.len())], PseudoClass::Hover);
            let mut caches = MatchingCaches::default();
            for (text, selector) in SELECTORS.iter().zip(&prepared) {
                let one = parse_list(text).expect(text);
                // In order, as a page is walked, and again in another, as single elements are asked for.
                let order = nodes.iter().chain(nodes.iter().rev());
                for node in order {
                    let element = ElementRef { document: &document, node: *node, forced: &forced };
                    let plain = element.matches(&one.slice()[0], false, &mut MatchingCaches::default());
                    let kept = element.matching(false, &mut caches).matches(selector);
                    assert_eq!(kept, plain, "{text} at {} in {}", node.index(), document.to_html(nodes[0]));
                    *(if plain { &mut yes } else { &mut no }) += 1;
                }
            }
        }
        assert!(yes > 1_000 && no > 1_000, "{yes} match, {no} do not");
    }
}
