//! What browsers bring along for the hosts of a control, by the measured tables: the evidence behind its resets.

use super::reset::set_at_rest;
use crate::css::property::Longhand;
use crate::css::serialize::to_css;
use crate::dom::{Document, Element, NodeId};
use crate::engine::defaults::Browser;
use crate::engine::{Engine, Forced, Media, Stylesheet};
use crate::system::Control;
use std::collections::BTreeMap;

/// A longhand that the control leaves unset and that hosts or engines do not agree on.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Difference {
    /// The longhand.
    pub longhand: Longhand,
    /// Values with who has them, in words: `pointer` by `Chromium a`.
    pub values: Vec<(String, Vec<String>)>,
}

/// Every inherited property at a value that nobody would choose: what a host takes over from around it shows.
const UNUSUAL: &str = ".around { letter-spacing: 3px; word-spacing: 5px; text-transform: capitalize; text-indent: 11px;
    text-shadow: 1px 2px 3px rgb(1 2 3); text-align: justify; white-space: pre-line; cursor: grab; visibility: visible;
    text-rendering: geometricprecision; }
    .host { appearance: none }";

/// What differs between the hosts of a control and between engines at rest, focused and disabled, in an ordinary parent
/// and in an unusual one, once the native look is taken away.
pub fn differences(control: &Control) -> Vec<Difference> {
    let set = set_at_rest(control);
    let author = Stylesheet::parse(UNUSUAL);
    let mut found: BTreeMap<Longhand, BTreeMap<String, Vec<String>>> = BTreeMap::new();
    for browser in Browser::MEASURED {
        let engine = Engine::new(browser.sheet(), &[&author], Media::default());
        for host in &control.template.hosts {
            let Some(element) = control.template.document.element(host.node) else { continue };
            for (around, state) in [("", ""), ("around", ""), ("", "focus-visible"), ("", "disabled")] {
                // A link cannot be disabled.
                if state == "disabled" && !crate::dom::is_disableable(element) {
                    continue;
                }
                let (document, node) = alone(element, around, state == "disabled");
                let mut forced = Forced::default();
                if state == "focus-visible" {
                    forced.add(node, "focus-visible");
                }
                let styles = engine.styles(&document, &forced);
                let Some(style) = styles.element(node) else { continue };
                for longhand in Longhand::ALL.iter().filter(|longhand| !set.contains(longhand) && counts(**longhand)) {
                    let value = match style.get(*longhand) {
                        Ok(value) => to_css(value),
                        Err(_) => continue,
                    };
                    let mut who = format!("{} {}", browser.name(), host.name);
                    if !state.is_empty() {
                        who = format!("{who}:{state}");
                    }
                    if !around.is_empty() {
                        who = format!("{who} in an unusual parent");
                    }
                    found.entry(*longhand).or_default().entry(value).or_default().push(who);
                }
            }
        }
    }
    found
        .into_iter()
        .filter(|(_, values)| values.len() > 1)
        .map(|(longhand, values)| Difference { longhand, values: values.into_iter().collect() })
        .collect()
}

/// Whether a property shows on a control: animations, tables, print and what only scrolls are left out, and outlines, which
/// are each engine's own focus ring.
fn counts(longhand: Longhand) -> bool {
    use Longhand as L;
    !matches!(
        longhand,
        // Taken away first, so that the rest shows.
        L::Appearance
            // Whatever the control is: its box and its text are its own to set.
            | L::Display
            | L::Direction
            | L::UnicodeBidi
            | L::OutlineColor
            | L::OutlineStyle
            | L::OutlineWidth
            // Of inputs the browser keeps it to itself.
            | L::OverflowX
            | L::OverflowY
            // Follow the colour or the line that the control sets.
            | L::CaretColor
            | L::AccentColor
            | L::TextDecorationColor
            | L::ColumnRuleColor
            | L::ColumnRuleWidth
            // Print.
            | L::BreakInside
            // Inputs centre their text by themselves.
            | L::AlignItems
    )
}

fn alone(element: &Element, around: &str, disabled: bool) -> (Document, NodeId) {
    let mut document = Document::new();
    let html = document.append_element(Document::ROOT, Element::html("html"));
    let body = document.append_element(html, Element::html("body"));
    let mut parent = Element::html("div");
    parent.set("class", around);
    let parent = document.append_element(body, parent);
    let mut host = element.clone();
    host.set("class", "host");
    if disabled && crate::dom::is_disableable(&host) {
        host.set("disabled", "");
    }
    let node = document.append_element(parent, host);
    (document, node)
}
