//! `foreign/lacks-class`: a control with a variant's class has its family's as well.

use super::{Kind, Said, finding};
use crate::control::tag;
use crate::family::{Chooser, Family};
use std::collections::BTreeMap;
use stilk_engine::dom::{Document, NodeId};
use stilk_text::diagnostic::Level;
use stilk_text::source::Span;

/// What it is.
pub const KIND: Kind = Kind {
    id: "foreign/lacks-class",
    summary: "a control that has a variant's class has its family's class as well",
    why: "`cta-ghost` is written to stand beside `cta`: alone it gives a button half of a look.",
    level: Level::Warning,
    mend: "Add the family's class.",
    source: "the site's own markup: elsewhere both classes stand together",
    fails: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             .act-calm { background: none; color: #14536b }\n\
             </style>\n\
             <button class=\"act act-calm\">More</button>\n\
             <button class=\"act-calm\">Less</button>\n\
             ",
    passes: "<style>\n\
             .act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px/1.5 serif; text-decoration: none }\n\
             .act-calm { background: none; color: #14536b }\n\
             </style>\n\
             <button class=\"act act-calm\">More</button>\n\
             <button class=\"act act-calm\">Less</button>\n\
             ",
};

/// An element with a class of several words.
pub struct Classed {
    /// Its page, by index.
    pub page: usize,
    /// Where its tag stands.
    pub span: Option<Span>,
    /// How a person points at it.
    pub tag: String,
    /// Its classes.
    pub classes: Vec<String>,
    /// How many of its page have the same.
    pub count: u64,
}

/// Elements that people press or fill in and that have a class of several words, of a page.
pub fn classed(page: usize, document: &Document) -> Vec<Classed> {
    const PRESSED: [&str; 8] = ["a", "button", "input", "select", "textarea", "label", "span", "div"];
    let mut known: BTreeMap<String, usize> = BTreeMap::new();
    let mut found: Vec<Classed> = Vec::new();
    let of = |node: NodeId| {
        let element = document.element(node).filter(|element| PRESSED.contains(&element.local()))?;
        let has_words = element.classes.iter().any(|class| class.trim_start_matches(['-', '_']).contains(['-', '_']));
        has_words.then(|| Classed {
            page,
            span: document.node(node).span,
            tag: tag(document, node),
            classes: element.classes.iter().map(ToString::to_string).collect(),
            count: 1,
        })
    };
    for one in document.descendants(Document::ROOT).into_iter().filter_map(of) {
        let key = format!("{} {}", one.tag, one.classes.join(" "));
        match known.get(&key) {
            Some(at) => found[*at].count += 1,
            None => {
                known.insert(key, found.len());
                found.push(one);
            }
        }
    }
    found
}

/// Looks at such an element.
pub fn look(one: &Classed, families: &[Family], place: &str) -> Option<Said> {
    for family in families.iter().filter(|family| family.is_styled) {
        for base in family.name.split(", ").filter_map(|key| key.strip_prefix('.')) {
            if one.classes.iter().any(|class| class == base) {
                continue;
            }
            let is_option = |class: &&String| {
                let of_family = family
                    .axes
                    .iter()
                    .flat_map(|axis| &axis.options)
                    .any(|(option, _)| matches!(option, Chooser::Class(name) if name == *class));
                of_family && class.strip_prefix(base).is_some_and(|rest| rest.starts_with(['-', '_']))
            };
            let Some(class) = one.classes.iter().find(is_option) else { continue };
            let message = format!("{} has `{class}` without `{base}`", one.tag);
            let diagnostic = finding(&KIND, one.span, message)
                .label("half of a look")
                .mend(format!("write `class=\"{base} {}\"`", one.classes.join(" ")));
            return Some(Said {
                cause: format!("{class} {base}"),
                diagnostic,
                place: place.to_owned(),
                controls: one.count,
                page: one.page,
                family: family.name.clone(),
            });
        }
    }
    None
}
