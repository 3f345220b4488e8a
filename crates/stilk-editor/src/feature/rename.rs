//! Renaming across sheets, templates, tokens, the manifest and pages.

use super::{FileKind, Subject, navigate};
use crate::names::tokens::shown;
use crate::names::{Form, OwnKind, Symbol, css};
use crate::place::{Lines, uri_of};
use crate::snapshot::Snapshot;
use lsp_types::{
    DocumentChangeOperation, DocumentChanges, OneOf, OptionalVersionedTextDocumentIdentifier, Position,
    PrepareRenameResponse, RenameFile, ResourceOp, TextDocumentEdit, TextEdit, WorkspaceEdit,
};
use std::collections::{BTreeMap, HashMap};
use std::ops::Range;
use stilk_language::system::{Control, Mark, OptionId};
use stilk_language::template::NATIVE_PART;

/// A class or custom property in a page, and what it stands for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PageName {
    /// What it stands for.
    pub symbol: Symbol,
    /// Where its own name stands in the identifier.
    pub range: Range<usize>,
    /// The whole identifier.
    pub whole: Range<usize>,
    /// What stands before and behind the name in the identifier; nothing where the name is not in it, because a mark of the
    /// page's own stands for it.
    joined: Option<(String, String)>,
}

/// What an identifier on pages stands for.
struct Meaning {
    symbol: Symbol,
    joined: Option<(String, String)>,
}

/// Every class and custom property of the system in a text, in order.
pub fn in_page(snapshot: &Snapshot, text: &str) -> Vec<PageName> {
    let meanings = meanings(snapshot);
    let mut found = Vec::new();
    for (whole, word) in css::identifiers(text) {
        for meaning in meanings.get(word).into_iter().flatten() {
            let range = match &meaning.joined {
                Some((before, after)) => whole.start + before.len()..whole.end - after.len(),
                None => whole.clone(),
            };
            let (symbol, joined) = (meaning.symbol.clone(), meaning.joined.clone());
            found.push(PageName { symbol, range, whole: whole.clone(), joined });
        }
    }
    found
}

fn meanings(snapshot: &Snapshot) -> HashMap<String, Vec<Meaning>> {
    let mut meanings: HashMap<String, Vec<Meaning>> = HashMap::new();
    let Some(system) = snapshot.sound().and_then(|sound| sound.system.as_ref()) else { return meanings };
    let mut add = |word: &str, symbol: Symbol, joined: Option<(String, String)>| {
        meanings.entry(word.to_owned()).or_default().push(Meaning { symbol, joined });
    };
    let names = system.names();
    let manifest = &system.manifest;
    let filled = |pattern: &str, values: [(&str, &str); 4]| {
        values.iter().fold(pattern.to_owned(), |text, (key, value)| text.replace(&format!("{{{key}}}"), value))
    };
    let prefix = manifest.prefix.value.as_str();
    // A pattern filled but for one name, in the middle of it.
    let around = |pattern: &str, control: &str, left: &str, of: &str| {
        let values = [("prefix", prefix), ("control", control), ("option", of), ("part", of)];
        let values = values.map(|(key, value)| (key, if key == left { "\u{0}" } else { value }));
        let (before, after) = filled(pattern, values).split_once('\u{0}').map(|(b, a)| (b.to_owned(), a.to_owned()))?;
        (!after.contains('\u{0}')).then_some((before, after))
    };
    for control in &system.controls {
        let name = control.name.value.as_str();
        let own = |kind, of: &str| own_symbol(snapshot, kind, name, of);
        let patterns = &manifest.classes;
        match names.control(name) {
            Mark::Class(class) if control.mark.is_none() => {
                add(&class, Symbol::Control(name.to_owned()), around(&patterns.control.value, name, "control", ""))
            }
            mark => {
                if let Some(word) = mark_word(&mark) {
                    add(word, Symbol::Control(name.to_owned()), None);
                }
            }
        }
        let ids = control
            .axes
            .iter()
            .enumerate()
            .flat_map(|(axis, own)| (0..own.options.len()).map(move |option| OptionId { axis, option }));
        for id in ids {
            let option = control.option_name(id);
            let mark = names.option(control, id);
            let Some(word) = mark_word(&mark) else { continue };
            let is_own = control.axes[id.axis].marks[id.option].is_some();
            let pattern = &patterns.option.value;
            add(word, own(OwnKind::Option, option), joined(is_own, || around(pattern, name, "option", option)));
            if !is_own {
                add(word, Symbol::Control(name.to_owned()), around(pattern, name, "control", option));
            }
        }
        for part in control.template.part_names() {
            let mark = names.part(name, part);
            let Some(word) = mark_word(&mark) else { continue };
            let is_own = control.part_marks.iter().any(|(known, _)| known == part);
            let pattern = &patterns.part.value;
            add(word, own(OwnKind::Part, part), joined(is_own, || around(pattern, name, "part", part)));
            if !is_own {
                add(word, Symbol::Control(name.to_owned()), around(pattern, name, "control", part));
            }
        }
        for local in locals(control) {
            let written = names.local(name, local);
            let bare = local.trim_start_matches('-');
            let before = written.strip_suffix(bare).unwrap_or_default().to_owned();
            add(&written, own(OwnKind::Local, local), Some((before, String::new())));
            let control_before = format!("--{prefix}-");
            let after = written.strip_prefix(&control_before).and_then(|rest| rest.strip_prefix(name));
            if let Some(after) = after {
                add(&written, Symbol::Control(name.to_owned()), Some((control_before, after.to_owned())));
            }
        }
    }
    for token in &system.tokens.list {
        if !token.is_member {
            let written = names.token(&token.path);
            let bare = css_path(&token.path);
            let joined =
                written.find(&bare).map(|at| (written[..at].to_owned(), written[at + bare.len()..].to_owned()));
            add(&written, Symbol::Token(token.path.clone()), joined);
        }
    }
    meanings
}

fn joined(is_own: bool, around: impl FnOnce() -> Option<(String, String)>) -> Option<(String, String)> {
    if is_own { None } else { around() }
}

/// The word of a page that is a mark; attributes and elements are no names of the system's.
fn mark_word(mark: &Mark) -> Option<&str> {
    match mark {
        Mark::Class(name) | Mark::Id(name) => Some(name),
        Mark::Attribute { .. } | Mark::Element(_) => None,
    }
}

fn locals(control: &Control) -> impl Iterator<Item = &str> {
    let declared = control.rules.iter().flat_map(|rule| &rule.declarations);
    let mut names: Vec<&str> =
        declared.filter(|d| d.is_local() && d.owner.is_none()).map(|d| d.name.value.as_str()).collect();
    names.sort_unstable();
    names.dedup();
    names.into_iter()
}

/// A token's path as custom properties have it.
fn css_path(path: &str) -> String {
    shown(path).replace('.', "-")
}

/// The symbol of something that a control has of its own: the one that stands for all that share it.
fn own_symbol(snapshot: &Snapshot, kind: OwnKind, control: &str, name: &str) -> Symbol {
    let mut original = Some(control.to_owned());
    let sheets = &snapshot.trees.sheets;
    // What a copy does not speak of itself is its original's.
    for _ in 0..16 {
        let Some(owner) = original else { break };
        let stands = snapshot.names.stands_for(kind, &owner, name);
        if let Some(stands) = stands {
            return Symbol::Own(kind, stands, name.to_owned());
        }
        let node = sheets.iter().flat_map(|sheet| &sheet.controls).find(|node| node.name.value == owner);
        original = node.and_then(|node| node.from.as_ref()).map(|from| from.value.clone());
    }
    Symbol::Own(kind, control.to_owned(), name.to_owned())
}

/// What would be renamed at a position, and the name that it has there.
pub fn prepare(subject: &Subject, position: Position) -> Result<PrepareRenameResponse, String> {
    let symbol = navigate::symbol_at(subject, position).ok_or("nothing here can be renamed")?;
    may_be_renamed(subject, &symbol)?;
    let offset = subject.offset(position);
    let found = match subject.kind() {
        FileKind::Page | FileKind::Other => {
            let mut here = in_page(subject.snapshot, subject.text).into_iter();
            here.find(|one| one.range.start <= offset && offset <= one.range.end).map(|one| one.range)
        }
        _ => navigate::name_at(subject, position).map(|one| one.span.range()),
    };
    let range = found.ok_or("nothing here can be renamed")?;
    Ok(PrepareRenameResponse::RangeWithPlaceholder {
        placeholder: subject.text[range.clone()].to_owned(),
        range: subject.range(range),
    })
}

fn may_be_renamed(subject: &Subject, symbol: &Symbol) -> Result<(), String> {
    match symbol {
        Symbol::Own(OwnKind::Part, _, name) if name == NATIVE_PART => {
            return Err("the part `native` bears the control's states by this name".to_owned());
        }
        Symbol::Token(path) if path.ends_with(stilk_language::tokens::document::ROOT) => {
            return Err("a group's own token is named by the group".to_owned());
        }
        _ => {}
    }
    match subject.snapshot.names.definitions(symbol).is_empty() {
        true => Err(format!("there is no {} `{}`", symbol.noun(), symbol.name())),
        false => Ok(()),
    }
}

/// A renaming: new texts at places, and files with new names.
#[derive(Debug, Default)]
pub struct Renaming {
    /// What is replaced, by absolute path.
    pub edits: BTreeMap<String, Vec<(Range<usize>, String)>>,
    /// Files that get another path, both absolute.
    pub files: Vec<(String, String)>,
}

/// What renaming the name at a position would change.
///
/// # Errors
/// Why it cannot be.
pub fn rename(subject: &Subject, position: Position, new: &str) -> Result<Renaming, String> {
    let symbol = navigate::symbol_at(subject, position).ok_or("nothing here can be renamed")?;
    may_be_renamed(subject, &symbol)?;
    let new = checked(subject.snapshot, &symbol, new.trim())?;
    let snapshot = subject.snapshot;
    let mut renaming = Renaming::default();
    for one in snapshot.names.of(&symbol) {
        let text = match (&one.form, &symbol) {
            (Form::Segment, _) => new.rsplit('.').next().unwrap_or(&new).to_owned(),
            (Form::Pointer, _) => new.replace('.', "/"),
            (Form::Plain, _) => new.clone(),
        };
        let path = snapshot.path_of(snapshot.sources.file(one.span.file));
        renaming.edits.entry(path).or_default().push((one.span.range(), text));
    }
    for (path, text) in subject.pages {
        for one in in_page(snapshot, text).into_iter().filter(|one| one.symbol == symbol) {
            let Some((before, after)) = one.joined else { continue };
            let name = match &symbol {
                Symbol::Token(_) => css_path(&new),
                _ => new.trim_start_matches('-').to_owned(),
            };
            let text = format!("{before}{name}{after}");
            renaming.edits.entry(path.clone()).or_default().push((one.whole, text));
        }
    }
    if let Symbol::Control(old) = &symbol {
        let folder =
            format!("{}/{}", snapshot.root, snapshot.any_system().map_or("controls", |s| &s.manifest.controls.value));
        for ending in ["html", "stilk"] {
            let path = format!("{folder}/{old}.{ending}");
            if snapshot.file_at(&path).is_some() {
                renaming.files.push((path, format!("{folder}/{new}.{ending}")));
            }
        }
        if !renaming.files.is_empty() && !subject.client.renames_files {
            return Err(format!(
                "the files of a control have its name, and this editor renames none: rename `{old}.html` first"
            ));
        }
    }
    Ok(renaming)
}

/// The new name as it will be written everywhere: a token's whole path, a local with its dashes.
fn checked(snapshot: &Snapshot, symbol: &Symbol, new: &str) -> Result<String, String> {
    let is_name =
        |text: &str| text.starts_with(|c: char| c.is_alphabetic() || c == '_') && text.chars().all(css::is_name);
    let other = match symbol {
        Symbol::Token(path) => {
            let new = new.trim_start_matches('{').trim_end_matches('}');
            let group = path.rsplit_once('.').map(|(group, _)| group);
            let whole = match (group, new.rsplit_once('.')) {
                (Some(group), None) => format!("{group}.{new}"),
                (group, Some((into, _))) if group != Some(into) => {
                    return Err(format!("`{new}` is in another group: move the token in its file"));
                }
                _ => new.to_owned(),
            };
            let last = whole.rsplit('.').next().unwrap_or_default();
            if last.is_empty() || !last.chars().all(css::is_name) {
                return Err(format!("`{last}` is no token's name: letters, digits, `-` and `_`"));
            }
            Symbol::Token(whole)
        }
        Symbol::Own(OwnKind::Local, owner, _) => {
            let new = if new.starts_with("--") { new.to_owned() } else { format!("--{new}") };
            if new.len() < 3 || !new.chars().all(css::is_name) {
                return Err(format!("`{new}` is no local: write `--name`"));
            }
            Symbol::Own(OwnKind::Local, owner.clone(), new)
        }
        _ if !is_name(new) => {
            return Err(format!("`{new}` is no name: a letter first, then letters, digits, `-` and `_`"));
        }
        Symbol::Own(OwnKind::Part, ..) if new == NATIVE_PART => {
            return Err("the part `native` is the one that bears the control's states".to_owned());
        }
        Symbol::Own(kind, owner, _) => Symbol::Own(*kind, owner.clone(), new.to_owned()),
        Symbol::Control(_) => Symbol::Control(new.to_owned()),
        Symbol::Trait(_) => Symbol::Trait(new.to_owned()),
        Symbol::Keyframes(_) => Symbol::Keyframes(new.to_owned()),
        Symbol::State(_) => {
            if snapshot.any_system().is_some_and(|system| system.states.find(new).is_some()) {
                return Err(format!("there is a state `{new}` already"));
            }
            Symbol::State(new.to_owned())
        }
    };
    if other != *symbol && snapshot.names.of(&other).next().is_some() {
        return Err(format!("there is a {} `{}` already", other.noun(), other.name()));
    }
    Ok(other.name().to_owned())
}

impl Renaming {
    /// As the protocol has it. `version` says which version of a file its text is of, where it is open.
    pub fn edit(&self, subject: &Subject, version: &dyn Fn(&str) -> Option<i32>) -> Option<WorkspaceEdit> {
        let mut operations = Vec::new();
        for (path, edits) in &self.edits {
            let known = subject.pages.get(path).map(String::as_str);
            let in_project =
                || subject.snapshot.file_at(path).map(|file| subject.snapshot.sources.file(file).text.as_str());
            let lines = Lines::new(known.or_else(in_project)?, subject.client.encoding);
            let edit = |(range, text): &(Range<usize>, String)| {
                OneOf::Left(TextEdit { range: lines.range(range.clone()), new_text: text.clone() })
            };
            operations.push(DocumentChangeOperation::Edit(TextDocumentEdit {
                text_document: OptionalVersionedTextDocumentIdentifier { uri: uri_of(path)?, version: version(path) },
                edits: edits.iter().map(edit).collect(),
            }));
        }
        for (old, new) in &self.files {
            operations.push(DocumentChangeOperation::Op(ResourceOp::Rename(RenameFile {
                old_uri: uri_of(old)?,
                new_uri: uri_of(new)?,
                options: None,
                annotation_id: None,
            })));
        }
        Some(WorkspaceEdit {
            document_changes: Some(DocumentChanges::Operations(operations)),
            ..WorkspaceEdit::default()
        })
    }
}
