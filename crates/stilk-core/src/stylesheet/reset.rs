//! Scoped resets: for each control, the properties whose browser default differs between its hosts or between engines
//! and that the control leaves unset, and no others. Never `* { … }`.

use super::Sheet;
use crate::css::parse::parse_declaration;
use crate::css::property::{Flow, Longhand};
use crate::system::{Control, Place};
use crate::tokens::Piece;

/// One declaration of a reset.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Reset {
    /// The property.
    pub property: &'static str,
    /// The value on which hosts and engines agree.
    pub value: &'static str,
    /// The hosts that need it; empty for all.
    pub hosts: &'static str,
    /// Why it is needed.
    pub reason: &'static str,
}

const fn all(property: &'static str, value: &'static str, reason: &'static str) -> Reset {
    Reset { property, value, hosts: "", reason }
}

const fn link(property: &'static str, value: &'static str, reason: &'static str) -> Reset {
    Reset { property, value, hosts: "a", reason }
}

/// What differs between `<button>`, `<input type="submit|reset|button">` and `<a href>` in Chromium, Firefox and WebKit.
const BUTTONS_AND_LINKS: [Reset; 14] = [
    all("appearance", "none", "native buttons are drawn by the platform"),
    all("cursor", "pointer", "a link points, a button does not; Firefox differs when disabled"),
    all("user-select", "none", "a button's text cannot be selected, a link's can"),
    all("text-rendering", "auto", "Firefox sets optimizelegibility on submit"),
    all("white-space", "normal", "submit and reset keep their white space"),
    all("outline-offset", "0", "Chromium offsets a focused link's outline by 1px, WebKit by 2px"),
    link("box-sizing", "border-box", "buttons are measured to the border, links to the content"),
    link("text-align", "center", "buttons centre their text"),
    link("text-decoration-line", "none", "links are underlined"),
    link("text-transform", "none", "buttons do not inherit it, links do"),
    link("text-indent", "0", "buttons do not inherit it, links do"),
    link("text-shadow", "none", "buttons do not inherit it, links do"),
    link("letter-spacing", "normal", "buttons do not inherit it, links do"),
    link("word-spacing", "normal", "buttons do not inherit it, links do"),
];

/// The resets a control needs.
pub fn resets(control: &Control) -> Vec<Reset> {
    let document = &control.template.document;
    let elements: Vec<_> = control.template.hosts.iter().filter_map(|host| document.element(host.node)).collect();
    let is_native = |e: &&&crate::dom::Element| match e.local() {
        "button" => true,
        "input" => matches!(e.attribute("type"), Some("submit" | "reset" | "button")),
        _ => false,
    };
    let has_native = elements.iter().any(|e| is_native(&e));
    let has_link = elements.iter().any(|e| e.local() == "a");
    if !has_native && !has_link {
        return Vec::new();
    }
    let set = set_at_rest(control);
    BUTTONS_AND_LINKS
        .iter()
        .filter(|reset| reset.hosts.is_empty() || has_link)
        .filter(|reset| has_native || reset.property != "appearance")
        .filter(|reset| !targets(reset.property, reset.value).iter().all(|longhand| set.contains(longhand)))
        .copied()
        .collect()
}

impl Reset {
    /// What it sets.
    pub fn longhands(&self) -> Vec<Longhand> {
        targets(self.property, self.value)
    }
}

fn targets(property: &str, value: &str) -> Vec<Longhand> {
    parse_declaration(property, value)
        .map(|parsed| parsed.targets().into_iter().map(|target| target.physical(Flow::LTR)).collect())
        .unwrap_or_default()
}

/// Longhands that the control sets on every host at rest.
pub(super) fn set_at_rest(control: &Control) -> Vec<Longhand> {
    let rules = control.rules.iter().filter(|rule| {
        matches!(rule.place, Place::Trait | Place::From | Place::Control)
            && rule.target == Default::default()
            && rule.options.is_empty()
            && rule.states.is_rest()
            && rule.hosts.is_empty()
            && rule.nested.is_empty()
            && rule.conditions.is_empty()
    });
    rules
        .flat_map(|rule| &rule.declarations)
        .flat_map(|declaration| {
            let has_reference = declaration.value.pieces.iter().any(|piece| !matches!(piece, Piece::Text(_)));
            let text = declaration.value.write(&mut |_| "var(--x)".into(), &mut |local| local.to_owned());
            // With a reference in it the value waits; what it sets is known all the same.
            targets(&declaration.name.value, if has_reference { "var(--x)" } else { &text })
        })
        .collect()
}

/// Writes the reset layer.
pub(super) fn write(sheet: &mut Sheet) {
    for control in &sheet.system.controls {
        let class = format!(".{}", sheet.names.control(&control.name.value)).repeat(sheet.weight());
        let mut hosts_of = vec![class.clone()];
        if !sheet.system.manifest.stylesheet.layers {
            let attached = sheet.attachments(control).flat_map(|attachment| &attachment.selectors);
            hosts_of.extend(attached.map(|selector| format!(":is({class}, :where({selector}))")));
        }
        write_for(sheet, control, &|hosts| match hosts {
            "" => hosts_of.join(", "),
            hosts => hosts_of.iter().map(|of| format!("{of}:where({hosts})")).collect::<Vec<_>>().join(", "),
        });
    }
}

/// Writes a control's resets; `selector` says for whom, given the hosts, or an empty string for all.
pub(super) fn write_for(sheet: &mut Sheet, control: &Control, selector: &dyn Fn(&str) -> String) {
    let resets = resets(control);
    for hosts in ["", "a"] {
        let of_hosts: Vec<&Reset> = resets.iter().filter(|reset| reset.hosts == hosts).collect();
        if of_hosts.is_empty() {
            continue;
        }
        let whom = if hosts.is_empty() { "every host".to_owned() } else { format!("hosts `{hosts}`") };
        sheet.writer.comment(&format!("{}, {whom}: where browsers' defaults differ", control.name.value));
        sheet.writer.open(&selector(hosts));
        for reset in of_hosts {
            if reset.property == "user-select" {
                sheet.writer.declaration("-webkit-user-select", reset.value, Some(control.name.span));
            }
            sheet.writer.declaration(reset.property, reset.value, Some(control.name.span));
        }
        sheet.writer.close();
    }
}
