//! Pages that people wrote: their document and the stylesheets they use, in the order of the cascade.

use crate::dom::{Document, Element, NodeData, NodeId};
use crate::html::{ParsedHtml, parse_page, parse_page_in};
use std::borrow::Cow;
use stilk_text::source::FileId;

/// A page.
#[derive(Debug, Clone)]
pub struct Page {
    /// Its document.
    pub document: Document,
    /// Its stylesheets, in document order.
    pub sheets: Vec<PageSheet>,
}

/// A stylesheet of a page.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PageSheet {
    /// Its element.
    pub node: NodeId,
    /// Where its text is.
    pub source: SheetSource,
    /// The media it is for; empty for all.
    pub media: String,
}

/// Where a stylesheet's text is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum SheetSource {
    /// In a `<style>` element: its text.
    Inline(String),
    /// Behind a `<link>`: its address as written.
    Linked(String),
}

impl Page {
    /// Reads a page. Like browsers, it takes any text.
    pub fn parse(text: &str) -> Page {
        Page::of(parse_page(text))
    }

    /// Reads a page whose elements keep their places in a file.
    pub fn parse_in(file: FileId, text: &str) -> Page {
        Page::of(parse_page_in(file, text))
    }

    fn of(parsed: ParsedHtml) -> Page {
        let document = parsed.document;
        let sheets =
            document.descendants(Document::ROOT).into_iter().filter_map(|node| sheet(&document, node)).collect();
        Page { document, sheets }
    }

    /// The address that those on the page begin at, as written (HTML, section 4.2.3).
    pub fn base(&self) -> Option<&str> {
        self.named("base").find_map(|element| element.attribute("href"))
    }

    /// The encoding that the page says it is in (HTML, sections 4.2.5.3 and 4.2.5.4).
    pub fn charset(&self) -> Option<String> {
        self.named("meta").find_map(|element| {
            if let Some(charset) = element.attribute("charset") {
                return Some(charset.trim().to_owned());
            }
            let says = element.attribute("http-equiv").is_some_and(|name| name.eq_ignore_ascii_case("content-type"));
            let content = element.attribute("content").filter(|_| says)?.to_ascii_lowercase();
            let rest = content.split_once("charset")?.1.trim_start().strip_prefix('=')?.trim_start();
            let rest = rest.trim_start_matches(['"', '\'']);
            Some(rest.split(['"', '\'', ';', ' ']).next().unwrap_or_default().to_owned())
        })
    }

    fn named(&self, name: &'static str) -> impl Iterator<Item = &Element> {
        let nodes = self.document.descendants(Document::ROOT).into_iter();
        nodes.filter_map(|node| self.document.element(node)).filter(move |element| element.local() == name)
    }

    /// The element with an id; the first, if there are several.
    pub fn by_id(&self, id: &str) -> Option<NodeId> {
        let has_id = |node: &NodeId| self.document.element(*node).is_some_and(|e| e.attribute("id") == Some(id));
        self.document.descendants(Document::ROOT).into_iter().find(has_id)
    }
}

fn sheet(document: &Document, node: NodeId) -> Option<PageSheet> {
    let element = document.element(node)?;
    let media = element.attribute("media").unwrap_or_default().to_owned();
    let source = match element.local() {
        "style" if element.attribute("type").is_none_or(|t| t.is_empty() || t.eq_ignore_ascii_case("text/css")) => {
            let text = document.node(node).children.iter().filter_map(|child| match &document.node(*child).data {
                NodeData::Text(text) => Some(text.as_str()),
                _ => None,
            });
            SheetSource::Inline(text.collect())
        }
        "link" => {
            let words: Vec<String> =
                element.attribute("rel")?.split_ascii_whitespace().map(str::to_ascii_lowercase).collect();
            let has = |word: &str| words.iter().any(|known| known == word);
            // An alternative stylesheet is off until someone chooses it (HTML, section 4.6.7.1).
            if !has("stylesheet") || has("alternate") || element.attribute("disabled").is_some() {
                return None;
            }
            SheetSource::Linked(element.attribute("href")?.to_owned())
        }
        _ => return None,
    };
    Some(PageSheet { node, source, media })
}

/// The text of a stylesheet under the media it is for, and how many bytes stand before its own.
pub fn in_media<'t>(text: &'t str, media: &str) -> (Cow<'t, str>, i64) {
    match media.trim() {
        "" | "all" | "screen" => (Cow::Borrowed(text), 0),
        media => (Cow::Owned(format!("@media {media} {{{text}}}")), media.len() as i64 + 9),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn stylesheets_come_in_document_order() {
        let page = Page::parse(
            "<!doctype html><link rel=stylesheet href=a.css media=print><style>p{}</style>
             <link rel='alternate stylesheet' href=b.css><template><style>no</style></template><p id=t><style>q{}",
        );
        let sources: Vec<&SheetSource> = page.sheets.iter().map(|sheet| &sheet.source).collect();
        let inline = |text: &str| SheetSource::Inline(text.into());
        assert_eq!(sources, [&SheetSource::Linked("a.css".into()), &inline("p{}"), &inline("q{}")]);
        assert_eq!(page.sheets[0].media, "print");
        assert!(!page.document.quirks && page.by_id("t").is_some());
    }

    #[test]
    fn what_is_nested_too_deep_stands_beside() {
        let page = Page::parse(&"<div>".repeat(20_000));
        assert!(page.document.len() > 20_000);
        let nodes = page.document.descendants(Document::ROOT);
        let depth = |node| std::iter::successors(Some(node), |id| page.document.node(*id).parent).count();
        assert_eq!(nodes.into_iter().map(depth).max(), Some(513));
    }
}
