//! Markup that people write by hand.

pub mod class;
pub mod context;
pub mod count;
pub mod form;
pub mod group;
pub mod id;
pub mod inside;
pub mod label;
pub mod nesting;
pub mod part;
pub mod role;
pub mod stylesheet;
pub mod r#type;

use crate::visit::VisitedPage;
use stilk_engine::dom::NodeId;
use stilk_text::source::Span;

/// The tag of an element as it is written, shortened.
fn tag(visit: &VisitedPage, node: NodeId) -> String {
    let text = visit.span(node).map_or("", |span| visit.sources.text(span));
    let line = text.split_whitespace().collect::<Vec<_>>().join(" ");
    match line.char_indices().nth(60) {
        Some((at, _)) => format!("{}…", &line[..at]),
        None => line,
    }
}

/// Where a word stands in an element's tag; the tag where it is not found.
fn word_in_tag(visit: &VisitedPage, node: NodeId, word: &str) -> Option<Span> {
    let span = visit.span(node)?;
    let text = visit.sources.text(span);
    let is_end = |c: Option<char>| c.is_none_or(|c| !c.is_alphanumeric() && c != '-' && c != '_');
    let found = text
        .match_indices(word)
        .find(|(at, _)| is_end(text[..*at].chars().next_back()) && is_end(text[at + word.len()..].chars().next()));
    Some(match found {
        Some((at, _)) => {
            let start = span.start as usize + at;
            Span::new(span.file, start, start + word.len())
        }
        None => span,
    })
}

/// Whether an element takes an entry or a choice.
fn is_field(visit: &VisitedPage, node: NodeId) -> bool {
    const BUTTONS: [&str; 5] = ["submit", "reset", "button", "image", "hidden"];
    match visit.local(node) {
        "select" | "textarea" => true,
        "input" => {
            let kind = visit.attribute(node, "type").unwrap_or("text").to_ascii_lowercase();
            !BUTTONS.contains(&kind.as_str())
        }
        _ => false,
    }
}
