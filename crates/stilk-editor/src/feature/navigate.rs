//! Where a name is defined, used, and meant in this file.

use super::{FileKind, Subject, rename};
use crate::names::{Occurrence, Role, Symbol};
use crate::place::{Lines, uri_of};
use lsp_types::{DocumentHighlight, DocumentHighlightKind, Location, Position};

/// The name at a position.
pub fn name_at<'s>(subject: &Subject<'s>, position: Position) -> Option<&'s Occurrence> {
    subject.snapshot.names.at(subject.file?, subject.offset(position))
}

/// What the name at a position stands for, in pages as well, where classes say it.
pub fn symbol_at(subject: &Subject, position: Position) -> Option<Symbol> {
    match subject.kind() {
        FileKind::Page | FileKind::Other => {
            let offset = subject.offset(position);
            let found = rename::in_page(subject.snapshot, subject.text);
            found.into_iter().find(|one| one.range.start <= offset && offset <= one.range.end).map(|one| one.symbol)
        }
        _ => name_at(subject, position).map(|one| one.symbol.clone()),
    }
}

/// Where the name at a position is defined: a token in each file that does.
pub fn definition(subject: &Subject, position: Position) -> Vec<Location> {
    let Some(symbol) = symbol_at(subject, position) else { return file_at(subject, position).into_iter().collect() };
    let snapshot = subject.snapshot;
    let found = snapshot.names.definitions(&symbol).into_iter();
    found.filter_map(|one| snapshot.location(one.span, subject.client.encoding)).collect()
}

/// The file that a string in JSON or the manifest names.
fn file_at(subject: &Subject, position: Position) -> Option<Location> {
    let offset = subject.offset(position);
    let link = super::outline::links_in(subject).into_iter().find(|(range, _)| range.contains(&offset))?;
    Some(Location { uri: uri_of(&link.1)?, range: lsp_types::Range::default() })
}

/// Every place where the name at a position stands, pages included.
pub fn references(subject: &Subject, position: Position, with_definitions: bool) -> Vec<Location> {
    let Some(symbol) = symbol_at(subject, position) else { return Vec::new() };
    let (snapshot, encoding) = (subject.snapshot, subject.client.encoding);
    let wanted = |one: &&Occurrence| with_definitions || one.role != Role::Definition;
    let own = snapshot.names.of(&symbol).filter(wanted);
    let mut found: Vec<Location> = own.filter_map(|one| snapshot.location(one.span, encoding)).collect();
    for (path, text) in subject.pages {
        let lines = Lines::new(text, encoding);
        let here = rename::in_page(snapshot, text).into_iter().filter(|one| one.symbol == symbol);
        let uri = uri_of(path);
        found.extend(here.filter_map(|one| Some(Location { uri: uri.clone()?, range: lines.range(one.range) })));
    }
    found
}

/// The same name in this file.
pub fn highlights(subject: &Subject, position: Position) -> Vec<DocumentHighlight> {
    let (Some(file), Some(one)) = (subject.file, name_at(subject, position)) else { return Vec::new() };
    let here = subject.snapshot.names.of(&one.symbol).filter(|one| one.span.file == file);
    here.map(|one| DocumentHighlight {
        range: subject.range(one.span.range()),
        kind: Some(match one.role {
            Role::Read => DocumentHighlightKind::READ,
            Role::Definition | Role::Write => DocumentHighlightKind::WRITE,
        }),
    })
    .collect()
}
