//! Diagnostics for a terminal: the source line with a caret, what is wrong, what to write instead.

use super::wrapped;
use crate::disk::shown;
use annotate_snippets::{Annotation, AnnotationKind, Group, Level as Mark, Renderer, Snippet};
use std::collections::BTreeMap;
use std::path::Path;
use stilk_text::diagnostic::{Diagnostic, Evidence, Level};
use stilk_text::source::{FileId, Sources, Span};

/// Columns that output is made for.
const WIDTH: usize = 80;

/// Renders diagnostics, an empty line between them. Colour is stripped where there is no terminal for it.
pub fn render(diagnostics: &[Diagnostic], sources: &Sources, root: &Path) -> String {
    let renderer = Renderer::styled().term_width(WIDTH);
    let mut text = String::new();
    for diagnostic in diagnostics {
        text.push_str(&renderer.render(&[group(diagnostic, sources, root)]));
        text.push_str("\n\n");
    }
    text
}

fn group<'a>(diagnostic: &'a Diagnostic, sources: &'a Sources, root: &Path) -> Group<'a> {
    let mark = match diagnostic.level {
        Level::Error => Mark::ERROR,
        Level::Warning => Mark::WARNING,
        Level::Note => Mark::NOTE,
    };
    let title = wrap(&diagnostic.message, diagnostic.level.word().len() + diagnostic.id.len() + 4);
    let mut group = mark.primary_title(title).id(diagnostic.id).elements(snippets(diagnostic, sources, root));
    if let Some(text) = diagnostic.evidence.as_ref().and_then(Evidence::words) {
        group = group.element(Mark::NOTE.message(wrap(&text, 12)));
    }
    for note in &diagnostic.notes {
        group = group.element(Mark::NOTE.message(wrap(note, 12)));
    }
    if let Some(mend) = &diagnostic.mend {
        group = group.element(Mark::HELP.message(wrap(mend, 12)));
    }
    group
}

/// One snippet per file, the primary one first.
fn snippets<'a>(diagnostic: &'a Diagnostic, sources: &'a Sources, root: &Path) -> Vec<Snippet<'a, Annotation<'a>>> {
    let Some(primary) = diagnostic.span else { return Vec::new() };
    let mut files: Vec<FileId> = vec![primary.file];
    let mut marks: BTreeMap<FileId, Vec<Annotation>> = BTreeMap::new();
    let mark = annotation(AnnotationKind::Primary, primary, &diagnostic.label, sources);
    marks.entry(primary.file).or_default().push(mark);
    for related in &diagnostic.related {
        if !files.contains(&related.span.file) {
            files.push(related.span.file);
        }
        let mark = annotation(AnnotationKind::Context, related.span, &related.label, sources);
        marks.entry(related.span.file).or_default().push(mark);
    }
    files
        .into_iter()
        .map(|file| {
            let source = sources.file(file);
            Snippet::source(&source.text)
                .path(shown(root, &source.path))
                .annotations(marks.remove(&file).unwrap_or_default())
        })
        .collect()
}

fn annotation<'a>(kind: AnnotationKind, span: Span, label: &'a str, sources: &'a Sources) -> Annotation<'a> {
    let text = &sources.file(span.file).text;
    let start = boundary(text, (span.start as usize).min(text.len()));
    let end = boundary(text, (span.end as usize).clamp(start, text.len()));
    // A mark over several lines says less than one at the beginning.
    let end = text[start..end].find('\n').map_or(end, |line| start + line);
    let annotation = kind.span(start..end);
    if label.is_empty() { annotation } else { annotation.label(label) }
}

fn boundary(text: &str, mut at: usize) -> usize {
    while !text.is_char_boundary(at) {
        at -= 1;
    }
    at
}

/// Breaks words at the width that is left beside an indent.
fn wrap(text: &str, indent: usize) -> String {
    wrapped(text, WIDTH.saturating_sub(indent).max(20)).join("\n")
}
