//! Diagnostics for a terminal: the source line with a caret, what is wrong, what to write instead.

use super::{clipped, grouped, wrapped};
use crate::disk::shown;
use crate::say;
use annotate_snippets::{AnnotationKind, Element, Group, Level as Title, Origin, Renderer, Snippet};
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

/// So many are shown of what nobody reads to its end.
const SHOWN: usize = 200;

/// The same of the first of them; of the others the number is told.
pub fn render_some(diagnostics: &[Diagnostic], sources: &Sources, root: &Path) -> String {
    let (first, more) = diagnostics.split_at(diagnostics.len().min(SHOWN));
    let mut text = render(first, sources, root);
    if !more.is_empty() {
        text.push_str(&format!("and {} more, not shown\n\n", grouped(more.len() as u64)));
    }
    text
}

/// Texts of files as a terminal may show them.
struct Texts<'s> {
    sources: &'s Sources,
    /// Those that were asked for; nothing for those that are shown as they are.
    shown: BTreeMap<FileId, Option<Shown>>,
}

/// A text in which some characters are written out, and where: the byte before which, and how many bytes that adds.
struct Shown {
    text: String,
    added: Vec<(usize, usize)>,
}

impl Shown {
    fn of(text: &str) -> Option<Shown> {
        // A line may end with both.
        let is_hidden =
            |(at, c): &(usize, char)| say::is_hidden(*c) && !(*c == '\r' && text[at + 1..].starts_with('\n'));
        text.char_indices().find(is_hidden)?;
        let mut shown = Shown { text: String::with_capacity(text.len()), added: Vec::new() };
        for (at, c) in text.char_indices() {
            if is_hidden(&(at, c)) {
                let escaped = c.escape_unicode().to_string();
                shown.added.push((at, escaped.len() - c.len_utf8()));
                shown.text.push_str(&escaped);
            } else {
                shown.text.push(c);
            }
        }
        Some(shown)
    }
}

impl Texts<'_> {
    fn show(&mut self, diagnostic: &Diagnostic) {
        for span in diagnostic.span.iter().chain(diagnostic.related.iter().map(|related| &related.span)) {
            let text = &self.sources.file(span.file).text;
            self.shown.entry(span.file).or_insert_with(|| Shown::of(text));
        }
    }

    fn text(&self, file: FileId) -> &str {
        match self.shown.get(&file) {
            Some(Some(shown)) => &shown.text,
            _ => &self.sources.file(file).text,
        }
    }

    /// Where a byte of the file stands in what is shown of it.
    fn place(&self, file: FileId, at: u32) -> usize {
        let at = at as usize;
        let added = match self.shown.get(&file) {
            Some(Some(shown)) => shown.added.as_slice(),
            _ => &[],
        };
        let at = at + added.iter().take_while(|(before, _)| *before < at).map(|(_, bytes)| bytes).sum::<usize>();
        let text = self.text(file);
        let mut at = at.min(text.len());
        while !text.is_char_boundary(at) {
            at -= 1;
        }
        at
    }
}

fn group<'a>(diagnostic: &Diagnostic, texts: &'a Texts, root: &Path) -> Group<'a> {
    let mark = match diagnostic.level {
        Level::Error => Title::ERROR,
        Level::Warning => Title::WARNING,
        Level::Note => Title::NOTE,
    };
    let title = wrap(&diagnostic.message, diagnostic.level.word().len() + diagnostic.id.len() + 4);
    let mut group = mark.primary_title(title).id(diagnostic.id).elements(snippets(diagnostic, texts, root));
    if let Some(text) = diagnostic.evidence.as_ref().and_then(Evidence::words) {
        group = group.element(Title::NOTE.message(wrap(&text, 12)));
    }
    for note in &diagnostic.notes {
        group = group.element(Title::NOTE.message(wrap(note, 12)));
    }
    if let Some(mend) = &diagnostic.mend {
        group = group.element(Title::HELP.with_name("mend").message(wrap(mend, 12)));
    }
    for other in &diagnostic.proposals {
        group = group.element(Title::HELP.with_name("mend").message(wrap(&format!("or: {}", other.words), 12)));
    }
    group
}

/// One snippet per file, the primary one first; of a file outside of the project its place alone.
fn snippets<'a>(diagnostic: &Diagnostic, texts: &'a Texts, root: &Path) -> Vec<Element<'a>> {
    let Some(primary) = diagnostic.span else { return Vec::new() };
    let mut files: Vec<Span> = vec![primary];
    let mut marks: BTreeMap<FileId, Vec<Mark>> = BTreeMap::new();
    marks.entry(primary.file).or_default().push(mark(AnnotationKind::Primary, primary, &diagnostic.label, texts));
    for related in &diagnostic.related {
        if !files.iter().any(|known| known.file == related.span.file) {
            files.push(related.span);
        }
        let mark = mark(AnnotationKind::Context, related.span, &related.label, texts);
        marks.entry(related.span.file).or_default().push(mark);
    }
    files.into_iter().map(|first| snippet(first, &marks.remove(&first.file).unwrap_or_default(), texts, root)).collect()
}

/// A mark in a file: what it is, from where to where in what is shown, and its words.
struct Mark {
    kind: AnnotationKind,
    start: usize,
    end: usize,
    label: String,
}

/// The lines of a file that are marked. Only these are handed over: what draws them looks at all it gets.
fn snippet<'a>(first: Span, marks: &[Mark], texts: &'a Texts, root: &Path) -> Element<'a> {
    let source = texts.sources.file(first.file);
    let path = shown(root, &source.path);
    let text = texts.text(first.file);
    let start = marks.iter().map(|mark| mark.start).min().unwrap_or_default();
    let end = marks.iter().map(|mark| mark.end).max().unwrap_or_default();
    let start = text[..start].rfind('\n').map_or(0, |at| at + 1);
    let end = text[end..].find('\n').map_or(text.len(), |at| end + at);
    let longest = text[start..end].lines().map(str::len).max().unwrap_or_default();
    if source.is_outside || longest > LONGEST {
        let position = texts.sources.position(first);
        return Origin::path(path).line(position.line).char_column(position.column).into();
    }
    let line = texts.sources.position(Span { start: 0, ..first }).line + text[..start].matches('\n').count();
    let annotations = marks.iter().map(|mark| {
        let annotation = mark.kind.span(mark.start - start..mark.end - start);
        if mark.label.is_empty() { annotation } else { annotation.label(mark.label.clone()) }
    });
    Snippet::source(&text[start..end]).line_start(line).path(path).annotations(annotations).into()
}

/// Bytes of a line; of longer ones only the place is told.
const LONGEST: usize = 4096;

fn mark(kind: AnnotationKind, span: Span, label: &str, texts: &Texts) -> Mark {
    let text = texts.text(span.file);
    let start = texts.place(span.file, span.start);
    let end = texts.place(span.file, span.end).max(start);
    // A mark over several lines says less than one at the beginning.
    let end = text[start..end].find('\n').map_or(end, |line| start + line);
    Mark { kind, start, end, label: say::visible(label) }
}

/// Characters of a message; what somebody wrote may be longer than what anybody reads.
const READ: usize = 1200;

/// Breaks words at the width that is left beside an indent.
fn wrap(text: &str, indent: usize) -> String {
    wrapped(&say::visible(&clipped(text, READ)), WIDTH.saturating_sub(indent).max(20)).join("\n")
}
