//! What is wrong, at each file.

use super::Client;
use crate::place::{Lines, uri_of};
use crate::snapshot::Snapshot;
use lsp_types::{
    CodeDescription, Diagnostic, DiagnosticRelatedInformation, DiagnosticSeverity, DiagnosticTag, Location,
    NumberOrString, Range,
};
use std::collections::BTreeMap;
use stilk_text::diagnostic::{self as said, Level};
use stilk_text::moved::Moved;
use stilk_text::source::{FileId, Sources, Span};

/// What there is to say of texts, by the absolute path of each.
pub type ByFile = BTreeMap<String, Vec<Diagnostic>>;

/// Diagnostics of a project as the protocol has them. What has no place is told at the manifest.
pub fn of_project(snapshot: &Snapshot, said: &[said::Diagnostic], client: Client) -> ByFile {
    let path_of = |span: Span| snapshot.path_of(snapshot.sources.file(span.file));
    let mut found = ByFile::new();
    for one in said {
        let path = match one.span {
            Some(span) => path_of(span),
            None => format!("{}/{}", snapshot.root, stilk_language::manifest::MANIFEST),
        };
        let shown = shown(one, &snapshot.sources, &path_of, client);
        found.entry(path).or_default().push(shown);
    }
    found
}

/// A diagnostic as the protocol has it.
pub fn shown(
    one: &said::Diagnostic,
    sources: &Sources,
    path_of: &dyn Fn(Span) -> String,
    client: Client,
) -> Diagnostic {
    let range = |span: Span| Lines::new(&sources.file(span.file).text, client.encoding).of(span);
    let mut message = one.message.clone();
    if let Some(words) = one.evidence.as_ref().and_then(said::Evidence::words) {
        message.push_str(&format!("\n{words}"));
    }
    one.notes.iter().for_each(|note| message.push_str(&format!("\n{note}")));
    if let Some(mend) = &one.mend {
        message.push_str(&format!("\nmend: {mend}"));
    }
    let labelled = one.span.filter(|_| !one.label.is_empty()).map(|span| (span, one.label.clone()));
    let others = one.related.iter().map(|related| (related.span, related.label.clone()));
    // The label at the place itself says more only where there are others.
    let labelled = labelled.filter(|_| !one.related.is_empty());
    let related: Vec<DiagnosticRelatedInformation> = labelled
        .into_iter()
        .chain(others)
        .filter_map(|(span, message)| {
            let location = Location { uri: uri_of(&path_of(span))?, range: range(span) };
            Some(DiagnosticRelatedInformation { location, message })
        })
        .collect();
    Diagnostic {
        range: one.span.map_or_else(Range::default, range),
        severity: Some(match one.level {
            Level::Error => DiagnosticSeverity::ERROR,
            Level::Warning => DiagnosticSeverity::WARNING,
            Level::Note => DiagnosticSeverity::INFORMATION,
        }),
        code: Some(NumberOrString::String(one.id.to_owned())),
        code_description: client.explained.and_then(|folder| {
            let href = uri_of(&format!("{folder}/{}", file_of(one.id)))?;
            Some(CodeDescription { href })
        }),
        source: Some("stilk".to_owned()),
        message,
        related_information: (!related.is_empty()).then_some(related),
        tags: tag(one.id).map(|tag| vec![tag]),
        ..Diagnostic::default()
    }
}

/// The name of the file that explains an id.
pub fn file_of(id: &str) -> String {
    format!("{}.txt", id.replace('/', "-"))
}

/// How an editor draws what is superfluous or outdated.
fn tag(id: &str) -> Option<DiagnosticTag> {
    match id {
        "token/unused" | "cascade/dead" | "sheet/old" | "sheet/important" | "sheet/unused" => {
            Some(DiagnosticTag::UNNECESSARY)
        }
        "token/deprecated" => Some(DiagnosticTag::DEPRECATED),
        _ => None,
    }
}

/// Findings of a text that was, with places in the text that is: those that an edit touched are left out.
pub fn carried(found: &[said::Diagnostic], before: &Sources, now: &Sources) -> Vec<said::Diagnostic> {
    let mut moves: BTreeMap<FileId, Option<Moved>> = BTreeMap::new();
    let mut carry = |span: Span| {
        let to = moves.entry(span.file).or_insert_with(|| {
            let old = before.file(span.file);
            let file = now.find(&old.path)?;
            Some(Moved::new(&old.text, file, &now.file(file).text))
        });
        to.as_ref().and_then(|to| to.place(span))
    };
    let mut carried = Vec::new();
    for one in found {
        let mut one = one.clone();
        if let Some(span) = one.span {
            let Some(now) = carry(span) else { continue };
            one.span = Some(now);
        }
        one.related = one
            .related
            .into_iter()
            .filter_map(|related| Some(said::Related { span: carry(related.span)?, ..related }))
            .collect();
        let mut edit = |edit: &said::Edit| Some(said::Edit { span: carry(edit.span)?, text: edit.text.clone() });
        let edits: Option<Vec<said::Edit>> = one.edits.iter().map(&mut edit).collect();
        one.edits = edits.unwrap_or_default();
        for proposal in &mut one.proposals {
            let edits: Option<Vec<said::Edit>> = proposal.edits.iter().map(&mut edit).collect();
            proposal.edits = edits.unwrap_or_default();
        }
        carried.push(one);
    }
    carried
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn places_move_with_their_text_and_are_dropped_where_it_changed() {
        let (mut before, mut now) = (Sources::default(), Sources::default());
        let file = before.add("a", "one two three");
        now.add("other", "");
        let later = now.add("a", "one 2 three");
        let at = |start, end| said::Diagnostic::error("a/b", Span::new(file, start, end), format!("{start}"));
        let carried = carried(&[at(0, 3), at(4, 7), at(8, 13)], &before, &now);
        let spans: Vec<Span> = carried.iter().filter_map(|one| one.span).collect();
        assert_eq!(spans, [Span::new(later, 0, 3), Span::new(later, 6, 11)]);
    }
}
