//! HTML into a [`Document`], with the place of every element.
//!
//! Templates are source, not pages: what the parser would repair is an error.

use stilk_engine::dom::{Document, NodeId};
use stilk_engine::html::{ParsedHtml, parse_content_in, piece_ends, tag_end};
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::source::{FileId, Sources, Span};

/// Elements nested deeper than this are refused.
const MAX_DEPTH: usize = 128;

/// Parses a file as the content of a `<body>`.
pub fn parse(file: FileId, sources: &Sources, diagnostics: &mut Diagnostics) -> Document {
    let text = &sources.file(file).text;
    let ParsedHtml { document, errors, .. } = parse_content_in(file, text);
    // An element that is not closed makes later tags look wrong: they are judged once that is mended.
    if check_tags(file, text, diagnostics) {
        for (span, words) in errors {
            diagnostics.push(repair(span, &words, sources));
        }
    }
    let deep = document.descendants(Document::ROOT).into_iter().find(|id| depth(&document, *id) > MAX_DEPTH);
    if let Some(id) = deep {
        let message = format!("elements are nested deeper than {MAX_DEPTH}");
        diagnostics.push(Diagnostic::error("html/syntax", document.node(id).span, message).mend("use flatter markup"));
        return Document::new();
    }
    document
}

fn depth(document: &Document, id: NodeId) -> usize {
    std::iter::successors(Some(id), |id| document.node(*id).parent).take(MAX_DEPTH + 2).count()
}

fn repair(span: Span, words: &str, sources: &Sources) -> Diagnostic {
    let tag = sources.text(span).to_owned();
    // The parser's words are for its own authors; the tag and the rule are what a person needs.
    let words = words.split(" in state").next().unwrap_or(words).trim_end_matches('.');
    let message = match tag.strip_prefix("</") {
        Some(name) => format!("`</{}>` closes nothing that is open here", name.trim_end_matches('>')),
        None if tag.starts_with('<') => format!("a browser would repair `{}` here", first_line(&tag)),
        None => format!("a browser would repair this: {}", words.to_lowercase()),
    };
    Diagnostic::error("html/syntax", span, message)
        .label("here")
        .mend("close every element in the order it was opened, and nest only what HTML allows")
}

fn first_line(text: &str) -> &str {
    text.lines().next().unwrap_or(text)
}

/// Elements whose end tag HTML lets people leave out, and those that have none.
const NO_END: [&str; 13] =
    ["area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr"];

/// The parser accepts elements that are never closed; in a template that is a mistake. Returns whether all is closed.
fn check_tags(file: FileId, text: &str, diagnostics: &mut Diagnostics) -> bool {
    let mut mistakes = Vec::new();
    let mut open: Vec<(String, Span)> = Vec::new();
    let mut start = 0;
    for end in piece_ends(text) {
        let piece = &text[start..end];
        let span = Span::new(file, start, tag_end(text, start, end));
        start = end;
        if let Some(rest) = piece.strip_prefix("</") {
            let name = tag_name(rest);
            if let Some(at) = open.iter().rposition(|(known, _)| *known == name) {
                for (name, span) in open.drain(at..).skip(1) {
                    mistakes.push(unclosed(&name, span));
                }
            }
        } else if let Some(rest) = piece.strip_prefix('<') {
            let name = tag_name(rest);
            let closed = &text[span.range()];
            if !closed.ends_with('>') {
                mistakes.push(
                    Diagnostic::error("html/syntax", span, format!("the tag `<{name}` is not closed"))
                        .label("no `>`")
                        .mend("write `>` at its end"),
                );
            } else if !name.is_empty() && !NO_END.contains(&name.as_str()) && !closed.ends_with("/>") {
                open.push((name, span));
            }
        }
    }
    mistakes.extend(open.into_iter().map(|(name, span)| unclosed(&name, span)));
    let closed = mistakes.is_empty();
    mistakes.into_iter().for_each(|mistake| diagnostics.push(mistake));
    closed
}

fn unclosed(name: &str, span: Span) -> Diagnostic {
    Diagnostic::error("html/syntax", span, format!("`<{name}>` is never closed"))
        .label("opened here")
        .mend(format!("write `</{name}>` where it ends"))
}

fn tag_name(rest: &str) -> String {
    rest.chars().take_while(|c| c.is_ascii_alphanumeric() || *c == '-').collect::<String>().to_ascii_lowercase()
}
