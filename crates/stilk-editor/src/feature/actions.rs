//! What can be written instead: mends of findings, what messages say to write, and changes that nobody has to type.

use super::{FileKind, Subject};
use crate::context::sheet::blocks;
use crate::place::uri_of;
use crate::snapshot::Snapshot;
use lsp_types::{
    CodeAction, CodeActionKind, Diagnostic, DocumentChanges, OneOf, OptionalVersionedTextDocumentIdentifier, Range,
    TextDocumentEdit, TextEdit, WorkspaceEdit,
};
use std::collections::BTreeMap;
use stilk_checks::mend::color::{color_of, distance};
use stilk_engine::css::PropertyName;
use stilk_engine::css::color::Absolute;
use stilk_language::sheet::{Declaration, Item, ValuePiece};
use stilk_language::tokens::TokenId;
use stilk_text::diagnostic::{self as said, Edit};
use stilk_text::source::Span;

/// What is known of a project's faults when actions are asked for.
pub struct Known<'k> {
    /// All that is said of the texts as they are.
    pub said: &'k [said::Diagnostic],
    /// What is said of the page, where it is one.
    pub of_page: &'k [Diagnostic],
    /// Which version of a file the text is of, by absolute path.
    pub version: &'k dyn Fn(&str) -> Option<i32>,
    /// Whether reading no longer says something once these edits are made, and nothing worse.
    pub clears: &'k dyn Fn(&[Edit], &said::Diagnostic) -> bool,
    /// Whether there are no more errors once these edits are made than there are now.
    pub holds: &'k dyn Fn(&[Edit]) -> bool,
}

/// What can be done in a range of a file.
pub fn actions(subject: &Subject, range: Range, known: &Known) -> Vec<CodeAction> {
    let start = subject.offset(range.start);
    let end = subject.offset(range.end);
    let mut found = Vec::new();
    let Some(file) = subject.file else { return on_page(subject, range, known) };
    // Of several findings that one edit mends, all are told with it.
    let mut told: Vec<(Vec<Edit>, usize)> = Vec::new();
    let touches = |one: &&said::Diagnostic| {
        one.span.is_some_and(|span| span.file == file && span.start as usize <= end && start <= span.end as usize)
    };
    for one in known.said.iter().filter(touches) {
        let mut proposed = proposals(one, known);
        let mends = proposed.len();
        if one.id == "state/missing" {
            // Where it is to be written; what it is to look like is for whoever writes it.
            proposed.extend(missing_state(subject.snapshot, one).filter(|(_, edits)| (known.holds)(edits)));
        }
        for (at, (title, edits)) in proposed.into_iter().enumerate() {
            let Some(new) = action(subject, known, title, &edits, Some(one), at == 0 && mends > 0) else { continue };
            match told.iter().find(|(other, _)| *other == edits).map(|(_, at)| *at) {
                Some(known) => {
                    let all: &mut CodeAction = &mut found[known];
                    all.diagnostics.get_or_insert_default().extend(new.diagnostics.unwrap_or_default());
                }
                None => {
                    told.push((edits, found.len()));
                    found.push(new);
                }
            }
        }
        let others: Vec<&said::Diagnostic> = known.said.iter().filter(|other| other.id == one.id).collect();
        if mends > 0 && others.len() > 1 {
            let (all, count) = all_of(&others, known);
            if count > 1 {
                let title = format!("Mend all {count} of `{}`", one.id);
                found.extend(action(subject, known, title, &all, Some(one), false));
            }
        }
        found.extend(waiver(subject, known, one));
    }
    if subject.kind() == FileKind::Sheet
        && let Some((declaration, items, owner)) = declaration_at(subject, start)
    {
        found.extend(literals(subject, known, declaration, start, &owner));
        found.extend(to_trait(subject, known, declaration, items, &owner));
    }
    found
}

/// What can be done on a page: a class that there is none of is written as the one that was meant.
fn on_page(subject: &Subject, range: Range, known: &Known) -> Vec<CodeAction> {
    let lines = subject.lines();
    let touches = |one: &&Diagnostic| one.range.start <= range.end && range.start <= one.range.end;
    let mut found = Vec::new();
    for one in known.of_page.iter().filter(touches) {
        let mend = one.message.lines().find_map(|line| line.strip_prefix("mend: "));
        let Some(new) = mend.and_then(only_text) else { continue };
        let place = lines.offset(one.range.start)..lines.offset(one.range.end);
        let here = subject.text.get(place).unwrap_or_default();
        // The message names what stands there, and nothing else is replaced.
        if here.is_empty() || here.contains(char::is_whitespace) || !one.message.contains(&format!("`{here}`")) {
            continue;
        }
        let Some(uri) = uri_of(subject.path) else { continue };
        let text_document = OptionalVersionedTextDocumentIdentifier { uri, version: (known.version)(subject.path) };
        let edits = vec![OneOf::Left(TextEdit { range: one.range, new_text: new.to_owned() })];
        let changes = DocumentChanges::Edits(vec![TextDocumentEdit { text_document, edits }]);
        found.push(CodeAction {
            title: format!("Write `{new}`"),
            kind: Some(CodeActionKind::QUICKFIX),
            diagnostics: Some(vec![one.clone()]),
            edit: Some(WorkspaceEdit { document_changes: Some(changes), ..WorkspaceEdit::default() }),
            is_preferred: Some(true),
            ..CodeAction::default()
        });
    }
    found
}

/// The edits that a diagnostic proposes, the better first, each with its words.
fn proposals(one: &said::Diagnostic, known: &Known) -> Vec<(String, Vec<Edit>)> {
    let mut found = Vec::new();
    if !one.edits.is_empty() {
        found.push((capitalised(one.mend.as_deref().unwrap_or("write what it needs")), one.edits.clone()));
    }
    for proposal in one.proposals.iter().filter(|proposal| !proposal.edits.is_empty()) {
        found.push((capitalised(&proposal.words), proposal.edits.clone()));
    }
    if found.is_empty()
        && let (Some(span), Some(text)) = (one.span, one.mend.as_deref().and_then(only_text))
    {
        // The words say what to write; that it stands for just this place is found out by trying. A place may lie inside of
        // the braces that the words have.
        let inner = text.strip_prefix('{').and_then(|inner| inner.strip_suffix('}'));
        for new in std::iter::once(text).chain(inner) {
            let edits = vec![Edit { span, text: new.to_owned() }];
            if (known.clears)(&edits, one) {
                found.push((format!("Write `{text}`"), edits));
                break;
            }
        }
    }
    found
}

/// The text of a mend that says to write one thing: `write `X``, perhaps with more words behind it.
fn only_text(mend: &str) -> Option<&str> {
    let rest = mend.strip_prefix("write `")?;
    let (text, after) = rest.split_once('`')?;
    let is_plain = !text.contains('…') && !text.contains("NAME") && !after.contains('`');
    is_plain.then_some(text)
}

/// The mends of several, those that do not touch each other.
fn all_of(others: &[&said::Diagnostic], known: &Known) -> (Vec<Edit>, usize) {
    let mut all: Vec<Edit> = Vec::new();
    let mut count = 0;
    for other in others.iter().take(64) {
        let Some((_, edits)) = proposals(other, known).into_iter().next() else { continue };
        if edits.iter().all(|edit| all.contains(edit)) {
            count += 1;
            continue;
        }
        let meets = edits.iter().any(|edit| all.iter().any(|known| stilk_checks::trial::meet(known.span, edit.span)));
        if !meets {
            all.extend(edits);
            count += 1;
        }
    }
    (all, count)
}

fn capitalised(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

/// An action that makes edits; nothing where a file of them cannot be named.
fn action(
    subject: &Subject,
    known: &Known,
    title: String,
    edits: &[Edit],
    for_: Option<&said::Diagnostic>,
    is_preferred: bool,
) -> Option<CodeAction> {
    let edit = workspace_edit(subject.snapshot, edits, known.version, subject)?;
    let snapshot = subject.snapshot;
    let shown: Option<Diagnostic> = for_.map(|one| {
        let path_of = |span: Span| snapshot.path_of(snapshot.sources.file(span.file));
        super::diagnostics::shown(one, &snapshot.sources, &path_of, subject.client)
    });
    Some(CodeAction {
        title,
        kind: Some(if for_.is_some() { CodeActionKind::QUICKFIX } else { CodeActionKind::REFACTOR_EXTRACT }),
        diagnostics: shown.map(|shown| vec![shown]),
        edit: Some(edit),
        is_preferred: is_preferred.then_some(true),
        ..CodeAction::default()
    })
}

/// Edits as the protocol has them.
pub fn workspace_edit(
    snapshot: &Snapshot,
    edits: &[Edit],
    version: &dyn Fn(&str) -> Option<i32>,
    subject: &Subject,
) -> Option<WorkspaceEdit> {
    let mut by_file: BTreeMap<_, Vec<OneOf<TextEdit, lsp_types::AnnotatedTextEdit>>> = BTreeMap::new();
    for edit in edits {
        let range = snapshot.lines(edit.span.file, subject.client.encoding).of(edit.span);
        by_file.entry(edit.span.file).or_default().push(OneOf::Left(TextEdit { range, new_text: edit.text.clone() }));
    }
    let changes = by_file.into_iter().map(|(file, edits)| {
        let path = snapshot.path_of(snapshot.sources.file(file));
        let text_document = OptionalVersionedTextDocumentIdentifier { uri: uri_of(&path)?, version: version(&path) };
        Some(TextDocumentEdit { text_document, edits })
    });
    let changes: Option<Vec<TextDocumentEdit>> = changes.collect();
    Some(WorkspaceEdit { document_changes: Some(DocumentChanges::Edits(changes?)), ..WorkspaceEdit::default() })
}

/// The state that is missing, with the look that other controls give it, where a trait does.
fn missing_state(snapshot: &Snapshot, one: &said::Diagnostic) -> Option<(String, Vec<Edit>)> {
    let span = one.span?;
    let state = one.message.split(" looks the same in ").nth(1)?.split_whitespace().next()?;
    let text = &snapshot.sources.file(span.file).text;
    let block = blocks(text).into_iter().find(|block| block.head.contains(&(span.start as usize)))?;
    let inside = text[block.body.clone()].ends_with('}').then(|| block.body.end - 1)?;
    let indent = "  ";
    let sheets = &snapshot.trees.sheets;
    let gives = |items: &[Item]| {
        items.iter().any(|item| match item {
            Item::State(alternatives, _) => {
                alternatives.iter().any(|a| matches!(a.states.as_slice(), [one] if one.name.value == state))
            }
            _ => false,
        })
    };
    let of_trait = sheets.iter().flat_map(|sheet| &sheet.traits).find(|node| gives(&node.body));
    let (title, line) = match of_trait {
        Some(node) => (format!("Use the trait `{}`", node.name.value), format!("@traits {};", node.name.value)),
        None => (format!("Write `@state {state}`"), format!("@state {state} {{ }}")),
    };
    let at = text[..inside].trim_end().len();
    let edit = Edit { span: Span::new(span.file, at, at), text: format!("\n{indent}{line}") };
    Some((title, vec![edit]))
}

/// A waiver in the control that a finding is of, where it is of one.
fn waiver(subject: &Subject, known: &Known, one: &said::Diagnostic) -> Option<CodeAction> {
    let evidence = one.evidence.as_ref()?;
    let [control] = evidence.controls.as_slice() else { return None };
    let snapshot = subject.snapshot;
    let node = snapshot.trees.sheets.iter().flat_map(|s| &s.controls).find(|node| node.name.value == *control)?;
    let text = &snapshot.sources.file(node.name.span.file).text;
    let start = node.name.span.start as usize;
    let block = blocks(text).into_iter().find(|block| block.head.contains(&start))?;
    let inside = text[block.body.clone()].ends_with('}').then(|| block.body.end - 1)?;
    let at = text[..inside].trim_end().len();
    let line = format!("\n\n  @waive {} \"Say why it is accepted.\";", one.id);
    let edit = Edit { span: Span::new(node.name.span.file, at, at), text: line };
    action(subject, known, format!("Accept `{}` in `{control}`, with a reason", one.id), &[edit], Some(one), false)
}

/// The declaration at a byte, the items that it stands among, and the control or trait around it.
fn declaration_at<'s>(subject: &Subject<'s>, offset: usize) -> Option<(&'s Declaration, &'s [Item], String)> {
    let file = subject.file?;
    let sheet = subject.snapshot.trees.sheets.iter().find(|sheet| sheet.file == file)?;
    let controls = sheet.controls.iter().map(|node| (node.body.as_slice(), node.name.value.clone()));
    let traits = sheet.traits.iter().map(|node| (node.body.as_slice(), node.name.value.clone()));
    let mut left: Vec<(&[Item], String)> = controls.chain(traits).collect();
    while let Some((items, owner)) = left.pop() {
        for item in items {
            match item {
                Item::Declaration(declaration)
                    if declaration.span.start as usize <= offset && offset <= declaration.span.end as usize =>
                {
                    return Some((declaration, items, owner));
                }
                other => left.extend(other.bodies().into_iter().map(|body| (body, owner.clone()))),
            }
        }
    }
    None
}

/// A literal at the cursor: the token that is the same, and a new token of it.
fn literals(
    subject: &Subject,
    known: &Known,
    declaration: &Declaration,
    offset: usize,
    owner: &str,
) -> Vec<CodeAction> {
    let mut found = Vec::new();
    let snapshot = subject.snapshot;
    let Some((place, literal)) = declaration.value.pieces.iter().find_map(|piece| match piece {
        ValuePiece::Text(_, span) => literal_at(subject.text, *span, offset),
        _ => None,
    }) else {
        return found;
    };
    let tokens = snapshot.tokens();
    for path in tokens.map(|tokens| same_tokens(tokens, &literal)).unwrap_or_default() {
        // In a string, or where only a literal may stand, a reference is none.
        let edit = [Edit { span: place, text: format!("{{{path}}}") }];
        if (known.holds)(&edit) {
            found.extend(action(subject, known, format!("Use the token `{path}`"), &edit, None, false));
        }
    }
    let Some((file, root)) = snapshot.trees.documents.iter().find(|(file, _)| {
        let source = snapshot.sources.file(*file);
        // What is outside of the project is somebody else's.
        !source.is_outside && !source.path.ends_with(".resolver.json")
    }) else {
        return found;
    };
    let name = declaration.name.value.trim_start_matches('-').to_owned();
    let Some(value) = token_json(&literal) else { return found };
    let free = |group: &str| {
        tokens.is_none_or(|tokens| tokens.find_path(&format!("{group}.{name}")).is_none()) && root.get(group).is_none()
    };
    let Some(group) = [owner.to_owned(), format!("{owner}-own")].into_iter().find(|group| free(group)) else {
        return found;
    };
    let text = &snapshot.sources.file(*file).text;
    let end = root.span.end as usize - 1;
    let at = text[..end].trim_end().len();
    let comma = if text[..at].ends_with('{') { "" } else { "," };
    let added = format!("{comma}\n  \"{group}\": {{ \"{name}\": {value} }}");
    let edits = [
        Edit { span: place, text: format!("{{{group}.{name}}}") },
        Edit { span: Span::new(*file, at, at), text: added },
    ];
    if (known.holds)(&edits) {
        let title = format!("Make `{}` the token `{group}.{name}`", literal.text());
        found.extend(action(subject, known, title, &edits, None, false));
    }
    found
}

/// A literal that a token can be of.
enum Literal {
    Color(String, Absolute),
    Dimension(f64, &'static str),
    Duration(f64, &'static str),
}

impl Literal {
    fn text(&self) -> String {
        match self {
            Literal::Color(text, _) => text.clone(),
            Literal::Dimension(value, unit) | Literal::Duration(value, unit) => format!("{value}{unit}"),
        }
    }
}

/// The colour, length or time at a byte of a value.
fn literal_at(text: &str, span: Span, offset: usize) -> Option<(Span, Literal)> {
    if offset < span.start as usize || offset > span.end as usize {
        return None;
    }
    let base = span.start as usize;
    let value = text.get(span.range())?;
    for (range, color) in super::colors::literals(value) {
        if base + range.start <= offset && offset <= base + range.end {
            let place = Span::new(span.file, base + range.start, base + range.end);
            return Some((place, Literal::Color(value[range].to_owned(), color)));
        }
    }
    let is_part = |c: char| c.is_alphanumeric() || ".-+".contains(c);
    let start = text[base..offset].trim_end_matches(is_part).len() + base;
    let end = text[offset..span.end as usize].find(|c| !is_part(c)).map_or(span.end as usize, |at| offset + at);
    let word = &text[start..end];
    let place = Span::new(span.file, start, end);
    for unit in ["px", "rem"] {
        if let Some(number) = word.strip_suffix(unit).and_then(|number| number.parse::<f64>().ok()) {
            return Some((place, Literal::Dimension(number, unit)));
        }
    }
    for unit in ["ms", "s"] {
        if let Some(number) = word.strip_suffix(unit).and_then(|number| number.parse::<f64>().ok()) {
            return Some((place, Literal::Duration(number, unit)));
        }
    }
    None
}

/// Tokens that have the value of a literal in every theme.
fn same_tokens(tokens: &stilk_language::tokens::Tokens, literal: &Literal) -> Vec<String> {
    const SAME: f64 = 0.002;
    let themes = tokens.themes();
    let is_same = |(index, token): &(usize, &stilk_language::tokens::Token)| {
        themes.iter().all(|theme| match literal {
            Literal::Color(_, color) => color_of(tokens, token, theme)
                .is_some_and(|other| distance(color, &other) < SAME && (color.alpha - other.alpha).abs() < 0.01),
            other => tokens.literal(TokenId(*index), theme).is_some_and(|text| text == other.text()),
        })
    };
    let found = tokens.list.iter().enumerate().filter(|(_, token)| !token.is_member).filter(is_same);
    found.map(|(_, token)| crate::names::tokens::shown(&token.path).to_owned()).take(6).collect()
}

/// A literal as a token of the Design Tokens Format.
fn token_json(literal: &Literal) -> Option<String> {
    Some(match literal {
        Literal::Color(_, color) => {
            let value = super::colors::token_value(color);
            format!("{{ \"$type\": \"color\", \"$value\": {value} }}")
        }
        Literal::Dimension(value, unit) => {
            format!("{{ \"$type\": \"dimension\", \"$value\": {{ \"value\": {value}, \"unit\": \"{unit}\" }} }}")
        }
        Literal::Duration(value, unit) => {
            format!("{{ \"$type\": \"duration\", \"$value\": {{ \"value\": {value}, \"unit\": \"{unit}\" }} }}")
        }
    })
}

/// A declaration as a trait of its own; only where nothing else in its block sets the same, so that what wins stays.
fn to_trait(
    subject: &Subject,
    known: &Known,
    declaration: &Declaration,
    items: &[Item],
    owner: &str,
) -> Option<CodeAction> {
    let name = &declaration.name.value;
    let sheets = &subject.snapshot.trees.sheets;
    if name.starts_with("--") || declaration.value.pieces.iter().any(|piece| matches!(piece, ValuePiece::Local(_))) {
        return None;
    }
    let in_control = sheets.iter().flat_map(|sheet| &sheet.controls).find(|node| node.name.value == *owner)?;
    let mut left: Vec<&[Item]> = vec![&in_control.body];
    let (mut setters, mut passed) = (0, 0);
    while let Some(items) = left.pop() {
        for item in items {
            match item {
                Item::Declaration(other) if overlap(&other.name.value, name) => setters += 1,
                // What a trait says at this place may be what wins.
                Item::Traits(names) => {
                    let used = |node: &&stilk_language::sheet::TraitNode| {
                        names.iter().any(|name| name.value == node.name.value)
                    };
                    left.extend(
                        sheets.iter().flat_map(|sheet| &sheet.traits).filter(used).map(|node| node.body.as_slice()),
                    );
                    passed += names.len();
                    if passed > 256 {
                        return None;
                    }
                }
                other => left.extend(other.bodies()),
            }
        }
    }
    if setters > 1 || in_control.from.is_some() || items.is_empty() {
        return None;
    }
    let shared = sheets
        .iter()
        .find(|sheet| subject.snapshot.sources.file(sheet.file).path.ends_with(stilk_language::sheet::SHARED_SHEET))?;
    let text = &subject.snapshot.sources.file(shared.file).text;
    let taken = |name: &str| sheets.iter().flat_map(|sheet| &sheet.traits).any(|node| node.name.value == name);
    let made = [name.clone(), format!("{owner}-{name}")].into_iter().find(|name| !taken(name))?;
    let written = subject.text.get(declaration.span.range())?;
    let at = text.trim_end().len();
    let semicolon = subject.text[declaration.span.end as usize..].trim_start().starts_with(';');
    let replaced = format!("@traits {made}{}", if semicolon { "" } else { ";" });
    let edits = [
        Edit { span: declaration.span, text: replaced },
        Edit { span: Span::new(shared.file, at, at), text: format!("\n\n@trait {made} {{ {written}; }}") },
    ];
    let title = format!("Take `{name}` to the trait `{made}`");
    (known.holds)(&edits).then(|| action(subject, known, title, &edits, None, false)).flatten()
}

/// Whether one of two properties sets something of the other.
fn overlap(one: &str, other: &str) -> bool {
    let longhands = |name: &str| -> Vec<&'static str> {
        match PropertyName::read(name) {
            PropertyName::Shorthand(shorthand) => shorthand.longhand_names().collect(),
            PropertyName::Longhand(longhand) => vec![longhand.name()],
            _ => Vec::new(),
        }
    };
    let (own, others) = (longhands(one), longhands(other));
    one == other
        || own.iter().any(|name| others.contains(name))
        || one.strip_prefix(other).is_some_and(|rest| rest.starts_with('-'))
        || other.strip_prefix(one).is_some_and(|rest| rest.starts_with('-'))
}
