//! What a file is made of: symbols, folding, what is selected by and by, links to other files.

use super::{FileKind, Subject};
use crate::context::sheet::{Block, blocks};
use crate::names::{OwnKind, Role, Symbol};
use crate::place::uri_of;
use crate::snapshot::Snapshot;
use lsp_types::{
    DocumentLink, DocumentSymbol, FoldingRange, FoldingRangeKind, Position, SelectionRange, SymbolInformation,
    SymbolKind,
};
use std::ops::Range;
use stilk_text::json::{Json, Node};

/// The symbols of a file, in each other as they stand.
pub fn symbols(subject: &Subject) -> Vec<DocumentSymbol> {
    match subject.kind() {
        FileKind::Sheet => {
            let blocks = blocks(subject.text);
            let top: Vec<usize> = (0..blocks.len()).filter(|at| blocks[*at].parent.is_none()).collect();
            top.into_iter().filter_map(|at| of_block(subject, &blocks, at)).collect()
        }
        FileKind::Tokens | FileKind::Resolver => {
            document_of(subject).map(|root| of_object(subject, root, 0)).unwrap_or_default()
        }
        FileKind::Manifest => tables(subject.text)
            .into_iter()
            .map(|(name, head, whole)| symbol(subject, name, SymbolKind::MODULE, whole, head, Vec::new()))
            .collect(),
        FileKind::Template => {
            let names = subject.file.map(|file| subject.snapshot.names.of_file(file)).unwrap_or_default();
            let parts = names.iter().filter(|one| one.role == Role::Definition);
            parts
                .filter(|one| matches!(one.symbol, Symbol::Own(OwnKind::Part, ..)))
                .map(|one| {
                    let range = one.span.range();
                    symbol(subject, one.symbol.name().to_owned(), SymbolKind::FIELD, range.clone(), range, Vec::new())
                })
                .collect()
        }
        FileKind::Page | FileKind::Other => Vec::new(),
    }
}

#[allow(deprecated, reason = "the protocol's struct has a field that is no more used, and no constructor")]
fn symbol(
    subject: &Subject,
    name: String,
    kind: SymbolKind,
    whole: Range<usize>,
    head: Range<usize>,
    children: Vec<DocumentSymbol>,
) -> DocumentSymbol {
    DocumentSymbol {
        name,
        detail: None,
        kind,
        tags: None,
        deprecated: None,
        range: subject.range(whole),
        selection_range: subject.range(head),
        children: (!children.is_empty()).then_some(children),
    }
}

fn of_block(subject: &Subject, all: &[Block], at: usize) -> Option<DocumentSymbol> {
    let block = &all[at];
    let head = subject.text[block.head.clone()].trim();
    let name = head.lines().next().unwrap_or_default().to_owned();
    if name.is_empty() {
        return None;
    }
    let kind = match head.split(|c: char| !c.is_alphanumeric() && c != '@').next().unwrap_or_default() {
        "@control" => SymbolKind::CLASS,
        "@trait" => SymbolKind::INTERFACE,
        "@axis" => SymbolKind::ENUM,
        "@part" => SymbolKind::FIELD,
        "@state" => SymbolKind::EVENT,
        "@option" => SymbolKind::ENUM_MEMBER,
        "@keyframes" => SymbolKind::FUNCTION,
        rule if rule.starts_with('@') => SymbolKind::NAMESPACE,
        _ => SymbolKind::ENUM_MEMBER,
    };
    let inner: Vec<usize> = (0..all.len()).filter(|inner| all[*inner].parent == Some(at)).collect();
    // Deeper than this nobody looks in a list.
    let children = if block.depth < 3 {
        inner.into_iter().filter_map(|at| of_block(subject, all, at)).collect()
    } else {
        Vec::new()
    };
    Some(symbol(subject, name, kind, block.head.start..block.body.end, block.head.clone(), children))
}

fn document_of<'s>(subject: &Subject<'s>) -> Option<&'s Node> {
    let documents = subject.snapshot.trees.documents.iter();
    documents.filter(|(file, _)| Some(*file) == subject.file).map(|(_, root)| root).next()
}

fn of_object(subject: &Subject, node: &Node, depth: usize) -> Vec<DocumentSymbol> {
    let named = node
        .entries()
        .iter()
        .filter(|(name, inner)| !name.value.starts_with('$') && matches!(inner.json, Json::Object(_)));
    named
        .map(|(name, inner)| {
            let is_token = inner.get("$value").is_some();
            let children = if is_token || depth > 16 { Vec::new() } else { of_object(subject, inner, depth + 1) };
            let kind = if is_token { SymbolKind::CONSTANT } else { SymbolKind::NAMESPACE };
            let whole = name.span.to(inner.span).range();
            symbol(subject, name.value.clone(), kind, whole, name.span.range(), children)
        })
        .collect()
}

/// The tables of a manifest: name, head, and the whole of each.
fn tables(text: &str) -> Vec<(String, Range<usize>, Range<usize>)> {
    let mut found: Vec<(String, Range<usize>, Range<usize>)> = Vec::new();
    let mut at = 0;
    for line in text.split_inclusive('\n') {
        let trimmed = line.trim_start();
        if let Some((name, _)) = trimmed.strip_prefix('[').and_then(|rest| rest.split_once(']'))
            && !trimmed.starts_with("[[")
        {
            let start = at + line.len() - trimmed.len();
            found.push((name.trim().to_owned(), start..start + name.len() + 2, start..start));
        }
        if let Some(last) = found.last_mut().filter(|_| !line.trim().is_empty()) {
            last.2.end = at + line.trim_end().len();
        }
        at += line.len();
    }
    found
}

/// Names of the whole project that hold a query's characters in order.
#[allow(deprecated, reason = "the protocol's struct has a field that is no more used, and no constructor")]
pub fn of_workspace(snapshot: &Snapshot, query: &str, client: super::Client) -> Vec<SymbolInformation> {
    const MOST: usize = 200;
    let query = query.to_lowercase();
    let fits = |name: &str| {
        let mut left = name.chars().flat_map(char::to_lowercase);
        query.chars().all(|c| left.any(|other| other == c))
    };
    let mut symbols: Vec<&Symbol> = snapshot.names.symbols().filter(|symbol| fits(symbol.name())).collect();
    symbols.sort_by_key(|symbol| (symbol.name().len(), (*symbol).clone()));
    let mut found = Vec::new();
    for symbol in symbols {
        let kind = match symbol {
            Symbol::Token(_) => SymbolKind::CONSTANT,
            Symbol::Control(_) => SymbolKind::CLASS,
            Symbol::Trait(_) => SymbolKind::INTERFACE,
            Symbol::Keyframes(_) => SymbolKind::FUNCTION,
            Symbol::State(_) => SymbolKind::EVENT,
            Symbol::Own(OwnKind::Local, ..) => SymbolKind::VARIABLE,
            Symbol::Own(OwnKind::Part, ..) => SymbolKind::FIELD,
            Symbol::Own(OwnKind::Axis, ..) => SymbolKind::ENUM,
            Symbol::Own(OwnKind::Option, ..) => SymbolKind::ENUM_MEMBER,
        };
        let container_name = match symbol {
            Symbol::Own(_, owner, _) => Some(owner.trim_start_matches('@').to_owned()),
            _ => None,
        };
        let definitions = snapshot.names.of(symbol).filter(|one| one.role == Role::Definition);
        found.extend(definitions.filter_map(|one| {
            Some(SymbolInformation {
                name: symbol.name().to_owned(),
                kind,
                tags: None,
                deprecated: None,
                location: snapshot.location(one.span, client.encoding)?,
                container_name: container_name.clone(),
            })
        }));
        if found.len() >= MOST {
            break;
        }
    }
    found
}

/// What of a file can be folded.
pub fn folding(subject: &Subject) -> Vec<FoldingRange> {
    let mut ranges: Vec<(Range<usize>, Option<FoldingRangeKind>)> = match subject.kind() {
        FileKind::Sheet => blocks(subject.text).into_iter().map(|block| (block.body, None)).collect(),
        FileKind::Tokens | FileKind::Resolver => {
            let mut found = Vec::new();
            let mut left: Vec<&Node> = document_of(subject).into_iter().collect();
            while let Some(node) = left.pop() {
                match &node.json {
                    Json::Object(entries) => left.extend(entries.iter().map(|(_, inner)| inner)),
                    Json::Array(items) => left.extend(items),
                    _ => continue,
                }
                found.push((node.span.range(), None));
            }
            found
        }
        FileKind::Manifest => tables(subject.text).into_iter().map(|(_, _, whole)| (whole, None)).collect(),
        _ => Vec::new(),
    };
    if subject.kind() == FileKind::Sheet {
        let comments = comments(subject.text).into_iter();
        ranges.extend(comments.map(|comment| (comment, Some(FoldingRangeKind::Comment))));
    }
    let lines = subject.lines();
    let folded = ranges.into_iter().filter_map(|(range, kind)| {
        let range = lines.range(range);
        (range.end.line > range.start.line).then_some(FoldingRange {
            start_line: range.start.line,
            end_line: range.end.line,
            kind,
            ..FoldingRange::default()
        })
    });
    let mut folded: Vec<FoldingRange> = folded.collect();
    folded.sort_by_key(|range| (range.start_line, std::cmp::Reverse(range.end_line)));
    folded
}

fn comments(text: &str) -> Vec<Range<usize>> {
    let mut found = Vec::new();
    let mut from = 0;
    while let Some(start) = text[from..].find("/*").map(|at| from + at) {
        let end = text[start..].find("*/").map_or(text.len(), |end| start + end + 2);
        found.push(start..end);
        from = end;
    }
    found
}

/// What is selected at a position, and what around it by and by.
pub fn selection(subject: &Subject, position: Position) -> SelectionRange {
    let offset = subject.offset(position);
    let mut ranges: Vec<Range<usize>> = Vec::from([Range { start: 0, end: subject.text.len() }]);
    match subject.kind() {
        FileKind::Tokens | FileKind::Resolver => {
            let mut node = document_of(subject);
            while let Some(here) = node {
                ranges.push(here.span.range());
                let inner: Vec<(Option<Range<usize>>, &Node)> = match &here.json {
                    Json::Object(entries) => {
                        entries.iter().map(|(name, inner)| (Some(name.span.to(inner.span).range()), inner)).collect()
                    }
                    Json::Array(items) => items.iter().map(|item| (None, item)).collect(),
                    _ => Vec::new(),
                };
                node = None;
                for (whole, inner) in inner {
                    let range = whole.clone().unwrap_or_else(|| inner.span.range());
                    if range.start <= offset && offset <= range.end {
                        ranges.extend(whole);
                        node = Some(inner);
                    }
                }
            }
        }
        FileKind::Sheet => {
            for block in blocks(subject.text) {
                if block.head.start <= offset && offset <= block.body.end {
                    ranges.push(block.head.start..block.body.end);
                    if block.body.contains(&offset) {
                        ranges.push(block.body);
                    }
                }
            }
            let start = subject.text[..offset].rfind(['{', '}', ';']).map_or(0, |at| at + 1);
            let end = subject.text[offset..].find([';', '\n']).map_or(subject.text.len(), |at| offset + at);
            let statement = &subject.text[start..end];
            let start = start + (statement.len() - statement.trim_start().len());
            if start < end && start <= offset {
                ranges.push(start..end);
            }
        }
        _ => {}
    }
    if let Some(one) = subject.file.and_then(|file| subject.snapshot.names.at(file, offset)) {
        ranges.push(one.span.range());
    }
    // Each within the one before it.
    ranges.sort_by_key(|range| std::cmp::Reverse(range.len()));
    let mut nested: Vec<Range<usize>> = Vec::new();
    for range in ranges {
        let fits = nested.last().is_none_or(|around| around.start <= range.start && range.end <= around.end);
        if fits && nested.last() != Some(&range) {
            nested.push(range);
        }
    }
    let mut selection: Option<Box<SelectionRange>> = None;
    for range in nested {
        selection = Some(Box::new(SelectionRange { range: subject.range(range), parent: selection }));
    }
    selection.map_or_else(|| SelectionRange { range: subject.range(offset..offset), parent: None }, |boxed| *boxed)
}

/// Strings that name files of the project: where they stand, and the absolute path.
pub fn links_in(subject: &Subject) -> Vec<(Range<usize>, String)> {
    let snapshot = subject.snapshot;
    let folder = subject.path.rsplit_once('/').map_or("", |(folder, _)| folder);
    let mut found = Vec::new();
    if !matches!(subject.kind(), FileKind::Resolver | FileKind::Manifest) {
        return found;
    }
    let text = subject.text;
    let mut from = 0;
    while let Some(start) = text[from..].find('"').map(|at| from + at + 1) {
        let Some(end) = text[start..].find(['"', '\n']).map(|at| start + at) else { break };
        from = end + 1;
        let path = format!("{folder}/{}", &text[start..end]);
        if snapshot.file_at(&path).is_some() {
            found.push((start..end, path));
        }
    }
    found
}

/// Links to other files.
pub fn links(subject: &Subject) -> Vec<DocumentLink> {
    let link = |(range, path): (Range<usize>, String)| {
        Some(DocumentLink { range: subject.range(range), target: Some(uri_of(&path)?), tooltip: None, data: None })
    };
    links_in(subject).into_iter().filter_map(link).collect()
}
