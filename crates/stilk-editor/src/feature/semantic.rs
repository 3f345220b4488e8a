//! What each word means, for colouring.

use super::{FileKind, Subject};
use crate::names::{OwnKind, Role, Symbol};
use lsp_types::{SemanticToken, SemanticTokenModifier, SemanticTokenType};
use stilk_language::sheet::{Item, Sheet, Value};

/// The types that are told, in the order of their numbers.
pub const TYPES: [SemanticTokenType; 10] = [
    SemanticTokenType::VARIABLE,
    SemanticTokenType::PARAMETER,
    SemanticTokenType::PROPERTY,
    SemanticTokenType::ENUM_MEMBER,
    SemanticTokenType::ENUM,
    SemanticTokenType::CLASS,
    SemanticTokenType::INTERFACE,
    SemanticTokenType::EVENT,
    SemanticTokenType::FUNCTION,
    SemanticTokenType::KEYWORD,
];

/// The modifiers that are told, in the order of their bits.
pub const MODIFIERS: [SemanticTokenModifier; 2] =
    [SemanticTokenModifier::DEFINITION, SemanticTokenModifier::DEPRECATED];

/// Every value in a sheet, with the name of its declaration where it has one.
pub fn values<'s>(sheet: &'s Sheet, found: &mut dyn FnMut(Option<&'s str>, &'s Value)) {
    sheet.derived.iter().for_each(|node| found(None, &node.value));
    sheet.keyframes.iter().for_each(|node| found(None, &node.body));
    for node in sheet.font_faces.iter().chain(&sheet.properties) {
        node.descriptors.iter().for_each(|one| found(Some(&one.name.value), &one.value));
    }
    let mut left: Vec<&'s [Item]> = sheet.controls.iter().map(|node| node.body.as_slice()).collect();
    left.extend(sheet.traits.iter().map(|node| node.body.as_slice()));
    while let Some(items) = left.pop() {
        for item in items {
            match item {
                Item::Declaration(one) => found(Some(&one.name.value), &one.value),
                Item::Condition(condition, _) => found(None, &condition.prelude),
                _ => {}
            }
            left.extend(item.bodies());
        }
    }
}

/// Every name of a file with its type, as the protocol has them: each from where the one before it begins.
pub fn tokens(subject: &Subject) -> Vec<SemanticToken> {
    let Some(file) = subject.file else { return Vec::new() };
    if matches!(subject.kind(), FileKind::Page | FileKind::Other) {
        return Vec::new();
    }
    let deprecated = subject.snapshot.tokens();
    let mut found = Vec::new();
    let (mut line, mut character, mut end) = (0, 0, 0);
    let lines = subject.lines();
    for one in subject.snapshot.names.of_file(file) {
        let kind = match &one.symbol {
            Symbol::Token(_) => 0,
            Symbol::Own(OwnKind::Local, ..) => 1,
            Symbol::Own(OwnKind::Part, ..) => 2,
            Symbol::Own(OwnKind::Option, ..) => 3,
            Symbol::Own(OwnKind::Axis, ..) => 4,
            Symbol::Control(_) => 5,
            Symbol::Trait(_) => 6,
            Symbol::State(_) => 7,
            Symbol::Keyframes(_) => 8,
        };
        // Of two at one place the first is told; none goes over a line.
        let range = lines.of(one.span);
        if one.span.start < end || range.start.line != range.end.line {
            continue;
        }
        end = one.span.end;
        let mut modifiers = u32::from(one.role == Role::Definition);
        if let (Symbol::Token(path), Some(tokens)) = (&one.symbol, deprecated)
            && tokens.find_path(path).is_some_and(|id| tokens.get(id).deprecated.is_some())
        {
            modifiers |= 2;
        }
        let delta_line = range.start.line - line;
        found.push(SemanticToken {
            delta_line,
            delta_start: if delta_line == 0 { range.start.character - character } else { range.start.character },
            length: range.end.character - range.start.character,
            token_type: kind,
            token_modifiers_bitset: modifiers,
        });
        (line, character) = (range.start.line, range.start.character);
    }
    found
}
