//! The values that hosts and engines are brought to. Whether one is needed is measured; which value it is, is a choice:
//! the one that a maintainer would write who starts from nothing.

use super::defaults::ElementKind;
use std::collections::BTreeMap;
use std::sync::OnceLock;
use stilk_engine::css::compute::compute;
use stilk_engine::css::context::Context;
use stilk_engine::css::parse::{Declared, parse_declaration};
use stilk_engine::css::property::{Flow, Longhand};
use stilk_engine::css::serialize::to_css;

/// What elements are for; some values follow from it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Purpose {
    /// To be pressed.
    Action,
    /// To be written in.
    Entry,
    /// Anything else.
    Other,
}

impl Purpose {
    /// What all of these kinds are for.
    pub fn of(kinds: impl Iterator<Item = ElementKind> + Clone) -> Purpose {
        if kinds.clone().all(ElementKind::is_action) {
            Purpose::Action
        } else if kinds.clone().all(ElementKind::is_entry) {
            Purpose::Entry
        } else {
            Purpose::Other
        }
    }
}

/// A value and why there has to be one.
struct Chosen {
    property: &'static str,
    value: &'static str,
    reason: &'static str,
}

const fn chosen(property: &'static str, value: &'static str, reason: &'static str) -> Chosen {
    Chosen { property, value, reason }
}

/// In the order in which they are written.
const FOR_ALL: [Chosen; 20] = [
    chosen("text-rendering", "auto", "Firefox sets optimizelegibility on inputs"),
    chosen("white-space", "normal", "submit and reset keep their white space, and so do lists outside of Firefox"),
    chosen("outline-offset", "0", "Chromium offsets a focused link's outline by 1px, WebKit by 2px"),
    chosen("margin", "0", "checkboxes and radios have margins, in each engine others"),
    chosen("padding", "0", "buttons and fields have a padding of their own, links none, and engines differ"),
    chosen("border-width", "0", "buttons and fields have a border of their own, links none, and engines differ"),
    chosen("border-style", "none", "engines draw the borders of native controls in different styles"),
    chosen("border-color", "currentcolor", "engines draw the borders of native controls in different colours"),
    chosen("border-radius", "0", "WebKit rounds the corners of some native controls"),
    chosen("background-color", "transparent", "buttons and fields are filled by the browser, links are not"),
    chosen("color", "inherit", "browsers give native controls, and links, a colour of their own"),
    chosen("font", "inherit", "native controls have a font of their own, in each engine another"),
    chosen("box-sizing", "border-box", "buttons are measured to the border, links to the content"),
    chosen("text-decoration-line", "none", "links are underlined"),
    chosen("text-transform", "none", "buttons do not inherit it, links do"),
    chosen("text-indent", "0", "buttons do not inherit it, links do"),
    chosen("text-shadow", "none", "buttons do not inherit it, links do"),
    chosen("letter-spacing", "normal", "buttons do not inherit it, links do"),
    chosen("word-spacing", "normal", "buttons do not inherit it, links do"),
    chosen("vertical-align", "baseline", "Firefox sets multi-line fields to the bottom of the line"),
];

const FOR_ACTIONS: [Chosen; 3] = [
    chosen("cursor", "pointer", "a link points, a button does not; Firefox differs when disabled"),
    chosen("user-select", "none", "a button's text cannot be selected, a link's can"),
    chosen("text-align", "center", "buttons centre their text"),
];

const FOR_ENTRIES: [Chosen; 2] = [
    chosen("cursor", "text", "WebKit leaves it to the platform"),
    chosen("user-select", "auto", "Firefox keeps the text of some fields from being selected"),
];

const FOR_OTHERS: [Chosen; 2] = [
    chosen("cursor", "default", "WebKit leaves it to the platform"),
    chosen("user-select", "none", "Firefox keeps the text of native controls from being selected"),
];

fn for_purpose(purpose: Purpose) -> &'static [Chosen] {
    match purpose {
        Purpose::Action => &FOR_ACTIONS,
        Purpose::Entry => &FOR_ENTRIES,
        Purpose::Other => &FOR_OTHERS,
    }
}

/// What was chosen, for one of the longhands that it sets.
#[derive(Debug)]
pub(super) struct ChosenFor {
    /// The property to write.
    pub property: &'static str,
    /// The value.
    pub value: &'static str,
    /// Why.
    pub reason: &'static str,
    /// What it computes to, whatever is around; `None` where that decides.
    pub computed: Option<String>,
}

/// The value for a longhand, where one was chosen.
pub(super) fn value(longhand: Longhand, purpose: Purpose) -> Option<&'static ChosenFor> {
    static BY_LONGHAND: [OnceLock<BTreeMap<Longhand, ChosenFor>>; 3] = [const { OnceLock::new() }; 3];
    let known = BY_LONGHAND[purpose as usize].get_or_init(|| {
        let mut found = BTreeMap::new();
        for Chosen { property, value, reason } in for_purpose(purpose).iter().chain(&FOR_ALL) {
            for longhand in super::targets(property, value) {
                found.entry(longhand).or_insert_with(|| {
                    let computed = computed(longhand, property, value);
                    ChosenFor { property, value, reason, computed }
                });
            }
        }
        found
    });
    known.get(&longhand)
}

/// Where a property stands among those written.
pub(super) fn order(property: &str) -> usize {
    let first = ["appearance", "cursor", "user-select"];
    let all = first.into_iter().chain(FOR_ALL.iter().map(|chosen| chosen.property));
    all.enumerate().find(|(_, known)| *known == property).map_or(usize::MAX, |(place, _)| place)
}

/// What the value computes to, whatever is around; `None` where that decides.
pub(super) fn computed(longhand: Longhand, property: &str, value: &str) -> Option<String> {
    let Declared::Values(values) = parse_declaration(property, value).ok()?.declared else { return None };
    let (_, value) = values.iter().rev().find(|(target, _)| target.physical(Flow::LTR) == longhand)?;
    compute(longhand, value, &Context::constant()).ok().map(|value| to_css(&value))
}
