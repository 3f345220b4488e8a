//! `$extends` of groups (Design Tokens Format 2025.10, section 6.5): a group begins as a copy of another and overrides
//! it token by token.

use super::document::MAX_DEPTH;
use crate::limits::MAX_COPIED;
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::json::{Json, Node};
use stilk_text::source::{Name, Span};

/// A document with every `$extends` carried out.
pub fn expand(root: &Node, diagnostics: &mut Diagnostics) -> Node {
    Expander { root, diagnostics, open: Vec::new(), copied: 0 }.group(root, 0)
}

struct Expander<'e> {
    root: &'e Node,
    diagnostics: &'e mut Diagnostics,
    /// Groups being expanded, by place: meeting one again is a circle.
    open: Vec<Span>,
    /// How many entries were copied.
    copied: usize,
}

impl Expander<'_> {
    fn group(&mut self, group: &Node, depth: usize) -> Node {
        let Json::Object(entries) = &group.json else { return group.clone() };
        if depth > MAX_DEPTH || group.get("$value").is_some() {
            return group.clone();
        }
        self.copied += if self.open.is_empty() { 0 } else { entries.len() };
        let mut own = Vec::new();
        for (name, node) in entries {
            own.push((
                name.clone(),
                if name.value.starts_with('$') { node.clone() } else { self.group(node, depth + 1) },
            ));
        }
        if let Some(reference) = group.get("$extends")
            && let Some(base) = self.base(group, reference, depth)
        {
            own = merge(base, own);
        }
        Node { json: Json::Object(own), span: group.span }
    }

    fn base(&mut self, group: &Node, reference: &Node, depth: usize) -> Option<Vec<(Name, Node)>> {
        let text = reference.as_str().or_else(|| reference.get("$ref")?.as_str()).unwrap_or_default();
        let path: Vec<&str> = match (text.strip_prefix('{').and_then(|t| t.strip_suffix('}')), text.strip_prefix("#/"))
        {
            (Some(path), _) => path.split('.').collect(),
            (_, Some(pointer)) => pointer.split('/').collect(),
            _ => Vec::new(),
        };
        let found = path.iter().try_fold(self.root, |node, name| node.get(name));
        let Some(found) = found.filter(|node| !path.is_empty() && node.get("$value").is_none()) else {
            self.say(
                reference.span,
                format!("`{text}` names no group of this file"),
                "write `\"$extends\": \"{group}\"`",
            );
            return None;
        };
        if found.span == group.span || self.open.contains(&found.span) {
            self.say(reference.span, "groups extend each other in a circle".into(), "let one of them stand alone");
            return None;
        }
        if self.copied > MAX_COPIED {
            let message = format!("groups that extend each other come to more than {MAX_COPIED} entries");
            self.say(reference.span, message, "let fewer groups extend others that do so too");
            return None;
        }
        self.open.push(group.span);
        let base = self.group(found, depth + 1);
        self.open.pop();
        match base.json {
            Json::Object(entries) => Some(entries),
            _ => None,
        }
    }

    fn say(&mut self, span: Span, message: String, mend: &str) {
        self.diagnostics.push(Diagnostic::error("token/extends", span, message).label("here").mend(mend));
    }
}

/// The group's own entries over those of its base: tokens replace, groups merge.
fn merge(base: Vec<(Name, Node)>, own: Vec<(Name, Node)>) -> Vec<(Name, Node)> {
    let mut merged = base;
    for (name, node) in own {
        match merged.iter_mut().find(|(known, _)| known.value == name.value) {
            Some((_, known)) => match (&mut known.json, node.json) {
                (Json::Object(below), Json::Object(above))
                    if !above.iter().any(|(n, _)| n.value == "$value") && !name.value.starts_with('$') =>
                {
                    *below = merge(std::mem::take(below), above);
                }
                (_, json) => *known = Node { json, span: node.span },
            },
            None => merged.push((name, node)),
        }
    }
    merged.retain(|(name, _)| name.value != "$extends");
    merged
}
