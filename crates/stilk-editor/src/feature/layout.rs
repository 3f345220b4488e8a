//! The plain layout, of a whole sheet or some lines of it.

use super::{FileKind, Subject};
use lsp_types::{Range, TextEdit};
use stilk_language::{plain_layout as layout, sheet};
use stilk_text::diagnostic::Diagnostics;
use stilk_text::source::Sources;

/// Edits that bring a sheet into the plain layout; none for one that cannot be read.
pub fn edits(subject: &Subject, within: Option<Range>) -> Vec<TextEdit> {
    if subject.kind() != FileKind::Sheet || !is_sound(subject.text) {
        return Vec::new();
    }
    let lines = subject.lines();
    let is_within = |edit: &std::ops::Range<usize>| {
        within.is_none_or(|range| {
            let (start, end) = (lines.offset(range.start), lines.offset(range.end));
            start <= edit.start && edit.end <= end
        })
    };
    let edits = layout::edits(subject.text).into_iter().filter(|(range, _)| is_within(range));
    edits.map(|(range, new_text)| TextEdit { range: lines.range(range), new_text }).collect()
}

fn is_sound(text: &str) -> bool {
    let (mut sources, mut diagnostics) = (Sources::default(), Diagnostics::default());
    let file = sources.add("sheet", text);
    sheet::parse(file, &sources, &mut diagnostics);
    !diagnostics.has_errors() && layout::means_the_same(text, &layout::formatted(text))
}
