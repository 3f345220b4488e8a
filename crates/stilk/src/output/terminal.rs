//! Diagnostics for a terminal: the source line with a caret, what is wrong, what to write instead.

use super::wrapped;
use crate::disk::shown;
use crate::say;
use annotate_snippets::{Annotation, AnnotationKind, Element, Group, Level as Mark, Origin, Renderer, Snippet};
use std::collections::BTreeMap;
use std::path::Path;
use stilk_text::diagnostic::{Diagnostic, Evidence, Level};
use stilk_text::source::{FileId, Sources, Span};

/// Columns that output is made for.
const WIDTH: usize = 80;

/// Renders diagnostics, an empty line between them. Colour is stripped where there is no terminal for it.
pub fn render(diagnostics: &[Diagnostic], sources: &Sources, root: &Path) -> String {
    let renderer = Renderer::styled().term_width(WIDTH);
    let mut texts = Texts { sources, shown: BTreeMap::new() };
    for diagnostic in diagnostics {
        texts.show(diagnostic);
    }
    let mut text = String::new();
    for diagnostic in diagnostics {
        text.push_str(&renderer.render(&[group(diagnostic, &texts, root)]));
        text.push_str("\n\n");
    }
    // Everything that came from elsewhere is visible by now: what is left are the renderer's own styles.
    say::marked(&text)
}

/// Texts of files as a terminal may show them.
struct Texts<'s> {
    sources: &'s Sources,
    /// Those that hold what must not be shown as it is.
    shown: BTreeMap<FileId, Shown>,
}

/// A text in which some characters are written out, and where: the byte before which, and how many bytes that adds.
struct Shown {
    text: String,
    added: Vec<(usize, usize)>,
}

impl Texts<'_> {
    fn show(&mut self, diagnostic: &Diagnostic) {
        for span in diagnostic.span.iter().chain(diagnostic.related.iter().map(|related| &related.span)) {
            let text = &self.sources.file(span.file).text;
            if !self.shown.contains_key(&span.file) && text.chars().any(say::is_hidden) {
                let mut shown = Shown { text: String::with_capacity(text.len()), added: Vec::new() };
                for (at, c) in text.char_indices() {
                    // A line may end with both.
                    if say::is_hidden(c) && !(c == '\r' && text[at + 1..].starts_with('\n')) {
                        let escaped = c.escape_unicode().to_string();
                        shown.added.push((at, escaped.len() - c.len_utf8()));
                        shown.text.push_str(&escaped);
                    } else {
                        shown.text.push(c);
                    }
                }
                self.shown.insert(span.file, shown);
            }
        }
    }

    fn text(&self, file: FileId) -> &str {
        self.shown.get(&file).map_or(&self.sources.file(file).text, |shown| &shown.text)
    }

    /// Where a byte of the file stands in what is shown of it.
    fn place(&self, file: FileId, at: usize) -> usize {
        let added = self.shown.get(&file).map(|shown| shown.added.as_slice()).unwrap_or_default();
        at + added.iter().take_while(|(before, _)| *before < at).map(|(_, bytes)| bytes).sum::<usize>()
    }
}

fn group<'a>(diagnostic: &Diagnostic, texts: &'a Texts, root: &Path) -> Group<'a> {
    let mark = match diagnostic.level {
        Level::Error => Mark::ERROR,
        Level::Warning => Mark::WARNING,
        Level::Note => Mark::NOTE,
    };
    let title = wrap(&diagnostic.message, diagnostic.level.word().len() + diagnostic.id.len() + 4);
    let mut group = mark.primary_title(title).id(diagnostic.id).elements(snippets(diagnostic, texts, root));
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

/// One snippet per file, the primary one first; of a file outside of the project its place alone.
fn snippets<'a>(diagnostic: &Diagnostic, texts: &'a Texts, root: &Path) -> Vec<Element<'a>> {
    let Some(primary) = diagnostic.span else { return Vec::new() };
    let mut files: Vec<Span> = vec![primary];
    let mut marks: BTreeMap<FileId, Vec<Annotation>> = BTreeMap::new();
    let mark = annotation(AnnotationKind::Primary, primary, &diagnostic.label, texts);
    marks.entry(primary.file).or_default().push(mark);
    for related in &diagnostic.related {
        if !files.iter().any(|known| known.file == related.span.file) {
            files.push(related.span);
        }
        let mark = annotation(AnnotationKind::Context, related.span, &related.label, texts);
        marks.entry(related.span.file).or_default().push(mark);
    }
    files
        .into_iter()
        .map(|first| {
            let source = texts.sources.file(first.file);
            let path = shown(root, &source.path);
            if source.is_outside {
                let position = texts.sources.position(first);
                return Origin::path(path).line(position.line).char_column(position.column).into();
            }
            let marks = marks.remove(&first.file).unwrap_or_default();
            Snippet::source(texts.text(first.file)).path(path).annotations(marks).into()
        })
        .collect()
}

fn annotation<'a>(kind: AnnotationKind, span: Span, label: &str, texts: &Texts) -> Annotation<'a> {
    let text = texts.text(span.file);
    let place = |at: u32| boundary(text, texts.place(span.file, at as usize).min(text.len()));
    let start = place(span.start);
    let end = place(span.end).max(start);
    // A mark over several lines says less than one at the beginning.
    let end = text[start..end].find('\n').map_or(end, |line| start + line);
    let annotation = kind.span(start..end);
    if label.is_empty() { annotation } else { annotation.label(say::visible(label)) }
}

fn boundary(text: &str, mut at: usize) -> usize {
    while !text.is_char_boundary(at) {
        at -= 1;
    }
    at
}

/// Breaks words at the width that is left beside an indent.
fn wrap(text: &str, indent: usize) -> String {
    wrapped(&say::visible(text), WIDTH.saturating_sub(indent).max(20)).join("\n")
}
