//! Source maps (ECMA-426) of written stylesheets: each declaration leads to the sheet or token file it came from.

use serde_json::json;
use stilk_language::stylesheet::Written;
use stilk_text::source::{FileId, Sources};

/// The map of a stylesheet. `file` is its name; `to_root` leads from its folder to the project's.
pub fn render(written: &Written, sources: &Sources, file: &str, to_root: &str) -> String {
    let mut named: Vec<FileId> = Vec::new();
    let mut mappings = Mappings::default();
    let (mut line, mut column, mut at) = (0, 0, 0);
    for (offset, span) in written.origins() {
        let offset = offset as usize;
        let between = &written.text[at..offset];
        at = offset;
        // A minified stylesheet is one line: it is walked once.
        column = match between.rfind('\n') {
            Some(end) => utf16(&between[end + 1..]),
            None => column + utf16(between),
        };
        line += between.matches('\n').count() as i64;
        let source = named.iter().position(|known| *known == span.file).unwrap_or_else(|| {
            named.push(span.file);
            named.len() - 1
        });
        let (source_line, source_column) = sources.position_in_utf16(span);
        mappings.add(Segment {
            line,
            column,
            source: source as i64,
            source_line: source_line as i64,
            source_column: source_column as i64,
        });
    }
    let paths = named.iter().map(|id| format!("{to_root}{}", sources.file(*id).path));
    let map = json!({
        "version": 3,
        "file": file,
        "sources": paths.collect::<Vec<String>>(),
        // What is outside of the project is named and not shown.
        "sourcesContent": named.iter().map(|id| (!sources.file(*id).is_outside).then(|| sources.file(*id).text.as_str())).collect::<Vec<_>>(),
        "names": [],
        "mappings": mappings.text,
    });
    format!("{map}\n")
}

/// What is written at a place, and where that came from; lines and columns count from 0, columns are UTF-16 code units.
#[derive(Clone, Copy, PartialEq, Eq, Default)]
struct Segment {
    line: i64,
    column: i64,
    source: i64,
    source_line: i64,
    source_column: i64,
}

/// Segments as ECMA-426 writes them: each field as its distance to that of the one before.
#[derive(Default)]
struct Mappings {
    text: String,
    last: Option<Segment>,
}

impl Mappings {
    fn add(&mut self, segment: Segment) {
        if self.last == Some(segment) {
            return;
        }
        let mut before = self.last.unwrap_or_default();
        if before.line != segment.line {
            (before.line..segment.line).for_each(|_| self.text.push(';'));
            before.column = 0;
        } else if self.last.is_some() {
            self.text.push(',');
        }
        let mut field = Vec::new();
        for distance in [
            segment.column - before.column,
            segment.source - before.source,
            segment.source_line - before.source_line,
            segment.source_column - before.source_column,
        ] {
            // Writing to memory does not fail.
            let _ = vlq::encode(distance, &mut field);
        }
        self.text.extend(field.into_iter().map(char::from));
        self.last = Some(segment);
    }
}

fn utf16(text: &str) -> i64 {
    text.encode_utf16().count() as i64
}
