//! Templates: the markup of real controls, made local.

use crate::documents::Documents;
use crate::draft::{Draft, PartDraft};
use crate::ground::Ground;
use crate::reading::part_id;
use std::collections::BTreeMap;
use stilk_engine::dom::{Document, NodeData, NodeId};
use stilk_survey::control::Found;

/// The template of a control: one element for each host.
pub fn write(ground: &Ground, documents: &Documents, draft: &Draft) -> String {
    let mut hosts: Vec<String> = Vec::new();
    for host in &draft.hosts {
        let member = &ground.members[host.member];
        let document = documents.get(member.page);
        let writer =
            Writer { document: &document, found: &member.found, draft, optional: optional(ground, documents, draft) };
        let mut text = String::new();
        writer.element(member.found.host, 0, &mut text);
        hosts.push(text);
    }
    // What the chosen ones lack and others have stands at the end of one of them.
    for part in &draft.parts {
        let has = |text: &String| text.contains(&format!(" part=\"{}\"", part.name));
        let end = |text: &String| text.rfind("</");
        let Some(text) = (!hosts.iter().any(has)).then(|| hosts.iter_mut().find(|text| end(text).is_some())).flatten()
        else {
            continue;
        };
        let written = ground.members_of(draft.family).find_map(|member| {
            let document = documents.get(member.page);
            let nodes = document.descendants(member.found.host);
            let is_it = |node: &&NodeId| {
                **node != member.found.host
                    && document.element(**node).is_some()
                    && part_id(&document, **node, &member.found) == part.id
            };
            let node = *nodes.iter().find(is_it)?;
            let writer = Writer { document: &document, found: &member.found, draft, optional: vec![part.name.clone()] };
            // The words of the control stand where they stand already.
            let mut text = "<slot>".to_owned();
            writer.element(node, 1, &mut text);
            text.strip_prefix("<slot>").map(str::to_owned)
        });
        if let (Some(written), Some(end)) = (written, end(text)) {
            text.insert_str(end, &written);
        }
    }
    hosts.into_iter().map(|text| text + "\n").collect()
}

/// Parts that not every control has.
fn optional(ground: &Ground, documents: &Documents, draft: &Draft) -> Vec<String> {
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    let mut all = 0;
    for member in ground.members_of(draft.family) {
        all += 1;
        let document = documents.get(member.page);
        let nodes = document.descendants(member.found.host);
        let has = |part: &&PartDraft| {
            let mut inside = nodes.iter().filter(|node| **node != member.found.host);
            inside.any(|node| document.element(*node).is_some() && part_id(&document, *node, &member.found) == part.id)
        };
        draft.parts.iter().filter(has).for_each(|part| *counts.entry(&part.name).or_default() += 1);
    }
    let is_rare = |part: &&PartDraft| counts.get(part.name.as_str()).copied().unwrap_or(0) < all;
    draft.parts.iter().filter(is_rare).map(|part| part.name.clone()).collect()
}

struct Writer<'w> {
    document: &'w Document,
    found: &'w Found,
    draft: &'w Draft,
    optional: Vec<String>,
}

/// Elements that have no end tag.
const VOID: [&str; 6] = ["input", "img", "br", "hr", "wbr", "area"];

/// Attributes that say what an element is; all others are the page's.
const KEPT: [&str; 14] = [
    "type",
    "role",
    "href",
    "placeholder",
    "rows",
    "cols",
    "size",
    "min",
    "max",
    "step",
    "multiple",
    "viewBox",
    "d",
    "aria-hidden",
];

impl Writer<'_> {
    fn part(&self, node: NodeId) -> Option<&PartDraft> {
        let id = part_id(self.document, node, self.found);
        self.draft.parts.iter().find(|part| node != self.found.host && part.id == id)
    }

    fn element(&self, node: NodeId, depth: usize, text: &mut String) {
        let Some(element) = self.document.element(node) else { return };
        let local = element.local().to_owned();
        text.push_str(&format!("<{local}"));
        if let Some(part) = self.part(node) {
            text.push_str(&format!(" part=\"{}\"", part.name));
            if self.optional.contains(&part.name) {
                text.push_str(" data-when");
            }
        }
        for name in KEPT {
            let Some(value) = element.attribute(name) else { continue };
            let value = if name == "href" { "#" } else { value };
            match value {
                "" => text.push_str(&format!(" {name}")),
                value => text.push_str(&format!(" {name}=\"{}\"", escaped(value, true))),
            }
        }
        if local == "input" && matches!(element.attribute("type"), Some("submit" | "reset" | "button")) {
            text.push_str(&format!(" value=\"{}\"", escaped(element.attribute("value").unwrap_or("Go"), true)));
        }
        if let Some(label) = element.attribute("aria-label") {
            text.push_str(&format!(" aria-label=\"{}\"", escaped(label, true)));
        }
        text.push('>');
        if VOID.contains(&local.as_str()) {
            return;
        }
        self.children(node, depth, text);
        text.push_str(&format!("</{local}>"));
    }

    fn children(&self, node: NodeId, depth: usize, text: &mut String) {
        let element = self.document.element(node);
        // What is in a list or a drawing is as it is.
        let local = element.map(|element| element.local().to_owned()).unwrap_or_default();
        let is_whole = matches!(local.as_str(), "select" | "svg" | "option" | "optgroup" | "textarea");
        let is_placed_for_text = node == self.found.host || self.part(node).is_some();
        for child in &self.document.node(node).children {
            match &self.document.node(*child).data {
                NodeData::Text(words) if words.is_empty() || is_whole && words.trim().is_empty() => {}
                NodeData::Text(words) if words.trim().is_empty() => text.push(' '),
                NodeData::Text(words) => {
                    let words = words.split_whitespace().collect::<Vec<_>>().join(" ");
                    let slot = is_placed_for_text && !is_whole && self.is_new_host(text);
                    match slot {
                        true => text.push_str(&format!("<slot>{}</slot>", escaped(&words, false))),
                        false => text.push_str(&escaped(&words, false)),
                    }
                }
                NodeData::Element(_) => {
                    // A space that the text before it ended with.
                    if ends_with_space(self.document, node, *child) && !text.ends_with(' ') {
                        text.push(' ');
                    }
                    self.element(*child, depth + 1, text);
                    if begins_with_space(self.document, node, *child) {
                        text.push(' ');
                    }
                }
                _ => {}
            }
        }
    }

    /// Whether no text of this host was written yet.
    fn is_new_host(&self, text: &str) -> bool {
        !text.contains("<slot>")
    }
}

fn sibling_text(document: &Document, parent: NodeId, child: NodeId, offset: isize) -> Option<String> {
    let children = &document.node(parent).children;
    let at = children.iter().position(|one| *one == child)?;
    let other = children.get(at.checked_add_signed(offset)?)?;
    match &document.node(*other).data {
        NodeData::Text(text) => Some(text.clone()),
        _ => None,
    }
}

fn ends_with_space(document: &Document, parent: NodeId, child: NodeId) -> bool {
    sibling_text(document, parent, child, -1)
        .is_some_and(|text| !text.trim().is_empty() && text.ends_with(char::is_whitespace))
}

fn begins_with_space(document: &Document, parent: NodeId, child: NodeId) -> bool {
    sibling_text(document, parent, child, 1)
        .is_some_and(|text| !text.trim().is_empty() && text.starts_with(char::is_whitespace))
}

fn escaped(text: &str, in_attribute: bool) -> String {
    let text = text.replace('&', "&amp;").replace('<', "&lt;");
    if in_attribute { text.replace('"', "&quot;") } else { text }
}
